"""Lesson plans: the steps of a piece, as a model for the studio or for one student, and what
of a piece is a student's own: ranks of bars, what is said of them, fills written out."""

from datetime import date

from django.conf import settings
from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models
from django.urls import reverse

from wren_ladder.drumming.breakdown import StepKind, places
from wren_ladder.drumming.breakdown.schools import SCAFFOLD
from wren_ladder.drumming.breakdown.step import MEETINGS, MOST_GAP, MOST_REPEATS
from wren_ladder.drumming.chart import Bar
from wren_ladder.drumming.chart.serial import bar_from_json
from wren_ladder.drumming.chart.tempo import FASTEST, SLOWEST
from wren_ladder.drumming.climb import Gate, GateKind, LadderRule, LadderSchool, ladder_by
from wren_ladder.drumming.climb.ladder import MOST_STEP
from wren_ladder.drumming.style import School
from wren_ladder.studio import prose
from wren_ladder.studio.pieces.models import BarRow, Piece
from wren_ladder.studio.plans.packed_bars import PackedBarsField
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.teaching.note_names import in_names

BPM = (MinValueValidator(SLOWEST), MaxValueValidator(FASTEST))
MOST_RANK = 50


class Plan(models.Model):
    """The steps of one piece; with a student it is their climb, without one the model."""

    class Status(models.TextChoices):
        CLIMBING = "climbing", "climbing"
        PAUSED = "paused", "paused"
        FINISHED = "finished", "finished"
        PERFORMED = "performed", "performed"
        PASSED = "passed", "passed in an exam"
        DROPPED = "dropped", "dropped"

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="plans")
    piece = models.ForeignKey(Piece, models.CASCADE, related_name="plans")
    student = models.ForeignKey(
        Student, models.CASCADE, null=True, blank=True, related_name="plans"
    )
    target = models.PositiveSmallIntegerField("target tempo", validators=BPM)
    start = models.PositiveSmallIntegerField("start tempo", validators=BPM)
    ladder = models.CharField(
        "ladder",
        max_length=12,
        choices=LadderSchool.choices(),
        default=LadderSchool.STEP.value,
    )
    own_rungs = models.CharField("tempos of your own list", max_length=200, blank=True)
    rung = models.PositiveSmallIntegerField(
        "rung",
        default=5,
        validators=[MinValueValidator(1), MaxValueValidator(MOST_STEP)],
    )
    clean_bars = models.PositiveSmallIntegerField(
        "clean bars in a row that earn a rung",
        default=32,
        validators=[MinValueValidator(1), MaxValueValidator(256)],
    )
    gate_kind = models.CharField(
        "what earns a rung",
        max_length=32,
        choices=GateKind.choices(),
        default=GateKind.ROW.value,
    )
    gate_clean = models.PositiveSmallIntegerField(
        "clean tries", default=3, validators=[MinValueValidator(1), MaxValueValidator(20)]
    )
    gate_tries = models.PositiveSmallIntegerField(
        "out of tries", default=4, validators=[MinValueValidator(1), MaxValueValidator(20)]
    )
    gate_days = models.PositiveSmallIntegerField(
        "different days", default=2, validators=[MinValueValidator(1), MaxValueValidator(7)]
    )
    gate_failures = models.PositiveSmallIntegerField(
        "failed tries in a row",
        default=2,
        validators=[MinValueValidator(1), MaxValueValidator(9)],
    )
    gate_drop = models.PositiveSmallIntegerField(
        "rungs to go down then",
        default=1,
        validators=[MinValueValidator(1), MaxValueValidator(5)],
    )
    tolerance = models.PositiveSmallIntegerField(
        "BPM below the target that will do", default=0, validators=[MaxValueValidator(40)]
    )
    school = models.CharField(
        max_length=16,
        choices=School.choices(),
        default=School.BAR.value,
    )
    due = models.DateField("by when", null=True, blank=True)
    for_exam = models.BooleanField("is for the exam", default=True)
    status = models.CharField(
        max_length=12, choices=Status, default=Status.CLIMBING, editable=False
    )
    since = models.DateField(null=True, editable=False)  # when the status last changed
    # The piece's fingerprint when the plan was made or last revised, see PlanSnapshot.
    made_of = models.CharField(max_length=40, editable=False, default="")

    version = models.PositiveIntegerField(default=1, editable=False)

    CODES = ("own_rungs", "made_of")
    OF_STUDENT = "student"

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["piece", "student"], name="one_plan_per_student"),
            models.UniqueConstraint(
                fields=["piece"],
                condition=models.Q(student=None),
                name="one_model_plan_per_piece",
            ),
        ]

    def __str__(self) -> str:
        return f"{self.piece} for {self.student}" if self.student else f"{self.piece}: model"

    def get_absolute_url(self) -> str:
        return reverse("plan" if self.student_id else "plan-steps", args=[self.pk])

    @property
    def by_when(self) -> date | None:
        """The day it is to be ready for: its own, or its student's exam."""
        exam = self.student.exam_date if self.student and self.for_exam else None
        return self.due or exam

    @property
    def is_climbed(self) -> bool:
        return self.status == self.Status.CLIMBING

    @property
    def gate(self) -> Gate:
        return Gate(
            GateKind(self.gate_kind),
            self.clean_bars,
            self.gate_clean,
            self.gate_tries,
            self.gate_days,
            self.gate_failures,
            self.gate_drop,
        )

    def rungs_from(self, start: int, target: int | None = None) -> tuple[int, ...]:
        """The ladder from a start to the target, or a step's own, by this plan's school."""
        own = tuple(int(word) for word in self.own_rungs.split())
        rule = LadderRule(LadderSchool(self.ladder), self.rung, own)
        target = target or self.target
        return ladder_by(min(start, target), target, rule)

    @property
    def headroom(self) -> int:
        """BPM of the target above the printed tempo; negative below it."""
        return self.target - self.piece.tempo.bpm

    @property
    def lines(self) -> int:
        """How many steps it has, without those that only help to build a bar."""
        return self.steps.filter(dropped=False).exclude(kind__in=SCAFFOLD).count()

    @property
    def is_behind_the_page(self) -> bool:
        """Has the piece been edited since the plan was made?"""
        return self.made_of != self.piece.fingerprint


class Steps(models.QuerySet):
    def placed(self) -> "Steps":
        """With the rows of their bars, of which the music is not read."""
        return self.select_related("first", "last").defer("first__data", "last__data")


class Step(models.Model):
    """One step of a plan. A dropped step keeps its attempts and can be brought back."""

    Kind = models.TextChoices("Kind", [(kind.name, kind.value) for kind in StepKind])

    plan = models.ForeignKey(Plan, models.CASCADE, related_name="steps")
    position = models.PositiveIntegerField()
    kind = models.CharField(max_length=8, choices=Kind, default=Kind.OWN)
    first = models.ForeignKey(BarRow, models.SET_NULL, null=True, related_name="+")
    last = models.ForeignKey(BarRow, models.SET_NULL, null=True, related_name="+")
    part = models.CharField(max_length=24, blank=True)  # the code of its half or its layer
    name = models.CharField(max_length=80)
    why = models.CharField(max_length=300, blank=True)
    repeats = models.PositiveSmallIntegerField(
        default=4, validators=[MinValueValidator(1), MaxValueValidator(MOST_REPEATS)]
    )
    gap = models.PositiveSmallIntegerField(
        "empty bars between tries", default=0, validators=[MaxValueValidator(MOST_GAP)]
    )
    watch = models.JSONField(default=list, editable=False)  # what to watch for, sentences
    rank = models.FloatField(default=0, editable=False)
    by_hand = models.BooleanField(default=False, editable=False)  # a revision lets it be
    start = models.PositiveSmallIntegerField(
        "start tempo", null=True, blank=True, validators=BPM
    )
    target = models.PositiveSmallIntegerField(
        "own target", null=True, blank=True, validators=BPM
    )
    dropped = models.BooleanField(default=False)

    objects = Steps.as_manager()

    PROSE = {"name": prose.text, "why": prose.text, "watch": prose.each(prose.text)}
    CODES = ("part",)
    OF_STUDENT = "plan__student"

    class Meta:
        ordering = ["position", "pk"]

    def __str__(self) -> str:
        return self.name

    @property
    def why_said(self) -> str:
        """As the teacher wrote it, or as the house says it to whoever reads."""
        return self.why if self.by_hand else in_names(self.why)

    @property
    def places(self) -> tuple[int, int]:
        """First and last bar by their places in the piece; a run goes forward, whichever of
        its ends was moved ahead."""
        ends = (self.first.position, self.last.position)
        return ends if self.step_kind in MEETINGS else (min(ends), max(ends))

    @property
    def step_kind(self) -> StepKind:
        return StepKind(self.kind)

    @property
    def played(self) -> tuple[int, ...]:
        """The bars it plays by their places in the piece; none once they are gone."""
        return places(self.step_kind, *self.places) if self.music_is_there else ()

    @property
    def is_needed(self) -> bool:
        """Does the piece wait for it?"""
        return self.music_is_there and not (self.dropped or self.is_scaffold)

    @property
    def is_scaffold(self) -> bool:
        return self.step_kind in SCAFFOLD

    @property
    def music_is_there(self) -> bool:
        """False once the bars it was made for have been deleted from the piece."""
        return self.first_id is not None and self.last_id is not None


class PlanSnapshot(models.Model):
    """The piece as it was when its plan was made or last revised: [row, bar] in order. Kept
    beside the plan, for only a revision reads it."""

    plan = models.OneToOneField(Plan, models.CASCADE, related_name="snapshot")
    bars = PackedBarsField(default=list, blank=True)

    PROSE = {"bars": prose.each(prose.nth(_1=prose.BAR))}
    OF_STUDENT = "plan__student"

    def __str__(self) -> str:
        return f"snapshot of {self.plan}"


class Revision(models.Model):
    """What changed in a plan when it was revised, and why: [fate, name, why] each."""

    plan = models.ForeignKey(Plan, models.CASCADE, related_name="revisions")
    day = models.DateField()
    said = models.CharField(max_length=200)
    lines = models.JSONField(default=list)

    PROSE = {"said": prose.text, "lines": prose.each(prose.nth(_1=prose.text, _2=prose.text))}
    OF_STUDENT = "plan__student"

    class Meta:
        ordering = ["-day", "-pk"]

    def __str__(self) -> str:
        return f"{self.day}: {self.said}"


class OwnRank(models.Model):
    """The teacher's own rank of a bar, for one student or for the piece as such."""

    bar = models.ForeignKey(BarRow, models.CASCADE, related_name="own_ranks")
    student = models.ForeignKey(
        Student, models.CASCADE, null=True, blank=True, related_name="own_ranks"
    )
    rank = models.FloatField(validators=[MinValueValidator(0), MaxValueValidator(MOST_RANK)])

    OF_STUDENT = "student"

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["bar", "student"], name="one_rank_a_student"),
            models.UniqueConstraint(
                fields=["bar"], condition=models.Q(student=None), name="one_rank_of_the_piece"
            ),
        ]

    def __str__(self) -> str:
        return f"{self.bar}: {self.rank:g}"


class Saying(models.Model):
    """A sentence of the teacher's about a bar, or the bars up to ``last``: for everybody who
    plays the piece, or for one student."""

    first = models.ForeignKey(BarRow, models.CASCADE, related_name="sayings")
    last = models.ForeignKey(
        BarRow, models.SET_NULL, null=True, blank=True, related_name="sayings_up_to"
    )
    student = models.ForeignKey(
        Student, models.CASCADE, null=True, blank=True, related_name="sayings"
    )
    text = models.CharField("what is said", max_length=200, blank=True)
    day = models.DateField()
    sound_type = models.CharField(max_length=40, blank=True)  # where it was said aloud
    in_report = models.BooleanField(default=False)  # to the parents, where that was chosen

    PROSE = {"text": prose.text}
    CODES = ("sound_type",)
    OF_STUDENT = "student"

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return self.text or "to be heard"

    @property
    def where(self) -> str:
        """Bars 3–4 of Quay"""
        first, last = self.first, self.last or self.first
        few = first == last
        bars = f"Bar {first.number}" if few else f"Bars {first.number}–{last.number}"
        return f"{bars} of {first.piece.title}"

    @property
    def span(self) -> tuple[int, int]:
        """Places of its first and last bar in the piece."""
        first = self.first.position
        return first, max(first, self.last.position) if self.last else first


class SayingSound(models.Model):
    """What was said or played, at most half a minute; in a row of its own, so that no list
    reads it. In the database, so that bin, backup and erasing have it with its sentence."""

    saying = models.OneToOneField(Saying, models.CASCADE, related_name="sound")
    data = models.BinaryField()

    OF_STUDENT = "saying__student"

    def __str__(self) -> str:
        return f"{self.saying}, as it was said"


class StudentBar(models.Model):
    """A bar of a piece as one student plays it: an open fill written out, a bar in style."""

    student = models.ForeignKey(Student, models.CASCADE, related_name="own_bars")
    bar = models.ForeignKey(BarRow, models.CASCADE, related_name="own_versions")
    data = models.JSONField()
    page = models.JSONField()  # the bar of the page that it was written for

    PROSE = {"data": prose.BAR, "page": prose.BAR}
    OF_STUDENT = "student"

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["student", "bar"], name="one_version_a_student")
        ]

    def __str__(self) -> str:
        return f"{self.bar} as {self.student} plays it"

    @property
    def own(self) -> Bar:
        return bar_from_json(self.data)
