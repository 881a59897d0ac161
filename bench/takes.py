"""Takes: players found again, judged, kept, and pages with many: python -m bench.takes."""

import os
import tempfile
from collections import Counter, defaultdict
from datetime import date, timedelta
from statistics import fmean

from bench.run import STUDENTS, chart_text, measure

TAKES = 20_000
MINUTES, STROKES = 5, 4_000
SEEDS, LEAST = 4, 12  # players of a kind; strokes that say anything


def run() -> None:
    os.environ.setdefault("WREN_DATA", tempfile.mkdtemp(prefix="wren-bench-"))
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "wren_ladder.studio.settings")
    import django

    django.setup()
    bench_players()
    bench_judging()
    bench_pages_with_takes()


def bench_players() -> None:
    """Of each kind of player over parts of every demo piece: how much of what was played is
    matched, and what is told first."""
    from tests import players
    from wren_ladder.drumming.take_sources.heard import Source
    from wren_ladder.drumming.takes.hear import hear
    from wren_ladder.drumming.takes.limits import house_rule

    matched, told, right = defaultdict(list), defaultdict(Counter), Counter()
    rule = house_rule(players.GRADE)
    for part in players.parts():
        for seed in range(SEEDS):
            spread = 0.005 + 0.003 * seed
            each = [players.clean(part, seed, spread), *players.breaks(part, seed, spread)]
            for one in (*each, players.getting_faster(part, seed, spread, by=0.1)):
                if one.mains < LEAST:
                    continue
                take = hear(part.road, one.heard, part.passes, rule, Source.KIT)
                kind = take.judged.first and take.judged.first.kind
                matched[one.kind].append(len(take.followed.matched) / one.mains)
                told[one.kind][kind.value if kind else "clean"] += 1
                right[one.kind] += kind in one.means
    print(f"{'kind':22} takes  matched  first sentence right, and what it was")
    for kind, shares in matched.items():
        said = ", ".join(f"{name} {many}" for name, many in told[kind].most_common(4))
        share = right[kind] / len(shares)
        print(f"{kind:22} {len(shares):5}  {fmean(shares):7.3f}  {share:6.1%}  {said}")


def bench_judging() -> None:
    from wren_ladder.drumming.notation.counts import read_chart
    from wren_ladder.drumming.performance import perform
    from wren_ladder.drumming.study import study
    from wren_ladder.drumming.take_sources.heard import Heard, Source
    from wren_ladder.drumming.take_sources.simulated import play
    from wren_ladder.drumming.takes.hear import hear
    from wren_ladder.drumming.takes.limits import house_rule
    from wren_ladder.studio.climb.strokes_field import StrokesField

    text = "tempo crotchet = 118\nhat 16ths\nsnare 2 4, ghost 1a 3e\nkick 1 2& 3 4a\nfoot 2 4\n"
    bars = study(read_chart(text, title="Long")).road
    performance = perform(bars)
    passes = round(MINUTES * 60 / performance.seconds)
    heard = play(performance, bars, passes, 1)[:STROKES]
    measure(
        f"a take of {MINUTES} minutes, {len(heard)} strokes, judged",
        lambda: hear(bars, heard, passes, house_rule(3), Source.KIT),
    )
    half = sorted(heard, key=lambda one: one.at)
    stop = half[len(half) // 2].at
    later = [Heard(o.at + 1.3 * (o.at > stop), o.drum, o.strength) for o in half]
    measure(
        "  with a pause in its middle",
        lambda: hear(bars, later, passes, house_rule(3), Source.KIT),
    )
    rows = [
        [round(1000 * one.at, 1), one.drum.value, round(127 * one.strength)] for one in heard
    ]
    print(f"  kept in {len(StrokesField().get_prep_value(rows)) / 1024:.1f} KB")


def bench_pages_with_takes() -> None:
    from django.contrib.auth.models import User
    from django.core.management import call_command
    from django.test import Client
    from django.test.utils import setup_test_environment

    from wren_ladder.drumming.notation.counts import read_chart
    from wren_ladder.drumming.performance import perform
    from wren_ladder.drumming.take_sources.heard import Source
    from wren_ladder.drumming.take_sources.simulated import Fault, play
    from wren_ladder.studio.changes.pieces import add_piece
    from wren_ladder.studio.changes.plans import give
    from wren_ladder.studio.changes.takes import keep_take
    from wren_ladder.studio.climb.models import Take
    from wren_ladder.studio.climb.takes import bars_of, share_of
    from wren_ladder.studio.plans.models import Plan
    from wren_ladder.studio.students.models import Student

    setup_test_environment()
    call_command("migrate", verbosity=0)
    teacher = User.objects.create_user("takes", password="bench-bench")
    piece = add_piece(teacher, read_chart(chart_text(12), title="Bench"))
    today = date.today()
    for n in range(STUDENTS):
        day = today.weekday() if n < 8 else (n % 7)
        student = Student.objects.create(owner=teacher, name=f"Pupil {n:03d}", lesson_day=day)
        give(Plan(owner=teacher, piece=piece, target=120, start=70), student)
    plans = list(Plan.objects.filter(owner=teacher, student__isnull=False))
    step = plans[0].steps.first()
    bars = bars_of(step)
    heard = play(perform(bars, share_of(step, 100)), bars, 8, 1, [Fault.LATE_RIGHT_FOOT])
    like = keep_take(step, Source.KIT, 100, 8, heard, today)
    steps = [plan.steps.first() for plan in plans]
    Take.objects.bulk_create(
        (
            Take(
                step=steps[n % len(steps)],
                day=today - timedelta(days=n * 80 // TAKES),
                source="kit",
                tempo=100,
                passes=8,
                strokes=like.strokes,
                asked=like.asked,
                told=like.told,
            )
            for n in range(TAKES)
        ),
        batch_size=2000,
    )
    client = Client()
    client.force_login(teacher)
    plan = plans[0]
    print(f"with {STUDENTS} students and {TAKES} takes:")
    for name, address in (
        ("Desk, a day of many lessons", "/"),
        ("take", f"/takes/{like.pk}/"),
        ("step", f"/steps/{step.pk}/"),
        ("progress", f"/plans/{plan.pk}/progress/"),
        ("student", plan.student.get_absolute_url()),
        ("lesson mode", f"/students/{plan.student_id}/lesson/"),
    ):
        client.get(address)
        measure(f"  {name}", lambda a=address: client.get(a).getvalue(), runs=5)


if __name__ == "__main__":
    run()
