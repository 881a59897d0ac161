"""Lessons as they were or will be: when, what was done, what was set; terms and holidays."""

from uuid import uuid4

from django.conf import settings
from django.core.exceptions import ValidationError
from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models
from django.urls import reverse

from wren_ladder.studio import prose
from wren_ladder.studio.students.models import Student


class Lesson(models.Model):
    """One lesson of a student; a second one on the same day goes on with it.

    The weekly lessons to come are not stored: a row stands for one that was given, or that
    was planned, moved, cancelled or missed.
    """

    class State(models.TextChoices):
        GIVEN = "given", "given"
        PLANNED = "planned", "planned"
        CANCELLED = "cancelled", "cancelled"
        ILL = "ill", "ill"
        MISSED = "missed", "did not come"

    class By(models.TextChoices):
        STUDENT = "student", "the student"
        TEACHER = "teacher", "the teacher"

    class Practised(models.TextChoices):
        YES = "yes", "practised as set"
        SOME = "some", "practised some of it"
        NO = "no", "did not practise"

    student = models.ForeignKey(Student, models.CASCADE, related_name="lessons")
    day = models.DateField()
    time = models.TimeField(null=True, blank=True)  # empty: the student's usual one
    minutes = models.PositiveSmallIntegerField(
        null=True, blank=True, validators=[MinValueValidator(5), MaxValueValidator(480)]
    )  # empty: the usual ones
    state = models.CharField(max_length=10, choices=State, default=State.GIVEN)
    by = models.CharField("cancelled or ill", max_length=8, choices=By, blank=True)
    late = models.PositiveSmallIntegerField(
        "minutes late", default=0, validators=[MaxValueValidator(120)]
    )
    instead_of = models.DateField("instead of the lesson on", null=True, blank=True)
    company = models.UUIDField(null=True, editable=False)  # the same for those taught together
    practised = models.CharField(
        "since the lesson before", max_length=4, choices=Practised, blank=True
    )
    note = models.TextField("private note", blank=True, max_length=2000)
    message = models.TextField("message to the student", blank=True, max_length=500)
    for_parents = models.CharField("line for the parent", blank=True, max_length=300)
    did = models.JSONField(default=list)  # lines, such as "Bar 4: 95 earned, 3 tries"
    was_set = models.JSONField(default=list)  # [{step, name, piece, tempo, minutes}], in order
    # The days of the week that was set, from the lesson's own on: a list for each of
    # [place in was_set, or -1 for the warm-up; minutes; whether on the pad].
    week = models.JSONField(default=list)

    PROSE = {
        "note": prose.text,
        "message": prose.text,
        "for_parents": prose.text,
        "did": prose.each(prose.text),
        "was_set": prose.each(prose.at(name=prose.text, piece=prose.text)),
    }
    CODES = ("week",)
    OF_STUDENT = "student"
    # Of those taught together; all else is each one's own.
    SHARED = ("company", "time", "minutes")

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
        return [one["step"] for one in self.was_set if one["step"]]

    @property
    def is_given(self) -> bool:
        return self.state == self.State.GIVEN

    @property
    def is_off(self) -> bool:
        """Did it not take place?"""
        return self.state in OFF

    @property
    def lasts(self) -> int:
        """Minutes."""
        return self.minutes or self.student.lesson_minutes

    @property
    def starts(self):
        """Its time of the day, None where neither it nor the student has one."""
        return self.time or self.student.lesson_time

    @property
    def is_double(self) -> bool:
        return self.lasts >= 2 * self.student.lesson_minutes

    @property
    def said(self) -> str:
        """What became of it: "ill (the student)", "given, 10 minutes late, double"."""
        words = [self.get_state_display()]
        if self.is_off and self.by:
            words[0] += f" ({self.get_by_display()})"
        if self.late and not self.is_off:
            words.append(f"{self.late} minutes late")
        if self.is_double and not self.is_off:
            words.append("double")
        if self.instead_of:
            words.append(f"instead of {self.instead_of:%-d %b}")
        if self.practised == self.Practised.NO:
            words.append("did not practise")
        return ", ".join(words)


OFF = (Lesson.State.CANCELLED, Lesson.State.ILL, Lesson.State.MISSED)

# What can become of a lesson that does not take place, and by whom, as it is pressed.
OFF_CHOICES = (
    (Lesson.State.ILL, Lesson.By.STUDENT, "The student is ill"),
    (Lesson.State.CANCELLED, Lesson.By.STUDENT, "The student cancelled"),
    (Lesson.State.MISSED, "", "Did not come"),
    (Lesson.State.ILL, Lesson.By.TEACHER, "I am ill"),
    (Lesson.State.CANCELLED, Lesson.By.TEACHER, "I cancelled"),
)


class Period(models.Model):
    """A term, which is summed up at its end, or a holiday, in which no lesson is due."""

    class Kind(models.TextChoices):
        TERM = "term", "term"
        HOLIDAY = "holiday", "holiday"

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="periods")
    kind = models.CharField(max_length=8, choices=Kind, default=Kind.HOLIDAY)
    name = models.CharField(max_length=60)
    first = models.DateField("first day")
    last = models.DateField("last day")

    PROSE = {"name": prose.text}

    class Meta:
        ordering = ["first"]

    def __str__(self) -> str:
        return self.name

    def clean(self) -> None:
        if self.first and self.last and self.last < self.first:
            raise ValidationError({"last": "It ends before it begins."})

    def holds(self, day) -> bool:
        return self.first <= day <= self.last


class CalendarAddress(models.Model):
    """The secret address at which a teacher's calendar program reads the lessons; a new key
    makes the one before worthless."""

    owner = models.OneToOneField(
        settings.AUTH_USER_MODEL, models.CASCADE, related_name="calendar_address"
    )
    key = models.UUIDField(default=uuid4, unique=True, editable=False)

    def __str__(self) -> str:
        return f"calendar of {self.owner}"
