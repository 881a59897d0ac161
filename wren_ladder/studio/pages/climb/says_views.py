"""A sentence of the teacher's on a step: said where one is, changed, taken back."""

from django.contrib import messages
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from wren_ladder.studio.changes.bin import put_in_bin
from wren_ladder.studio.changes.sayings import say, say_aloud
from wren_ladder.studio.pages.climb.says import SayingForm, says_context
from wren_ladder.studio.pages.climb.step_views import climbed_or_404
from wren_ladder.studio.pages.requests import own_page
from wren_ladder.studio.pages.sounds import sent_sound
from wren_ladder.studio.pages.undo import key_to, may_bring_back, out_of_bin
from wren_ladder.studio.plans.models import Saying, Step
from wren_ladder.studio.plans.sayings import recent_sayings, said_of, sayings_for, sound_of


@require_http_methods(["GET", "POST"])
def step_says(request, pk):
    """What is said, and one more sentence."""
    step = climbed_or_404(request.user, pk)
    if request.method == "GET":
        return _answer(request, step, SayingForm())
    form = SayingForm(request.POST, request.FILES)
    if form.is_valid():
        sent, today = form.cleaned_data, timezone.localdate()
        student = None if sent["everybody"] else step.plan.student
        if sent["sound"]:
            say_aloud(step, student, sent["text"], today, *sent["sound"])
        else:
            say(step, student, sent["text"], today)
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
    key = key_to(request, out_of_bin, binned.pk) if may_bring_back(request, binned) else ""
    return _answer(request, step, SayingForm(), key)


@require_safe
def saying_heard(request, pk, saying):
    step = climbed_or_404(request.user, pk)
    return sent_sound(sound_of(said_of(step, sayings_for([step.plan])), saying))


def _answer(request, step: Step, form: SayingForm, key: str = ""):
    """The sentences of the step again; without script, the page from which it was sent."""
    if not request.htmx:
        for problem in (one for each in form.errors.values() for one in each):
            messages.error(request, f"Not kept: {problem}")
        return redirect(
            own_page(request.POST.get("back", "")) or reverse("step", args=[step.pk])
        )
    context = says_context(step, sayings_for([step.plan]), recent_sayings(step.plan.owner_id))
    context |= {"says_form": form, "undo": key, "says_open": form.is_bound}
    return render(request, "climb/_says.html", context, status=422 if form.errors else 200)
