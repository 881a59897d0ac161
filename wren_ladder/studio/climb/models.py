"""Attempts: what happened, when, at which tempo."""

from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models

from wren_ladder.drumming.climb import Attempt as CoreAttempt
from wren_ladder.studio.plans.models import BPM, Step
from wren_ladder.studio.students.models import Student

MOST_PASSES_LOGGED = 99
MOST_MINUTES = 600


class Where(models.TextChoices):
    LESSON = "lesson", "in the lesson"
    HOME = "home", "at home"
    FILE = "file", "from a file"


class Attempt(models.Model):
    step = models.ForeignKey(Step, models.CASCADE, related_name="attempts")
    day = models.DateField()
    tempo = models.PositiveSmallIntegerField(validators=BPM)
    was_clean = models.BooleanField()
    passes = models.PositiveSmallIntegerField(
        default=1, validators=[MinValueValidator(1), MaxValueValidator(MOST_PASSES_LOGGED)]
    )
    note = models.CharField(max_length=200, blank=True)
    where = models.CharField(max_length=8, choices=Where, default=Where.LESSON)
    # Made by the page that logs it, so that what is sent twice is kept once.
    key = models.UUIDField(null=True, unique=True, editable=False)

    class Meta:
        ordering = ["day", "pk"]  # the order in which they happened
        indexes = [models.Index(fields=["step", "day"], name="attempts_of_a_step_by_day")]

    def __str__(self) -> str:
        return f"{self.tempo} {'clean' if self.was_clean else 'not yet'}"

    def to_core(self) -> CoreAttempt:
        return CoreAttempt(self.day, self.tempo, self.was_clean, self.passes)


class HomeMinutes(models.Model):
    """Minutes at home, as the student or the teacher says; several on a day add up."""

    student = models.ForeignKey(Student, models.CASCADE, related_name="home_minutes")
    day = models.DateField()
    minutes = models.PositiveSmallIntegerField(
        validators=[MinValueValidator(1), MaxValueValidator(MOST_MINUTES)]
    )
    note = models.CharField(max_length=200, blank=True)
    key = models.UUIDField(null=True, unique=True, editable=False)

    class Meta:
        ordering = ["day", "pk"]
        indexes = [models.Index(fields=["student", "day"], name="home_minutes_by_day")]

    def __str__(self) -> str:
        return f"{self.minutes} minutes on {self.day}"
