"""What a student can play, to play it again, to show it at home or to print: of every piece and
exercise the longest that is held, at its tempo, with its music. Nothing is counted."""

from dataclasses import dataclass

from wren_ladder.drumming.breakdown import step_bars
from wren_ladder.drumming.breakdown.step import PARTS
from wren_ladder.studio.lessons.weeks import PLANS
from wren_ladder.studio.pages.plans.step_music import drawings, step_sound
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.plans.planning import core_step
from wren_ladder.studio.plans.versions import music_for
from wren_ladder.studio.students.models import Student

CAN_PLAY = (
    Plan.Status.CLIMBING,
    Plan.Status.PAUSED,
    Plan.Status.FINISHED,
    Plan.Status.PERFORMED,
    Plan.Status.PASSED,
)
SHOWN_BARS = 2  # of the beginning


@dataclass(frozen=True, slots=True)
class Held:
    """``name``: of the piece, or of the longest part of it that is held; ``tempo`` in BPM."""

    name: str
    tempo: int
    svgs: tuple[str, ...]
    sound: dict
    key: str
    piece: int | None  # whose whole can be played along


def held_by(student: Student) -> list[Held]:
    plans = PLANS.filter(student=student, status__in=CAN_PLAY)
    return [one for plan in plans if (one := _longest(plan))]


def _longest(plan: Plan) -> Held | None:
    """The longest that is held of a plan; of two alike the quicker one."""
    steps = [
        step
        for step in plan.steps.all()
        if step.music_is_there and step.standing.held and step.step_kind not in PARTS
    ]
    if not steps:
        return None
    return _drawn(plan, max(steps, key=_length_and_tempo))


def _length_and_tempo(step: Step) -> tuple[int, int]:
    return step.last.position - step.first.position, step.standing.held


def _drawn(plan: Plan, step: Step) -> Held:
    music = music_for(plan)
    bars = step_bars(core_step(step), music.study, music.style)[:SHOWN_BARS]
    title, exercise = plan.piece.title, plan.piece.is_exercise
    return Held(
        name=title if exercise else f"{title}, {step.name[:1].lower()}{step.name[1:]}",
        tempo=step.standing.held,
        svgs=drawings(bars, music.study, f"held{plan.pk}-", narrow=True),
        sound={**step_sound(step, music, step.standing.held), "rounds": 2},
        key=f"held-{plan.pk}",
        piece=None if exercise or plan.status != Plan.Status.CLIMBING else plan.piece_id,
    )
