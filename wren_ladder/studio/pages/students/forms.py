"""Forms of a student who is there already."""

from django import forms

from wren_ladder.studio.pages.two_tabs import OpenInTwoTabs
from wren_ladder.studio.plans.models import Saying
from wren_ladder.studio.plans.sayings import said_to
from wren_ladder.studio.students.forms import StudentForm
from wren_ladder.studio.students.models import Student


class EditStudentForm(OpenInTwoTabs, StudentForm):
    """It may be open in two tabs. The exam has a page of its own."""

    class Meta(StudentForm.Meta):
        fields = [name for name in StudentForm.Meta.fields if name != "exam_date"]


class SayingsChoice(forms.ModelMultipleChoiceField):
    def label_from_instance(self, saying: Saying) -> str:
        return f"{saying.where}: {saying.text}"


class ReportForm(OpenInTwoTabs, forms.ModelForm):
    sayings = SayingsChoice(
        Saying.objects.none(),
        required=False,
        widget=forms.CheckboxSelectMultiple,
        label="what you say about bars",
    )

    def __init__(self, *args, **kwargs):
        super().__init__(*args, **kwargs)
        said = said_to(self.instance)
        self.fields["sayings"].queryset = said
        self.fields["sayings"].initial = [one for one in said if one.in_report]
        if not said:
            del self.fields["sayings"]

    class Meta:
        model = Student
        fields = ["report_words"]
        widgets = {"report_words": forms.Textarea(attrs={"rows": 6})}
        help_texts = {"report_words": "At the head of the report, kept for the next."}
