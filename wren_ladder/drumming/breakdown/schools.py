"""The three schools of breaking a piece down, for one player.

Bar school: every new bar that asks for it alone, then the line, in which its easy bars are
learned together, the sections, the whole.
Phrase school: sections of eight first, and further down only where needed.
Layer school: each bar built in layers.
A join is a step where it has a reason of its own, or lies in no line or section.
Common practice, no source.
"""

from collections.abc import Mapping, Sequence
from itertools import pairwise

from wren_ladder.drumming.breakdown.chunks import Section, sections, with_pickup
from wren_ladder.drumming.breakdown.helps import ends_busily, helps, is_landing
from wren_ladder.drumming.breakdown.step import PARTS, RUN_THROUGH, RUNS, Step, StepKind
from wren_ladder.drumming.building.layers import LayerCode, layers
from wren_ladder.drumming.building.parts import Part, middle
from wren_ladder.drumming.chart import Bar, Surface
from wren_ladder.drumming.description.figures import CROTCHET_TRIPLET, SPANNING, beat_figures
from wren_ladder.drumming.description.phrases import Phrase
from wren_ladder.drumming.findings import Finding, Weighed, watch_for, worth_telling
from wren_ladder.drumming.judging.judgement import (
    Join,
    JoinKind,
    Judgement,
    Player,
    fresh_to,
    judge,
)
from wren_ladder.drumming.judging.syllabus import Kind as VocabularyKind
from wren_ladder.drumming.judging.syllabus import Status as Vocabulary
from wren_ladder.drumming.study import Study
from wren_ladder.drumming.style import School
from wren_ladder.drumming.wording import listed

# What helps to build a bar, and is not needed once the bar is there.
SCAFFOLD = (*PARTS, StepKind.ON)
# Ranks from which a bar gets more care; the house's.
SIMPLE, HARD, TOUGH = 1.2, 2.2, 4.2
BEGINNER = 1  # the last grade for which the first backbeat is new
ALL = float("inf")  # of a very long piece only sections are taken out
CARES = (SIMPLE, 1.5, 1.8, HARD, 2.8, TOUGH, ALL)
JOINED = 0.5  # rank of a join from which it is a step of its own
OVER_TWO_BEATS = (SPANNING, CROTCHET_TRIPLET)  # no figure of one beat to be set by itself
MOST_LINES = 80  # of a plan that a teacher hands out; what helps to build a bar is no line
FEWEST, SOME, MOST = 4, 6, 8  # repeats of a bar or a join
RUN = 4  # times through a line or a section
TOLD_IN_LINE = 3  # easy bars that a line tells of
WATCHED = 3  # things a player can watch for at once
WHY_LAYER = {
    LayerCode.PULSE: "the pulse first, even and light",
    LayerCode.FEET: "the kick under the pulse",
    LayerCode.BACKBEAT: "the other hand joins, nothing stressed yet",
    LayerCode.FILL: "the fill by itself, on one surface",
    LayerCode.OPEN_HATS: "the hat opened; until here it stayed closed",
    LayerCode.HANDS: "the sticking by itself",
    LayerCode.RHYTHM: "the rhythm without touch or ornament",
    LayerCode.ACCENTS: "loud and soft, still without ornaments",
    LayerCode.FLAMS: "flams: one grace, low",
    LayerCode.DRAGS: "drags: two, bounced",
    LayerCode.ROLL_SKELETONS: "the hand motions of the rolls, not yet doubled",
}


def break_down(
    study: Study, player: Player | None = None, judged: Judgement | None = None
) -> tuple[Step, ...]:
    """The steps of a piece in the order they are taught, by the player's school.

    Equal bars are built once; a bar of rests alone needs no step, and neither does a bar
    that the player knows.
    """
    player = player or Player()
    judged = judged or judge(study, player)
    steps: tuple[Step, ...] = ()
    new = _new_figures(study, player)
    first_beat = _first_beat(study, player)
    for care in CARES:  # a long piece is told in larger lines
        school = player.style.school
        steps = _Planner(study, judged, school, care, new, first_beat).plan()
        if sum(step.kind not in SCAFFOLD for step in steps) <= MOST_LINES:
            break
    return steps


def _new_figures(study: Study, player: Player) -> dict[int, list[tuple[str, str]]]:
    """By bar, (name, beat) of the figures that the player meets there for the first time."""
    found: dict[int, list[tuple[str, str]]] = {}
    for item in fresh_to(study, player, Vocabulary.NEW):
        if item.kind is VocabularyKind.FIGURE and item.name not in OVER_TWO_BEATS:
            bar = study.bars[item.bars[0]].bar
            start = next(at for at, name in beat_figures(bar) if name == item.name)
            found.setdefault(item.bars[0], []).append((item.name, bar.beat_of(start)))
    return found


def _each_once(weighed: Sequence[Weighed]) -> list[str]:
    """The reasons in words; what another has named already is not told again."""
    told: list[str] = []
    for one in worth_telling(weighed):
        if not any(one.text in said for said in told):
            told.append(one.text)
    return told


def _first_beat(study: Study, player: Player) -> int | None:
    """The first bar in which kick and snare share the time, None where that is nothing to
    learn: for an absolute beginner the first backbeat is a step of its own."""
    if player.grade is None or player.grade > BEGINNER:
        return None
    drums = {Surface.KICK, Surface.SNARE}
    return next(
        (
            index
            for index, bar in enumerate(study.bars)
            if bar.twin_of is None and drums <= {hit.drum.surface for hit in bar.bar.hits}
        ),
        None,
    )


class _Planner:
    """Writes the steps down, remembering which music has been built, joined and run."""

    def __init__(
        self,
        study: Study,
        judged: Judgement,
        school: School,
        care: float,
        new_figures: Mapping[int, Sequence[tuple[str, str]]],
        first_beat: int | None,
    ) -> None:
        self.study, self.judged, self.school = study, judged, school
        self.new_figures = new_figures
        self.first_beat = first_beat  # that a beginner learns by itself
        self.care = care  # the rank from which a bar is taken out of its line
        self.kinds = study.kinds
        # By their music, the joins of neighbours on the page that the road takes.
        self.meetings = {
            (self.kinds[join.leaving], self.kinds[join.landing]): join
            for join in reversed(judged.joins)
            if join.kind is not JoinKind.JUMP
        }
        self.steps: list[Step] = []
        self.taken_out: set[int] = set()  # kinds that are steps of their own
        self.built: set[int] = set()
        self.joined: set[tuple[int, int]] = set()
        self.run_through: set[tuple[int, ...]] = set()
        self.told: set[int] = set()  # bars that a line says how to learn
        self.in_runs: set[tuple[int, int]] = set()  # joins that some line or section has

    def plan(self) -> tuple[Step, ...]:
        for section in sections(self.study.chart.bars):
            self.section(section)
        self.jumps()
        self.whole()
        return tuple(self.steps)

    def section(self, section: Section) -> None:
        for phrase in section.phrases:
            self.phrase(phrase, section)
        if len(section.phrases) > 1 or self.school is School.PHRASE:
            self.run(StepKind.SECTION, section.first, section.last, section.name)
        for index in range(max(1, section.first), section.last + 1):
            self.join(index - 1, index, in_no_run=True)

    def phrase(self, phrase: Phrase, section: Section) -> None:
        """Its bars, the joins inside it and into it, then the line: which may take its
        pick-up from the line before."""
        alone = len(section.phrases) == 1
        by_section = self.school is School.PHRASE or (self.care == ALL and not alone)
        line = section if by_section else phrase
        in_line = self._runs(line.first, line.last)
        for index in range(phrase.first, phrase.last + 1):
            self.bar(index, in_line)
        for index in range(phrase.first, phrase.last):
            self.join(index, index + 1)
        if phrase.first:
            self.join(phrase.first - 1, phrase.first)
        if not by_section:
            name = phrase.section if alone else ""
            self.run(StepKind.PHRASE, phrase.first, phrase.last, name)

    def bar(self, index: int, in_line: bool) -> None:
        """A bar that asks for it alone; an easy one is learned in its line."""
        kind = self.kinds[index]
        if kind in self.built or not self.study.bars[kind].bar.hits:
            return
        self.built.add(kind)
        if self.judged.known[kind] or is_landing(self.study.bars[kind].bar):
            return
        rank = self.judged.bars[kind].rank
        if in_line and not self._alone(kind, rank):
            return
        for name, beat in self.new_figures.get(kind, ()):
            self.add(StepKind.FIGURE, kind, kind, f"new: {name}, by itself on the snare", beat)
        self.parts(kind, rank)
        self.add(StepKind.BAR, kind, kind, self._why_bar(kind))
        follows = self.judged.join(index, index + 1)
        lands = follows and (follows.weighed or ends_busily(self.study.bars[kind]))
        if rank >= HARD and lands and self.school is School.BAR:
            why = "where it lands: the bar, then the next first note"
            if any(hit.at == 0 for hit in self.study.bars[index + 1].bar.hits):
                self.add(StepKind.ON, index, index + 1, why)

    def _alone(self, kind: int, rank: float) -> bool:
        """Is the bar taken out of its line? In the phrase school where it is hard; else also
        where it is the first of its like and no other bar leads to it."""
        if kind == self.first_beat:
            return True
        if self.school is School.PHRASE:
            return rank >= max(HARD, self.care)
        new = self.study.bars[kind].difference is None and self.care <= HARD
        return new or rank >= self.care

    def parts(self, kind: int, rank: float) -> None:
        """What comes before the bar itself: layers, or notes and halves where it is hard. A bar
        taught by one change is one step."""
        studied = self.study.bars[kind]
        one_change = studied.difference and len(studied.difference.changes) == 1
        if one_change or (rank < HARD and self.school is not School.LAYER):
            return
        bar = studied.bar
        if self.school is School.LAYER:
            for layer in layers(bar)[:-1]:
                self.add(StepKind.LAYER, kind, kind, WHY_LAYER[layer.code], layer.code)
            return
        catch = self.judged.bars[kind]
        weighed = catch.weighed if catch.own is None else ()
        for kind_of_help in helps(studied, weighed, rank >= TOUGH):
            self._help(kind_of_help, kind, bar, rank)

    def _help(self, of: StepKind, kind: int, bar: Bar, rank: float) -> None:
        if of is StepKind.NOTES:
            why = f"one of the toughest, {rank:.1f}: one stroke, stop, say what sounds"
            self.add(StepKind.NOTES, kind, kind, why)
        elif of is StepKind.LAYER:
            for layer in layers(bar)[-2:-1]:
                self.add(StepKind.LAYER, kind, kind, WHY_LAYER[layer.code], layer.code)
        elif _has_two_halves(bar):
            self.add(
                StepKind.HALF, kind, kind, f"hard, {rank:.1f}: in halves first", Part.FIRST
            )
            self.add(StepKind.HALF, kind, kind, "the other half", Part.SECOND)

    def join(self, leaving: int, landing: int, in_no_run: bool = False) -> None:
        """The join of two neighbours, once for the same music: where it has a reason of its
        own, or, asked for ``in_no_run``, where no line or section has it. Not where the road
        never goes from such a bar to such another."""
        pair = (self.kinds[leaving], self.kinds[landing])
        join = self.judged.join(leaving, landing) or self.meetings.get(pair)
        if join is None or pair in self.joined or pair[0] == pair[1]:
            return
        known = self.judged.known[join.leaving] and self.judged.known[join.landing]
        reason = join.rank >= min(JOINED, self.care) and self.care < ALL
        lands = is_landing(self.study.bars[pair[1]].bar)
        wanted = reason or (in_no_run and pair not in self.in_runs and not lands)
        if not wanted or self._silent(*pair) or (known and not join.weighed):
            return
        self.joined.add(pair)
        why = "; ".join(one.text for one in join.weighed) or "joins fail more often than bars"
        self.add(
            StepKind.PAIR, join.leaving, join.landing, f"{join.kind.value}: {why}", join=join
        )

    def jumps(self) -> None:
        for join in self.judged.joins:
            if join.kind is JoinKind.JUMP and not self._silent(join.leaving, join.landing):
                why = "; ".join(one.text for one in join.weighed) or "a turn of the road"
                self.add(StepKind.JUMP, join.leaving, join.landing, why, join=join)

    def run(self, kind: StepKind, first: int, last: int, name: str) -> None:
        """Straight through some bars, once for the same music."""
        sound = tuple(self.kinds[first : last + 1])
        if sound in self.run_through or not self._runs(first, last):
            return
        begin = with_pickup(self.study.chart.bars, first)
        self.run_through.add(sound)
        self.in_runs |= set(pairwise(self.kinds[begin : last + 1]))
        why = "a line in one breath" if kind is StepKind.PHRASE else "a section in one go"
        if self.school is School.PHRASE:
            taken = [k for k in dict.fromkeys(sound) if self._taken_out(k)]
            numbers = listed([self.study.bars[k].bar.number for k in taken])
            why += f"; only {numbers} before it" if taken else ", at sight"
        else:
            learned = [k for k in dict.fromkeys(sound) if self._learned_here(k)]
            if learned:
                told = [self._as_other(k) for k in learned[:TOLD_IN_LINE]]
                why += f"; in it {listed(told)}"
        if begin < first:
            why += f"; with the pick-up in bar {self.study.chart.bars[begin].number}"
        self.add(kind, begin, last, why)

    def _runs(self, first: int, last: int) -> bool:
        """Is there anything to run through from one bar to the other?"""
        sound = self.kinds[first : last + 1]
        music = {k for k in sound if self.study.bars[k].bar.hits}
        if not music or len(sound) < 2 or len(self.kinds) < 3:
            return False
        one_known = len(music) == 1 and self.judged.known[next(iter(music))]
        all_of_it = first == 0 and last == len(self.kinds) - 1
        return not (one_known or (all_of_it and self.school is not School.PHRASE))

    def _learned_here(self, kind: int) -> bool:
        """Is an easy bar learned in this line, being no step of its own?"""
        other = self.study.bars[kind].difference is not None
        return other and not self._taken_out(kind) and kind not in self.told

    def _as_other(self, kind: int) -> str:
        self.told.add(kind)
        bar = self.study.bars[kind]
        return f"{bar.bar.number} is {self.study.taught_from(bar)}"

    def _taken_out(self, kind: int) -> bool:
        return kind in self.taken_out

    def whole(self) -> None:
        last = len(self.kinds) - 1
        if last:
            why = f"along the road map, {len(self.study.visits)} bars played"
            self.add(StepKind.WHOLE, 0, last, why)

    def add(
        self,
        kind: StepKind,
        first: int,
        last: int,
        why: str,
        part: str = "",
        join: Join | None = None,
    ) -> None:
        rank = self._rank(kind, first, join)
        watch = [one.text for one in join.weighed] if join else []
        if kind not in (
            *RUN_THROUGH,
            StepKind.LAYER,
            StepKind.FIGURE,
        ):  # these leave out what is hard
            watch += [*self._watch(first, kind, part), *self._watch(last, kind, part)]
        if kind is StepKind.BAR:
            self.taken_out.add(first)
        self.steps.append(
            Step(
                kind,
                first,
                last,
                _repeats(kind, rank),
                why,
                part,
                gap=1 if rank >= HARD and kind not in (StepKind.LAYER, StepKind.FIGURE) else 0,
                watch=tuple(dict.fromkeys(watch))[:WATCHED],
                rank=rank,
            )
        )

    def _rank(self, kind: StepKind, first: int, join: Join | None) -> float:
        """Of the join itself, or of the bar; a run is paced by none, nor is a plain figure."""
        if join:
            return join.rank
        if kind in (*RUN_THROUGH, StepKind.FIGURE):
            return 0.0
        return self.judged.bars[first].rank

    def _watch(self, index: int, kind: StepKind, part: str) -> list[str]:
        """What to watch for in the bar, or in the half of it that is played."""
        bar = self.study.bars[index]
        if kind is not StepKind.HALF:
            return [*bar.trap_words, *bar.trouble]
        cut = middle(bar.bar)

        def inside(one: Finding) -> bool:
            return one.at is None or (one.at < cut) == (part == Part.FIRST)

        caught = [str(one) for one in bar.caught if inside(one)]
        return [*caught, *watch_for([one for one in bar.findings if inside(one)])]

    def _why_bar(self, kind: int) -> str:
        bar, catch = self.study.bars[kind], self.judged.bars[kind]
        said = []
        if catch.rank >= HARD:
            own = "" if catch.own is None else ", by your own rank"
            reasons = listed(_each_once(catch.weighed)[:2])
            said.append(f"hard, {catch.rank:.1f}{own}: {reasons}" if reasons else "hard")
        elif bar.trouble:
            said.append(bar.trouble[0])
        if bar.difference:
            said.append(f"taught as bar {self.study.taught_from(bar)}")
        again = self.study.again(kind)
        if again:
            said.append(f"learned once for {listed(again)} too")
        return "; ".join(said) or "a bar of its own"

    def _silent(self, leaving: int, landing: int) -> bool:
        return not any(self.study.bars[index].bar.hits for index in (leaving, landing))


def _has_two_halves(bar: Bar) -> bool:
    """Are there strokes in both?"""
    cut = middle(bar)
    return any(hit.at < cut for hit in bar.hits) and any(hit.at >= cut for hit in bar.hits)


def _repeats(kind: StepKind, rank: float) -> int:
    if kind is StepKind.WHOLE:
        return 1
    if kind in RUNS:
        return RUN
    if kind in (StepKind.FIGURE, StepKind.NOTES, StepKind.LAYER):
        return FEWEST
    return MOST if rank >= HARD else SOME if rank >= SIMPLE else FEWEST
