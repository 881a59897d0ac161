"""Every address and every parameter, with numbers that are none or too large: never a 500."""

import json
import re
from collections.abc import Iterator

from django.urls import URLPattern, URLResolver, get_resolver
from parameterized import parameterized

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.studio.students.links import open_link

ODD = ("9" * 400, "²")
TOO_LARGE = ("9" * 400, "18446744073709551616")
LONG = "ä" * 50_000
PART = re.compile(r"<(?:(\w+):)?(\w+)>")
# What addresses, forms and scripts of the studio name their parameters.
NAMES = (
    "at", "bar", "beside", "first", "last", "page", "plan", "q", "seed", "step", "student",
    "take", "tempo", "until", "week", "year", "month", "passes", "minutes", "grade", "start",
    "target", "length", "version", "kind", "with", "as", "back", "undo", "key", "clean_try",
    "limbs", "strokes", "latency", "empty_bars", "way", "file", "text", "day", "recipe", "name",
    "title",
)  # fmt: skip


def addresses() -> Iterator[str]:
    def walk(patterns, before: str) -> Iterator[str]:
        for one in patterns:
            route = before + str(one.pattern)
            if isinstance(one, URLResolver):
                yield from walk(one.url_patterns, route)
            elif isinstance(one, URLPattern):
                yield "/" + route

    yield from walk(get_resolver().url_patterns, "")


class OddNumbers(StudioTest):
    tests_apart = True

    def setUp(self):
        super().setUp()
        self.client.raise_request_exception = False
        self.student = make_student(self.teacher)
        self.plan = make_plan(make_piece(self.teacher), self.student)
        log(self.plan.steps.first(), 90)
        open_link(self.student)

    def filled(self, route: str, odd: str | None = None) -> str:
        """A route with numbers that there are, or with the odd one in place of each."""
        known = {"signed": self.student.link_key or "x"}
        return PART.sub(
            lambda part: odd if odd and part[1] == "int" else str(known.get(part[2], 1)), route
        )

    def check(self, answer, said) -> None:
        if answer.status_code >= 500:
            self.broken.append(f"{answer.status_code} {said[:160]}")

    def test_in_every_address(self):
        self.broken = []
        for route in addresses():
            if "<int:" not in route:
                continue
            for odd in TOO_LARGE:
                for method in (self.client.get, self.client.post):
                    self.check(method(self.filled(route, odd)), f"{route} {odd[:20]}")
        self.assertEqual(self.broken, [])

    @parameterized.expand(["get", "post"])
    def test_in_every_parameter(self, method):
        self.broken = []
        ask = getattr(self.client, method)
        for route in addresses():
            if "log-out" in route or "pdf" in route:  # a sheet is slow, and asks for no number
                continue
            for odd in ODD:
                answer = ask(self.filled(route), dict.fromkeys(NAMES, odd))
                self.check(answer, f"{method} {route} {odd[:20]}")
        self.assertEqual(self.broken, [])

    def test_in_every_entry(self):
        self.broken = []
        body = json.dumps([dict.fromkeys(NAMES, ODD[0])])
        for route in addresses():
            if "entries" in route or "takes" in route:
                address = self.filled(route)
                answer = self.client.post(address, body, content_type="application/json")
                self.check(answer, f"JSON {route}")
        self.assertEqual(self.broken, [])

    def test_fifty_thousand_characters_are_searched_for(self):
        self.broken = []
        for address in (
            "/pieces/",
            "/students/",
            "/workshop/",
            f"/plans/{self.plan.pk}/progress/",
        ):
            self.check(self.client.get(address, {"q": LONG}), address)
        self.assertEqual(self.broken, [])
