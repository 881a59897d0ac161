"""Writes bars as they would be typed; reading them again gives the same bars."""

from dataclasses import replace
from functools import lru_cache
from itertools import groupby

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Chart, Grace, Hit, MarkKind, Meter, RollKind, Touch
from wren_ladder.drumming.chart.positions import END, PARTS, PATTERNS, SYLLABLES, Positions
from wren_ladder.drumming.chart.shorthand import marks_copied
from wren_ladder.drumming.notation.counts.hits import FOR, NO_HAND, TIED, plain
from wren_ladder.drumming.notation.counts.marks import write_marks
from wren_ladder.drumming.notation.counts.words import LINE_OF_SURFACE, LINES, WORD_OF_DRUM

ROLL_NAMES = {RollKind.OPEN: "roll", RollKind.BUZZ: "buzz", RollKind.SINGLE: "singles"}


def write_chart(chart: Chart) -> str:
    """A whole chart as text; equal bars are written "bar 5 as 1"."""
    lines = [f"title {chart.title}"] if chart.title else []
    meter = chart.bars[0].meter
    lines.append(f"meter {meter}")
    seen: dict[tuple, Bar] = {}
    for place, bar in enumerate(chart.bars):
        others = tuple(mark for mark in bar.marks if mark.kind is not MarkKind.DYNAMIC)
        key = (bar.meter, bar.length, bar.hits, others, bar.again)
        lines.append("")
        copied = marks_copied(seen[key], chart.bars[:place]) if key in seen else ()
        # Dynamics can be typed in the place of those that are copied, but not taken away.
        if key in seen and not bar.again and (copied == bar.marks or others != bar.marks):
            lines.append(f"bar {bar.number} as {seen[key].number}")
            lines += _marks(bar)
            if copied != bar.marks:
                said = tuple(mark for mark in bar.marks if mark not in others)
                lines += write_marks(said, Positions.of(bar))
        else:
            seen[key] = bar
            written = write_bar(bar, meter)
            lines += [f"bar {bar.number}", written] if written else [f"bar {bar.number} rest"]
        meter = bar.meter
    return "\n".join(line for line in lines).rstrip() + "\n"


def write_bar(bar: Bar, before: Meter | None = None) -> str:
    """The lines of one bar; the metre only where it differs from the one before."""
    lines = [f"meter {bar.meter}"] if bar.meter != before else []
    if bar.length != bar.meter.length and not bar.again:
        lines.append(f"beats {bar.length / bar.meter.count_length}")
    lines += _marks(bar)
    if bar.again:
        return "\n".join([*lines, *write_marks(bar.marks, Positions.of(bar))])
    frame = Positions.of(bar)
    for surface, hits in _by_line(bar.hits):
        lines.append(f"{surface} {_write_hits(tuple(hits), frame)}")
    by_hand = [hit for hit in bar.hits if not hit.drum.by_foot]
    if any(hit.hand for hit in by_hand):
        lines.append("hands " + " ".join(hit.hand or NO_HAND for hit in by_hand))
    lines += write_marks(bar.marks, frame)
    return "\n".join(lines)


def _marks(bar: Bar) -> list[str]:
    marks = []
    if bar.section:
        marks.append(f"section {bar.section}")
    if bar.tempo:
        marks.append(f"tempo {bar.tempo}")
    if bar.swing:
        marks.append(str(bar.swing))
    if bar.repeat_start:
        marks.append("repeat start")
    marks += [word for word in bar.road_words if word.startswith(("segno", "coda"))]
    if bar.endings:
        marks.append(f"ending {' '.join(map(str, bar.endings))}")
    if bar.repeat_passes:
        marks.append(f"repeat end {bar.repeat_passes}{' vamp' if bar.vamp else ''}")
    if bar.times:
        marks.append(f"time {bar.times}")
    marks += [word.lower() for word in bar.road_words if word.startswith(("To", "Fine"))]
    if bar.jump:
        marks.append(f"jump {bar.jump}")
    if bar.again:
        sign = "repeat bar" if bar.again == 1 else f"repeat {bar.again} bars"
        marks.append(f"{sign} with crash" if bar.crash_again else sign)
    if bar.note:
        marks.append(f"note {bar.note}")
    return marks


def _by_line(hits: tuple[Hit, ...]) -> list[tuple[str, list[Hit]]]:
    lines: dict[str, list[Hit]] = {}
    for hit in hits:
        lines.setdefault(LINE_OF_SURFACE[hit.drum.surface], []).append(hit)
    return [(name, lines[name]) for name in LINES if name in lines]


@lru_cache(maxsize=8192)
def _write_hits(hits: tuple[Hit, ...], frame: Positions) -> str:
    """A drum's line. Pieces say the same pattern again and again: it is remembered."""
    pattern = _pattern(tuple(hit.at for hit in hits), frame)
    lasts = {_lasting(hit, frame) for hit in hits}
    if pattern and len(lasts) == 1 and all(plain(replace(hit, written=None)) for hit in hits):
        return f"{pattern} {lasts.pop()}".strip()  # a whole pattern written short
    usual = [hit.at for hit in hits if plain(hit)]
    groups = [pattern or _positions(usual, frame)] if pattern or usual else []
    changed: dict[tuple[str, str], list[Hit]] = {}
    for hit in hits:
        if not plain(hit):
            changed.setdefault((_words(hit), _lasting(hit, frame)), []).append(hit)
    for (words, lasting), those in changed.items():
        if those[0].roll:
            where = " ".join(_span(hit, frame) for hit in those)
        else:
            where = _positions([hit.at for hit in those], frame)
        groups.append(" ".join(part for part in (words, where, lasting) if part))
    return ", ".join(groups)


def _lasting(hit: Hit, frame: Positions) -> str:
    """ "for 2", in counts, of a note that is written longer or shorter than usual."""
    return f"{FOR} {hit.written / frame.meter.count_length}" if hit.written else ""


def _words(hit: Hit) -> str:
    words = [WORD_OF_DRUM[hit.drum]] if hit.drum in WORD_OF_DRUM else []
    if hit.touch is not Touch.NORMAL:
        words.append(hit.touch.value)
    if hit.grace is not Grace.NONE:
        words.append(hit.grace.value)
    if hit.roll:
        words.append(ROLL_NAMES[hit.roll.kind])
        if hit.roll.strokes:
            words.append(str(hit.roll.strokes))
    return " ".join(words)


def _span(hit: Hit, frame: Positions) -> str:
    if hit.roll and hit.roll.tied:
        return f"{frame.say(hit.at)}-{TIED}"
    return f"{frame.say(hit.at)}-{END if hit.end == frame.length else frame.say(hit.end)}"


def _pattern(times: tuple[Fraction, ...], frame: Positions) -> str:
    """ "8ths", or "8ths 1-3" where it covers only some counts; "" if none fits."""
    first, last = frame.split(times[0])[0], frame.split(times[-1])[0]
    for name in PATTERNS:
        if name == "offbeats" and frame.meter.unit > 4:
            continue
        if len(times) > 1 and times == frame.pattern(name):
            return name
        part = frame.pattern_between(name, first, last)
        if last > first and len(times) > 3 and times == part:
            return f"{name} {first}-{last}"
    return ""


def _positions(times: list[Fraction], frame: Positions) -> str:
    """Positions in words, runs inside one count drawn together: 3e 3& 3a -> 3e&a."""
    quarters = [PARTS[syllable] for syllable in ("", "e", "&", "a")]
    words = []
    for count, group in groupby(times, key=lambda at: frame.split(at)[0]):
        inside = list(group)
        parts = [frame.split(at)[1] for at in inside]
        if parts == quarters and frame.meter.unit < 8:
            words.append(f"{count}*")
        elif len(parts) > 1 and all(part and part in SYLLABLES for part in parts):
            words.append(f"{count}{''.join(SYLLABLES[part] for part in parts)}")
        else:
            words += [frame.say(at) for at in inside]
    return " ".join(words)
