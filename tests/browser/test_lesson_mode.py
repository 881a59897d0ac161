"""A lesson by keys, a lost connection, two tabs, a student's phone."""

import io
from datetime import date, timedelta
from uuid import uuid4

from django.urls import reverse
from playwright.sync_api import expect
from pypdf import PdfReader

from tests.browser.base import BrowserTest
from tests.studio.base import make_piece, make_plan, make_student, make_teacher
from wren_ladder.studio.climb.models import Attempt, HomeMinutes
from wren_ladder.studio.climb.standings import behind
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.students.links import open_link, path_of


class LessonTest(BrowserTest):
    def setUp(self):
        super().setUp()
        self.teacher = make_teacher()
        self.student = make_student(
            self.teacher, "Ines Okafor", lesson_day=date.today().weekday()
        )
        self.plan = make_plan(make_piece(self.teacher), self.student)
        self.mode = reverse("lesson-mode", args=[self.student.pk])

    def open_card(self):
        return self.page.locator(".lesson-card:not([hidden])")

    def press(self, key: str) -> None:
        """As a person presses: not twice in the time of a double tap."""
        self.page.wait_for_timeout(500)
        self.page.keyboard.press(key)

    def tries(self) -> list[tuple[int, bool]]:
        return list(Attempt.objects.order_by("pk").values_list("tempo", "was_clean"))


class WholeLesson(LessonTest):
    def test_from_the_desk_to_the_kept_lesson_by_keys_alone(self):
        self.log_in()
        page = self.page
        page.keyboard.press("l")
        page.wait_for_url(f"**{self.mode}")  # until it is loaded: keys are heard from then on
        expect(self.open_card().get_by_role("heading")).to_have_text("Bar 1")
        self.press("c")
        # The rung is earned: it says so at once, and to go on is offered, not done.
        said = self.open_card().locator(".said")
        expect(said).to_have_text("90 clean: rung 90 earned. The next step is offered.")
        expect(self.open_card().get_by_role("heading")).to_have_text("Bar 1")
        self.press("]")
        expect(self.open_card().get_by_role("heading")).to_have_text("Bar 4")
        self.press("x")
        expect(self.open_card().locator("[data-show=reason]")).to_contain_text("not yet at 90")
        self.press("x")
        why = self.open_card().locator(".proposal .why")
        expect(why).to_contain_text("2 failed tries at 90")
        expect(why).to_be_visible()
        self.press("x")
        expect(self.open_card().locator(".said")).to_contain_text("3 tries are enough")
        expect(self.open_card().get_by_role("heading")).to_have_text("Bar 4")
        self.press("[")
        expect(self.open_card().get_by_role("heading")).to_have_text("Bar 1")
        expect(self.open_card().locator("[data-entry] [name=tempo]")).to_have_value("95")
        self.press("m")
        self.open_card().get_by_label("A word").fill("sat up straight")
        self.open_card().get_by_role("button", name="Clean").click()
        expect(page.locator("#entries")).to_contain_text("95 clean: rung 95 earned.")
        page.keyboard.press("e")
        page.get_by_text("5 tries at 2 steps").click()
        expect(page.get_by_text("Bar 1 of Quay: 95 earned, 2 tries")).to_be_visible()
        expect(page.get_by_text("Bar 4 of Quay: no rung yet, 3 tries")).to_be_visible()
        page.get_by_label("Note to yourself").fill("Left hand late.")
        page.get_by_role("button", name="Keep", exact=True).click()
        expect(page.get_by_role("heading", name="Ines Okafor's lesson")).to_be_visible()
        expect(page.get_by_text("Left hand late.")).to_be_visible()
        expect(page.get_by_role("link", name="The sheet (PDF)")).to_be_visible()
        self.assertEqual(Lesson.objects.get().day, date.today())
        self.assertEqual(Attempt.objects.get(tempo=95).note, "sat up straight")
        self.go("/")
        expect(page.get_by_role("link", name="Go on")).to_be_visible()

    def test_after_the_last_step_it_says_so(self):
        self.log_in()
        page = self.go(self.mode)
        for _ in range(12):
            page.keyboard.press("]")
        expect(self.open_card().locator(".said")).to_contain_text("That was the last step")


class MusicOfTheOthers(LessonTest):
    """The page comes with the staves of the step that is shown, and asks for the others."""

    def test_they_are_there_before_one_goes_on_and_without_a_connection(self):
        self.log_in()
        page = self.page
        self.go(self.mode)
        staves = page.locator(".lesson-card .stand-music .score svg")
        cards = page.locator(".lesson-card").count()
        self.assertGreater(cards, 2)
        expect(page.locator("[data-wanted]")).to_have_count(0)
        expect(page.locator(".lesson-card .stand-music:has(.score svg)")).to_have_count(cards)
        expect(staves.first).to_be_visible()
        page.context.set_offline(True)
        self.press("]")
        expect(self.open_card().locator(".score svg").first).to_be_visible()
        self.open_card().locator(".key-play").click()  # and its room is furnished
        expect(self.open_card().locator(".key-play")).to_have_attribute("aria-pressed", "true")

    def test_a_step_called_up_comes_drawn(self):
        step = self.plan.steps.filter(dropped=False).last()
        self.client.force_login(self.teacher)
        page = self.client.get(self.mode, {"at": step.pk}).content.decode()
        cards = page.split('class="lesson-card"')[1:]
        (called,) = [one for one in cards if f'data-step="{step.pk}"' in one]
        self.assertIn('class="score"', called)
        self.assertEqual(page.count('class="stand-music"'), page.count("data-wanted") + 1)


class CallUp(LessonTest):
    def test_a_step_is_found_by_a_word_and_opened_by_enter(self):
        self.log_in()
        page = self.go(self.mode)
        self.press("/")
        search = page.get_by_label("Another step")
        expect(search).to_be_focused()
        search.fill("nothing like it")
        expect(page.get_by_text("Nothing of that name")).to_be_visible()
        search.fill("bar 4")
        found = page.locator("#call-up-list li:not([hidden])")
        expect(found.first).to_contain_text("Bar 4")
        expect(found.filter(has_text="Whole")).to_have_count(0)
        search.fill("whole")
        search.press("Enter")
        expect(self.open_card().get_by_role("heading")).to_have_text("Whole piece")


class OneStepBack(LessonTest):
    def test_slower_by_a_rung_and_what_is_near_by_one_press_each(self):
        self.log_in()
        bar = self.plan.steps.get(name="Bar 4")
        page = self.go(f"{self.mode}?at={bar.pk}")
        tempo = self.open_card().get_by_label("Tempo")
        tempo.fill("107")
        for expected in ("105", "100"):
            self.page.keyboard.press("Escape")
            self.open_card().get_by_role("button", name="Slower by a rung").click()
            expect(tempo).to_have_value(expected)
        self.press("s")
        expect(tempo).to_have_value("95")
        tempo.fill("90")
        self.open_card().get_by_role("button", name="Slower by a rung").click()
        expect(self.open_card().locator(".said")).to_have_text(
            "That is the lowest rung. A tempo below it can be typed."
        )
        self.assertEqual(self.tries(), [])
        self.press("m")
        self.open_card().get_by_role("link", name="Bars 3 to 4").click()
        expect(self.open_card().get_by_role("heading")).to_have_text("Bars 3 to 4")
        self.assertIn("?at=", page.url)


class Slips(LessonTest):
    def test_a_double_click_is_one_try_and_enter_is_none(self):
        self.log_in()
        page = self.go(self.mode)
        self.open_card().get_by_role("button", name="Clean").dblclick()
        expect(self.open_card().locator(".said")).to_contain_text("rung 90 earned")
        self.assertEqual(self.tries(), [(90, True)])
        self.open_card().get_by_label("Tempo").press("Enter")
        expect(self.open_card().get_by_role("button", name="Faster by a rung")).to_be_focused()
        self.press("m")
        self.open_card().get_by_label("A word").fill("c")
        self.open_card().get_by_label("A word").press("x")
        self.open_card().get_by_label("A word").press("Enter")
        page.wait_for_timeout(600)
        self.assertEqual(self.tries(), [(90, True)])

    def test_a_second_press_at_once_counts_on_another_step(self):
        self.log_in()
        page = self.go(self.mode)
        self.press("c")
        page.keyboard.press("]")
        page.keyboard.press("x")
        reason = self.open_card().locator("[data-show=reason]")
        expect(reason).to_contain_text("not yet at 90")
        self.assertEqual(self.tries(), [(90, True), (90, False)])

    def test_two_slips_are_undone_where_they_happened_with_all_that_followed(self):
        self.log_in()
        self.go(self.mode)
        self.press("c")
        said = self.open_card().locator(".said")
        expect(said).to_contain_text("90 clean: rung 90 earned")
        self.press("x")
        expect(said).to_contain_text("95 not yet")
        self.press("u")
        expect(said).to_contain_text("90 clean: rung 90 earned")
        self.press("u")
        expect(said).to_have_text("Taken back: nothing logged here today.")
        expect(self.open_card().locator("[data-entry] [name=tempo]")).to_have_value("90")
        self.assertEqual(self.tries(), [])
        expect(self.open_card().get_by_role("button", name="undo")).to_be_hidden()
        self.press("c")
        expect(said).to_contain_text("90 clean: rung 90 earned")
        page = self.go(self.mode)  # for the rest of the lesson
        self.press("m")
        page.locator(".lesson-way a", has_text="Bar 1").first.click()
        self.press("u")
        expect(said).to_have_text("Taken back: nothing logged here today.")
        self.assertEqual(self.tries(), [])


class LostConnection(LessonTest):
    def _hear(self, message):
        # Music that was still asked for when the connection went is a failed request too.
        failed = ("ERR_INTERNET_DISCONNECTED", "htmx:sendError")
        if not any(one in message.text for one in failed):
            super()._hear(message)

    def test_tries_wait_in_the_page_and_are_sent_once_when_it_is_back(self):
        self.log_in()
        page = self.go(self.mode)
        self.context.set_offline(True)
        self.press("x")
        expect(page.locator(".waiting")).to_contain_text("1 try waits in this page")
        self.press("c")
        expect(page.locator(".waiting")).to_contain_text("2 tries wait in this page")
        page.get_by_role("link", name="End the lesson").click()
        expect(page.locator(".waiting")).to_be_visible()  # it does not leave them behind
        self.assertEqual(self.tries(), [])
        self.context.set_offline(False)
        expect(page.locator(".waiting")).to_be_hidden()
        self.assertEqual(self.tries(), [(90, False), (90, True)])

    def test_they_survive_the_page_being_closed(self):
        self.log_in()
        page = self.go(self.mode)
        self.context.set_offline(True)
        page.keyboard.press("c")
        expect(page.locator(".waiting")).to_be_visible()
        page.close()
        self.context.set_offline(False)
        self.page = self.context.new_page()
        page = self.go(self.mode)
        # A page that is closing may send it too, once the way is free: then this one was drawn
        # before it was there. And what follows from it is worked out after it is stored.
        self.until(lambda: self.tries() == [(90, True)] and not behind().exists())
        page.reload()
        expect(page.locator(".waiting")).to_be_hidden()
        expect(page.locator("[data-show=held]", has_text="90")).to_have_count(1)
        self.assertEqual(self.tries(), [(90, True)])

    def test_what_waited_since_yesterday_is_kept_there_and_not_called_taken_back(self):
        self.log_in()
        page = self.go(self.mode)
        self.context.set_offline(True)
        self.press("c")
        expect(page.locator(".waiting")).to_be_visible()
        yesterday = (date.today() - timedelta(days=1)).isoformat()
        page.evaluate(
            """(day) => {
              const store = "wren-" + document.getElementById("entries").dataset.store;
              const entries = wrenStore.read(store, []).map((one) => ({ ...one, day }));
              wrenStore.write(store, entries);
            }""",
            yesterday,
        )
        self.context.set_offline(False)
        said = self.open_card().locator(".said")
        expect(said).to_contain_text(
            "Kept on the day it was played; nothing logged here today."
        )
        self.assertEqual(str(Attempt.objects.get().day), yesterday)

    def test_music_that_does_not_come_is_no_lost_typing_and_is_asked_for_again(self):
        self.log_in()
        lost = []

        def lose(route):
            lost.append(route.request.url)
            route.abort("internetdisconnected")

        self.page.route("**/music/**", lose)
        page = self.go(self.mode)
        self.until(lambda: lost)
        expect(page.locator(".stand-music[data-wanted]").first).to_be_attached()
        expect(page.locator("#status-note")).to_have_count(0)

    def test_a_slip_without_a_connection_is_taken_back_before_it_is_sent(self):
        self.log_in()
        page = self.go(self.mode)
        self.context.set_offline(True)
        self.press("c")
        expect(page.locator(".waiting")).to_contain_text("1 try waits in this page")
        self.press("u")
        expect(self.open_card().locator(".said")).to_have_text(
            "Taken back; it was not sent yet."
        )
        self.press("x")
        expect(page.locator(".waiting")).to_contain_text("1 try waits in this page")
        self.context.set_offline(False)
        expect(page.locator(".waiting")).to_be_hidden()
        self.assertEqual(self.tries(), [(90, False)])

    def test_a_fault_of_the_studio_is_not_told_as_a_lost_connection(self):
        self.log_in()
        page = self.go(self.mode)
        page.route("**/entries/", lambda route: route.fulfill(status=500, body="broke"))
        self.press("c")
        expect(page.locator(".waiting")).to_contain_text("The studio had a fault. 1 try waits")
        page.unroute("**/entries/")
        expect(page.locator(".waiting")).to_be_hidden()
        self.assertEqual(self.tries(), [(90, True)])
        self.complaints.clear()  # the browser tells of the fault too

    def test_where_the_browser_stores_nothing_a_press_is_told_and_kept_on_the_page(self):
        self.log_in()
        page = self.go(self.mode)
        page.evaluate("() => { Storage.prototype.setItem = () => { throw new Error(); }; }")
        self.context.set_offline(True)
        self.press("c")
        expect(page.locator(".waiting")).to_contain_text("1 try waits in this page")
        expect(page.locator(".waiting")).to_contain_text("leave this page open")
        self.context.set_offline(False)
        expect(page.locator(".waiting")).to_be_hidden()
        self.assertEqual(self.tries(), [(90, True)])

    def test_logged_out_meanwhile_loses_nothing(self):
        self.log_in()
        page = self.go(self.mode)
        self.context.clear_cookies()
        page.keyboard.press("c")
        expect(page.locator(".waiting")).to_contain_text("You are logged out")
        self.log_in()
        self.go(self.mode)
        expect(page.locator("[data-show=held]", has_text="90")).to_have_count(1)
        self.assertEqual(self.tries(), [(90, True)])


class TwoTabs(LessonTest):
    def test_neither_entry_is_lost(self):
        self.log_in()
        first = self.go(self.mode)
        second = self.context.new_page()
        second.goto(self.live_server_url + self.mode)
        first.keyboard.press("c")
        expect(first.locator("#entries")).to_contain_text("90 clean: rung 90 earned.")
        second.locator(".lesson-card:not([hidden]) [data-entry] [name=tempo]").fill("100")
        second.locator(".lesson-card:not([hidden])").get_by_role("button", name="Clean").click()
        expect(second.locator("#entries")).to_contain_text("100 clean: rung 100 earned.")
        self.assertEqual(self.tries(), [(90, True), (100, True)])
        self.plan.refresh_from_db()
        self.assertEqual(self.plan.steps.first().standing.held, 100)


class Stranger(LessonTest):
    def test_another_teachers_addresses_are_refused(self):
        make_teacher("eve")
        self.log_in("eve")
        for address in (
            self.mode,
            self.student.get_absolute_url(),
            self.plan.get_absolute_url(),
            reverse("week", args=[self.student.pk]),
            reverse("report", args=[self.student.pk]),
        ):
            with self.subTest(address):
                answer = self.page.goto(self.live_server_url + address)
                self.assertEqual(answer.status, 404)


class Phone(LessonTest):
    width, height = 390, 844

    def setUp(self):
        super().setUp()
        self.student.lesson_day = date.today().weekday()  # so that today is no day of rest
        self.student.save()
        open_link(self.student)
        self.path = path_of(self.student)

    def bar(self):
        """The first bar among the things of today, opened."""
        self.page.locator(".lesson-way a", has_text="Bar 1").click()
        return self.page.locator(".lesson-card:not([hidden])")

    def test_a_student_logs_practice_and_sees_their_ladder(self):
        page = self.go(self.path)
        expect(page.get_by_role("heading", name="Ines's practice")).to_be_visible()
        card = self.bar()
        card.get_by_role("button", name="I did it").click()
        expect(card.get_by_label("Beats a minute")).to_have_value("95")
        expect(card.locator(".said")).to_contain_text("90 clean: 90 is yours now.")
        page.wait_for_timeout(500)
        card.get_by_role("button", name="Not yet").click()
        expect(card.locator(".said")).to_contain_text("95 not yet: kept, 95 again")
        page.reload()  # and later the same day
        card = self.bar()
        card.get_by_role("button", name="undo").click()
        expect(card.locator(".said")).to_contain_text("90 clean: 90 is yours now.")
        page.get_by_text("The week, and how long I played").click()
        page.get_by_label("Minutes today").fill("15")
        page.get_by_role("button", name="I played that").click()
        expect(page.get_by_text("15 minutes are logged.")).to_be_visible()
        page.locator("#ladder summary").first.click()
        expect(page.locator("svg.ladder")).to_be_visible()
        self.assertEqual(Attempt.objects.get().where, "home")
        self.assertEqual(HomeMinutes.objects.get().minutes, 15)
        wide = page.evaluate("document.documentElement.scrollWidth")
        self.assertLessEqual(wide, self.width)

    def test_a_link_that_was_closed_meanwhile_keeps_the_try_and_says_so(self):
        page = self.go(self.path)
        open_link(self.student)  # another address from now on
        self.bar().get_by_role("button", name="I did it").click()
        expect(page.locator(".waiting")).to_contain_text("This link was closed")
        self.assertEqual(self.tries(), [])


class ThreeLessons(LessonTest):
    """Three lessons in a row: two slips undone, a student who is ill, and a set week that is
    the same on paper and on the phone, and is there the week after."""

    def setUp(self):
        super().setUp()
        names = ("Bo Quill", "Cy Marsh")
        self.others = [
            make_student(self.teacher, name, lesson_day=date.today().weekday())
            for name in names
        ]
        for student in self.others:
            make_plan(self.plan.piece, student)

    def lines(self) -> list[str]:
        found = self.page.locator("ol.set-lines").first.locator("li").all_text_contents()
        return [" ".join(line.split()).split(" played")[0] for line in found]

    def test_an_afternoon_and_the_week_after(self):
        self.log_in()
        page = self.page
        # The second is ill: one press, and the Desk says so.
        card = page.locator(".desk-lesson", has_text="Bo Quill")
        card.get_by_text("Not taking place").click()
        card.get_by_role("button", name="The student is ill").click()
        expect(page.get_by_text("Ill (the student).", exact=True)).to_be_visible()
        self.go("/")
        expect(page.locator(".desk-lesson", has_text="Bo Quill")).to_contain_text("Ill")

        # The first has a lesson with two slips, each undone on the spot.
        page.locator(".desk-lesson", has_text="Ines").get_by_role("link", name="Begin").click()
        page.wait_for_url(f"**{self.mode}")
        self.press("c")
        expect(self.open_card().locator(".said")).to_contain_text("90 clean")
        self.press("u")
        expect(self.open_card().locator("[data-show=held]")).to_have_text("nothing yet")
        self.press("x")
        self.press("x")
        expect(self.open_card().locator(".said")).to_contain_text("not yet")
        self.open_card().get_by_role("button", name="undo").click()
        expect(self.open_card().locator(".said")).not_to_be_empty()
        self.press("c")
        expect(self.open_card().locator("[data-show=held]")).to_have_text("90")
        self.press("m")
        self.open_card().get_by_role("button", name="cymbal and kick").click()
        expect(self.open_card().get_by_role("heading")).to_have_text("Bar 1, cymbal and kick")
        self.press("c")  # what is held with all limbs is held with two
        expect(self.open_card().locator(".said")).to_contain_text("95 clean")
        page.keyboard.press("e")

        # The end: lines reordered, one of the teacher's own, words for the child.
        first = page.locator(".set-row:visible").first.locator("b").text_content()
        page.locator(".set-row:visible").first.get_by_role("button", name="Move down").press(
            "Enter"
        )
        expect(page.locator(".set-row:visible").nth(1)).to_contain_text(first)
        page.get_by_text("+ something else").click()
        page.locator("#else-list label", has_text="words of your own").first.click()
        page.locator(".set-row:visible").last.get_by_role("textbox").fill("clap it first")
        page.get_by_label("Message to Ines").fill("Count aloud, always!")
        page.get_by_role("button", name="Keep", exact=True).click()
        expect(page.get_by_text("The lesson is kept.")).to_be_visible()
        kept = self.lines()
        self.assertIn("clap it first", kept)
        self.assertTrue(kept[1].startswith(first))

        # The third lesson, and the Desk shows what was set in the first.
        self.go("/")
        expect(page.locator(".desk-lesson", has_text="Ines")).to_contain_text("Set today:")
        page.locator(".desk-lesson", has_text="Cy").get_by_role("link", name="Begin").click()
        page.wait_for_url("**/lesson/")
        self.press("c")
        expect(self.open_card().locator(".said")).to_contain_text("90 clean")
        page.keyboard.press("e")
        page.get_by_role("button", name="Keep", exact=True).click()
        expect(page.get_by_role("heading", name="Cy Marsh's lesson")).to_be_visible()

        # Line by line the same on the week, on paper and on the phone.
        self.go(reverse("week", args=[self.student.pk]))
        self.assertEqual(self.lines(), kept)
        paper = self.page.request.get(
            f"{self.live_server_url}{reverse('week-sheet', args=[self.student.pk])}"
        )
        pages = PdfReader(io.BytesIO(paper.body())).pages
        said = " ".join(" ".join(page.extract_text() for page in pages).split())
        for line in kept:
            self.assertIn(line, said)
        open_link(self.student)
        self.go(path_of(self.student))
        expect(page.get_by_text("Count aloud, always!")).to_be_visible()
        self.assertEqual(self.lines(), kept)

        # A week later it is still what was set, and is heard first in that order.
        Lesson.objects.filter(student=self.student).update(day=date.today() - timedelta(days=7))
        Attempt.objects.update(day=date.today() - timedelta(days=7))
        self.go(reverse("week", args=[self.student.pk]))
        self.assertEqual(self.lines(), kept)
        self.go(self.mode)
        way = page.locator(".lesson-way a").first
        self.assertTrue(kept[0].startswith(way.text_content().split("\n")[0].strip()))


class Together(LessonTest):
    """Two in one lesson: a strip of names, and keys that log for one of them or for both."""

    def setUp(self):
        super().setUp()
        self.other = make_student(self.teacher, "Bo Quill")
        self.bos = make_plan(self.plan.piece, self.other)
        company = uuid4()
        for student in (self.student, self.other):
            Lesson.objects.create(
                student=student, day=date.today(), state="planned", company=company
            )

    def tries_of(self, plan) -> list[tuple[int, bool]]:
        mine = Attempt.objects.filter(step__plan=plan).order_by("pk")
        return list(mine.values_list("tempo", "was_clean"))

    def test_a_try_of_one_then_of_both_and_back(self):
        self.log_in()
        page = self.go(self.mode)
        self.press("c")
        expect(self.open_card().locator(".said")).to_contain_text("rung 90 earned")
        page.get_by_role("button", name="Bo Quill").click()
        expect(self.open_card().get_by_role("heading")).to_have_text("Bar 1")
        self.press("x")
        expect(self.open_card().locator("[data-show=reason]")).to_contain_text("not yet at 90")
        self.assertEqual(self.tries_of(self.plan), [(90, True)])
        self.assertEqual(self.tries_of(self.bos), [(90, False)])
        page.get_by_role("button", name="Ines Okafor").click()
        page.get_by_label("for all").check()
        page.get_by_role("button", name="Ines Okafor").focus()
        self.press("c")
        expect(self.open_card().locator(".said")).to_contain_text("rung 95 earned")
        self.assertEqual(self.tries_of(self.plan), [(90, True), (95, True)])
        self.assertEqual(self.tries_of(self.bos), [(90, False), (95, True)])
        self.press("u")
        expect(self.open_card().locator(".said")).to_contain_text("rung 90 earned")
        self.assertEqual(self.tries_of(self.bos), [(90, False)])


class OneThumb(LessonTest):
    """A lesson on a phone, sticks in the other hand: nothing is scrolled, no key moves."""

    width, height = 390, 844

    def keys(self) -> dict[str, tuple[int, int]]:
        """Where the keys stand; all of them are in view."""
        found = {}
        for name in ("Not yet", "Clean", "Slower by a rung", "Faster by a rung", "play"):
            box = self.open_card().get_by_role("button", name=name).bounding_box()
            self.assertLessEqual(box["y"] + box["height"], self.height, name)
            self.assertLessEqual(box["x"] + box["width"], self.width, name)
            self.assertGreater(box["y"], self.height * 0.7, name)  # within a thumb's reach
            found[name] = (round(box["x"]), round(box["y"]))
        self.assertEqual(self.page.evaluate("scrollY"), 0)
        return found

    def touch(self, name: str) -> None:
        self.page.wait_for_timeout(500)
        self.open_card().get_by_role("button", name=name, exact=True).click()

    def test_three_tries_an_undo_another_bar_and_the_end(self):
        self.log_in()
        page = self.go(self.mode)
        keys = self.keys()
        said = self.open_card().locator(".said")
        self.touch("Clean")
        expect(said).to_contain_text("rung 90 earned")
        self.assertEqual(self.keys(), keys)
        self.touch("Not yet")
        expect(said).to_contain_text("95 not yet")
        self.touch("undo")
        expect(said).to_contain_text("rung 90 earned")
        self.touch("Clean")
        expect(said).to_contain_text("rung 95 earned")
        self.assertEqual(self.keys(), keys)
        self.touch("The next step")
        expect(self.open_card().get_by_role("heading")).to_have_text("Bar 4")
        self.assertEqual(self.keys(), keys)
        self.assertEqual(self.tries(), [(90, True), (95, True)])
        wide = page.evaluate("document.documentElement.scrollWidth")
        self.assertLessEqual(wide, self.width)
        page.get_by_role("link", name="end the lesson").click()
        page.get_by_role("button", name="Keep", exact=True).click()
        expect(page.get_by_role("heading", name="Ines Okafor's lesson")).to_be_visible()
