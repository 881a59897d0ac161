"""One student exported and erased, what ends by itself, and the page that says so."""

import sqlite3
from contextlib import closing
from datetime import date, datetime, timedelta
from pathlib import Path
from uuid import uuid4

from axes.models import AccessAttempt
from django.conf import settings
from django.contrib.sessions.models import Session
from django.db import connection
from django.test import Client, TransactionTestCase
from django.urls import reverse
from django.utils import timezone

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student, make_teacher
from wren_ladder.drumming.files import write_file
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.studio.accounts.models import SentForm
from wren_ladder.studio.bin.models import Binned
from wren_ladder.studio.changes.bin import put_in_bin
from wren_ladder.studio.climb.models import HomeMinutes, Take
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.pieces.models import Draft, Import, Piece
from wren_ladder.studio.privacy.erasing import database_files, sweep
from wren_ladder.studio.privacy.expiry import OnceADay, expire
from wren_ladder.studio.privacy.student_file import student_file
from wren_ladder.studio.students.links import open_link, path_of
from wren_ladder.studio.students.models import Student

NAME = "Zoë Quillfeather"
TODAY = date(2027, 3, 1)


def with_everything(teacher) -> Student:
    """Named in every place where a name can come to stand."""
    student = make_student(teacher, NAME, notes=f"{NAME} counts aloud.")
    plan = make_plan(make_piece(teacher), student)
    step = plan.steps.first()
    log(step, 90)
    step.attempts.update(note="Zoë Quillfeather, even")
    Take.objects.create(
        step=step, day=TODAY, source="kit", tempo=90, passes=2, strokes=[[12.5, "snare", 90]]
    )
    HomeMinutes.objects.create(student=student, day=TODAY, minutes=20, note="on the pad")
    Lesson.objects.create(
        student=student,
        day=TODAY,
        note="Tired today.",
        message="Slow is fast.",
        did=["Bar 4: 95"],
    )
    second = make_plan(make_piece(teacher, title=f"Warm-up for {NAME}"), student)
    put_in_bin(second, teacher, f"{NAME}: a warm-up", "its tries", TODAY)
    other = make_student(teacher, "Mira")
    Lesson.objects.create(
        student=other, day=TODAY, note="Came with ZOË QUILLFEATHER'S brother."
    )
    Draft.objects.create(owner=teacher, bars=[], notes=f"for {NAME}", text=f"# {NAME}\nbar 1")
    Import.objects.create(owner=teacher, name=f"{NAME}.wren", data=b"bar 1")
    Import.objects.create(owner=teacher, name="b.wren", data=f"# {NAME}".encode())
    packed = write_file("c.mxl", read_chart("bar 1\nhat 8ths", title=f"For {NAME}"))
    Import.objects.create(owner=teacher, name="c.mxl", data=packed)
    open_link(student)
    return student


class OneReadableFile(StudioTest):
    def test_everything_of_the_student_is_in_it(self):
        student = with_everything(self.teacher)
        page = self.client.get(reverse("student-file", args=[student.pk]))
        self.assertIn('filename="zoe-quillfeather.html"', page["Content-Disposition"])
        for said in (
            NAME, "counts aloud.", "Quay", "Zoë Quillfeather, even", "12.5 snare 90",
            "on the pad",
            "Tired today.", "Slow is fast.", "Bar 4: 95", f"{NAME}: a warm-up", "open",
        ):  # fmt: skip
            with self.subTest(said):
                self.assertContains(page, said)
        self.assertNotContains(page, "Mira")
        self.assertNotContains(page, student.link_key)

    def test_a_student_with_nothing_has_one_too(self):
        self.assertIn("None.", student_file(make_student(self.teacher)))

    def test_only_for_their_teacher(self):
        student = make_student(make_teacher("bo"))
        for name in ("student-file", "student-kept"):
            self.assertEqual(self.client.get(reverse(name, args=[student.pk])).status_code, 404)
        sent = {"name": student.name}
        erasing = self.client.post(reverse("student-erase", args=[student.pk]), sent)
        self.assertEqual(erasing.status_code, 404)
        self.assertTrue(Student.objects.filter(pk=student.pk).exists())


class Asked(StudioTest):
    def erase(self, **sent):
        return self.client.post(reverse("student-erase", args=[self.student.pk]), sent)

    def setUp(self):
        super().setUp()
        self.student = make_student(self.teacher, NAME)

    def test_another_name_erases_nobody_and_what_was_ticked_stays_so(self):
        piece = make_piece(self.teacher, title=f"Song of {NAME}")
        places = ticked(self.client, self.student)
        self.assertEqual(len(places), 1)
        page = self.erase(name="Zoe", places=places, words="Zo")
        self.assertContains(page, f"Type {NAME}, as it is written above.", status_code=422)
        self.assertContains(page, 'value="Zo"', status_code=422)
        self.assertEqual(page.context["places"][0][1], True)
        page = self.erase(name="Zoe")
        self.assertEqual(page.context["places"][0][1], False)
        self.assertTrue(Student.objects.exists())
        self.assertEqual(self.fresh(piece).title, f"Song of {NAME}")

    def test_too_many_words_are_told(self):
        address = reverse("student-erase", args=[self.student.pk])
        page = self.client.get(address, {"words": "a,b,c,d,e,f,g,h,i"})
        self.assertContains(page, "8 words at the most.", status_code=422)


def ticked(client: Client, student: Student, words: str = "") -> list[str]:
    """The places that have a tick when the page opens."""
    page = client.get(reverse("student-erase", args=[student.pk]), {"words": words})
    return [place.key for place, is_ticked in page.context["places"] if is_ticked]


class Erased(TransactionTestCase):
    """On the files themselves, so without the transaction that other tests are wrapped in."""

    def setUp(self):
        self.teacher = make_teacher()
        self.client = Client()
        self.client.force_login(self.teacher)
        self.student = with_everything(self.teacher)
        self.address = path_of(self.student)
        session = self.client.session
        session["said"] = f"{NAME} is saved."
        session.save()

    def in_the_files(self, *words: str) -> list[str]:
        read = b"".join(path.read_bytes() for path in database_files()).lower()
        forms = [
            one for word in words for one in (word, word.encode("unicode_escape").decode())
        ]
        return [one for one in forms if one.lower().encode() in read]

    def erase(self, **sent):
        places = ticked(self.client, self.student, sent.get("words", ""))
        sent = {"name": NAME, "places": places, **sent}
        return self.client.post(reverse("student-erase", args=[self.student.pk]), sent)

    def test_the_name_is_in_no_file(self):
        self.assertTrue(self.in_the_files(NAME))
        page = self.erase(words="Quillfeather")
        self.assertContains(page, "the name is in neither of them")
        self.assertEqual(self.in_the_files(NAME, "Quillfeather", "Tired today"), [])
        self.assertFalse(Student.objects.filter(name=NAME).exists())
        self.assertFalse(Binned.objects.exists())
        self.assertEqual([one.name for one in Import.objects.all()], ["a student.wren"])

    def test_what_belongs_to_others_stays_with_other_words_in_place_of_the_name(self):
        self.erase()
        self.assertEqual(Student.objects.get().name, "Mira")
        self.assertEqual(Lesson.objects.get().note, "Came with a student'S brother.")
        self.assertEqual(Draft.objects.get().notes, "for a student")
        self.assertTrue(Piece.objects.filter(title="Warm-up for a student").exists())
        self.assertEqual(self.client.get(reverse("desk")).status_code, 200)  # still logged in
        self.assertEqual(self.client.get(self.address).status_code, 404)

    def test_a_reader_in_the_way_is_told_and_a_sweep_later_does_it(self):
        name = connection.settings_dict["NAME"]
        with closing(sqlite3.connect(name, isolation_level=None)) as reader:
            reader.execute("BEGIN")
            reader.execute("SELECT count(*) FROM students_student").fetchone()
            page = self.erase()
            self.assertContains(page, "The name is still in")
            reader.execute("COMMIT")
        self.assertTrue(sweep())
        self.assertEqual(self.in_the_files(NAME), [])

    def test_backups_that_hold_it_are_named(self):
        kept = Path(settings.DATA) / "backups" / "wren-2027-02-01-030000.zip"
        kept.parent.mkdir(exist_ok=True)
        kept.write_bytes(b"PK")
        self.addCleanup(kept.unlink)
        self.assertContains(self.erase(), kept.name)


class EndsByItself(StudioTest):
    def test_what_is_over_goes_and_the_rest_stays(self):
        now = timezone.make_aware(datetime(2027, 6, 1, 12))
        expire(now)  # this test's own log-in, which is long over then
        for days in (1, 400):
            then = now - timedelta(days=days)
            one = Import.objects.create(owner=self.teacher, name=f"{days}", data=b"")
            Import.objects.filter(pk=one.pk).update(changed=then)
            piece = make_piece(self.teacher, title=f"{days}")
            one = Draft.objects.create(owner=self.teacher, piece=piece, bars=[])
            Draft.objects.filter(pk=one.pk).update(changed=then)
            Binned.objects.create(
                owner=self.teacher, kind="x", what="x", day=then.date(), rows=[]
            )
            Session.objects.create(
                session_key=f"k{days}", session_data="", expire_date=then + timedelta(days=14)
            )
            form = SentForm.objects.create(key=uuid4(), led_to="/")
            SentForm.objects.filter(pk=form.pk).update(at=then)
            attempt = AccessAttempt.objects.create(
                username=f"{days}", failures_since_start=1, get_data="", post_data=""
            )
            AccessAttempt.objects.filter(pk=attempt.pk).update(attempt_time=then)
        self.assertEqual(expire(now), 6)
        for model in (Import, Draft, Binned, SentForm, AccessAttempt):
            with self.subTest(model.__name__):
                self.assertEqual(model.objects.count(), 1)
        self.assertEqual(Session.objects.filter(session_key="k1").count(), 1)
        self.assertEqual(expire(now), 0)
        self.assertEqual(Piece.objects.count(), 2)

    def test_the_desk_lets_it_go_once_a_day(self):
        ran = []
        work = OnceADay(ran.append)
        first = datetime(2027, 6, 1, 9)
        for hours in (0, 3, 16, 20, 40):
            work(first + timedelta(hours=hours))
        self.assertEqual([one.day for one in ran], [1, 2, 3])


class InPlainWords(StudioTest):
    def test_anybody_can_read_what_is_kept_and_for_how_long(self):
        self.client.logout()
        page = self.client.get(reverse("privacy"))
        for said in ("What is kept, why, and how long", "30 days in the bin", "180 days", "12"):
            self.assertContains(page, said)

    def test_it_is_a_link_away_for_teacher_and_student(self):
        student = make_student(self.teacher)
        open_link(student)
        kept = self.client.get(reverse("student-kept", args=[student.pk]))
        for page in (kept, self.client.get(path_of(student)), self.client.get(reverse("bin"))):
            self.assertContains(page, reverse("privacy"))
        page = self.client.get(student.get_absolute_url())
        self.assertContains(page, reverse("student-kept", args=[student.pk]))
