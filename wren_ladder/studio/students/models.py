"""Students: only what a teacher needs to plan their climb."""

from dataclasses import replace

from django.conf import settings
from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models
from django.urls import reverse

from wren_ladder.drumming.chart import Hand
from wren_ladder.drumming.forecast import BUFFER
from wren_ladder.drumming.practice.hearing import (
    LOUDEST,
    MOST_RATING,
    QUIETEST,
    USUAL_LEVEL,
    Ears,
    HearingRule,
)
from wren_ladder.drumming.style import Style
from wren_ladder.studio import prose
from wren_ladder.studio.teaching.models import style_of

BEFORE_GRADES = 0  # a student who is not at grade 1 yet
MOST_HOME_MINUTES = 240


class Student(models.Model):
    class Status(models.TextChoices):
        HERE = "here", "here"
        PAUSED = "paused", "paused"
        LEFT = "left", "left"

    class Lead(models.TextChoices):
        RIGHT = "R", "right-handed"
        LEFT = "L", "left-handed"

    class Day(models.IntegerChoices):
        MONDAY = 0, "Monday"
        TUESDAY = 1, "Tuesday"
        WEDNESDAY = 2, "Wednesday"
        THURSDAY = 3, "Thursday"
        FRIDAY = 4, "Friday"
        SATURDAY = 5, "Saturday"
        SUNDAY = 6, "Sunday"

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="students")
    second_teacher = models.ForeignKey(
        settings.AUTH_USER_MODEL, models.SET_NULL, related_name="+", null=True, editable=False
    )
    name = models.CharField(max_length=80)
    status = models.CharField(max_length=8, choices=Status, default=Status.HERE, editable=False)
    grade = models.PositiveSmallIntegerField(
        default=1, choices=[(BEFORE_GRADES, "before 1"), *((n, str(n)) for n in range(1, 9))]
    )
    lead = models.CharField("leading hand", max_length=1, choices=Lead, default=Lead.RIGHT)
    open_handed = models.BooleanField("keeps the hat open-handed", default=False)
    lesson_day = models.PositiveSmallIntegerField(choices=Day, null=True, blank=True)
    lesson_time = models.TimeField(null=True, blank=True)
    lesson_minutes = models.PositiveSmallIntegerField(
        "minutes of a lesson",
        default=30,
        validators=[MinValueValidator(5), MaxValueValidator(240)],
    )
    # Of the student, shared by all their pieces and exercises.
    home_days = models.PositiveSmallIntegerField(
        "days a week at home", default=5, validators=[MaxValueValidator(7)]
    )
    home_minutes = models.PositiveSmallIntegerField(
        "minutes a day at home", default=15, validators=[MaxValueValidator(MOST_HOME_MINUTES)]
    )
    raised = models.DateField(null=True, editable=False)  # when the minutes last went up
    home_earns = models.BooleanField("what is logged at home earns rungs", default=False)
    records_at_home = models.BooleanField("may record takes on the private link", default=False)
    exam_date = models.DateField(null=True, blank=True)
    buffer = models.PositiveSmallIntegerField(
        "days of full runs before the exam", default=BUFFER, validators=[MaxValueValidator(120)]
    )
    level = models.PositiveSmallIntegerField(
        "sound level at the kit, dBA",
        default=USUAL_LEVEL,
        validators=[MinValueValidator(QUIETEST), MaxValueValidator(LOUDEST)],
    )
    rating = models.PositiveSmallIntegerField(
        "hearing protection, dB", default=0, validators=[MaxValueValidator(MOST_RATING)]
    )
    hearing_rule = models.CharField(
        max_length=8,
        choices=[(rule.value, rule.value) for rule in HearingRule],
        default=HearingRule.NIOSH,
    )
    link_key = models.CharField(max_length=32, blank=True, editable=False)  # empty: no link
    notes = models.TextField(blank=True, max_length=4000)
    contact = models.CharField("family", blank=True, max_length=200)  # who, and how to reach
    report_words = models.TextField("your words to the parents", blank=True, max_length=2000)
    trial = models.BooleanField(default=False, editable=False)  # here to try the studio with
    version = models.PositiveIntegerField(default=1, editable=False)

    PROSE = {"notes": prose.text, "contact": prose.text, "report_words": prose.text}
    CODES = ("name", "link_key")  # a name is that of its student alone
    OF_STUDENT = "pk"

    class Meta:
        ordering = ["name"]
        constraints = [
            models.UniqueConstraint(fields=["owner", "name"], name="student_once_per_teacher")
        ]

    def __str__(self) -> str:
        return self.name

    def get_absolute_url(self) -> str:
        return reverse("student", args=[self.pk])

    @property
    def grade_said(self) -> str:
        return f"grade {self.grade}" if self.grade else "before grade 1"

    @property
    def is_here(self) -> bool:
        return self.status == self.Status.HERE

    @property
    def ears(self) -> Ears:
        return Ears(self.level, self.rating, HearingRule(self.hearing_rule))

    @property
    def style(self) -> Style:
        """Their teacher's style for this student's hands."""
        hands = {"lead": Hand(self.lead), "open_handed": self.open_handed}
        return replace(style_of(self.owner_id), **hands)
