"""How long the studio's work takes. Prints figures, asserts nothing.

Run it with ./wren bench. Each figure is the median of several runs, in milliseconds, with
the fastest and the slowest beside it.
"""

import gc
import os
import random
import statistics
import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from datetime import date, timedelta

BARS = 100
STUDENTS, ATTEMPTS = 200, 200_000


def measure(name: str, work: Callable, runs: int = 7, before: Callable | None = None) -> None:
    times = []
    for _ in range(runs):
        if before:
            before()
        gc.collect()  # so that nobody clears away what another left
        start = time.perf_counter()
        work()
        times.append((time.perf_counter() - start) * 1000)
    middle = statistics.median(times)
    print(f"{name:<48} {middle:8.1f} ms   ({min(times):.1f} to {max(times):.1f})", flush=True)


def chart_text(different: int) -> str:
    """100 bars of busy drum set; so many of them different from each other."""
    dice = random.Random(4)
    lines = ["tempo crotchet = 110"]
    for number in range(1, BARS + 1):
        lines.append(f"bar {number}")
        if number > different:
            lines[-1] += f" as {(number - 1) % different + 1}"
            continue
        parts = ["1", "1&", "2a", "3e", "3&", "4", "4a"]
        lines.append("hat 8ths" + dice.choice([", open 4&", "", ", open 2&"]))
        lines.append("snare 2 4, ghost " + " ".join(sorted(dice.sample(["1a", "2a", "3e"], 2))))
        lines.append("kick " + " ".join(sorted(dice.sample(parts, 1 + number % 4))))
    return "\n".join(lines)


def run() -> None:
    os.environ["WREN_DATA"] = tempfile.mkdtemp(prefix="wren-bench-")
    import django

    from bench import peers

    django.setup()
    bench_core()
    bench_engraving()
    bench_pages()
    bench_editor()
    bench_workshop()
    peers.run()


def bench_editor() -> None:
    """One key in the editor: the whole request, a stroke never drawn before each time."""
    from django.contrib.auth.models import User
    from django.test import Client

    from wren_ladder.drumming.notation.counts import read_chart
    from wren_ladder.studio.changes.pieces import add_piece

    teacher = User.objects.create_user("editor", password="bench-bench")
    client = Client(headers={"HX-Request": "true"})
    client.force_login(teacher)
    for different in (8, BARS):
        chart = read_chart(chart_text(different), title=f"Editor {different}")
        piece = add_piece(teacher, chart)
        keys = iter(range(1000))

        def press(piece=piece, keys=keys, different=different):
            key = next(keys)
            hand = {"bar": key % different, "until": key % different, "at": f"{key % 7}/2"}
            sent = {"op": "drop", "drum": "tom-floor", "grid": "8ths", **hand}
            client.post(f"/pieces/{piece.pk}/edit/bar/", sent)

        press()
        measure(f"editor: a key, {BARS} bars, {different} different", press, runs=21)


def bench_workshop() -> None:
    """The whole groove board with states, and three fills to try."""
    from django.contrib.auth.models import User
    from django.test import Client

    from wren_ladder.drumming.workshop.fills import Length, three_to_try
    from wren_ladder.drumming.workshop.grooves import USUAL_TEMPO, Groove
    from wren_ladder.drumming.workshop.patterns import KICKS, Hands
    from wren_ladder.drumming.workshop.recipes import codes_of, made
    from wren_ladder.studio.changes.exercises import give_exercise, make_exercise
    from wren_ladder.studio.students.models import Student

    teacher = User.objects.create_user("workshop", password="bench-bench")
    student = Student.objects.create(owner=teacher, name="Walker", grade=1)
    for kick in KICKS[:12]:
        recipe = {"groove": codes_of(Groove(Hands.HAT_QUAVERS, kick))}
        found = made(recipe)
        piece = make_exercise(teacher, found.chart, found.kind, recipe)
        give_exercise(piece, student, found.target)
    client = Client()
    client.force_login(teacher)
    board = f"/workshop/grooves/?all=on&student={student.pk}"
    client.get(board)
    name = f"groove board, {len(Hands)} by {len(KICKS)}, 12 given"
    measure(name, lambda: client.get(board), runs=15)
    groove, seeds = Groove(Hands.HAT_QUAVERS, KICKS[1]).bar, iter(range(1000))
    for length in Length:

        def dare(length=length):
            three_to_try(length, 4, groove, USUAL_TEMPO, next(seeds))

        measure(f"three fills to try, {length.label}", dare, runs=21)


def bench_breakdown(client, teacher) -> None:
    """The breakdown page of 100 different bars: nothing studied or drawn before, then again."""
    from django.core.cache import caches

    from wren_ladder.drumming.notation.counts import read_chart
    from wren_ladder.drumming.study import study_bar
    from wren_ladder.studio.changes.pieces import add_piece
    from wren_ladder.studio.changes.plans import model_plan
    from wren_ladder.studio.pieces import studies

    piece = add_piece(teacher, read_chart(chart_text(BARS), title="Bench, all different"))
    address = f"/plans/{model_plan(piece, teacher).pk}/steps/"

    def forget():
        for remembered in (studies._study, studies._wall, study_bar):
            remembered.cache_clear()

    def forget_drawings():
        forget()
        caches["engravings"].clear()

    name = f"  breakdown of {BARS} different bars"
    client.get(address)
    measure(f"{name}, cold", lambda: client.get(address), runs=3, before=forget_drawings)
    measure(f"{name}, drawings kept", lambda: client.get(address), runs=3, before=forget)
    measure(f"{name}, warm", lambda: client.get(address), runs=5)


def bench_core() -> None:
    from wren_ladder.drumming.breakdown import break_down, needs
    from wren_ladder.drumming.files import open_file, write_file
    from wren_ladder.drumming.judging.judgement import Player, judge
    from wren_ladder.drumming.notation.counts import read_chart
    from wren_ladder.drumming.study import study, study_bar
    from wren_ladder.drumming.style import HOUSE, School

    for different in (12, BARS):
        text = chart_text(different)
        chart = read_chart(text)
        measure(f"read {BARS} typed bars, {different} different", lambda t=text: read_chart(t))
        name, forget = f"study {BARS} bars, {different} different", study_bar.cache_clear
        score, song = write_file("a.musicxml", chart), write_file("a.mid", chart)
        measure(f"read {BARS} bars of MusicXML", lambda s=score: open_file("a.musicxml", s))
        measure(f"read {BARS} bars of MIDI", lambda s=song: open_file("a.mid", s))
        measure(f"{name}, cold", lambda c=chart: study(c), before=forget)
        measure(f"{name}, again", lambda c=chart: study(c))
        studied = study(chart)
        for school in School:
            player = Player(style=replace(HOUSE, school=school), grade=3, target=100)

            def plan(s=studied, p=player):
                return break_down(s, p, judge(s, p))

            name = f"plan of {BARS} bars, {different} different"
            measure(f"{name}, {school}", plan)
            measure(
                f"  what its {len(plan())} steps need", lambda s=studied, p=plan(): needs(p, s)
            )
    bench_forecast()


def bench_forecast() -> None:
    """A piece of 30 needed steps after three months of practice."""
    from wren_ladder.drumming.climb import Attempt, ClimbRule, rungs
    from wren_ladder.drumming.forecast import Journey, Track, forecast, habit_of, own_gain

    dice, first = random.Random(4), date(2026, 1, 5)
    climb = ClimbRule(rungs(70, 120), 2)
    tracks = tuple(
        Track(
            climb,
            tuple(
                Attempt(first + timedelta(days=3 * n), 70 + n // 6 * 5, dice.random() < 0.7, 8)
                for n in range(30)
            ),
        )
        for _ in range(30)
    )
    today = first + timedelta(days=90)
    measure("pace of 30 steps, 30 tries each", lambda: own_gain(tracks))
    journey = Journey(tracks, habit_of(tracks, today, 4, 5), 1.5)
    measure("forecast of 30 steps, 400 journeys", lambda: forecast(journey, today))


def bench_engraving() -> None:
    from django.core.cache import caches

    from wren_ladder.drumming.description.phrases import phrases
    from wren_ladder.drumming.notation.counts import read_chart
    from wren_ladder.drumming.study import study
    from wren_ladder.studio.drawing.engraving import CARD_WIDTH
    from wren_ladder.studio.drawing.wall import wall_rows
    from wren_ladder.studio.pieces.studies import CARD_LAYOUT

    cache = caches["engravings"]
    for different in (12, BARS):
        studied = study(read_chart(chart_text(different)))
        rows = phrases(studied.chart.bars)

        def work(studied=studied, rows=rows):
            return wall_rows(studied, rows, CARD_LAYOUT, CARD_WIDTH)

        name = f"engrave {BARS} bars, {different} different"
        measure(f"{name}, cold", work, runs=3, before=cache.clear)
        measure(f"{name}, cached", work)


def bench_pages() -> None:
    from django.contrib.auth.models import User
    from django.core.management import call_command
    from django.test import Client
    from django.test.utils import CaptureQueriesContext, setup_test_environment
    from django.db import connection  # isort: skip

    from wren_ladder.drumming.notation.counts import read_chart
    from wren_ladder.studio.changes.pieces import add_piece
    from wren_ladder.studio.changes.plans import give
    from wren_ladder.studio.climb.models import Attempt
    from wren_ladder.studio.climb.standings import refresh
    from wren_ladder.studio.plans.models import Plan, Step
    from wren_ladder.studio.students.models import Student

    setup_test_environment()
    call_command("migrate", verbosity=0)
    teacher = User.objects.create_user("bench", password="bench-bench")
    piece = add_piece(teacher, read_chart(chart_text(12), title="Bench"))
    for n in range(STUDENTS):
        student = Student.objects.create(
            owner=teacher,
            name=f"Pupil {n:03d}",
            lesson_day=n % 7,
            exam_date=date.today() + timedelta(days=20 + n),
        )
        give(Plan(owner=teacher, piece=piece, target=120, start=70), student)
    steps = list(Step.objects.filter(plan__student__isnull=False))
    today = date.today()
    dice = random.Random(4)
    Attempt.objects.bulk_create(
        (
            Attempt(
                step=steps[n % len(steps)],
                day=today - timedelta(days=180 - 180 * n // ATTEMPTS),
                tempo=70 + dice.randrange(11) * 5,
                was_clean=dice.random() < 0.6,
                passes=8,
            )
            for n in range(ATTEMPTS)
        ),
        batch_size=5000,
    )
    for plan in Plan.objects.filter(student__isnull=False):
        refresh(plan)
    client = Client()
    client.force_login(teacher)
    plan = Plan.objects.filter(student__isnull=False).first()
    print(f"with {STUDENTS} students and {ATTEMPTS} attempts:")
    for name, address in (
        ("Desk", "/"),
        ("students, 60 of them", "/students/"),
        ("piece of 100 bars", piece.get_absolute_url()),
        ("ladder of a student", plan.get_absolute_url()),
        ("progress of a student", f"/plans/{plan.pk}/progress/"),
        ("student page", plan.student.get_absolute_url()),
        ("lesson mode", f"/students/{plan.student_id}/lesson/"),
        ("end of a lesson", f"/students/{plan.student_id}/lesson/end/"),
        ("the week of a student", f"/students/{plan.student_id}/week/"),
        ("the sheet of a student (PDF)", f"/students/{plan.student_id}/week.pdf"),
        ("timetable", "/lessons/"),
        ("end of term", "/lessons/term/"),
        ("calendar of everybody", "/in-and-out/calendar.ics"),
        ("all attempts as CSV", "/in-and-out/attempts.csv"),
        ("whole studio as JSON", "/in-and-out/studio.json"),
        ("breakdown of a student's plan", f"/plans/{plan.pk}/steps/"),
        ("two schools side by side", f"/plans/{plan.pk}/compare/"),
    ):
        client.get(address)
        with CaptureQueriesContext(
            connection,
        ) as queries:
            client.get(address).getvalue()
        measure(
            f"  {name} ({len(queries)} queries)",
            lambda a=address: client.get(a).getvalue(),
            runs=5,
        )
    bench_breakdown(client, teacher)
    step = plan.steps.first()
    form = {"tempo": 90, "passes": 8, "clean_try": "yes"}
    address = f"/steps/{step.pk}/attempts/"
    measure(
        "  log an attempt, everything following",
        lambda: client.post(address, form, headers={"HX-Request": "true"}),
        runs=5,
    )
