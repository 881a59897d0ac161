"""What the Desk shows: today's lessons with what to hear, everybody by risk, exams ahead."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from django.contrib.auth.models import AbstractBaseUser

from wren_ladder.drumming.forecast import RISK, Outlook, Status
from wren_ladder.drumming.practice.lesson import decision
from wren_ladder.drumming.takes.words import habit_sentence
from wren_ladder.studio.climb.forecasts import outlook_of
from wren_ladder.studio.climb.habits import ToldTake, habits_in, takes_of
from wren_ladder.studio.climb.models import Attempt, HomeMinutes
from wren_ladder.studio.lessons.agenda import agenda_of
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.lessons.timetable import Occasion
from wren_ladder.studio.lessons.weeks import by_number, plans_of_each
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.students.taught import students_of

EXAMS_AHEAD = timedelta(days=120)
LOOK_BACK = timedelta(days=56)  # for the last lesson, and for what was done since
GIVEN = Lesson.State.GIVEN
SINCE = timedelta(days=14)  # what was done is counted from the last lesson, or so long


@dataclass(frozen=True, slots=True)
class PlanLine:
    """One plan as a line of the Desk."""

    plan: Plan
    seen: Outlook


@dataclass(frozen=True, slots=True)
class HeardFirst:
    """The step that the lesson begins with, and why."""

    plan: Plan
    step: Step
    why: str
    takes: str = ""  # what the last takes found


@dataclass(frozen=True, slots=True)
class LessonToday:
    """One of today's lessons: what to hear first, what was set, was done, is to decide."""

    occasion: Occasion
    climbs: tuple[PlanLine, ...]
    hear: HeardFirst | None
    lesson: Lesson | None  # the last one that was given; today's, once that is over
    days: int  # of practice since then
    tries: int
    minutes: int
    decide: str

    @property
    def student(self) -> Student:
        return self.occasion.student

    @property
    def is_over(self) -> bool:
        """Today's lesson is kept already."""
        return self.occasion.is_given


def climbs_of(teacher: AbstractBaseUser, today: date) -> list[PlanLine]:
    """Every plan that is climbed, the student at most risk first, in one query."""
    plans = (
        Plan.objects.filter(
            student__in=students_of(teacher),
            student__status=Student.Status.HERE,
            status=Plan.Status.CLIMBING,
            piece__kind=Piece.Kind.PIECE,
        )
        .select_related("owner", "student", "piece", "standing__held_by__standing")
        .defer("student__notes", "piece__notes", "piece__import_report")
    )
    climbs = [PlanLine(plan, outlook_of(plan, today)) for plan in plans]
    worst: dict[int, tuple[int, int]] = {}
    for climb in climbs:
        pk = climb.plan.student_id
        worst[pk] = min(worst.get(pk, climb.seen.risk), climb.seen.risk)
    return sorted(
        climbs,
        key=lambda one: (worst[one.plan.student_id], one.plan.student.name, one.seen.risk),
    )


def lessons_today(
    due: Sequence[Occasion], climbs: Sequence[PlanLine], today: date
) -> list[LessonToday]:
    """Today's lessons in order; the same number of queries for any number of them."""
    students = [one.student for one in due]
    if not due:
        return []
    lessons: dict[int, list[Lesson]] = {}
    given = Lesson.objects.filter(
        student__in=students, day__gt=today - LOOK_BACK, day__lte=today, state=GIVEN
    )
    for lesson in given:
        lessons.setdefault(lesson.student_id, []).append(lesson)
    logged = _logged(students, today)
    minutes = _minutes(students, today)
    numbers = {student.pk for student in students}
    stuck = _stuck([one for one in climbs if one.plan.student_id in numbers])
    plans = plans_of_each(students)
    takes = takes_of(students, today)
    found = []
    for occasion in due:
        student = occasion.student
        kept = lessons.get(student.pk, [])
        last = next((one for one in kept if one.day < today), None)
        since = last.day if last else today - SINCE
        days = [day for day in logged.get(student.pk, []) if since < day <= today]
        own = tuple(climb for climb in climbs if climb.plan.student_id == student.pk)
        found.append(
            LessonToday(
                occasion=occasion,
                climbs=own,
                hear=_heard_first(
                    student, plans[student.pk], last, today, takes.get(student.pk, [])
                ),
                lesson=kept[0] if kept and kept[0].day == today else last,
                days=len(set(days)),
                tries=len(days),
                minutes=sum(n for day, n in minutes.get(student.pk, []) if since < day),
                decide=_decide(own, stuck, today),
            )
        )
    return found


def _heard_first(
    student: Student,
    plans: Sequence[Plan],
    last: Lesson | None,
    today: date,
    takes: Sequence[ToldTake],
) -> HeardFirst | None:
    found = agenda_of(student, plans, last, today)
    if not found:
        return None
    return HeardFirst(*by_number(plans)[found[0].key], found[0].why, _taken(takes))


def _taken(takes: Sequence[ToldTake]) -> str:
    """A habit over days before what a single take found."""
    for habit in habits_in(takes):
        return habit_sentence(habit)
    if not takes or not takes[0].told.said:
        return ""
    last = takes[0]
    return f"{last.told.said} ({last.take.step.name}, {last.take.day:%-d %B})"


def _logged(students: Sequence[Student], today: date) -> dict[int, list[date]]:
    tries = Attempt.objects.filter(
        step__plan__student__in=students, day__gt=today - LOOK_BACK, day__lte=today
    )
    found: dict[int, list[date]] = {}
    for student, day in tries.values_list("step__plan__student_id", "day"):
        found.setdefault(student, []).append(day)
    return found


def _minutes(students: Sequence[Student], today: date) -> dict[int, list[tuple[date, int]]]:
    found: dict[int, list[tuple[date, int]]] = {}
    rows = HomeMinutes.objects.filter(student__in=students, day__gt=today - LOOK_BACK)
    for student, day, minutes in rows.values_list("student_id", "day", "minutes"):
        found.setdefault(student, []).append((day, minutes))
    return found


def _stuck(climbs: Sequence[PlanLine]) -> dict[int, str]:
    """What is stuck, by plan: the step that holds it back, as its standing says."""
    standings = {climb.plan.pk: climb.plan.standing for climb in climbs}
    return {
        plan: f"{standing.held_by.name}, {standing.stuck}"
        for plan, standing in standings.items()
        if standing.stuck and standing.held_by
    }


def _decide(climbs: Sequence[PlanLine], stuck: dict[int, str], today: date) -> str:
    """The first decision of the pieces, the one at most risk first."""
    for climb in climbs:
        plan = climb.plan
        held_by = plan.standing.held_by
        said = decision(
            climb.seen,
            held_by.name if held_by and held_by.standing.falling else "",
            stuck.get(plan.pk, ""),
            (today - plan.standing.last_day).days if plan.standing.last_day else None,
        )
        if said:
            return f"{plan.piece.title}: {said}" if len(climbs) > 1 else said
    return ""


def exams_ahead(climbs: Sequence[PlanLine], today: date) -> list[dict]:
    """The exams of the next months in order, each with its pieces."""
    ahead: dict[int, dict] = {}
    for climb in climbs:
        exam = climb.plan.student.exam_date
        if climb.plan.for_exam and exam and today <= exam <= today + EXAMS_AHEAD:
            student = climb.plan.student
            entry = ahead.setdefault(
                student.pk,
                {"student": student, "days": (exam - today).days, "climbs": []},
            )
            entry["climbs"].append(climb)
    return sorted(ahead.values(), key=lambda one: one["days"])


def counted(climbs: Sequence[PlanLine]) -> list[tuple[Status, int]]:
    """How many climbs are in which state, the most pressing first."""
    counts = dict.fromkeys(RISK, 0)
    for climb in climbs:
        counts[climb.seen.status] += 1
    return [(status, count) for status, count in counts.items() if count]
