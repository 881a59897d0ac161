"""Words that explain themselves, American note names, the piece to try, music replaced."""

import re
from datetime import date
from html import unescape

from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse
from django.utils.html import escape

from tests.studio.base import QUAY, StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.drumming.note_names import in_american
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.pages.words.glossary import WORDS
from wren_ladder.studio.pieces.models import Import, Piece
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.links import open_link
from wren_ladder.studio.students.models import Student

BRITISH = re.compile(r"\b(?:semi|demisemi)?(?:crotchet|quaver|minim|semibreve)s?\b", re.I)
# What stands in these is notation, a script, or a choice that is typed elsewhere.
KEPT = re.compile(r"<(textarea|script|style|code|pre|kbd|option)\b.*?</\1>", re.S)
TEXT, SPOKEN = re.compile(r">([^<>]+)<"), re.compile(r'(?:aria-label|title)="([^"]*)"')
RECIPE = re.compile(r'name="recipe" value="([^"]*)"')


class NoteNames(StudioTest):
    def choose_american(self):
        address = reverse("teaching-style")
        self.client.post(address, {**self.opened(address, "words"), "note_names": "quarters"})

    def test_the_words_of_both_sides(self):
        # The names of note values on both sides of the ocean: common practice, no source.
        for british, american in (
            ("two quavers", "two eighth notes"),
            ("Crotchet = 96", "Quarter note = 96"),
            ("dotted quaver + semiquaver", "dotted eighth note + sixteenth note"),
            ("a crotchet rest", "a quarter rest"),
            ("two minim rests", "two half rests"),
            ("demisemiquavers", "thirty-second notes"),
            ("minimum", "minimum"),
        ):
            with self.subTest(british):
                self.assertEqual(in_american(british), american)

    def test_what_was_typed_is_never_touched_wherever_it_is_shown(self):
        student = make_student(self.teacher, "Minim Quaver", notes="Likes The Crotchets.")
        text = QUAY.replace("section A Verse", "section A Quaver part")
        piece = make_piece(self.teacher, text, title="Crotchet Town")
        plan = make_plan(piece, student)
        step = plan.steps.first()
        step.why, step.by_hand, step.name = "as in Quaver Street", True, "Semiquaver march"
        step.save()
        log(step, 90)
        lesson = Lesson.objects.create(
            student=student, day=date.today(), message="Listen to The Semibreves!"
        )
        self.choose_american()
        for address, typed in (
            (student.get_absolute_url(), ("Minim Quaver", "Likes The Crotchets.")),
            (reverse("pieces"), ("Crotchet Town",)),
            (piece.get_absolute_url(), ("Crotchet Town", "Quaver part")),
            (plan.get_absolute_url(), ("Crotchet Town", "Semiquaver march")),
            (reverse("plan-steps", args=[plan.pk]), ("as in Quaver Street",)),
            (reverse("step", args=[step.pk]), ("as in Quaver Street", "Semiquaver march")),
            (reverse("desk"), ("Minim Quaver",)),
            (reverse("students"), ("Minim Quaver", "Crotchet Town")),
            (lesson.get_absolute_url(), ("Listen to The Semibreves!",)),
        ):
            page = self.client.get(address)
            for words in typed:
                with self.subTest(address, words=words):
                    self.assertContains(page, words)
        gone = self.client.post(reverse("piece-delete", args=[piece.pk]), follow=True)
        self.assertContains(gone, "Crotchet Town")

    def test_every_sentence_of_the_house_follows_it(self):
        """On pages of every part: no British name is left but in what was typed."""
        student = make_student(self.teacher)
        piece = make_piece(self.teacher)
        plan = make_plan(piece, student)
        step = plan.steps.first()
        self.choose_american()
        pages = [
            reverse(name, args=[thing.pk])
            for name, thing in (
                ("piece", piece), ("piece-road", piece), ("piece-score", piece),
                ("piece-vocabulary", piece), ("piece-room", piece), ("give", piece),
                ("plan", plan), ("plan-steps", plan), ("plan-edit", plan), ("progress", plan),
                ("step", step), ("lesson-mode", student), ("student", student),
                ("week", student),
            )
        ]  # fmt: skip
        pages += [reverse("bar-page", args=[piece.pk, 0]), reverse("desk"), reverse("words")]
        pages += [
            reverse(name)
            for name in (
                "workshop",
                "groove-board",
                "fills",
                "warm-ups",
                "reading",
                "stickings",
                "accents",
            )
        ]
        for address in pages:
            page = KEPT.sub("", self.client.get(address).content.decode())
            said = TEXT.findall(page) + SPOKEN.findall(page)
            with self.subTest(address):
                self.assertEqual([one for one in said if BRITISH.search(one)], [])

    def test_an_exercise_is_named_as_its_teacher_says_it(self):
        student = make_student(self.teacher)
        self.choose_american()
        page = self.client.get(reverse("groove-board"))
        recipe = next(one for one in RECIPE.findall(page.content.decode()) if "quavers" in one)
        sent = {"student": student.pk, "target": 84, "recipe": unescape(recipe)}
        self.client.post(reverse("give-exercise"), sent)
        self.assertIn("eighth notes", Piece.objects.get().title)

    def test_every_page_of_the_teachers_follows_the_setting(self):
        student = make_student(self.teacher)
        plan = make_plan(make_piece(self.teacher), student)
        open_link(student)
        pages = (
            reverse("pieces"),
            plan.piece.get_absolute_url(),
            plan.get_absolute_url(),
            reverse("give", args=[plan.piece_id]),
        )
        for address in pages:
            self.assertContains(self.client.get(address), "rotchet")
        self.choose_american()
        for address in pages:
            with self.subTest(address):
                page = self.client.get(address)
                self.assertNotContains(page, "crotchet = ")
                self.assertContains(page, "uarter note")
        editor = self.client.get(f"/pieces/{plan.piece_id}/edit/?as=text")
        self.assertContains(editor, "tempo crotchet = 120")  # typed, so it stays


class Words(StudioTest):
    def test_each_word_stands_on_the_page_of_words_in_a_sentence(self):
        page = self.client.get(reverse("words"))
        for word, says in WORDS.items():
            self.assertContains(page, escape(says))
            self.assertTrue(says.endswith(".") and says[0].isupper(), word)
        self.assertContains(self.client.get(reverse("students")), 'href="/words/"')

    def test_a_word_explains_itself_where_it_comes_first(self):
        plan = make_plan(make_piece(self.teacher), make_student(self.teacher))
        for address in (plan.student.get_absolute_url(),):
            page = self.client.get(address)
            self.assertContains(page, WORDS["ready speed"])
            self.assertContains(page, '<dfn class="term" tabindex="0">')


class Trial(StudioTest):
    def trial(self, **fields):
        return self.client.post(reverse("trial"), fields, follow=True)

    def test_an_empty_studio_offers_a_piece_and_a_student_and_takes_them_away(self):
        make_piece(self.other_teacher(), title="Not mine")
        self.assertContains(self.client.get(reverse("desk")), "Try it with a small piece")
        page = self.trial()
        self.assertContains(page, "Robin (to try)")
        student = Student.objects.get()
        lesson = self.client.get(reverse("lesson-mode", args=[student.pk]))
        self.assertGreater(len(lesson.context["cards"]), 2)
        self.assertContains(self.client.get(reverse("desk")), "Remove both")
        self.trial()  # twice is once
        self.assertEqual(Student.objects.count(), 1)
        page = self.trial(do="end")
        self.assertContains(page, "Try it with a small piece")
        self.assertFalse(Student.objects.exists())
        self.assertEqual([piece.title for piece in Piece.objects.all()], ["Not mine"])

    def test_a_studio_of_ones_own_is_not_offered_it(self):
        make_piece(self.teacher)
        self.assertNotContains(self.client.get(reverse("desk")), "Try it with a small piece")


class Replacing(StudioTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher)
        self.plan = make_plan(self.piece, make_student(self.teacher))
        log(self.plan.steps.get(name="Bar 4"), 95)

    def upload(self, text, **fields):
        file = SimpleUploadedFile("new.wren", text.encode())
        address = f"{reverse('piece-upload')}?instead={self.piece.pk}"
        page = self.client.post(address, {"file": file}, follow=True)
        found = Import.objects.exclude(name__contains="before").latest("pk")
        chosen = page.context["form"].initial["instead"]
        form = {"title": "Quay", "grade": 3, "instead": chosen.pk, **fields}
        address = reverse("import-save", args=[found.pk])
        return self.client.post(address, form, follow=True)

    def test_the_piece_keeps_its_plans_and_tries_and_its_bars_of_before_are_kept(self):
        longer = QUAY.replace("snare 2 4 4&", "snare 2 4 4&\nkick 1") + "bar 5 as 1\n"
        page = self.upload(longer)
        self.assertContains(page, "5 bars read. Steps and tries stay with their bars")
        piece = Piece.objects.get()
        self.assertEqual((piece.pk, piece.bar_count), (self.piece.pk, 5))
        self.assertEqual(self.fresh(self.plan).steps.get(name="Bar 4").standing.held, 95)
        self.assertTrue(Plan.objects.get(pk=self.plan.pk).is_behind_the_page)
        before = Import.objects.get()
        self.assertIn("Quay before", before.name)
        self.assertContains(self.client.get(before.get_absolute_url()), "as it was read")
        form = {"title": "Quay", "grade": "", "instead": piece.pk}
        self.client.post(reverse("import-save", args=[before.pk]), form)
        self.assertEqual(self.fresh(piece).bar_count, 4)
        self.assertEqual(self.fresh(self.plan).steps.get(name="Bar 4").standing.held, 95)

    def test_another_teachers_piece_is_not_replaced(self):
        other = make_piece(self.other_teacher())
        page = self.upload(QUAY, instead=other.pk)
        self.assertEqual(page.status_code, 422)

    def test_an_upload_page_greets_with_no_error(self):
        page = self.client.get(reverse("piece-upload"))
        for error in ("is-invalid", "invalid-feedback", "note-error"):
            self.assertNotContains(page, error)
