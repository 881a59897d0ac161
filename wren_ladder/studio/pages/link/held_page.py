"""What a student can play, to play it again, to show it at home or to print: of every piece and
exercise the longest that is held, at its tempo, with its music. Nothing is counted."""

from dataclasses import dataclass
from datetime import date, timedelta

from django.db.models import Max

from wren_ladder.drumming.breakdown import step_bars
from wren_ladder.drumming.breakdown.step import PARTS
from wren_ladder.studio.climb.models import Attempt, Take, Where
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
AGO, AGO_SAID = timedelta(weeks=6), "six weeks ago"
TAKES = 12
SHOWN_BARS = 2  # of the beginning


@dataclass(frozen=True, slots=True)
class Held:
    """``name``: of the piece, or of the longest part of it that is held; ``tempo`` in BPM."""

    name: str
    tempo: int
    then: tuple[str, int] | None  # how long ago, and what was held
    svgs: tuple[str, ...]
    sound: dict
    key: str


def held_context(student: Student, today: date) -> dict:
    plans = list(PLANS.filter(student=student, status__in=CAN_PLAY))
    chosen = [(plan, step) for plan in plans if (step := _longest(plan))]
    then = _held_then([step for _, step in chosen], today - AGO)
    takes = Take.objects.filter(step__plan__student=student, where=Where.HOME)
    return {
        "held": [_drawn(plan, step, then.get(step.pk)) for plan, step in chosen],
        "climbing": [plan.piece for plan in plans if _is_whole(plan)],
        "takes": takes.select_related("step").defer("strokes")[:TAKES]
        if student.records_at_home
        else (),
    }


def _is_whole(plan: Plan) -> bool:
    return plan.status == Plan.Status.CLIMBING and not plan.piece.is_exercise


def _held_then(steps: list[Step], day: date) -> dict[int, int]:
    """The quickest clean try of each until then, by the step's number."""
    clean = Attempt.objects.filter(step__in=steps, day__lte=day, was_clean=True)
    return dict(clean.values_list("step").annotate(Max("tempo")))


def _longest(plan: Plan) -> Step | None:
    """The longest that is held of a plan; of two alike the quicker one."""
    steps = [
        step
        for step in plan.steps.all()
        if step.music_is_there and step.standing.held and step.step_kind not in PARTS
    ]
    if not steps:
        return None
    return max(steps, key=_length_and_tempo)


def _length_and_tempo(step: Step) -> tuple[int, int]:
    return step.last.position - step.first.position, step.standing.held


def _drawn(plan: Plan, step: Step, then: int | None) -> Held:
    music = music_for(plan)
    bars = step_bars(core_step(step), music.study, music.style)[:SHOWN_BARS]
    title, exercise = plan.piece.title, plan.piece.is_exercise
    return Held(
        name=title if exercise else f"{title}, {step.name[:1].lower()}{step.name[1:]}",
        tempo=step.standing.held,
        then=(AGO_SAID, then) if then and then < step.standing.held else None,
        svgs=drawings(bars, music.study, f"held{plan.pk}-", narrow=True),
        sound={**step_sound(step, music, step.standing.held), "rounds": 2},
        key=f"held-{plan.pk}",
    )
