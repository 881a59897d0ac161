from django import forms

from wren_ladder.studio.students.models import Student


class StudentForm(forms.ModelForm):
    class Meta:
        model = Student
        fields = ["name", "grade", "lead", "open_handed", "lesson_day", "exam_date", "notes"]
        widgets = {
            "exam_date": forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
            "notes": forms.Textarea(attrs={"rows": 3}),
        }
        help_texts = {
            "lead": "Mirrors every sticking the studio works out.",
            "open_handed": "The hand on the hat's side keeps it, so that no arms cross.",
            "notes": "Only what the lesson needs; nothing here is shown to anyone else.",
        }

    def clean_name(self):
        """The owner is no field of the form, so its unique name is checked here."""
        name = " ".join(self.cleaned_data["name"].split())
        others = Student.objects.filter(owner=self.instance.owner, name=name)
        if others.exclude(pk=self.instance.pk).exists():
            raise forms.ValidationError(
                f"There is a student called {name} already; add an initial."
            )
        return name
