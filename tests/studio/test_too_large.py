"""What is larger than anything a studio can use is refused before it is read."""

from django.test import RequestFactory
from django.urls import reverse

from tests.studio.base import StudioTest
from wren_ladder.studio.pages.plain_requests import (
    MOST_BODY,
    MOST_STUDIO,
    PlainRequestsMiddleware,
)


class TooLarge(StudioTest):
    def status(self, address: str, bytes_long: object) -> int:
        """Without sending them: the length is what a request says of itself."""
        read = PlainRequestsMiddleware(lambda request: self.client.get(reverse("privacy")))
        request = RequestFactory().post(address)
        request.META["CONTENT_LENGTH"] = str(bytes_long)
        request._body = b""
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
