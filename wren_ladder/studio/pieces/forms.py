"""Forms for pieces: typed bars, an uploaded file, and what is said about either."""

from django import forms

from wren_ladder.drumming.chart import Chart, ChartError
from wren_ladder.drumming.files import ENDINGS, read_file
from wren_ladder.drumming.notation.counts import read_chart, write_chart
from wren_ladder.studio.pieces.models import Piece

MOST_UPLOAD = 4 * 1024 * 1024
MOST_TEXT = 200_000
FIRST_TEXT = """meter 4/4
tempo crotchet = 80

bar 1
section A Groove
hat 8ths
snare 2 4
kick 1 3
"""


class PieceForm(forms.ModelForm):
    """Title and grade, with the bars as typed text; ``chart`` holds them once valid."""

    text = forms.CharField(
        label="Bars",
        max_length=MOST_TEXT,
        strip=False,
        widget=forms.Textarea(attrs={"rows": 22, "spellcheck": "false", "class": "typed"}),
    )

    class Meta:
        model = Piece
        fields = ["title", "grade", "notes"]
        widgets = {"notes": forms.Textarea(attrs={"rows": 2})}

    def __init__(self, *args, **kwargs):
        super().__init__(*args, **kwargs)
        self.chart: Chart | None = None
        self.entry_error: ChartError | None = None
        self.fields["grade"].label = "Grade, 1 to 8"
        if self.instance.pk:
            chart = self.instance.chart()
            self.fields["text"].initial = write_chart(Chart("", chart.bars))
        else:
            self.fields["text"].initial = FIRST_TEXT

    def clean_text(self):
        text = self.cleaned_data["text"]
        try:
            self.chart = read_chart(text)
        except ChartError as error:
            self.entry_error = error
            raise forms.ValidationError(str(error)) from error
        return text

    def clean(self):
        cleaned = super().clean()
        if self.chart:
            self.chart = Chart(cleaned.get("title") or self.chart.title, self.chart.bars)
        return cleaned


class UploadForm(forms.Form):
    file = forms.FileField(
        label="Drum part",
        help_text=f"MusicXML, MIDI or typed bars: {', '.join(ENDINGS)}, up to 4 MB",
        widget=forms.ClearableFileInput(attrs={"accept": ",".join(ENDINGS)}),
    )
    part = forms.CharField(
        label="Part",
        required=False,
        max_length=80,
        help_text="Only if the file has several: a part's name. "
        "Empty reads all percussion parts together.",
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
        try:
            read = read_file(upload.name, upload.read(), cleaned.get("part", ""))
        except ChartError as error:
            self.add_error("file", f"{upload.name}: {error}")
            return cleaned
        self.chart, self.problems = read
        return cleaned
