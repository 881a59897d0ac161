"""Typed bars of which some can't be read: what can be, and what is wrong with the others."""

from dataclasses import dataclass

from wren_ladder.drumming.chart import Chart, ChartError
from wren_ladder.drumming.notation.counts.headings import bar_heading
from wren_ladder.drumming.notation.counts.read import read_chart
from wren_ladder.drumming.notation.counts.tokens import tokens, without_comment

MOST_ERRORS = 12  # of one page; each is another reading


@dataclass(frozen=True, slots=True)
class Typed:
    """``chart`` of what could be read, None if nothing could; ``errors`` in the order of the
    page, none of them about what another one hides."""

    chart: Chart | None
    errors: tuple[ChartError, ...]


def read_what_can_be(text: str) -> Typed:
    """The chart without the lines that are wrong: first a word's line, then its bar's lines,
    then the bar."""
    lines = text.splitlines()
    errors: list[ChartError] = []
    struck: set[int] = set()  # headings whose lines are gone already
    while len(errors) < MOST_ERRORS:
        try:
            return Typed(read_chart("\n".join(lines)), _in_order(errors))
        except ChartError as error:
            place = error.place.line - 1 if error.place else None
            if place is None or not lines[place].strip():
                errors += [] if errors else [error]
                break
            told = {one.place.line - 1 for one in errors if one.place}
            first = place not in told
            errors += [error] if first else []
            if not _begins_a_bar(lines[place]):
                lines[place] = ""
            elif place not in struck:
                struck.add(place)
                _strike(lines, place + 1)
            else:
                _strike(lines, place, heading=True)
    return Typed(None, _in_order(errors))


def _in_order(errors: list[ChartError]) -> tuple[ChartError, ...]:
    return tuple(sorted(errors, key=lambda error: error.place.line if error.place else 0))


def _begins_a_bar(line: str) -> bool:
    words = tokens(without_comment(line), 1)
    return bool(words) and bar_heading(words) is not None


def _strike(lines: list[str], place: int, heading: bool = False) -> None:
    """Leave out what a bar's heading announces, and the heading itself if asked."""
    if heading:
        lines[place] = ""
        place += 1
    while place < len(lines) and not _begins_a_bar(lines[place]):
        lines[place] = ""
        place += 1
