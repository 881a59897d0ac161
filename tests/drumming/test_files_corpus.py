"""Sixty MIDI and sixty MusicXML files of every kind, each with the bars that it means: read
right, asked about, refused, or silently wrong, which none may be.

    python -m tests.drumming.test_files_corpus

prints the four figures. The files are made here, from grooves, in the ways in which programs
and hands leave them; common practice, no source.
"""

import random
import sys
import unittest
from collections import Counter
from collections.abc import Callable, Iterator
from enum import StrEnum
from itertools import pairwise
from typing import NamedTuple

from tests.drumming.test_midi import made
from tests.drumming.test_midi_pads import CLOSED, OPEN, played
from tests.drumming.test_midi_played import meter, tempo, tracks_of, two_tracks
from tests.drumming.test_musicxml import score
from wren_ladder.drumming.chart import Chart, ChartError, Drum, Hit
from wren_ladder.drumming.files import open_file, write_file
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.notation.musicxml.notes import LOWEST_LINE, STEPS

GROOVES = {
    "rock": "hat 8ths\nsnare 2 4\nkick 1 3 3&",
    "ghosts": "hat 16ths\nsnare 2 4, 2a 3e\nkick 1 1a 3",
    "shuffle": "ride 1 1l 2 2l 3 3l 4 4l\nsnare 2 4\nkick 1 3",
    "toms": "snare 1 1& 2\ntom1 2& 3\nfloor 3& 4\nkick 1 3\ncrash 4&",
}
Maker = Callable[[Chart, str], bytes]
BARS = 12
BPM = 100


class Outcome(StrEnum):
    RIGHT = "right"
    ASKED = "asked"
    REFUSED = "refused"
    WRONG = "silently wrong"


class Case(NamedTuple):
    name: str
    file: str
    data: bytes
    meant: Chart
    wanted: tuple[Outcome, ...]


def page(lines: str) -> Chart:
    return read_chart("\n".join(f"bar {n}\n{lines}" for n in range(1, BARS + 1)))


def strokes(chart: Chart) -> list[tuple[float, int, int]]:
    found, start = [], 0.0
    for bar in chart.bars:
        found += [(start + float(h.at), h.drum.row.key_written, 90) for h in bar.hits]
        start += float(bar.length)
    return found


def by_hand(chart: Chart, spread: float, seed: str, late: float = 0.0) -> list:
    dice = random.Random(seed)
    each = 60_000 / BPM
    return [
        (max(0.0, at + (late + dice.gauss(0, spread)) / each), key, 90)
        for at, key, _ in strokes(chart)
    ]


MIDI: dict[str, Maker] = {
    "quantised": lambda c, _: made(strokes(c), tempo(BPM), meter(4, 4)),
    "no metre, no tempo": lambda c, _: made(strokes(c)),
    "channel 1, named": lambda c, _: tracks_of(("Drums", 0, [s[:2] for s in strokes(c)])),
    "channel 1, by its keys": lambda c, _: tracks_of(
        ("", 0, [s[:2] for s in strokes(c)]), ("", 1, [(n, 60 + n % 9) for n in range(40)])
    ),
    "beside a melody": lambda c, _: tracks_of(
        ("Flute", 0, [(n / 2, 67 + n % 12) for n in range(60)]),
        ("Kit", 9, [s[:2] for s in strokes(c)]),
    ),
    "a hand, 12 ms": lambda c, name: made(by_hand(c, 12, name), tempo(BPM)),
    "a hand, 18 ms": lambda c, name: made(by_hand(c, 18, name), tempo(BPM)),
    "40 ms late": lambda c, name: made(by_hand(c, 6, name, late=40), tempo(BPM)),
    "off the click": lambda c, name: made(
        [(at * 1.31 + 1.7, key, s) for at, key, s in by_hand(c, 6, name)], tempo(BPM)
    ),
    "clicks before it": lambda c, _: made(
        [(n, 31, 100) for n in range(4)] + [(at + 4, k, s) for at, k, s in strokes(c)],
        tempo(BPM),
    ),
    "a beat early": lambda c, _: made([(at + 1, k, s) for at, k, s in strokes(c)], tempo(BPM)),
    "another resolution": lambda c, _: made(strokes(c), tempo(BPM), ticks=96),
    "a metre on a track of its own": lambda c, _: two_tracks(
        strokes(c), meter(4, 4), tempo(BPM)
    ),
    "pads, hat on its edge": lambda c, _: played(
        [(at, 22 if key == 42 else key) for at, key, _ in strokes(c)]
    ),
    "pads, hat by its pedal": lambda c, _: played(
        [s[:2] for s in strokes(c)], ((0, CLOSED), (400, OPEN), (401, CLOSED))
    ),
}


def drums_as(
    head: Callable[[Hit], str], parts: str, clef: str
) -> Callable[[Chart, str], bytes]:
    """Of one voice with rests between, each drum with the head that it is given."""

    def make(chart: Chart, _: str) -> bytes:
        measures = []
        for place, bar in enumerate(chart.bars):
            inside = ""
            if not place:
                inside = (
                    "<attributes><divisions>12</divisions><time><beats>4</beats><beat-type>4"
                    f"</beat-type></time><clef><sign>{clef}</sign></clef></attributes>"
                )
            onsets = sorted({hit.at for hit in bar.hits} | {bar.length})
            if onsets[0]:
                inside += f"<note><rest/><duration>{int(onsets[0] * 12)}</duration></note>"
            for at, end in pairwise(onsets):
                for n, hit in enumerate(one for one in bar.hits if one.at == at):
                    chord = "<chord/>" if n else ""
                    inside += f"<note>{chord}{head(hit)}</note>".replace(
                        "LENGTH", f"<duration>{int((end - at) * 12)}</duration>"
                    )
            measures.append(inside)
        return score(*measures, parts=parts)

    return make


def at_place(hit: Hit, tag: str = "unpitched") -> str:
    octave, step = divmod(LOWEST_LINE + hit.drum.row.line, 7)
    names = ("display-step", "display-octave") if tag == "unpitched" else ("step", "octave")
    shape = hit.drum.row.head
    return (
        f"<{tag}><{names[0]}>{STEPS[step]}</{names[0]}><{names[1]}>{octave}</{names[1]}></{tag}>"
        f"LENGTH{f'<notehead>{shape}</notehead>' if shape else ''}"
    )


def as_key(hit: Hit) -> str:
    octave, semitone = divmod(hit.drum.row.key_written, 12)
    step = "CCDDEFFGGAAB"[semitone]
    sharp = "<alter>1</alter>" if semitone in (1, 3, 6, 8, 10) else ""
    return f"<pitch><step>{step}</step>{sharp}<octave>{octave - 1}</octave></pitch>LENGTH"


def part(name: str, instruments: str = "") -> str:
    return f'<score-part id="P1"><part-name>{name}</part-name>{instruments}</score-part>'


def named(say: Callable[[Drum], str]) -> str:
    return "".join(
        f'<score-instrument id="I{n}"><instrument-name>{say(drum)}</instrument-name>'
        "</score-instrument>"
        for n, drum in enumerate(Drum)
    )


KEYS = "".join(
    f'<midi-instrument id="I{n}"><midi-unpitched>{drum.row.key_written + 1}</midi-unpitched>'
    "</midi-instrument>"
    for n, drum in enumerate(Drum)
)
OTHER_WORDS = {
    Drum.KICK: "Bass Drum", Drum.SNARE: "Snare Drum (Center)", Drum.HIHAT: "Closed Hats",
    Drum.TOM_HIGH: "Small Tom", Drum.TOM_FLOOR: "Large Tom", Drum.RIDE: "Ride Cymbal",
    Drum.CRASH: "Crash Cymbal",
}  # fmt: skip


def by_instrument(hit: Hit) -> str:
    return f'<unpitched/>LENGTH<instrument id="I{list(Drum).index(hit.drum)}"/>'


def with_direction(text: str) -> Maker:
    direction = f"<direction><direction-type>{text}</direction-type></direction>"
    plain = drums_as(at_place, part("Drums"), "percussion")

    def make(chart: Chart, name: str) -> bytes:
        data = plain(chart, name).decode()
        return data.replace("</attributes>", f"</attributes>{direction}", 1).encode()

    return make


XML: dict[str, Maker] = {
    "written here": lambda c, _: write_file("x.musicxml", c),
    "written here, zipped": lambda c, _: write_file("x.mxl", c),
    "named as here": drums_as(
        by_instrument, part("Kit", named(lambda d: d.spoken)), "percussion"
    ),
    "named in other words": drums_as(
        by_instrument,
        part("Kit", named(lambda d: OTHER_WORDS.get(d, d.spoken))),
        "percussion",
    ),
    "keys without names": drums_as(
        by_instrument, part("Kit", named(lambda _: "Drumset") + KEYS), "percussion"
    ),
    "places": drums_as(at_place, part("Drums"), "percussion"),
    "places without a name": drums_as(at_place, part(""), "percussion"),
    "places as pitches, percussion clef": drums_as(
        lambda hit: at_place(hit, "pitch"), part("Drums"), "percussion"
    ),
    "places as pitches, treble clef": drums_as(
        lambda hit: at_place(hit, "pitch"), part("Staff 1"), "G"
    ),
    "MIDI keys as pitches": drums_as(as_key, part("Staff 1"), "F"),
    "MIDI keys as pitches, percussion clef": drums_as(as_key, part("Drums"), "percussion"),
    "a tempo in words": with_direction("<words>♩ = 104</words>"),
    "a range of tempos": with_direction("<words>♩ = 96-104</words>"),
    "words about the music": with_direction("<words>with a steady left foot</words>"),
    "a rehearsal letter": with_direction("<rehearsal>A</rehearsal>"),
}
MAY_ASK = {"a beat early", "clicks before it", "off the click", "a hand, 18 ms"}


def cases() -> Iterator[Case]:
    for ending, kinds in (("mid", MIDI), ("musicxml", XML)):
        for kind, make in kinds.items():
            for groove, lines in GROOVES.items():
                name = f"{kind}: {groove}"
                wanted = (Outcome.RIGHT, Outcome.ASKED) if kind in MAY_ASK else (Outcome.RIGHT,)
                end = "mxl" if "zipped" in kind else ending
                chart = page(lines)
                yield Case(name, f"x.{end}", make(chart, name), chart, wanted)


def outcome(case: Case) -> Outcome:
    try:
        reading = open_file(case.file, case.data)
    except ChartError:
        return Outcome.REFUSED
    bars = [{(hit.at, hit.drum) for hit in bar.hits} for bar in reading.chart.bars]
    meant = [{(hit.at, hit.drum) for hit in bar.hits} for bar in case.meant.bars]
    if bars == meant:
        return Outcome.RIGHT
    asked = [one for one in reading.problems if not one.text.startswith("every note lay")]
    return Outcome.ASKED if asked or reading.offers else Outcome.WRONG


class Corpus(unittest.TestCase):
    def test_every_file_is_read_as_it_was_meant_or_asked_about(self):
        many = 0
        for case in cases():
            many += 1
            with self.subTest(case.name):
                self.assertIn(outcome(case), case.wanted)
        self.assertEqual(many, 120)

    def test_what_is_no_part_for_drums_is_refused(self):
        tune = tracks_of(("Flute", 0, [(n / 2, 67 + n % 12) for n in range(60)]),
                         ("Bass", 1, [(n, 40 + n % 12) for n in range(40)]))  # fmt: skip
        with self.assertRaises(ChartError):
            open_file("tune.mid", tune)


def main() -> None:
    found: dict[str, Counter] = {}
    for case in cases():
        here = outcome(case)
        found.setdefault(case.file.rpartition(".")[2].replace("mxl", "musicxml"), Counter())[
            here
        ] += 1
        if here is not Outcome.RIGHT:
            sys.stdout.write(f"  {case.name}: {here}\n")
    for ending, many in found.items():
        sys.stdout.write(
            f"{ending}: " + ", ".join(f"{many[one]} {one}" for one in Outcome) + "\n"
        )


if __name__ == "__main__":
    main()
