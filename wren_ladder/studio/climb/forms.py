from datetime import date

from django import forms
from django.utils import timezone

from wren_ladder.studio.climb.models import Attempt, HomeMinutes


def day_that_was(day: date | None) -> date:
    """The day, today if none was said; ValidationError for one that has not come."""
    day = day or timezone.localdate()
    if day > timezone.localdate():
        raise forms.ValidationError("This day has not come yet.")
    return day


# The door that it came by says where; the button says whether it was clean.
NOT_TYPED = ("tempo", "where", "was_clean")


class AttemptForm(forms.ModelForm):
    """One try. Whether it was clean comes from the button that was pressed."""

    clean_try = forms.TypedChoiceField(
        choices=[("yes", "clean"), ("no", "not yet")], label="Result"
    )

    class Meta:
        model = Attempt
        fields = ["tempo", *(name for name in Attempt.SAID if name not in NOT_TYPED)]
        widgets = {
            "day": forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
            "note": forms.TextInput(attrs={"placeholder": "a word, if you like"}),
        }

    def __init__(self, *args, **kwargs):
        super().__init__(*args, **kwargs)
        if self.instance.pk:
            self.initial["clean_try"] = "yes" if self.instance.was_clean else "no"
        self.fields["day"].required = False

    def beside_the_keys(self) -> list[forms.BoundField]:
        """All that may be said besides the tempo and the result."""
        return [field for field in self if field.name not in ("tempo", "clean_try")]

    def clean_day(self):
        return day_that_was(self.cleaned_data["day"])

    def save(self, commit=True):
        self.instance.was_clean = self.cleaned_data["clean_try"] == "yes"
        return super().save(commit)


class HomeMinutesForm(forms.ModelForm):
    """Minutes at home on a day."""

    class Meta:
        model = HomeMinutes
        fields = ["day", "minutes", "note"]
        widgets = {"day": forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d")}
        labels = {"note": "A word, if you like"}

    def clean_day(self):
        return day_that_was(self.cleaned_data["day"])
