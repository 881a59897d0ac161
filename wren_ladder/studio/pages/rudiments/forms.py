from django import forms

from wren_ladder.drumming.chart.tempo import FASTEST, SLOWEST
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.students.taught import students_of
from wren_ladder.studio.teaching.note_names import in_names


class SendForm(forms.Form):
    """To whom a drill goes, and at which tempo it is to be reached."""

    student = forms.ModelMultipleChoiceField(
        Student.objects.none(),
        label="To whom",
        widget=forms.CheckboxSelectMultiple,
        error_messages={"required": "Choose a student at least."},
    )
    tempo = forms.IntegerField(
        min_value=SLOWEST,
        max_value=FASTEST,
        help_text="The climb starts below it, as your teaching style says.",
    )

    def __init__(self, owner, *args, **kwargs):
        super().__init__(*args, **kwargs)
        self.fields["tempo"].label = in_names("Target tempo, crotchet =")
        self.fields["student"].queryset = students_of(owner).filter(status=Student.Status.HERE)
