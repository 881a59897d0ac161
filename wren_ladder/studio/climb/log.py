"""The log of a plan: what was tried, step by step, and what of it earns rungs.

What a step holds is asked here and nowhere else: its own tries, and what was earned in longer
steps that contain it.
"""

from collections.abc import Iterable, Sequence

from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.drumming.breakdown.step import PARTS
from wren_ladder.drumming.climb import Attempt as CoreAttempt
from wren_ladder.drumming.climb import LoggedStep, with_longer
from wren_ladder.drumming.climb.longer import Music, contains
from wren_ladder.drumming.study import Study
from wren_ladder.studio.climb.models import Attempt, Where
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.plans.rules import climb_rule
from wren_ladder.studio.plans.versions import study_for

Log = dict[int, list[Attempt]]  # by step
Earning = dict[int, tuple[CoreAttempt, ...]]  # by step, what was earned in longer ones among it


def log_of(plan: Plan) -> Log:
    """Every attempt of a plan in the order it happened."""
    return _by_step(Attempt.objects.filter(step__plan=plan))


def _by_step(attempts: Iterable[Attempt]) -> Log:
    by_step: Log = {}
    for attempt in attempts:
        by_step.setdefault(attempt.step_id, []).append(attempt)
    return by_step


def earning(plan: Plan, attempts: Iterable[Attempt]) -> list[CoreAttempt]:
    """What counts for the rungs, as the core sees it: a child's own "did it" only where the
    teacher lets it."""
    return [one.to_core() for one in attempts if _earns(plan, one)]


def _earns(plan: Plan, attempt: Attempt) -> bool:
    home = plan.student is None or plan.student.home_earns
    return home or attempt.where != Where.HOME


def earning_logs(plan: Plan, steps: Sequence[Step], log: Log) -> Earning:
    """What earns rungs of each of the steps, which are those of the plan, or some of them with
    all that contain them."""
    if not any(log.values()):
        return {step.pk: () for step in steps}
    studied = study_for(plan)
    order = sorted((one.day, one.pk) for tries in log.values() for one in tries)
    places = {pk: place for place, (_, pk) in enumerate(order)}
    logged = [
        LoggedStep(
            step.name,
            climb_rule(plan, step),
            *_music(step, studied),
            tuple(
                (places[one.pk], one.to_core())
                for one in log.get(step.pk, ())
                if _earns(plan, one)
            ),
        )
        for step in steps
    ]
    return {step.pk: found for step, found in zip(steps, with_longer(logged), strict=True)}


def earning_log(step: Step) -> tuple[CoreAttempt, ...]:
    """The same of one step, without reading the tries of those that do not contain it."""
    plan = step.plan
    steps = list(plan.steps.placed())
    studied = study_for(plan)
    needs = _music(step, studied)[1]
    longer = [
        one for one in steps if one.pk == step.pk or contains(_music(one, studied)[0], needs)
    ]
    log = _by_step(Attempt.objects.filter(step__in=longer))
    return earning_logs(plan, longer, log)[step.pk]


def _music(step: Step, studied: Study) -> tuple[Music, Music]:
    """(what is held by who holds it, what a longer step plays that contains it), bar by bar:
    equal bars are one; the whole piece goes along its road."""
    if not step.music_is_there:
        return (), ()
    kinds = studied.kinds
    played = tuple(kinds[place] for place in step.played)
    if step.step_kind is StepKind.WHOLE:
        road = tuple(kinds[visit.index] for visit in studied.visits)
        return road, road
    if step.step_kind in PARTS:
        return (), played[:1]
    if step.step_kind is StepKind.ON:  # of the second bar its first note alone
        return played[:1], played
    return played, played
