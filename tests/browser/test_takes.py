"""Takes recorded in the page: by keys, from an electronic kit through a stub of the browser's
own MIDI, and by the made-up player, whose fault is mended by the advice.
"""

from django.urls import reverse
from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.studio.base import log, make_piece, make_plan, make_student, make_teacher
from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.studio.climb.models import Take
from wren_ladder.studio.students.links import open_link, path_of

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
        self.open()

    def open(self):
        """The page of the step, where it records."""
        self.page = self.go(reverse("step", args=[self.step.pk]))
        self.page.get_by_text("Record a take").click()

    def test_an_electronic_kit_is_recorded_judged_and_thrown_away(self):
        page = self.page
        page.get_by_label("times", exact=True).fill("2")
        page.get_by_role("button", name="Record an electronic kit").click()
        expect(page.get_by_text("was not measured yet: it is not told")).to_be_visible()
        page.wait_for_function("() => wren.playing !== null")
        page.evaluate(PLAY)
        expect(page.get_by_role("heading", name="Take of Bar 1")).to_be_visible()
        expect(page.get_by_text("an electronic kit, 2 times through at 120")).to_be_visible()
        take = Take.objects.get()
        self.assertGreater(len(take.strokes), 10)  # of twenty: a slow machine loses the last
        drums = {drum for _, drum, _ in take.strokes}
        self.assertEqual(drums, {"hihat", "snare", "kick", "hihat-foot"})
        page.get_by_role("button", name="Throw the take away").click()
        expect(page.get_by_text("It lies in the bin for 30 days")).to_be_visible()

    def test_keys_are_strokes_while_it_records_and_keys_of_the_page_after(self):
        page = self.page
        page.get_by_label("times", exact=True).fill("1")
        page.get_by_role("button", name="Record by keys or touch").click()
        page.wait_for_function("() => wren.playing && !wren.playing.counting")
        page.keyboard.press("j")
        page.keyboard.press("f")
        expect(page.get_by_role("heading", name="Take of Bar 1")).to_be_visible()
        self.assertEqual(len(Take.objects.get().strokes), 2)
        self.assertEqual(Take.objects.get().source, "keys")

    def test_a_take_is_stopped_and_kept_or_thrown_away_by_touch(self):
        page = self.page
        page.get_by_label("times", exact=True).fill("8")
        keep = page.get_by_role("button", name="Stop and keep")
        expect(keep).to_be_hidden()
        for key in ("Throw away", "Stop and keep"):
            page.get_by_role("button", name="Record by keys or touch").click()
            page.wait_for_function("() => wren.playing && !wren.playing.counting")
            page.keyboard.press("j")
            page.get_by_role("button", name=key).click()
            if key == "Throw away":
                expect(page.get_by_text("Thrown away.")).to_be_visible()
                expect(keep).to_be_hidden()
                self.assertFalse(Take.objects.exists())
        expect(page.get_by_role("heading", name="Take of Bar 1")).to_be_visible()
        self.assertEqual(len(Take.objects.get().strokes), 1)

    def test_the_made_up_players_left_foot_is_late_and_the_advice_is_followed(self):
        """As a visitor without any device: heard, told, the limb pair, played again, gone."""
        page = self.page
        page.get_by_text("From a MIDI file, or by the made-up player").click()
        page.get_by_label("the made-up player, with").select_option("the left foot is late")
        page.get_by_role("button", name="Let it play").click()
        expect(page.get_by_role("heading", name="The left foot comes")).to_be_visible()
        expect(page.locator(".take-time text").first).to_contain_text("late")
        page.get_by_role("button", name="both feet alone").click()
        expect(page.get_by_role("heading", name="Bar 1, both feet alone")).to_be_visible()
        page.locator(".stand-more > summary").click()
        card = page.locator(".lesson-card:not([hidden])")
        card.get_by_text("Record a take").click()
        card.get_by_text("From a MIDI file, or by the made-up player").click()
        card.get_by_role("button", name="Let it play").click()
        expect(page.get_by_text("Nothing to mend: it was clean.")).to_be_visible()
        page.get_by_role("link", name="Back to the lesson").click()
        expect(page.get_by_role("heading", name="Bar 1, both feet alone")).to_be_visible()

    def test_two_takes_over_each_other_and_both_heard(self):
        page = self.page
        for fault in ("late-left-foot", ""):
            self.open()
            page.get_by_text("From a MIDI file, or by the made-up player").click()
            page.get_by_label("the made-up player, with").select_option(fault)
            page.get_by_role("button", name="Let it play").click()
            page.get_by_role("button", name="Hear the take").wait_for()
        page.get_by_role("link", name="put it beside this one").click()
        expect(page.get_by_role("heading", name="left foot comes")).to_be_visible()
        expect(page.get_by_role("heading", name="Then and now")).to_be_visible()
        self.assertGreater(page.locator(".take-view circle.then").count(), 10)
        self.assertGreater(page.locator(".take-view circle:not(.then)").count(), 10)
        page.get_by_role("button", name="Both at once").click()
        page.wait_for_function("() => wren.playing && wren.playing.marks.length")
        ids = page.evaluate("() => [...document.querySelectorAll('[id]')].map((one) => one.id)")
        self.assertEqual(len(ids), len(set(ids)))

    def test_a_kit_is_taught_its_notes_and_its_pedal_opens_the_hat(self):
        page = self.page
        page.get_by_text("Your kit, your microphone, their delay").click()
        page.get_by_role("button", name="Teach it drum by drum").click()
        for note, said in ((98, "hat"), (97, "snare"), (96, "kick"), (95, "hat by foot")):
            expect(page.get_by_text(f"Hit the {said} now.", exact=True)).to_be_visible()
            page.evaluate(f"kit.onmidimessage({{ data: [0x99, {note}, 90], timeStamp: 0 }})")
        expect(page.get_by_text("Learned, and kept on this device.")).to_be_visible()
        self.open()
        page.get_by_label("times", exact=True).fill("1")
        page.get_by_role("button", name="Record an electronic kit").click()
        page.wait_for_function("() => wren.playing && !wren.playing.counting")
        page.evaluate("""() => {
          const send = (...data) => kit.onmidimessage({ data, timeStamp: performance.now() });
          send(0xb9, 4, 0);
          send(0x99, 98, 90);
          send(0xa9, 98, 60);
          send(0x99, 96, 80);
        }""")
        expect(page.get_by_role("heading", name="Take of Bar 1")).to_be_visible()
        drums = [drum for _, drum, _ in Take.objects.get().strokes]
        self.assertEqual(sorted(drums), ["hihat-open", "kick"])

    def test_escape_throws_away_what_is_being_recorded(self):
        page = self.page
        page.get_by_role("button", name="Record by keys or touch").click()
        page.wait_for_function("() => wren.playing !== null")
        page.keyboard.press("j")
        page.keyboard.press("Escape")
        expect(page.get_by_text("Thrown away.")).to_be_visible()
        self.assertEqual(Take.objects.count(), 0)

    def test_what_was_thrown_away_is_brought_back_where_it_happened(self):
        page = self.page
        page.get_by_text("From a MIDI file, or by the made-up player").click()
        page.get_by_role("button", name="Let it play").click()
        page.get_by_role("button", name="Throw the take away").click()
        page.get_by_role("button", name="undo").click()
        expect(page.get_by_text("is back, as it was.")).to_be_visible()
        self.assertEqual(Take.objects.count(), 1)


class AtHome(BrowserTest):
    width, height = 390, 800

    def setUp(self):
        super().setUp()
        self.student = make_student(make_teacher(), grade=2, records_at_home=True, home_days=7)
        self.plan = make_plan(make_piece(self.student.owner, BEAT), self.student, 120, 140)
        log(self.plan.steps.filter(kind=StepKind.BAR).first(), 120, days_ago=1)
        open_link(self.student)
        self.page = self.go(path_of(self.student))

    def record(self):
        page = self.page
        page.locator(".lesson-way a", has_text="Bar 1").click()
        card = page.locator(".lesson-card:has(.record):visible").first
        card.get_by_role("button", name="Record me").click()
        card.get_by_text("For grown-ups").click()
        card.get_by_label("times", exact=True).fill("1")
        card.get_by_role("button", name="on the screen").click()
        page.wait_for_function("() => wren.playing && !wren.playing.counting")
        pad = card.locator(".take-pads button").first
        pad.dispatch_event("pointerdown")
        return card

    def test_a_child_records_sees_it_and_throws_it_away(self):
        page = self.page
        self.record()
        expect(page.get_by_role("heading", name="What you played")).to_be_visible()
        self.assertEqual(Take.objects.get().where, "home")
        page.get_by_role("button", name="Throw it away").click()
        expect(page.get_by_text("Gone.")).to_be_visible()
        self.assertEqual(Take.objects.count(), 0)

    def test_without_a_network_a_take_waits(self):
        page = self.page
        card = self.record()
        self.context.set_offline(True)
        expect(card.get_by_text("The take waits on this device")).to_be_visible()
        self.assertEqual(Take.objects.count(), 0)
        self.context.set_offline(False)
        for _ in range(50):
            if Take.objects.count():
                break
            page.wait_for_timeout(100)
        self.assertEqual(Take.objects.count(), 1)
        self.complaints.clear()  # the browser says that it had no network

    def test_two_open_pages_send_a_take_that_waited_once_and_the_note_goes(self):
        page = self.page
        card = self.record()
        self.context.set_offline(True)
        expect(card.get_by_text("The take waits on this device")).to_be_visible()
        second = self.context.new_page()
        self.context.set_offline(False)
        second.goto(self.live_server_url + path_of(self.student))
        expect(card.get_by_text("The take waits on this device")).to_have_count(0)
        for _ in range(50):
            if Take.objects.count():
                break
            page.wait_for_timeout(100)
        page.wait_for_timeout(1000)
        self.assertEqual(Take.objects.count(), 1)
        self.complaints.clear()  # the browser says that it had no network
