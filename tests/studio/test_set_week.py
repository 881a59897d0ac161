"""What is set is the week: on the lesson, the page of the week, paper, phone and report alike;
what is practised at home is marked on it and changes nothing."""

import io
import json
from datetime import date, timedelta
from uuid import uuid4

import lxml.html
from django.urls import reverse
from pypdf import PdfReader

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student, set_lines
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.students.links import open_link, path_of

TODAY = date.today()


class SetWeekTest(StudioTest):
    def setUp(self):
        super().setUp()
        self.student = make_student(self.teacher, "Ines", home_days=6, home_minutes=12)
        self.plan = make_plan(make_piece(self.teacher), self.student)
        self.other = make_plan(make_piece(self.teacher, title="Mole"), self.student)
        open_link(self.student)
        self.bar = self.plan.steps.get(name="Bar 4")
        self.mole = self.other.steps.get(name="Bar 1")

    def keep(self, *lines, **fields):
        sent = {**set_lines(*lines), **fields}
        self.client.post(reverse("lesson-end", args=[self.student.pk]), sent)
        return Lesson.objects.get()

    def usual(self):
        return self.keep(
            {"step": self.bar.pk, "tempo": 95, "minutes": 5, "ORDER": 2},
            {"step": self.mole.pk, "tempo": 88, "minutes": 4, "ORDER": 1},
            {"name": "listen to the recording", "minutes": 0, "ORDER": 3},
            message="Count aloud!",
            for_parents="Ten quiet minutes.",
            note="Tired today.",
        )

    def get(self, name, *args):
        return self.client.get(reverse(name, args=args or [self.student.pk]))

    def phone(self):
        return self.client.get(path_of(self.student))

    def paper(self, name):
        pages = PdfReader(io.BytesIO(self.get(name).content)).pages
        return " ".join(" ".join(page.extract_text() for page in pages).split())

    def lines_on(self, page) -> list[str]:
        tree = lxml.html.document_fromstring(page.content)
        found = tree.xpath("(//ol[@class='set-lines'])[1]/li")
        return [" ".join(line.text_content().split()).split(" played")[0] for line in found]


class Everywhere(SetWeekTest):
    LINES = ("Bar 1 Mole at 88, 4 min", "Bar 4 Quay at 95, 5 min", "listen to the recording")

    def test_the_lines_are_the_same_on_every_page_and_on_paper_in_the_teachers_order(self):
        lesson = self.usual()
        for page in (self.get("lesson", lesson.pk), self.get("week"), self.phone()):
            self.assertEqual(tuple(self.lines_on(page)), self.LINES)
        for name in ("week-sheet", "report"):
            paper = self.paper(name)
            places = [paper.find(line) for line in self.LINES]
            self.assertNotIn(-1, places, (name, paper[:900]))
            self.assertEqual(places, sorted(places))

    def test_who_reads_what(self):
        self.usual()
        lesson = Lesson.objects.get()
        said = {"Count aloud!", "Ten quiet minutes.", "Tired today."}
        for reads, text in (
            (said, self.get("lesson", lesson.pk).content.decode()),
            ({"Count aloud!"}, self.phone().content.decode()),
            ({"Count aloud!", "Ten quiet minutes."}, self.paper("week-sheet")),
            ({"Ten quiet minutes."}, self.paper("report")),
        ):
            self.assertEqual({one for one in said if one in text}, reads)

    def test_what_is_practised_at_home_is_marked_and_changes_nothing(self):
        self.usual()
        before = self.get("week").context["week"]
        entry = {"key": str(uuid4()), "step": self.mole.pk, "tempo": 90, "passes": 8}
        self.client.post(
            f"{path_of(self.student)}entries/",
            json.dumps([{**entry, "note": "", "clean_try": "yes"}]),
            "application/json",
        )
        log(self.bar, 120)  # at its target even
        week = self.get("week").context["week"]
        self.assertEqual(week.days, before.days)
        self.assertEqual([one.line for one in week.lines], [one.line for one in before.lines])
        self.assertEqual([one.played for one in week.lines], [(TODAY,), (TODAY,), ()])
        self.assertContains(self.get("lesson", Lesson.objects.get().pk), "played")
        self.assertContains(self.phone(), '<span class="small moss">played</span>')
        self.assertEqual(tuple(self.lines_on(self.phone())), self.LINES)

    def test_other_minutes_and_another_tempo_do_not_change_what_was_set(self):
        self.usual()
        before = self.get("week").context["week"].days
        address = reverse("student-edit", args=[self.student.pk])
        sent = {**self.opened(address, "home_minutes"), "home_minutes": 30, "home_days": 2}
        self.client.post(address, sent)
        self.assertEqual(self.get("week").context["week"].days, before)

    def test_the_week_begins_again_until_the_next_lesson(self):
        lesson = self.usual()
        Lesson.objects.update(day=TODAY - timedelta(days=9))
        week = self.get("week").context["week"]
        self.assertEqual(week.lesson, lesson)
        self.assertEqual(week.days[0].day, TODAY - timedelta(days=2))

    def test_the_phone_opens_on_today_with_every_lines_piece_and_minutes(self):
        self.usual()
        page = self.phone()
        tree = lxml.html.document_fromstring(page.content)
        today = [
            (one.name, one.title, one.tempo, one.minutes) for one in page.context["things"]
        ]
        self.assertEqual(
            today,
            [("warm up your hands", "", None, 2), ("Bar 1", "Mole", 88, 4),
             ("Bar 4", "Quay", 95, 5), ("listen to the recording", "", None, 0)],
        )  # fmt: skip
        shown = tree.xpath("//section[contains(@class, 'lesson-card')][not(@hidden)]/h2")
        self.assertEqual(len(shown), 1)
        words = tree.xpath("//main")[0].text_content()
        for trade in ("slowest step", "trouble bar", "rung", "run-through", "revisit"):
            self.assertNotIn(trade, words)
        things = [*page.context["things"], *page.context["later"]]
        steps = [thing.card.step for thing in things if thing.card]
        self.assertEqual(steps, [self.mole, self.bar])

    def test_minutes_are_the_students_however_many_pieces(self):
        make_plan(make_piece(self.teacher, title="Pier"), self.student)
        for day in self.get("week").context["week"].days:
            self.assertLessEqual(day.minutes, 12)


class EndOfTheLesson(SetWeekTest):
    def end(self):
        return self.get("lesson-end")

    def test_what_was_worked_on_comes_first_and_what_fits_a_day_is_set(self):
        self.student.home_minutes = 13  # three things of four minutes
        self.student.save()
        for title in ("Pier", "Buoy", "Rope", "Tide", "Sail", "Helm"):
            make_plan(make_piece(self.teacher, title=title), self.student)
        log(self.bar, 90)
        page = self.end()
        rows = [row for row in page.context["rows"] if not row.is_free]
        self.assertEqual((rows[0].said, rows[0].piece), ("Bar 4", "Quay"))
        used = [bool(row["use"].value()) for row in rows[:6]]
        self.assertEqual(used, [True] * 3 + [False] * 3)
        self.assertGreater(len(rows), 10)  # something else
        self.assertEqual(page.context["minutes"], 3 * 4)

    def test_what_was_set_comes_back_in_its_order_to_be_changed(self):
        self.usual()
        rows = [row for row in self.end().context["rows"] if row["use"].value()]
        names = [row["name"].value() or "" for row in rows]
        self.assertEqual(names[:3], ["Bar 1", "Bar 4", "listen to the recording"])
        self.assertEqual(rows[0]["tempo"].value(), 88)
        address = reverse("lesson-set", args=[Lesson.objects.get().pk])
        sent = self.opened(address, "message")
        self.client.post(address, sent)
        names = [one["name"] for one in Lesson.objects.get().was_set]
        self.assertEqual(names, ["Bar 1", "Bar 4", "listen to the recording"])

    def test_more_than_the_week_holds_is_told(self):
        lines = [{"name": f"play {n}", "minutes": 12} for n in range(9)]
        sent = set_lines(*lines)
        address = reverse("lesson-end", args=[self.student.pk])
        page = self.client.post(address, sent, follow=True)
        self.assertContains(page, "The week has no minutes left for play")

    def test_a_lesson_of_another_day_is_written_up_for_that_day(self):
        log(self.bar, 90, days_ago=2)
        lesson = Lesson.objects.create(
            student=self.student, day=TODAY - timedelta(days=2), state="planned"
        )
        address = reverse("lesson-set", args=[lesson.pk])
        page = self.client.get(address)
        self.assertContains(page, "Bar 4 of Quay: 90 earned")
        self.client.post(address, self.opened(address, "message"))
        self.assertEqual(self.fresh(lesson).state, "given")


class AtHome(SetWeekTest):
    def log_at_home(self, student):
        step = self.mole
        entry = {"key": str(uuid4()), "step": step.pk, "tempo": 90, "passes": 8, "note": ""}
        return self.client.post(
            f"{path_of(student)}entries/",
            json.dumps([{**entry, "clean_try": "yes"}]),
            "application/json",
        ).json()["steps"][str(step.pk)]

    def test_a_childs_did_it_shows_and_the_lesson_earns_unless_the_teacher_says_otherwise(self):
        type(self.student).objects.update(home_earns=False)
        now = self.log_at_home(self.student)
        self.assertEqual((now["held"], now["last"]["said"]), (
            None, "90 clean: kept, your teacher sees it",
        ))  # fmt: skip
        page = self.client.get(reverse("progress", args=[self.other.pk]))
        self.assertContains(page, "at home")
        log(self.mole, 90)
        self.assertEqual(self.fresh(self.mole).standing.held, 90)
        address = reverse("student-edit", args=[self.student.pk])
        sent = {**self.opened(address, "home_minutes"), "home_earns": "on"}
        self.client.post(address, sent)
        self.log_at_home(self.fresh(self.student))
        self.assertEqual(self.fresh(self.mole).standing.last_day, TODAY)

    def test_where_home_earns_it_follows_at_once_and_back(self):
        self.assertEqual(self.log_at_home(self.student)["held"], 90)
        address = reverse("student-edit", args=[self.student.pk])
        sent = self.opened(address, "home_minutes")
        sent.pop("home_earns")
        self.client.post(address, sent)
        self.assertIsNone(self.fresh(self.mole).standing.held)
        self.assertEqual(self.fresh(self.mole).standing.last_day, TODAY)  # it was practised

    def test_a_new_student_has_it_so_that_the_lesson_earns(self):
        address = reverse("student-new")
        sent = {**self.opened(address, "grade"), "name": "Bo"}
        self.client.post(address, sent)
        self.assertFalse(self.teacher.students.get(name="Bo").home_earns)
