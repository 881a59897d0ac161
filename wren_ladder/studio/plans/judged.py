"""What the core makes of a plan's piece for its student: judged and broken down, remembered by
what it was made of, so that pages that say it again ask for nothing.

By process, as studies are: what is found in a bar is told by functions, and does not lie on a
disk.
"""

from dataclasses import dataclass, field, replace
from functools import lru_cache

from wren_ladder.drumming.breakdown import Step, break_down
from wren_ladder.drumming.judging.judgement import Judgement, Player, judge, music_of
from wren_ladder.drumming.study import Study
from wren_ladder.drumming.style import School, Style
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.plans.players import player_for
from wren_ladder.studio.plans.versions import OwnBars, music_for


@dataclass(frozen=True, slots=True)
class Asked:
    """A study and for whom; equal where nothing differs that a judgement depends on, which the
    school is not."""

    study: Study = field(compare=False)  # which these three make
    fingerprint: str
    style: Style
    own: OwnBars
    grade: int | None
    target: int | None
    syllabus: tuple[tuple[str, int], ...]
    ranks: tuple[tuple[int, float], ...]

    @property
    def player(self) -> Player:
        return Player(
            self.style, self.grade, self.target, dict(self.syllabus), ranks=dict(self.ranks)
        )


def judgement_for(plan: Plan) -> tuple[Study, Judgement]:
    asked, known = _asked(plan)
    return asked.study, replace(_judged(asked), known=known)


def steps_for(plan: Plan, school: School | None = None) -> tuple[Study, tuple[Step, ...]]:
    """The piece as the plan has it, and what the core would teach its student now, by the
    plan's school or another."""
    asked, known = _asked(plan)
    return asked.study, _broken_down(asked, known, school or School(plan.school))


def _asked(plan: Plan) -> tuple[Asked, tuple[bool, ...]]:
    """(What is asked, the bars that the student knows.)"""
    music, player = music_for(plan), player_for(plan)
    asked = Asked(
        study=music.study,
        fingerprint=plan.piece.fingerprint,
        style=player.style,
        own=music.own,
        grade=player.grade,
        target=player.target,
        syllabus=tuple(player.syllabus.items()),
        ranks=tuple(player.ranks.items()),
    )
    known = tuple(music_of(bar.bar) in player.known for bar in music.study.bars)
    return asked, known


@lru_cache(maxsize=64)
def _judged(asked: Asked) -> Judgement:
    return judge(asked.study, asked.player)


@lru_cache(maxsize=64)
def _broken_down(asked: Asked, known: tuple[bool, ...], school: School) -> tuple[Step, ...]:
    player = asked.player
    player = replace(player, style=replace(player.style, school=school))
    return break_down(asked.study, player, replace(_judged(asked), known=known))
