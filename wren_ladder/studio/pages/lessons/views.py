"""Lesson mode, the lesson's end, the week."""

from django.contrib import messages
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from wren_ladder.drumming.numbers import read_whole
from wren_ladder.studio.climb.models import Where
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.lessons.weeks import WEEK, plans_of, week_of_student
from wren_ladder.studio.pages.climb.entries import answer
from wren_ladder.studio.pages.lessons.forms import EndForm
from wren_ladder.studio.pages.lessons.lesson_page import (
    cards_of,
    choices_to_call,
    last_lesson,
    proposed,
    what_was_done,
)
from wren_ladder.studio.pages.plans.lookups import STEPS
from wren_ladder.studio.pages.printing import paper_of, pdf
from wren_ladder.studio.pages.requests import confirm_delete, owned_or_404, posted
from wren_ladder.studio.pages.sent_once import sent_once
from wren_ladder.studio.students.links import address_of, qr_svg
from wren_ladder.studio.students.models import Student


@require_safe
def lesson_mode(request, pk):
    student = owned_or_404(Student, request.user, pk)
    today = timezone.localdate()
    asked = request.GET.get("at", "")
    cards = cards_of(student, today, read_whole(asked))
    current = next((card.step.pk for card in cards if str(card.step.pk) == asked), None)
    context = {
        "student": student,
        "cards": cards,
        "current": current or (cards[0].step.pk if cards else None),
        "choices": choices_to_call(student),
        "last": last_lesson(student, today),
        "today": today,
    }
    return render(request, "lessons/lesson_mode.html", context)


@require_POST
def lesson_entries(request, pk):
    """Tries from lesson mode: JSON from its script, or one plain form."""
    student = owned_or_404(Student, request.user, pk)
    at = read_whole(request.POST.get("step"))
    back = f"{reverse('lesson-mode', args=[pk])}?at={'' if at is None else at}"
    return answer(request, STEPS.filter(plan__student=student), Where.LESSON, back)


@require_http_methods(["GET", "POST"])
@sent_once
def lesson_end(request, pk):
    """What was done today, and what is set: kept as the lesson."""
    student = owned_or_404(Student, request.user, pk)
    today = timezone.localdate()
    lesson = Lesson.objects.filter(student=student, day=today).first()
    lesson = lesson or Lesson(student=student, day=today)
    offered = proposed(student, today)
    named = [
        (n, f"{one['name']} of {one['piece']}, at {one['tempo']}") for n, one in offered.items()
    ]
    initial = {"steps": [n for n in lesson.set_steps if n in offered] or list(offered)[:6]}
    form = EndForm(posted(request), instance=lesson, initial=initial, choices=named)
    if form.is_valid():
        lesson = form.save(commit=False)
        lesson.did = what_was_done(student, today)
        lesson.was_set = [offered[n] for n in form.cleaned_data["steps"]]
        lesson.save()
        messages.success(request, "The lesson is kept.")
        return redirect(lesson)
    context = {
        "student": student,
        "form": form,
        "did": what_was_done(student, today),
        "today": today,
    }
    return render(
        request, "lessons/lesson_end.html", context, status=422 if form.is_bound else 200
    )


@require_safe
def lesson_page(request, pk):
    lesson = _lesson_or_404(request.user, pk)
    student = lesson.student
    plans = plans_of(student)
    chosen = set(lesson.set_steps)
    sheets = [
        (plan, [step.pk for step in plan.steps.all() if step.pk in chosen]) for plan in plans
    ]
    today = timezone.localdate()
    context = {
        "lesson": lesson,
        "student": student,
        "sheets": [(plan, steps) for plan, steps in sheets if steps],
        "today": today,
    }
    if today - lesson.day < WEEK:  # an older one's week is over, and is not kept
        context["week"] = week_of_student(student, plans, lesson.day)
    return render(request, "lessons/lesson.html", context)


@require_http_methods(["GET", "POST"])
def lesson_delete(request, pk):
    lesson = _lesson_or_404(request.user, pk)
    return confirm_delete(
        request,
        lesson,
        what=f"the record of {lesson}",
        lost="its note and what was set; the tries stay",
        back=lesson.get_absolute_url(),
        then=lesson.student.get_absolute_url(),
        done="The lesson's record is deleted; the tries stay.",
    )


def _lesson_or_404(user, pk: int) -> Lesson:
    lessons = Lesson.objects.select_related("student")
    return get_object_or_404(lessons, pk=pk, student__owner=user)


@require_safe
def week_page(request, pk):
    student = owned_or_404(Student, request.user, pk)
    return render(request, "lessons/week.html", _week_context(student))


@require_safe
def week_sheet(request, pk):
    student = owned_or_404(Student, request.user, pk)
    context = _week_context(student) | paper_of(request)
    if student.link_key:
        context["qr"] = qr_svg(address_of(request, student))
    return pdf("lessons/week_sheet.html", context, f"{student} week")


def _week_context(student: Student) -> dict:
    today = timezone.localdate()
    plans = plans_of(student)
    return {
        "student": student,
        "plans": plans,
        "week": week_of_student(student, plans, today),
        "today": today,
    }
