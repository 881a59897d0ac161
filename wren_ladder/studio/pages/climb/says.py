"""The teacher's sentences on a step, as its page shows them, and the form for one more."""

from django import forms

from wren_ladder.studio.plans.models import Saying, Step
from wren_ladder.studio.plans.sayings import recent_sayings, said_before, said_of


class SayingForm(forms.ModelForm):
    everybody = forms.BooleanField(required=False, label="for everybody who plays it")

    class Meta:
        model = Saying
        fields = ("text",)


def says_context(step: Step, sayings: list[Saying]) -> dict:
    here = said_of(step, sayings)
    return {
        "step": step,
        "says": here,
        "said_before": said_before(step, here, recent_sayings(step.plan.owner_id)),
        "says_form": SayingForm(),
    }
