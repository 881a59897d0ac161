"""The practice room as it is used: on the desk by the keyboard alone, on the phone by touch,
with and without a network.
"""

import re
from datetime import date

from django.urls import reverse
from playwright.sync_api import expect

from tests.browser.base import AXE, BrowserTest
from tests.studio.base import log, make_piece, make_plan, make_student, make_teacher
from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.studio.climb.models import Attempt
from wren_ladder.studio.students.links import open_link, path_of, revoke

RINGED = """() => { const canvas = document.querySelector(".stroke-marks");
  const { data } = canvas.getContext("2d").getImageData(0, 0, canvas.width, canvas.height);
  return data.some((one) => one > 0); }"""
TOUCH = 44  # pixels: WCAG 2.2, 2.5.5 Target Size (Enhanced)


class RoomTest(BrowserTest):
    def setUp(self):
        super().setUp()
        teacher = make_teacher()
        self.student = make_student(
            teacher, "Ines Okafor", home_days=6, lesson_day=date.today().weekday()
        )
        self.plan = make_plan(make_piece(teacher), self.student, 90, 120)
        self.step = self.plan.steps.filter(kind=StepKind.BAR).first()


class OnTheDesk(RoomTest):
    def setUp(self):
        super().setUp()
        self.log_in()
        self.page = self.go(reverse("step", args=[self.step.pk]))
        self.where = self.page.locator("[data-part=where]")
        self.page.locator(".room-start").wait_for()

    def press(self, *keys):
        for key in keys:
            self.page.keyboard.press(key)

    def test_looped_slowed_a_limb_silenced_faster_by_itself_and_clean_by_keys_alone(self):
        page = self.page
        speed = page.get_by_label("Beats a minute")
        expect(speed).to_have_value("90")
        self.press(".", ".", ".", ".", "+")
        expect(speed).to_have_value("111")
        self.press(",", "-")
        expect(speed).to_have_value("105")
        self.press("3")
        expect(page.get_by_role("button", name="right foot: soft")).to_be_visible()
        self.press("3")
        expect(page.get_by_role("button", name="right foot: silent")).to_be_visible()
        page.get_by_label("rounds", exact=True).fill("1")
        page.locator("h1").click()
        self.press("f", "Space")
        expect(page.locator(".room-start")).to_have_attribute("aria-pressed", "true")
        expect(self.where).to_have_text(re.compile("counting in: [1-4]"))
        expect(self.where).to_have_text(re.compile("bar 1 · round 1"))
        expect(page.locator(".hushed")).not_to_have_count(0)
        page.wait_for_function(RINGED)
        expect(speed).to_have_value("110")  # the next of its rungs, after one round
        self.press("c")
        expect(page.get_by_text("Logged: 110")).to_be_visible()
        expect(page.locator(".room-start")).to_have_attribute("aria-pressed", "true")
        self.press("Space")
        expect(page.locator(".room-start")).to_have_attribute("aria-pressed", "false")
        expect(self.where).to_have_text("")
        self.assertTrue(Attempt.objects.get().was_clean)

    def test_not_yet_brings_the_tempo_down_while_it_plays(self):
        self.press("Space")
        expect(self.where).to_have_text(re.compile("bar 1"))
        self.press("x")
        expect(self.page.get_by_text("Logged: 90")).to_be_visible()
        expect(self.page.get_by_label("Tempo")).to_have_value(
            self.page.get_by_label("Beats a minute").input_value()
        )

    def test_bars_of_a_longer_step_are_chosen_and_the_choice_is_kept_tomorrow(self):
        line = self.plan.steps.filter(kind=StepKind.WHOLE).first()
        page = self.go(reverse("step", args=[line.pk]))
        page.locator(".room-more summary").click()
        page.locator("[data-part=first]").select_option(label="3")
        page.locator("[data-part=last]").select_option(label="3")
        page.get_by_label("How much of the bar").select_option("its second half")
        page.get_by_label("Where it clicks").select_option("2 and 4 only")
        page.locator(".room-start").click()
        expect(self.where).to_have_text(re.compile("bar 3 · round 2"))
        page.reload()
        expect(page.get_by_label("Where it clicks")).to_have_value("4")

    def test_after_a_stall_what_is_overdue_is_dropped_and_the_music_goes_on_in_time(self):
        struck = self.page.evaluate(
            """async () => {
              const score = JSON.parse(document.getElementById("step-sound").textContent);
              const choice = { countIn: false, click: false, rounds: 6 };
              const stalls = (at, made) => {
                if (at > 2) made.context = { currentTime: Math.max(4, at - 0.2) };
              };
              const times = async (act) => {
                const { marks } = await wren.rehearse(score, choice, 8, 44100, act);
                return marks.filter((one) => one.what === "stroke").map((one) => one.audio);
              };
              return [await times(null), await times(stalls)];
            }"""
        )
        whole, stalled = ([round(at, 3) for at in times] for times in struck)
        self.assertEqual([at for at in stalled if 2.1 < at < 3.9], [])
        later = [at for at in whole if at > 4.1]
        self.assertGreater(len(later), 5)
        self.assertEqual([at for at in stalled if at > 4.1], later)

    def test_each_ring_dies_by_itself_at_a_quick_tempo(self):
        most, left = self.page.evaluate(
            """() => {
              const score = JSON.parse(document.getElementById("step-sound").textContent);
              const drawing = new wren.Drawing(document.querySelector("main"), score);
              const [turn, hit] = [...drawing.strokes.keys()][0].split(" ");
              let most = 0, now = 0;
              for (; now < 20; now += 60 / 208 / 4) { // semiquavers
                drawing.fade(now);
                drawing.mark(Number(turn), Number(hit), now);
                most = Math.max(most, drawing.marks.rings.length);
              }
              const drawn = drawing.strokes.get(`${turn} ${hit}`).length;
              drawing.fade(now + 0.3);
              return [most / drawn, drawing.marks.rings.length];
            }"""
        )
        self.assertLessEqual(most, 3)  # 0.2 seconds of them
        self.assertEqual(left, 0)

    def test_one_thing_sounds_at_a_time(self):
        page = self.go("/workshop/")
        first, second = page.locator("[data-play]").nth(0), page.locator("[data-play]").nth(1)
        first.click()
        second.click()
        expect(second).to_have_attribute("aria-pressed", "true")
        expect(first).to_have_attribute("aria-pressed", "false")
        page.locator("h1").click()
        self.press("Space")
        expect(second).to_have_attribute("aria-pressed", "false")


class OnThePhone(RoomTest):
    width, height = 390, 844
    bypass_csp = True  # axe-core is put into the page

    def setUp(self):
        super().setUp()
        log(self.step, 90, days_ago=1)
        open_link(self.student)
        self.page = self.go(path_of(self.student))

    def shown(self):
        return self.page.locator(".lesson-card:not([hidden])").first

    def to_the_bar(self):
        """From the warm-up to the first thing that is logged."""
        self.shown().get_by_role("button", name="Next").click()
        return self.shown()

    def test_today_from_the_first_touch_to_the_last_entry(self):
        page = self.page
        card = self.to_the_bar()
        play = card.locator(".child-play")
        expect(card.get_by_role("button", name="Not yet")).to_be_hidden()
        play.click()
        expect(card.locator("[data-part=where]")).to_have_text(re.compile("round 1"))
        expect(play).to_have_text(re.compile("Stop"))
        card.get_by_role("button", name="slower").click()
        expect(card.get_by_label("Beats a minute")).to_have_value("90")
        play.click()
        expect(play).to_have_text(re.compile("Play along"))
        card.get_by_role("button", name="I did it").click()
        expect(card.locator(".said")).to_contain_text("90 clean: kept, ")
        page.wait_for_timeout(500)  # a second press within half of one is the same press
        card.get_by_role("button", name="undo").click()
        expect(card.locator(".said")).to_contain_text("Taken back")
        page.wait_for_timeout(500)
        card.get_by_role("button", name="Not yet").click()
        expect(card.locator(".said")).to_contain_text("not yet")
        self.assertEqual(self.student.logged_minutes.count(), 0)
        page.get_by_text("The week, and how long I played").click()
        page.get_by_label("Minutes today").fill("12")
        page.get_by_role("button", name="I played that").click()
        expect(page.get_by_text("12 minutes are logged.")).to_be_visible()
        self.assertEqual(self.student.logged_minutes.get().minutes, 12)

    def test_the_first_view_is_one_thing_with_its_music(self):
        """At most six things to press, the bar whole, the large key in sight."""
        page = self.page
        card = self.to_the_bar()
        seen = page.evaluate(
            """() => [...document.querySelectorAll(
              "button, a, summary, select, input:not([readonly])")]
            .filter((one) => one.checkVisibility({ visibilityProperty: true }))
            .filter((one) => { const box = one.getBoundingClientRect();
              return box.height && box.bottom > 0 && box.top < innerHeight; })
            .map((one) => one.textContent.trim())"""
        )
        self.assertLessEqual(len(seen), 6, seen)
        box = card.locator(".child-music").bounding_box()
        self.assertLess(box["y"] + box["height"], self.height)
        wide = page.evaluate("document.documentElement.scrollWidth")
        self.assertLessEqual(wide, self.width)
        one = card.locator(".score").evaluate("(it) => [it.scrollWidth, it.clientWidth]")
        self.assertLessEqual(one[0], one[1])  # never sliding
        play = card.locator(".child-play").bounding_box()
        self.assertLess(play["y"] + play["height"], self.height)

    def test_a_drum_is_silenced_by_its_picture(self):
        card = self.to_the_bar()
        card.locator(".child-how summary").click()
        hat = card.get_by_role("button", name=re.compile("^hat"))
        hat.click()
        expect(hat).to_have_text(re.compile("hat: soft"))
        hat.click()
        expect(hat).to_have_text(re.compile("hat: silent"))
        card.get_by_label("after it").select_option("1")
        card.locator(".child-play").click()
        expect(card.locator("[data-part=where]")).to_have_text(re.compile("round 1"))
        self.assertEqual(self.page.evaluate("wren.playing.choice.gap"), 1)
        drum = self.page.evaluate("wren.playing.score.drums.indexOf('hat')")
        self.assertEqual(self.page.evaluate(f"wren.playing.choice.drums[{drum}]"), 0)

    def test_what_is_held_is_played_for_fun_and_shown(self):
        page = self.page
        page.get_by_role("link", name="Something I like").click()
        expect(page.get_by_role("heading", name=re.compile("can play"))).to_be_visible()
        expect(page.get_by_text("at 90")).to_be_visible()
        page.get_by_role("button", name="Play along").first.click()
        page.wait_for_function("() => wren.playing && wren.playing.marks.length")

    def test_my_bar_is_mine_and_the_machine_plays_the_rest(self):
        page = self.go(f"{path_of(self.student)}pieces/{self.plan.piece_id}/")
        page.get_by_label("the bar I press is mine").check()
        box = page.locator("[id^='l0-b1h']").first.bounding_box()
        page.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        expect(page.locator("[data-part=where]")).to_have_text("bar 2 is yours")
        page.locator(".child-play").click()
        page.wait_for_function("() => wren.playing && wren.playing.marks.length")
        struck = page.evaluate(
            """async () => { const { choice, score } = wren.playing;
            wren.stop();
            const { marks, render } = await wren.rehearse(score, { mine: choice.mine,
              click: false, countIn: false, rounds: 1 }, 12, 8000);
            const [first, mine, third] = score.bars.map(([at]) => at);
            const sound = (await render()).getChannelData(0);
            const loud = (from, to) => Math.max(
              ...sound.slice((from + 0.3) * 8000, (to + 0.05) * 8000).map(Math.abs));
            return [loud(first, mine), loud(mine + 0.4, third), marks.filter((one) =>
              one.what === "stroke" && one.turn === 1 && one.loud).length]; }"""
        )
        heard, silent, seen = struck
        self.assertGreater(heard, 10 * silent)
        self.assertGreater(seen, 0)

    def test_what_was_practised_is_offered_and_not_written(self):
        played = f'{{"played": {{"{self.step.pk}": {{"seconds": 200, "rounds": 9, "low": 80,'
        played += ' "high": 90}}, "logged": 0}'
        self.page.evaluate(
            """(played) => { const page = document.querySelector("[data-today]").dataset;
            localStorage.setItem(`wren-today-${page.link}-${page.today}`, played); }""",
            played,
        )
        self.page.reload()
        offer = self.page.locator("[data-offer]")
        expect(offer).to_contain_text("You played 3 minutes here")
        expect(self.page.get_by_label("Minutes today")).to_have_value("3")
        self.assertEqual(self.student.logged_minutes.count(), 0)
        expect(self.page.locator("[data-day-minutes]")).to_have_text("3")

    def test_past_the_ears_share_the_pad_is_offered(self):
        note = self.page.locator("[data-ears-note]")
        expect(note).to_be_hidden()
        loud = '{"played": {"x": {"seconds": 90000, "rounds": 1, "low": 80, "high": 80}}}'
        self.page.evaluate(
            """(played) => { const page = document.querySelector("[data-today]").dataset;
            localStorage.setItem(`wren-today-${page.link}-${page.today}`, played); }""",
            loud,
        )
        self.page.reload()
        expect(note).to_contain_text("Go on softly on the practice pad")

    def test_without_a_network_it_opens_plays_and_logs_and_all_arrives_once(self):
        page = self.page
        expect(page.locator("main[data-kept=all]")).to_be_attached()
        self.context.set_offline(True)
        page.reload()
        card = self.to_the_bar()
        card.locator(".child-play").click()
        expect(card.locator("[data-part=where]")).to_have_text(re.compile("round 1"))
        self.assertGreater(page.evaluate("wren.playing.instrument.gathered.kit.size"), 1)
        self.assertTrue(
            page.evaluate(
                "[...wren.playing.instrument.gathered.kit.values()].every((one) => one)"
            )
        )
        card.locator(".child-play").click()
        card.get_by_role("button", name="I did it").click()
        expect(page.locator(".waiting")).to_contain_text("1 try waits")
        page.get_by_text("The week, and how long I played").click()
        page.get_by_label("Minutes today").fill("7")
        page.get_by_role("button", name="I played that").click()
        expect(page.locator("[data-said]")).to_contain_text("7 minutes wait here")
        before = Attempt.objects.count()
        self.context.set_offline(False)
        expect(page.locator(".waiting")).to_be_hidden()
        page.reload()
        expect(page.locator("[data-said]")).to_contain_text("in the last seven days")
        self.assertEqual(Attempt.objects.count(), before + 1)
        self.assertEqual([one.minutes for one in self.student.logged_minutes.all()], [7])
        self.complaints[:] = [one for one in self.complaints if "ERR_INTERNET" not in one]

    def test_a_revoked_link_forgets_everything_it_stored(self):
        page = self.page
        page.wait_for_function("navigator.serviceWorker.controller !== null")
        page.evaluate(
            "localStorage.setItem(`wren-today-${document.querySelector('main')"
            ".dataset.link}-2026-01-01`, '{}')"
        )
        revoke(self.student)
        page.reload()
        expect(page.get_by_role("heading", name="This page is closed")).to_be_visible()
        page.wait_for_function("caches.keys().then((all) => all.length === 0)")
        left = page.evaluate("Object.keys(localStorage).filter((one) => one.includes('today'))")
        self.assertEqual(left, [])

    def test_every_state_passes_axe_and_can_be_touched(self):
        page = self.page
        card = self.to_the_bar()
        card.locator(".child-how summary").click()
        page.get_by_text("The week, and how long I played").click()
        card.locator(".child-play").click()
        page.add_script_tag(path=AXE)
        found = page.evaluate("axe.run(document, {resultTypes: ['violations']})")
        self.assertEqual([one["id"] for one in found["violations"]], [])
        small = page.evaluate(
            """(least) => [...document.querySelectorAll("button, summary, select, nav a")]
            .filter((one) => one.offsetParent).map((one) => [one.textContent.trim(),
              one.getBoundingClientRect()]).filter(([, box]) => box.height < least - 0.5)
            .map(([text, box]) => `${text} ${box.height}`)""",
            TOUCH,
        )
        self.assertEqual(small, [])
