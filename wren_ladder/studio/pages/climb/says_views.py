"""A sentence of the teacher's on a step: said where one is, changed, taken back."""

from django.contrib import messages
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_POST

from wren_ladder.studio.bin.models import Binned
from wren_ladder.studio.changes.bin import BinError, put_back, put_in_bin
from wren_ladder.studio.changes.sayings import say
from wren_ladder.studio.pages.climb.says import SayingForm, says_context
from wren_ladder.studio.pages.climb.step_views import climbed_or_404
from wren_ladder.studio.pages.requests import own_page
from wren_ladder.studio.plans.models import Saying, Step
from wren_ladder.studio.plans.sayings import said_of, sayings_for


@require_POST
def step_says(request, pk):
    """One more sentence."""
    step = climbed_or_404(request.user, pk)
    form = SayingForm(request.POST)
    if form.is_valid():
        student = None if form.cleaned_data["everybody"] else step.plan.student
        say(step, student, form.cleaned_data["text"], timezone.localdate())
        form = SayingForm()
    return _answer(request, step, form)


@require_POST
def saying_delete(request, pk, saying):
    step = climbed_or_404(request.user, pk)
    mine = said_of(step, sayings_for([step.plan]))
    one = get_object_or_404(Saying, pk=saying, pk__in=[each.pk for each in mine])
    binned = put_in_bin(
        one, step.plan.owner, f"What was said of {step}", one.text, timezone.localdate()
    )
    return _answer(request, step, SayingForm(), binned.pk)


@require_POST
def saying_back(request, pk, binned):
    """What was thrown away just now, on the spot."""
    step = climbed_or_404(request.user, pk)
    kept = Binned.objects.filter(
        pk=binned, owner=step.plan.owner, kind=Saying._meta.label_lower
    ).first()
    if kept:
        try:
            put_back(kept)
        except BinError as error:
            messages.error(request, str(error))
    return _answer(request, step, SayingForm())


def _answer(request, step: Step, form: SayingForm, binned: int = 0):
    """The sentences of the step again; without script, the page from which it was sent."""
    if not request.htmx:
        for problem in form.errors.get("text", ()):
            messages.error(request, f"Not kept: {problem}")
        return redirect(
            own_page(request.POST.get("back", "")) or reverse("step", args=[step.pk])
        )
    context = says_context(step, sayings_for([step.plan]))
    context |= {"says_form": form, "binned": binned, "says_open": form.is_bound}
    return render(request, "climb/_says.html", context, status=422 if form.errors else 200)
