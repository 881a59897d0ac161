"""Lessons as they were: what was done, what was set."""

from django.db import models
from django.urls import reverse

from wren_ladder.studio.students.models import Student


class Lesson(models.Model):
    """One lesson of a student; a second one on the same day goes on with it."""

    student = models.ForeignKey(Student, models.CASCADE, related_name="lessons")
    day = models.DateField()
    note = models.TextField(blank=True, max_length=2000)
    did = models.JSONField(default=list)  # lines, such as "Bar 4: 95 earned, 3 tries"
    was_set = models.JSONField(default=list)  # [{step, name, piece, tempo}]

    class Meta:
        ordering = ["-day"]
        constraints = [
            models.UniqueConstraint(fields=["student", "day"], name="one_lesson_a_day")
        ]

    def __str__(self) -> str:
        return f"lesson of {self.student} on {self.day}"

    def get_absolute_url(self) -> str:
        return reverse("lesson", args=[self.pk])

    @property
    def set_steps(self) -> list[int]:
        return [one["step"] for one in self.was_set]
