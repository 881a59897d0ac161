"""What the Desk shows: today's lessons with what to hear, exams ahead, what is unanswered."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from django.db.models import Min
from django.urls import reverse

from wren_ladder.drumming.forecast import Status
from wren_ladder.drumming.practice.lesson import decision
from wren_ladder.drumming.takes.words import habit_sentence
from wren_ladder.studio.climb.climbs import PlanLine, by_student
from wren_ladder.studio.climb.habits import ToldTake, habits_in, takes_of
from wren_ladder.studio.climb.models import Attempt, HomeMinutes, Where
from wren_ladder.studio.exams.models import Exam
from wren_ladder.studio.lessons.agenda import agenda_of
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.lessons.timetable import Occasion
from wren_ladder.studio.lessons.weeks import counted_from, plans_of_each
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.students.models import Student

EXAMS_AHEAD = timedelta(days=120)
LOOK_BACK = timedelta(days=56)  # for the last lesson, and for what was done since
GIVEN = Lesson.State.GIVEN


@dataclass(frozen=True, slots=True)
class HeardFirst:
    """The step that the lesson begins with, and why."""

    plan: Plan
    step: Step
    why: str
    takes: str = ""  # what the last takes found


@dataclass(frozen=True, slots=True)
class LessonToday:
    """One of today's lessons: what to hear first, what was done at home, what to decide."""

    occasion: Occasion
    climbs: tuple[PlanLine, ...]
    hear: HeardFirst | None
    lesson: Lesson | None  # the last one that was given; today's, once that is over
    days: int  # of practice at home since the last one
    minutes: int
    decide: str

    @property
    def student(self) -> Student:
        return self.occasion.student

    @property
    def word(self) -> str:
        """What the teacher wrote down last, to oneself before what was said."""
        return (self.lesson.note or self.lesson.message) if self.lesson else ""

    @property
    def is_ahead(self) -> bool:
        return self.occasion.takes_place and not self.is_over

    @property
    def is_over(self) -> bool:
        """Today's lesson is kept already."""
        return self.occasion.is_given


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
    for lesson in given.defer("did", "week"):
        lessons.setdefault(lesson.student_id, []).append(lesson)
    logged = _logged(students, today)
    minutes = _minutes(students, today)
    numbers = {student.pk for student in students}
    stuck = _stuck([one for one in climbs if one.plan.student_id in numbers])
    takes = takes_of(students, today)
    last = {
        student.pk: next((one for one in lessons.get(student.pk, ()) if one.day < today), None)
        for student in students
    }
    heard = _heard_first(students, last, takes, today)
    climbed = by_student(climbs)
    found = []
    for occasion in due:
        student = occasion.student
        kept, before = lessons.get(student.pk, []), last[student.pk]
        since = counted_from(before, today)
        mine = [(day, n) for day, n in minutes.get(student.pk, []) if since <= day]
        days = {day for day in logged.get(student.pk, []) if since <= day}
        own = tuple(climbed.get(student.pk, ()))
        found.append(
            LessonToday(
                occasion=occasion,
                climbs=own,
                hear=heard.get(student.pk),
                lesson=kept[0] if kept and kept[0].day == today else before,
                days=len(days | {day for day, _ in mine}),
                minutes=sum(n for _, n in mine),
                decide=_decide(own, stuck, today),
            )
        )
    return found


def _heard_first(
    students: Sequence[Student],
    last: Mapping[int, Lesson | None],
    takes: Mapping[int, Sequence[ToldTake]],
    today: date,
) -> dict[int, HeardFirst]:
    """By student, after the ``last`` lesson of each."""
    plans = plans_of_each(students)
    first = {
        student.pk: found[0]
        for student in students
        if (found := agenda_of(student, plans[student.pk], last[student.pk], today))
    }
    heard = {item.key for item in first.values()}
    steps = Step.objects.select_related("standing").in_bulk(heard)
    by_number = {plan.pk: plan for each in plans.values() for plan in each}
    return {
        pk: HeardFirst(by_number[step.plan_id], step, item.why, _taken(takes.get(pk, ())))
        for pk, item in first.items()
        if (step := steps.get(item.key))
    }


def _taken(takes: Sequence[ToldTake]) -> str:
    """A habit over days before what a single take found."""
    for habit in habits_in(takes):
        return habit_sentence(habit)
    if not takes or not takes[0].told.said:
        return ""
    last = takes[0]
    return f"{last.told.said} ({last.take.step.name}, {last.take.day:%-d %B})"


def _logged(students: Sequence[Student], today: date) -> dict[int, list[date]]:
    """The days of tries at home, by student; what is tried in a lesson is not practice."""
    tries = Attempt.objects.filter(
        step__plan__student__in=students,
        day__gt=today - LOOK_BACK,
        day__lte=today,
        where=Where.HOME,
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


@dataclass(frozen=True, slots=True)
class ExamAhead:
    """A student's exam with the pieces that are for it; without one it is all the more told."""

    student: Student
    days: int
    climbs: tuple[PlanLine, ...]

    @property
    def said(self) -> str:
        """ "105 of 118, tight"; "1 of 2 pieces ready"."""
        if not self.climbs:
            return "no piece for it yet"
        if len(self.climbs) == 1:
            plan, seen = self.climbs[0].plan, self.climbs[0].seen
            return f"{plan.standing.ready or 'nothing'} of {plan.target}, {seen.status}"
        ready = sum(one.seen.status in (Status.READY, Status.SAFE) for one in self.climbs)
        return f"{ready} of {len(self.climbs)} pieces ready or safe"

    @property
    def share(self) -> int:
        """Per cent of the way, of the piece that is furthest behind."""
        return min((one.plan.standing.share for one in self.climbs), default=0)


def has_exam_ahead(student: Student, today: date) -> bool:
    exam = student.exam_date
    return bool(student.is_here and exam and today <= exam <= today + EXAMS_AHEAD)


def exams_ahead(
    students: Sequence[Student], climbs: Sequence[PlanLine], today: date
) -> list[ExamAhead]:
    """The exams of the next months in order, also of those who have no piece for it."""
    found, climbed = [], by_student(climbs)
    for student in students:
        if has_exam_ahead(student, today):
            mine = tuple(one for one in climbed.get(student.pk, ()) if one.plan.for_exam)
            found.append(ExamAhead(student, (student.exam_date - today).days, mine))
    return sorted(found, key=lambda one: (one.days, one.student.name))


def _known_since(students: Sequence[Student], today: date) -> dict[int, date]:
    """The first day on which something is kept of each by key: who was entered today had no
    lesson here last week."""
    ids = [student.pk for student in students]
    lessons = Lesson.objects.filter(student__in=ids, day__lt=today).values_list("student")
    since = dict(lessons.order_by().annotate(Min("day")))
    tries = Attempt.objects.filter(step__plan__student__in=set(ids) - since.keys())
    return since | dict(
        tries.order_by().values_list("step__plan__student").annotate(Min("day"))
    )


MOST_NAMED = 3  # students without a piece, each in a line of its own


@dataclass(frozen=True, slots=True)
class Unanswered:
    """A question that waits, and where it is answered."""

    said: str
    ask: str
    href: str


def unanswered(
    students: Sequence[Student], past: Sequence[Occasion], with_piece: set[int], today: date
) -> list[Unanswered]:
    """Lessons without a word, exams that are over, students without anything to climb."""
    over: dict[int, list[Exam]] = {}
    for exam in Exam.objects.filter(student__in=students, result="", day__lt=today):
        over.setdefault(exam.student_id, []).append(exam)
    found = []
    since = _known_since([one.student for one in past], today)
    for one in past:
        known = since.get(one.student.pk, today) <= one.day
        if known and one.takes_place and not one.is_given:
            write = reverse("lesson-new", args=[one.student.pk]) + f"?day={one.day:%Y-%m-%d}"
            if one.lesson:
                write = reverse("lesson-set", args=[one.lesson.pk])
            said = f"{one.student.name}: no word about {one.day:%A}'s lesson."
            found.append(Unanswered(said, "What happened?", write))
    for student in students:
        if not student.is_here:
            continue
        for exam in over.get(student.pk, ()):
            said = f"{student.name}'s exam was on {exam.day:%-d %B}."
            found.append(Unanswered(said, "How did it go?", exam.get_absolute_url()))
    return found + _without_piece(
        [one for one in students if one.is_here and one.pk not in with_piece]
    )


def _without_piece(students: Sequence[Student]) -> list[Unanswered]:
    """Each by name, or of many in one line: a studio just entered is one task, not thirty."""
    if len(students) > MOST_NAMED:
        first, others = students[0].name, len(students) - 1
        said = f"{first} and {others} others have no piece yet."
        return [Unanswered(said, "See who", reverse("students"))]
    return [
        Unanswered(
            f"{student.name} has no piece yet.",
            "Choose one",
            f"{reverse('pieces')}?for={student.pk}",
        )
        for student in students
    ]
