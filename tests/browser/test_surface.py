"""What stands in the first view of pages with much in them, and with nothing: as `budgets.py`
allows. Every page of the demo is held to it in `test_every_page.py`."""

from django.contrib.auth.models import User

from bench.surface import SIZES, surface
from tests.browser.base import BrowserTest
from tests.browser.budgets import WITH_A_KEY, over_budget
from tests.browser.demo_pages import addresses
from tests.demo_once import load_demo
from tests.studio.base import make_student, make_teacher
from wren_ladder.demo import studio
from wren_ladder.studio.students.models import Student

LONG = "Featherstonehaughachterbergmannsdottirsson"  # no place to break it


class FirstView(BrowserTest):
    def setUp(self):
        super().setUp()
        load_demo()
        self.addresses = addresses()  # found by the names of the demo

    def over(self, names) -> list[str]:
        """Of the pages by these names what holds more than its budget."""
        self.log_in(studio.USER)
        over = []
        for size, (width, height) in SIZES.items():
            self.page.set_viewport_size({"width": width, "height": height})
            for name in names:
                self.go(self.addresses[name])
                over += over_budget(self.page, name, size)
        return over

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
