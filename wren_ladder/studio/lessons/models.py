"""Lesson plans: the steps of a piece, as a model for the studio or for one student."""

from django.conf import settings
from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models
from django.urls import reverse

from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.drumming.chart.tempo import FASTEST, SLOWEST
from wren_ladder.drumming.tempo.ladder import MOST_STEP
from wren_ladder.studio.pieces.models import BarRow, Piece
from wren_ladder.studio.students.models import Student

BPM = (MinValueValidator(SLOWEST), MaxValueValidator(FASTEST))


class Plan(models.Model):
    """The steps of one piece; with a student it is their climb, without one the model."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="plans")
    piece = models.ForeignKey(Piece, models.CASCADE, related_name="plans")
    student = models.ForeignKey(
        Student, models.CASCADE, null=True, blank=True, related_name="plans"
    )
    target = models.PositiveSmallIntegerField("target tempo", validators=BPM)
    start = models.PositiveSmallIntegerField("start tempo", validators=BPM)
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

    # Where the climb stands, written by practice.services.refresh from the log alone.
    ready = models.PositiveSmallIntegerField(null=True, editable=False)
    slowest = models.PositiveSmallIntegerField(null=True, editable=False)
    waiting = models.PositiveSmallIntegerField(default=0, editable=False)
    held_by = models.ForeignKey(
        "Step", models.SET_NULL, null=True, editable=False, related_name="+"
    )
    last_day = models.DateField(null=True, editable=False)

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


class Step(models.Model):
    """One step of a plan. A dropped step keeps its attempts and can be brought back."""

    Kind = models.TextChoices("Kind", [(kind.name, kind.value) for kind in StepKind])

    plan = models.ForeignKey(Plan, models.CASCADE, related_name="steps")
    position = models.PositiveIntegerField()
    kind = models.CharField(max_length=8, choices=Kind, default=Kind.OWN)
    first = models.ForeignKey(BarRow, models.SET_NULL, null=True, related_name="+")
    last = models.ForeignKey(BarRow, models.SET_NULL, null=True, related_name="+")
    name = models.CharField(max_length=80)
    why = models.CharField(max_length=300, blank=True)
    repeats = models.PositiveSmallIntegerField(
        default=4, validators=[MinValueValidator(1), MaxValueValidator(64)]
    )
    start = models.PositiveSmallIntegerField(
        "start tempo", null=True, blank=True, validators=BPM
    )
    dropped = models.BooleanField(default=False)

    # Written by practice.services.refresh from the log alone.
    held = models.PositiveSmallIntegerField(null=True, editable=False)
    next_tempo = models.PositiveSmallIntegerField(null=True, editable=False)
    reason = models.CharField(max_length=200, editable=False, default="")
    falling = models.BooleanField(default=False, editable=False)
    last_day = models.DateField(null=True, editable=False)

    class Meta:
        ordering = ["position", "pk"]

    def __str__(self) -> str:
        return self.name

    @property
    def places(self) -> tuple[int, int]:
        """First and last bar by their places in the piece, whichever was moved ahead."""
        first, last = sorted((self.first.position, self.last.position))
        return first, last

    @property
    def music_is_there(self) -> bool:
        """False once the bars it was made for have been deleted from the piece."""
        return self.first_id is not None and self.last_id is not None
