"""A child's ten minutes on a phone, by touch alone, from the private link to "done": three
things, slower, one drum silent, a take, an undo, and no network in the middle."""

import re
from datetime import date

from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.studio.base import log, make_piece, make_plan, make_student, make_teacher
from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.studio.climb.models import Attempt, Take, Where
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.students.links import open_link, path_of


class TenMinutes(BrowserTest):
    width, height, by_touch = 390, 844, True

    def setUp(self):
        super().setUp()
        self.student = make_student(
            make_teacher(), "Ines", home_days=7, lesson_day=date.today().weekday(),
            records_at_home=True, home_minutes=10,
        )  # fmt: skip
        self.plan = make_plan(make_piece(self.student.owner), self.student, 90, 120)
        steps = [
            *self.plan.steps.filter(kind=StepKind.BAR)[:2],
            self.plan.steps.get(kind=StepKind.WHOLE),
        ]
        for step in steps:
            log(step, 90, days_ago=1)
        lines = [
            {"step": one.pk, "name": one.name, "piece": "Quay", "tempo": 90, "minutes": 3}
            for one in steps
        ]
        Lesson.objects.create(student=self.student, day=date.today(), was_set=lines)
        open_link(self.student)
        self.page = self.go(path_of(self.student))

    @property
    def card(self):
        return self.page.locator(".child-card:not([hidden])")

    def title(self):
        return self.card.locator("h2").inner_text()

    def key(self, name: str):
        return self.card.get_by_role("button", name=name, exact=True)

    def play_a_round(self):
        self.key("Play along").tap()
        expect(self.card.locator("[data-part=where]")).to_have_text(re.compile("round 1"))
        self.card.locator(".child-play").tap()

    def test_from_the_link_to_done(self):
        page = self.page
        expect(page.locator("main[data-kept=all]")).to_be_attached()
        seen = [self.title()]
        self.play_a_round()  # the warm-up
        self.key("Next").tap()

        seen.append(self.title())
        self.key("slower").tap()
        slower = int(self.card.locator("[data-part=bpm]").input_value())
        self.assertLess(slower, 90)
        self.card.get_by_text("what I hear").tap()
        kick = self.card.get_by_role("button", name=re.compile("^kick"))
        kick.tap()
        kick.tap()
        expect(kick).to_have_text(re.compile("silent"))
        self.play_a_round()
        self.key("I did it").tap()
        self.card.get_by_role("button", name="undo").tap()
        expect(self.card.get_by_role("button", name="undo")).to_be_hidden()
        expect(self.card.locator("[data-part=bpm]")).to_have_value(str(slower))
        self.key("I did it").tap()
        expect(self.card.locator(".said")).not_to_contain_text("kept in this page")

        self.context.set_offline(True)
        self.key("Next").tap()
        seen.append(self.title())
        self.play_a_round()
        self.key("I did it").tap()
        expect(page.locator(".waiting")).to_contain_text("1 try waits")
        self.context.set_offline(False)
        expect(page.locator(".waiting")).to_be_hidden()
        tries = Attempt.objects.filter(day=date.today())
        self.assertEqual([one.tempo for one in tries.order_by("pk")], [slower, 90])
        self.assertEqual({one.where for one in tries}, {Where.HOME})

        self.key("Next").tap()
        seen.append(self.title())
        self.key("Record me").tap()
        self.card.get_by_text("For grown-ups").tap()
        self.card.get_by_label("times", exact=True).fill("1")
        self.card.get_by_role("button", name="on the screen").tap()
        page.wait_for_function("() => wren.playing && !wren.playing.counting")
        self.card.locator(".take-pads button").first.dispatch_event("pointerdown")
        expect(page.get_by_role("heading", name="What you played")).to_be_visible()
        page.get_by_role("button", name="Throw it away").tap()
        expect(page.get_by_text("Gone.")).to_be_visible()
        self.assertFalse(Take.objects.exists())

        self.assertEqual(len(set(seen)), 4)
        page.locator(".lesson-way a", has_text="Whole piece").tap()
        self.key("I did it").tap()
        expect(self.card.locator(".said")).not_to_contain_text("kept in this page")
        page.reload()
        expect(page.locator(".lesson-way .moss")).to_have_count(3)
        self.complaints[:] = [one for one in self.complaints if "ERR_INTERNET" not in one]
