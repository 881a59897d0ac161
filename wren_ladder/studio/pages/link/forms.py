from django import forms

from wren_ladder.studio.climb.models import Practice


class MinutesForm(forms.ModelForm):
    class Meta:
        model = Practice
        fields = ["minutes", "note"]
        labels = {"minutes": "Minutes today", "note": "A word, if you like"}
