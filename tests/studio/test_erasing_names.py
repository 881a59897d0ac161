"""A student is erased and nothing of anybody else's is: music, codes, others' notes."""

import io
from datetime import date

from django.apps import apps
from django.conf import settings
from django.db import models
from django.test import Client, SimpleTestCase, TransactionTestCase
from django.urls import reverse
from django.utils import timezone

from tests.studio.base import (
    StudioTest,
    log,
    make_piece,
    make_plan,
    make_student,
    make_teacher,
    press_undo,
)
from tests.studio.test_privacy import ticked
from wren_ladder.cli import main as command
from wren_ladder.studio.bin.models import Binned
from wren_ladder.studio.changes.bin import put_in_bin
from wren_ladder.studio.climb.models import Attempt, Take
from wren_ladder.studio.house.models import Invitation
from wren_ladder.studio.kept_on_disk import keep, read
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.pieces.models import BarRow, Draft, Piece, Recording
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.privacy.erasing import erase, files_with
from wren_ladder.studio.prose import prose_of, typed
from wren_ladder.studio.students.models import Student

TODAY = date.today()
TOMS = """# Tom likes this one
title Toms
bar 1
section For Tom
hat 8ths
snare 2 4
kick 1 3
bar 2
high 16ths 1-3
floor 4
cue 3 Tom waits
bar 3 as 1
bar 4 rest
"""
# Words of the trade and of English that are children's names too.
PLAIN = ("Tom", "Will", "May", "Mark", "Rim", "Kit", "Kick", "R", "L")


class EveryTextIsDeclared(SimpleTestCase):
    def test_of_every_model_each_text_is_prose_or_a_code(self):
        seen = 0
        for model in apps.get_models():
            if not model.__module__.startswith("wren_ladder."):
                continue
            declared = {*prose_of(model), *getattr(model, "CODES", ())}
            texts = {
                one.name
                for one in model._meta.concrete_fields
                if isinstance(
                    one,
                    models.CharField | models.TextField | models.JSONField | models.FileField,
                )
                and not one.choices
            }
            seen += len(texts)
            with self.subTest(model.__name__):
                self.assertEqual(texts - declared, set(), "neither prose nor a code")
                self.assertFalse(set(prose_of(model)) & set(getattr(model, "CODES", ())))
                names = {one.name for one in model._meta.concrete_fields}
                self.assertEqual(declared - names, set(), "no such field")
        self.assertGreater(seen, 50)

    def test_of_every_model_that_hangs_on_a_student_the_way_there_is_declared(self):
        declared = {one for one in apps.get_models() if getattr(one, "OF_STUDENT", None)}
        for model in apps.get_models():
            for field in model._meta.concrete_fields:
                owner = field.is_relation and field.remote_field.on_delete is models.CASCADE
                if owner and field.related_model in declared and model is not Piece:
                    with self.subTest(f"{model.__name__}.{field.name}"):
                        self.assertIn(model, declared)

    def test_of_typed_bars_comments_and_words_are_prose_and_strokes_are_not(self):
        said = []
        typed(TOMS, lambda words: said.append(words) or words)
        self.assertEqual(
            [one.strip() for one in said],
            ["Toms", "For Tom", "3 Tom waits", "# Tom likes this one"],
        )
        self.assertEqual(typed(TOMS, str), TOMS)


class NothingElse(TransactionTestCase):
    """On the files themselves: the database is written anew."""

    def setUp(self):
        self.teacher = make_teacher()
        self.client = Client()
        self.client.force_login(self.teacher)
        self.piece = make_piece(self.teacher, TOMS, title="Toms")
        Piece.objects.update(typed=TOMS, notes="Will Tom move his kit? He may.")
        self.mira = make_student(self.teacher, "Mira")
        self.plan = make_plan(self.piece, self.mira)
        log(self.plan.steps.first(), 90)
        Draft.objects.create(
            owner=self.teacher,
            piece=self.piece,
            bars=[row.data for row in self.piece.bars.all()],
        )
        Lesson.objects.create(
            student=self.mira,
            day=TODAY,
            note="Kick before May. Mark the Rim for Will, Kit and Tom.",
        )

    def erase(self, student: Student, **sent):
        sent = {"name": student.name, "places": ticked(self.client, student), **sent}
        return self.client.post(reverse("student-erase", args=[student.pk]), sent)

    def music(self) -> list:
        return [
            *BarRow.objects.values_list("pk", "data"),
            *Piece.objects.values_list("made_of", "fingerprint", "meter", "tempo_mark"),
            *Step.objects.values_list("kind", "part"),
            *Plan.objects.values_list("own_rungs", "made_of"),
        ]

    def every_page_opens(self):
        for address in (
            "/", "/pieces/", self.piece.get_absolute_url(), self.plan.get_absolute_url(),
            reverse("piece-edit", args=[self.piece.pk]),
            reverse("plan-steps", args=[self.plan.pk]),
            reverse("bar-page", args=[self.piece.pk, 1]),
            reverse("lesson-mode", args=[self.mira.pk]),
        ):  # fmt: skip
            self.assertEqual(self.client.get(address).status_code, 200, address)

    def test_names_that_are_words_take_nothing_by_themselves(self):
        before = self.music(), list(Piece.objects.values_list("notes", "typed"))
        for name in PLAIN:
            with self.subTest(name):
                page = self.erase(make_student(self.teacher, name))
                self.assertContains(page, "Erased")
                self.assertFalse(Student.objects.filter(name=name).exists())
        self.assertEqual(
            before, (self.music(), list(Piece.objects.values_list("notes", "typed")))
        )
        self.assertIn("Rim for Will, Kit and Tom", Lesson.objects.get().note)
        self.every_page_opens()

    def test_every_place_of_tom_stands_with_its_sentence_and_goes_by_its_tick(self):
        tom = make_student(self.teacher, "Tom")
        page = self.client.get(reverse("student-erase", args=[tom.pk]))
        told = {place.where: place for place, _ in page.context["places"]}
        self.assertEqual({ticked for _, ticked in page.context["places"]}, {False})
        self.assertContains(page, "is a word of its own")
        self.assertContains(page, f"lesson of Mira, {TODAY:%-d %b %Y}: private note")
        self.assertContains(page, "Kit and <mark>Tom</mark>.")
        self.assertEqual(
            {where for where in told if where.startswith("Toms")},
            {"Toms, bar 1: words over the notes", "Toms, bar 2: words over the notes"},
        )
        strokes = [[hit["drum"] for hit in row.data["hits"]] for row in BarRow.objects.all()]
        every = [place.key for place, _ in page.context["places"]]
        self.erase(tom, places=every)
        self.assertEqual(
            strokes,
            [[hit["drum"] for hit in row.data["hits"]] for row in BarRow.objects.all()],
        )
        self.assertEqual(BarRow.objects.first().data["section"], "For a student")
        piece = Piece.objects.get()
        self.assertEqual(piece.notes, "Will a student move his kit? He may.")
        self.assertIn("high 16ths", piece.typed)
        self.assertIn("# a student likes this one", piece.typed)
        self.assertIn("Kit and a student.", Lesson.objects.get().note)
        plan = Plan.objects.get()
        self.assertFalse(plan.is_behind_the_page)  # words are no other music
        self.assertEqual(plan.snapshot.bars[0][1]["section"], "For a student")
        self.every_page_opens()

    def test_in_the_case_it_is_written_in_and_never_a_part_of_a_word(self):
        Lesson.objects.update(note="will she? Willow will. Ask WILL. Will's turn.")
        will = make_student(self.teacher, "Will")
        places = self.client.get(reverse("student-erase", args=[will.pk])).context["places"]
        notes = [one for one, _ in places if "private note" in one.where]
        self.assertEqual([one.name for one in notes], ["Will"])
        self.erase(will, places=[one.key for one in notes])
        self.assertEqual(
            Lesson.objects.get().note, "will she? Willow will. Ask WILL. a student's turn."
        )


class ErasedIsErased(TransactionTestCase):
    NAME = "Zoë Quillfeather"

    def setUp(self):
        self.teacher = make_teacher()
        self.client = Client()
        self.client.force_login(self.teacher)
        self.zoe = make_student(self.teacher, self.NAME)
        self.mira = make_student(self.teacher, "Mira")
        self.piece = make_piece(self.teacher)
        self.plan = make_plan(self.piece, self.zoe)
        self.step = self.plan.steps.first()

    def erase(self, **sent):
        places = ticked(self.client, self.zoe)
        sent = {"name": self.NAME, "places": places, **sent}
        return self.client.post(reverse("student-erase", args=[self.zoe.pk]), sent)

    def test_a_try_and_a_take_in_the_bin_are_hers_and_go_with_her(self):
        attempt = log(self.step, 90)
        Attempt.objects.update(note="her arm hurts")
        attempt.refresh_from_db()
        take = Take.objects.create(
            step=self.step, day=TODAY, source="kit", tempo=90, passes=2, strokes=[]
        )
        self.client.post(reverse("attempt-delete", args=[attempt.pk]))
        put_in_bin(take, self.teacher, "the take", "", TODAY)
        self.assertEqual([one.students for one in Binned.objects.all()], [[self.zoe.pk]] * 2)
        kept = self.client.get(reverse("student-file", args=[self.zoe.pk]))
        self.assertContains(kept, "her arm hurts")
        self.erase()
        self.assertFalse(Binned.objects.exists())

    def test_a_piece_in_the_bin_stays_with_what_is_others(self):
        make_plan(self.piece, self.mira)
        log(Plan.objects.get(student=self.mira).steps.first(), 95)
        log(self.step, 90)
        self.client.post(reverse("piece-delete", args=[self.piece.pk]))
        self.assertEqual(set(Binned.objects.get().students), {self.zoe.pk, self.mira.pk})
        self.erase()
        self.assertEqual(Binned.objects.get().students, [self.mira.pk])
        self.client.post(reverse("bin-back", args=[Binned.objects.get().pk]))
        plan = Plan.objects.get()
        self.assertEqual((plan.student, Attempt.objects.get().tempo), (self.mira, 95))
        self.assertEqual(plan.steps.first().standing.held, 95)

    def test_recordings_and_invitations_are_cleaned_and_a_tag_inside_a_sound_is_named(self):
        tag = "for Zoë Quillfeather".encode("utf-16-le")
        file = io.BytesIO(b"RIFF\0\0\0\0WAVEfmt " + bytes(64) + b"TIT2" + tag)
        file.name = f"{self.NAME}.wav"
        address = reverse("recording-attach", args=[self.piece.pk])
        self.client.post(address, {"recording": file}, follow=True)
        self.assertEqual(Recording.objects.get().name, f"{self.NAME}.wav")
        Invitation.objects.create(note=f"teaches {self.NAME}", made=timezone.now())
        page = self.erase()
        self.assertEqual(Recording.objects.get().name, "a student.wav")
        self.assertEqual(Invitation.objects.get().note, "teaches a student")
        self.assertContains(page, "The sound file of Quay holds the name inside")

    def test_a_colleagues_copy_is_named_and_the_folder_of_a_restore_too(self):
        Piece.objects.update(title=f"Warm-up for {self.NAME}")
        bo = make_teacher("bo")
        make_piece(bo, title=f"Warm-up for {self.NAME}")
        aside = settings.DATA / "before-2027-02-01-030000"
        aside.mkdir(exist_ok=True)
        self.addCleanup(aside.rmdir)
        page = self.erase()
        self.assertContains(page, "bo has a copy called “Warm-up for Zoë Quillfeather”")
        self.assertContains(page, aside.name)
        self.assertEqual(Piece.objects.get(owner=self.teacher).title, "Warm-up for a student")

    def test_the_advice_works_sweep_says_where_the_name_still_is(self):
        kept = settings.MEDIA_ROOT / "old.wav"
        kept.parent.mkdir(parents=True, exist_ok=True)
        kept.write_bytes("tag: Zoë Quillfeather".encode())
        erase(self.zoe)
        self.assertEqual(files_with(self.NAME), [str(kept)])
        self.assertEqual(command(["sweep", "--name", self.NAME]), 1)
        kept.unlink()
        self.assertEqual(command(["sweep", "--name", self.NAME]), 0)

    def test_drawings_and_prints_go_when_a_colleague_is_erased(self):
        bo = make_teacher("bo")
        self.client.get(reverse("house"))
        member = bo.membership
        self.client.post(reverse("house-leave", args=[member.pk]))
        keep("engravings", {"of-bo": "a drawing"})
        self.client.post(reverse("house-erase", args=[member.pk]), {"name": "bo"})
        self.assertEqual(read("engravings", ["of-bo"]), {})


class Back(StudioTest):
    """What is put back comes back, whatever has gone meanwhile."""

    def setUp(self):
        super().setUp()
        self.student = make_student(self.teacher)
        self.piece = make_piece(self.teacher)
        self.plan = make_plan(self.piece, self.student)
        self.step = self.plan.steps.first()

    def post(self, name, thing):
        return self.client.post(reverse(name, args=[thing.pk]), follow=True)

    def test_a_plan_comes_back_after_a_bar_of_its_steps_is_gone(self):
        log(self.step, 90)
        self.post("plan-delete", self.plan)
        BarRow.objects.filter(pk=self.step.first_id).delete()
        page = self.post("bin-back", Binned.objects.get())
        self.assertContains(page, "is back, as it was")
        self.assertFalse(Step.objects.get(pk=self.step.pk).music_is_there)
        self.assertEqual(Attempt.objects.count(), 1)

    def test_a_student_comes_back_without_what_belonged_to_a_piece_that_is_gone(self):
        log(self.step, 90)
        other = make_plan(make_piece(self.teacher, title="Mole"), self.student)
        steps = self.plan.steps.count()
        self.post("student-delete", self.student)
        self.piece.delete()
        page = self.post("bin-back", Binned.objects.get())
        self.assertContains(page, f"is back, without 1 plan, {steps} steps and 1 try")
        self.assertEqual(list(Plan.objects.all()), [other])

    def test_a_take_that_comes_back_has_its_try_again(self):
        take = Take.objects.create(
            step=self.step, day=TODAY, source="kit", tempo=90, passes=2, strokes=[]
        )
        attempt = log(self.step, 90)
        Attempt.objects.update(take=take)
        page = self.post("take-delete", take)
        self.assertIsNone(self.fresh(attempt).take)
        press_undo(self.client, page)
        self.assertEqual(self.fresh(attempt).take, take)

    def test_a_plan_without_its_student_is_told_and_stays_in_the_bin(self):
        self.post("plan-delete", self.plan)
        self.student.delete()
        page = self.post("bin-back", Binned.objects.get())
        self.assertContains(page, "what it belonged to is gone")
        self.assertTrue(Binned.objects.exists())
