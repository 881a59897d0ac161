"""A teacher's own schools and syllabus; without a row of their own, the house's."""

from dataclasses import replace

from django.conf import settings
from django.db import models

from wren_ladder.drumming.hands.schools import Sticking
from wren_ladder.drumming.judging.syllabus import HOUSE_SYLLABUS, Syllabus
from wren_ladder.drumming.style import (
    HOUSE,
    WEIGHTS,
    Compound,
    Counting,
    NoteNames,
    School,
    Style,
)

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


def style_of(owner_id: int) -> Style:
    """How this teacher teaches."""
    own = TeachingStyle.objects.filter(owner_id=owner_id).first()
    return own.style if own else HOUSE


def syllabus_of(owner_id: int) -> Syllabus:
    """At which grade this teacher teaches what."""
    own = TeachingStyle.objects.filter(owner_id=owner_id).first()
    return {**HOUSE_SYLLABUS, **(own.syllabus if own else {})}
