from django import forms

from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.pages.two_tabs import OpenInTwoTabs


class EndForm(OpenInTwoTabs, forms.ModelForm):
    """The end of a lesson: a note, and the steps that are set for the week. The note may be
    open in two tabs."""

    steps = forms.TypedMultipleChoiceField(
        coerce=int,
        required=False,
        widget=forms.CheckboxSelectMultiple,
        label="Set for the week",
    )

    class Meta:
        model = Lesson
        fields = ["note"]
        widgets = {"note": forms.Textarea(attrs={"rows": 3})}
        help_texts = {"note": "For you; the student's link does not show it."}

    def __init__(self, *args, choices, **kwargs):
        super().__init__(*args, **kwargs)
        self.fields["steps"].choices = choices
