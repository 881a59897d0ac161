"""What a student can play: on a page of their own, to play, to show and to print."""

from datetime import date, timedelta

from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.urls import reverse

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.drumming.take_sources.heard import Heard, Source
from wren_ladder.studio.changes.exercises import send_drill
from wren_ladder.studio.changes.takes import keep_take
from wren_ladder.studio.climb.models import Where
from wren_ladder.studio.pages.rudiments.shelf import drill_named
from wren_ladder.studio.students.links import open_link, path_of

TODAY = date.today()


class HeldPage(StudioTest):
    def setUp(self):
        super().setUp()
        self.student = make_student(self.teacher, "Ines Okafor", records_at_home=True)
        self.plan = make_plan(make_piece(self.teacher), self.student)
        self.bar = self.plan.steps.filter(kind=StepKind.BAR).first()
        open_link(self.student)
        self.address = f"{path_of(self.student)}held/"

    def page(self):
        return self.client.get(self.address)

    def take(self, where, days_ago=0):
        day = TODAY - timedelta(days=days_ago)
        heard = tuple(Heard(n * 0.5, None, None) for n in range(6))
        return keep_take(self.bar, Source.KEYS, 90, 1, heard, day, where)

    def test_nothing_is_held_yet_and_it_says_so(self):
        self.assertContains(self.page(), "Nothing is held yet.")
        self.assertContains(self.page(), "Whole pieces to play along with")

    def test_the_longest_that_is_held_stands_there_at_its_tempo(self):
        log(self.bar, 90)
        held = self.page().context["held"]
        self.assertEqual(
            [(one.name, one.tempo, one.then) for one in held], [("Quay, bar 1", 90, None)]
        )
        whole = self.plan.steps.filter(kind=StepKind.WHOLE).first()
        log(whole, 80)
        self.assertEqual(
            [one.name for one in self.page().context["held"]], ["Quay, whole piece"]
        )
        step = send_drill(drill_named("flam paradiddle"), self.student, 90)
        log(step, 70)
        names = {one.name for one in self.page().context["held"]}
        self.assertEqual(names, {"Quay, whole piece", "flam paradiddle"})

    def test_what_was_held_six_weeks_ago_is_said(self):
        log(self.bar, 90, days_ago=50)
        log(self.bar, 95, days_ago=1)
        self.assertContains(self.page(), "six weeks ago: 90")

    def test_it_asks_as_often_for_many_pieces_as_for_one(self):
        log(self.bar, 90)
        self.page()
        with CaptureQueriesContext(
            connection,
        ) as one:
            self.page()
        for number in range(3):
            plan = make_plan(make_piece(self.teacher, title=f"Quay {number}"), self.student)
            log(plan.steps.filter(kind=StepKind.BAR).first(), 90)
        self.page()
        with CaptureQueriesContext(connection) as many:
            self.page()
        self.assertEqual(len(self.page().context["held"]), 4)
        self.assertLessEqual(len(many), len(one) + 3 * 4)  # the music of each

    def test_only_what_was_recorded_at_home_is_listed_and_compared(self):
        mine, lesson = self.take(Where.HOME), self.take(Where.LESSON, 40)
        signed = path_of(self.student).strip("/").split("/")[1]
        page = self.page()
        self.assertContains(page, reverse("link-take", args=[signed, mine.pk]))
        self.assertNotContains(page, reverse("link-take", args=[signed, lesson.pk]))
        seen = self.client.get(reverse("link-take", args=[signed, mine.pk]))
        self.assertNotContains(seen, "Then and now")
        self.take(Where.HOME, 40)
        seen = self.client.get(reverse("link-take", args=[signed, mine.pk]))
        self.assertContains(seen, "Then and now")

    def test_of_another_nothing(self):
        other = make_student(self.teacher, "Ruben")
        log(make_plan(make_piece(self.teacher, title="Other"), other).steps.first(), 90)
        self.assertNotContains(self.page(), "Other")
