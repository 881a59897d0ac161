"""A teacher's own schools and syllabus; without a row of their own, the house's."""

from dataclasses import replace

from django.conf import settings
from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models

from wren_ladder.drumming.grades import HOUSE_SYLLABUS, MOST_GRADE, Syllabus
from wren_ladder.drumming.hands.schools import Sticking
from wren_ladder.drumming.style import (
    HOUSE,
    WEIGHTS,
    Compound,
    Counting,
    NoteNames,
    School,
    Style,
)
from wren_ladder.drumming.takes.limits import Rule, Unit, house_rule
from wren_ladder.studio import prose

SCHOOLS = {
    "school": School,
    "sticking": Sticking,
    "counting": Counting,
    "compound": Compound,
    "note_names": NoteNames,
}
PLAIN = (
    "phrase_count",
    "repeats_after_jump",
    "hand_limit",
    "foot_limit",
    "roll_limit",
    "clean_bars",
    "rung",
    "start_share",
)


class TeachingStyle(models.Model):
    owner = models.OneToOneField(
        settings.AUTH_USER_MODEL, models.CASCADE, related_name="teaching_style"
    )
    choices = models.JSONField(default=dict)  # what differs from the house, by Style's names
    words = models.JSONField(default=list)  # [figure, word] in order; empty means the house's
    weights = models.JSONField(default=dict)  # reason -> what one of it counts
    syllabus = models.JSONField(default=dict)  # name -> grade where it differs

    PROSE = {"words": prose.each(prose.nth(_1=prose.text))}
    CODES = ("choices", "weights", "syllabus")

    def __str__(self) -> str:
        return f"teaching style of {self.owner}"

    @property
    def style(self) -> Style:
        """The house's style with what this teacher chose; unknown choices are passed over."""
        chosen = {
            name: school(self.choices[name])
            for name, school in SCHOOLS.items()
            if self.choices.get(name) in tuple(school)
        }
        chosen |= {name: self.choices[name] for name in PLAIN if name in self.choices}
        if self.words:
            chosen["words"] = tuple((figure, word) for figure, word in self.words)
        if self.weights:
            chosen["weights"] = tuple(
                (reason, float(self.weights.get(reason, weight))) for reason, weight in WEIGHTS
            )
        return replace(HOUSE, **chosen)


def teaching_of(owner_id: int) -> tuple[Style, Syllabus]:
    """How this teacher teaches, and what at which grade; in one query."""
    own = TeachingStyle.objects.filter(owner_id=owner_id).first()
    return own.style if own else HOUSE, {**HOUSE_SYLLABUS, **(own.syllabus if own else {})}


def style_of(owner_id: int) -> Style:
    return teaching_of(owner_id)[0]


def syllabus_of(owner_id: int) -> Syllabus:
    return teaching_of(owner_id)[1]


def _up_to(most: int):
    return [MinValueValidator(1), MaxValueValidator(most)]


class TakeRule(models.Model):
    """When a pass of a take is clean at a grade, where that differs from the house's rule."""

    owner = models.ForeignKey(
        settings.AUTH_USER_MODEL, models.CASCADE, related_name="take_rules"
    )
    grade = models.PositiveSmallIntegerField(validators=[MaxValueValidator(MOST_GRADE)])
    slips = models.PositiveSmallIntegerField(validators=[MaxValueValidator(50)])
    spread = models.PositiveSmallIntegerField(validators=_up_to(200))
    lean = models.PositiveSmallIntegerField(validators=_up_to(200))
    unit = models.CharField(max_length=5, choices=Unit.choices(), default=Unit.MILLISECONDS)

    class Meta:
        ordering = ["grade"]
        constraints = [
            models.UniqueConstraint(fields=["owner", "grade"], name="one_take_rule_a_grade")
        ]

    def __str__(self) -> str:
        return f"takes at grade {self.grade}"

    @property
    def rule(self) -> Rule:
        return Rule(self.slips, self.spread, self.lean, Unit(self.unit))


def take_rules(owner_id: int) -> dict[int, Rule]:
    """The rule of each grade, the teacher's own where there is one."""
    own = TakeRule.objects.filter(owner_id=owner_id)
    house = {grade: house_rule(grade) for grade in range(MOST_GRADE + 1)}
    return house | {row.grade: row.rule for row in own}
