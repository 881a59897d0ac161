"""How far one machine and one file go.

    python -m bench.scale

Prints; asserts nothing. Writes are tries as pages log them, with everything that follows.
"""

import os
import random
import sqlite3
import statistics
import subprocess
import sys
import tempfile
import time
from contextlib import closing
from datetime import date, timedelta
from pathlib import Path
from uuid import uuid4

STUDIOS, SECONDS = 50, 10
PROCESSES = (1, 2, 4)
TRIES = (200_000, 1_000_000)
RUNS = 9


def started(folder: str) -> None:
    os.environ["WREN_DATA"] = folder
    os.environ["DJANGO_SETTINGS_MODULE"] = "wren_ladder.studio.settings"
    os.environ["WREN_HOSTS"] = "testserver"
    import django

    django.setup()


def use(database: Path) -> None:
    from django.db import connection

    connection.close()
    connection.settings_dict["NAME"] = str(database)


def write(folder: str, seconds: int) -> None:
    """In a process of its own: log tries in the studios of a folder, one after the other."""
    started(folder)
    from wren_ladder.studio.changes.attempts import log_attempts
    from wren_ladder.studio.climb.models import Attempt
    from wren_ladder.studio.plans.models import Step

    studios = sorted(Path(folder).glob("studio*.sqlite3"))
    dice, done, until = random.Random(os.getpid()), 0, time.time() + seconds
    while time.time() < until:
        use(dice.choice(studios))
        step = dice.choice(
            Step.objects.filter(plan__student__isnull=False).order_by("pk")[:200]
        )
        tempo = 60 + dice.randrange(60)
        log_attempts(
            [Attempt(step=step, day=date.today(), tempo=tempo, was_clean=True, key=uuid4())]
        )
        done += 1
    print(done)


def writers(folder: str, name: str) -> None:
    for many in PROCESSES:
        work = [sys.executable, "-m", "bench.scale", "write", folder, str(SECONDS)]
        running = [
            subprocess.Popen(work, stdout=subprocess.PIPE, text=True) for _ in range(many)
        ]
        done = sum(int(one.communicate()[0]) for one in running)
        print(f"{name}, {many} processes: {done / SECONDS:.0f} tries a second", flush=True)


def many_tries(folder: str) -> None:
    """Desk, ladder and a try while the log grows."""
    from django.conf import settings
    from django.contrib.auth.models import User
    from django.test import Client

    from wren_ladder.studio.plans.models import Plan

    settings.ALLOWED_HOSTS = ["testserver"]
    client = Client()
    client.force_login(User.objects.get(username="demo"))
    plan = Plan.objects.filter(student__isnull=False, status="climbing").first()
    step = plan.steps.filter(dropped=False).first()
    database = Path(folder) / "studio.sqlite3"
    for tries in TRIES:
        fill(database, tries, plan.pk)
        entry = {"step": step.pk, "tempo": 90, "passes": 8, "clean_try": "yes"}
        for name, work in (
            ("Desk", lambda: client.get("/")),
            ("ladder", lambda: client.get(plan.get_absolute_url())),
            (
                "a try",
                lambda e=entry: client.post(
                    f"/students/{plan.student_id}/lesson/entries/",
                    [{**e, "key": str(uuid4())}],
                    content_type="application/json",
                ),
            ),
        ):
            work()
            times = []
            for _ in range(RUNS):
                begun = time.perf_counter()
                work()
                times.append(1000 * (time.perf_counter() - begun))
            print(f"{tries:>9} tries, {name}: {statistics.median(times):.0f} ms", flush=True)
        size = database.stat().st_size / 1e6
        print(f"{tries:>9} tries: {size:.0f} MB, {1e6 * size / tries:.0f} bytes a try")


def fill(database: Path, tries: int, besides: int) -> None:
    """Tries of other plans, over ten years, as a large studio would have them."""
    with closing(sqlite3.connect(database)) as opened:
        (there,) = opened.execute("SELECT count(*) FROM climb_attempt").fetchone()
        steps = [
            pk
            for (pk,) in opened.execute(
                "SELECT id FROM plans_step WHERE plan_id != ?", [besides]
            )
        ]
        first = date.today() - timedelta(days=3650)
        rows = (
            (
                steps[n % len(steps)],
                (first + timedelta(days=n % 3600)).isoformat(),
                60 + n % 60,
                1,
                8,
            )
            for n in range(tries - there)
        )
        opened.executemany(
            'INSERT INTO climb_attempt (step_id, day, tempo, was_clean, passes, note, "where") '
            "VALUES (?, ?, ?, ?, ?, '', 'lesson')",
            rows,
        )
        opened.commit()


def main() -> None:
    with tempfile.TemporaryDirectory() as one, tempfile.TemporaryDirectory() as fifty:
        started(one)
        from wren_ladder.demo import studio

        studio.prepare()
        first = Path(one) / "studio.sqlite3"
        use(first)
        with closing(sqlite3.connect(first)) as opened:
            for number in range(STUDIOS):
                with closing(sqlite3.connect(Path(fifty) / f"studio-{number}.sqlite3")) as copy:
                    opened.backup(copy)
                    copy.execute("PRAGMA journal_mode=WAL")
        writers(one, "one file")
        writers(fifty, f"{STUDIOS} files")
        many_tries(one)


if __name__ == "__main__":
    if sys.argv[1:2] == ["write"]:
        write(sys.argv[2], int(sys.argv[3]))
    else:
        main()
