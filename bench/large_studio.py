"""A studio as large as one house gets, and what its pages take.

    python -m bench.large_studio make FOLDER     a studio in a new folder
    python -m bench.large_studio ask FOLDER      figures and pages, one line of JSON each

200 students with two or three plans each, of twelve pieces of 16 to 100 bars that are all
different; 200,000 tries, most of them by few; 29 lessons today. Run by ``bench.beside``: the
version before makes it, and each version is asked on its own copy. Prints; asserts nothing.
"""

import hashlib
import json
import os
import random
import re
import resource
import sys
import time
from collections.abc import Callable, Iterator
from datetime import date, timedelta
from datetime import time as time_of_day
from pathlib import Path
from uuid import uuid4

SIZES = (16, 20, 24, 32, 40, 48, 56, 64, 72, 80, 90, 100)  # bars
STUDENTS, TODAY, TRIES = 200, 29, 200_000
WEEKS, FEW_TRIES = 60, 20

HATS = ("8ths", "8ths, open 4&", "8ths, accent 1 2 3 4", "16ths", "quarters", "8ths, open 2&")
SNARES = ("2 4", "2 4, ghost 2a 4e", "2 4, ghost 1a 3e", "2& 4", "2 4 4a", "3")
FILLS = (
    ("snare 3 3e 3& 3a", "high 4 4e", "floor 4& 4a"),
    ("snare 3 4e 4& 4a, flam 4",),
    ("snare roll 9 3-4, accent 4",),
    ("high 3 3&", "snare 3e 3a", "floor 4 4&"),
    ("snare accent 3, 3e 3a 4, ghost 4e 4&", "floor 4a"),
)


def started(folder: str) -> None:
    os.environ["WREN_DATA"] = folder
    os.environ["DJANGO_SETTINGS_MODULE"] = "wren_ladder.studio.settings"
    import django

    django.setup()


def text_of(bars: int) -> str:
    """A piece of so many bars, grooves in lines of four with a fill behind each, no two bars
    the same if the dice let them be."""
    dice = random.Random(bars)
    lines = [f"tempo crotchet = {dice.randrange(84, 144, 4)}"]
    places = [f"{beat}{part}" for beat in "1234" for part in ("", "e", "&", "a")]
    for number in range(1, bars + 1):
        lines.append(f"bar {number}")
        if number % 16 == 1:
            lines.append(f"section {chr(ord('A') + number // 16)}")
        kicks = sorted(dice.sample(places, 2 + dice.randrange(3)), key=places.index)
        if number % 4 == 0:
            lines += ["hat 1 1& 2 2&", *dice.choice(FILLS), f"kick 1 {dice.choice(kicks[1:])}"]
        else:
            lines += [f"hat {dice.choice(HATS)}", f"snare {dice.choice(SNARES)}"]
            lines.append("kick " + " ".join(kicks))
    return "\n".join(lines)


def make() -> None:
    """In bulk where nothing follows from it; where plans stand is worked out by the studio."""
    from django.contrib.auth.models import User
    from django.core.management import call_command
    from points import there

    call_command("migrate", verbosity=0)
    teacher = User.objects.create_user("bench", password="bench-bench-bench")
    plans = _plans(teacher, _pieces(teacher), _students(teacher))
    _log(plans)
    _lessons(plans)
    there("note_changes", "studio.climb.standings")([plan.pk for plan in plans])
    there("catch_up", "studio.climb.standings")()


def _pieces(teacher) -> list:
    from points import there

    from wren_ladder.drumming.notation.counts import read_chart

    add_piece = there("add_piece", "studio.changes.pieces")
    return [
        add_piece(teacher, read_chart(text_of(bars), title=f"Piece of {bars}"))
        for bars in SIZES
    ]


def _students(teacher) -> list:
    from wren_ladder.studio.students.models import Student

    today, dice = date.today(), random.Random(1)
    return [
        Student.objects.create(
            owner=teacher,
            name=f"Pupil {n:03d}",
            grade=1 + n % 8,
            lesson_day=(today.weekday() + (0 if n < TODAY else 1 + n % 6)) % 7,
            lesson_time=time_of_day(8 + n % TODAY // 2, 30 * (n % 2)),
            exam_date=today + timedelta(days=dice.randrange(20, 200)) if n % 3 else None,
            link_key=f"key{n}",
            home_earns=n % 4 == 0,
        )
        for n in range(STUDENTS)
    ]


def _plans(teacher, pieces: list, students: list) -> list:
    """Broken down once for each piece and grade there is, and copied for the others."""
    from django.db import transaction
    from points import there

    from wren_ladder.studio.plans.models import Plan, PlanSnapshot, Step

    give, dice, first = there("give", "studio.changes.plans"), random.Random(2), {}
    made = []
    for student in students:
        with transaction.atomic():
            for piece in dice.sample(pieces, 2 + dice.randrange(2)):
                key = piece.pk, student.grade // 3
                target = piece.tempo.bpm
                plan = Plan(owner=teacher, piece=piece, target=target, start=target * 6 // 10)
                if key not in first:
                    first[key] = give(plan, student)
                    made.append(first[key])
                    continue
                plan.student, plan.made_of = student, first[key].made_of
                plan.save()
                steps = list(first[key].steps.all())
                for step in steps:
                    step.pk, step.plan = None, plan
                Step.objects.bulk_create(steps)
                bars = PlanSnapshot.objects.get(plan=first[key]).bars
                PlanSnapshot.objects.create(plan=plan, bars=bars)
                made.append(plan)
    return made


def _log(plans: list) -> None:
    """A few students log most of it."""
    from points import there

    from wren_ladder.studio.climb.models import Attempt, HomeMinutes

    climb_rule, dice = there("climb_rule", "studio.plans.rules"), random.Random(3)
    weights = [dice.lognormvariate(0, 1.2) for _ in plans]
    for plan, weight in zip(plans, weights, strict=True):
        many = int(TRIES * weight / sum(weights))
        Attempt.objects.bulk_create(_tries(plan, many, climb_rule, dice), 5000)
    today = date.today()
    for student in {plan.student_id for plan in plans}:
        HomeMinutes.objects.bulk_create(
            HomeMinutes(student_id=student, day=today - timedelta(days=n), minutes=10 + n % 9)
            for n in range(0, 7 * WEEKS, 1 + student % 5)
        )


def _tries(plan, many: int, climb_rule: Callable, dice: random.Random) -> Iterator:
    """From the first step on, each from its first rung up, over the weeks until today."""
    from wren_ladder.studio.climb.models import Attempt

    steps = [step for step in plan.steps.select_related("first", "last") if step.is_needed]
    rungs = {step.pk: climb_rule(plan, step).rungs for step in steps}
    reached, today = dict.fromkeys(rungs, 0), date.today()
    for n in range(many):
        front = min(len(steps) - 1, n // FEW_TRIES)
        step = steps[dice.randint(max(0, front - 6), front)]
        clean = dice.random() < 0.7
        place = min(reached[step.pk], len(rungs[step.pk]) - 1)
        home = dice.random() < 0.6
        yield Attempt(
            step=step,
            day=today - timedelta(days=1 + (many - 1 - n) * 7 * WEEKS // many),
            tempo=rungs[step.pk][place],
            was_clean=clean,
            passes=dice.choice((1, 4, 8)),
            where="home" if home else "lesson",
        )
        reached[step.pk] = max(0, reached[step.pk] + (clean and dice.random() < 0.5))


def _lessons(plans: list) -> None:
    """Weekly until last week, the last with what was set in it."""
    from wren_ladder.studio.lessons.models import Lesson

    today, lessons, of = date.today(), [], {}
    for plan in plans:
        of.setdefault(plan.student_id, []).append(plan)
    for pk, mine in of.items():
        student = mine[0].student
        last = today - timedelta(days=(today.weekday() - student.lesson_day) % 7 or 7)
        for week in range(WEEKS):
            state = "ill" if (pk + week) % 17 == 0 else "given"
            by = "student" if state == "ill" else ""
            lesson = Lesson(student_id=pk, day=last - timedelta(weeks=week), state=state, by=by)
            if state == "given" and pk % 3 and week < 8:
                lesson.was_set = [_line(plan) for plan in mine]
            lessons.append(lesson)
    Lesson.objects.bulk_create(lessons, 2000)


def _line(plan) -> dict:
    step = plan.steps.first()
    names = {"name": step.name, "piece": plan.piece.title}
    return {"step": step.pk, **names, "tempo": plan.start, "minutes": 5, "on_pad": False}


# What differs between two answers to one question, and says nothing.
PASSING = re.compile(
    rb"nonce=\"[^\"]*\"|csrfmiddlewaretoken\" value=\"[^\"]*\"|x-csrftoken\": \"[^\"]*\""
    rb"|\.[0-9a-f]{12}\.|DTSTAMP:\w+|[0-9a-f]{8}-(?:[0-9a-f]{4}-){3}[0-9a-f]{12}"
)


class Asked:
    """The studio, asked as its teacher's browser asks."""

    def __init__(self) -> None:
        from django.contrib.auth.models import User
        from django.test import Client

        self.client = Client(headers={"host": "127.0.0.1"})
        self.client.force_login(User.objects.get(username="bench"))

    def get(self, address: str, **headers: str) -> bytes:
        answer = self.client.get(address, headers=headers)
        if answer.status_code != 200:
            raise LookupError(f"{address} answered {answer.status_code}")
        return answer.getvalue()

    def page(self, name: str, address: str, runs: int = 4, **headers: str) -> None:
        """The first answer of the process, and the least of some later ones."""
        from django.db import connection
        from django.test.utils import CaptureQueriesContext

        times = []
        for _ in range(runs):
            begun = time.process_time()
            body = self.get(address, **headers)
            times.append(1000 * (time.process_time() - begun))
        with CaptureQueriesContext(connection) as queries:
            self.get(address, **headers)
        tell(name, min(times), "ms")
        tell(f"{name}: first", times[0], "ms")
        tell(f"{name}: queries", len(queries), "")
        tell(f"{name}: size", len(body) / 1000, "KB")
        digest = hashlib.sha256(PASSING.sub(b"", body)).hexdigest()[:12]
        print(json.dumps([name, digest, "page"]), flush=True)
        if folder := os.environ.get("WREN_BENCH_PAGES"):
            Path(folder).mkdir(exist_ok=True)
            (Path(folder) / re.sub(r"\W+", "_", name)).write_bytes(PASSING.sub(b"", body))


def ask() -> None:
    from django.core.management import call_command
    from django.db.models import Count
    from points import there

    from wren_ladder.studio.plans.models import Plan
    from wren_ladder.studio.students.models import Student

    call_command("migrate", verbosity=0)
    there("catch_up", "studio.climb.standings")()
    asked = Asked()
    pupil = Student.objects.order_by("pk").first()
    longest = Plan.objects.filter(piece__title=f"Piece of {SIZES[-1]}")
    long = longest.annotate(many=Count("steps")).order_by("-many", "pk").first()
    piece, place = long.piece_id, long.steps.order_by("position")[40]
    htmx = {"HX-Request": "true"}
    first = date.today() - timedelta(weeks=12)
    asked.page(f"Desk, {TODAY} lessons", "/")
    asked.page("lesson mode", f"/students/{pupil.pk}/lesson/")
    asked.page("timetable", "/lessons/")
    asked.page("end of term", f"/lessons/term/?first={first}&last={date.today()}", 2)
    asked.page("calendar", "/in-and-out/calendar.ics", 2)
    asked.page("student", f"/students/{pupil.pk}/")
    asked.page("students", "/students/")
    asked.page("pieces", "/pieces/")
    asked.page("piece of 100 bars", f"/pieces/{piece}/")
    asked.page("ladder of 100 bars", f"/plans/{long.pk}/")
    asked.page("breakdown of 100 bars", f"/plans/{long.pk}/steps/")
    asked.page("compare two schools", f"/plans/{long.pk}/compare/?left=bar&right=phrase")
    asked.page("panel of a step", f"/steps/{place.pk}/panel/", **htmx)
    asked.page("revise 100 bars", f"/plans/{long.pk}/revise/")
    asked.page("practice room of 100 bars", f"/pieces/{piece}/room/")
    asked.page("editor of 100 bars", f"/pieces/{piece}/edit/?as=bars&bar=50")
    asked.page("MIDI of 100 bars", f"/pieces/{piece}/file.mid")
    asked.page("MusicXML of 100 bars", f"/pieces/{piece}/file.musicxml")
    asked.page("progress", f"/plans/{long.pk}/progress/")
    asked.page("week", f"/students/{pupil.pk}/week/")
    asked.page("tries as CSV", "/in-and-out/attempts.csv", 1)
    asked.page("studio file", "/in-and-out/studio.json", 1)
    _a_try(asked, place)
    tell("most memory", resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1000, "MB")


def _a_try(asked: Asked, step) -> None:
    times = []
    for _ in range(7):
        form = {"tempo": 70, "passes": 8, "clean_try": "yes", "key": str(uuid4())}
        begun = time.process_time()
        answer = asked.client.post(
            f"/steps/{step.pk}/attempts/", form, headers={"HX-Request": "true"}
        )
        times.append(1000 * (time.process_time() - begun))
        if answer.status_code != 200:
            raise LookupError(f"a try answered {answer.status_code}")
    tell("a try, everything following", min(times), "ms")


def tell(name: str, figure: float, unit: str) -> None:
    print(json.dumps([name, figure, unit]), flush=True)


if __name__ == "__main__":
    sys.path.insert(0, str(Path(__file__).parent))
    started(sys.argv[2])
    {"make": make, "ask": ask}[sys.argv[1]]()
