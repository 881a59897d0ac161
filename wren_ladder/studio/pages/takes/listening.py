"""What is heard in a lesson, hands free: counted in, played, proposed; nothing is kept."""

from django import forms

from wren_ladder.drumming.takes.listening import Listening, listen
from wren_ladder.drumming.takes.words import listened_said
from wren_ladder.studio.climb.takes import MILLISECONDS, bars_of, rule_of, share_of
from wren_ladder.studio.pages.takes.form import TakeForm, live
from wren_ladder.studio.plans.models import Step
from wren_ladder.studio.plans.rules import climb_rule


class ListeningForm(TakeForm):
    passes = None  # as often as it is played
    now = forms.FloatField()  # milliseconds on the strokes' clock


def proposal(step: Step, form: ListeningForm) -> dict:
    """Of a valid form: how far it is, in words, and what may be logged once it is over."""
    sent = form.cleaned_data
    source, heard = live(sent["way"], form.kit, sent["heard"])
    asked = share_of(step, sent["tempo"])
    found = listen(
        bars_of(step),
        heard,
        sent["now"] / MILLISECONDS,
        float(asked),
        climb_rule(step.plan, step).passes,
        rule_of(step.plan.student),
        source,
    )
    tempo = round(sent["tempo"] * found.share / float(asked))
    told = {
        "state": found.state.value,
        "said": listened_said(found, tempo, source.names_drums) + ".",
    }
    if found.state is Listening.DONE and found.take:
        told["try"] = {"clean": found.clean, "passes": found.passes, "tempo": tempo}
    return told
