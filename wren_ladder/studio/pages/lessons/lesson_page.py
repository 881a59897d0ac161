"""Lesson mode: the steps to hear, and what came of them."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date

from django.contrib.auth.models import AbstractBaseUser
from django.db.models import QuerySet

from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.drumming.breakdown.near import Placed, near
from wren_ladder.drumming.building.layers import LayerCode, limb_pairs
from wren_ladder.drumming.chart import Bar
from wren_ladder.drumming.climb import ClimbRule, stand
from wren_ladder.drumming.description.phrases import phrases
from wren_ladder.studio.climb.forms import AttemptForm
from wren_ladder.studio.climb.log import earning_log
from wren_ladder.studio.climb.models import Attempt, Where
from wren_ladder.studio.lessons.agenda import agenda_of
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.lessons.weeks import by_number
from wren_ladder.studio.pages.climb.entries import LastTry, last_try, plain_reason
from wren_ladder.studio.pages.plans.step_music import StepMusic, step_music
from wren_ladder.studio.plans.models import Plan, Saying, Step
from wren_ladder.studio.plans.rules import climb_rule
from wren_ladder.studio.plans.sayings import (
    recent_sayings,
    said_before,
    said_of,
    sayings_for,
)
from wren_ladder.studio.plans.versions import PlanMusic, music_for
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.students.taught import students_of


@dataclass(frozen=True, slots=True)
class Card:
    """One step of the lesson, ready to be played."""

    plan: Plan
    step: Step
    why: str
    music: StepMusic
    climb: ClimbRule
    tries: int  # logged today
    last: LastTry | None
    nearby: tuple[tuple[str, list[Step]], ...] = ()  # "simpler", and the steps that are
    limb_pairs: tuple[LayerCode, ...] = ()  # of its bar, to be worked at by themselves
    twins: tuple[int, ...] = ()  # the same step of those who are taught together
    says: tuple[Saying, ...] = ()  # by the teacher, about its bars
    said_before: tuple[str, ...] = ()  # to be said again

    @property
    def rungs(self) -> str:
        """From the lowest, for the page's "slower by a rung"."""
        return " ".join(map(str, self.climb.rungs))

    @property
    def try_form(self) -> AttemptForm:
        """What may be said of a try besides; sent with the keys, which stand elsewhere."""
        form = AttemptForm(initial={"passes": self.climb.passes}, auto_id=False)
        del form.fields["day"]  # today
        for field in form.fields.values():
            field.widget.attrs["form"] = f"try-{self.at}"
        return form

    @property
    def at(self) -> str:
        """The step's number, for addresses."""
        return str(self.step.pk)

    @property
    def plain_reason(self) -> str:
        return plain_reason(self.step)


def last_lesson(student: Student, before: date) -> Lesson | None:
    """The last one that was given."""
    return student.lessons.filter(day__lt=before, state=Lesson.State.GIVEN).first()


ONE_BAR = (StepKind.BAR, StepKind.OWN)
CALLED = "called up"  # why a step is there that the agenda has not


def cards_of(
    student: Student,
    plans: list[Plan],
    today: date,
    called: int | None = None,
    narrow: bool = False,
) -> list[Card]:
    """The lesson in order: all pieces together, as many steps as the minutes hold, and before
    them the step that was ``called`` up, whichever it is. The first that is shown is drawn; the
    staves and sounds of the others are asked for by the page, one after the other."""
    steps = by_number(plans)
    last = last_lesson(student, today)
    found = agenda_of(student, plans, last, today)
    tried = tried_today(student, today)
    music = {plan.pk: music_for(plan) for plan in plans}
    playable = {plan.pk: playable_steps(plan) for plan in plans}
    asked = [(one.key, one.why) for one in found]
    sayings, recent = sayings_for(plans), recent_sayings(student.owner_id)
    if called in steps and called not in dict(asked) and steps[called][1].music_is_there:
        asked.insert(0, (called, CALLED))
    keys = [key for key, _ in asked]
    first = called if called in keys else next(iter(keys), None)
    return [
        replace(
            card_of(
                plan, step, music[plan.pk], why, tried[key], narrow=narrow, drawn=key == first
            ),
            nearby=steps_near(step, playable[plan.pk]),
            limb_pairs=limb_pairs_of(step, music[plan.pk].study.chart.bars),
            says=(said := said_of(step, sayings)),
            said_before=tuple(said_before(step, said, recent)),
        )
        for key, why in asked
        for plan, step in (steps[key],)
    ]


def together_today(student: Student, teacher: AbstractBaseUser, today: date) -> list[Student]:
    """Whom the teacher has in one lesson today, the one that is asked for first."""
    mine = student.lessons.filter(day=today).exclude(company=None).first()
    if mine is None:
        return [student]
    others = students_of(teacher).filter(lessons__day=today, lessons__company=mine.company)
    return [student, *others.exclude(pk=student.pk).order_by("name")]


def cards_together(
    students: list[Student],
    plans: dict[int, list[Plan]],
    today: date,
    called: int | None,
    narrow: bool,
) -> list[Card]:
    """The cards of each in turn, told which of the others' steps are the same."""
    same: dict[tuple[int, str], list[int]] = {}
    for mine in plans.values():
        for plan in mine:
            for step in playable_steps(plan):
                same.setdefault((plan.piece_id, step.name), []).append(step.pk)
    return [
        replace(
            card,
            twins=tuple(
                pk
                for pk in same.get((card.plan.piece_id, card.step.name), ())
                if pk != card.step.pk
            ),
        )
        for one in students
        for card in cards_of(one, plans[one.pk], today, called, narrow)
    ]


def playable_steps(plan: Plan) -> list[Step]:
    """What can be called up: what is in the plan, and has its bars."""
    return [one for one in plan.steps.all() if one.music_is_there and not one.dropped]


def steps_near(step: Step, steps: list[Step]) -> tuple[tuple[str, list[Step]], ...]:
    """What the teacher may want next instead, by one press; sorts with nothing are left out."""
    found = near(_placed(step), [_placed(one) for one in steps])
    named = {one.pk: one for one in steps}
    sorts = (("Simpler", found.simpler), ("Into it", found.joins), ("Part of", found.larger))
    return tuple((said, [named[key] for key in keys]) for said, keys in sorts if keys)


def limb_pairs_of(step: Step, bars: Sequence[Bar]) -> tuple[LayerCode, ...]:
    """The pairs of limbs that a step of one bar, of those of its piece, can be taken apart
    into."""
    if step.step_kind not in ONE_BAR or step.first_id != step.last_id:
        return ()
    return tuple(pair.code for pair in limb_pairs(bars[step.first.position]))


@dataclass(frozen=True, slots=True)
class WallRow:
    """A line of a piece's wall: its section, and (place, number, held tempo) of its bars."""

    section: str
    bars: tuple[tuple[int, str, int | None], ...]


def walls_of(plans: list[Plan]) -> list[tuple[Plan, list[WallRow]]]:
    """Every bar of every piece, line by line, whether the plan has it or not."""
    return [(plan, _wall(plan, music_for(plan))) for plan in plans]


def _wall(plan: Plan, music: PlanMusic) -> list[WallRow]:
    bars, kinds = music.study.chart.bars, music.study.kinds
    held = {
        step.first.position: step.standing.held
        for step in plan.steps.all()
        if step.step_kind in ONE_BAR and step.music_is_there and step.first_id == step.last_id
    }
    return [
        WallRow(
            phrase.section,
            tuple(
                (n, bars[n].number, held.get(n, held.get(kinds[n])))
                for n in range(phrase.first, phrase.last + 1)
            ),
        )
        for phrase in phrases(bars)
    ]


def _placed(step: Step) -> Placed:
    return Placed(step.pk, step.step_kind, *step.places)


@dataclass(frozen=True, slots=True)
class Choice:
    """A step that can be called up, with what a search finds it by."""

    pk: int
    name: str
    piece: str
    held: int | None
    target: int


def choices_to_call(plans: list[Plan]) -> list[Choice]:
    """Every step of every piece, in the order of the plans."""
    return [
        Choice(step.pk, step.name, plan.piece.heading, step.standing.held, plan.target)
        for plan in plans
        for step in playable_steps(plan)
    ]


def prefix_of(step: Step) -> str:
    """Of the names in its drawings, which are unique in a page."""
    return f"s{step.pk}-"


def card_of(
    plan: Plan,
    step: Step,
    music: PlanMusic,
    why: str = "",
    tries: int = 0,
    where: Where = Where.LESSON,
    narrow: bool = False,
    drawn: bool = True,
) -> Card:
    return Card(
        plan=plan,
        step=step,
        why=why,
        music=step_music(plan, step, prefix_of(step), music, narrow=narrow, drawn=drawn),
        climb=climb_rule(plan, step),
        tries=tries,
        last=last_try(step, where) if tries else None,
    )


def tried_in_order(student: Student, day: date) -> list[int]:
    """The steps that were tried in the lesson of a day, as they came up."""
    tries = tries_of(student, day).order_by("pk")
    return list(dict.fromkeys(tries.values_list("step_id", flat=True)))


def tried_today(student: Student, today: date) -> Counter[int]:
    tries = Attempt.objects.filter(step__plan__student=student, day=today)
    return Counter(tries.values_list("step_id", flat=True))


def tries_of(student: Student, day: date) -> QuerySet[Attempt]:
    """In the lesson of a day; what is practised at home is no part of it."""
    return Attempt.objects.filter(day=day, step__plan__student=student).exclude(
        where=Where.HOME
    )


def what_was_done(student: Student, day: date) -> list[tuple[Step, str]]:
    """(step, "Bar 4 of Five Gates: 95 earned, 3 tries") for each tried in that lesson."""
    tried = (
        Step.objects.filter(attempts__in=tries_of(student, day))
        .select_related("plan__piece", "plan__student", "first", "last")
        .prefetch_related("attempts")
        .distinct()
        .order_by("plan__piece__title", "position")
    )
    return [(step, _done(step, day)) for step in tried]


def done_with_steps(lesson: Lesson) -> list[tuple[int | None, str]]:
    """The lines of a kept lesson, each with its step while that is there."""
    there = {
        line.partition(":")[0]: step.pk
        for step, line in what_was_done(lesson.student, lesson.day)
    }
    return [(there.get(line.partition(":")[0]), line) for line in lesson.did]


def _done(step: Step, day: date) -> str:
    log = [one for one in earning_log(step) if one.day <= day]
    climb = climb_rule(step.plan, step)
    before = stand(climb, [one for one in log if one.day < day]).held
    after = stand(climb, log).held
    tries = sum(one.day == day and one.where != Where.HOME for one in step.attempts.all())
    if after is not None and after > (before or 0):
        result = f"{after} earned"
    elif before is not None and (after or 0) < before:
        result = f"{before} lost, {after or 'nothing'} held"
    else:
        result = f"still {after}" if after else "no rung yet"
    count = f"{tries} tr{'y' if tries == 1 else 'ies'}"
    return f"{step.name} of {step.plan.piece.heading}: {result}, {count}"
