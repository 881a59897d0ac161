"""The Desk: today's lessons, exams, what waits for an answer."""

from datetime import timedelta

from django.contrib import messages
from django.db.models import QuerySet
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from wren_ladder.studio.changes.trial import end_trial, try_out
from wren_ladder.studio.climb.climbs import climbed_by, climbs_of
from wren_ladder.studio.climb.models import HeldChange
from wren_ladder.studio.lessons.models import OFF_CHOICES
from wren_ladder.studio.lessons.timetable import occasions
from wren_ladder.studio.pages.desk.page import (
    exams_ahead,
    has_exam_ahead,
    lessons_today,
    unanswered,
)
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.privacy.expiry import expire_once_a_day
from wren_ladder.studio.students.taught import students_of

WEEK = timedelta(days=7)  # in which a lesson without a word is asked about


@require_safe
def desk(request):
    """As many queries for two hundred students as for one: plans keep where they stand."""
    today = timezone.localdate()
    expire_once_a_day(timezone.now())
    students = list(students_of(request.user).defer("notes"))
    week = occasions(students, today - WEEK, today)
    due = [one for one in week if one.day == today]
    past = [one for one in week if one.day < today]
    shown = {one.student.pk for one in due}
    shown |= {one.pk for one in students if has_exam_ahead(one, today)}
    climbs = climbs_of(request.user, today, shown)
    with_plan = set(climbed_by(request.user).values_list("student", flat=True))
    lessons = lessons_today(due, climbs, today)
    context = {
        "today": today,
        "first": next((one for one in lessons if one.is_ahead), None),
        "lessons": lessons,
        "off_choices": OFF_CHOICES,
        "exams": exams_ahead(students, climbs, today),
        "to_answer": unanswered(students, past, with_plan, today),
        "has_students": any(student.is_here for student in students),
        "rungs_changed": _rungs_changed(request.user),
        "trying": any(student.trial for student in students),
        "has_pieces": Piece.objects.filter(owner=request.user).exists(),
    }
    return render(request, "desk/desk.html", context)


def _rungs_changed(teacher) -> QuerySet[HeldChange]:
    """What a new version's rules made of the logs, until the teacher has seen it."""
    mine = HeldChange.objects.filter(step__plan__student__in=students_of(teacher))
    return mine.select_related("step__plan__student", "step__plan__piece")


@require_POST
def rungs_seen(request):
    _rungs_changed(request.user).delete()
    return redirect("desk")


@require_POST
def trial(request):
    """One small piece and one student to try, and away with both, by one press each."""
    if request.POST.get("do") == "end":
        end_trial(request.user)
        messages.success(request, "The piece and the student to try are gone.")
        return redirect("desk")
    student = try_out(request.user)
    messages.success(request, f"{student} has a piece to climb. Begin a lesson, or look round.")
    return redirect(student)
