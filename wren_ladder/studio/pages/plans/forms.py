"""Forms for plans and their steps."""

from copy import copy

from django import forms

from wren_ladder.drumming.chart.tempo import FASTEST, SLOWEST
from wren_ladder.drumming.climb import LadderSchool
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.studio.pages.two_tabs import OpenInTwoTabs
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import MOST_RANK, Plan, Step
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.students.taught import students_of
from wren_ladder.studio.teaching.note_names import in_names


class ClimbForm(forms.ModelForm):
    """Target, start and rule of one student's climb."""

    class Meta:
        model = Plan
        fields = [
            "target",
            "due",
            "tolerance",
            "start",
            "ladder",
            "rung",
            "own_rungs",
            "gate_kind",
            "clean_bars",
            "gate_clean",
            "gate_tries",
            "gate_days",
            "gate_failures",
            "gate_drop",
            "for_exam",
        ]
        widgets = {"due": forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d")}
        help_texts = {
            "target": "Below the printed one for a first performance, above it for headroom.",
            "due": "A concert; empty: the student's exam, if it is for that.",
            "tolerance": "0: only the target itself will do. 4: a target of 120 is met at 116.",
            "gate_drop": "One or two rungs, then back up.",
            "start": "Where it is really easy; three quarters of the target is usual.",
            "ladder": "By steps of so many BPM, of so many per cent, by the standard metronome "
            "marks, or by a list of your own.",
            "rung": "BPM or per cent from one rung to the next; +5 is common practice.",
            "own_rungs": "Only for a list of your own: tempos with spaces between, "
            "such as 90 100 112 120.",
            "gate_kind": "In a row is usual; out of tries forgives a slip; different days "
            "make sure that it stays.",
            "gate_clean": "Only for tries out of tries.",
            "gate_days": "Only for different days.",
            "clean_bars": "32 means four times through an 8-bar phrase; a single bar "
            "never needs more than 8 times through.",
        }

    def __init__(self, *args, piece: Piece, **kwargs):
        super().__init__(*args, **kwargs)
        beat = in_names(piece.tempo.beat_name)
        self.fields["target"].label = f"Target tempo ({beat} =)"
        self.fields["start"].label = f"Start tempo ({beat} =)"

    def clean_own_rungs(self):
        words = self.cleaned_data["own_rungs"].replace(",", " ").split()
        for word in words:
            known = read_whole(word, SLOWEST, FASTEST) is not None
            if not known:
                raise forms.ValidationError(
                    f"'{word}' is no tempo; write numbers from {SLOWEST} to {FASTEST}, "
                    "such as 90 100 112 120."
                )
        return " ".join(words)

    def clean(self):
        cleaned = super().clean()
        if cleaned.get("ladder") == LadderSchool.OWN and cleaned.get("own_rungs") == "":
            self.add_error("own_rungs", "Write the tempos of your list.")
        clean, tries = cleaned.get("gate_clean"), cleaned.get("gate_tries")
        if clean and tries and clean > tries:
            self.add_error("gate_clean", f"{clean} clean out of {tries} tries can never be.")
        start, target = cleaned.get("start"), cleaned.get("target")
        if start and target and start > target:
            self.add_error("start", f"The start {start} is above the target {target}.")
        return cleaned


GOAL = ("target", "due", "for_exam")


class EditClimbForm(OpenInTwoTabs, ClimbForm):
    """The climb of a plan that is there already; it may be open in two tabs."""

    @property
    def goal(self) -> list[forms.BoundField]:
        return [self[name] for name in GOAL]

    @property
    def way(self) -> list[forms.BoundField]:
        """How the goal is reached."""
        return [field for field in self if field.name not in GOAL]

    @property
    def way_is_wrong(self) -> bool:
        return any(field.errors for field in self.way)

    def changes(self) -> dict[str, object]:
        """What is different from what is stored."""
        return {name: self.cleaned_data[name] for name in self.changed_data}


class GiveForm(ClimbForm):
    """A piece given to one student or many: whom, the target, by when. Everything else has its
    usual value and can be changed, for all of them or for each."""

    students = forms.ModelMultipleChoiceField(
        queryset=Student.objects.none(),
        widget=forms.CheckboxSelectMultiple,
        label="To whom",
        error_messages={"required": "Choose a student at least."},
    )
    target = forms.CharField(
        max_length=20, help_text="A tempo, or a share of the printed one: 80 %."
    )

    class Meta(ClimbForm.Meta):
        fields = ["school", *ClimbForm.Meta.fields]
        help_texts = {
            **ClimbForm.Meta.help_texts,
            "start": "Empty: it follows the target, and the student's grade.",
            "school": "Bar: every new bar alone first. Phrase: sections of eight first, and "
            "further down only where needed. Layer: every bar built from its plainest form.",
        }

    def __init__(self, *args, owner, piece: Piece, **kwargs):
        super().__init__(*args, piece=piece, **kwargs)
        self.printed = piece.tempo.bpm
        free = students_of(owner).filter(status=Student.Status.HERE)
        free = free.exclude(plans__piece=piece).select_related("owner")
        # A colleague's student climbs a copy of it.
        elsewhere = Student.objects.exclude(owner=owner).filter(plans__piece__title=piece.title)
        free = free.exclude(pk__in=elsewhere)
        self.fields["students"].queryset = free
        self.fields["start"].required = False
        for student in self.fields["students"].queryset:
            target, start = own_fields(student)
            self.fields[target] = forms.CharField(
                max_length=20, required=False, label=f"{student}'s own target"
            )
            self.fields[start] = forms.IntegerField(
                required=False,
                min_value=SLOWEST,
                max_value=FASTEST,
                label=f"{student}'s own start",
            )

    def rows(self):
        """(checkbox, own target, own start) of each student, for the page."""
        students = self.fields["students"].queryset
        for box, student in zip(self["students"], students, strict=True):
            target, start = own_fields(student)
            yield box, student, self[target], self[start]

    def usual(self):
        """The fields that have their usual value."""
        names = [name for name in self.Meta.fields if name not in ("target", "due")]
        return [self[name] for name in names]

    def rest_is_wrong(self) -> bool:
        """Anything but whom and to which tempo."""
        return any(name not in ("students", "target") for name in self.errors)

    def clean_target(self) -> int:
        return read_target(self.cleaned_data["target"], self.printed)

    def clean(self):
        cleaned = super().clean()
        for student in cleaned.get("students") or ():
            target, start = own_fields(student)
            if cleaned.get(target):
                try:
                    cleaned[target] = read_target(cleaned[target], self.printed)
                except forms.ValidationError as error:
                    self.add_error(target, error)
                    continue
            most, own = cleaned.get(target) or cleaned.get("target"), cleaned.get(start)
            if own and isinstance(most, int) and own > most:
                self.add_error(start, f"The start {own} is above the target {most}.")
        return cleaned

    def plans(self) -> list[tuple[Student, Plan]]:
        """A plan for each student, not stored yet; a start that nobody set follows."""
        made = []
        for student in self.cleaned_data["students"]:
            target, start = own_fields(student)
            plan = copy(self.instance)
            plan.target = self.cleaned_data.get(target) or self.cleaned_data["target"]
            plan.start = self.cleaned_data.get(start) or self.cleaned_data["start"]
            made.append((student, plan))
        return made


def own_fields(student: Student) -> tuple[str, str]:
    """The names of a student's own target and start in the form."""
    return f"target_{student.pk}", f"start_{student.pk}"


def read_target(text: str, printed: int) -> int:
    """ "96", or "80 %" of the printed tempo."""
    words = text.replace("%", " % ").split()
    number = read_whole(words[0]) if words else None
    share = words[1:] == ["%"]
    found = None if number is None else round(printed * number / 100) if share else number
    if found is None or words[1:] not in ([], ["%"]) or not SLOWEST <= found <= FASTEST:
        raise forms.ValidationError(
            f"'{text}' is no target; write a tempo from {SLOWEST} to {FASTEST}, such as "
            f"{printed}, or a share such as 80 %."
        )
    return found


class StepForm(OpenInTwoTabs, forms.ModelForm):
    """What the teacher sets of a step by hand; it may be open in two tabs."""

    class Meta:
        model = Step
        fields = ["name", "repeats", "start", "target", "why"]
        labels = {"why": "Why, and what to watch for"}
        help_texts = {
            "repeats": "How often it is looped before a pause, 4 to 8 as a rule.",
            "start": "Empty: the plan's own start tempo.",
            "target": "Empty: the plan's. Some steps need headroom, some may stay below.",
        }

    def clean(self):
        cleaned = super().clean()
        start = cleaned.get("start")
        target = cleaned.get("target") or self.instance.plan.target
        if start and start > target:
            self.add_error("start", f"The start {start} is above the target {target}.")
        return cleaned


class AddStepForm(forms.Form):
    """From which bar to which; the bars are the piece's own."""

    first = forms.ModelChoiceField(queryset=None, label="From bar", empty_label=None)
    last = forms.ModelChoiceField(queryset=None, label="to bar", empty_label=None)
    repeats = forms.IntegerField(min_value=1, max_value=64, initial=4)

    def __init__(self, *args, piece: Piece, **kwargs):
        super().__init__(*args, **kwargs)
        for name in ("first", "last"):
            self.fields[name].queryset = piece.bars.all()
            self.fields[name].label_from_instance = lambda row: row.number

    def clean(self):
        cleaned = super().clean()
        first, last = cleaned.get("first"), cleaned.get("last")
        if first and last and first.position > last.position:
            self.add_error(
                "last", f"Bar {last.number} comes before bar {first.number}; swap the two."
            )
        return cleaned


class RepeatsForm(forms.ModelForm):
    """How often a step is repeated, and the empty bars between tries."""

    class Meta:
        model = Step
        fields = ["repeats", "gap"]


class RankForm(forms.Form):
    """The teacher's own rank of a bar; nothing means the one that is worked out."""

    rank = forms.FloatField(required=False, min_value=0, max_value=MOST_RANK)
