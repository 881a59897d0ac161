"""What changes when bars are played again and again: a section is not begun each time."""

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Drum
from wren_ladder.drumming.description.timekeeping import timekeeper


def instead_of_the_crash(bar: Bar) -> dict[int, Drum]:
    """Which of the bar's hits, by place, mark a section on its first beat, and what keeps time
    there when the bar is looped. Nothing where no other cymbal keeps time: then the crash is
    the music. Common practice, no source."""
    keeper = timekeeper(bar)
    kept = [hit.drum for hit in bar.hits if hit.drum.surface is keeper and hit.at]
    if not kept:
        return {}
    return {
        place: kept[0]
        for place, hit in enumerate(bar.hits)
        if hit.at == Fraction(0)
        and hit.drum.row.marks_section
        and hit.drum.surface is not keeper
    }
