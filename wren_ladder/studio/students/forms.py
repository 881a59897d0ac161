from django import forms

from wren_ladder.studio.students.models import Student

# What a student is asked together, as it is said.
GROUPS = (
    ("Who", ("name", "grade", "lead", "open_handed", "notes", "contact")),
    ("Lessons", ("lesson_day", "lesson_time", "lesson_minutes")),
    ("At home", ("home_days", "home_minutes", "home_earns", "records_at_home")),
    ("The exam", ("exam_date", "buffer")),
    ("Ears", ("level", "rating", "hearing_rule")),
)


class StudentForm(forms.ModelForm):
    class Meta:
        model = Student
        fields = [name for _, names in GROUPS for name in names]
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
            "contact": "Who, and how to reach them; for you alone.",
            "notes": "Only what the lesson needs; nothing here is shown to anyone else.",
        }

    @property
    def groups(self) -> list[tuple[str, list[forms.BoundField], bool]]:
        """(how it is said, its fields, whether it is opened at once)."""
        found = []
        for said, names in GROUPS:
            fields = [self[name] for name in names if name in self.fields]
            if fields:
                wrong = any(field.errors for field in fields)
                found.append((said, fields, wrong or not found))
        return found

    def clean_name(self):
        """The owner is no field of the form, so its unique name is checked here."""
        name = " ".join(self.cleaned_data["name"].split())
        others = Student.objects.filter(owner=self.instance.owner, name=name)
        if others.exclude(pk=self.instance.pk).exists():
            raise forms.ValidationError(
                f"There is a student called {name} already; add an initial."
            )
        return name


class NewStudentForm(StudentForm):
    """What a first lesson needs; the rest is asked where it is used."""

    class Meta(StudentForm.Meta):
        fields = ["name", "grade", "lesson_day", "lesson_time"]
