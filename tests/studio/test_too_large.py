"""What is larger than anything a studio can use is refused before it is read."""

from django.contrib.auth.models import AnonymousUser
from django.test import RequestFactory
from django.urls import reverse

from tests.studio.base import StudioTest, make_student
from wren_ladder.studio.pages.plain_requests import (
    MOST_BODY,
    MOST_BY_LINK,
    MOST_OF_A_STRANGER,
    MOST_STUDIO,
    PlainRequestsMiddleware,
)
from wren_ladder.studio.students.links import open_link, path_of


class TooLarge(StudioTest):
    def status(self, address: str, bytes_long: object, user=None) -> int:
        """Without sending them: the length is what a request says of itself."""
        read = PlainRequestsMiddleware(lambda request: self.client.get(reverse("privacy")))
        request = RequestFactory().post(address)
        request.META["CONTENT_LENGTH"] = str(bytes_long)
        request._body, request.user = b"", user or self.teacher
        return read(request).status_code

    def test_it_says_how_much_is_taken(self):
        page = self.client.post(reverse("desk"), CONTENT_LENGTH=str(MOST_BODY + 1))
        self.assertContains(page, "At most 64 MB are taken at once", status_code=413)

    def test_a_whole_studio_may_be_larger(self):
        self.assertEqual(self.status("/pieces/upload/", MOST_BODY + 1), 413)
        self.assertNotEqual(self.status(reverse("studio-in"), MOST_BODY + 1), 413)
        self.assertEqual(self.status(reverse("studio-in"), MOST_STUDIO + 1), 413)

    def test_a_length_that_is_none_is_no_fault(self):
        for said in ("", "none", "9" * 400):
            with self.subTest(said):
                self.assertIn(self.status("/pieces/upload/", said), (200, 413))

    def test_any_number_is_a_number(self):
        for said in ("1000000000", "9999999999", "9" * 19, "9" * 400):
            with self.subTest(said):
                self.assertEqual(self.status("/pieces/upload/", said), 413)

    def test_of_a_stranger_little_is_read_and_by_a_valid_link_a_take(self):
        stranger, student = AnonymousUser(), make_student(self.teacher)
        open_link(student)
        here, nowhere = f"{path_of(student)}takes/", "/s/abc/takes/"
        for address, length, status in (
            (reverse("login"), MOST_OF_A_STRANGER, 200),
            (reverse("login"), MOST_OF_A_STRANGER + 1, 413),
            (reverse("piece-upload"), MOST_OF_A_STRANGER + 1, 413),
            (nowhere, MOST_OF_A_STRANGER + 1, 413),
            (here, MOST_BY_LINK, 200),
            (here, MOST_BY_LINK + 1, 413),
            ("/no/such/page/", MOST_OF_A_STRANGER + 1, 413),
        ):
            with self.subTest(address, length=length):
                self.assertEqual(self.status(address, length, stranger), status)

    def test_a_body_that_does_not_say_how_long_it_is_is_not_read(self):
        page = self.client.post(reverse("login"), headers={"transfer-encoding": "chunked"})
        self.assertContains(page, "does not say how large it is", status_code=411)
