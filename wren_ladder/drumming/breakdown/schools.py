"""The three schools of breaking a piece down, for one player.

Bar school: every new bar alone, then the joins, the lines, the sections, the whole.
Phrase school: sections of eight first, and further down only where needed.
Layer school: each bar built in layers. Common practice, no source.
"""

from wren_ladder.drumming.breakdown.chunks import Section, sections, with_pickup
from wren_ladder.drumming.breakdown.step import RUNS, Step, StepKind
from wren_ladder.drumming.building.layers import LayerCode, layers
from wren_ladder.drumming.building.parts import Part, first_half, middle, second_half
from wren_ladder.drumming.description.phrases import Phrase
from wren_ladder.drumming.judging.judgement import Join, JoinKind, Judgement, Player, judge
from wren_ladder.drumming.study import Study
from wren_ladder.drumming.style import School
from wren_ladder.drumming.wording import listed

# Ranks from which a bar gets more care; the house's.
SIMPLE, HARD, TOUGH = 1.5, 3.0, 5.0
TELLING = 0.5  # a reason that weighs less is not told
FEWEST, SOME, MOST = 4, 6, 8  # repeats of a bar or a join
RUN = 4  # times through a line or a section
WATCHED = 3  # things a player can watch for at once
WHY_LAYER = {
    LayerCode.PULSE: "the pulse first, even and light",
    LayerCode.FEET: "the kick under the pulse",
    LayerCode.BACKBEAT: "the other hand joins, nothing stressed yet",
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
    planner = _Planner(study, judged or judge(study, player), player.style.school)
    for section in sections(study.chart.bars):
        planner.section(section)
    planner.jumps()
    planner.whole()
    return tuple(planner.steps)


class _Planner:
    """Writes the steps down, remembering which music has been built, joined and run."""

    def __init__(self, study: Study, judged: Judgement, school: School) -> None:
        self.study, self.judged, self.school = study, judged, school
        self.kinds = study.kinds
        # By their music, the joins of neighbours on the page that the road takes.
        self.meetings = {
            (self.kinds[join.leaving], self.kinds[join.landing]): join
            for join in reversed(judged.joins)
            if join.kind is not JoinKind.JUMP
        }
        self.steps: list[Step] = []
        self.built: set[int] = set()
        self.joined: set[tuple[int, int]] = set()
        self.run_through: set[tuple[int, ...]] = set()

    def section(self, section: Section) -> None:
        for phrase in section.phrases:
            self.phrase(phrase, alone=len(section.phrases) == 1)
        if len(section.phrases) > 1 or self.school is School.PHRASE:
            self.run(StepKind.SECTION, section.first, section.last, section.name)

    def phrase(self, phrase: Phrase, alone: bool) -> None:
        """Its bars, the joins inside it and into it, then the line: which may take its
        pick-up from the line before."""
        for index in range(phrase.first, phrase.last + 1):
            self.bar(index)
        for index in range(phrase.first, phrase.last):
            self.join(index, index + 1)
        if phrase.first:
            self.join(phrase.first - 1, phrase.first)
        if self.school is not School.PHRASE:
            name = phrase.section if alone else ""
            self.run(StepKind.PHRASE, phrase.first, phrase.last, name)

    def bar(self, index: int) -> None:
        kind = self.kinds[index]
        if kind in self.built or not self.study.bars[kind].bar.hits:
            return
        self.built.add(kind)
        if self.judged.known[kind]:
            return
        rank = self.judged.bars[kind].rank
        if self.school is School.PHRASE and rank < HARD:
            return
        self.parts(kind, rank)
        self.add(StepKind.BAR, kind, kind, self._why_bar(kind))
        follows = self.judged.join(index, index + 1)
        if rank >= HARD and follows and self.school is School.BAR:
            why = "where it lands: the bar, then the next first note"
            if any(hit.at == 0 for hit in self.study.bars[index + 1].bar.hits):
                self.add(StepKind.ON, index, index + 1, why)

    def parts(self, kind: int, rank: float) -> None:
        """What comes before the bar itself: layers, or notes and halves where it is hard."""
        if rank < HARD and self.school is not School.LAYER:
            return
        bar = self.study.bars[kind].bar
        if self.school is School.LAYER:
            ornamented = any(hit.grace.notes or hit.roll for hit in bar.hits)
            for layer in layers(bar)[:-1] if rank >= SIMPLE or ornamented else ():
                self.add(StepKind.LAYER, kind, kind, WHY_LAYER[layer.code], layer.code)
            return
        if rank >= TOUGH:
            why = f"one of the toughest, {rank:.1f}: one stroke, stop, say what sounds"
            self.add(StepKind.NOTES, kind, kind, why)
        if middle(bar) < bar.length and first_half(bar).hits and second_half(bar).hits:
            self.add(
                StepKind.HALF, kind, kind, f"hard, {rank:.1f}: in halves first", Part.FIRST
            )
            self.add(StepKind.HALF, kind, kind, "the other half", Part.SECOND)

    def join(self, leaving: int, landing: int) -> None:
        """The join of two neighbours, once for the same music; not where the road never
        goes from such a bar to such another."""
        pair = (self.kinds[leaving], self.kinds[landing])
        join = self.judged.join(leaving, landing) or self.meetings.get(pair)
        if join is None or pair in self.joined or pair[0] == pair[1]:
            return
        self.joined.add(pair)
        if self._silent(*pair) or self._needs_no_join(join):
            return
        why = "; ".join(one.text for one in join.weighed) or "joins fail more often than bars"
        self.add(
            StepKind.PAIR, join.leaving, join.landing, f"{join.kind.value}: {why}", join=join
        )

    def _needs_no_join(self, join: Join) -> bool:
        """Known on both sides and nothing hard about it; in the phrase school the section
        has it unless it is hard."""
        known = self.judged.known
        both = known[join.leaving] and known[join.landing]
        by_section = self.school is School.PHRASE and join.kind is not JoinKind.SECTION
        return not join.weighed and (both or by_section)

    def jumps(self) -> None:
        for join in self.judged.joins:
            if join.kind is JoinKind.JUMP and not self._silent(join.leaving, join.landing):
                why = "; ".join(one.text for one in join.weighed) or "a turn of the road"
                self.add(StepKind.JUMP, join.leaving, join.landing, why, join=join)

    def run(self, kind: StepKind, first: int, last: int, name: str) -> None:
        """Straight through some bars, once for the same music."""
        begin = with_pickup(self.study.chart.bars, first)
        sound = tuple(self.kinds[first : last + 1])
        music = {k for k in sound if self.study.bars[k].bar.hits}
        if not music or len(sound) < 2 or sound in self.run_through or len(self.kinds) < 3:
            return
        one_known = len(music) == 1 and self.judged.known[next(iter(music))]
        all_of_it = first == 0 and last == len(self.kinds) - 1
        if one_known or (all_of_it and self.school is not School.PHRASE):
            return
        self.run_through.add(sound)
        why = "a line in one breath" if kind is StepKind.PHRASE else "a section in one go"
        if self.school is School.PHRASE:
            taken = [k for k in dict.fromkeys(sound) if self._taken_out(k)]
            numbers = listed([self.study.bars[k].bar.number for k in taken])
            why += f"; only {numbers} before it" if taken else ", at sight"
        if begin < first:
            why += f"; with the pick-up in bar {self.study.chart.bars[begin].number}"
        self.add(kind, begin, last, why)

    def _taken_out(self, kind: int) -> bool:
        return any(step.kind is StepKind.BAR and step.first == kind for step in self.steps)

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
            *RUNS,
            StepKind.WHOLE,
            StepKind.LAYER,
        ):  # a layer leaves out what is hard
            watch += [*self._watch(first), *self._watch(last)]
        self.steps.append(
            Step(
                kind,
                first,
                last,
                _repeats(kind, rank),
                why,
                part,
                gap=1 if rank >= HARD and kind is not StepKind.LAYER else 0,
                watch=tuple(dict.fromkeys(watch))[:WATCHED],
                rank=rank,
            )
        )

    def _rank(self, kind: StepKind, first: int, join: Join | None) -> float:
        """Of the join itself, or of the bar; a run is paced by none."""
        if join:
            return join.rank
        if kind in (*RUNS, StepKind.WHOLE):
            return 0.0
        return self.judged.bars[first].rank

    def _watch(self, index: int) -> list[str]:
        bar = self.study.bars[index]
        return [*bar.trap_words, *bar.trouble]

    def _why_bar(self, kind: int) -> str:
        bar, catch = self.study.bars[kind], self.judged.bars[kind]
        said = []
        if catch.rank >= HARD:
            own = "" if catch.own is None else ", by your own rank"
            told = [one.text for one in catch.weighed if one.score >= TELLING]
            reasons = listed(told[:2])
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


def _repeats(kind: StepKind, rank: float) -> int:
    if kind is StepKind.WHOLE:
        return 1
    if kind in RUNS:
        return RUN
    if kind in (StepKind.NOTES, StepKind.LAYER):
        return FEWEST
    return MOST if rank >= HARD else SOME if rank >= SIMPLE else FEWEST
