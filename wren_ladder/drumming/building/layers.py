"""Layers: a bar built up from what is plain, and taken apart into limbs.

Plain rhythm, then accents, flams, drags, and rolls last: their skeleton first, then doubled.
A groove begins with its cymbal pulse. Common practice, no source.
"""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache, partial
from typing import NamedTuple

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Chart, Drum, Grace, Hit, Roll, Surface, Touch
from wren_ladder.drumming.chart.drum import SECTION_CRASHES
from wren_ladder.drumming.description.timekeeping import cymbal_name, fill_start, timekeeper
from wren_ladder.drumming.hands import Stick
from wren_ladder.drumming.hands.limbs import Limb
from wren_ladder.drumming.rudiments import roll_skeleton
from wren_ladder.drumming.wording import Coded

LOOSE_STEP = Fraction(1, 4)  # between the hand motions of a roll without a count: semiquavers


class LayerCode(Coded):
    """From the plainest to the whole bar."""

    FILL = "fill", "the fill on the pad"
    HANDS = "hands", "hands alone"
    CYMBAL_KICK = "cymbal-kick", "cymbal and kick"  # pairs of limbs, taken out of a groove
    KICK_HAND = "kick-hand", "kick and the other hand"
    CYMBAL_HAT_FOOT = "cymbal-hat-foot", "cymbal and hat foot"
    FEET_ALONE = "feet-alone", "both feet alone"
    RHYTHM = "rhythm", "plain rhythm"
    PULSE = "pulse", "cymbal pulse"
    FEET = "feet", "+ feet"
    BACKBEAT = "backbeat", "+ backbeat, plain"
    OPEN_HATS = "open-hats", "+ open hats"
    ACCENTS = "accents", "+ accents"
    FLAMS = "flams", "+ flams"
    DRAGS = "drags", "+ drags"
    ROLL_SKELETONS = "roll-skeletons", "+ roll skeletons"
    WHOLE = "whole", "everything"


@dataclass(frozen=True, slots=True)
class Layer:
    """What a bar is built up by: everything that the layer before has, and more."""

    name: str
    bar: Bar
    code: LayerCode

    @property
    def chart(self) -> Chart:
        return Chart(f"Bar {self.bar.number}, {self.name}", (self.bar,))


class Isolation(NamedTuple):
    """A limb of a bar alone, or some together."""

    name: str
    bar: Bar


@lru_cache(maxsize=1024)
def layers(bar: Bar) -> tuple[Layer, ...]:
    """From the plainest on, each with everything the one before has; the last is the bar."""
    skeleton = _with_skeletons(bar)
    found: list[Layer] = []
    for code, hits in (
        *_plain_layers(bar),
        (LayerCode.OPEN_HATS, _plain(bar)),
        (LayerCode.ACCENTS, _dressed(bar, Grace.NONE)),
        (LayerCode.FLAMS, _dressed(bar, Grace.FLAM)),
        (LayerCode.DRAGS, _dressed(bar, *Grace)),
        (LayerCode.ROLL_SKELETONS, skeleton),
    ):
        layer = bar.in_notes(hits=tuple(hits))
        if layer.hits and layer.hits != (found[-1].bar.hits if found else None):
            found.append(Layer(code.label, layer, code))
    while found and found[-1].bar.hits == bar.hits:
        found.pop()
    first = fill_start(bar)
    if first is not None and found:
        found.insert(0, Layer(LayerCode.FILL.label, _on_pad(bar, first), LayerCode.FILL))
    return (*found, Layer(LayerCode.WHOLE.label, bar, LayerCode.WHOLE))


def in_layer(bar: Bar, code: str) -> Bar:
    """The bar in one of its layers or pairs of limbs; the bar itself where it has no such
    layer any more."""
    built = (*layers(bar), *limb_pairs(bar))
    return next((layer.bar for layer in built if layer.code == code), bar)


def limb_pairs(bar: Bar) -> tuple[Layer, ...]:
    """Two limbs of a groove without the others, as it is played; of any other bar the hands.
    Those with nothing to play, or with everything, are left out."""
    keeper = timekeeper(bar)
    pairs = [(LayerCode.HANDS, [hit for hit in bar.hits if not hit.drum.by_foot])]
    if keeper is not None:
        kick = [hit for hit in bar.hits if hit.drum.surface is Surface.KICK]
        cymbal = [hit for hit in bar.hits if hit.drum.surface is keeper]
        other = [hit for hit in bar.hits if hit not in cymbal and not hit.drum.by_foot]
        foot = [hit for hit in bar.hits if hit.drum.by_foot and hit not in kick]
        pairs += [(LayerCode.CYMBAL_KICK, cymbal + kick), (LayerCode.KICK_HAND, kick + other)]
        if foot:
            pairs.append((LayerCode.CYMBAL_HAT_FOOT, cymbal + foot))
        if foot and kick:
            pairs.append((LayerCode.FEET_ALONE, kick + foot))
    found: dict[tuple[Hit, ...], Layer] = {}
    for code, hits in pairs:
        layer = bar.in_notes(hits=tuple(hits))
        if hits and layer.hits != bar.hits:
            found.setdefault(layer.hits, Layer(code.label, layer, code))
    return tuple(found.values())


PAIRS_WITH = {
    Limb.LEFT_FOOT: (LayerCode.CYMBAL_HAT_FOOT, LayerCode.FEET_ALONE),
    Limb.RIGHT_FOOT: (LayerCode.CYMBAL_KICK, LayerCode.KICK_HAND, LayerCode.FEET_ALONE),
}
WITH_A_HAND = (LayerCode.HANDS, LayerCode.CYMBAL_KICK, LayerCode.KICK_HAND)


def pairs_with(limb: Limb, pairs: Iterable[LayerCode]) -> tuple[LayerCode, ...]:
    """Of the pairs of a bar those that this limb is in."""
    return tuple(code for code in pairs if code in PAIRS_WITH.get(limb, WITH_A_HAND))


def _plain_layers(bar: Bar) -> list[tuple[LayerCode, list[Hit]]]:
    """The rhythm without touch or ornament; a groove's in three steps, its hat closed."""
    plain = [_closed(hit) for hit in _plain(bar)]
    keeper = timekeeper(bar)
    if keeper is None or all(hit.drum.surface is keeper for hit in plain):
        feet = any(hit.drum.by_foot for hit in plain)
        alone = [(LayerCode.HANDS, [h for h in plain if not h.drum.by_foot])] if feet else []
        return [*alone, (LayerCode.RHYTHM, plain)]
    pulse = [h for h in plain if h.drum.surface is keeper or _marks_the_section(h)]
    with_feet = [h for h in plain if h in pulse or h.drum.by_foot]
    return [
        (LayerCode.PULSE, pulse),
        (LayerCode.FEET, with_feet),
        (LayerCode.BACKBEAT, plain),
    ]


def _plain(bar: Bar) -> list[Hit]:
    """Without touch or ornament: ghosts come with the accents, not before."""
    return [
        replace(hit, touch=Touch.NORMAL, grace=Grace.NONE, roll=None)
        for hit in bar.hits
        if hit.touch is not Touch.GHOST
    ]


def _closed(hit: Hit) -> Hit:
    return replace(hit, drum=Drum.HIHAT) if hit.drum.surface is Surface.HIHAT else hit


def _on_pad(bar: Bar, first: Fraction) -> Bar:
    """What the hands play from there on, by itself and on one surface."""
    struck: dict[Fraction, Hit] = {}
    for hit in bar.hits:
        if hit.at >= first and not hit.drum.by_foot:
            struck.setdefault(hit.at, replace(hit, drum=Drum.SNARE))
    return bar.in_notes(hits=tuple(struck.values()))


def _marks_the_section(hit: Hit) -> bool:
    return hit.at == 0 and hit.drum.surface in SECTION_CRASHES


def _dressed(bar: Bar, *graces: Grace) -> list[Hit]:
    """With accents and ghosts, and of the ornaments only these."""
    return [
        replace(hit, grace=hit.grace if hit.grace in graces else Grace.NONE, roll=None)
        for hit in bar.hits
    ]


def _with_skeletons(bar: Bar) -> list[Hit]:
    """Every roll as the hand motions it is made of."""
    hits = [replace(hit, roll=None) for hit in bar.hits]
    struck = {(hit.at, hit.drum.surface) for hit in hits}
    for hit in bar.hits:
        if hit.roll is None:
            continue
        for at in motions(hit.at, hit.roll)[1:]:
            if (at, hit.drum.surface) not in struck:
                struck.add((at, hit.drum.surface))
                hits.append(Hit(at, hit.drum))
    return hits


def motions(at: Fraction, roll: Roll) -> list[Fraction]:
    """When the hands move in a roll that starts at ``at``, in crotchets; each motion is
    doubled afterwards. The note it ends on is not among them."""
    if roll.strokes:
        count = roll_skeleton(roll.strokes).motions
    else:
        count = max(1, int(roll.length / LOOSE_STEP))
    return [at + roll.length * place / count for place in range(count)]


def within(part: Bar, whole: Bar) -> bool:
    """Is every stroke of ``part`` in ``whole``, no stronger and no more ornamented than
    there? A motion of a roll counts as its roll."""
    return all(any(_covers(there, hit) for there in whole.hits) for hit in part.hits)


def _covers(there: Hit, hit: Hit) -> bool:
    closed = hit.drum is Drum.HIHAT and there.drum.surface is Surface.HIHAT
    if there.drum is not hit.drum and not closed:
        return False
    if there.roll and there.at < hit.at < there.at + there.roll.length:
        return hit.grace is Grace.NONE and hit.roll is None
    return (
        there.at == hit.at
        and hit.touch in (Touch.NORMAL, there.touch)
        and hit.grace in (Grace.NONE, there.grace)
        and hit.roll in (None, there.roll)
    )


def isolations(bar: Bar, sticks: Sequence[Stick]) -> tuple[Isolation, ...]:
    """Limbs alone and in pairs, those with something to play, the bar itself left out."""
    keeper = timekeeper(bar)
    tests: list[tuple[str, Callable[[Stick], bool]]] = [
        ("hands alone", lambda s: not s.hit.drum.by_foot)
    ]
    if keeper is not None:
        cymbal = cymbal_name(keeper)
        tests += [
            (f"{cymbal} and kick", lambda s: s.hit.drum.surface is keeper or _kick(s)),
            (f"{cymbal} and the other hand", lambda s: not s.hit.drum.by_foot),
            (
                "kick and the other hand",
                lambda s: s.hit.drum.surface is not keeper and s.limb is not Limb.LEFT_FOOT,
            ),
        ]
    tests += [(f"{limb.value} alone", partial(_plays, limb)) for limb in Limb]
    found: dict[tuple[Hit, ...], Isolation] = {}
    for name, wanted in tests:
        mine = [stick for stick in sticks if wanted(stick)]
        hits = tuple(stick.hit for stick in mine)
        if hits and hits != bar.hits:  # each stroke stays with the hand that has it in the bar
            kept = tuple(replace(stick.hit, hand=stick.hand) for stick in mine)
            found.setdefault(hits, Isolation(name, bar.in_notes(hits=kept)))
    return tuple(found.values())


def _plays(limb: Limb, stick: Stick) -> bool:
    return stick.limb is limb


def _kick(stick: Stick) -> bool:
    return stick.hit.drum is Drum.KICK
