"""Takes are kept as what was heard; they propose, and log nothing by themselves."""

from collections.abc import Iterable
from datetime import date
from uuid import UUID

from wren_ladder.drumming.take_sources.heard import Heard, Source
from wren_ladder.drumming.take_sources.note_maps import LOUDEST
from wren_ladder.studio.climb.models import Take, Where
from wren_ladder.studio.climb.takes import MILLISECONDS, rule_of, tell
from wren_ladder.studio.plans.models import Step


def keep_take(
    step: Step,
    source: Source,
    tempo: int,
    passes: int,
    heard: Iterable[Heard],
    day: date,
    where: Where = Where.LESSON,
    empty_bars: int = 0,
    latency: float = 0,
    key: UUID | None = None,
) -> Take:
    """``latency`` in milliseconds, as the set-up was calibrated; ``key`` is that of the page
    that recorded it."""
    take = Take(
        step=step,
        source=source.value,
        tempo=tempo,
        passes=passes,
        strokes=[_row(one) for one in sorted(heard, key=lambda one: one.at)],
        day=day,
        where=where,
        empty_bars=empty_bars,
        latency=latency,
        key=key,
    )
    tell(take, rule_of(step.plan.student))
    take.save()
    return take


def _row(one: Heard) -> list:
    strength = None if one.strength is None else max(1, round(LOUDEST * one.strength))
    return [
        round(MILLISECONDS * one.at, 1),
        one.drum.value if one.drum else "",
        strength,
    ]
