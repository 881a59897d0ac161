"""What a step needs before it, and whether a plan leaves anything out."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from wren_ladder.drumming.breakdown.helps import is_landing
from wren_ladder.drumming.breakdown.step import MEETINGS, PARTS, RUNS, Step, StepKind
from wren_ladder.drumming.building.layers import layers
from wren_ladder.drumming.judging.judgement import Judgement
from wren_ladder.drumming.study import Study

# From the smallest up; a step needs smaller ones.
LEVEL = {kind: level for level, kind in enumerate(StepKind)}


@dataclass(frozen=True, slots=True)
class _Part:
    """A step, the kinds of the bars it plays, and what those were best taught from."""

    step: Step
    sound: tuple[int, ...]
    source: int | None
    depth: int  # of a layer: how many are plainer
    kinds: frozenset[int]
    joins: frozenset[tuple[int, int]]  # by kinds
    places: frozenset[int]


def needs(steps: Sequence[Step], study: Study) -> tuple[tuple[int, ...], ...]:
    """For each step the places of those it needs, in any order; what those need in turn is
    left out. Asks only what the music says, not where the steps stand."""
    stacks: dict[int, list[str]] = {}
    for step in steps:
        if step.kind is StepKind.LAYER and step.first not in stacks:
            bar = study.bars[step.first].bar
            stacks[step.first] = [layer.code for layer in layers(bar)]
    kinds = study.kinds
    parts = [_part(step, study, kinds, stacks) for step in steps]
    begins_with: dict[int, list[int]] = {}  # whatever a step needs begins with a bar it knows
    for place, part in enumerate(parts):
        begins_with.setdefault(part.sound[0], []).append(place)
    direct = [
        {
            place
            for kind in (mine.kinds if mine.source is None else mine.kinds | {mine.source})
            for place in begins_with.get(kind, ())
            if parts[place] is not mine and _needs(mine, parts[place])
        }
        for mine in parts
    ]
    return tuple(
        tuple(sorted(mine - {far for near in mine for far in direct[near]})) for mine in direct
    )


def _part(
    step: Step, study: Study, kinds: Sequence[int], stacks: dict[int, list[str]]
) -> _Part:
    difference = study.bars[kinds[step.first]].difference
    names = stacks.get(step.first, []) if step.kind is StepKind.LAYER else []
    depth = names.index(step.part) if step.part in names else 0
    sound = tuple(kinds[index] for index in step.played)
    return _Part(
        step,
        sound,
        kinds[difference.source] if difference else None,
        depth,
        frozenset(sound),
        frozenset(pairwise(sound)),
        frozenset(step.played),
    )


def _needs(mine: _Part, other: _Part) -> bool:
    kind, smaller = mine.step.kind, other.step.kind
    if StepKind.OWN in (kind, smaller):
        return False
    if kind is StepKind.LAYER:
        same = smaller is kind and other.sound == mine.sound
        return same and other.depth < mine.depth
    if kind is StepKind.BAR:
        if smaller is StepKind.BAR:
            return other.sound[0] == mine.source
        return smaller in PARTS and other.sound == mine.sound
    if kind in MEETINGS:
        # The next bar is still to be built when only its first note is played.
        built = mine.sound[:1] if kind is StepKind.ON else mine.sound
        return smaller is StepKind.BAR and other.sound[0] in built
    if kind in PARTS or LEVEL[smaller] >= LEVEL[kind]:
        return False
    if smaller is StepKind.JUMP:
        return kind is StepKind.WHOLE
    if smaller in RUNS:  # those bars, not their like elsewhere
        return other.places <= mine.places
    return other.joins <= mine.joins and other.kinds <= mine.kinds


def left_out(steps: Sequence[Step], study: Study, judged: Judgement) -> list[str]:
    """The bars and joins of the road that no step short of the whole run builds, in words;
    what the player knows and what is silent is left out rightly."""
    kinds, bars = study.kinds, study.chart.bars
    built: set[int] = set()
    joined: set[tuple[int, int]] = set()
    for step in steps:
        sound = [kinds[index] for index in step.played]
        if step.kind in (*PARTS, StepKind.WHOLE):
            continue
        if step.kind is not StepKind.ON:
            built.update(sound)
            joined.update(pairwise(sound))
        if step.kind is StepKind.BAR:
            joined.add((sound[0], sound[0]))  # a loop joins a bar to itself
    built |= {kind for kind in kinds if judged.known[kind]}
    joined |= {(kind, kind) for kind in built}
    landings = {kind for kind in kinds if is_landing(bars[kind])}
    built |= landings
    missing = [
        f"bar {bars[kind].number}"
        for kind in dict.fromkeys(kinds)
        if bars[kind].hits and kind not in built
    ]
    for join in judged.joins:
        pair = (kinds[join.leaving], kinds[join.landing])
        known = judged.known[pair[0]] and judged.known[pair[1]] and not join.weighed
        silent = not (bars[pair[0]].hits or bars[pair[1]].hits)
        easy = pair[1] in landings and not join.weighed
        if pair not in joined and not known and not silent and not easy:
            missing.append(
                f"the join {bars[join.leaving].number} to {bars[join.landing].number}"
            )
    return missing
