"""Forms that may be open in two tabs: no tab undoes what the other has saved."""

from collections.abc import Iterable

from django import forms

NOTHING = "nothing"
MOST_SHOWN = 60  # characters of what the other tab saved


class OpenInTwoTabs:
    """For a form of something that is there already, its ``initial`` being what is stored now.

    Each field carries what its page was opened with. What this tab left alone stays as the
    other tab has saved it; what both have changed is asked about, and ``changed_data`` is what
    this tab would change of what is stored.
    """

    def __init__(self, *args, **kwargs):
        super().__init__(*args, **kwargs)
        self._asked: dict[str, str] = {}
        for field in self.fields.values():
            field.show_hidden_initial = True
        if self.is_bound:
            self.data = self.data.copy()
            for name in self.fields.keys() & self.initial.keys():
                self._take_over(name)

    def _take_over(self, name: str) -> None:
        field, own, kept = self.fields[name], self[name], self.initial[name]
        if isinstance(own.data, list):
            self._merge(own, kept)
            return
        sent = self.data.get(own.html_initial_name)
        if sent is None or not _differ(field, kept, sent):
            return  # nobody else has changed it
        try:
            opened = field.to_python(sent)
        except forms.ValidationError:
            return  # no page of ours sent that
        if not _differ(field, opened, own.data):
            self.data[own.html_name] = _as_sent(field, kept)
        elif _differ(field, kept, own.data):
            self._asked[name] = (
                f"Meanwhile another tab kept {_shown(field, kept)}. Keep it again if yours is "
                "right."
            )
        self.data[own.html_initial_name] = _as_sent(field, kept)

    def _merge(self, own: forms.BoundField, kept: Iterable) -> None:
        """Of many choices each is asked by itself: what this tab put in or took out, on what
        the other has saved."""
        if not any(one.startswith("initial-") for one in self.data):
            return  # no page of ours sent that
        opened = set(self.data.getlist(own.html_initial_name))
        mine = set(self.data.getlist(own.html_name))
        stored = {_as_sent(own.field, getattr(one, "pk", one)) for one in kept}
        merged = (stored | (mine - opened)) - (opened - mine)
        self.data.setlist(own.html_name, sorted(merged))
        self.data.setlist(own.html_initial_name, sorted(stored))

    def clean(self):
        cleaned = super().clean()
        for name, said in self._asked.items():
            self.add_error(name, said)
        return cleaned


def _differ(field: forms.Field, one: object, other: object) -> bool:
    return field.has_changed(_lines(one), _lines(other))


def _lines(value: object) -> object:
    """A browser sends the lines of a text with two characters between them."""
    return value.replace("\r\n", "\n").strip() if isinstance(value, str) else value


def _as_sent(field: forms.Field, value: object) -> str:
    prepared = field.prepare_value(value)
    return "" if prepared is None else str(prepared)


def _shown(field: forms.Field, value: object) -> str:
    """As the page words it."""
    worded = dict(getattr(field, "choices", ())).get(value, value)
    if isinstance(worded, bool):
        worded = "a tick" if worded else "no tick"
    return f"{_as_sent(field, worded) or NOTHING:.{MOST_SHOWN}}"
