"""What stands in the first view of every page, against the budgets of the stand
(`docs/architecture.md`): controls, words, one filled key, and where it is."""

from django.contrib.auth.models import User

from bench.surface import SIZES, surface
from tests.browser.base import BrowserTest
from tests.browser.test_every_page import addresses
from tests.demo_once import load_demo
from tests.studio.base import make_student, make_teacher
from wren_ladder.demo import studio
from wren_ladder.studio.students.models import Student

LONG = "Featherstonehaughachterbergmannsdottirsson"  # no place to break it

# (controls on a laptop, on a phone; words on a laptop, on a phone)
BUDGETS = {
    "lesson mode": (12, 9, 60, 40),
    "desk": (6 + 3 * 4, 6 + 3 * 4, 40 + 45 * 4, 40 + 45 * 4),  # four lessons at the most
    "end of the lesson": (
        8 + 3 * 6,
        8 + 3 * 6,
        60 + 8 * 6,
        60 + 8 * 6,
    ),  # six lines at the most
    "student": (16, 16, 180, 180),
    "give to one": (8, 8, 70, 70),
    "another lesson": (8, 8, 70, 70),
    "tempos": (8, 8, 70, 70),
    "new student": (8, 8, 70, 70),
    "report": (8, 8, 70, 70),
    "bar": (18, 18, 160, 160),
    "plan": (18, 18, 200, 160),  # of a piece of sixteen bars
    "breakdown": (18, 18, 200, 160),
    "breakdown, a step": (18, 18, 200, 160),
    "breakdown, a bar": (18, 18, 200, 160),
}
OTHER = (25, 25, 250, 250)
WORKSHOP = (8, 2, 30, 8)  # controls, and for each card; words, and for each card
TO_BE_READ = ("what is kept",)  # a text, in words that the law wants
# Where one comes to press a key, one is filled, and it is seen at once.
WITH_A_KEY = (
    "lesson mode",
    "end of the lesson",
    "student",
    "new student",
    "give to one",
    "report",
    "tempos",
    "another lesson",
    "mock exam",
)


class FirstView(BrowserTest):
    def setUp(self):
        super().setUp()
        load_demo()
        self.addresses = addresses()  # found by the names of the demo

    def over(self, names=None):
        """Of the pages by these names (all) what holds more than its budget."""
        self.log_in(studio.USER, studio.PASSWORD)
        over = []
        for size, (width, height) in SIZES.items():
            self.page.set_viewport_size({"width": width, "height": height})
            for name, address in self.addresses.items():
                if name in TO_BE_READ or (names and name not in names):
                    continue
                self.go(address)
                found = surface(self.page)
                budget = BUDGETS.get(name, OTHER)
                controls, words = budget[size == "phone"], budget[2 + (size == "phone")]
                if found.cards > 1:
                    few, more, said, each = WORKSHOP
                    controls, words = few + more * found.cards, said + each * found.cards
                if found.controls > controls or found.words > words:
                    over.append((name, size, found, (controls, words)))
                if name in WITH_A_KEY and found.filled != 1:
                    over.append((name, size, found, "one filled key in view"))
                if self.page.evaluate("document.documentElement.scrollWidth > innerWidth"):
                    over.append((name, size, "wider than the screen"))
        self.complaints.clear()  # one address is nowhere
        return over

    def test_every_page_keeps_its_budget(self):
        self.assertEqual(self.over(), [])

    def test_thirty_students_with_names_of_forty_letters_change_nothing(self):
        teacher = User.objects.get(username=studio.USER)
        for student in Student.objects.filter(owner=teacher):
            student.name = f"{student.name.split()[0]} {LONG}"[:40]
            student.save()
        for number in range(30 - Student.objects.filter(owner=teacher).count()):
            make_student(teacher, f"{number:02} {LONG}"[:40])
        self.page.emulate_media(color_scheme="dark")
        self.assertEqual(self.over((*WITH_A_KEY, "desk", "students")), [])

    def test_a_studio_with_nobody_keeps_them_too(self):
        make_teacher("nobody")
        self.log_in("nobody")
        for width, height in SIZES.values():
            self.page.set_viewport_size({"width": width, "height": height})
            for address in ("/", "/students/", "/pieces/", "/lessons/"):
                with self.subTest(address, width=width):
                    self.go(address)
                    found = surface(self.page)
                    self.assertLessEqual(found.controls, 8)
                    self.assertLessEqual(found.words, 90)
                    self.assertEqual(found.filled, 1)
