"""Whatever people do, in any order: what is stored is what the facts alone give.

Hypothesis walks through the doors as teachers do; after each step every standing is thrown
away, worked out anew, and compared with what was kept.
"""

from datetime import date, timedelta

from django.urls import reverse
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from tests.studio.base import log, make_piece, make_student, make_teacher
from wren_ladder.drumming.chart import Chart
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.style import School
from wren_ladder.studio.changes import attempts as tries
from wren_ladder.studio.changes import plans as doors
from wren_ladder.studio.changes.pieces import flip_hand, save_piece
from wren_ladder.studio.changes.students import change_student
from wren_ladder.studio.climb.models import Attempt, PlanStanding, StepStanding
from wren_ladder.studio.climb.standings import refresh
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.students.links import open_link, path_of

TODAY = date.today()
BARS = (
    "hat 8ths\nsnare 2 4\nkick 1 3",
    "snare flam 1 2, 3* 4",
    "floor triplets",
    "kick 1 2 3 4",
)
FOUR = "tempo crotchet = 120\n" + "\n".join(f"bar {n}\n{bar}" for n, bar in enumerate(BARS, 1))
OF_A_PLAN = ("ready", "slowest", "waiting", "held_by", "last_day", "forecast", "gain")
OF_A_STEP = ("held", "next_tempo", "reason", "falling", "last_day")
number = st.integers(0, 10**6)


class Studio:
    """A studio, and what a teacher may do in it; ``number`` chooses among what is there."""

    def __init__(self) -> None:
        self.teacher = make_teacher()
        self.piece = make_piece(self.teacher, FOUR)
        self.students = [make_student(self.teacher, name, grade=2) for name in ("Ines", "Kofi")]
        for student in self.students:
            doors.give(self.new_plan(), student)

    def new_plan(self) -> Plan:
        return Plan(owner=self.teacher, piece=self.piece, start=80, target=120)

    def chosen(self, rows, number: int):
        every = list(rows.order_by("pk"))
        return every[number % len(every)] if every else None

    def plan(self, number: int) -> Plan:
        return self.chosen(Plan.objects.filter(student__isnull=False), number)

    def step(self, number: int) -> Step:
        return self.chosen(Step.objects.filter(plan=self.plan(number)), number // 7)

    def log(self, number: int) -> None:
        step = self.step(number)
        tempo = 80 + number % 9 * 5
        log(step, tempo, clean=number % 3 > 0, days_ago=number % 11)

    def correct(self, number: int) -> None:
        attempt = self.chosen(Attempt.objects.all(), number)
        if attempt:
            attempt.tempo = 80 + number % 9 * 5
            tries.correct_attempt(attempt)

    def forget(self, number: int) -> None:
        attempt = self.chosen(Attempt.objects.all(), number)
        if attempt:
            tries.delete_attempt(attempt)

    def change_target(self, number: int) -> None:
        doors.change_plan(self.plan(number), {"target": 90 + number % 60}, TODAY)

    def change_gate(self, number: int) -> None:
        kind = ("row", "tries", "days")[number % 3]
        doors.change_plan(self.plan(number), {"gate_kind": kind}, TODAY)

    def edit_bar(self, number: int) -> None:
        rows = list(self.piece.bars.all())
        bars = [row.bar for row in rows]
        place = number % len(bars)
        new = read_chart(f"bar {bars[place].number}\n{BARS[number % len(BARS)]}").bars[0]
        bars[place] = bars[place].in_notes(hits=new.hits)
        save_piece(self.piece, self.chart(bars), [row.pk for row in rows])

    def take_out_bar(self, number: int) -> None:
        rows = list(self.piece.bars.all())
        if len(rows) > 2:
            rows.pop(number % len(rows))
            save_piece(self.piece, self.chart([row.bar for row in rows]), [r.pk for r in rows])

    def type_anew(self, number: int) -> None:
        save_piece(self.piece, read_chart(FOUR, title="Quay"))

    def flip(self, number: int) -> None:
        rows = list(self.piece.bars.all())
        place = number % len(rows)
        hands = [hit for hit in rows[place].bar.hits if not hit.drum.by_foot]
        if hands:
            hit = hands[number % len(hands)]
            flip_hand(self.piece, place, f"{hit.at} {hit.drum.value}")

    def chart(self, bars):
        return Chart(self.piece.title, tuple(bars))

    def leave_out(self, number: int) -> None:
        doors.set_dropped(self.step(number), dropped=number % 2 == 0)

    def set_own_target(self, number: int) -> None:
        doors.change_step(self.step(number), {"target": 85 + number % 20})

    def revise(self, number: int) -> None:
        school = (None, *School)[number % 4]
        doors.revise(self.plan(number), TODAY, school)

    def rename(self, number: int) -> None:
        change_student(self.students[number % 2], {"name": f"Bo {number}"})

    def set_exam(self, number: int) -> None:
        exam = TODAY + timedelta(days=number % 200)
        change_student(self.students[number % 2], {"exam_date": exam})


DOINGS = (
    *[Studio.log] * 3, Studio.correct, Studio.forget, Studio.change_target, Studio.change_gate,
    Studio.edit_bar, Studio.take_out_bar, Studio.type_anew, Studio.flip, Studio.leave_out,
    Studio.set_own_target, Studio.revise, Studio.rename, Studio.set_exam,
)  # fmt: skip


def kept() -> dict:
    """Every standing there is, by plan and by step."""
    plans = {
        one.plan_id: tuple(getattr(one, name) for name in OF_A_PLAN)
        for one in PlanStanding.objects.select_related("held_by")
    }
    steps = {
        one.step_id: tuple(getattr(one, name) for name in OF_A_STEP)
        for one in StepStanding.objects.all()
    }
    return {"plans": plans, "steps": steps}


def rebuilt() -> dict:
    """The same from the facts alone."""
    PlanStanding.objects.all().delete()
    StepStanding.objects.all().delete()
    for plan in Plan.objects.order_by("pk"):
        refresh(plan)
    return kept()


class Rebuilt(TestCase):
    @settings(
        max_examples=12,
        deadline=None,
        derandomize=True,
        phases=(Phase.generate,),
        suppress_health_check=list(HealthCheck),
    )
    @given(st.lists(st.tuples(st.sampled_from(DOINGS), number), min_size=1, max_size=8))
    def test_what_is_kept_is_what_the_facts_give(self, doings):
        studio = Studio()
        for doing, chosen in doings:
            doing(studio, chosen)
            before = kept()
            self.assertEqual(before, rebuilt(), doing.__name__)
        self.client.force_login(studio.teacher)
        for page in self.pages(studio):
            self.assertEqual(self.client.get(page).status_code, 200, page)

    def pages(self, studio: Studio):
        yield reverse("desk")
        yield Piece.objects.get().get_absolute_url()
        for plan in Plan.objects.filter(student__isnull=False):
            yield plan.get_absolute_url()
            for name in ("plan-steps", "progress"):
                yield reverse(name, args=[plan.pk])
            student = plan.student
            open_link(student)
            yield path_of(student)
            yield student.get_absolute_url()
            yield reverse("week", args=[student.pk])
            yield reverse("lesson-mode", args=[student.pk])
