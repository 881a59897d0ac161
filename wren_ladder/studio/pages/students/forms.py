"""Forms of a student who is there already."""

from django import forms

from wren_ladder.studio.pages.two_tabs import OpenInTwoTabs
from wren_ladder.studio.students.forms import StudentForm
from wren_ladder.studio.students.models import Student


class EditStudentForm(OpenInTwoTabs, StudentForm):
    """It may be open in two tabs. The exam has a page of its own."""

    class Meta(StudentForm.Meta):
        fields = [name for name in StudentForm.Meta.fields if name != "exam_date"]


class ReportForm(OpenInTwoTabs, forms.ModelForm):
    class Meta:
        model = Student
        fields = ["report_words"]
        widgets = {"report_words": forms.Textarea(attrs={"rows": 6})}
        help_texts = {
            "report_words": "They stand at the head of the report; an empty line begins a new "
            "paragraph. They are kept for the next report."
        }
