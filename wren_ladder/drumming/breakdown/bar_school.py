"""Bar school: every new bar alone, then the joins, the phrases, and the whole piece."""

from wren_ladder.drumming.breakdown.step import REPEATS, Step, StepKind, bar_numbers
from wren_ladder.drumming.phrases import phrases
from wren_ladder.drumming.study import Study


def break_down(study: Study) -> tuple[Step, ...]:
    """The steps of a piece in the order they are taught; equal bars are learned once.

    A bar of rests alone needs no step, and neither does a join or a phrase that is the
    same music as an earlier one.
    """
    return (*_new_bars(study), *_pairs(study), *_phrases(study), *_whole(study))


def _new_bars(study: Study):
    kinds = study.kinds
    for index, studied in enumerate(study.bars):
        if studied.twin_of is not None or not studied.bar.hits:
            continue
        again = [
            other.bar
            for other, first in zip(study.bars, kinds, strict=True)
            if first == index and other.bar is not studied.bar
        ]
        reasons = [*studied.trouble]
        if again:
            reasons.append(f"learned once for {bar_numbers(again)} too")
        why = "; ".join(reasons) or "a bar of its own"
        yield Step(StepKind.BAR, index, index, REPEATS[StepKind.BAR], why)


def _pairs(study: Study):
    """Each join that is new music: the end of one bar into the start of the next."""
    kinds = study.kinds
    starts = {phrase.first for phrase in phrases(study.chart.bars)}
    seen: set[tuple[int, int]] = set()
    for index in range(len(kinds) - 1):
        pair = (kinds[index], kinds[index + 1])
        same = pair[0] == pair[1]
        silent = not any(study.bars[i].bar.hits for i in (index, index + 1))
        if same or silent or pair in seen:
            continue
        seen.add(pair)
        where = "line to line" if index + 1 in starts else "bar to bar"
        both = study.bars[index : index + 2]
        watch = dict.fromkeys(reason for bar in both for reason in bar.trouble[:1])
        why = f"the join {where}: {'; '.join(watch) or 'joins fail more often than bars'}"
        yield Step(StepKind.PAIR, index, index + 1, REPEATS[StepKind.PAIR], why)


def _phrases(study: Study):
    kinds = study.kinds
    found = phrases(study.chart.bars)
    seen: set[tuple[int, ...]] = set()
    if len(found) < 2:
        return
    for phrase in found:
        music = tuple(kinds[phrase.first : phrase.last + 1])
        if music in seen or len(music) < 3:
            continue
        seen.add(music)
        why = "a phrase in one breath"
        yield Step(StepKind.PHRASE, phrase.first, phrase.last, REPEATS[StepKind.PHRASE], why)


def _whole(study: Study):
    last = len(study.bars) - 1
    if last:
        why = f"along the road map, {len(study.visits)} bars played"
        yield Step(StepKind.WHOLE, 0, last, REPEATS[StepKind.WHOLE], why)
