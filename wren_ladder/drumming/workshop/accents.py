"""An accented phrase, of one bar to eight, moved: other hands, doubled, in triplets, to the
drums, to cymbals, to the kick under each way of keeping time.

Common practice, no source.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, ChartError, Drum, Grace, Hand, Hit, Meter, Touch
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.wording import Coded
from wren_ladder.drumming.workshop.patterns import (
    BY_BOTH_HANDS,
    FOUR,
    QUAVERS,
    SEMIQUAVERS,
    Hands,
    cymbal,
    places,
)

MOST_BARS = 8
THIRD = Fraction(1, 3)
TOMS = (Drum.TOM_HIGH, Drum.TOM_MID, Drum.TOM_FLOOR)
BACKBEAT = places("2 4")
Bars = tuple[Bar, ...]


class Grid(Coded):
    """What the notes between the accents are."""

    QUAVERS = "quavers", "in quavers"
    SEMIQUAVERS = "semiquavers", "in semiquavers"


@dataclass(frozen=True, slots=True)
class Version:
    """``code`` is how a recipe names it, ``name`` how a teacher does."""

    code: str
    name: str
    bars: Bars


def read_accents(text: str, grid: Grid = Grid.QUAVERS) -> Bars:
    """ "1 2& 4 | 1 3" as bars of 4/4 full of notes, accents where they are said; ChartError
    says the bar and the word that is no place of the grid."""
    written = text.split("|")
    if not 1 <= len(written) <= MOST_BARS:
        raise ChartError(f"{len(written)} bars; an accented phrase has 1 to {MOST_BARS}")
    steps = QUAVERS if grid is Grid.QUAVERS else SEMIQUAVERS
    found, frame = [], Positions.of(FOUR)
    for number, words in enumerate(written, 1):
        loud = set()
        for word in words.split():
            try:
                at = frame.read(word)
            except ChartError as error:
                raise ChartError(error.text, bar=str(number)) from error
            if off := [one for one in at if one not in steps]:
                said = f"{frame.say(off[0])} is between the notes {grid.label}"
                raise ChartError(said, bar=str(number))
            loud.update(at)
        touch = {at: Touch.ACCENT if at in loud else Touch.NORMAL for at in steps}
        hits = tuple(Hit(at, Drum.SNARE, touch[at]) for at in steps)
        found.append(replace(FOUR, number=str(number), hits=hits))
    if not any(hit.touch.loud for bar in found for hit in bar.hits):
        raise ChartError("no accent yet; write where they are, as 1 2& 4 | 1 3")
    return tuple(found)


def sticking_versions(bars: Sequence[Bar], lead: Hand = Hand.RIGHT) -> tuple[Version, ...]:
    """Alternating over the bar line, with accents leading, with what is unaccented doubled;
    straight, and in triplets where the phrase is in even quavers or semiquavers."""
    phrases = [("straight", tuple(bars))]
    if tripled := in_triplets(bars):
        phrases.append(("in triplets", tripled))
    found = []
    for name, phrase in phrases:
        for code, said, made in (
            ("alternating", "alternating", alternating(phrase, lead)),
            ("lead", "accents lead", accents_lead(phrase, lead)),
            ("doubled", "unaccented doubled", doubled(phrase, lead)),
        ):
            code = code if name == "straight" else f"{code}-triplets"
            found.append(Version(code, f"{said}, {name}", made))
    return tuple(found)


def kit_versions(bars: Sequence[Bar], lead: Hand = Hand.RIGHT) -> tuple[Version, ...]:
    """The accents on toms, on a crash with the kick, and as the kick under each way of keeping
    time."""
    found = [
        Version("toms", "accents round the toms", to_toms(bars, lead)),
        Version("crash", "accents on a crash, with the kick", to_cymbals(bars, lead)),
    ]
    found += (
        Version(f"kick-{hands.value}", f"accents on the kick, {hands.label}", bars_under)
        for hands in Hands
        for bars_under in [to_the_kick(bars, hands)]
    )
    return tuple(found)


def alternating(bars: Sequence[Bar], lead: Hand = Hand.RIGHT) -> Bars:
    """Hand to hand from the lead hand on, over the bar lines."""
    hand, found = lead, []
    for bar in bars:
        hits = []
        for hit in bar.hits:
            hits.append(hit if hit.drum.by_foot else replace(hit, hand=hand))
            hand = hand if hit.drum.by_foot else hand.other
        found.append(replace(bar, hits=tuple(hits)))
    return tuple(found)


def accents_lead(bars: Sequence[Bar], lead: Hand = Hand.RIGHT) -> Bars:
    """The lead hand plays every accent, the other every unaccented note."""

    def stuck(hit: Hit) -> Hit:
        hand = lead if hit.touch.loud else lead.other
        return hit if hit.drum.by_foot else replace(hit, hand=hand)

    return tuple(replace(bar, hits=tuple(map(stuck, bar.hits))) for bar in bars)


def doubled(bars: Sequence[Bar], lead: Hand = Hand.RIGHT) -> Bars:
    """Every unaccented note as two of half its length by the same hand."""
    return tuple(map(_doubled, alternating(bars, lead)))


def _doubled(bar: Bar) -> Bar:
    times = sorted({hit.at for hit in bar.hits})
    ends = dict(zip(times, [*times[1:], bar.length], strict=True))
    hits = []
    for hit in bar.hits:
        hits.append(hit)
        if hit.touch.loud or hit.drum.by_foot or hit.roll:
            continue
        second = hit.at + (ends[hit.at] - hit.at) / 2
        hits.append(replace(hit, at=second, grace=Grace.NONE))
    return replace(bar, hits=tuple(hits))


def in_triplets(bars: Sequence[Bar]) -> Bars:
    """The same notes and accents three to a beat; from the phrase's start again where its last
    bar goes on. Empty where they are not even quavers or semiquavers."""
    notes: list[tuple[Fraction, tuple[Hit, ...]]] = []
    start = Fraction(0)
    for bar in bars:
        for at in sorted({hit.at for hit in bar.hits}):
            notes.append((start + at, tuple(hit for hit in bar.hits if hit.at == at)))
        start += bar.length
    gaps = {after - before for (before, _), (after, _) in pairwise(notes)}
    rolled = any(hit.roll for _, hits in notes for hit in hits)
    if gaps not in ({Fraction(1, 2)}, {Fraction(1, 4)}) or notes[0][0] or rolled:
        return ()
    beats = -(-len(notes) // 3)
    in_bar = 4 if len(bars) > 1 else beats
    found = []
    for number in range(-(-beats // in_bar)):
        hits: list[Hit] = []
        for place in range(3 * in_bar):
            _, struck = notes[(number * 3 * in_bar + place) % len(notes)]
            hits += (replace(hit, at=place * THIRD) for hit in struck)
        found.append(
            Bar(
                bars[0].number if not number else str(number + 1), Meter(in_bar, 4), tuple(hits)
            )
        )
    return tuple(found)


def to_toms(bars: Sequence[Bar], lead: Hand = Hand.RIGHT) -> Bars:
    """The accents on the toms in turn, down the kit; the rest on the snare, alternating."""
    count, found = 0, []
    for bar in alternating(bars, lead):
        hits = []
        for hit in bar.hits:
            loud = hit.touch.loud and not hit.drum.by_foot
            drum = TOMS[count % len(TOMS)] if loud else hit.drum
            hits.append(replace(hit, drum=drum))
            count += loud
        found.append(replace(bar, hits=tuple(hits)))
    return tuple(found)


def to_cymbals(bars: Sequence[Bar], lead: Hand = Hand.RIGHT) -> Bars:
    """The accents on a crash with the kick under it."""
    found = []
    for bar in alternating(bars, lead):
        hits = []
        for hit in bar.hits:
            loud = hit.touch.loud and not hit.drum.by_foot
            hits.append(replace(hit, drum=Drum.CRASH) if loud else hit)
            hits += [Hit(hit.at, Drum.KICK)] if loud else []
        found.append(replace(bar, hits=tuple(hits)))
    return tuple(found)


def to_the_kick(bars: Sequence[Bar], hands: Hands) -> Bars:
    """The accents on the kick, under time that is kept and a backbeat."""
    time = cymbal(hands)
    if hands in BY_BOTH_HANDS:
        time = {at: hit for at, hit in time.items() if at not in BACKBEAT}
    kept = (*time.values(), *(Hit(at, Drum.SNARE) for at in BACKBEAT))
    return tuple(
        replace(
            bar, hits=(*kept, *(Hit(hit.at, Drum.KICK) for hit in bar.hits if hit.touch.loud))
        )
        for bar in bars
    )
