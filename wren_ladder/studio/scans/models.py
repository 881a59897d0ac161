"""Printed pages as pictures, and how far the piece on them is copied."""

from datetime import date, timedelta

from django.conf import settings
from django.db import models
from django.urls import reverse

from wren_ladder.drumming.page_reading.bars.read_bar import ReadBar
from wren_ladder.drumming.page_reading.copied import CopiedBar, State
from wren_ladder.drumming.page_reading.found import FoundLine
from wren_ladder.drumming.page_reading.serial import line_from_json, read_from_json
from wren_ladder.studio import prose
from wren_ladder.studio.pieces.models import GRADES, Piece

KEPT = timedelta(days=60)  # without being touched
KEPT_WHEN_FINISHED = timedelta(days=7)
MOST_UNDONE = 40


class Scan(models.Model):
    """The printed pages of one piece. Pictures lie in the database alone, seen by nobody but
    their owner, and end by themselves on the day ``until``.

    ``bars`` has a row for each printed bar in the order of the pages: ``kind`` (the first bar
    that looks the same), ``near`` with ``here`` and ``there`` (one that nearly does, and the
    boxes in which the two differ), ``box`` (its page, the middle of its line, left, right),
    ``text``, ``state`` and ``signs`` (see ``CopiedBar``), and ``read``, what was read in it
    where it is the first of its look, ``said``, what a sign in it says, ``meter``, the time
    signature that holds in it, and ``number``, how like what is printed at a line's beginning
    is to each figure. ``key`` has the drum of each head on each row.
    """

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="scans")
    title = models.CharField(max_length=120, blank=True)
    grade = models.PositiveSmallIntegerField(null=True, blank=True, validators=GRADES)
    piece = models.ForeignKey(Piece, models.SET_NULL, null=True, related_name="scans")
    bars = models.JSONField(default=list)
    key = models.JSONField(default=dict)  # of the staff; empty until somebody was asked
    before = models.JSONField(default=list)  # of ``bars``: [[place, row], ...] each, last last
    until = models.DateField()
    changed = models.DateTimeField(auto_now=True)

    _ROW = prose.at(text=prose.typed)
    PROSE = {
        "title": prose.text,
        "bars": prose.each(_ROW),
        "before": prose.each(prose.each(prose.nth(_1=_ROW))),
    }
    CODES = ("key",)

    class Meta:
        ordering = ["-changed"]

    def __str__(self) -> str:
        return self.title or "a printed piece"

    def get_absolute_url(self) -> str:
        return reverse("scan", args=[self.pk])

    def copied(self) -> list[CopiedBar]:
        return [
            CopiedBar(row["kind"], row["text"], State(row["state"]), tuple(row["signs"]))
            for row in self.bars
        ]

    def reads(self) -> list[ReadBar | None]:
        """What was read in each bar; bars of before had nothing read in them."""
        found = (row.get("read") for row in self.bars)
        return [one and read_from_json(one) for one in found]

    def keep_from(self, today: date, finished: bool = False) -> None:
        """From today on it is kept for so long."""
        self.until = today + (KEPT_WHEN_FINISHED if finished else KEPT)


class ScanPage(models.Model):
    """One page: as it came, and made straight with its ``lines`` once it is read. ``corners``
    of the sheet are in pixels of what came, empty where all of it is the sheet."""

    scan = models.ForeignKey(Scan, models.CASCADE, related_name="pages")
    position = models.PositiveIntegerField()
    name = models.CharField(max_length=200)
    original = models.BinaryField()  # JPEG, grey
    picture = models.BinaryField(null=True)  # JPEG, grey, made straight
    width = models.PositiveIntegerField(default=0)  # of the straight picture, pixels
    height = models.PositiveIntegerField(default=0)
    corners = models.JSONField(default=list)
    lines = models.JSONField(default=list)
    version = models.PositiveIntegerField(default=1)  # of the picture, for its address

    PROSE = {"name": prose.text}
    CODES = ("corners", "lines")

    class Meta:
        ordering = ["position"]
        constraints = [
            models.UniqueConstraint(fields=["scan", "position"], name="one_page_a_position")
        ]

    def __str__(self) -> str:
        return f"page {self.position + 1}"

    @property
    def is_read(self) -> bool:
        return self.picture is not None

    def found_lines(self) -> tuple[FoundLine, ...]:
        return tuple(line_from_json(one) for one in self.lines)
