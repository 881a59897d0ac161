"""Takes recorded in the page: by keys, from an electronic kit through a stub of the browser's
own MIDI, and by the made-up player, whose fault is mended by the advice.
"""

from django.urls import reverse
from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.studio.base import make_piece, make_plan, make_student, make_teacher
from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.studio.climb.models import Take

BEAT = """tempo crotchet = 120
bar 1
hat 1 2 3 4
snare 2 4
kick 1 3
hat foot 2 4
bar 2 as 1
"""
MIDI = """navigator.requestMIDIAccess = async () => {
  window.kit = { onmidimessage: null };
  return { inputs: new Map([["a", window.kit]]) };
};"""
# Plays what is scheduled next, when its time has come: right on the click, and the snare too.
PLAY = """async (send) => {
  const { playing: player } = wren, beat = 60 / player.choice.bpm;
  const zero = player.anchor.audio;
  for (let n = 0; n < 8; n += 1) {
    const at = zero + n * beat + (player.context.outputLatency || 0);
    while (player.context.currentTime < at) await new Promise((go) => setTimeout(go, 1));
    const late = (player.context.currentTime - at) * 1000; // of this loop, not of the player
    for (const note of [42, ...(n % 2 ? [38, 44] : [36])]) {
      kit.onmidimessage({ data: [0x99, note, 90], timeStamp: performance.now() - late });
    }
  }
}"""


class Takes(BrowserTest):
    def setUp(self):
        super().setUp()
        student = make_student(make_teacher(), grade=2)
        self.plan = make_plan(make_piece(student.owner, BEAT), student, 120, 140)
        self.step = self.plan.steps.filter(kind=StepKind.BAR).first()
        self.context.add_init_script(MIDI)
        self.log_in()
        self.page = self.go(reverse("step", args=[self.step.pk]))

    def test_an_electronic_kit_is_recorded_judged_and_thrown_away(self):
        page = self.page
        page.get_by_label("times", exact=True).fill("2")
        page.get_by_role("button", name="Record an electronic kit").click()
        page.wait_for_function("() => wren.playing !== null")
        page.evaluate(PLAY)
        expect(page.get_by_role("heading", name="Take of Bar 1")).to_be_visible()
        expect(page.get_by_text("an electronic kit, 2 times through at 120")).to_be_visible()
        take = Take.objects.get()
        self.assertGreater(len(take.strokes), 10)  # of twenty: a slow machine loses the last
        drums = {drum for _, drum, _ in take.strokes}
        self.assertEqual(drums, {"hihat", "snare", "kick", "hihat-foot"})
        page.get_by_role("button", name="Throw the take away").click()
        expect(page.get_by_text("The take lies in the bin")).to_be_visible()

    def test_keys_are_strokes_while_it_records_and_keys_of_the_page_after(self):
        page = self.page
        page.get_by_label("times", exact=True).fill("1")
        page.locator("h1").click()
        page.keyboard.press("r")
        page.wait_for_function("() => wren.playing && !wren.playing.counting")
        page.keyboard.press("j")
        page.keyboard.press("f")
        expect(page.get_by_role("heading", name="Take of Bar 1")).to_be_visible()
        self.assertEqual(len(Take.objects.get().strokes), 2)
        self.assertEqual(Take.objects.get().source, "keys")

    def test_the_made_up_players_left_foot_is_late_and_the_advice_is_followed(self):
        page = self.page
        page.get_by_text("From a MIDI file, or by the made-up player").click()
        page.get_by_label("or the made-up player, with").select_option("the left foot is late")
        page.get_by_role("button", name="Judge the take").click()
        expect(page.get_by_role("heading", name="The left foot comes")).to_be_visible()
        page.get_by_role("button", name="hands alone").click()
        expect(page.get_by_role("heading", name="Bar 1, hands alone")).to_be_visible()
        self.go(reverse("step", args=[self.step.pk]))
        page.get_by_text("From a MIDI file, or by the made-up player").click()
        page.get_by_role("button", name="Judge the take").click()
        expect(page.get_by_text("Nothing to mend: it was clean.")).to_be_visible()
