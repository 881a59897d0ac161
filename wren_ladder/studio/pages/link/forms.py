from django import forms

from wren_ladder.studio.climb.models import HomeMinutes


class MinutesForm(forms.ModelForm):
    class Meta:
        model = HomeMinutes
        fields = ["minutes", "note"]
        labels = {"minutes": "Minutes today", "note": "A word, if you like"}
