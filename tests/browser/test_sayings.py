"""What a teacher says about a bar, written and spoken, from the lesson to the stand at home.
The microphone is a tone made in the page."""

from datetime import date

from django.urls import reverse
from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.studio.base import log, make_piece, make_plan, make_student, make_teacher
from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.plans.models import Saying, SayingSound
from wren_ladder.studio.students.links import open_link, path_of

TONE = """navigator.mediaDevices.getUserMedia = async () => {
  const context = new AudioContext(), tone = context.createOscillator();
  const there = context.createMediaStreamDestination();
  tone.connect(there);
  tone.start();
  window.microphone = there.stream;
  return there.stream;
};"""


class Sayings(BrowserTest):
    def setUp(self):
        super().setUp()
        self.student = make_student(
            make_teacher(), "Ines", home_days=7, lesson_day=date.today().weekday()
        )
        self.plan = make_plan(make_piece(self.student.owner), self.student, 90, 120)
        self.step = self.plan.steps.filter(kind=StepKind.BAR).first()
        log(self.step, 90, days_ago=1)
        self.context.add_init_script(TONE)
        self.log_in()
        lesson = reverse("lesson-mode", args=[self.student.pk])
        self.page = self.go(f"{lesson}?at={self.step.pk}")
        self.card = self.page.locator(".lesson-card:not([hidden])")

    def more(self):
        self.card.locator(".says-more > summary").click()

    def test_a_sentence_is_kept_thrown_away_and_brought_back_where_it_was_said(self):
        card = self.card
        self.more()
        card.get_by_label("What you say about").fill("low sticks")
        card.get_by_role("button", name="Keep", exact=True).click()
        expect(card.locator(".says-line")).to_contain_text("low sticks")
        self.more()
        card.get_by_role("button", name="Throw away: low sticks").click()
        expect(card.get_by_text("It lies in the bin.")).to_be_visible()
        card.locator(".says-line").get_by_role("button", name="undo").click()
        expect(card.locator(".says-line")).to_contain_text("low sticks")
        self.assertEqual(Saying.objects.get().text, "low sticks")

    def test_it_is_recorded_by_one_key_and_heard_at_home_without_a_network(self):
        card, page = self.card, self.page
        self.more()
        card.get_by_role("button", name="Record it").click()
        stop = card.get_by_role("button", name="Stop and keep")
        expect(stop).to_have_attribute("aria-pressed", "true")
        page.wait_for_timeout(1200)
        stop.click()
        expect(card.get_by_role("button", name="hear it")).to_be_visible()
        closed = "() => microphone.getTracks().every((one) => one.readyState === 'ended')"
        page.wait_for_function(closed)  # only while the key is lit
        self.assertGreater(len(bytes(SayingSound.objects.get().data)), 500)
        card.get_by_role("button", name="hear it").click()
        expect(card.get_by_role("button", name="hear it")).to_have_attribute(
            "aria-pressed", "true"
        )
        line = {"step": self.step.pk, "name": self.step.name, "piece": "Quay", "tempo": 90}
        Lesson.objects.create(student=self.student, day=date.today(), was_set=[line])
        open_link(self.student)
        page = self.go(path_of(self.student))
        expect(page.locator("main[data-kept=all]")).to_be_attached()
        self.context.set_offline(True)
        page.locator(f".lesson-way a[href='#step-{self.step.pk}']").click()
        hear = page.locator(f"#step-{self.step.pk}").get_by_role("button", name="hear it")
        hear.click()
        expect(hear).to_have_attribute("aria-pressed", "true")
        self.context.set_offline(False)
        self.complaints[:] = [one for one in self.complaints if "ERR_INTERNET" not in one]
