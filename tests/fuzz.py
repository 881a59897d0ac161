"""Damaged, huge and strange files before every reader: only a ChartError may come out, soon.

Seeded. ``./wren fuzz`` reads 10,000 inputs; the tests read a small share of the same.
"""

import io
import random
import time
import zipfile
from collections import Counter
from collections.abc import Iterator
from importlib.metadata import version

from wren_ladder.demo import CHARTS
from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.files import open_file, write_file
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.notation.midi.file import open_file as open_midi_file
from wren_ladder.drumming.notation.reading import Reading

SECONDS = 5.0  # for one input
NUMBERS = (
    "1e99999999", "9" * 400, "-1", "0", "²", "٣", "1/0", "nan", "inf", "1234567890",
    "0.0000000001", "", " ", "65536", "3.5", "0x10", "1_000", "+7", "--2",
)  # fmt: skip
WORDS = (
    "bar", "bars 1-99999999 as 1", "as", "hat", "snare", "kick 1 for 99999999", "tempo 1e9",
    "meter 99/16", "meter 3+3+3+3/8", "repeat end 16", "jump D.S. al Coda", "ending 1-16",
    "roll 17 1-4", "(2a", ">", "#", "beats 1/999999999", "rit 1 for 999999 to 20", "and and",
    "1 & 2 &", "hands RLRL", "no", "\x00", "\x07", "💥", "é", "1" * 300, "e" * 500,
)  # fmt: skip


def inputs(count: int, seed: int) -> Iterator[tuple[str, bytes]]:
    """(name, data) of so many damaged files, of every kind in turn."""
    dice = random.Random(seed)
    charts = [read_chart(path.read_text()) for path in sorted(CHARTS.glob("*.wren"))]
    texts = [path.read_text() for path in sorted(CHARTS.glob("*.wren"))]
    scores = [write_file("a.musicxml", chart).decode() for chart in charts]
    songs = [write_file("a.mid", chart) for chart in charts]
    for number in range(count):
        kind = number % 5
        if kind == 0:
            yield "a.wren", _typed(dice.choice(texts), dice).encode()
        elif kind == 1:
            yield "a.musicxml", _numbers(dice.choice(scores), dice).encode()
        elif kind == 2:
            yield "a.musicxml", _elements(dice.choice(scores), dice).encode()
        elif kind == 3:
            yield "a.mid", _bytes(dice.choice(songs), dice)
        else:
            yield "a.mxl", _bytes(_zip(dice.choice(scores), dice), dice)


def _typed(text: str, dice: random.Random) -> str:
    lines = text.splitlines()
    for _ in range(dice.randint(1, 8)):
        place = dice.randrange(len(lines))
        words = lines[place].split(" ")
        change = dice.randrange(6)
        if change == 0:
            words.insert(dice.randint(0, len(words)), dice.choice((*WORDS, *NUMBERS)))
        elif change == 1:
            words[dice.randrange(len(words))] = dice.choice((*WORDS, *NUMBERS))
        elif change == 2:
            dice.shuffle(words)
        elif change == 3:
            words = words[: dice.randint(0, len(words))]
        elif change == 4:
            lines.insert(place, dice.choice(lines))
        else:
            word = list(dice.choice(words) or " ")
            word[dice.randrange(len(word))] = chr(dice.randrange(32, 300))
            words.append("".join(word))
        lines[place] = " ".join(words)
    return "\n".join(lines)


def _numbers(text: str, dice: random.Random) -> str:
    """Some of the texts between tags, and attributes, become strange numbers."""
    parts = text.split(">")
    for _ in range(dice.randint(1, 6)):
        place = dice.randrange(1, len(parts))
        inside, tag, rest = parts[place].partition("<")
        if inside.strip() and dice.random() < 0.7:
            parts[place] = dice.choice(NUMBERS) + tag + rest
        elif '"' in parts[place]:
            values = parts[place].split('"')
            values[dice.randrange(1, len(values), 2)] = dice.choice(NUMBERS)
            parts[place] = '"'.join(values)
    return ">".join(parts)


def _elements(text: str, dice: random.Random) -> str:
    """Elements doubled, taken out, moved or renamed."""
    parts = text.split("<")
    for _ in range(dice.randint(1, 12)):
        place, other = dice.randrange(1, len(parts)), dice.randrange(1, len(parts))
        change = dice.randrange(4)
        if change == 0:
            parts[place] = parts[other]
        elif change == 1:
            parts.insert(place, parts[other])
        elif change == 2:
            parts[place], parts[other] = parts[other], parts[place]
        else:
            names = ("grace/>", "chord/>", "cue/>", "backup>", "rest/>", "tie type='stop'/>")
            parts.insert(place, dice.choice(names))
    return "<".join(parts)


def _bytes(data: bytes, dice: random.Random) -> bytes:
    changed = bytearray(data)
    for _ in range(dice.choice((0, 1, 2, 8))):
        if changed:
            changed[dice.randrange(len(changed))] = dice.randrange(256)
    if dice.random() < 0.2:
        del changed[dice.randrange(len(changed) or 1) :]
    return bytes(changed)


def _zip(text: str, dice: random.Random) -> bytes:
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        inside = "<container><rootfiles><rootfile full-path='{}'/></rootfiles></container>"
        names = ("score.xml", "../score.xml", "nowhere.xml", "", "META-INF/container.xml")
        archive.writestr("META-INF/container.xml", inside.format(dice.choice(names)))
        archive.writestr("score.xml", text if dice.random() < 0.7 else _numbers(text, dice))
    return buffer.getvalue()


def attempt(name: str, data: bytes) -> str:
    """ "chart" or "refused"; AssertionError where neither came, too late, or with a loss."""
    start = time.perf_counter()
    try:
        reading = open_file(name, data)
        outcome = "chart"
    except ChartError:
        reading, outcome = None, "refused"
    except Exception as error:
        raise AssertionError(f"{name}: {type(error).__name__}: {error}") from error
    spent = time.perf_counter() - start
    if spent > SECONDS:
        raise AssertionError(f"{name}: {spent:.1f} s")
    if reading and name.endswith(".mid"):
        _count(reading, data)
    return outcome


def _count(reading: Reading, data: bytes) -> None:
    """Notes in are notes out and notes told."""
    went_in = len(open_midi_file(data).strokes)
    hits = [hit for bar in reading.chart.bars for hit in bar.hits]
    out = len(hits) + sum(hit.grace.notes for hit in hits)
    out += sum(source.notes for source in reading.sources if source.drum is None)
    for row in reading.report:
        for said in row.left_out:
            if not said.startswith("key "):
                many = said.rpartition("(")[2].rstrip(")")
                out += int(many) if many.isdigit() else 1
    if out != went_in:
        raise AssertionError(f"{went_in} strokes went in, {out} came out or were told")


def run(count: int = 10_000, seed: int = 14) -> Counter[str]:
    outcomes: Counter[str] = Counter()
    for name, data in inputs(count, seed):
        outcomes[f"{name[2:]} {attempt(name, data)}"] += 1
    return outcomes


def main(count: int) -> None:
    start = time.perf_counter()
    for said, many in sorted(run(count).items()):
        print(f"{said:<20} {many}")
    print(f"{count} inputs in {time.perf_counter() - start:.0f} s; mido {version('mido')}")
