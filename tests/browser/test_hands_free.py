"""A lesson hands free, with an electronic kit through a stub of the browser's own MIDI: counted
in with the sticks, played, stopped; what was heard stands in the keys, and a pad accepts it."""

from django.urls import reverse
from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.browser.test_takes import BEAT, MIDI
from tests.studio.base import make_piece, make_plan, make_student, make_teacher
from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.studio.climb.models import Attempt, Take

# Four counts and two bars at 120, sent at once with the times at which they would be struck.
PLAY = """([speed, wrong]) => {
  const beat = 500 / speed, zero = performance.now() - 14 * beat;
  const send = (note, at) => kit.onmidimessage({ data: [0x99, note, 90], timeStamp: at });
  for (let n = 0; n < 4; n += 1) send(37, zero + n * beat);
  for (let n = 0; n < 8; n += 1) {
    const at = zero + (4 + n) * beat;
    for (const note of [42, ...(n % 2 ? [wrong ? 47 : 38, 44] : [36])]) send(note, at);
  }
}"""
SEND = (
    """(note) => kit.onmidimessage({ data: [0x99, note, 90], timeStamp: performance.now() })"""
)


class HandsFree(BrowserTest):
    def setUp(self):
        super().setUp()
        student = make_student(make_teacher(), grade=2)
        self.plan = make_plan(make_piece(student.owner, BEAT), student, 120, 140)
        self.step = self.plan.steps.filter(kind=StepKind.BAR).first()
        self.step.standing.next_tempo = 120
        self.step.standing.save()
        self.context.add_init_script(MIDI)
        self.log_in()
        address = reverse("lesson-mode", args=[student.pk])
        self.page = self.go(f"{address}?at={self.step.pk}")
        self.page.locator(".stand-more > summary").click()
        self.page.get_by_text("Hands free", exact=True).click()
        self.card = self.page.locator(".lesson-card:not([hidden])")

    def listen(self):
        self.page.get_by_role("button", name="Listen to the kit").click()
        expect(self.card.get_by_text("Listening: count in with your sticks")).to_be_visible()

    def test_what_was_heard_stands_in_the_keys_and_one_logs_it(self):
        page, card = self.page, self.card
        self.listen()
        page.evaluate(PLAY, [1, False])
        expect(card.get_by_text("2 times through at 120, all clean.")).to_be_visible()
        expect(card.get_by_role("button", name="Clean")).to_have_class(
            "btn btn-primary is-proposed"
        )
        self.assertFalse(Attempt.objects.exists())  # nothing by itself
        card.get_by_role("button", name="Clean").click()
        self.until(Attempt.objects.exists)
        attempt = Attempt.objects.get()
        self.assertEqual((attempt.tempo, attempt.passes, attempt.was_clean), (120, 2, True))
        self.assertFalse(Take.objects.exists())  # no stroke is kept
        expect(card.locator(".is-proposed")).to_have_count(0)
        page.get_by_role("button", name="listening: stop").click()
        expect(page.get_by_role("button", name="listening: stop")).to_be_hidden()

    def test_another_tempo_and_another_drum_are_told_and_not_yet_is_proposed(self):
        page, card = self.page, self.card
        self.listen()
        page.evaluate(PLAY, [0.75, True])
        expect(card.get_by_text("2 times through at 90, none of them clean.")).to_be_visible()
        expect(card.locator(".is-proposed")).to_have_text("Not yet")
        expect(card.get_by_label("Tempo", exact=True)).to_have_value("90")

    def test_spare_pads_are_taught_to_be_the_keys(self):
        page, card = self.page, self.card
        for name, note in (("A pad or pedal to accept", 57), ("for the other key", 55)):
            page.get_by_role("button", name=name).click()
            expect(page.get_by_text("Hit the pad or press the pedal")).to_be_visible()
            page.evaluate(SEND, note)
            expect(page.get_by_text("Learned, and kept on this device.")).to_be_visible()
        self.listen()
        for note, clean in ((57, True), (55, False)):
            page.evaluate(PLAY, [1, False])
            expect(card.locator(".is-proposed")).to_have_text("Clean")
            page.evaluate(SEND, note)
            self.until(lambda clean=clean: Attempt.objects.filter(was_clean=clean).exists())
        self.assertEqual(Attempt.objects.count(), 2)

    def test_a_beat_that_was_not_counted_in_is_no_try(self):
        self.listen()
        self.page.evaluate(
            """() => { const zero = performance.now() - 6000;
            for (let n = 0; n < 8; n += 1) for (const note of [42, n % 2 ? 38 : 36])
              kit.onmidimessage({ data: [0x99, note, 90], timeStamp: zero + n * 500 }); }"""
        )
        self.page.wait_for_timeout(2000)
        expect(self.card.locator(".is-proposed")).to_have_count(0)
