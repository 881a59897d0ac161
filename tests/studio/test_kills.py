"""The studio is killed in the middle of a write, five hundred times, in every door that writes.

A child of this process does the writing and kills itself (SIGKILL) before a statement chosen by
a seeded dice. What is there after that is what was before, or all of what was asked; what was
acknowledged is there.
"""

import os
import random
import shutil
import signal
import sqlite3
import tempfile
from collections.abc import Callable
from contextlib import closing
from datetime import date
from pathlib import Path
from uuid import uuid4

from django.db import connection, connections
from django.test import TransactionTestCase

from tests.studio.base import log, make_piece, make_plan, make_student, make_teacher
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.studio.bin.models import Binned
from wren_ladder.studio.changes import attempts, exercises, lessons, pieces, plans, styles
from wren_ladder.studio.changes.bin import put_back, put_in_bin
from wren_ladder.studio.changes.students import change_student
from wren_ladder.studio.climb.models import Attempt, StepStanding
from wren_ladder.studio.climb.standings import catch_up, refresh
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.pages.rudiments.shelf import drill_named
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.students.models import Student

KILLS = 500  # of all doors together
DAY = date(2026, 11, 26)
# Statements that a write is made of; a kill between two that read is like one after the last.
WRITES = ("INSERT", "UPDATE", "DELETE", "SAVEPOINT", "RELEASE", "BEGIN", "COMMIT")
MOST_STATEMENTS = 14  # most doors have written by then


def plan() -> Plan:
    return Plan.objects.filter(student__isnull=False).order_by("pk").first()


def step() -> Step:
    return plan().steps.order_by("position").first()


def student() -> Student:
    return Student.objects.order_by("pk").first()


def log_two() -> None:
    new = [
        Attempt(step=step(), day=DAY, tempo=tempo, was_clean=True, passes=8, key=uuid4())
        for tempo in (90, 95)
    ]
    attempts.log_attempts(new)


def correct() -> None:
    one = Attempt.objects.order_by("pk").first()
    one.tempo = 100
    attempts.correct_attempt(one)


def edit() -> None:
    piece = Piece.objects.order_by("pk").first()
    rows = list(piece.bars.values_list("pk", flat=True))
    chart = read_chart("bar 1\nhat 8ths\nbar 2\nsnare 2 4\n", title=piece.title)
    pieces.save_piece(piece, chart, rows[:2])


def teach_otherwise() -> None:
    styles.change_style(student().owner, {"choices": {"phrase_count": True}})


DOORS: dict[str, Callable[[], object]] = {
    "log two tries": log_two,
    "correct a try": correct,
    "delete a try": lambda: attempts.delete_attempt(Attempt.objects.order_by("pk").first()),
    "a new piece": lambda: pieces.add_piece(
        student().owner, read_chart("hat 8ths", title="New")
    ),
    "bars changed": edit,
    "a target changed": lambda: plans.change_plan(plan(), {"target": 140}),
    "a piece given": lambda: make_plan(
        Piece.objects.order_by("pk").last(), Student.objects.order_by("pk").last()
    ),
    "a step moved": lambda: plans.move_step(step(), 1),
    "a step left out": lambda: plans.set_dropped(step(), True),
    "a plan revised": lambda: plans.revise(plan(), DAY),
    "a drill sent": lambda: exercises.send_drill(drill_named("flam"), student(), 100),
    "a lesson kept": lambda: lessons.keep_lesson(
        Lesson(student=student(), day=DAY, note="Even."), [], ["Bar 1: 90"]
    ),
    "minutes changed": lambda: change_student(student(), {"home_minutes": 40}, DAY),
    "a plan into the bin": lambda: put_in_bin(plan(), plan().owner, "plan", "tries", DAY),
    "a student into the bin": lambda: put_in_bin(student(), student().owner, "x", "y", DAY),
    "out of the bin": lambda: put_back(Binned.objects.get()),
    "the way of teaching": teach_otherwise,
}

TOGETHER = {
    "tries": ("log two tries", "correct a try", "delete a try"),
    "pieces": ("a new piece", "bars changed", "a piece given"),
    "plans": ("a target changed", "a step moved", "a step left out"),
    "what reaches far": ("a plan revised", "the way of teaching", "minutes changed"),
    "lessons and drills": ("a drill sent", "a lesson kept"),
    "the bin": ("a plan into the bin", "a student into the bin", "out of the bin"),
}


class Killer:
    """Counts what is written, and dies before the statement of its number."""

    def __init__(self, at: int) -> None:
        self.left = at

    def __call__(self, execute, sql, params, many, context):
        self.strike(sql)
        return execute(sql, params, many, context)

    def strike(self, sql: str) -> None:
        if sql.lstrip().startswith(WRITES):
            self.left -= 1
            if self.left <= 0:
                os.kill(os.getpid(), signal.SIGKILL)


class Kills(TransactionTestCase):
    tests_apart = True

    def setUp(self):
        teacher = make_teacher()
        pupil = make_student(teacher, "Ines")
        other = make_student(teacher, "Ola")
        first = make_plan(make_piece(teacher), pupil)
        make_piece(teacher, title="Harbour")
        log(first.steps.first(), 90)
        thrown = make_plan(make_piece(teacher, title="Gone"), other)
        put_in_bin(thrown, teacher, "a plan", "its tries", DAY)
        self.database = Path(connection.settings_dict["NAME"])
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.base = Path(folder.name) / "base.sqlite3"
        self.checkpointed()
        shutil.copy(self.database, self.base)
        self.addCleanup(self.as_before)

    def checkpointed(self) -> None:
        with connection.cursor() as cursor:
            cursor.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        connections.close_all()

    def as_before(self) -> None:
        connections.close_all()
        for ending in ("-wal", "-shm"):
            self.database.with_name(self.database.name + ending).unlink(missing_ok=True)
        shutil.copy(self.base, self.database)

    def write(self, door: Callable[[], object], dies_at: int) -> bool:
        """In a child; was it acknowledged?"""
        reading, writing = os.pipe()
        child = os.fork()
        if child == 0:
            try:
                killer, commit = Killer(dies_at), connection._commit
                connection._commit = lambda: (killer.strike("COMMIT"), commit())
                with connection.execute_wrapper(killer):
                    door()
                os.write(writing, b"1")
            finally:
                os._exit(0)
        os.close(writing)
        with os.fdopen(reading, "rb") as said:
            acknowledged = said.read() == b"1"
        os.waitpid(child, 0)
        return acknowledged

    def state(self) -> dict[str, int]:
        """How many rows there are of everything, and the sum of what can be summed: enough to
        tell a half from a whole. Keys of new rows are random, so they are not in it."""
        found = {}
        with closing(sqlite3.connect(self.database)) as opened:
            self.assertEqual(opened.execute("PRAGMA quick_check").fetchall(), [("ok",)])
            self.assertEqual(opened.execute("PRAGMA foreign_key_check").fetchall(), [])
            tables = opened.execute("SELECT name FROM sqlite_master WHERE type = 'table'")
            for (table,) in tables.fetchall():
                if table.startswith(("plans_", "climb_", "pieces_", "students_", "lessons_")):
                    (rows,) = opened.execute(f"SELECT count(*) FROM {table}").fetchone()
                    found[table] = rows
            for sums in (
                "sum(target) FROM plans_plan",
                "sum(dropped), sum(position * id) FROM plans_step",
                "sum(tempo) FROM climb_attempt",
                "sum(home_minutes) FROM students_student",
                "sum(length(data)) FROM pieces_barrow",
                "count(*) FROM teaching_teachingstyle",
                "count(*) FROM bin_binned",
            ):
                found[sums] = opened.execute(f"SELECT {sums}").fetchone()
        return found

    def follows_from_the_log(self) -> None:
        """What is kept of the log is what the log says."""
        telling = ("step_id", "held", "next_tempo", "reason")
        kept = list(StepStanding.objects.order_by("step_id").values_list(*telling))
        for one in Plan.objects.all():
            refresh(one)
        self.assertEqual(
            list(StepStanding.objects.order_by("step_id").values_list(*telling)), kept
        )

    def killed_in(self, together: str, seed: int) -> None:
        """All or nothing, and what was acknowledged is there."""
        doors, dice = TOGETHER[together], random.Random(seed)
        before, after = self.state(), {}
        for name in doors:
            self.as_before()
            self.assertTrue(self.write(DOORS[name], 10_000), name)
            after[name] = self.state()
            self.assertNotEqual(after[name], before, name)
        killed = halves = 0
        kills = KILLS * len(doors) // len(DOORS)
        while killed < kills:
            name = dice.choice(doors)
            dies_at = dice.randint(1, MOST_STATEMENTS)
            self.as_before()
            acknowledged = self.write(DOORS[name], dies_at)
            killed += not acknowledged
            with self.subTest(door=name, dies_at=dies_at):
                catch_up()  # as at the next start
                self.checkpointed()
                found = self.state()
                self.assertIn(found, [after[name]] if acknowledged else [before, after[name]])
                halves += found == before
                if killed % 10 == 0:
                    self.follows_from_the_log()
        self.assertGreater(halves, kills // 5)  # the dice does hit what is asked

    def test_no_door_is_forgotten(self):
        named = [name for doors in TOGETHER.values() for name in doors]
        self.assertEqual(sorted(named), sorted(DOORS))

    def test_in_tries(self):
        self.killed_in("tries", 1)

    def test_in_pieces(self):
        self.killed_in("pieces", 2)

    def test_in_plans(self):
        self.killed_in("plans", 3)

    def test_in_what_reaches_far(self):
        self.killed_in("what reaches far", 4)

    def test_in_lessons_and_drills(self):
        self.killed_in("lessons and drills", 5)

    def test_in_the_bin(self):
        self.killed_in("the bin", 6)
