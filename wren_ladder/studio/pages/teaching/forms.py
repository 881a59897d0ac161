"""The teaching style as a form: every choice with what it is for."""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace

from django import forms

from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.grades import HOUSE_SYLLABUS, MOST_GRADE
from wren_ladder.drumming.hands.schools import SCHOOLS as STICKINGS
from wren_ladder.drumming.hands.schools import Sticking
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.numbers import read_ratio, read_whole
from wren_ladder.drumming.style import (
    HOUSE,
    WEIGHTS,
    WORDS,
    Compound,
    Counting,
    NoteNames,
    Reason,
    School,
    Style,
)
from wren_ladder.studio.pages.two_tabs import OpenInTwoTabs
from wren_ladder.studio.teaching.kept import (
    BOUNDS,
    MOST_WEIGHT,
    read_grade,
    read_weight,
    read_words,
)
from wren_ladder.studio.teaching.models import PLAIN, SCHOOLS
from wren_ladder.studio.teaching.note_names import in_names

MOST_EXAMPLE = 400
EXAMPLE = """hat 8ths 1-2
snare 2 2a 3*, accent 3 3a
high 4 4&
floor 4a
kick 1 2& 4"""


def _bounds(name: str) -> dict[str, int]:
    least, most = BOUNDS[name]
    return {"min_value": least, "max_value": most}


@contextmanager
def _told() -> Iterator[None]:
    """What a reader says is wrong, as a form says it."""
    try:
        yield
    except ValueError as error:
        raise forms.ValidationError(str(error)) from error


class StyleForm(OpenInTwoTabs, forms.Form):
    """``style`` and ``syllabus`` once valid; the example is only looked at."""

    counting = forms.ChoiceField(
        choices=Counting.choices(),
        help_text="Numbers fit every bar; words give beginners a figure in one breath; "
        "takadimi says where in the beat a note is, whatever the metre.",
    )
    compound = forms.ChoiceField(
        label="6/8, 9/8 and 12/8 by numbers",
        choices=Compound.choices(),
        help_text="In quavers while slow and reading; in main beats once it moves.",
    )
    phrase_count = forms.BooleanField(
        label="Say the bar's number in its phrase for 1",
        required=False,
        help_text="3 2 3 4 in the third bar: the fill in the fourth is felt coming.",
    )
    repeats_after_jump = forms.BooleanField(
        label="After a D.C. or D.S. play the repeats again",
        required=False,
        help_text='Where the page says nothing; "with repeats" or "no repeats" on the page '
        "goes first.",
    )
    note_names = forms.ChoiceField(label="Note names", choices=NoteNames.choices())
    sticking = forms.ChoiceField(
        label="Sticking where no groove settles it",
        choices=Sticking.choices(),
        help_text=". ".join(
            f"{s.label.capitalize()}: {said}" for s, (_, said) in STICKINGS.items()
        )
        + ".",
    )
    school = forms.ChoiceField(
        label="Pieces are broken down by the",
        choices=School.choices(),
        help_text="Bar: every new bar alone first. Phrase: sections of eight first, further "
        "down only where needed. Layer: every bar from its plainest form up. Each plan can "
        "have another.",
    )
    hand_limit = forms.FloatField(
        label="One hand without bounce, strokes a second",
        **_bounds("hand_limit"),
        help_text="Above it a bar is told as too fast for one hand. 6 is from memory: "
        "listen to your student.",
    )
    foot_limit = forms.FloatField(
        label="One foot, strokes a second",
        **_bounds("foot_limit"),
        help_text="Where a bar is told as too fast for a foot. 5 is from memory.",
    )
    roll_limit = forms.FloatField(
        label="Doubles of both hands together, strokes a second",
        **_bounds("roll_limit"),
        help_text="Rolls are weighed against it. 16 is an advanced player's, from memory; set "
        "it to your student's.",
    )
    start_share = forms.IntegerField(
        label="Climbs start at, per cent of the target", **_bounds("start_share")
    )
    rung = forms.IntegerField(label="A rung, BPM", **_bounds("rung"))
    clean_bars = forms.IntegerField(
        label="Clean bars in a row that earn a rung", **_bounds("clean_bars")
    )
    words = forms.CharField(
        widget=forms.Textarea(attrs={"rows": 10, "class": "typed", "spellcheck": "false"}),
        help_text="A figure, a colon, its word with hyphens between syllables: one for each "
        "note. A figure without a word is counted by numbers.",
    )
    weights = forms.CharField(
        label="What makes a bar hard",
        widget=forms.Textarea(attrs={"rows": 13, "class": "typed", "spellcheck": "false"}),
        help_text=f"A reason, a colon, what one of it counts from 0 to {MOST_WEIGHT}; 0 leaves "
        "it out. Their sum puts the bars in order.",
    )
    syllabus = forms.CharField(
        required=False,
        label="Syllabus: what is learned when",
        widget=forms.Textarea(attrs={"rows": 12, "class": "typed", "spellcheck": "false"}),
        help_text="One a line: a name, a colon, its grade from 0, a first lesson, to "
        f"{MOST_GRADE}. This is the house's starting point, no exam board's.",
    )
    example = forms.CharField(
        required=False,
        label="Example bar",
        max_length=MOST_EXAMPLE,
        widget=forms.Textarea(attrs={"rows": 5, "class": "typed", "spellcheck": "false"}),
    )

    def __init__(self, *args, **kwargs) -> None:
        super().__init__(*args, **kwargs)
        self.fields["compound"].help_text = in_names(self.fields["compound"].help_text)

    @classmethod
    def of(cls, style: Style, syllabus: dict[str, int], sent=None) -> "StyleForm":
        """The form as it shows a style, or what was ``sent`` to change it."""
        initial = {name: getattr(style, name) for name in (*SCHOOLS, *PLAIN)}
        initial["words"] = "\n".join(f"{figure}: {word}" for figure, word in style.words)
        initial["syllabus"] = "\n".join(
            f"{name}: {grade}" for name, grade in sorted(syllabus.items(), key=_by_grade)
        )
        initial["weights"] = "\n".join(f"{r.label}: {w:g}" for r, w in style.weights)
        initial["example"] = EXAMPLE
        return cls(sent, initial=initial)

    def clean_words(self):
        with _told():
            return read_words(_pairs(self.cleaned_data["words"]))

    def clean_weights(self):
        found, labels = dict(WEIGHTS), {reason.label: reason for reason in Reason}
        for name, text in _pairs(self.cleaned_data["weights"]):
            if name not in labels:
                raise forms.ValidationError(f"'{name}' is no reason; use {', '.join(labels)}")
            weight = read_ratio(text)
            number = None if weight is None else float(weight)
            with _told():
                found[labels[name]] = read_weight(name, number)
        return tuple(found.items())

    def clean_syllabus(self):
        found = {}
        for name, grade in _pairs(self.cleaned_data["syllabus"]):
            if name not in HOUSE_SYLLABUS:
                raise forms.ValidationError(f"'{name}' is no name of the house's syllabus")
            with _told():
                found[name] = read_grade(name, read_whole(grade))
        return found

    def clean_example(self):
        text = self.cleaned_data["example"] or EXAMPLE
        try:
            self.example = read_chart(text)
        except ChartError as error:
            raise forms.ValidationError(str(error)) from error
        return text

    @property
    def style(self) -> Style:
        chosen = {name: school(self.cleaned_data[name]) for name, school in SCHOOLS.items()}
        chosen |= {name: self.cleaned_data[name] for name in PLAIN}
        cleaned = self.cleaned_data
        return replace(
            HOUSE, **chosen, words=tuple(cleaned["words"]), weights=cleaned["weights"]
        )

    def kept(self) -> dict:
        """What is stored: only what differs from the house."""
        style = self.style
        names = [n for n in (*SCHOOLS, *PLAIN) if getattr(style, n) != getattr(HOUSE, n)]
        syllabus = self.cleaned_data["syllabus"]
        return {
            "choices": {name: getattr(style, name) for name in names},
            "words": [] if style.words == WORDS else [list(pair) for pair in style.words],
            "weights": {} if style.weights == WEIGHTS else dict(style.weights),
            "syllabus": {n: g for n, g in syllabus.items() if HOUSE_SYLLABUS[n] != g},
        }


def _by_grade(entry: tuple[str, int]) -> tuple[int, str]:
    return entry[1], entry[0]


def _pairs(text: str) -> list[tuple[str, str]]:
    """ "name: value" lines; ValidationError names the line that is none."""
    pairs = []
    for number, line in enumerate(text.splitlines(), start=1):
        name, colon, value = (part.strip() for part in line.partition(":"))
        if not line.strip():
            continue
        if not (colon and name and value):
            raise forms.ValidationError(f"line {number}: write a name, a colon, and its value")
        pairs.append((name, value))
    return pairs
