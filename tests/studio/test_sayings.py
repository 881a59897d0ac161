"""What a teacher says about a bar: said where one is, seen where the bar is, taken back, kept
over edits, exported, and nobody else's."""

import json
from dataclasses import replace
from datetime import date

from django.core.files.uploadedfile import SimpleUploadedFile
from django.template.loader import render_to_string
from django.urls import reverse

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student, undo_form
from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.drumming.chart import Chart
from wren_ladder.drumming.take_sources.heard import Heard, Source
from wren_ladder.studio.bin.models import Binned
from wren_ladder.studio.changes.bin import put_back
from wren_ladder.studio.changes.pieces import save_piece
from wren_ladder.studio.changes.sayings import say
from wren_ladder.studio.changes.takes import keep_take
from wren_ladder.studio.exchange.studio_file import (
    StudioFileError,
    read_studio_file,
    restore,
    studio_lines,
)
from wren_ladder.studio.pages.reports.parent import report_context
from wren_ladder.studio.plans.models import Saying, SayingSound
from wren_ladder.studio.plans.sayings import (
    recent_sayings,
    said_before,
    said_of,
    sayings_for,
)
from wren_ladder.studio.privacy.student_file import student_file
from wren_ladder.studio.students.links import open_link, path_of

TODAY = date.today()
WALK = "low sticks, then walk to the middle"


class SayingsTest(StudioTest):
    def setUp(self):
        super().setUp()
        self.student = make_student(self.teacher, "Ines", lesson_day=TODAY.weekday())
        self.piece = make_piece(self.teacher)
        self.plan = make_plan(self.piece, self.student)
        self.bars = list(self.plan.steps.filter(kind=StepKind.BAR))
        self.step = self.bars[0]
        self.other = make_student(self.teacher, "Ruben")
        self.others = make_plan(self.piece, self.other)

    def say(self, text=WALK, htmx=True, **fields):
        headers = {"HX-Request": "true"} if htmx else {}
        address = reverse("step-says", args=[self.step.pk])
        return self.client.post(address, {"text": text, **fields}, headers=headers)

    def lesson(self, student):
        return self.client.get(
            f"{reverse('lesson-mode', args=[student.pk])}?at={self.step_of(student).pk}"
        )

    def step_of(self, student):
        plan = self.plan if student == self.student else self.others
        return plan.steps.filter(kind=StepKind.BAR, first=self.step.first).first()


class Said(SayingsTest):
    def test_it_is_kept_by_one_press_and_seen_where_the_bar_is(self):
        answer = self.say()
        self.assertContains(answer, WALK)
        self.assertEqual(Saying.objects.get().student, self.student)
        self.assertContains(self.lesson(self.student), WALK)
        self.assertContains(self.client.get(reverse("step", args=[self.step.pk])), WALK)
        self.assertNotContains(self.lesson(self.other), f"<span>{WALK}")
        open_link(self.student)
        said = said_of(self.step, sayings_for([self.plan]))
        self.assertEqual([one.text for one in said], [WALK])

    def test_it_is_offered_where_the_same_bar_comes_with_somebody_else(self):
        self.say()
        page = self.lesson(self.other)
        self.assertContains(page, f'<option value="{WALK}">')
        theirs = self.step_of(self.other)
        recent = recent_sayings(self.teacher.pk)
        self.assertEqual(said_before(theirs, (), recent), [WALK])
        self.assertEqual(said_before(self.step, recent, recent), [])  # said here already

    def test_it_is_said_at_the_end_of_the_lesson_of_what_was_tried(self):
        log(self.step, 90)
        self.say()
        end = reverse("lesson-end", args=[self.student.pk])
        page = self.client.get(end)
        self.assertContains(page, f"<span>{WALK}")
        self.assertContains(page, f'id="says-{self.step.pk}"', 1)
        self.assertNotContains(page, f'id="says-{self.bars[1].pk}"')
        self.assertRedirects(self.say("And thumb up.", htmx=False, back=end), end)
        self.assertContains(self.client.get(end), "And thumb up.")

    def test_what_is_chosen_stands_in_the_report_and_nothing_else(self):
        words = reverse("report-words", args=[self.student.pk])
        self.assertNotContains(self.client.get(words), "what you say about bars")
        self.say()
        self.say("thumb on top")
        self.say("To all.", everybody="on")
        page = self.client.get(words)
        self.assertContains(page, f"{self.step.name} of Quay: {WALK}")
        self.assertNotContains(page, "To all.")
        first, second, _ = Saying.objects.order_by("pk")
        address = reverse("report", args=[self.student.pk])
        for chosen, shown in ((second, [second]), (first, [first]), (None, [])):
            sent = {"report_words": "", **({"sayings": [chosen.pk]} if chosen else {})}
            self.assertRedirects(
                self.client.post(words, sent), address, fetch_redirect_response=False
            )
            context = report_context(self.student, TODAY)
            self.assertEqual(list(context["says"]), shown)
            printed = render_to_string("reports/report.html", context | {"paper": "A4"})
            self.assertEqual(WALK in printed, shown == [first])
        wrong = self.client.post(words, {"report_words": "", "sayings": [999]})
        self.assertEqual(wrong.status_code, 422)

    def test_to_everybody_it_is_seen_by_all_who_play_it(self):
        self.say(everybody="on")
        self.assertIsNone(Saying.objects.get().student)
        for student in (self.student, self.other):
            self.assertContains(self.lesson(student), f"<span>{WALK}")
        self.assertContains(self.lesson(self.other), "(to everybody)")

    def test_without_script_it_leads_back_to_the_lesson(self):
        back = reverse("lesson-mode", args=[self.student.pk])
        self.assertRedirects(self.say(htmx=False, back=back), back)
        elsewhere = self.say("more", htmx=False, back="https://elsewhere.example/")
        self.assertEqual(elsewhere.url, reverse("step", args=[self.step.pk]))

    def test_nothing_and_too_much_are_told_and_what_was_typed_stays(self):
        self.assertEqual(self.say("").status_code, 422)
        long = self.say("a" * 201)
        self.assertEqual(long.status_code, 422)
        self.assertContains(long, "at most 200 characters", status_code=422)
        self.assertContains(long, "a" * 201, status_code=422)
        self.assertFalse(Saying.objects.exists())
        self.say()
        self.say()  # said twice it is one
        self.assertEqual(Saying.objects.count(), 1)

    def test_a_child_reads_it_above_the_music(self):
        self.say()
        open_link(self.student)
        page = " ".join(self.client.get(path_of(self.student)).content.decode().split())
        shown = {one for one in page.split('data-step="') if WALK in one}
        self.assertEqual(WALK in page, f'{self.step.pk}"' in page)
        self.assertTrue(all("Your teacher says:" in one for one in shown))

    def test_it_stands_beside_a_take(self):
        self.say()
        take = keep_take(self.step, Source.KEYS, 90, 1, (Heard(0.0, None, None),), TODAY)
        page = self.client.get(reverse("take", args=[take.pk]))
        self.assertContains(page, f"You say:</span> {WALK}")

    def test_a_long_step_has_what_was_said_of_all_of_it(self):
        whole = self.plan.steps.filter(kind=StepKind.WHOLE).first()
        self.say()
        say(whole, None, "From the top, no stopping.", TODAY)
        said = [one.text for one in said_of(whole, sayings_for([self.plan]))]
        many = whole.last.position - whole.first.position
        self.assertIn("From the top, no stopping.", said)
        self.assertEqual(WALK in said, many < 4)
        here = [one.text for one in said_of(self.step, sayings_for([self.plan]))]
        self.assertEqual(here, [WALK])


class TakenBack(SayingsTest):
    def undo(self, answer):
        """In the part of the page where it was thrown away."""
        form = undo_form(answer)
        headers = {"HX-Request": "true"}
        sent = self.client.post(form.get("action"), dict(form.fields), headers=headers)
        return self.client.get(sent["Location"], headers=headers)

    def test_it_is_thrown_away_and_brought_back_on_the_spot(self):
        self.say()
        one = Saying.objects.get()
        headers = {"HX-Request": "true"}
        gone = reverse("saying-delete", args=[self.step.pk, one.pk])
        answer = self.client.post(gone, headers=headers)
        self.assertFalse(Saying.objects.exists())
        back = self.undo(answer)
        self.assertContains(back, WALK)
        self.assertContains(back, "is back, as it was")
        self.assertEqual(Saying.objects.get().text, WALK)
        self.assertContains(self.undo(answer), "It is back already")

    def test_nobody_else_says_or_throws_away(self):
        self.say()
        one = Saying.objects.get()
        self.client.force_login(self.other_teacher())
        self.assertEqual(self.say("mine").status_code, 404)
        gone = reverse("saying-delete", args=[self.step.pk, one.pk])
        self.assertEqual(self.client.post(gone).status_code, 404)
        self.assertEqual(Saying.objects.count(), 1)

    def test_who_teaches_one_student_too_brings_back_nothing_of_another(self):
        self.say()
        headers = {"HX-Request": "true"}
        gone = reverse("saying-delete", args=[self.step.pk, Saying.objects.get().pk])
        answer = self.client.post(gone, headers=headers)
        self.other.second_teacher = self.other_teacher()
        self.other.save()
        self.client.force_login(self.other.second_teacher)
        self.undo(answer)
        self.assertFalse(Saying.objects.exists())


class Kept(SayingsTest):
    def test_over_an_edit_of_the_piece(self):
        self.say()
        before = self.step.first.position
        rows = list(self.piece.bars.all())
        bars = [row.bar for row in rows]
        chart = Chart("Quay", (replace(bars[-1], number="0"), *bars))
        save_piece(self.piece, chart, [None, *(row.pk for row in rows)])
        moved = Saying.objects.get()
        self.assertEqual(moved.first.position, before + 1)
        step = self.plan.steps.get(pk=self.step.pk)
        self.assertEqual([one.text for one in said_of(step, sayings_for([self.plan]))], [WALK])

    def test_in_the_studio_file_and_in_the_students_own(self):
        self.say()
        self.say("To all.", everybody="on")
        self.assertIn(WALK, student_file(self.student))
        self.assertNotIn("To all.", student_file(self.other))
        data = "".join(studio_lines(self.teacher)).encode()
        other = self.other_teacher()
        restore(read_studio_file(data), other)
        theirs = Saying.objects.filter(first__piece__owner=other)
        self.assertEqual(
            {(one.text, one.student and one.student.name) for one in theirs},
            {(WALK, "Ines"), ("To all.", None)},
        )

    def test_a_file_from_before_has_none(self):
        whole = json.loads("".join(studio_lines(self.teacher)))
        del whole["tables"]["saying"]
        whole["version"] = 8
        tables = read_studio_file(json.dumps(whole).encode())
        self.assertEqual(tables["saying"], [])

    def test_it_goes_with_the_student(self):
        self.say()
        self.say("To all.", everybody="on")
        self.student.delete()
        self.assertEqual([one.text for one in Saying.objects.all()], ["To all."])


class SaidAloud(SayingsTest):
    SOUND = b"OggS" + bytes(4000)

    def aloud(self, data=SOUND, **fields):
        return self.say(sound=SimpleUploadedFile("said", data), **{"text": "", **fields})

    def test_it_is_heard_in_the_lesson_and_at_home_and_by_nobody_else(self):
        self.aloud()
        one = Saying.objects.get()
        self.assertEqual((one.text, one.sound_type), ("", "audio/ogg"))
        address = reverse("saying-heard", args=[self.step.pk, one.pk])
        self.assertContains(self.lesson(self.student), f'data-hear="{address}"')
        self.assertEqual(self.client.get(address).content, self.SOUND)
        theirs = reverse("saying-heard", args=[self.step_of(self.other).pk, one.pk])
        self.assertEqual(self.client.get(theirs).status_code, 404)
        open_link(self.student)
        signed = path_of(self.student).strip("/").split("/")[1]
        self.client.logout()
        home = self.client.get(reverse("link-says", args=[signed, self.step.pk, one.pk]))
        self.assertEqual(home["Content-Type"], "audio/ogg")
        self.assertIn("private", home["Cache-Control"])
        self.assertEqual(self.client.get(address).status_code, 302)  # to the log-in

    def test_what_is_no_sound_or_too_long_is_told(self):
        self.assertContains(self.aloud(b"MZ" * 40), "This is no sound", status_code=422)
        long = self.aloud(b"OggS" + bytes(1_000_000))
        self.assertContains(long, "Half a minute at most", status_code=422)
        self.assertFalse(Saying.objects.exists())

    def test_it_comes_out_of_the_bin_and_goes_with_the_student(self):
        self.aloud()
        headers = {"HX-Request": "true"}
        one = Saying.objects.get()
        self.client.post(reverse("saying-delete", args=[self.step.pk, one.pk]), headers=headers)
        self.assertFalse(SayingSound.objects.exists())
        put_back(Binned.objects.get())
        self.assertEqual(bytes(SayingSound.objects.get().data), self.SOUND)
        self.student.delete()
        self.assertFalse(SayingSound.objects.exists())

    def file(self, sounds=False):
        """The studio of a teacher who has read this one's file."""
        data = "".join(studio_lines(self.teacher, sounds)).encode()
        other = self.other_teacher()
        restore(read_studio_file(data), other)
        return Saying.objects.filter(first__piece__owner=other)

    def test_a_studio_file_has_its_words(self):
        self.aloud(text="Like this.")
        self.aloud()
        (found,) = self.file()  # what was only said aloud is nothing without its sound
        self.assertEqual((found.text, found.sound_type), ("Like this.", ""))

    def test_a_studio_file_has_its_sound_where_that_is_asked_for(self):
        self.aloud(text="Like this.")
        self.aloud()
        found = self.file(sounds=True)
        self.assertEqual([one.text for one in found], ["Like this.", ""])
        for one in found:
            self.assertEqual((bytes(one.sound.data), one.sound_type), (self.SOUND, "audio/ogg"))

    def test_a_file_of_before_with_a_sentence_of_no_words_and_no_sound_has_none(self):
        self.aloud()
        tables = read_studio_file("".join(studio_lines(self.teacher, True)).encode())
        restore({**tables, "voices": []}, self.other_teacher())
        self.assertEqual(Saying.objects.count(), 1)

    def test_a_wrong_voice_is_told_with_its_row_and_changes_nothing(self):
        self.aloud()
        tables = read_studio_file("".join(studio_lines(self.teacher, True)).encode())
        good, other = tables["voices"][0], self.other_teacher()
        for wrong, said in (
            ({**good, "saying": 999}, "voice, row 1: there is no saying 999"),
            ({**good, "sound": "TVo="}, "voice, row 1: its sound is no sound file"),
            ({"saying": 1}, "voice, row 1: it has no saying, sound of the right kinds"),
        ):
            with self.assertRaisesMessage(StudioFileError, said):
                restore({**tables, "voices": [wrong]}, other)
        self.assertEqual(Saying.objects.count(), 1)
