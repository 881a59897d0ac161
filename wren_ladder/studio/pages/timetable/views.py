"""The timetable: lessons planned, moved, called off and made up; terms, holidays, the sums of
a term."""

from datetime import date, timedelta
from itertools import chain, groupby

from django.contrib import messages
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from wren_ladder.studio.changes.lessons import bring_back, call_off, save_lesson
from wren_ladder.studio.exchange.tables import MARK
from wren_ladder.studio.lessons.models import OFF, OFF_CHOICES, Lesson, Period
from wren_ladder.studio.lessons.timetable import holidays_of, occasions
from wren_ladder.studio.pages.deleting import confirm_delete
from wren_ladder.studio.pages.lessons.forms import LessonForm, PeriodForm
from wren_ladder.studio.pages.lessons.views import lesson_or_404
from wren_ladder.studio.pages.printing import paper_of, pdf
from wren_ladder.studio.pages.requests import came_from, posted, taught_or_404
from wren_ladder.studio.pages.sent_once import sent_once
from wren_ladder.studio.pages.timetable.term_page import term_context, term_lines
from wren_ladder.studio.pages.undo import take_back, tell_done, way_back
from wren_ladder.studio.students.taught import students_of

WEEK = timedelta(days=7)


def day_asked(text: str | None) -> date | None:
    """A day of an address, within a century of now; None for anything else."""
    try:
        day = date.fromisoformat(text or "")
    except ValueError:
        return None
    return day if abs(day.year - timezone.localdate().year) < 100 else None


@require_safe
def timetable(request):
    """A week of lessons of all students, what became of each, and what is still to be said."""
    today = timezone.localdate()
    asked = day_asked(request.GET.get("week")) or today
    first = asked - timedelta(days=asked.weekday())
    students = list(students_of(request.user))
    holidays = holidays_of(request.user.pk)
    found = occasions(students, first, first + timedelta(days=6))
    days = {day: list(group) for day, group in groupby(found, key=lambda one: one.day)}
    context = {
        "days": [
            {
                "day": day,
                "holidays": [one.name for one in holidays if one.holds(day)],
                "lessons": days.get(day, []),
            }
            for day in (first + timedelta(days=n) for n in range(7))
        ],
        "first": first,
        "before": first - WEEK,
        "after": first + WEEK,
        "today": today,
        "off_choices": OFF_CHOICES,
        "students": [one for one in students if one.is_here],
    }
    return render(request, "timetable/timetable.html", context)


@require_http_methods(["GET", "POST"])
@sent_once
def lesson_new(request, pk):
    """A lesson besides the weekly ones, or in place of one: moved to, or made up on."""
    student = taught_or_404(request.user, pk)
    today = timezone.localdate()
    lesson = Lesson(
        student=student,
        state=Lesson.State.PLANNED,
        instead_of=day_asked(request.GET.get("instead")),
        day=day_asked(request.GET.get("day")),
    )
    form = LessonForm(posted(request), instance=lesson, today=today, teacher=request.user)
    return _lesson_form(request, form)


@require_http_methods(["GET", "POST"])
def lesson_change(request, pk):
    lesson = lesson_or_404(request.user, pk)
    together = []
    if lesson.company:
        mine = Lesson.objects.filter(company=lesson.company).exclude(pk=lesson.pk)
        together = list(mine.values_list("student", flat=True))
    form = LessonForm(
        posted(request),
        instance=lesson,
        today=timezone.localdate(),
        teacher=request.user,
        initial={"together": together},
    )
    return _lesson_form(request, form)


def _lesson_form(request: HttpRequest, form: LessonForm) -> HttpResponse:
    if form.is_valid():
        lesson = save_lesson(form.save(commit=False), form.cleaned_data.get("together"))
        messages.success(request, f"{lesson.student}, {lesson.day:%-d %B}: {lesson.said}.")
        return redirect(came_from(request) or lesson)
    lesson = form.instance
    said = f"A lesson for {lesson.student}"
    if lesson.pk:
        said = f"{lesson.student}'s lesson on {Lesson.objects.get(pk=lesson.pk).day:%-d %B}"
    elif lesson.instead_of:
        said = f"Move {lesson.student}'s lesson of {lesson.instead_of:%A, %-d %B}"
    context = {"form": form, "lesson": lesson, "student": lesson.student, "said": said}
    status = 422 if form.is_bound else 200
    return render(request, "timetable/lesson_form.html", context, status=status)


@require_POST
def lesson_off(request, pk):
    """Ill, cancelled or missed, by one press."""
    student = taught_or_404(request.user, pk)
    day = day_asked(request.POST.get("day"))
    state, _, by = request.POST.get("state", "").partition(" ")
    by = by or request.POST.get("by", "")
    if day is None or state not in OFF or by not in ("", *Lesson.By):
        messages.error(request, "Not kept: a day, and what became of the lesson, are wanted.")
        return redirect("timetable")
    lesson = call_off(student, day, Lesson.State(state), by)
    said = f"{student}, {day:%-d %B}: {lesson.said}. It can be made up here."
    tell_done(request, said, takes_place, lesson.pk, then=student.get_absolute_url())
    return redirect(lesson)


@require_POST
def lesson_back(request, pk):
    """A lesson that was called off takes place after all."""
    student = lesson_or_404(request.user, pk).student
    take_back(request, takes_place, pk)
    return redirect(Lesson.objects.filter(pk=pk).first() or student)


@way_back
def takes_place(request, pk: int) -> str:
    lesson = lesson_or_404(request.user, pk)
    bring_back(lesson)
    return f"{lesson.student}, {lesson.day:%-d %B}: takes place after all."


@require_http_methods(["GET", "POST"])
@sent_once
def periods(request):
    """Terms and holidays."""
    form = PeriodForm(posted(request), instance=Period(owner=request.user))
    if form.is_valid():
        period = form.save()
        messages.success(request, f"{period} is kept.")
        return redirect("periods")
    context = {"form": form, "periods": Period.objects.filter(owner=request.user)}
    status = 422 if form.is_bound else 200
    return render(request, "timetable/periods.html", context, status=status)


@require_http_methods(["GET", "POST"])
def period_delete(request, pk):
    period = get_object_or_404(Period, pk=pk, owner=request.user)
    return confirm_delete(
        request,
        period,
        what=period.name,
        lost="nothing else: lessons stay as they are kept",
        back="/lessons/periods/",
        then="periods",
        done=f"{period.name} is deleted.",
    )


@require_safe
def term(request):
    """Lessons, minutes, rungs and pieces of a term, by student and in all."""
    return render(request, "timetable/term.html", _term(request))


@require_safe
def term_csv(request):
    lines = term_lines(_term(request)["rows"])
    answer = StreamingHttpResponse(chain([MARK], lines), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="term.csv"'
    return answer


@require_safe
def term_sheet(request):
    return pdf(request, "timetable/term_sheet.html", _term(request) | paper_of(request), "term")


def _term(request: HttpRequest) -> dict:
    first, last = (day_asked(request.GET.get(name)) for name in ("first", "last"))
    return term_context(request.user, timezone.localdate(), first, last)
