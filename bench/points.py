"""Figures that two versions of the studio can be held to, one line of JSON each.

Run by ``bench.beside`` with the version under test first on the path: only addresses and what
has kept its name are asked for; rooms that were moved since are looked for in both places.
"""

import json
import os
import random
import re
import sys
import tempfile
import time
from collections.abc import Callable
from datetime import date, timedelta
from importlib import import_module

STUDENTS = 60
BARS, MANY_BARS, TRIES = 100, 400, 3000
FIRST = date(2024, 1, 8)


def there(name: str, *places: str):
    """The first of the places that has it."""
    for place in places:
        try:
            return getattr(import_module(f"wren_ladder.{place}"), name)
        except (ImportError, AttributeError):
            continue
    raise LookupError(f"{name} is in none of {places}")


def tell(name: str, figure: float, unit: str) -> None:
    print(json.dumps([name, figure, unit]), flush=True)


def milliseconds(work: Callable[[], object], runs: int = 3) -> float:
    """Of the processor, the least of some runs."""
    times = []
    for _ in range(runs):
        begun = time.process_time()
        work()
        times.append(time.process_time() - begun)
    return 1000 * min(times)


def text_of(bars: int) -> str:
    """So many bars of a busy set, different as far as the dice lets them be."""
    dice = random.Random(4)
    lines = ["tempo crotchet = 110"]
    places = [f"{beat}{part}" for beat in "1234" for part in ("", "e", "&", "a")]
    for number in range(1, bars + 1):
        ghosts = dice.sample(["1a", "2a", "3e", "3a", "4e"], 2)
        lines += [
            f"bar {number}",
            "hat 8ths" + dice.choice([", open 4&", "", ", open 2&"]),
            "snare 2 4, ghost " + " ".join(sorted(ghosts)),
            "kick " + " ".join(sorted(dice.sample(places, 2 + number % 4), key=places.index)),
        ]
    return "\n".join(lines)


def core() -> None:
    from wren_ladder.drumming.breakdown import break_down, needs
    from wren_ladder.drumming.notation.counts import read_chart, write_chart
    from wren_ladder.drumming.study import study

    traps = there("traps", "drumming.findings.traps", "drumming.traps")
    judge = there("judge", "drumming.judging.judgement", "drumming.judgement")
    player = there("Player", "drumming.judging.judgement", "drumming.judgement")(target=100)
    studied = study(read_chart(text_of(MANY_BARS)))
    bars, kinds = studied.chart.bars, studied.kinds
    visits = studied.visits + studied.visits[: MANY_BARS // 2] * 4  # half of them a habit

    def catch():
        return traps(bars, kinds, visits)

    plan = break_down(studied, player, judge(studied, player))
    tell(f"traps of {MANY_BARS} bars", milliseconds(catch), "ms")
    tell(f"needs of {MANY_BARS} bars", milliseconds(lambda: needs(plan, studied)), "ms")
    chart = studied.chart
    tell(f"typed text of {MANY_BARS} bars", milliseconds(lambda: write_chart(chart)), "ms")


def log_of(rungs: list[int]) -> tuple:
    attempt = there("Attempt", "drumming.climb", "drumming.tempo")
    dice = random.Random(4)
    return tuple(
        attempt(
            FIRST + timedelta(days=n // 4),
            rungs[n * (len(rungs) - 2) // TRIES],  # on the way, not there yet
            dice.random() < 0.7,
            8,
        )
        for n in range(TRIES)
    )


def log() -> None:
    from wren_ladder.drumming.forecast import Journey, Track, forecast, habit_of, own_gain

    rungs = there("rungs", "drumming.climb", "drumming.tempo")(70, 120)
    rule = there("Climb", "drumming.tempo") if _old() else there("ClimbRule", "drumming.climb")
    track = Track(rule(rungs, 2), log_of(list(rungs)))
    today = FIRST + timedelta(days=TRIES // 4 + 1)
    tell(f"pace of {TRIES} tries", milliseconds(lambda: own_gain((track,))), "ms")
    journey = Journey((track,), habit_of((track,), today, 4, 5), 1.5)
    tell(f"forecast of {TRIES} tries", milliseconds(lambda: forecast(journey, today)), "ms")


def _old() -> bool:
    try:
        import_module("wren_ladder.drumming.climb")
    except ImportError:
        return True
    return False


def studio() -> None:
    from django.contrib.auth.models import User
    from django.core.management import call_command
    from django.db import connection
    from django.test import Client
    from django.test.utils import CaptureQueriesContext

    from wren_ladder.drumming.notation.counts import read_chart
    from wren_ladder.studio.students.models import Student

    add_piece = there("add_piece", "studio.changes.pieces", "studio.pieces.services")
    give = there("give", "studio.changes.plans", "studio.lessons.services")
    plans = there("Plan", "studio.plans.models", "studio.lessons.models")
    call_command("migrate", verbosity=0)
    teacher = User.objects.create_user("bench", password="bench-bench-bench")
    long = add_piece(teacher, read_chart(text_of(BARS), title="Long"))
    short = add_piece(teacher, read_chart(text_of(12), title="Short"))
    made = []
    for n in range(STUDENTS):
        student = Student.objects.create(
            owner=teacher, name=f"Pupil {n:02d}", lesson_day=n % 7,
            exam_date=date.today() + timedelta(days=60),
        )  # fmt: skip
        made.append(give(plans(owner=teacher, piece=short, target=120, start=70), student))
    whole = give(plans(owner=teacher, piece=long, target=110, start=70), made[0].student)
    client = Client(headers={"host": "127.0.0.1"})
    client.force_login(teacher)
    client.raise_request_exception = True

    def ask(address: str, **headers: str):
        answer = client.get(address, headers=headers)
        if answer.status_code != 200:
            raise LookupError(f"{address} answered {answer.status_code}")
        return answer

    pupil = whole.student_id
    for name, address in (
        (f"print: chart of {BARS} bars", f"/pieces/{long.pk}/score.pdf"),
        (f"print: wall chart of {BARS} bars", f"/plans/{whole.pk}/wall.pdf"),
        ("print: the week's sheet", f"/students/{pupil}/week.pdf"),
        ("print: lesson sheet", f"/plans/{whole.pk}/sheet.pdf"),
        ("print: the report", f"/students/{pupil}/report.pdf"),
    ):
        begun = time.perf_counter()
        ask(address)
        tell(name, time.perf_counter() - begun, "s")
        begun = time.perf_counter()
        ask(address)
        tell(f"{name}, again", time.perf_counter() - begun, "s")
    for name, address in (
        ("Desk", "/"),
        ("lesson mode", f"/students/{pupil}/lesson/"),
        (f"breakdown of {BARS} bars", f"/plans/{whole.pk}/steps/"),
    ):
        page = ask(address, **{"Accept-Encoding": "br, gzip"})
        tell(f"on the way: {name}", len(page.content) / 1000, "KB")
        styles = re.findall(r'href="([^"]+\.css[^"]*)"', ask(address).content.decode())
        sent = [ask(one, **{"Accept-Encoding": "br, gzip"}).getvalue() for one in styles]
        tell(f"on the way: styles of {name}", sum(map(len, sent)) / 1000, "KB")
    for name, address in (
        ("calendar", "/in-and-out/calendar.ics"),
        ("deleting a piece", f"/pieces/{short.pk}/delete/"),
    ):
        with CaptureQueriesContext(connection) as queries:
            ask(address).getvalue()
        tell(f"queries of {name}, {STUDENTS} students", len(queries), "")
    step = made[1].steps.first()
    form = {"tempo": 90, "passes": 8, "clean_try": "yes"}
    headers = {"HX-Request": "true"}
    address = f"/steps/{step.pk}/attempts/"
    tell(
        "a try, everything following",
        milliseconds(lambda: client.post(address, form, headers=headers), runs=7),
        "ms",
    )
    with connection.cursor() as cursor:
        cursor.execute("VACUUM")
        size = cursor.execute("PRAGMA page_count").fetchone()[0]
        size *= cursor.execute("PRAGMA page_size").fetchone()[0]
    tell(f"database of {STUDENTS + 1} plans", size / 1000, "KB")


def main() -> None:
    os.environ["WREN_DATA"] = tempfile.mkdtemp(prefix="wren-beside-")
    os.environ["DJANGO_SETTINGS_MODULE"] = "wren_ladder.studio.settings"
    import django

    django.setup()
    for part in (core, log, studio):
        try:
            part()
        except LookupError as error:
            print(f"left out: {error}", file=sys.stderr)


if __name__ == "__main__":
    main()
