"""How the core's time grows with the music and with the log: time is about size^k.

    python -m bench.growth

Processor time, the least of three; k between the smallest and the largest, and at the end.
"""

import math
import random
import time
from collections.abc import Callable, Sequence
from datetime import date, timedelta

from bench.points import text_of
from wren_ladder.drumming.breakdown import break_down, needs
from wren_ladder.drumming.climb import Attempt, ClimbRule, rungs, stand
from wren_ladder.drumming.findings.traps import traps
from wren_ladder.drumming.forecast import Journey, Track, forecast, habit_of, own_gain
from wren_ladder.drumming.judging.judgement import Player, judge
from wren_ladder.drumming.notation.counts import read_chart, write_chart
from wren_ladder.drumming.study import study, study_bar
from wren_ladder.drumming.style import HOUSE

BARS = (25, 50, 100, 200, 400, 800)
TRIES = (30, 100, 300, 1000, 3000)
RUNS = 3
FIRST = date(2024, 1, 8)


def least(work: Callable[[], object], before: Callable[[], object] = lambda: None) -> float:
    """Seconds of the processor."""
    times = []
    for _ in range(RUNS):
        before()
        begun = time.process_time()
        work()
        times.append(time.process_time() - begun)
    return min(times)


def show(name: str, sizes: Sequence[int], seconds: Sequence[float]) -> None:
    def k(first: int, last: int) -> float:
        return math.log(seconds[last] / seconds[first]) / math.log(sizes[last] / sizes[first])

    told = "  ".join(f"{1000 * one:.1f}" for one in seconds)
    print(f"{name:<28} k = {k(0, -1):.2f}, at the end {k(-2, -1):.2f}   ms: {told}", flush=True)


def by_bars() -> None:
    kept: dict[str, list[float]] = {}

    def note(name: str, *work) -> None:
        kept.setdefault(name, []).append(least(*work))

    for bars in BARS:
        text = text_of(bars)
        chart = read_chart(text)
        studied = study(chart)
        visits = studied.visits + studied.visits[: bars // 2] * 4  # half of them are habits
        player = Player(style=HOUSE, grade=3, target=100)
        plan = break_down(studied, player, judge(studied, player))
        note("read typed text", lambda t=text: read_chart(t))
        note("write typed text", lambda c=chart: write_chart(c))
        note("study, cold", lambda c=chart: study(c), study_bar.cache_clear)
        note("study, again", lambda c=chart: study(c))
        note("kinds", lambda c=chart: study(c).kinds)
        note(
            "traps",
            lambda c=chart, k=studied.kinds, v=visits: traps(c.bars, k, v),
        )
        note("judge", lambda s=studied, p=player: judge(s, p))
        judged = judge(studied, player)
        note("plan", lambda s=studied, p=player, j=judged: break_down(s, p, j))
        note("needs", lambda s=studied, p=plan: needs(p, s))
    for name, seconds in kept.items():
        show(name, BARS, seconds)


def track_of(tries: int) -> Track:
    dice = random.Random(4)
    log = tuple(
        Attempt(
            FIRST + timedelta(days=number // 4),
            70 + number * 50 // tries,
            dice.random() < 0.7,
            8,
        )
        for number in range(tries)
    )
    return Track(ClimbRule(rungs(70, 120), 2), log)


def by_tries() -> None:
    kept: dict[str, list[float]] = {}
    for tries in TRIES:
        track = track_of(tries)
        tracks = (track,) * 5
        today = (
            track.log[-1].day if hasattr(track, "log") else FIRST + timedelta(days=tries // 4)
        )
        journey = Journey(tracks, habit_of(tracks, today, 4, 5), 1.5)
        rule = ClimbRule(rungs(70, 120), 2)
        log = [
            Attempt(FIRST + timedelta(days=n // 4), 70 + n * 50 // tries, n % 3 > 0, 8)
            for n in range(tries)
        ]
        for name, work in (
            ("standing of a step", lambda r=rule, a=log: stand(r, a)),
            ("habit of practice", lambda t=tracks, d=today: habit_of(t, d, 4, 5)),
            ("pace", lambda t=tracks: own_gain(t)),
            ("forecast", lambda j=journey, d=today: forecast(j, d)),
        ):
            kept.setdefault(name, []).append(least(work))
    for name, seconds in kept.items():
        show(name, TRIES, seconds)


if __name__ == "__main__":
    by_bars()
    by_tries()
