"""Forms for pieces: what stands over the bars, the marks of one, an uploaded file."""

from dataclasses import replace
from itertools import product

from django import forms

from wren_ladder.drumming.chart import Bar, ChartError, Jump, JumpTo, Tempo, Times, Until
from wren_ladder.drumming.chart.bar import MOST_REPEAT_PASSES
from wren_ladder.drumming.files import ENDINGS
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.pieces.reading import read_upload

MOST_UPLOAD = 4 * 1024 * 1024
PASSES = [("", "no"), *((str(n), f"{n} times") for n in range(2, MOST_REPEAT_PASSES + 1))]
JUMPS = [("", "none")] + [
    (str(jump), str(jump))
    for jump in (Jump(*way) for way in product(JumpTo, Until, (None, True, False)))
]


class HeadForm(forms.ModelForm):
    """What stands over the bars."""

    class Meta:
        model = Piece
        fields = ["title", "grade", "notes"]
        widgets = {"notes": forms.Textarea(attrs={"rows": 2})}

    def __init__(self, *args, **kwargs):
        super().__init__(*args, **kwargs)
        self.fields["grade"].label = "Grade, 1 to 8"


class ImportForm(HeadForm):
    """The same for what was read from a file: a new piece, or one that is there already."""

    instead = forms.ModelChoiceField(
        queryset=Piece.objects.none(),
        required=False,
        label="In place of",
        empty_label="a new piece",
        help_text="Bars that stay keep their steps and every try; the bars of before wait as a "
        "file of their own, to be taken up again.",
    )

    def __init__(self, *args, owner, **kwargs):
        super().__init__(*args, **kwargs)
        mine = Piece.objects.filter(owner=owner, kind=Piece.Kind.PIECE)
        self.fields["instead"].queryset = mine.order_by("title")


class MarksForm(forms.Form):
    """The marks of one bar; ``bar`` is the bar with them once they are valid."""

    section = forms.CharField(required=False, max_length=60)
    repeat_start = forms.BooleanField(required=False, label="repeat starts")
    repeat_passes = forms.TypedChoiceField(
        required=False, coerce=int, empty_value=0, choices=PASSES, label="repeat ends"
    )
    vamp = forms.BooleanField(required=False, label="vamp")
    endings = forms.CharField(required=False, max_length=40, label="ending")
    times = forms.CharField(required=False, max_length=40, label="time, as 2 only, 1 tacet")
    segno = forms.BooleanField(required=False)
    to_coda = forms.BooleanField(required=False, label="To Coda")
    coda = forms.BooleanField(required=False)
    segno_2 = forms.BooleanField(required=False, label="segno 2")
    to_coda_2 = forms.BooleanField(required=False, label="To Coda 2")
    coda_2 = forms.BooleanField(required=False, label="coda 2")
    fine = forms.BooleanField(required=False, label="Fine")
    jump = forms.TypedChoiceField(
        required=False, coerce=Jump.parse, empty_value=None, choices=JUMPS
    )
    tempo = forms.CharField(required=False, max_length=40)
    note = forms.CharField(required=False, max_length=200)

    def __init__(self, bar: Bar, *args, **kwargs):
        self.before = bar
        initial = {name: getattr(bar, name) for name in self.base_fields}
        initial["endings"] = " ".join(map(str, bar.endings))
        for name in ("jump", "tempo", "times"):
            initial[name] = str(initial[name] or "")
        super().__init__(*args, initial=initial, **kwargs)

    def clean_endings(self):
        words = self.cleaned_data["endings"].replace(",", " ").replace(".", " ").split()
        numbers = tuple(read_whole(word) for word in words)
        if None in numbers:
            raise forms.ValidationError("say for which times through: 1, or 1 2")
        return numbers

    def clean_times(self):
        text = self.cleaned_data["times"]
        try:
            return Times.parse(text) if text else None
        except ChartError as error:
            raise forms.ValidationError(error.text) from error

    def clean_tempo(self):
        text = self.cleaned_data["tempo"]
        try:
            return Tempo.parse(text) if text else None
        except ChartError as error:
            raise forms.ValidationError(error.text) from error

    def clean(self):
        cleaned = super().clean()
        if self.errors:
            return cleaned
        try:
            self.bar = replace(self.before, **cleaned)
        except ChartError as error:
            raise forms.ValidationError(error.text) from error
        return cleaned


class UploadForm(forms.Form):
    file = forms.FileField(
        label="Drum part",
        help_text=f"MusicXML, MIDI or typed bars: {', '.join(ENDINGS)}, up to 4 MB",
        widget=forms.ClearableFileInput(attrs={"accept": ",".join(ENDINGS)}),
    )
    grade = forms.IntegerField(required=False, min_value=1, max_value=8)

    def clean(self):
        cleaned = super().clean()
        upload = cleaned.get("file")
        if not upload:
            return cleaned
        if upload.size > MOST_UPLOAD:
            size = upload.size / 1024**2
            self.add_error(
                "file",
                f"This file has {size:.0f} MB; a drum part has at most 4. "
                "Export the drum part alone and try again.",
            )
            return cleaned
        self.data_read = upload.read()
        try:
            read_upload(upload.name, self.data_read)
        except ChartError as error:
            self.add_error("file", f"{upload.name}: {error}")
        return cleaned
