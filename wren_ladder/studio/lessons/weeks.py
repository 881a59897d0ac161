"""A student's week: what was set in the last lesson; before there is one, what the house
proposes of their plans."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, timedelta

from django.db.models import Case, Prefetch, When

from wren_ladder.drumming.practice.as_set import SetLine, Turn, days_of, share_out_lines
from wren_ladder.drumming.practice.week import A_THING, Day, PieceWork, practice_week
from wren_ladder.studio.climb.models import Attempt
from wren_ladder.studio.climb.open_steps import open_steps
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.students.models import Student

WEEK = timedelta(days=7)
LOOK_BACK = 30  # lessons in which nothing was set, before the house proposes the week again
RAISED = WEEK  # how long tempos stay after the minutes were raised


PIECES_FIRST = Case(When(piece__kind=Piece.Kind.PIECE, then=0), default=1)
AS_LISTED = (PIECES_FIRST, "piece__title", "pk")
PLANS_ALONE = Plan.objects.select_related(
    "piece", "student", "standing__held_by", "opened"
).order_by(*AS_LISTED)
PLANS = PLANS_ALONE.prefetch_related(
    Prefetch("steps", Step.objects.placed().select_related("standing"))
)


def plans_of(student: Student) -> list[Plan]:
    """The plans that the student climbs, with their steps."""
    return list(PLANS.filter(student=student, status=Plan.Status.CLIMBING))


def plans_of_each(students: Iterable[Student]) -> dict[int, list[Plan]]:
    """The plans of many students without their steps, in as few queries as those of one."""
    found: dict[int, list[Plan]] = {student.pk: [] for student in students}
    for plan in PLANS_ALONE.filter(student__in=found, status=Plan.Status.CLIMBING):
        found[plan.student_id].append(plan)
    return found


def by_number(plans: Iterable[Plan]) -> dict[int, tuple[Plan, Step]]:
    """Every step of the plans, with its plan."""
    return {step.pk: (plan, step) for plan in plans for step in plan.steps.all()}


def work_of(plan: Plan, today: date) -> PieceWork:
    raised = plan.student.raised
    return PieceWork(
        plan.piece.heading,
        open_steps(plan, today),
        plan.standing.speed,
        raised is not None and today < raised + RAISED,
        on_pad=plan.piece.kind == Piece.Kind.HANDS,
    )


@dataclass(frozen=True, slots=True)
class WeekLine:
    """A line of the week, and on which days of it its step was played."""

    line: SetLine
    played: tuple[date, ...] = ()


@dataclass(frozen=True, slots=True)
class StudentWeek:
    """Seven days. ``lesson`` is the one in which they were set, None where the house proposes
    them; ``lines`` are what is set, in the teacher's order."""

    days: tuple[Day, ...]
    lines: tuple[WeekLine, ...]
    lesson: Lesson | None = None

    def on(self, day: date) -> Day | None:
        return next((one for one in self.days if one.day == day), None)


def week_begins(student: Student, lesson: Lesson | None, today: date) -> date:
    """A student's week runs from the last lesson, and begins again every seven days until the
    next; without one from the day they usually have it, else from Monday."""
    if lesson:
        return today - (today - lesson.day) % WEEK
    return today - timedelta(days=(today.weekday() - (student.lesson_day or 0)) % 7)


SINCE = timedelta(days=14)  # where there was no lesson yet


def counted_from(last: Lesson | None, today: date) -> date:
    """The day from which on what was done at home is counted: that of the last lesson."""
    return last.day if last else today - SINCE


def last_set(student: Student, today: date) -> Lesson | None:
    """The lesson whose lines hold today."""
    lessons = student.lessons.filter(day__lte=today, state=Lesson.State.GIVEN)
    return next((lesson for lesson in lessons[:LOOK_BACK] if lesson.was_set), None)


def last_set_of_each(students: Iterable[Student], today: date) -> dict[int, Lesson]:
    """By student; in two queries for any number of them."""
    given = Lesson.objects.filter(
        student__in=students,
        day__lte=today,
        day__gt=today - LOOK_BACK * WEEK,
        state=Lesson.State.GIVEN,
    ).exclude(was_set=[])
    last = dict(given.order_by("day").values_list("student", "pk"))
    found = Lesson.objects.filter(pk__in=last.values()).select_related("student").defer("did")
    return {lesson.student_id: lesson for lesson in found}


def week_of_student(student: Student, plans: Iterable[Plan], today: date) -> StudentWeek:
    """The week that today falls in: as it was set, whatever was practised since."""
    lesson = last_set(student, today)
    first = week_begins(student, lesson, today)
    if lesson:
        return week_of_lesson(lesson, first)
    days = practice_days(student, plans, today, None)
    return StudentWeek(days, _played(lines_in(days), first))


def practice_days(
    student: Student, plans: Iterable[Plan], today: date, lesson: Lesson | None
) -> tuple[Day, ...]:
    """Only the days of that week, where its ``lesson`` is known: nothing is asked of the
    database."""
    first = week_begins(student, lesson, today)
    if lesson:
        return days_set(lesson, first)
    return proposed_week(student, plans, first, today)


def week_of_lesson(lesson: Lesson, first: date) -> StudentWeek:
    """What was set in a lesson, as the week from a day on."""
    return StudentWeek(days_set(lesson, first), _played(lines_of(lesson), first), lesson)


def days_set(lesson: Lesson, first: date) -> tuple[Day, ...]:
    turns = [[Turn(*turn) for turn in day] for day in lesson.week or share_out(lesson)]
    return days_of(turns, lines_of(lesson), first)


def lines_of(lesson: Lesson) -> tuple[SetLine, ...]:
    return tuple(
        SetLine(
            one["name"],
            one["piece"],
            one["step"] or None,
            one["tempo"],
            one.get("minutes", A_THING),
            one.get("on_pad", False),
        )
        for one in lesson.was_set
    )


def share_out(lesson: Lesson) -> list[list[list]]:
    """What was set, as the days that are kept with the lesson."""
    student = lesson.student
    week = share_out_lines(
        lines_of(lesson), student.home_days, student.home_minutes, student.ears.budget
    )
    return [[[turn.line, turn.minutes, turn.on_pad] for turn in day] for day in week]


def lines_in(week: Iterable[Day]) -> tuple[SetLine, ...]:
    """The steps of a proposed week, each once, as they come."""
    found: dict[int, SetLine] = {}
    for day in week:
        for item in day.items:
            if item.key is not None:
                line = SetLine(
                    item.what, item.title, item.key, item.tempo, item.minutes, item.on_pad
                )
                found.setdefault(item.key, line)
    return tuple(found.values())


def _played(lines: Iterable[SetLine], first: date) -> tuple[WeekLine, ...]:
    """With the days since ``first`` on which each was played; in one query."""
    lines = tuple(lines)
    played: dict[int, set[date]] = {line.key: set() for line in lines if line.key}
    tries = Attempt.objects.filter(step__in=played, day__gte=first, day__lt=first + WEEK)
    for step, day in tries.values_list("step", "day"):
        played[step].add(day)
    return tuple(WeekLine(line, tuple(sorted(played.get(line.key, ())))) for line in lines)


def proposed_week(
    student: Student, plans: Iterable[Plan], first: date, today: date
) -> tuple[Day, ...]:
    """Seven days from ``first``, all pieces together, within the hearing budget, by where the
    steps stand ``today``."""
    works = [work_of(plan, today) for plan in plans]
    days, minutes = student.home_days, student.home_minutes
    return practice_week(works, days, minutes, first, student.ears.budget)
