"""Whatever people do, in any order: what is stored and shown is what the facts alone give.

A dice walks through every door, in an order of its own. After each step every
standing is thrown away, worked out anew, and compared with what was kept; at the end every page
is read before and after, the caches emptied between, and no word that a teacher wrote may be
gone.
"""

import re
from datetime import date, timedelta
from random import Random

from django.template.loader import render_to_string
from django.test import TestCase
from django.urls import reverse

from tests.studio.base import log, make_piece, make_student, make_teacher, set_lines
from wren_ladder.drumming.chart import Chart
from wren_ladder.drumming.editing.bars import delete, move, paste
from wren_ladder.drumming.hands.schools import Sticking
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.rudiments.drills import inversion_drills
from wren_ladder.drumming.style import School
from wren_ladder.studio.changes import attempts as tries
from wren_ladder.studio.changes import plans as doors
from wren_ladder.studio.changes.exercises import send_drill
from wren_ladder.studio.changes.pieces import flip_hand, save_draft, save_piece
from wren_ladder.studio.changes.students import change_student
from wren_ladder.studio.changes.styles import change_style, reset_style
from wren_ladder.studio.climb.models import (
    Attempt,
    HomeMinutes,
    OpenSteps,
    PlanStanding,
    StepStanding,
)
from wren_ladder.studio.climb.standings import refresh
from wren_ladder.studio.exchange.studio_file import read_studio_file, restore, studio_lines
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.pages.plans.sheet import sheet_context
from wren_ladder.studio.pieces import drafts, studies
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan, Step, StudentBar
from wren_ladder.studio.students.links import open_link, path_of
from wren_ladder.studio.students.models import Student

TODAY = date.today()
DRILLS = inversion_drills()
BARS = (
    "hat 8ths\nsnare 2 4\nkick 1 3",
    "snare flam 1 2, 3* 4",
    "floor triplets",
    "kick 1 2 3 4",
)
FOUR = "tempo crotchet = 120\n" + "\n".join(f"bar {n}\n{bar}" for n, bar in enumerate(BARS, 1))
OF_A_PLAN = ("ready", "slowest", "waiting", "held_by", "last_day", "forecast", "gain")
OF_A_STEP = ("held", "next_tempo", "reason", "falling", "last_day", "rungs_held")


class Studio:
    """A studio, and what a teacher may do in it; ``number`` chooses among what is there.

    ``words`` is what the teacher wrote and has not deleted, by where it was written.
    """

    def __init__(self, client) -> None:
        self.client = client
        self.teacher = make_teacher()
        client.force_login(self.teacher)
        self.words: dict[str, str] = {}
        piece = make_piece(self.teacher, FOUR)
        Piece.objects.filter(pk=piece.pk).update(notes="The quay at low tide.")
        for name in ("Ines", "Kofi"):
            student = make_student(self.teacher, name, grade=2, notes=f"{name} counts aloud.")
            doors.give(self.new_plan(), student)

    @property
    def piece(self) -> Piece:
        return Piece.objects.get(kind="piece")

    def new_plan(self) -> Plan:
        return Plan(owner=self.teacher, piece=self.piece, start=80, target=120)

    def chosen(self, rows, number: int):
        every = list(rows.order_by("pk"))
        return every[number % len(every)] if every else None

    def student(self, number: int) -> Student:
        return self.chosen(Student.objects.all(), number)

    def plan(self, number: int) -> Plan:
        return self.chosen(Plan.objects.filter(student__isnull=False), number)

    def step(self, number: int) -> Step:
        return self.chosen(Step.objects.filter(plan=self.plan(number)), number // 7)

    def log(self, number: int) -> None:
        step = self.step(number)
        if step is None:
            return
        attempt = log(step, 80 + number % 9 * 5, number % 3 > 0, days_ago=number % 11)
        Attempt.objects.filter(pk=attempt.pk).update(note=f"said at {number}")

    def correct(self, number: int) -> None:
        attempt = self.chosen(Attempt.objects.all(), number)
        if attempt:
            attempt.tempo = 80 + number % 9 * 5
            tries.correct_attempt(attempt)

    def forget(self, number: int) -> None:
        attempt = self.chosen(Attempt.objects.all(), number)
        if attempt:
            tries.delete_attempt(attempt)

    def practise_at_home(self, number: int) -> None:
        day = TODAY - timedelta(days=number % 11)
        student = self.student(number)
        HomeMinutes.objects.create(student=student, day=day, minutes=1 + number % 40, note="ok")

    def keep_a_lesson(self, number: int) -> None:
        address = reverse("lesson-end", args=[self.student(number).pk])
        page = self.client.get(address)
        lines = [
            {"step": row["step"].value(), "tempo": row["tempo"].value()}
            for row in page.context["rows"]
            if row["use"].value() and not row.is_free
        ]
        note = f"the lesson of {number}"
        self.client.post(address, {**set_lines(*lines), "note": note})
        assert Lesson.objects.filter(note=note).exists()

    def change_target(self, number: int) -> None:
        doors.change_plan(self.plan(number), {"target": 90 + number % 60})

    def change_gate(self, number: int) -> None:
        kind = ("row", "tries", "days")[number % 3]
        doors.change_plan(self.plan(number), {"gate_kind": kind, "tolerance": 2})

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

    def edit_and_undo(self, number: int) -> None:
        """In a draft: bars moved, doubled, deleted, some of it undone, saved."""
        draft = drafts.draft_of(self.teacher, self.piece)
        for turn in range(3):
            bars = drafts.bars_of(draft)
            place = (number // 5 + turn) % len(bars)
            edits = [
                lambda bars=bars, place=place: paste(bars, place, bars[place : place + 1]),
                lambda bars=bars, place=place: move(bars, place, place, 1),
                lambda bars=bars, place=place: delete(bars, place, place),
            ]
            if len(bars) > 3 or (number + turn) % 3 != 2:
                drafts.change(draft, bars, edits[(number + turn) % 3](), f"turn {turn}")
        for _ in range(number % 4):
            drafts.undo(draft)
        if number % 2:
            drafts.redo(draft)
        save_draft(draft, "Quay", None, self.piece.notes)

    def flip(self, number: int) -> None:
        rows = list(self.piece.bars.all())
        place = number % len(rows)
        hands = [hit for hit in rows[place].bar.hits if not hit.drum.by_foot]
        if hands:
            hit = hands[number % len(hands)]
            flip_hand(self.piece, place, f"{hit.at} {hit.drum.value}")

    def chart(self, bars):
        return Chart(self.piece.title, tuple(bars))

    def write_own_bar(self, number: int) -> None:
        plan = self.chosen(self.piece.plans.filter(student__isnull=False), number)
        rows = list(plan.piece.bars.all())
        place = number % len(rows)
        own = read_chart(f"bar 1\n{BARS[number // 3 % len(BARS)]}").bars[0]
        doors.write_own_bar(plan, place, rows[place].bar.in_notes(hits=own.hits))

    def forget_own_bar(self, number: int) -> None:
        own = self.chosen(StudentBar.objects.all(), number)
        if own:
            plan = Plan.objects.get(student=own.student, piece=own.bar.piece)
            doors.forget_own_bar(plan, own.bar.position)

    def leave_out(self, number: int) -> None:
        step = self.step(number)
        if step:
            doors.set_dropped(step, dropped=number % 2 == 0)

    def set_by_hand(self, number: int) -> None:
        step = self.step(number)
        if step:
            why = f"because of {number}"
            doors.change_step(step, {"target": 85 + number % 20, "why": why})

    def revise(self, number: int) -> None:
        school = (None, *School)[number % 4]
        doors.revise(self.plan(number), TODAY, school)

    def break_down_model(self, number: int) -> None:
        doors.model_plan(self.piece, self.teacher)

    def add_step(self, number: int) -> None:
        plan = self.plan(number)
        rows = list(plan.piece.bars.all())
        first, last = sorted((number % len(rows), number // 3 % len(rows)))
        doors.add_step(plan, rows[first], rows[last], why=f"added for {number}")

    def move_step(self, number: int) -> None:
        step = self.step(number)
        if step:
            doors.move_step(step, 1 if number % 2 else -1)

    def split_step(self, number: int) -> None:
        self.reshape(doors.split_step, number)

    def join_steps(self, number: int) -> None:
        self.reshape(doors.join_with_next, number)

    def reshape(self, door, number: int) -> None:
        """Some steps have no smaller parts, or nothing that follows: the next one is tried."""
        steps = list(self.plan(number).steps.filter(dropped=False))
        for step in (*steps[number % 7 :], *steps):
            try:
                door(step)
            except ValueError:
                continue
            return

    def send_a_drill(self, number: int) -> None:
        drill = DRILLS[number % len(DRILLS)]
        send_drill(drill, self.student(number), 80 + number % 40)

    def rename(self, number: int) -> None:
        change_student(self.student(number), {"name": f"Bo {number}"}, TODAY)

    def set_exam(self, number: int) -> None:
        exam = TODAY + timedelta(days=number % 200)
        change_student(self.student(number), {"exam_date": exam}, TODAY)

    def change_hands(self, number: int) -> None:
        fields = {"lead": "LR"[number % 2], "open_handed": number % 3 == 0}
        change_student(self.student(number), fields, TODAY)

    def change_style(self, number: int) -> None:
        if number % 4 == 0:
            reset_style(self.teacher)
            return
        sticking = list(Sticking)[number % len(Sticking)]
        choices = {"sticking": sticking, "repeats_after_jump": number % 2 == 0}
        kept = {"choices": choices, "words": [], "weights": {}, "syllabus": {}}
        change_style(self.teacher, kept)

    def delete_plan(self, number: int) -> None:
        """And give it to the same student anew."""
        plan = self.chosen(self.piece.plans.filter(student__isnull=False), number)
        student = plan.student
        plan.delete()
        doors.give(self.new_plan(), student)

    def delete_student(self, number: int) -> None:
        self.student(number).delete()
        name = f"After {number}"
        student = make_student(self.teacher, name, grade=3, notes=f"{name} counts aloud.")
        doors.give(self.new_plan(), student)

    def take_out_and_in(self, number: int) -> None:
        """The whole studio as a file, and back in place of itself."""
        data = "".join(studio_lines(self.teacher)).encode()
        restore(read_studio_file(data), self.teacher)


DOINGS = (
    *[Studio.log] * 6, Studio.correct, Studio.forget, Studio.practise_at_home,
    Studio.keep_a_lesson, Studio.change_target, Studio.change_gate, Studio.edit_bar,
    Studio.take_out_bar, Studio.type_anew, Studio.edit_and_undo, Studio.flip,
    Studio.write_own_bar, Studio.forget_own_bar, Studio.leave_out, Studio.set_by_hand,
    Studio.revise, Studio.rename, Studio.set_exam, Studio.change_hands, Studio.change_style,
    Studio.break_down_model, Studio.add_step, Studio.move_step, Studio.split_step,
    Studio.join_steps, Studio.send_a_drill, Studio.delete_plan, Studio.delete_student,
    Studio.take_out_and_in,
)  # fmt: skip
# What a doing may take away, by the words' table; all others keep every word there is.
TAKES_AWAY = {
    "forget": {"attempt"},
    "revise": {"step"},
    "delete_plan": {"attempt", "step"},
    "delete_student": {"attempt", "step", "student", "lesson", "minutes"},
}


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
    opened = {
        plan: [[tuple(row) for row in rows] for rows in both]
        for plan, *both in OpenSteps.objects.values_list("plan", "steps", "parts")
    }
    return {"plans": plans, "steps": steps, "opened": opened}


def rebuilt() -> dict:
    """The same from the facts alone."""
    for model in (PlanStanding, StepStanding, OpenSteps):
        model.objects.all().delete()
    for plan in Plan.objects.order_by("pk"):
        refresh(plan)
    return kept()


def written() -> dict[str, set[str]]:
    """Every word that the teacher wrote, by where it stands."""
    return {
        "attempt": set(Attempt.objects.exclude(note="").values_list("note", flat=True)),
        "lesson": set(Lesson.objects.exclude(note="").values_list("note", flat=True)),
        "minutes": set(HomeMinutes.objects.exclude(note="").values_list("note", flat=True)),
        "piece": set(Piece.objects.exclude(notes="").values_list("notes", flat=True)),
        "step": set(Step.objects.filter(by_hand=True).values_list("why", flat=True)),
        "student": set(Student.objects.values_list("notes", flat=True)),
    }


class Rebuilt(TestCase):
    """Six walks, each with a dice of its own."""

    tests_apart = True

    def test_the_first_walk(self):
        self.walk(1)

    def test_the_second_walk(self):
        self.walk(2)

    def test_the_third_walk(self):
        self.walk(3)

    def test_the_fourth_walk(self):
        self.walk(4)

    def test_the_fifth_walk(self):
        self.walk(5)

    def test_the_sixth_walk(self):
        self.walk(6)

    def walk(self, seed: int) -> None:
        """Through every door: what is kept and shown is what the facts give."""
        dice = Random(seed)
        doings = dice.sample(DOINGS, len(DOINGS))
        studio = Studio(self.client)
        for doing in doings:
            chosen = dice.randrange(10**6)
            words = written()
            doing(studio, chosen)
            name = doing.__name__
            before = kept()
            self.assertEqual(before, rebuilt(), name)
            for table, said in words.items():
                if table not in TAKES_AWAY.get(name, ()) and not _says_anew(name, table):
                    self.assertLessEqual(said, written()[table], name)
        self.client.get(reverse("desk"))  # what has been done is told once
        before = self.shown()
        for remembered in (studies._study, studies._wall):
            remembered.cache_clear()
        rebuilt()
        for page, text in self.shown().items():
            self.assertEqual(text, before[page], page)

    def shown(self) -> dict[str, str]:
        """Every page that shows figures, as it is now; keys that each showing makes anew and
        what stands in the database under a number of its own are left out."""
        found = {}
        for page, address in self.pages():
            answer = self.client.get(address)
            self.assertEqual(answer.status_code, 200, page)
            found[page] = _without_keys(answer.content.decode())
        for plan in Plan.objects.select_related("student"):
            context = sheet_context(plan, set(), TODAY)
            found[f"sheet {plan.pk}"] = render_to_string("plans/sheet.html", context)
        return found

    def pages(self):
        """(what it is, its address)."""
        yield "desk", reverse("desk")
        yield "piece", Piece.objects.first().get_absolute_url()
        for plan in Plan.objects.filter(student__isnull=False):
            yield f"ladder {plan.pk}", plan.get_absolute_url()
            for name in ("plan-steps", "progress", "plan-compare"):
                yield f"{name} {plan.pk}", reverse(name, args=[plan.pk])
            student = plan.student
            if not student.link_key:
                open_link(student)
            yield f"link {plan.pk}", path_of(student)
            yield f"student {plan.pk}", f"{student.get_absolute_url()}?lessons=all"
            for name in ("week", "lesson-mode", "lesson-end"):
                yield f"{name} {plan.pk}", reverse(name, args=[student.pk])


def _says_anew(doing: str, table: str) -> bool:
    """Does the teacher write over words of their own there?"""
    return (doing, table) in (("set_by_hand", "step"), ("keep_a_lesson", "lesson"))


def _without_keys(page: str) -> str:
    """Without the keys that each showing makes up."""
    return re.sub(
        r"/s/[^/\"]+|[0-9A-Za-z]{64}|[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}", "", page
    )
