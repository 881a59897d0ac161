"""Attempts and minutes: what happened; and beside them what follows from it, worked out."""

from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models

from wren_ladder.drumming.climb import Attempt as CoreAttempt
from wren_ladder.studio import prose
from wren_ladder.studio.climb.strokes_field import StrokesField
from wren_ladder.studio.plans.models import BPM, Plan, Step
from wren_ladder.studio.students.models import Student

MOST_PASSES_LOGGED = 99
MOST_MINUTES = 600


# What changed in what earns and loses a rung, by version of the rules: told where it changes
# what somebody holds.
RULES_CHANGED = {
    2: "who holds a longer step holds what it contains, and what is proposed is never above "
    "the rung over what is held",
    3: "a last rung of one or two BPM is joined with the one below",
}
RULES = max(RULES_CHANGED)


class Where(models.TextChoices):
    LESSON = "lesson", "in the lesson"
    HOME = "home", "at home"
    FILE = "file", "from a file"


class Attempt(models.Model):
    # Found by step and day, by the index below.
    step = models.ForeignKey(Step, models.CASCADE, related_name="attempts", db_index=False)
    day = models.DateField()
    tempo = models.PositiveSmallIntegerField(validators=BPM)
    was_clean = models.BooleanField("clean")
    passes = models.PositiveSmallIntegerField(
        "times through",
        default=1,
        validators=[MinValueValidator(1), MaxValueValidator(MOST_PASSES_LOGGED)],
    )
    note = models.CharField("a word about it", max_length=200, blank=True)
    where = models.CharField(max_length=8, choices=Where, default=Where.LESSON)
    take = models.ForeignKey(
        "Take", models.SET_NULL, null=True, related_name="attempts", editable=False
    )  # that was logged
    # Made by the page that logs it, so that what is sent twice is kept once.
    key = models.UUIDField(null=True, unique=True, editable=False)

    # What is said of a try, in this order: its form, pages that send one, tables, the studio
    # file and the file of a student read it here. A new field is named here and nowhere else.
    SAID = ("day", "tempo", "was_clean", "passes", "where", "note")
    PROSE = {"note": prose.text}
    OF_STUDENT = "step__plan__student"

    class Meta:
        ordering = ["day", "pk"]  # the order in which they happened
        indexes = [models.Index(fields=["step", "day"], name="attempts_of_a_step_by_day")]

    def __str__(self) -> str:
        return f"{self.tempo} {'clean' if self.was_clean else 'not yet'}"

    def to_core(self) -> CoreAttempt:
        return CoreAttempt(self.day, self.tempo, self.was_clean, self.passes)


class HomeMinutes(models.Model):
    """Minutes at home, as the student or the teacher says; several on a day add up."""

    student = models.ForeignKey(
        Student, models.CASCADE, related_name="logged_minutes", db_index=False
    )
    day = models.DateField()
    minutes = models.PositiveSmallIntegerField(
        validators=[MinValueValidator(1), MaxValueValidator(MOST_MINUTES)]
    )
    note = models.CharField(max_length=200, blank=True)
    key = models.UUIDField(null=True, unique=True, editable=False)

    PROSE = {"note": prose.text}
    OF_STUDENT = "student"

    class Meta:
        ordering = ["day", "pk"]
        indexes = [models.Index(fields=["student", "day"], name="home_minutes_by_day")]

    def __str__(self) -> str:
        return f"{self.minutes} minutes on {self.day}"


class StepStanding(models.Model):
    """Where a step stands by its log; written by ``standings.refresh`` and nobody else."""

    step = models.OneToOneField(Step, models.CASCADE, related_name="standing")
    held = models.PositiveSmallIntegerField(null=True)
    next_tempo = models.PositiveSmallIntegerField()
    reason = models.CharField(max_length=200)
    falling = models.BooleanField(default=False)
    # The longer step in which it is held as fast, where that is not by its own tries.
    held_in = models.ForeignKey(Step, models.SET_NULL, null=True, related_name="+")
    last_day = models.DateField(null=True)
    # How many rungs were held by its own tries at the end of each day on which that changed
    # (``climb/rungs_held.py``): so a term is summed up without its tries.
    rungs_held = models.TextField(default="")

    CODES = ("reason", "rungs_held")  # worked out
    OF_STUDENT = "step__plan__student"

    def __str__(self) -> str:
        return f"{self.step}: {self.held or 'nothing'} held"


class PlanStanding(models.Model):
    """Where a plan stands by the logs of its steps; written by ``standings.refresh`` alone."""

    plan = models.OneToOneField(Plan, models.CASCADE, related_name="standing")
    ready = models.PositiveSmallIntegerField(null=True)
    slowest = models.PositiveSmallIntegerField(null=True)
    waiting = models.PositiveSmallIntegerField(default=0)
    held_by = models.ForeignKey(Step, models.SET_NULL, null=True, related_name="+")
    last_day = models.DateField(null=True)
    # What to do about the step that holds it back, where that is stuck.
    stuck = models.CharField(max_length=300, default="")
    # The forecast as {as_of, days, unknown}, and the gain it was made of: the studio's usual
    # gain is read from all plans.
    forecast = models.JSONField(default=dict)
    gain = models.FloatField(null=True)  # BPM a practice day
    gain_days = models.PositiveIntegerField(default=0)
    # How often its log or its plan has changed, and how much of that is worked out here.
    changes = models.PositiveIntegerField(default=0)
    worked_out = models.PositiveIntegerField(default=0)
    rules = models.PositiveSmallIntegerField(default=1)  # of which version it was worked out

    CODES = ("stuck", "forecast")  # worked out
    OF_STUDENT = "plan__student"

    def __str__(self) -> str:
        return f"{self.plan}: {self.ready or 'not ready'}"

    @property
    def speed(self) -> int:
        """The piece's speed in BPM: the ready one, or where its plan starts before that."""
        return self.ready or self.plan.start

    @property
    def share(self) -> int:
        """The ready speed in per cent of the plan's target."""
        return self.ready * 100 // self.plan.target if self.ready else 0

    @property
    def exam_share(self) -> int | None:
        """The ready speed in per cent of the printed tempo."""
        return self.ready * 100 // self.plan.piece.tempo.bpm if self.ready else None


class OpenSteps(models.Model):
    """What weeks and lessons ask of a plan's steps (``climb/open_steps.py``); written with its
    standing, and kept beside it, for only they read it."""

    plan = models.OneToOneField(Plan, models.CASCADE, related_name="opened")
    steps = models.JSONField(default=list)  # a row for each needed step, its name second
    parts = models.JSONField(default=list)  # of bars, and which of them is next

    PROSE = {"steps": prose.each(prose.nth(_1=prose.text))}
    CODES = ("parts",)  # numbers
    OF_STUDENT = "plan__student"

    def __str__(self) -> str:
        return f"{self.plan}: {len(self.steps)} steps"


class HeldChange(models.Model):
    """What a step holds became something else with a new version's rules, not by a try: told
    to the teacher until they have seen it."""

    step = models.ForeignKey(Step, models.CASCADE, related_name="+")
    before = models.PositiveSmallIntegerField(null=True)
    after = models.PositiveSmallIntegerField(null=True)
    rules = models.PositiveSmallIntegerField()  # since which version

    OF_STUDENT = "step__plan__student"

    class Meta:
        ordering = ["step__plan__student__name", "step__plan", "step__position"]

    @property
    def why(self) -> str:
        return RULES_CHANGED.get(self.rules, "")

    def __str__(self) -> str:
        held = [f"{one} held" if one else "nothing held" for one in (self.before, self.after)]
        return f"{self.step}: {held[0]} before, {held[1]} now"


class Take(models.Model):
    """One recorded try: the strokes alone, never a sound."""

    step = models.ForeignKey(Step, models.CASCADE, related_name="takes", db_index=False)
    day = models.DateField()
    source = models.CharField(max_length=10)
    where = models.CharField(max_length=8, choices=Where, default=Where.LESSON)
    tempo = models.PositiveSmallIntegerField(validators=BPM)
    passes = models.PositiveSmallIntegerField(
        validators=[MinValueValidator(1), MaxValueValidator(MOST_PASSES_LOGGED)]
    )
    empty_bars = models.PositiveSmallIntegerField(default=0, validators=[MaxValueValidator(4)])
    latency = models.FloatField(
        default=0, validators=[MinValueValidator(-1000), MaxValueValidator(1000)]
    )  # milliseconds of the set-up, as calibrated
    strokes = StrokesField(default=list, blank=True)
    # What was asked for, so that a take is never judged by bars that were changed later.
    asked = models.CharField(max_length=40, blank=True, editable=False)
    # What was said of it, and by which rule (``climb/takes.py``).
    told = models.JSONField(default=dict, blank=True, editable=False)
    # Made by the page that recorded it, so that what is sent twice is kept once.
    key = models.UUIDField(null=True, unique=True, editable=False)

    CODES = ("source", "asked", "told")
    OF_STUDENT = "step__plan__student"

    class Meta:
        ordering = ["-day", "-pk"]
        indexes = [models.Index(fields=["step", "-day", "-id"], name="takes_of_a_step_by_day")]

    def __str__(self) -> str:
        return f"take of {self.day} at {self.tempo}"


class TakenBack(models.Model):
    """The key of a try that was taken back: a page that sends it once more, or for the first
    time, makes none of it."""

    key = models.UUIDField(unique=True)
    at = models.DateTimeField(auto_now_add=True, db_index=True)

    def __str__(self) -> str:
        return f"a try taken back on {self.at:%-d %b %Y}"
