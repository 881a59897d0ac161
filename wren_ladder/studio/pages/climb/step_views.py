"""The step page, for the lesson and at home: one step's music, and two large keys."""

from django.contrib import messages
from django.http import Http404
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from wren_ladder.drumming.chart.tempo import FASTEST, SLOWEST
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.studio.changes.attempts import log_attempts
from wren_ladder.studio.climb.forms import AttemptForm
from wren_ladder.studio.climb.models import Attempt
from wren_ladder.studio.climb.standings import plateau_of
from wren_ladder.studio.pages.climb.says import says_context
from wren_ladder.studio.pages.headers import records
from wren_ladder.studio.pages.plans.lookups import step_or_404
from wren_ladder.studio.pages.plans.step_music import step_music
from wren_ladder.studio.plans.models import Step
from wren_ladder.studio.plans.rules import climb_rule
from wren_ladder.studio.plans.sayings import recent_sayings, sayings_for
from wren_ladder.studio.plans.versions import music_for

MOST_TAKES = 12  # that the page leads to


@require_safe
@records
def step_page(request, pk):
    tempo = read_whole(request.GET.get("tempo"), SLOWEST, FASTEST)
    context = step_context(climbed_or_404(request.user, pk), tempo)
    return render(request, "climb/step.html", context)


@require_POST
@records
def step_log(request, pk):
    """One press of a large key; what is next is worked out at once."""
    step = climbed_or_404(request.user, pk)
    form = AttemptForm(
        {**request.POST.dict(), "day": timezone.localdate()}, instance=Attempt(step=step)
    )
    if not form.is_valid():
        context = {**step_context(step), "form": form}
        template = "climb/_step_keys.html" if request.htmx else "climb/step.html"
        return render(request, template, context, status=422)
    attempt = form.save(commit=False)
    attempt.take = step.takes.filter(pk=read_whole(request.POST.get("take")) or 0).first()
    log_attempts([attempt])
    step = climbed_or_404(request.user, pk)
    if request.htmx:
        context = {**step_context(step), "logged": attempt}
        return render(request, "climb/_step_keys.html", context)
    messages.success(request, f"Logged: {attempt}.")
    return redirect("step", step.pk)


def climbed_or_404(user, pk: int) -> Step:
    """A step of a student, whose bars are in the piece."""
    step = step_or_404(user, pk)
    if not (step.plan.student_id and step.music_is_there):
        raise Http404("nobody climbs this step")
    return step


def step_context(step: Step, tempo: int | None = None) -> dict:
    """``tempo``: that was asked for, else the next one."""
    plan = step.plan
    climb = climb_rule(plan, step)
    music = step_music(plan, step, "step-", music_for(plan))
    around = list(plan.steps.filter(dropped=False, first__isnull=False, last__isnull=False))
    here = around.index(step) if step in around else None
    return {
        "plan": plan,
        "step": step,
        "music": music,
        "climb": climb,
        "plateau": plateau_of(plan, step, climb),
        "takes": step.takes.defer("strokes")[:MOST_TAKES],
        "form": AttemptForm(
            initial={"tempo": tempo or step.standing.next_tempo, "passes": step.repeats}
        ),
        "place": None if here is None else here + 1,
        "count": len(around),
        "previous": around[here - 1] if here else None,
        "next": around[here + 1] if here is not None and here + 1 < len(around) else None,
        **says_context(step, sayings_for([plan]), recent_sayings(plan.owner_id)),
        "recent": step.attempts.order_by("-day", "-pk")[:3],
    }
