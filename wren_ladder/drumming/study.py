"""Everything known of a chart, put together."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from typing import Any

from wren_ladder.drumming.chart import Bar, Chart, Hand, Problem, Tempo
from wren_ladder.drumming.chart.gradual import Gradual
from wren_ladder.drumming.chart.serial import hit_to_json
from wren_ladder.drumming.chart.swing import STRAIGHT, Swing
from wren_ladder.drumming.counting import Count, count_bar, in_phrase
from wren_ladder.drumming.description.feel import Feel, feels
from wren_ladder.drumming.description.figures import figures
from wren_ladder.drumming.description.nearest import Difference, differences
from wren_ladder.drumming.description.phrases import Phrase, phrases
from wren_ladder.drumming.description.twins import twins
from wren_ladder.drumming.findings import Finding, Kind, Weighed, beyond, rank, watch_for, weigh
from wren_ladder.drumming.findings.conflicts import as_problems, hand_conflicts
from wren_ladder.drumming.findings.ground import ground
from wren_ladder.drumming.findings.playing import playing_findings
from wren_ladder.drumming.findings.traps import landings, traps
from wren_ladder.drumming.hands import Stick, Stroke, landing_hand, stick_bar, strokes_of
from wren_ladder.drumming.performance import PlayedBar, played_along, road_seconds
from wren_ladder.drumming.roadmap import Turn, Visit, road_map
from wren_ladder.drumming.rudiments import FoundRudiment, find_rudiments
from wren_ladder.drumming.style import HOUSE, Reason, Style

CHANGED = Kind(
    "changed",
    lambda one: one["difference"].changes_spoken,
    Reason.CHANGE,
    lambda one: one["difference"].size,
    moments=lambda one: frozenset(change.at for change in one["difference"].changes),
)


@dataclass(frozen=True, slots=True)
class BarStudy:
    bar: Bar
    counts: tuple[Count, ...]
    sticks: tuple[Stick, ...]
    strokes: tuple[Stroke, ...]
    figures: tuple[str, ...]
    rudiments: tuple[FoundRudiment, ...]
    findings: tuple[Finding, ...]  # what its notes and hands ask for, at its printed tempo
    twin_of: int | None  # index of the first equal bar, None where the bar is new
    difference: Difference | None = None  # from the bar it is best taught from
    caught: tuple[Finding, ...] = ()  # its traps, which only the whole piece can tell
    landing: tuple[Finding, ...] = ()  # traps of the joins into it
    ground: tuple[Finding, ...] = ()  # in what it is the first of the piece
    weighed: tuple[Weighed, ...] = ()  # why it is hard, heaviest first
    swing: Swing = STRAIGHT
    feel: Feel | None = None

    @property
    def rank(self) -> float:
        """How hard the bar is, all reasons together."""
        return rank(self.weighed)

    @property
    def trouble(self) -> tuple[str, ...]:
        """What to watch for, in words, most telling first."""
        moved = tuple(str(one) for one in self.ground)
        return (*moved, *watch_for(self.findings))

    @property
    def trap_words(self) -> tuple[str, ...]:
        return tuple(str(one) for one in (*self.caught, *self.landing))

    @property
    def traps(self) -> tuple[str, ...]:
        """What will catch who plays by habit, in words: "trap: snare on 4&, where …"."""
        return tuple(f"trap: {said}" for said in self.trap_words)


@dataclass(frozen=True)  # without slots: what is asked for often is kept
class Study:
    chart: Chart
    bars: tuple[BarStudy, ...]
    visits: tuple[Visit, ...]
    turns: tuple[Turn, ...]  # where the road does not simply go on
    tempos: tuple[Tempo, ...]  # as printed, of each bar
    graduals: tuple[tuple[Gradual, ...], ...]  # what bends them
    seconds: float  # one run at them
    warnings: tuple[Problem, ...]

    @cached_property
    def kinds(self) -> tuple[int, ...]:
        """For each bar the index of the first bar equal to it, its own where it is new."""
        return tuple(
            index if bar.twin_of is None else bar.twin_of for index, bar in enumerate(self.bars)
        )

    def again(self, index: int) -> list[str]:
        """The numbers of the other bars that are equal to one."""
        kinds = self.kinds
        return [
            bar.number
            for place, bar in enumerate(self.chart.bars)
            if kinds[place] == kinds[index] and place != index
        ]

    def played(self, order: Iterable[int]) -> tuple[PlayedBar, ...]:
        """The bars at these places, to be performed."""
        bars = [(bar.bar, bar.sticks) for bar in self.bars]
        swings = [bar.swing for bar in self.bars]
        return played_along(bars, self.tempos, swings, self.graduals, order)

    @property
    def road(self) -> tuple[PlayedBar, ...]:
        """The whole piece along its road map, to be performed."""
        return self.played(visit.index for visit in self.visits)

    def taught_from(self, bar: BarStudy) -> str:
        """ "2 with the hat open on 4&": the bar it is best taught from; "" for none."""
        if bar.difference is None:
            return ""
        return bar.difference.spoken(self.chart.bars[bar.difference.source].number)


def study(chart: Chart, style: Style = HOUSE, warnings: tuple[Problem, ...] = ()) -> Study:
    """Study a whole chart; ``warnings`` from reading it are carried along."""
    road = road_map(chart.bars, style.repeats_after_jump)
    firsts = twins(chart.bars)
    bars: list[BarStudy] = []
    faults: list[Problem] = []
    studied: dict[tuple, BarStudy] = {}  # equal bars are studied once
    hand: Hand | None = None  # that a roll of the bar before ends with
    page = zip(chart.bars, firsts, chart.tempos, chart.swings, strict=True)
    for index, (bar, first, tempo, swing) in enumerate(page):
        key = (first, tempo, swing, hand)
        if key not in studied:
            studied[key] = study_bar(bar, tempo, style, swing, hand)
        hand = landing_hand(studied[key].sticks, bar)
        twin_of = None if first == index else first
        bars.append(replace(studied[key], bar=bar, twin_of=twin_of))
        faults += as_problems(hand_conflicts(bars[-1].sticks, bar), bar)
    apart = differences([_as_settled(bar, style) for bar in chart.bars], firsts)
    caught = traps(chart.bars, firsts, road.visits)
    felt = feels(chart.bars, chart.swings)
    moved = ground(chart.bars, firsts, felt)
    landed: dict[int, list[Finding]] = {}  # they belong to the join, not to the bar
    for (_, landing), found in landings(chart.bars, road.visits, chart.tempos, style).items():
        landed.setdefault(landing, []).append(found)
    bars = [
        replace(
            bar,
            difference=None if bar.twin_of is not None else apart[i],
            caught=caught[i],
            landing=tuple(landed.get(i, ())),
            ground=moved[i],
            feel=felt[i],
        )
        for i, bar in enumerate(bars)
    ]
    bars = [replace(bar, weighed=_weighed(bar, bars, style)) for bar in bars]
    if style.phrase_count:
        bars = _counted_in_phrases(chart.bars, bars)
    return Study(
        chart=chart,
        bars=tuple(bars),
        visits=road.visits,
        turns=road.turns,
        tempos=chart.tempos,
        graduals=chart.graduals,
        seconds=road_seconds(chart, road.visits),
        warnings=(*warnings, *road.problems, *faults),
    )


def _as_settled(bar: Bar, style: Style) -> Bar:
    """The bar without the hands that it would have anyway: bars are compared by what is played,
    and not by what is typed."""
    if not any(hit.hand for hit in bar.hits):
        return bar
    plain = replace(bar, hits=tuple(replace(hit, hand=None) for hit in bar.hits))
    settled, typed = stick_bar(plain, style), stick_bar(bar, style)
    same = [stick.limb for stick in settled] == [stick.limb for stick in typed]
    return plain if same else bar


def _weighed(bar: BarStudy, bars: Sequence[BarStudy], style: Style) -> tuple[Weighed, ...]:
    """A bar that is taught from another is as hard as the change, with its own traps."""
    found = own_findings(bar.findings, bar, bars)
    return weigh((*found, *bar.caught, *bar.ground), style)


def own_findings(
    found: Sequence[Finding], bar: BarStudy, bars: Sequence[BarStudy]
) -> list[Finding]:
    """Of what is found in a bar, what it does not have from the bar it is taught from; and
    that change."""
    if bar.difference is None:
        return list(found)
    source = bars[bar.difference.source]
    return [*beyond(found, source.findings), CHANGED.found(difference=bar.difference)]


def _counted_in_phrases(page: Sequence[Bar], bars: Sequence[BarStudy]) -> list[BarStudy]:
    places = {
        index: place
        for phrase in phrases(page)
        for place, index in enumerate(_full_bars(page, phrase), start=1)
    }
    return [
        replace(bar, counts=in_phrase(bar.counts, places[index])) if index in places else bar
        for index, bar in enumerate(bars)
    ]


def _full_bars(page: Sequence[Bar], phrase: Phrase) -> list[int]:
    return [i for i in range(phrase.first, phrase.last + 1) if not page[i].pickup]


@lru_cache(maxsize=4096)
def study_bar(
    bar: Bar,
    tempo: Tempo,
    style: Style = HOUSE,
    swing: Swing = STRAIGHT,
    first: Hand | None = None,
) -> BarStudy:
    """One bar by itself, as a new one, at a tempo; ``first`` is the hand with which a roll of
    the bar before ends in it. Remembered, for while a chart is edited all its bars but one
    stay as they are."""
    sticks = stick_bar(bar, style, first)
    found = playing_findings(bar, sticks, tempo, style, swing=swing)
    return BarStudy(
        bar=bar,
        counts=count_bar(bar, style, swing),
        sticks=sticks,
        strokes=strokes_of(sticks),
        figures=figures(bar),
        # A groove is no rudiment, whatever its hands happen to spell.
        rudiments=find_rudiments(
            [(stick.hit, None if stick.in_groove else stick.hand) for stick in sticks],
            bar.meter.compound,
        ),
        findings=found,
        twin_of=None,
        weighed=weigh(found, style),
        swing=swing,
    )


def study_to_json(studied: Study) -> dict[str, Any]:
    """The object that ``wren study --json`` prints."""
    bars = studied.chart.bars
    return {
        "title": studied.chart.title,
        "bars": [_bar_to_json(bar, bars) for bar in studied.bars],
        "play_order": [bars[visit.index].number for visit in studied.visits],
        "seconds": round(studied.seconds, 3),
        "warnings": [str(problem) for problem in studied.warnings],
    }


def _bar_to_json(studied: BarStudy, bars: tuple[Bar, ...]) -> dict[str, Any]:
    hits = []
    for stick in studied.sticks:
        hit = hit_to_json(stick.hit)
        hit["hand"] = stick.hand.value if stick.hand else None
        hits.append(hit)
    return {
        "number": studied.bar.number,
        "meter": str(studied.bar.meter),
        "hits": hits,
        "counts": [
            {"at": str(count.at), "say": count.say, "silent": count.silent}
            for count in studied.counts
        ],
        "figures": list(studied.figures),
        "twin_of": None if studied.twin_of is None else bars[studied.twin_of].number,
        "trouble": list(studied.trouble),
    }
