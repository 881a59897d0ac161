"""A studio with one teacher logged in, and short ways to fill it."""

import re
from datetime import date, timedelta

import lxml.html
from django.contrib.auth.models import User
from django.http import HttpResponse
from django.test import Client, TestCase

from tests.builders import QUAY
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.studio.changes.attempts import log_attempts
from wren_ladder.studio.changes.pieces import add_piece
from wren_ladder.studio.changes.plans import give
from wren_ladder.studio.climb.models import Attempt
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.models import Student


def make_teacher(name: str = "ada") -> User:
    return User.objects.create_user(name, password="a-long-password")


def make_piece(owner: User, text: str = QUAY, title: str = "Quay") -> Piece:
    return add_piece(owner, read_chart(text, title=title))


def make_student(owner: User, name: str = "Ines", **fields) -> Student:
    """One whose practice at home earns rungs, unless said otherwise."""
    return Student.objects.create(owner=owner, name=name, **{"home_earns": True, **fields})


def make_plan(piece: Piece, student: Student, start: int = 90, target: int = 120) -> Plan:
    plan = Plan(owner=piece.owner, piece=piece, start=start, target=target)
    return give(plan, student)


NOTHING_SET = {"line-TOTAL_FORMS": 0, "line-INITIAL_FORMS": 0}


def set_lines(*lines: dict) -> dict[str, object]:
    """Lines as the end of a lesson sends them; each is a step with its tempo, or words."""
    sent: dict[str, object] = {"line-TOTAL_FORMS": len(lines), "line-INITIAL_FORMS": 0}
    for number, line in enumerate(lines):
        fields = {"use": "on", "ORDER": number + 1, **line}
        sent |= {f"line-{number}-{name}": value for name, value in fields.items()}
    return sent


def undo_form(page: HttpResponse) -> lxml.html.FormElement:
    (form,) = lxml.html.fromstring(page.content).xpath("//form[@class='undo']")
    return form


def press_undo(client: Client, page: HttpResponse) -> HttpResponse:
    """The key in the message that tells what was done, as the page has it."""
    form = undo_form(page)
    return client.post(form.get("action"), dict(form.fields), follow=True)


def log(step, tempo: int, clean: bool = True, passes: int = 8, days_ago: int = 0) -> Attempt:
    day = date.today() - timedelta(days=days_ago)
    attempt = Attempt(step=step, day=day, tempo=tempo, was_clean=clean, passes=passes)
    log_attempts([attempt])
    return attempt


class StudioTest(TestCase):
    def setUp(self):
        self.teacher = make_teacher()
        self.client.force_login(self.teacher)

    def assertContains(self, response, text, *args, html=False, **kwargs):  # noqa: N802
        """As the browser reads it: a line's end in the template is a space."""
        if html or not response.get("Content-Type", "").startswith("text/html"):
            return super().assertContains(response, text, *args, html=html, **kwargs)
        return super().assertContains(_on_one_line(response), _one_line(text), *args, **kwargs)

    def assertNotContains(self, response, text, *args, html=False, **kwargs):  # noqa: N802
        if html or not response.get("Content-Type", "").startswith("text/html"):
            return super().assertNotContains(response, text, *args, html=html, **kwargs)
        return super().assertNotContains(
            _on_one_line(response), _one_line(text), *args, **kwargs
        )

    def opened(self, address: str, field: str) -> dict[str, str]:
        """The form of a page that has this field, as a browser would send it back."""
        return self.fields_of(self.client.get(address), field)

    def fields_of(self, answer, field: str) -> dict[str, str]:
        page = lxml.html.document_fromstring(answer.content)
        form = next(form for form in page.forms if field in form.fields)
        sent = {}
        for one in form.inputs:
            if getattr(one, "checkable", False) and not one.checked:
                continue
            value = (one.value or "").removeprefix("\n")  # of a text, no part of it
            sent[one.name] = value.replace("\n", "\r\n")
        return sent

    def other_teacher(self) -> User:
        return make_teacher("eve")

    def fresh(self, thing):
        return type(thing).objects.get(pk=thing.pk)


def _on_one_line(response):
    """The same answer with its white space as one space, none before the end of a tag."""
    one = HttpResponse(status=response.status_code, headers=dict(response.headers))
    one.content = _one_line(response.content.decode())
    return one


def _one_line(text) -> str:
    return re.sub(r" +(/?>)", r"\1", re.sub(r"\s+", " ", str(text)))
