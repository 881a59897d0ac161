"""The teacher's sentences on a step, as its page shows them, and the form for one more."""

from django import forms

from wren_ladder.studio.changes.recordings import KINDS, content_type_of
from wren_ladder.studio.plans.models import Saying, Step
from wren_ladder.studio.plans.sayings import said_before, said_of

MOST_BYTES = 1_000_000  # half a minute, many times over


class SayingForm(forms.ModelForm):
    everybody = forms.BooleanField(required=False, label="for everybody who plays it")
    sound = forms.FileField(required=False)

    class Meta:
        model = Saying
        fields = ("text",)

    def clean_sound(self):
        """(the sound, its kind), or None."""
        file = self.cleaned_data["sound"]
        if not file:
            return None
        if file.size > MOST_BYTES:
            raise forms.ValidationError("Half a minute at most.")
        data = file.read()
        kind = content_type_of(data[:16])
        if kind is None:
            raise forms.ValidationError(f"This is no sound; these are: {KINDS}.")
        return data, kind

    def clean(self):
        sent = super().clean()
        if not (sent.get("text") or sent.get("sound") or self.errors):
            self.add_error("text", "Say something, or record it.")
        return sent


def says_context(step: Step, sayings: list[Saying], recent: list[Saying]) -> dict:
    """``recent``: what the teacher said of anything, to be said again."""
    here = said_of(step, sayings)
    return {
        "step": step,
        "says": here,
        "said_before": said_before(step, here, recent),
        "says_form": SayingForm(),
    }
