"""The form that takes printed pages in, from a file or a phone's camera."""

import re

from django import forms

from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.page_reading.found import ENDINGS, MOST_PAGES
from wren_ladder.studio.scans.reading import open_pages

MOST_BYTES = 24 << 20  # of one file
RANGE = re.compile(r"(\d+)(?:\s*[-–]\s*(\d+))?")


class SeveralFilesInput(forms.ClearableFileInput):
    allow_multiple_selected = True


class SeveralFilesField(forms.FileField):
    widget = SeveralFilesInput

    def clean(self, data, initial=None):
        files = data if isinstance(data, (list, tuple)) else [data]
        return [super(SeveralFilesField, self).clean(one, initial) for one in files]


class PagesForm(forms.Form):
    files = SeveralFilesField(
        label="The printed page",
        help_text="photographs, scans or a PDF; several pages at once in their order",
        widget=SeveralFilesInput(attrs={"accept": f"image/*,{','.join(ENDINGS)}"}),
    )
    pages = forms.CharField(
        required=False,
        max_length=40,
        label="Pages of a PDF",
        help_text="as 3-5; empty for all",
    )

    def clean_pages(self) -> tuple[int, ...]:
        wanted: list[int] = []
        for part in self.cleaned_data["pages"].replace(",", " ").split():
            match = RANGE.fullmatch(part)
            first = read_whole(match[1], 1, 9999) if match else None
            last = read_whole(match[2] or match[1], 1, 9999) if match else None
            if first is None or last is None or not first <= last < first + 200:
                raise forms.ValidationError("say which pages: 3, or 3-5, or 1 4-6")
            wanted += range(first, last + 1)
        return tuple(wanted)

    def clean(self):
        """Each file opened; ``opened`` holds (name, grey JPEG) of every page."""
        cleaned = super().clean()
        self.opened: list[tuple[str, bytes]] = []
        for file in cleaned.get("files") or []:
            if file.size > MOST_BYTES:
                most = MOST_BYTES >> 20
                self.add_error("files", f"{file.name} is larger than {most} MB.")
                continue
            try:
                found = open_pages(file.name, file.read(), cleaned.get("pages") or ())
            except ChartError as error:
                self.add_error("files", f"{error.text}.")
                continue
            self.opened += [(file.name, one) for one in found]
        if len(self.opened) > MOST_PAGES:
            self.add_error(
                "files",
                f"These are {len(self.opened)} pages; one piece has at most {MOST_PAGES}.",
            )
        return cleaned
