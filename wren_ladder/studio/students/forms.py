from django import forms

from wren_ladder.studio.students.models import Student


class StudentForm(forms.ModelForm):
    class Meta:
        model = Student
        # The child first; minutes, ears and what is seldom changed last.
        fields = [
            "name",
            "grade",
            "lesson_day",
            "lesson_time",
            "exam_date",
            "lead",
            "open_handed",
            "notes",
            "home_days",
            "home_minutes",
            "lesson_minutes",
            "home_earns",
            "records_at_home",
            "buffer",
            "level",
            "rating",
            "hearing_rule",
        ]
        widgets = {
            "lesson_time": forms.TimeInput(attrs={"type": "time"}, format="%H:%M"),
            "exam_date": forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
            "notes": forms.Textarea(attrs={"rows": 3}),
        }
        help_texts = {
            "lead": "Mirrors every sticking the studio works out.",
            "open_handed": "The hand on the hat's side keeps it, so that no arms cross.",
            "home_days": "Shared by all their pieces and exercises.",
            "home_minutes": "10 to 20 are usual for a child; when they go up, tempos stay for "
            "a week.",
            "home_earns": "Otherwise what they log at home is shown, and the lesson earns.",
            "records_at_home": "Strokes only, never a sound; they can throw each one away, and "
            "so can you.",
            "buffer": "The piece is to be at target this long before, for full runs; two weeks "
            "are usual.",
            "level": "A kit is commonly 95 to 110 dBA at the player. Your own measurement.",
            "rating": "What the protector takes off by its packet; 0 without one.",
            "hearing_rule": "NIOSH is the stricter. Local rules come first; children need more "
            "margin.",
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
