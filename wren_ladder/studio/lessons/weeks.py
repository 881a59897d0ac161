"""A student's week: their plans as the core's week and lesson see them."""

from collections.abc import Iterable, Sequence
from datetime import date, timedelta

from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.drumming.breakdown.step import MEETINGS, RUNS
from wren_ladder.drumming.climb import rung_below
from wren_ladder.drumming.description.twins import twins
from wren_ladder.drumming.practice.week import Day, OpenStep, PieceWork, practice_week
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.plans.rules import climb_rule
from wren_ladder.studio.students.models import Student

WEEK = timedelta(days=7)
RAISED = WEEK  # how long tempos stay after the minutes were raised


PLANS = (
    Plan.objects.select_related("piece", "student", "standing__held_by")
    .prefetch_related("steps__first", "steps__last", "steps__standing", "piece__bars")
    .order_by("piece__title")
)


def plans_of(student: Student) -> list[Plan]:
    """The student's plans with their steps."""
    return list(PLANS.filter(student=student))


def plans_of_each(students: Iterable[Student]) -> dict[int, list[Plan]]:
    """The plans of many students, in as few queries as those of one."""
    found: dict[int, list[Plan]] = {student.pk: [] for student in students}
    for plan in PLANS.filter(student__in=found):
        found[plan.student_id].append(plan)
    return found


def by_number(plans: Iterable[Plan]) -> dict[int, tuple[Plan, Step]]:
    """Every step of the plans, with its plan."""
    return {step.pk: (plan, step) for plan in plans for step in plan.steps.all()}


def open_steps(plan: Plan, today: date) -> tuple[OpenStep, ...]:
    """The needed steps of a plan."""
    steps = [step for step in plan.steps.all() if step.is_needed]
    kinds = twins([row.bar for row in plan.piece.bars.all()]) if steps else ()
    to_build = {
        kinds[step.first.position]
        for step in steps
        if step.step_kind is StepKind.BAR and step.standing.held is None
    }
    return tuple(_open(plan, step, today, kinds, to_build) for step in steps)


def _open(
    plan: Plan, step: Step, today: date, kinds: Sequence[int], to_build: set[int]
) -> OpenStep:
    """``to_build`` are the kinds of bars whose steps hold nothing yet."""
    bar = step.step_kind is StepKind.BAR
    climb = climb_rule(plan, step)
    held = step.standing.held
    easy = climb.rungs[0] if held is None else rung_below(climb.rungs, held)
    return OpenStep(
        key=step.pk,
        name=step.name,
        held=held,
        next=step.standing.next_tempo or climb.rungs[0],
        target=climb.target,
        easy=easy,
        rank=step.rank,
        idle=(today - step.standing.last_day).days if step.standing.last_day else None,
        is_there=climb.is_reached(held),
        is_join=step.step_kind in MEETINGS,
        is_bar=bar and not step.first.bar.pickup,  # a pick-up is soon learned
        is_line=step.step_kind in RUNS,
        waits=not bar and any(kinds[place] in to_build for place in step.played),
    )


def work_of(plan: Plan, today: date) -> PieceWork:
    raised = plan.raised is not None and today < plan.raised + RAISED
    return PieceWork(
        plan.piece.title,
        plan.home_days,
        plan.home_minutes,
        open_steps(plan, today),
        plan.standing.speed,
        raised,
        on_pad=plan.piece.drills_of_id is not None,
    )


def week_begins(student: Student, lesson: Lesson | None, today: date) -> date:
    """A student's week runs from the last lesson; where none was kept in the last seven days,
    from the day they usually have it, else from Monday."""
    if lesson and today - lesson.day < WEEK:
        return lesson.day
    return today - timedelta(days=(today.weekday() - (student.lesson_day or 0)) % 7)


def week_of_student(student: Student, plans: Iterable[Plan], first: date) -> tuple[Day, ...]:
    """Seven days from ``first``, all pieces together, within the hearing budget."""
    works = [work_of(plan, first) for plan in plans]
    return practice_week(works, first, student.ears.budget)
