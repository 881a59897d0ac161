"""A studio file with a wrong value in any field of any table: refused with its row, or taken in
and every page opens. Never a 500, and nothing half-written.
"""

import copy
import os
import re
from datetime import date

from django.db import transaction
from django.urls import reverse

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.drumming.performance import perform
from wren_ladder.drumming.take_sources.heard import Source
from wren_ladder.drumming.take_sources.simulated import play
from wren_ladder.studio.changes.takes import keep_take
from wren_ladder.studio.climb.models import HomeMinutes, Take
from wren_ladder.studio.climb.takes import bars_of
from wren_ladder.studio.exchange.studio_file import StudioFileError, read_studio_file, restore
from wren_ladder.studio.lessons.models import Lesson, Period
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.teaching.models import TakeRule, TeachingStyle, style_of

BAD = (
    "x", "", [1], {"a": 1}, [[1]], -1, 10**30, 1e308, "9999-12-31", "0001-01-01",
    True, "\x00", [None], {"a": {"b": []}}, "99:99", 0.5, [{"step": "x"}], None,
)  # fmt: skip


class Poisoned(StudioTest):
    maxDiff = None

    def setUp(self):
        super().setUp()
        student = make_student(self.teacher, exam_date=date(2027, 5, 1), lesson_day=2)
        plan = make_plan(make_piece(self.teacher), student)
        step = plan.steps.filter(kind=StepKind.BAR).first()
        log(step, 90)
        bars = bars_of(step)
        keep_take(step, Source.KIT, 90, 2, play(perform(bars), bars, 2, 1), date(2026, 3, 1))
        HomeMinutes.objects.create(student=student, day=date(2026, 3, 1), minutes=10)
        line = {"step": step.pk, "name": "Bar 1", "piece": "Quay", "tempo": 90, "minutes": 5}
        lines = [{**line, "on_pad": False}]
        Lesson.objects.create(student=student, day=date(2026, 3, 2), was_set=lines)
        Period.objects.create(owner=self.teacher, first=date(2026, 1, 1), last=date(2026, 2, 1))
        TeachingStyle.objects.create(
            owner=self.teacher,
            choices={"counting": "words", "hand_limit": 7.0, "rung": 4, "phrase_count": True},
            words=[["crotchet", "wren"], ["two quavers", "rob-in"]],
            weights={"new": 2.5, "trap": 1.0},
            syllabus={"triplet": 3},
        )
        TakeRule.objects.create(owner=self.teacher, grade=3, slips=4, spread=20, lean=20)
        answer = self.client.get(reverse("studio-json"))
        self.tables = read_studio_file(b"".join(answer.streaming_content))

    def pages(self) -> list[str]:
        found = ["/", "/pieces/", "/students/", "/teaching/", "/lessons/", "/takes/rules/"]
        found += [one.get_absolute_url() for one in Piece.objects.all()]
        for student in Student.objects.all():
            mine = student.get_absolute_url()
            found += [mine, f"{mine}lesson/", f"{mine}week/"]
        for plan in Plan.objects.filter(student__isnull=False):
            found += [f"/plans/{plan.pk}/{page}" for page in ("", "steps/", "progress/")]
        found += [f"/takes/{take.pk}/" for take in Take.objects.all()]
        return found

    def wrong_after(self, tables: dict) -> str:
        """What breaks where these tables are taken in, "" for nothing."""
        try:
            restore(tables, self.teacher)
        except StudioFileError:
            return ""
        except Exception as error:
            return f"{type(error).__name__}: {error}"[:200]
        for page in self.pages():
            try:
                code = self.client.get(page).status_code
            except Exception as error:
                return f"{page}: {type(error).__name__}: {error}"[:200]
            if code != 200:
                return f"{page}: {code}"
        return ""

    def poisoned(self):
        """(what, tables) for every field of the first row of every table, and for everything
        inside it."""
        for name, rows in self.tables.items():
            if not rows:
                continue
            for way in _ways(rows[0]):
                for bad in BAD:
                    tables = {**self.tables, name: copy.deepcopy(rows)}
                    inside = tables[name][0]
                    for one in way[:-1]:
                        inside = inside[one]
                    inside[way[-1]] = bad
                    yield f"{name}.{'.'.join(map(str, way))} = {bad!r:.30}", tables

    def test_every_choice_of_a_style_and_what_lists_show_of_a_piece(self):
        """All of it, for these were taken in and broke pages later."""
        told = []
        for what, tables in self.poisoned():
            if not what.startswith(("teachingstyle.", "piece.tempo_mark", "piece.seconds")):
                continue
            undo = transaction.savepoint()
            try:
                restore(tables, self.teacher)
                style_of(self.teacher.pk)
                codes = {
                    self.client.get(page).status_code for page in ("/teaching/", "/pieces/")
                }
                told += [what] if codes != {200} else []
            except StudioFileError as error:
                told += [] if ", row 1: " in str(error) else [f"{what}: {error}"]
            transaction.savepoint_rollback(undo)
        self.assertEqual(told, [])

    def test_the_place_and_what_would_be_right_are_named(self):
        style, piece = self.tables["teachingstyle"][0], self.tables["piece"][0]
        for row, wrong, said in (
            (style, {"weights": {"new": "x"}}, "weights: new: a weight is 0 to 10"),
            (style, {"words": [["no such", "wren"]]}, "words: 'no such' is no figure known"),
            (style, {"syllabus": {"triplet": "x"}}, "syllabus: triplet: a grade is 0 to 8"),
            (style, {"choices": {"rung": 0}}, "choices: rung: 1 to 40 is wanted, not 0"),
            (piece, {"tempo_mark": "fast"}, "tempo_mark: 'fast' is not a tempo"),
            (piece, {"seconds": -5}, "seconds: Ensure this value is greater"),
        ):
            name = "piece" if row is piece else "teachingstyle"
            with self.subTest(said):
                tables = {**self.tables, name: [{**row, **wrong}]}
                with self.assertRaisesRegex(
                    StudioFileError, re.escape(f"{name}, row 1: {said}")
                ):
                    restore(tables, self.teacher)

    def test_any_field(self):
        broken = []
        share = int(os.environ.get("WREN_POISON", "23"))  # one in so many; 1 for all of them
        for number, (what, tables) in enumerate(self.poisoned()):
            if number % share:
                continue
            undo = transaction.savepoint()
            said = self.wrong_after(tables)
            transaction.savepoint_rollback(undo)
            if said:
                broken.append(f"{what}: {said}")
        self.assertEqual("\n".join(broken), "")


def _ways(value, before=()):
    """The ways to everything inside a row: of a list only to its first."""
    inside = value.items() if isinstance(value, dict) else enumerate(value[:1])
    for name, one in inside:
        yield (*before, name)
        if isinstance(one, dict | list) and name != "strokes":
            yield from _ways(one, (*before, name))
