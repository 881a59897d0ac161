"""Forms of an exam: when and what, and how it went."""

from django import forms

from wren_ladder.studio.exams.models import Exam
from wren_ladder.studio.plans.models import Plan

READING = "unseen reading"


class ExamForm(forms.ModelForm):
    """``plans`` and words make the programme."""

    plans = forms.ModelMultipleChoiceField(
        queryset=Plan.objects.none(),
        required=False,
        widget=forms.CheckboxSelectMultiple,
        label="Played from what is climbed",
    )
    others = forms.CharField(
        required=False,
        max_length=600,
        label="And besides, one a line",
        widget=forms.Textarea(attrs={"rows": 3, "placeholder": "unseen reading\nplayback"}),
    )

    class Meta:
        model = Exam
        fields = ["day", "grade", "entry_by"]
        widgets = {
            name: forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d")
            for name in ("day", "entry_by")
        }

    def __init__(self, *args, **kwargs):
        super().__init__(*args, **kwargs)
        exam = self.instance
        mine = Plan.objects.filter(student=exam.student, status=Plan.Status.CLIMBING)
        there = [item.plan_id for item in exam.items.all() if item.plan_id] if exam.pk else []
        mine = mine | Plan.objects.filter(pk__in=there)
        self.fields["plans"].queryset = mine.select_related("piece").order_by("piece__title")
        self.fields["plans"].label_from_instance = lambda plan: (
            f"{plan.piece.title} at {plan.target}"
        )
        if exam.pk:
            words = [item.name for item in exam.items.all() if not item.plan_id]
            self.initial |= {"plans": there, "others": "\n".join(words)}
        else:
            asked = mine.filter(for_exam=True).values_list("pk", flat=True)
            self.initial |= {"plans": list(asked), "others": READING}

    def clean_others(self) -> list[str]:
        lines = (
            " ".join(line.split())[:120] for line in self.cleaned_data["others"].split("\n")
        )
        return list(dict.fromkeys(filter(None, lines)))

    def clean(self):
        cleaned = super().clean()
        day, entry = cleaned.get("day"), cleaned.get("entry_by")
        if day and entry and entry > day:
            self.add_error("entry_by", "The entry comes before the exam.")
        return cleaned


class ResultForm(forms.ModelForm):
    class Meta:
        model = Exam
        fields = ["result", "mark", "words"]
        widgets = {
            "result": forms.RadioSelect,
            "words": forms.Textarea(attrs={"rows": 3}),
        }

    def __init__(self, *args, **kwargs):
        super().__init__(*args, **kwargs)
        self.fields["result"].choices = Exam.Result.choices
        self.fields["result"].required = True
        self.fields["result"].label = "It was"


class MockRunForm(forms.Form):
    """What became of one thing of the programme."""

    went = forms.ChoiceField(
        required=False,
        choices=[("yes", "went well"), ("no", "not yet"), ("", "not played")],
        widget=forms.RadioSelect,
    )
    words = forms.CharField(required=False, max_length=300)
