"""Lesson mode, the lesson's end, lessons that were kept, the week."""

from datetime import date, datetime, timedelta

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from wren_ladder.drumming.building.layers import LayerCode
from wren_ladder.drumming.chart.chart import MOST_BARS
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.studio.changes.lessons import keep_lesson, plan_next
from wren_ladder.studio.changes.plans import bar_called_up, layer_called_up
from wren_ladder.studio.climb.models import Where
from wren_ladder.studio.lessons.models import OFF_CHOICES, Lesson
from wren_ladder.studio.lessons.timetable import next_lesson, next_today, occasions
from wren_ladder.studio.lessons.weeks import (
    last_set,
    plans_of,
    week_begins,
    week_of_lesson,
)
from wren_ladder.studio.pages.climb.entries import answer
from wren_ladder.studio.pages.climb.says import says_context
from wren_ladder.studio.pages.deleting import confirm_delete
from wren_ladder.studio.pages.headers import records
from wren_ladder.studio.pages.lessons.end_page import (
    chosen_lines,
    lines_without_a_day,
    minutes_set,
    offered_lines,
    rows_in_order,
    set_lines_form,
)
from wren_ladder.studio.pages.lessons.forms import AgainForm, EndForm
from wren_ladder.studio.pages.lessons.lesson_page import (
    cards_together,
    choices_to_call,
    done_with_steps,
    last_lesson,
    limb_pairs_of,
    prefix_of,
    together_today,
    tried_today,
    tries_of,
    walls_of,
    what_was_done,
)
from wren_ladder.studio.pages.lessons.week_page import sheet_context, week_context
from wren_ladder.studio.pages.narrow import is_narrow
from wren_ladder.studio.pages.plans.lookups import STEPS
from wren_ladder.studio.pages.plans.step_music import step_music
from wren_ladder.studio.pages.printing import paper_of, pdf
from wren_ladder.studio.pages.requests import posted, taught_or_404
from wren_ladder.studio.pages.sent_once import sent_once
from wren_ladder.studio.plans.sayings import recent_sayings, sayings_for
from wren_ladder.studio.plans.versions import music_for
from wren_ladder.studio.students.links import address_of, qr_svg
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.students.taught import students_of


@require_safe
@records
def lesson_mode(request, pk):
    student = taught_or_404(request.user, pk)
    today = timezone.localdate()
    asked = request.GET.get("at", "")
    students = together_today(student, request.user, today)
    each = {one.pk: plans_of(one) for one in students}
    plans = each[student.pk]
    cards = cards_together(students, each, today, read_whole(asked), is_narrow(request))
    current = next((card.step.pk for card in cards if str(card.step.pk) == asked), None)
    last = last_lesson(student, today)
    context = {
        "student": student,
        "students": students,
        "cards": cards,
        "current": current or (cards[0].step.pk if cards else None),
        "choices": choices_to_call(plans),
        "walls": walls_of(plans),
        "last": last,
        "set_lines": week_of_lesson(last, week_begins(student, last, today)).lines
        if last and last.was_set
        else (),
        "today": today,
        **_clock(student, today),
    }
    return render(request, "lessons/lesson_mode.html", context)


@require_safe
def lesson_music(request, pk, step):
    """The staves and the sound of one step, for a card that the page has without them."""
    student = taught_or_404(request.user, pk)
    students = together_today(student, request.user, timezone.localdate())
    asked = get_object_or_404(STEPS.filter(plan__student__in=students), pk=step)
    if not asked.music_is_there:
        raise Http404
    plan = asked.plan
    music = step_music(
        plan, asked, prefix_of(asked), music_for(plan), narrow=is_narrow(request)
    )
    return render(request, "lessons/_music.html", {"step": asked, "music": music})


def _clock(student: Student, today: date) -> dict:
    """When today's lesson begins and ends, where it has a time."""
    for occasion in occasions([student], today, today):
        if occasion.time:
            starts = timezone.make_aware(datetime.combine(today, occasion.time))
            return {
                "starts": occasion.time,
                "ends": starts + timedelta(minutes=occasion.minutes),
            }
    return {}


@require_POST
def lesson_bar(request, pk):
    """Any bar of any piece, in the plan or not."""
    student = taught_or_404(request.user, pk)
    plan = student.plans.filter(pk=read_whole(request.POST.get("plan")) or 0).first()
    place = read_whole(request.POST.get("bar"), 0, MOST_BARS)
    row = plan.piece.bars.filter(position=place).first() if plan and place is not None else None
    if row is None:
        messages.error(request, "This bar is not in the piece any more.")
        return redirect("lesson-mode", pk)
    step = bar_called_up(plan, row)
    return redirect(f"{reverse('lesson-mode', args=[pk])}?at={step.pk}")


@require_POST
def lesson_limbs(request, pk):
    """Two limbs of a bar by themselves."""
    student = taught_or_404(request.user, pk)
    asked = read_whole(request.POST.get("step")) or 0
    step = STEPS.filter(plan__student=student, pk=asked).first()
    code = request.POST.get("limbs")
    bars = step.plan.piece.chart().bars if step else ()
    if step is None or code not in limb_pairs_of(step, bars):
        messages.error(request, "This bar has no such pair of limbs.")
        return redirect("lesson-mode", pk)
    layer = layer_called_up(step, LayerCode(code))
    return redirect(f"{reverse('lesson-mode', args=[pk])}?at={layer.pk}")


@require_POST
def lesson_entries(request, pk):
    """Tries from lesson mode: JSON from its script, or one plain form."""
    student = taught_or_404(request.user, pk)
    at = read_whole(request.POST.get("step"))
    back = f"{reverse('lesson-mode', args=[pk])}?at={'' if at is None else at}"
    students = together_today(student, request.user, timezone.localdate())
    return answer(request, STEPS.filter(plan__student__in=students), Where.LESSON, back)


@require_http_methods(["GET", "POST"])
@sent_once
def lesson_end(request, pk):
    """The end of today's lesson."""
    student = taught_or_404(request.user, pk)
    today = timezone.localdate()
    lesson = Lesson.objects.filter(student=student, day=today).first()
    return _end(request, lesson or Lesson(student=student, day=today))


@require_http_methods(["GET", "POST"])
@sent_once
def lesson_set(request, pk):
    """What was set in a lesson that is kept already, corrected."""
    return _end(request, lesson_or_404(request.user, pk))


def _end(request: HttpRequest, lesson: Lesson) -> HttpResponse:
    today, student = timezone.localdate(), lesson.student
    offered = offered_lines(lesson, today)
    form = EndForm(posted(request), instance=lesson)
    lines = set_lines_form(offered, posted(request))
    coming, again = None, None
    if lesson.day == today:
        coming = next_lesson(student, today)
        usual = {"day": coming.day, "time": coming.time} if coming else {}
        again = AgainForm(posted(request), initial=usual, after=today, prefix="again")
    asked = [one for one in (form, lines, again) if one is not None]
    did = what_was_done(student, lesson.day)
    valid = [one.is_valid() for one in asked]  # each tells what is wrong with it
    if request.method == "POST" and all(valid):
        said = [line for _, line in did]
        lesson = keep_lesson(form.save(commit=False), chosen_lines(lines, offered), said)
        if again and again.has_changed() and again.cleaned_data["day"]:
            plan_next(student, again.cleaned_data, coming.day if coming else None)
        messages.success(request, "The lesson is kept.")
        over = lines_without_a_day(lesson)
        if over:
            said = f"The week has no minutes left for {', '.join(over)}."
            messages.warning(request, f"{said} Set fewer lines, or shorter ones.")
        return redirect(lesson)
    sayings, recent = sayings_for(plans_of(student)), recent_sayings(student.owner_id)
    context = {
        "student": student,
        "lesson": lesson,
        "form": form,
        "said": [form["message"], form["note"]],
        "rare": [form["practised"], form["for_parents"]],
        "rare_said": lesson.practised or lesson.for_parents,
        "lines": lines,
        "rows": rows_in_order(lines),
        "minutes": minutes_set(lines),
        "again": again,
        "coming": coming,
        "did": [(line, says_context(step, sayings, recent)) for step, line in did],
        "tries": sum(tried_today(student, lesson.day).values()),
        "back": lesson.get_absolute_url()
        if lesson.pk and lesson.day != today
        else reverse("lesson-mode", args=[student.pk]),
    }
    status = 422 if form.is_bound else 200
    return render(request, "lessons/lesson_end.html", context, status=status)


@require_safe
def lesson_page(request, pk):
    lesson = lesson_or_404(request.user, pk)
    student, today = lesson.student, timezone.localdate()
    holds = last_set(student, today) == lesson
    first = week_begins(student, lesson, today) if holds else lesson.day
    context = {
        "lesson": lesson,
        "student": student,
        "today": today,
        "holds": holds,
        "done": done_with_steps(lesson),
        "tries": tries_of(student, lesson.day).select_related("step").order_by("pk"),
        "next": next_today(students_of(request.user), lesson, today),
        "off_choices": OFF_CHOICES,
        "set": week_of_lesson(lesson, first) if lesson.was_set else None,
        "company": Lesson.objects.filter(
            company=lesson.company, student__in=students_of(request.user)
        )
        .exclude(pk=lesson.pk)
        .select_related("student")
        if lesson.company
        else (),
    }
    return render(request, "lessons/lesson.html", context)


@require_http_methods(["GET", "POST"])
def lesson_delete(request, pk):
    lesson = lesson_or_404(request.user, pk)
    return confirm_delete(
        request,
        lesson,
        what=f"the record of {lesson}",
        lost="its notes and what was set; the tries stay",
        back=lesson.get_absolute_url(),
        then=lesson.student.get_absolute_url(),
        done="The lesson's record is deleted; the tries stay.",
        owner=lesson.student.owner,
    )


def lesson_or_404(user, pk: int) -> Lesson:
    lessons = Lesson.objects.select_related("student")
    return get_object_or_404(lessons, pk=pk, student__in=students_of(user))


@require_safe
def week_page(request, pk):
    student = taught_or_404(request.user, pk)
    return render(request, "lessons/week.html", week_context(student, timezone.localdate()))


@require_safe
def week_sheet(request, pk):
    """The one sheet of a student: the week, and the music of everything that is set."""
    student = taught_or_404(request.user, pk)
    context = sheet_context(student, timezone.localdate()) | paper_of(request)
    if student.link_key:
        context["qr"] = qr_svg(address_of(request, student))
    return pdf(request, "lessons/week_sheet.html", context, f"{student} week")
