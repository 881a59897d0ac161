"""Pieces, each bar a row of its own."""

from pathlib import Path
from uuid import uuid4

from django.conf import settings
from django.core.exceptions import ValidationError
from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models
from django.urls import reverse

from wren_ladder.drumming.chart import Bar, Chart, ChartError, Tempo
from wren_ladder.drumming.chart.serial import bar_from_json
from wren_ladder.drumming.performance import clock
from wren_ladder.drumming.plain_text import plain
from wren_ladder.studio import prose

MOST_SECONDS = 1_000_000  # of one run: a road is cut long before
GRADES = (MinValueValidator(1), MaxValueValidator(8))


def is_a_tempo(mark: str) -> None:
    try:
        Tempo.parse(mark)
    except ChartError as error:
        raise ValidationError(error.text) from error


class Piece(models.Model):
    """A chart and its title; what lists show of it is kept beside, written on saving. An
    exercise is one too: its kind says so, and it remembers what it was made of."""

    class Kind(models.TextChoices):
        PIECE = "piece", "piece"
        GROOVE = "groove", "groove"
        FILL = "fill", "fill"
        PHRASE = "phrase", "phrase"
        HANDS = "hands", "hands"
        FEET = "feet", "feet"
        READING = "reading", "reading"
        WARM_UP = "warm-up", "warm-up"

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="pieces")
    title = models.CharField(max_length=120)
    grade = models.PositiveSmallIntegerField(null=True, blank=True, validators=GRADES)
    trial = models.BooleanField(default=False, editable=False)  # here to try the studio with
    kind = models.CharField(max_length=8, choices=Kind, default=Kind.PIECE, editable=False)
    made_of = models.JSONField(default=dict, editable=False)  # the recipe of an exercise
    notes = models.TextField(blank=True, max_length=4000)
    shared = models.BooleanField(default=False, editable=False)  # with the house
    version = models.PositiveIntegerField(default=1, editable=False)
    saved_by = models.UUIDField(null=True, editable=False)  # the editor's page that saved it
    import_report = models.JSONField(default=list, editable=False)  # what reading left out
    typed = models.TextField(blank=True, editable=False)  # its bars as somebody typed them
    changed = models.DateTimeField(auto_now=True)

    # Worked out from the bars, written with them by pieces.storing.store_chart only.
    fingerprint = models.CharField(max_length=40, editable=False, default="")
    bar_count = models.PositiveIntegerField(editable=False, default=0)
    seconds = models.FloatField(
        editable=False,
        default=0,
        validators=[MinValueValidator(0), MaxValueValidator(MOST_SECONDS)],
    )
    meter = models.CharField(max_length=40, editable=False, default="")
    tempo_mark = models.CharField(
        max_length=40, editable=False, default="crotchet = 60", validators=[is_a_tempo]
    )

    PROSE = {
        "title": prose.text,
        "notes": prose.text,
        "import_report": prose.each(prose.text),
        "typed": prose.typed,
        "made_of": prose.at(typed=prose.typed),  # an exercise of the teacher's own
    }
    CODES = ("fingerprint", "meter", "tempo_mark")

    class Meta:
        ordering = ["title", "pk"]

    def __str__(self) -> str:
        return self.title

    def get_absolute_url(self) -> str:
        return reverse("piece", args=[self.pk])

    @property
    def is_exercise(self) -> bool:
        return self.kind != self.Kind.PIECE

    @property
    def heading(self) -> str:
        """What its steps stand under: an exercise is its own step, so that its kind says more
        than its title again."""
        return f"exercise, {self.get_kind_display()}" if self.is_exercise else self.title

    @property
    def tempo(self) -> Tempo:
        return Tempo.parse(self.tempo_mark)

    @property
    def length(self) -> str:
        """One run, as minutes and seconds."""
        return clock(self.seconds)

    def chart(self) -> Chart:
        return Chart(plain(self.title), tuple(row.bar for row in self.bars.all()))


class BarRow(models.Model):
    """One bar of a piece: the core's own JSON of it, and a hash of its music."""

    piece = models.ForeignKey(Piece, models.CASCADE, related_name="bars")
    position = models.PositiveIntegerField()
    number = models.CharField(max_length=12)
    data = models.JSONField()

    PROSE = {"data": prose.BAR}
    CODES = ("number",)

    class Meta:
        ordering = ["position"]

    def __str__(self) -> str:
        return f"bar {self.number}"

    @property
    def bar(self) -> Bar:
        return bar_from_json(self.data)


def _unguessed(_recording: "Recording", name: str) -> str:
    return f"{uuid4()}{Path(name).suffix.lower()[:6]}"


class Recording(models.Model):
    """A sound file of the teacher's own to play along with; ``anchors`` are (turn along the
    road, second) pairs. The file lies in the studio's data and is served to its owner only."""

    piece = models.OneToOneField(Piece, models.CASCADE, related_name="recording")
    file = models.FileField(upload_to=_unguessed)
    name = models.CharField(max_length=120)
    content_type = models.CharField(max_length=20)
    size = models.PositiveIntegerField()  # bytes
    anchors = models.JSONField(default=list)

    PROSE = {"name": prose.text}
    CODES = ("content_type", "anchors", "file")

    def __str__(self) -> str:
        return self.name


class Draft(models.Model):
    """A piece while it is being changed; it survives a closed tab, and ends with saving.

    Without a piece it is the teacher's new piece. Text that can't be read yet is kept as
    it was typed: ``text`` is the whole page typed at once, ``lines`` one bar's.
    """

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="drafts")
    piece = models.ForeignKey(Piece, models.CASCADE, null=True, related_name="drafts")
    title = models.CharField(max_length=120, blank=True)
    grade = models.CharField(max_length=8, blank=True)  # as typed, read on saving
    notes = models.TextField(blank=True)
    bars = models.JSONField()
    text = models.TextField(blank=True)
    lines = models.TextField(blank=True)
    lines_bar = models.PositiveIntegerField(null=True)
    done = models.PositiveIntegerField(default=0)  # edits applied; the others are undone
    base = models.CharField(max_length=40, blank=True)  # the piece's fingerprint at the start
    version = models.PositiveIntegerField(default=1, editable=False)
    writer = models.UUIDField(null=True, editable=False)  # the editor's page that wrote last
    changed = models.DateTimeField(auto_now=True)

    PROSE = {
        "title": prose.text,
        "notes": prose.text,
        "bars": prose.each(prose.BAR),
        "text": prose.typed,
        "lines": prose.typed,
    }
    CODES = ("grade", "base")

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["owner", "piece"], name="one_draft_per_piece"),
            models.UniqueConstraint(
                fields=["owner"], condition=models.Q(piece=None), name="one_new_piece"
            ),
        ]

    def __str__(self) -> str:
        return f"draft of {self.title or 'a new piece'}"


class Edit(models.Model):
    """One change of a draft: from bar ``first`` on, ``removed`` bars became ``added``."""

    draft = models.ForeignKey(Draft, models.CASCADE, related_name="edits")
    position = models.PositiveIntegerField()
    label = models.CharField(max_length=80)
    first = models.PositiveIntegerField()
    removed = models.JSONField()
    added = models.JSONField()

    PROSE = {
        "label": prose.text,
        "removed": prose.each(prose.BAR),
        "added": prose.each(prose.BAR),
    }

    class Meta:
        ordering = ["position"]
        constraints = [
            models.UniqueConstraint(fields=["draft", "position"], name="one_edit_a_place")
        ]

    def __str__(self) -> str:
        return self.label


class Import(models.Model):
    """A file that was read and waits to be looked over; gone once it is saved as a piece."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="imports")
    name = models.CharField(max_length=200)
    data = models.BinaryField()
    grade = models.PositiveSmallIntegerField(null=True, blank=True, validators=GRADES)
    parts = models.JSONField(default=list)  # keys of the parts to read, none means as guessed
    drums = models.JSONField(default=dict)  # corrections: a source's key -> drum
    taken = models.JSONField(default=list)  # codes of the offers and ways that were chosen
    before = models.JSONField(default=list)  # [parts, drums, taken] of earlier, the last last
    title = models.CharField(max_length=120, blank=True)  # typed before it is kept
    instead = models.ForeignKey(
        Piece, models.SET_NULL, null=True, blank=True, related_name="imports"
    )
    changed = models.DateTimeField(auto_now=True)

    PROSE = {"name": prose.text, "title": prose.text}
    CODES = ("parts", "drums", "taken", "before")

    class Meta:
        ordering = ["-changed"]

    def __str__(self) -> str:
        return self.name

    def get_absolute_url(self) -> str:
        return reverse("import", args=[self.pk])
