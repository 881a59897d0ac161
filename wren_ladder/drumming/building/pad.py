"""From the pad to the kit: the sticking on one surface first, then moved to the drums.

Common practice, no source.
"""

from collections import Counter
from collections.abc import Sequence
from itertools import groupby

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Drum, Hit
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.findings.playing import hat_closings
from wren_ladder.drumming.hands import Stick
from wren_ladder.drumming.hands.limbs import HAND_OF
from wren_ladder.drumming.hands.strokes import HEIGHTS
from wren_ladder.drumming.wording import listed


def on_the_pad(bar: Bar, sticks: Sequence[Stick]) -> Bar:
    """Hands on one surface, with their sticking; the kick stays. Where both hands strike at
    once the pad has one note, and ``both_hands`` says so."""
    hits: list[Hit] = []
    for at, together in _moments(sticks):
        hands = [stick for stick in together if stick.hand]
        hits += [stick.hit for stick in together if stick.hit.drum is Drum.KICK]
        if hands:
            loudest = max(hands, key=lambda stick: HEIGHTS[stick.hit.touch])
            hand, hit = loudest.hand if len(hands) == 1 else None, loudest.hit
            hits.append(Hit(at, Drum.SNARE, hit.touch, hit.grace, hit.roll, hand))
    return bar.in_notes(hits=tuple(hits), marks=())


def to_the_kit(bar: Bar, sticks: Sequence[Stick]) -> tuple[str, ...]:
    """The move in words: each hand's own drum, then every exception: "right hand to the
    hat", "left hand to the snare", "right hand to the floor tom on 4 and 4&"."""
    frame = Positions.of(bar)
    said: list[str] = []
    exceptions: dict[tuple[str, str], list[str]] = {}
    for limb in HAND_OF:
        mine = [stick.hit for stick in sticks if stick.limb is limb]
        if not mine:
            continue
        home, _ = Counter(hit.drum.surface for hit in mine).most_common(1)[0]
        name = next(hit.drum for hit in mine if hit.drum.surface is home)
        plain = Drum.HIHAT if name.surface is Drum.HIHAT.surface else name
        said.append(f"{limb} to the {plain.spoken}")
        for hit in mine:
            if hit.drum is not plain:
                where = exceptions.setdefault((limb.value, hit.drum.spoken), [])
                where.append(frame.say(hit.at))
    said += (
        f"{limb} to the {drum} on {listed(places)}"
        for (limb, drum), places in exceptions.items()
    )
    both = [frame.say(at) for at, group in _moments(sticks) if _by_hand(group) == 2]
    if both:
        said.append(f"both hands together on {listed(both)}")
    return tuple(said)


def note_by_note(bar: Bar, sticks: Sequence[Stick]) -> tuple[str, ...]:
    """Every moment by itself: one stroke, stop, name what sounds together, next.

    "1: kick and hat together", "1&: the hat opens", "2: snare; the hat closes, stick and foot
    as one".
    """
    frame = Positions.of(bar)
    closing = {hit.at for hit in hat_closings(bar)}
    lines = []
    for at, together in _moments(sticks):
        names = [_said(stick) for stick in together if not _is_hat_change(stick.hit, closing)]
        line = listed(names)
        if len(names) > 1:
            line += " together"
        opens = [stick.hit for stick in together if stick.hit.drum is Drum.HIHAT_OPEN]
        changes = ["the hat opens"] if opens else []
        if at in closing:
            changes.append("the hat closes, stick and foot as one")
        said = "; ".join(part for part in (line, *changes) if part)
        lines.append(f"{frame.say(at)}: {said}")
    return tuple(lines)


def _is_hat_change(hit: Hit, closing: set[Fraction]) -> bool:
    closes = hit.drum is Drum.HIHAT and hit.at in closing
    return hit.drum is Drum.HIHAT_OPEN or closes


def _said(stick: Stick) -> str:
    hit = stick.hit
    words = [] if hit.touch.value == "normal" else [hit.touch.value]
    words.append(hit.drum.spoken)
    if hit.roll:
        words.append("roll")
    if hit.grace.notes:
        words.insert(-1, str(hit.grace))
    if stick.limb and stick.hand and not stick.in_groove:
        words.append(f"({stick.limb.value})")
    return " ".join(words)


def _moments(sticks: Sequence[Stick]) -> list[tuple[Fraction, list[Stick]]]:
    """What sounds together, in time order."""
    ordered = sorted(sticks, key=lambda stick: stick.hit.at)
    return [(at, list(group)) for at, group in groupby(ordered, key=lambda s: s.hit.at)]


def _by_hand(together: Sequence[Stick]) -> int:
    return sum(stick.hand is not None for stick in together)
