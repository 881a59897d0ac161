"""Forecasts of plans: made when the log changes, kept beside the plan for lists to read."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import date

from wren_ladder.drumming.breakdown import Learner, effort
from wren_ladder.drumming.forecast import (
    Forecast,
    Habit,
    Journey,
    Left,
    Lever,
    Outlook,
    Track,
    forecast,
    habit_of,
    levers,
    outlook,
    own_gain,
)
from wren_ladder.studio.climb.log import Earning, Log, earning_logs, log_of
from wren_ladder.studio.climb.models import StepStanding
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.plans.rules import agreed_pace, climb_rule

LEAST_DAYS = 4  # practice days from which on a plan's own log is believed
MINUTES_A_STEP = 3  # at home, while nothing shows how many steps are worked on; the house's


def tracks_of(
    plan: Plan,
    steps: Sequence[Step],
    logs: Earning,
    standings: Mapping[int, StepStanding],
) -> tuple[Track, ...]:
    """The needed ones of all steps with what earns their rungs, in plan order."""
    needed = [step for step in steps if step.is_needed]
    climbing = {step.pk: standings[step.pk] for step in needed}
    return tuple(
        Track(
            climb_rule(plan, step),
            logs[step.pk],
            effort(step.step_kind, step.rank),
            is_carried(climbing[step.pk], climbing),
        )
        for step in needed
    )


def is_carried(standing: StepStanding, climbing: Mapping[int, StepStanding]) -> bool:
    """Does one of the longer steps that are ``climbing`` climb for it? Not where that one has
    fallen back: then its parts are worked at."""
    longer = climbing.get(standing.held_in_id or 0)
    return longer is not None and not longer.falling


def needed_tracks(plan: Plan, log: Log) -> tuple[list[Step], tuple[Track, ...]]:
    """(the needed steps, a track of each), by what stands stored of them."""
    steps = list(plan.steps.placed().select_related("standing"))
    standings = {step.pk: step.standing for step in steps}
    tracks = tracks_of(plan, steps, earning_logs(plan, steps, log), standings)
    return [step for step in steps if step.is_needed], tracks


def learner_of(plan: Plan) -> Learner:
    """For whom a plan's minutes are reckoned: by what its own log says, else by grade; what
    other pupils need says nothing of this one."""
    standing = plan.standing if hasattr(plan, "standing") else None
    told = standing and standing.gain is not None and standing.gain_days >= LEAST_DAYS
    return Learner(_grade(plan), standing.gain if told else None)


def _grade(plan: Plan) -> int | None:
    return plan.student.grade if plan.student else None


def tracks_for(plan: Plan) -> tuple[Track, ...]:
    """The same, read anew."""
    return needed_tracks(plan, log_of(plan))[1]


def journey_of(plan: Plan, tracks: tuple[Track, ...], today: date) -> Journey:
    return Journey(tracks, _habit(plan, tracks, today), Learner(_grade(plan)).usual)


def _habit(plan: Plan, tracks: tuple[Track, ...], today: date) -> Habit:
    pace = agreed_pace(plan)
    agreed = max(1.0, pace.home / pace.pieces / MINUTES_A_STEP)
    return habit_of(tracks, today, pace.sessions, agreed)


def forecast_fields(plan: Plan, tracks: tuple[Track, ...], today: date) -> dict:
    """The forecast and the gain, as a plan's standing keeps them."""
    gain, gain_days = own_gain(tracks)
    left = _rungs_left(tracks)
    found = forecast(journey_of(plan, tracks, today), today)
    kept = {
        "as_of": found.as_of.isoformat(),
        "days": list(found.days),
        "unknown": found.unknown,
        "stuck": found.stuck,
        "rungs": sum(left),
        "steps": len(left),
    }
    return {"gain": gain, "gain_days": gain_days, "forecast": kept}


def stored(plan: Plan, today: date) -> Forecast:
    """The forecast as it was made when the log last changed."""
    kept = plan.standing.forecast
    if not kept:
        return Forecast(today, unknown="nothing practised yet")
    as_of, days = date.fromisoformat(kept["as_of"]), tuple(kept["days"])
    return Forecast(as_of, days, kept["unknown"], kept.get("stuck", False))


def outlook_of(plan: Plan, today: date) -> Outlook:
    """The plan against its student's exam, from what is stored."""
    found, exam = stored(plan, today), plan.by_when
    return outlook(found, today, exam, plan.student.buffer, _left(plan))


def _left(plan: Plan) -> Left:
    """What the plan's needed steps had before them when the log last changed, and the days and
    minutes there are at best: as if all were this piece's."""
    kept = plan.standing.forecast
    a_day = max(1.0, plan.student.home_minutes / MINUTES_A_STEP)
    days = plan.student.home_days + 1
    return Left(kept.get("rungs", 0), kept.get("steps", 0), days, a_day)


def _rungs_left(tracks: Sequence[Track]) -> list[int]:
    """Of each needed step that climbs by itself, the rungs before it."""
    climbing = [track for track in tracks if not (track.is_there or track.carried)]
    return [sum(rung > (track.held or 0) for rung in track.climb.rungs) for track in climbing]


def levers_of(
    plan: Plan, tracks: tuple[Track, ...], seen: Outlook, today: date
) -> tuple[Lever, ...]:
    """What would change the answer, the student's other pieces included."""
    if seen.chance is None:
        return ()
    journey = journey_of(plan, tracks, today)
    others = plan.student.plans.exclude(pk=plan.pk).select_related("piece", "standing")
    dropping = {
        other.piece.title: _together(journey.habit, _habit(other, tracks_for(other), today))
        for other in others
        if other.standing.last_day is not None
    }
    return levers(journey, seen, dropping)


def _together(one: Habit, other: Habit) -> Habit:
    """The practice of two pieces given to the first: as many steps a week as both have."""
    week = one.days_a_week * one.steps
    both = week + other.days_a_week * other.steps
    return replace(one, steps=one.steps * both / week) if week else other
