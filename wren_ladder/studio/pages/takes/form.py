"""What a page sends of a take: recorded there, from a file, or for the made-up player."""

from dataclasses import dataclass
from datetime import date

from django import forms

from wren_ladder.drumming.chart.tempo import FASTEST, SLOWEST
from wren_ladder.drumming.performance import perform
from wren_ladder.drumming.plain_text import plain_json
from wren_ladder.drumming.take_sources.heard import Heard, Source
from wren_ladder.drumming.take_sources.microphone import without_clicks
from wren_ladder.drumming.take_sources.midi_file import (
    TakeError,
    aligned,
    strokes_in,
    strokes_of,
)
from wren_ladder.drumming.take_sources.note_maps import Curve, Kit, Layout, own_notes
from wren_ladder.drumming.take_sources.simulated import Fault, play
from wren_ladder.studio.changes.takes import keep_take
from wren_ladder.studio.climb.models import Take, Where
from wren_ladder.studio.climb.takes import bars_of, share_of
from wren_ladder.studio.plans.models import Step

MOST_BYTES = 1_000_000
MOST_PASSES = 32
MOST_GAP = 4
MOST_LATENCY = 500  # milliseconds
MADE_UP = "made-up"
FROM_FILE = "file"
LIVE = (Source.KEYS, Source.KIT, Source.MICROPHONE)
SEEDS = 1_000_000


class TakeForm(forms.Form):
    """``way``: one of LIVE, a file, or the made-up player."""

    way = forms.ChoiceField(
        required=False,
        choices=[
            *((one.value, one.label) for one in LIVE),
            (FROM_FILE, "a MIDI file"),
            (MADE_UP, "the made-up player"),
        ],
    )
    tempo = forms.IntegerField(min_value=SLOWEST, max_value=FASTEST)
    passes = forms.IntegerField(label="Times through", min_value=1, max_value=MOST_PASSES)
    empty_bars = forms.IntegerField(
        label="Empty bars between", required=False, min_value=0, max_value=MOST_GAP
    )
    latency = forms.FloatField(required=False, min_value=-MOST_LATENCY, max_value=MOST_LATENCY)
    fault = forms.ChoiceField(
        label="The made-up player's fault",
        required=False,
        choices=[("", "no fault"), *Fault.choices()],
    )
    file = forms.FileField(label="MIDI file", required=False)
    strokes = forms.CharField(required=False, max_length=MOST_BYTES)
    layout = forms.ChoiceField(required=False, choices=Layout.choices())
    curve = forms.ChoiceField(required=False, choices=Curve.choices())
    own = forms.CharField(required=False, max_length=4000)
    key = forms.UUIDField(required=False)  # of the page, so that what is sent twice is one
    day = forms.DateField(required=False)  # on which it was played

    def clean_file(self):
        file = self.cleaned_data["file"]
        if file and file.size > MOST_BYTES:
            raise forms.ValidationError("A MIDI file of at most 1 MB.")
        return file

    def clean_own(self):
        text = self.cleaned_data["own"]
        try:
            return own_notes(plain_json(text)) if text else {}
        except ValueError as error:
            raise forms.ValidationError(f"The notes of the kit: {error}.") from error

    @property
    def kit(self) -> Kit:
        sent = self.cleaned_data
        return Kit(
            Layout(sent.get("layout") or Layout.GENERAL),
            sent.get("own") or {},
            Curve(sent.get("curve") or Curve.EVEN),
        )

    def clean(self):
        sent = super().clean()
        text = sent.get("strokes")
        try:
            sent["heard"] = strokes_in(plain_json(text), self.kit) if text else ()
        except ValueError as error:
            self.add_error("strokes", f"The strokes cannot be read: {error}.")
        return sent

    def problem(self) -> str:
        """The first that is wrong, with its field's name."""
        name, errors = next(iter(self.errors.items()))
        label = self.fields[name].label if name in self.fields else ""
        return f"{label or name.capitalize()}: {errors[0]}"


def live(way: str, kit: Kit, heard: tuple[Heard, ...]) -> tuple[Source, tuple[Heard, ...]]:
    """What was listened to, and its strokes; a single pad has no drums' names."""
    if way == Source.KIT and kit.layout is Layout.ONE_PAD:
        return Source.PAD, tuple(Heard(one.at, None, one.strength) for one in heard)
    return Source(way if way in LIVE else Source.KEYS), heard


@dataclass(frozen=True, slots=True)
class Recording:
    """A take that was asked for, once the form is valid."""

    step: Step
    sent: dict
    kit: Kit
    day: date
    where: Where

    def kept(self) -> Take:
        """TakeError where there is no take in it."""
        way = self.sent["way"] or (FROM_FILE if self.sent["file"] else MADE_UP)
        if self.sent["heard"]:
            source, heard = self._live(way)
        elif way == FROM_FILE:
            source, heard = Source.FILE, self._file()
        elif way == MADE_UP:
            source, heard = Source.KIT, self._made_up()
        else:
            raise TakeError("nothing was heard")
        return keep_take(
            self.step,
            source,
            self.sent["tempo"],
            self.sent["passes"],
            heard,
            self.day,
            self.where,
            self.sent["empty_bars"] or 0,
            (self.sent["latency"] or 0) if self.sent["heard"] else 0,
            self.sent["key"],
        )

    def _live(self, way: str) -> tuple[Source, tuple[Heard, ...]]:
        source, heard = live(way, self.kit, self.sent["heard"])
        if source is Source.MICROPHONE:
            heard = self._without_clicks(heard)
        return source, heard

    def _without_clicks(self, heard: tuple[Heard, ...]) -> tuple[Heard, ...]:
        performance = self._performance(count_in=True)
        counted = [one.at for one in performance.clicks if one.counted_in]
        clicks = [
            number * performance.seconds + one.at
            for number in range(self.sent["passes"])
            for one in performance.clicks
            if not one.counted_in
        ]
        found = without_clicks(heard, counted, clicks)
        return tuple(Heard(one.at) for one in found)

    def _file(self) -> tuple[Heard, ...]:
        if not self.sent["file"]:
            raise TakeError("choose a MIDI file")
        onsets = self._performance().onsets
        try:
            heard = strokes_of(self.sent["file"].read(), self.kit)
        except TakeError as error:
            raise TakeError(f"{self.sent['file'].name}: {error}") from error
        return aligned(heard, onsets[0].at if onsets else 0.0)

    def _made_up(self) -> tuple[Heard, ...]:
        faults = [Fault(self.sent["fault"])] if self.sent["fault"] else []
        seed = (self.step.takes.count() + self.step.pk) % SEEDS
        bars = bars_of(self.step)
        return play(self._performance(), bars, self.sent["passes"], seed, faults)

    def _performance(self, count_in: bool = False):
        return perform(
            bars_of(self.step),
            share_of(self.step, self.sent["tempo"]),
            count_in,
            self.sent["empty_bars"] or 0,
        )
