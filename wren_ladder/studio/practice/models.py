"""Attempts: what happened, when, at which tempo."""

from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models

from wren_ladder.drumming.tempo import Attempt as CoreAttempt
from wren_ladder.studio.lessons.models import BPM, Step

MOST_PASSES = 99


class Attempt(models.Model):
    step = models.ForeignKey(Step, models.CASCADE, related_name="attempts")
    day = models.DateField()
    tempo = models.PositiveSmallIntegerField(validators=BPM)
    was_clean = models.BooleanField()
    passes = models.PositiveSmallIntegerField(
        default=1, validators=[MinValueValidator(1), MaxValueValidator(MOST_PASSES)]
    )
    note = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ["day", "pk"]  # the order in which they happened
        indexes = [models.Index(fields=["step", "day"])]

    def __str__(self) -> str:
        return f"{self.tempo} {'clean' if self.was_clean else 'not yet'}"

    def to_core(self) -> CoreAttempt:
        return CoreAttempt(self.day, self.tempo, self.was_clean, self.passes)
