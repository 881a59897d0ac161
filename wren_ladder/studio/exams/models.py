"""Exams: a programme on a day, mock exams before it, and how it went."""

from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models
from django.urls import reverse

from wren_ladder.drumming.chart.tempo import FASTEST, SLOWEST
from wren_ladder.drumming.grades import MOST_GRADE
from wren_ladder.studio import prose
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.models import Student


class Exam(models.Model):
    """One exam of a student; without a ``result`` it is ahead, or waits to be told of."""

    class Result(models.TextChoices):
        PASSED = "passed", "passed"
        FAILED = "failed", "not passed this time"
        PUT_OFF = "put-off", "put off"

    student = models.ForeignKey(Student, models.CASCADE, related_name="exams")
    day = models.DateField()
    grade = models.PositiveSmallIntegerField(
        validators=[MinValueValidator(1), MaxValueValidator(MOST_GRADE)]
    )
    entry_by = models.DateField("entry by", null=True, blank=True)
    result = models.CharField(max_length=8, choices=Result, blank=True)
    mark = models.CharField("mark or grade of pass", max_length=60, blank=True)
    words = models.TextField("the examiner's words", max_length=2000, blank=True)

    PROSE = {"mark": prose.text, "words": prose.text}
    OF_STUDENT = "student"

    class Meta:
        ordering = ["day"]

    def __str__(self) -> str:
        return f"grade {self.grade} of {self.student} on {self.day}"

    def get_absolute_url(self) -> str:
        return reverse("exam", args=[self.pk])


class ExamItem(models.Model):
    """One thing of the programme, in its order: a piece or exercise that is climbed, or words
    such as "unseen reading"."""

    exam = models.ForeignKey(Exam, models.CASCADE, related_name="items")
    place = models.PositiveSmallIntegerField()
    plan = models.ForeignKey(Plan, models.SET_NULL, null=True, blank=True, related_name="+")
    name = models.CharField(max_length=120)
    tempo = models.PositiveSmallIntegerField(
        null=True,
        blank=True,
        validators=[MinValueValidator(SLOWEST), MaxValueValidator(FASTEST)],
    )

    PROSE = {"name": prose.text}
    OF_STUDENT = "exam__student"

    class Meta:
        ordering = ["place"]

    def __str__(self) -> str:
        return self.name


class MockRun(models.Model):
    """What became of one thing of the programme in a mock exam: once, with no second go."""

    item = models.ForeignKey(ExamItem, models.CASCADE, related_name="runs")
    day = models.DateField()
    was_clean = models.BooleanField()
    words = models.CharField(max_length=300, blank=True)

    PROSE = {"words": prose.text}
    OF_STUDENT = "item__exam__student"

    class Meta:
        ordering = ["day", "item__place"]

    def __str__(self) -> str:
        return f"{self.item} on {self.day}"
