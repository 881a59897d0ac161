"""Takes of a step: recorded from a file or played by the made-up player, shown, thrown away."""

import json

from django import forms
from django.contrib import messages
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from wren_ladder.drumming.chart.tempo import FASTEST, SLOWEST
from wren_ladder.drumming.takes.heard import Source
from wren_ladder.drumming.takes.midi_file import TakeError, strokes_in
from wren_ladder.drumming.takes.simulated import Fault
from wren_ladder.studio.changes.bin import put_in_bin
from wren_ladder.studio.changes.takes import keep_take
from wren_ladder.studio.climb.models import Take
from wren_ladder.studio.pages.climb.step_views import climbed_or_404
from wren_ladder.studio.pages.climb.take_page import (
    simulated_take,
    take_context,
    take_from_file,
)

MOST_BYTES = 1_000_000
MOST_PASSES = 32


class TakeForm(forms.Form):
    tempo = forms.IntegerField(min_value=SLOWEST, max_value=FASTEST)
    passes = forms.IntegerField(label="Times through", min_value=1, max_value=MOST_PASSES)
    fault = forms.ChoiceField(
        label="The made-up player's fault",
        required=False,
        choices=[("", "none"), *((one.value, one.label) for one in Fault)],
    )
    file = forms.FileField(label="MIDI file", required=False)
    source = forms.ChoiceField(
        required=False, choices=[(one.value, one.label) for one in (Source.KEYS, Source.KIT)]
    )
    strokes = forms.CharField(required=False, max_length=MOST_BYTES)

    def clean_file(self):
        file = self.cleaned_data["file"]
        if file and file.size > MOST_BYTES:
            raise forms.ValidationError("A MIDI file of at most 1 MB.")
        return file

    def clean_strokes(self):
        """As the page records them, see ``strokes_in``."""
        text = self.cleaned_data["strokes"]
        try:
            return strokes_in(json.loads(text)) if text else ()
        except ValueError as error:
            raise forms.ValidationError(f"The strokes cannot be read: {error}.") from error


@require_POST
def take_record(request, pk):
    """What was recorded in the page, else a MIDI file, else the made-up player."""
    step = climbed_or_404(request.user, pk)
    form = TakeForm(request.POST, request.FILES)
    if not form.is_valid():
        field, errors = next(iter(form.errors.items()))
        label = form.fields[field].label or field.capitalize()
        messages.error(request, f"No take: {label}: {errors[0]}")
        return redirect("step", pk)
    sent, today = form.cleaned_data, timezone.localdate()
    if sent["strokes"]:
        source = Source(sent["source"] or Source.KEYS)
        take = keep_take(step, source, sent["tempo"], sent["passes"], sent["strokes"], today)
    elif sent["file"]:
        try:
            data = sent["file"].read()
            take = take_from_file(step, sent["tempo"], sent["passes"], data, today)
        except TakeError as error:
            messages.error(request, f"No take: {sent['file'].name}: {error}.")
            return redirect("step", pk)
    else:
        faults = [Fault(sent["fault"])] if sent["fault"] else []
        seed = step.takes.count() + step.pk
        take = simulated_take(step, sent["tempo"], sent["passes"], faults, seed, today)
    return redirect("take", take.pk)


@require_safe
def take_page(request, pk):
    return render(request, "climb/take.html", take_context(_take(request, pk)))


@require_POST
def take_delete(request, pk):
    take = _take(request, pk)
    what = f"The {take} of {take.step}"
    put_in_bin(take, request.user, what, "its strokes", timezone.localdate())
    messages.success(request, "The take lies in the bin for 30 days.")
    return redirect("step", take.step_id)


def _take(request, pk) -> Take:
    takes = Take.objects.select_related("step__plan__student", "step__plan__piece")
    return get_object_or_404(takes, pk=pk, step__plan__owner=request.user)
