"""Chains: from a groove that is known to a new one, one change at a time.

Each link adds, takes out or moves one stroke, and can be played. Common practice, no source.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Chart, ChartError, Tempo
from wren_ladder.drumming.chart.tempo import SLOWEST
from wren_ladder.drumming.description.differences import Change, changes
from wren_ladder.drumming.findings.conflicts import conflicts
from wren_ladder.drumming.hands import stick_bar
from wren_ladder.drumming.style import HOUSE, Style
from wren_ladder.drumming.wording import Coded

MOST_LINKS = 10  # more is another groove
SLOW = Tempo(Fraction(1), SLOWEST)  # a chain is learned slowly; only hands can be in the way


class First(Coded):
    """What changes first."""

    HANDS = "hands", "hands first"
    FEET = "feet", "feet first"


@dataclass(frozen=True, slots=True)
class Link:
    """One change, and the bar it makes of the one before."""

    change: Change
    bar: Bar

    @property
    def chart(self) -> Chart:
        return Chart(f"Bar {self.bar.number} {self.change.spoken}", (self.bar,))


def chain(
    known: Bar, new: Bar, first: First = First.HANDS, style: Style = HOUSE
) -> tuple[Link, ...]:
    """The fewest single changes that lead from one bar to the other; none where they are
    equal, and the last link is the new bar.

    ChartError where no chain leads there.
    """
    steps = changes(known, new)
    if steps is None:
        raise ChartError(
            f"bar {known.number} and bar {new.number} have different metres or lengths; "
            "a chain stays in one"
        )
    if len(steps) > MOST_LINKS:
        raise ChartError(
            f"bar {new.number} is {len(steps)} changes from bar {known.number}, more than "
            f"{MOST_LINKS}; build it in layers"
        )
    feet_late = first is First.HANDS
    order = sorted(steps, key=lambda step: (step.by_foot == feet_late, step.at))
    plain = replace(known, hits=known.music)
    found = _playable(plain, order, new.number, style, set())
    if found is None:
        raise ChartError(f"no chain to bar {new.number} that can be played at every link")
    return found


def _playable(
    bar: Bar, left: Sequence[Change], number: str, style: Style, dead: set[frozenset[int]]
) -> tuple[Link, ...] | None:
    """The links for what is left to change, in the order wished as far as each can be
    played; ``dead`` remembers what led nowhere."""
    if not left:
        return ()
    here = frozenset(id(step) for step in left)
    if here in dead:
        return None
    for place, step in enumerate(left):
        link = _link(bar, step, number, style)
        if link is None:
            continue
        behind = [*left[:place], *left[place + 1 :]]
        found = _playable(link.bar, behind, number, style, dead)
        if found is not None:
            return (link, *found)
    dead.add(here)
    return None


def _link(bar: Bar, step: Change, number: str, style: Style) -> Link | None:
    hits = [hit for hit in bar.hits if hit not in step.gone]
    try:
        changed = bar.in_notes(hits=(*hits, *step.new), number=number, marks=())
    except ChartError:  # the surface is struck already, by a stroke that goes later
        return None
    if conflicts(stick_bar(changed, style), changed, SLOW, style):
        return None
    return Link(step, changed)
