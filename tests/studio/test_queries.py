"""No page asks or reads more of the database where a studio has more students."""

from collections import Counter
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import date, time, timedelta
from unittest.mock import patch

from django.db import connection
from django.db.models.sql.compiler import SQLCompiler
from django.test.utils import CaptureQueriesContext
from django.utils import timezone
from parameterized import parameterized

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from tests.studio.test_odd_numbers import PART, addresses
from wren_ladder.studio.lessons.models import CalendarAddress, Lesson
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.students.links import open_link
from wren_ladder.studio.students.models import Student

SLACK = 2  # queries that a page may ask more, for what is kept at its first showing


class EveryAddress(StudioTest):
    """Asked in two halves."""

    tests_apart = True
    half = 0

    def setUp(self):
        super().setUp()
        self.calendar = CalendarAddress.objects.create(owner=self.teacher).key

    def known_addresses(self) -> Iterator[tuple[str, str]]:
        """(route, address) for each there is, of the first student and of what is theirs."""
        student = Student.objects.order_by("pk").first()
        plan = student.plans.first()
        numbers = {
            "students": student.pk,
            "plans": plan.pk,
            "steps": plan.steps.first().pk,
            "lessons": student.lessons.first().pk,
            "pieces": plan.piece_id,
        }
        known = {"signed": student.link_key, "key": str(self.calendar)}
        for route in sorted(set(addresses()))[self.half :: 2]:
            pk = numbers.get(route.split("/")[1], 1)
            yield route, PART.sub(lambda part, pk=pk: str(known.get(part[2], pk)), route)


class Growth(EveryAddress):
    def setUp(self):
        super().setUp()
        self.pieces = [make_piece(self.teacher, title=f"Piece {one}") for one in (1, 2)]

    def add_students(self, first: int, last: int) -> None:
        for number in range(first, last):
            student = make_student(
                self.teacher,
                f"Student {number}",
                lesson_day=timezone.localdate().weekday(),  # all of them on the Desk
                lesson_time=time(15),
                exam_date=date(2031, 3, 1),
            )
            for piece in self.pieces:
                log(make_plan(piece, student).steps.first(), 90)
            Lesson.objects.create(student=student, day=date(2026, 11, 1))

    def asked(self) -> dict[str, int]:
        """How many queries each address takes, of those that show a page."""
        found = {}
        for route, address in self.known_addresses():
            with CaptureQueriesContext(connection) as asked:
                answer = self.client.get(address)
            if answer.status_code == 200:
                list(answer)  # of downloads what is asked while they are sent
                found[route] = len(asked)
        return found

    @parameterized.expand([(0,), (1,)])
    def test_nine_students_ask_as_much_as_two(self, half):
        self.half = half
        self.add_students(0, 2)
        open_link(Student.objects.first())
        few = self.asked()
        self.assertGreater(len(few), 30)
        self.add_students(2, 9)
        many = self.asked()
        grown = {route: (few[route], many[route]) for route in few if route in many}
        grown = {route: (a, b) for route, (a, b) in grown.items() if b > a + SLACK}
        self.assertEqual(grown, {})


@contextmanager
def rows_counted():
    """The rows that were read meanwhile, by the model that was asked for."""
    counted: Counter[str] = Counter()
    results_iter = SQLCompiler.results_iter

    def counting(compiler, *arguments, **named):
        for row in results_iter(compiler, *arguments, **named):
            counted[compiler.query.model.__name__] += 1
            yield row

    with patch.object(SQLCompiler, "results_iter", counting):
        yield counted


class RowsRead(EveryAddress):
    """Two studios, one ten times the other: what is taught today, and a student's own page,
    read no bar and no try of the others."""

    def add_students(self, first: int, last: int) -> None:
        """Each with a piece and tries of their own, and all but the first on another day."""
        today = timezone.localdate()
        for number in range(first, last):
            student = make_student(
                self.teacher,
                f"Student {number:02}",
                lesson_day=(today.weekday() + (1 if number else 0)) % 7,
                lesson_time=time(15),
                exam_date=date(2031, 3, 1),
            )
            piece = make_piece(self.teacher, title=f"Piece {number:02}")
            step = make_plan(piece, student).steps.first()
            for tempo in (90, 90, 95):
                log(step, tempo, days_ago=3)
            Lesson.objects.create(student=student, day=today - timedelta(days=20))

    def read(self) -> dict[str, dict[str, int]]:
        """Rows of bars and of tries by address; a download of everything reads everything."""
        found = {}
        for route, address in self.known_addresses():
            self.client.get(address)  # what is kept at its first showing is kept
            with rows_counted() as rows:
                answer = self.client.get(address)
                if answer.status_code == 200 and "Content-Disposition" not in answer.headers:
                    found[route] = {name: rows[name] for name in ("BarRow", "Attempt")}
        return found

    @parameterized.expand([(0,), (1,)])
    def test_ten_times_the_studio_reads_no_more_bars_and_no_more_tries(self, half):
        self.half = half
        self.add_students(0, 2)
        open_link(Student.objects.first())
        few = self.read()
        self.assertGreater(len(few), 25)
        self.assertTrue(any(rows["BarRow"] for rows in few.values()))
        self.assertTrue(any(rows["Attempt"] for rows in few.values()))
        self.add_students(2, 20)
        many = self.read()
        grown = {
            (route, name): (few[route][name], many[route][name])
            for route in few
            for name in few[route]
            if many[route][name] > few[route][name]
        }
        # The list of pieces shows the first bar of each, behind a pick-up the second.
        _, bars = grown.pop(("/pieces/", "BarRow"), (0, 0))
        self.assertLessEqual(bars, 2 * Piece.objects.count())
        self.assertEqual(grown, {})
