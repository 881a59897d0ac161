from django import forms

from wren_ladder.drumming.plain_text import plain

MOST_TABLE = 900 * 1024  # bytes; a request holds no more text than a megabyte
MOST_STUDIO = 256 * 1024 * 1024  # recordings are large


class TableForm(forms.Form):
    """A CSV file, or its text as it was looked over and mended on the page."""

    file = forms.FileField(required=False, label="CSV file")
    text = forms.CharField(
        label="Its lines",
        required=False,
        strip=False,
        widget=forms.Textarea(attrs={"rows": 10, "class": "typed", "spellcheck": "false"}),
    )

    def clean(self):
        cleaned = super().clean()
        upload = cleaned.get("file")
        if upload and upload.size > MOST_TABLE:
            self.add_error("file", "At most 900 KB at once; cut the file in two.")
        elif upload:
            try:
                cleaned["text"] = plain(upload.read().decode("utf-8-sig"))
            except UnicodeDecodeError:
                self.add_error("file", "This is no text in UTF-8; save it as CSV (UTF-8).")
        if not self.errors and not (cleaned.get("text") or "").strip():
            self.add_error("file", "Choose a file, or paste its lines below.")
        return cleaned


class StudioForm(forms.Form):
    file = forms.FileField(label="Studio file (JSON)")
    replace = forms.BooleanField(
        required=False, label="Yes, put it in place of everything I have here"
    )

    def __init__(self, *args, empty: bool, **kwargs):
        super().__init__(*args, **kwargs)
        if empty:
            del self.fields["replace"]

    def clean_file(self):
        upload = self.cleaned_data["file"]
        if upload.size > MOST_STUDIO:
            raise forms.ValidationError("At most 256 MB.")
        return upload

    def clean(self):
        cleaned = super().clean()
        if "replace" in self.fields and not cleaned.get("replace"):
            self.add_error("replace", "This studio is not empty. Tick this to replace it.")
        return cleaned
