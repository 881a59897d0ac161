"""Forms of lessons: their end, when they are, terms and holidays."""

from datetime import date

from django import forms
from django.contrib.auth.models import AbstractBaseUser

from wren_ladder.drumming.chart.tempo import FASTEST, SLOWEST
from wren_ladder.studio.lessons.models import OFF, Lesson, Period
from wren_ladder.studio.pages.two_tabs import OpenInTwoTabs
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.students.taught import students_of

MOST_LINES = 40
FREE_ROWS = 3  # empty ones, for lines of the teacher's own
MOST_TOGETHER = 4  # others in one lesson


class EndForm(OpenInTwoTabs, forms.ModelForm):
    """The end of a lesson, but for what is set. It may be open in two tabs."""

    def __init__(self, *args, **kwargs):
        super().__init__(*args, **kwargs)
        self.fields["practised"].choices = [("", "not asked"), *Lesson.Practised.choices]
        self.fields["message"].label = f"Message to {self.instance.student.name}"
        self.fields["note"].label = "Note to yourself"
        self.fields["for_parents"].label = "Line for the parents"

    class Meta:
        model = Lesson
        fields = ["practised", "message", "for_parents", "note"]
        widgets = {
            "message": forms.Textarea(attrs={"rows": 2}),
            "for_parents": forms.TextInput(),
            "note": forms.Textarea(attrs={"rows": 2}),
        }


class AgainForm(forms.Form):
    """When the next lesson is; left alone it is the usual one."""

    day = forms.DateField(
        label="Day",
        required=False,
        widget=forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
    )
    time = forms.TimeField(
        label="Time",
        required=False,
        widget=forms.TimeInput(attrs={"type": "time"}, format="%H:%M"),
    )

    def __init__(self, *args, after: date, **kwargs):
        super().__init__(*args, **kwargs)
        self.after = after

    def clean_day(self):
        day = self.cleaned_data["day"]
        if day and day <= self.after:
            raise forms.ValidationError(f"The next lesson comes after {self.after:%-d %B}.")
        return day


class SetLineForm(forms.Form):
    """One line of what is set: a step, or words of the teacher's own."""

    use = forms.BooleanField(required=False)
    step = forms.IntegerField(required=False, widget=forms.HiddenInput)
    name = forms.CharField(max_length=120, required=False)
    tempo = forms.IntegerField(required=False, min_value=SLOWEST, max_value=FASTEST)
    minutes = forms.IntegerField(required=False, min_value=0, max_value=120)

    def __init__(self, *args, **kwargs):
        super().__init__(*args, **kwargs)
        row = self.prefix.rpartition("-")[2]
        for name, field in self.fields.items():
            field.widget.attrs["aria-label"] = f"{field.label or name}, line {int(row) + 1}"
        self.fields["tempo"].widget.attrs |= {"inputmode": "numeric"}
        self.fields["minutes"].widget.attrs |= {"inputmode": "numeric"}
        if not self.initial.get("step"):
            self.fields["name"].widget.attrs["placeholder"] = "clap the fill before playing it"

    @property
    def is_free(self) -> bool:
        return not self["step"].value()


SetLines = forms.formset_factory(
    SetLineForm,
    extra=0,
    can_order=True,
    max_num=MOST_LINES,
    absolute_max=MOST_LINES + FREE_ROWS,
)


class LessonForm(OpenInTwoTabs, forms.ModelForm):
    """When a lesson is or was, what became of it, and who was there."""

    together = forms.ModelMultipleChoiceField(
        queryset=Student.objects.none(),
        required=False,
        widget=forms.CheckboxSelectMultiple,
        label="Together with",
        help_text="Two or three at once: each of them keeps a lesson of their own.",
    )

    class Meta:
        model = Lesson
        fields = [
            "day",
            "time",
            "minutes",
            "state",
            "by",
            "late",
            "instead_of",
            "practised",
        ]
        widgets = {
            "day": forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
            "instead_of": forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
            "time": forms.TimeInput(attrs={"type": "time"}, format="%H:%M"),
        }
        help_texts = {
            "time": "Empty: the usual time.",
            "minutes": "Empty: the usual minutes. A double lesson has twice as many.",
            "by": "Who called it off, or who was ill.",
            "instead_of": "The weekly lesson that is moved to this day, or made up for on it.",
        }

    def __init__(self, *args, today: date, teacher: AbstractBaseUser, **kwargs):
        super().__init__(*args, **kwargs)
        self.today = today
        student = self.instance.student
        others = students_of(teacher).filter(status=Student.Status.HERE)
        self.fields["together"].queryset = others.exclude(pk=student.pk)
        # A second teacher may not know the others, so who is taught together stays as it is.
        if student.owner_id != teacher.pk or not self.fields["together"].queryset.exists():
            del self.fields["together"]

    @property
    def when(self) -> list[forms.BoundField]:
        """What is asked where a lesson is planned or moved."""
        return [self["day"], self["time"]]

    @property
    def rest(self) -> list[forms.BoundField]:
        return [field for field in self if field.name not in ("day", "time")]

    @property
    def rest_is_wrong(self) -> bool:
        return any(field.errors for field in self.rest)

    def clean(self):
        cleaned = super().clean()
        day, state = cleaned.get("day"), cleaned.get("state")
        if day:
            self._check_day(day, state)
        if state not in OFF:
            cleaned["by"] = ""
        if len(cleaned.get("together") or ()) > MOST_TOGETHER:
            self.add_error("together", f"At most {MOST_TOGETHER} others are kept.")
        if day and cleaned.get("instead_of") == day:
            self.add_error("instead_of", "That is the day of this lesson itself.")
        return cleaned

    def _check_day(self, day: date, state: str | None) -> None:
        others = self.instance.student.lessons.filter(day=day).exclude(pk=self.instance.pk)
        if others.exists():
            said = f"There is a lesson on {day:%-d %B} already; change that one."
            self.add_error("day", said)
        if state == Lesson.State.GIVEN and day > self.today:
            self.add_error("state", "It is still to come: planned, not given.")


class PeriodForm(forms.ModelForm):
    class Meta:
        model = Period
        fields = ["kind", "name", "first", "last"]
        widgets = {
            "first": forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
            "last": forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
        }
