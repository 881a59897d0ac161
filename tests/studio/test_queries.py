"""No page asks more of the database where a studio has more students."""

from datetime import date, time

from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from tests.studio.test_odd_numbers import PART, addresses
from wren_ladder.studio.lessons.models import CalendarAddress, Lesson
from wren_ladder.studio.students.links import open_link
from wren_ladder.studio.students.models import Student

SLACK = 2  # queries that a page may ask more, for what is kept at its first showing


class Growth(StudioTest):
    def setUp(self):
        super().setUp()
        self.pieces = [make_piece(self.teacher, title=f"Piece {one}") for one in (1, 2)]
        self.calendar = CalendarAddress.objects.create(owner=self.teacher).key

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
        found = {}
        for route in sorted(set(addresses())):
            pk = numbers.get(route.split("/")[1], 1)
            address = PART.sub(lambda part, pk=pk: str(known.get(part[2], pk)), route)
            with CaptureQueriesContext(connection) as asked:
                answer = self.client.get(address)
            if answer.status_code == 200:
                list(answer)  # of downloads what is asked while they are sent
                found[route] = len(asked)
        return found

    def test_nine_students_ask_as_much_as_two(self):
        self.add_students(0, 2)
        open_link(Student.objects.first())
        few = self.asked()
        self.assertGreater(len(few), 60)
        self.add_students(2, 9)
        many = self.asked()
        grown = {route: (few[route], many[route]) for route in few if route in many}
        grown = {route: (a, b) for route, (a, b) in grown.items() if b > a + SLACK}
        self.assertEqual(grown, {})
