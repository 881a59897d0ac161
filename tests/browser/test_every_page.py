"""Every page of the demo studio: accessible, inside its width, by axe-core and by ruler."""

from django.urls import reverse
from playwright.sync_api import expect

from tests.browser.base import AXE, BrowserTest
from tests.demo_once import load_demo
from wren_ladder.demo import studio
from wren_ladder.studio.climb.models import Attempt, Take
from wren_ladder.studio.exams.models import Exam
from wren_ladder.studio.pieces.models import Import, Piece
from wren_ladder.studio.plans.models import Plan, StudentBar
from wren_ladder.studio.scans.models import Scan
from wren_ladder.studio.students.links import path_of


def addresses() -> dict[str, str]:
    """One address of every kind of page."""
    plan = Plan.objects.filter(student__name="Mira Lindahl").first()
    piece, student = plan.piece, plan.student
    recorded = Piece.objects.get(recording__isnull=False)
    attempt = Attempt.objects.filter(step__plan=plan).first()
    step = plan.steps.first()
    fill = StudentBar.objects.select_related("bar").get()
    filled = Plan.objects.get(student=fill.student, piece=fill.bar.piece)
    own = f"/plans/{filled.pk}/bars"
    at_home = Take.objects.get(where="home")
    exam = Exam.objects.get(student__name="Ines Okafor")
    passed = Exam.objects.get(result=Exam.Result.PASSED)
    return {
        "desk": "/",
        "pieces": "/pieces/",
        "no piece found": "/pieces/?q=zzz",
        "new piece": "/pieces/new/",
        "upload": "/pieces/upload/",
        "piece": f"/pieces/{piece.pk}/?bar=3",
        "chart": f"/pieces/{piece.pk}/score/",
        "practice room": f"/pieces/{piece.pk}/room/",
        "along a recording": f"/pieces/{recorded.pk}/room/?with=recording",
        "road map": f"/pieces/{piece.pk}/road/",
        "edit piece": f"/pieces/{piece.pk}/edit/",
        "edit piece as text": f"/pieces/{piece.pk}/edit/?as=text",
        "vocabulary": f"/pieces/{piece.pk}/vocabulary/",
        "bar": f"/pieces/{piece.pk}/bars/3/all/",
        "import": Import.objects.get(name="tide_tables.musicxml").get_absolute_url(),
        "import of a take": Import.objects.get(name="boathouse_take.mid").get_absolute_url(),
        "printed page": "/printed/new/",
        "a bar from the page": Scan.objects.get().get_absolute_url(),
        "key of the staff": f"{Scan.objects.get().get_absolute_url()}key/",
        "bars looked over": f"{Scan.objects.get().get_absolute_url()}look/",
        "lines of the page": f"{Scan.objects.get().get_absolute_url()}pages/1/",
        "workshop": f"/workshop/?student={student.pk}",
        "fills of the shelf": "/workshop/?kind=fill",
        "groove board": "/workshop/grooves/",
        "a groove": "/workshop/grooves/hat-quavers/1-3-3n/",
        "sticking grooves": "/workshop/stickings/",
        "accents": "/workshop/accents/",
        "foot studies": "/workshop/feet/",
        "fills": "/workshop/fills/",
        "warm-ups": "/workshop/warm-ups/",
        "reading": "/workshop/reading/?grade=3&bars=8&seed=3",
        "rudiments": "/rudiments/",
        "rudiment": "/rudiments/flam-drag/",
        "teaching style": "/teaching/",
        "delete piece": f"/pieces/{piece.pk}/delete/",
        "give": f"/pieces/{piece.pk}/give/",
        "students": "/students/",
        "student": f"/students/{student.pk}/",
        "new student": "/students/new/",
        "compare pieces": f"/students/{student.pk}/compare/",
        "lesson mode": f"/students/{student.pk}/lesson/",
        "end of the lesson": f"/students/{student.pk}/lesson/end/",
        "lesson": student.lessons.first().get_absolute_url(),
        "another lesson": f"/students/{student.pk}/lessons/new/",
        "change the lesson": f"/lessons/{student.lessons.first().pk}/change/",
        "exam": exam.get_absolute_url(),
        "an exam that was passed": passed.get_absolute_url(),
        "mock exam": f"/exams/{exam.pk}/mock/",
        "change the exam": f"/exams/{exam.pk}/edit/",
        "another exam": f"/students/{student.pk}/exams/new/",
        "choose a piece": f"/pieces/?for={student.pk}",
        "give to one": f"/pieces/{recorded.pk}/give/?student={student.pk}",
        "timetable": "/lessons/",
        "terms and holidays": "/lessons/periods/",
        "end of term": "/lessons/term/",
        "bin": "/bin/",
        "words": "/words/",
        "week": f"/students/{student.pk}/week/",
        "minutes": f"/students/{student.pk}/minutes/",
        "edit student": f"/students/{student.pk}/edit/",
        "link": path_of(student),
        "what is held": f"{path_of(student)}held/",
        "a whole piece on the phone": f"{path_of(student)}pieces/{piece.pk}/",
        "a closed link": "/s/closed/",
        "report": f"/students/{student.pk}/report/",
        "password": "/password/",
        "log-in of one's own": "/account/",
        "second factor": "/account/second-factor/",
        "what is kept": "/privacy/",
        "house": "/house/",
        "shared piece": f"/house/pieces/{Piece.objects.get(title='Rope Walk').pk}/",
        "export or erase": f"/students/{student.pk}/kept/",
        "in and out": "/in-and-out/",
        "bring in attempts": "/in-and-out/attempts/",
        "plan": f"/plans/{plan.pk}/?bar=3",
        "breakdown": f"/plans/{plan.pk}/steps/",
        "breakdown, a step": f"/plans/{plan.pk}/steps/?step={step.pk}",
        "breakdown, a bar": f"/plans/{plan.pk}/steps/?bar=3",
        "two schools": f"/plans/{plan.pk}/compare/",
        "revise": f"/plans/{plan.pk}/revise/?school=phrase",
        "chain": f"/pieces/{piece.pk}/bars/3/chain/",
        "fill": f"{own}/{fill.bar.position}/own/",
        "in style": f"{own}/{fill.bar.position - 3}/own/",
        "step": f"/steps/{step.pk}/",
        "take": f"/takes/{Take.objects.first().pk}/",
        "two takes": f"/takes/{Take.objects.last().pk}/?beside={Take.objects.last().pk + 1}",
        "rules for takes": "/takes/rules/",
        "link that records": path_of(at_home.step.plan.student),
        "a take on the phone": f"{path_of(at_home.step.plan.student)}takes/{at_home.pk}/",
        "edit step": f"/steps/{step.pk}/edit/",
        "tempos": f"/plans/{plan.pk}/edit/",
        "progress": f"/plans/{plan.pk}/progress/",
        "attempt": f"/attempts/{attempt.pk}/edit/",
        "nowhere": "/nowhere/",
    }


class Accessible(BrowserTest):
    """WCAG 2.1 A and AA by axe-core: nothing serious or critical."""

    bypass_csp = True

    def setUp(self):
        super().setUp()
        load_demo()

    def faults(self, options: str = "{resultTypes: ['violations']}") -> list[str]:
        if not self.page.evaluate("'axe' in window"):
            # Staves are hidden from screen readers and said in words beside them; emptied, for
            # they are very many paths, all of which would be walked over.
            staves = "document.querySelectorAll('.staff-svg')"
            self.page.evaluate(f"for (const one of {staves}) one.replaceChildren()")
            self.page.add_script_tag(path=AXE)
        found = self.page.evaluate(f"axe.run({{exclude: ['.staff-svg']}}, {options})")
        return [
            f"{fault['id']}: {fault['nodes'][0]['html'][:160]}"
            for fault in found["violations"]
            if fault["impact"] in ("serious", "critical")
        ]

    def faults_of_room(self) -> list[str]:
        """Only what may come of a narrower page."""
        return self.faults(
            "{runOnly: ['scrollable-region-focusable', 'target-size', 'label', 'link-name',"
            " 'button-name', 'select-name', 'aria-hidden-focus', 'skip-link', 'bypass']}"
        )

    def faults_at_night(self) -> list[str]:
        """Only what the colours can be to blame for."""
        self.page.emulate_media(color_scheme="dark", reduced_motion="reduce")
        found = self.page.evaluate(
            "axe.run({exclude: ['.staff-svg']}, {runOnly: ['color-contrast']})"
        )
        self.page.emulate_media(color_scheme="light", reduced_motion="no-preference")
        return [
            f"{node['html'][:120]}: {node['any'][0]['message'][:160]}"
            for fault in found["violations"]
            for node in fault["nodes"]
        ]

    def test_no_page_has_a_serious_fault(self):
        self.go("/log-in/")
        self.assertEqual(self.faults(), [])
        self.log_in(studio.USER, studio.PASSWORD)
        for name, address in addresses().items():
            with self.subTest(name):
                self.go(address)
                self.assertEqual(self.faults(), [])
                self.page.set_viewport_size({"width": 390, "height": 800})
                self.assertEqual(self.faults_of_room(), [])
                self.page.set_viewport_size({"width": self.width, "height": self.height})
                self.assertEqual(self.faults_at_night(), [])
                self.assertRegex(self.page.title(), r"^\S.+ · Wren Ladder$")


class Narrow(BrowserTest):
    width, height = 390, 800

    def setUp(self):
        super().setUp()
        load_demo()

    def test_no_page_is_wider_than_a_phone(self):
        self.log_in(studio.USER, studio.PASSWORD)
        for name, address in addresses().items():
            page = self.go(address)
            for width in (390, 360):
                with self.subTest(f"{name} at {width}"):
                    page.set_viewport_size({"width": width, "height": self.height})
                    wide = page.evaluate("document.documentElement.scrollWidth")
                    self.assertLessEqual(wide, width)


class Fingers(BrowserTest):
    """WCAG 2.2, success criterion 2.5.5: 44 px, but for links within a sentence or a table."""

    width, height = 390, 844
    SMALL = """() => {
      const all = "a, button, input:not([type=hidden]), select, textarea, summary";
      const unseen = "svg, .visually-hidden, .visually-hidden-focusable";
      const inText = (one) => one.matches("a") && one.closest("p, td, th, h1, h2, .head > span")
        && getComputedStyle(one).display === "inline";
      const tick = "[type=checkbox], [type=radio]";
      const height = (one) =>
        (one.matches(tick) ? one.labels[0] || one : one).getBoundingClientRect().height;
      return [...document.querySelectorAll(all)]
        .filter((one) => one.checkVisibility() && !one.closest(unseen) && !inText(one))
        .filter((one) => height(one) < 43.5)
        .map((one) => `${one.outerHTML.slice(0, 120)}: ${height(one)}`);
    }"""

    def setUp(self):
        super().setUp()
        load_demo()

    def test_what_is_pressed_is_as_high_as_a_finger_on_student_and_lesson_screens(self):
        self.log_in(studio.USER, studio.PASSWORD)
        for name, address in addresses().items():
            if not address.startswith(("/students/", "/lessons/", "/s/")):
                continue
            with self.subTest(name):
                self.assertEqual(self.go(address).evaluate(self.SMALL), [])


class Swaps(BrowserTest):
    """What is put into a page later obeys the content policy too: a quiet console."""

    MOST = 4  # presses a page; its parts are made alike

    def setUp(self):
        super().setUp()
        load_demo()

    def test_no_swap_complains(self):
        self.log_in(studio.USER, studio.PASSWORD)
        pressed = 0
        for name, address in addresses().items():
            with self.subTest(name):
                page = self.go(address)
                many = page.locator("a[hx-get], button[hx-get], select[hx-get]").count()
                for place in range(min(many, self.MOST)):
                    one = page.locator("a[hx-get], button[hx-get], select[hx-get]").nth(place)
                    if not one.is_visible():
                        continue
                    one.dispatch_event(
                        "change" if one.evaluate("e => e.tagName") == "SELECT" else "click"
                    )
                    page.wait_for_load_state("networkidle")
                    pressed += 1
                self.assertEqual(self.complaints, [])
        self.assertGreater(pressed, 10)


class Whole(BrowserTest):
    """What only a browser can tell of the drawings."""

    def setUp(self):
        super().setUp()
        load_demo()
        self.log_in(studio.USER, studio.PASSWORD)

    def test_every_id_on_the_wall_is_there_once_and_every_reference_is_kept(self):
        for piece in Piece.objects.filter(owner__username=studio.USER):
            page = self.go(piece.get_absolute_url())
            with self.subTest(piece.title):
                twice, lost = page.evaluate(
                    """() => {
                      const ids = [...document.querySelectorAll('[id]')].map((e) => e.id);
                      const uses = [...document.querySelectorAll('use')].map(
                        (e) => e.getAttribute('href').slice(1));
                      return [ids.filter((id, i) => ids.indexOf(id) !== i),
                              uses.filter((id) => !ids.includes(id))];
                    }"""
                )
                self.assertEqual((twice, lost), ([], []))
                first = page.locator(".house").bounding_box()
                self.assertEqual(first["y"], 0)  # the glyphs in front of it take no room

    def test_the_count_stands_under_its_notes(self):
        plan = Plan.objects.get(student__name="Tobi Marsh")
        step = plan.steps.filter(first__isnull=False).first()
        page = self.go(reverse("step", args=[step.pk]))
        staff = page.locator("figure.score svg").first
        expect(staff).to_be_visible()
        heads = staff.locator("g.note")
        first = heads.nth(0).locator("use").first.bounding_box()
        one = staff.locator("text", has_text="1").first.bounding_box()
        self.assertLess(abs(first["x"] - one["x"]), 14)
        self.assertGreater(one["y"], first["y"])
