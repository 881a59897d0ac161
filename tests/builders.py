"""Short ways to make what a test is about; everything else has a plain default."""

from collections.abc import Sequence
from dataclasses import replace
from datetime import date
from pathlib import Path

from wren_ladder.demo import CHARTS
from wren_ladder.drumming.chart import Bar, Chart, Meter
from wren_ladder.drumming.climb import Attempt
from wren_ladder.drumming.files import open_file
from wren_ladder.drumming.notation.counts import read_bar, read_chart
from wren_ladder.drumming.performance import perform
from wren_ladder.drumming.performance.midi import write_midi
from wren_ladder.drumming.study import BarStudy, study
from wren_ladder.drumming.style import HOUSE, Style

QUAY = """tempo crotchet = 120
bar 1
section A Verse
hat 8ths
snare 2 4
kick 1 3
bars 2-3 as 1
bar 4 as 1
snare 2 4 4&
"""

# Thirty pieces of every grade and feel, judged by hand.
UNSEEN = Path(__file__).parent / "drumming" / "unseen"

GROOVE = "hat 8ths\nsnare 2 4\nkick 1 3"
DAY = date(2026, 3, 2)
# Sixteen bars at grade 1.
FIRST_PIECE = """tempo crotchet = 84
bar 1
section A Verse
crash 1
hat 8ths 2-4, 1&
snare 2 4
kick 1 3
bar 2
hat 8ths
snare 2 4
kick 1 3
bar 3 as 2
bar 4 as 2
kick 1 3 3&
bars 5-7 as 1-3
bar 8
hat 8ths 1-2
snare 2, 3 3& 4 4&
kick 1
bar 9
section B Chorus
crash 1
ride 2 3 4
snare 2 4
kick 1 2 3 4
bar 10
ride quarters
snare 2 4
kick 1 2 3 4
bar 11 as 10
bar 12 as 10
snare 2 4 4&
bars 13-15 as 9-11
bar 16
section End
crash 1
kick 1
"""


def make_bar(lines: str = GROOVE, meter: str = "4/4", number: str = "1") -> Bar:
    return read_bar(lines, number, Meter.parse(meter))


def make_chart(text: str) -> Chart:
    """Typed bars, or bars in shorthand: "1 start | 2 | 3 end" without any hits."""
    if "|" not in text:
        return read_chart(text)
    lines = []
    for bar in text.split("|"):
        number, *marks = bar.split()
        lines.append(f"bar {number}")
        for mark in marks:
            lines.append(_typed_mark(mark))
    return read_chart("\n".join(lines))


def _typed_mark(mark: str) -> str:
    if mark == "start":
        return "repeat start"
    if mark.startswith("ending"):
        return f"ending {mark[6:].replace(',', ' ')}"
    if mark.startswith("end"):
        return f"repeat end {mark[4:] or 2}"
    if mark[:2] in ("dc", "ds"):
        return f"jump {mark.replace('-', ' ')}"
    return mark.replace("-", " ")


def midi_of(chart: Chart, order: Sequence[int], count_in: bool = False) -> bytes:
    """The bars at these places as a MIDI file."""
    return write_midi(perform(study(chart).played(order), count_in=count_in), chart.title)


def study_bar(lines: str, meter: str = "4/4", style: Style = HOUSE) -> BarStudy:
    return study(Chart("", (make_bar(lines, meter),)), style).bars[0]


def hands(studied: BarStudy) -> str:
    """The hands in time order, feet left out: "R L R R"."""
    return " ".join(stick.hand for stick in studied.sticks if stick.hand)


def tries(*said: str) -> list[Attempt]:
    """A log in shorthand: "90+8" is 8 clean passes at 90, "95-" a failed try."""
    log = []
    for word in said:
        tempo, plus, passes = word.rstrip("-").partition("+")
        log.append(Attempt(DAY, int(tempo), bool(plus), int(passes or 1)))
    return log


def sixty_bars() -> Chart:
    """Two pages of music: the first piece, and what the demo has for grades 3 and 4."""
    pages = [make_chart(FIRST_PIECE)]
    for name in (
        "mirrorball_quay",
        "low_tide_one_drop",
        "slack_line_freight",
        "low_tide_one_drop",
    ):
        path = CHARTS / f"{name}.wren"
        pages.append(open_file(path.name, path.read_bytes()).chart)
    bars = [bar for page in pages for bar in page.bars]
    return Chart("", tuple(replace(bar, number=str(n)) for n, bar in enumerate(bars, 1)))
