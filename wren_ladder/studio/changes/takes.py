"""Takes are kept as what was heard; they propose, and log nothing by themselves."""

from collections.abc import Iterable
from datetime import date

from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.takes.heard import Heard, Source
from wren_ladder.studio.climb.models import Take
from wren_ladder.studio.plans.models import Step

LOUDEST = 127


def keep_take(
    step: Step, source: Source, tempo: int, passes: int, heard: Iterable[Heard], day: date
) -> Take:
    strokes = [
        [
            round(1000 * one.at, 1),
            one.drum.value if one.drum else "",
            None if one.strength is None else round(LOUDEST * one.strength),
        ]
        for one in heard
    ]
    return Take.objects.create(
        step=step, source=source.value, tempo=tempo, passes=passes, strokes=strokes, day=day
    )


def heard_in(take: Take) -> tuple[Heard, ...]:
    return tuple(
        Heard(
            milliseconds / 1000,
            Drum(drum) if drum else None,
            None if strength is None else strength / LOUDEST,
        )
        for milliseconds, drum, strength in take.strokes
    )
