"""A take from the step's page: judged, told in one sentence, thrown away and brought back."""

import io

import mido
from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student, make_teacher
from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.drumming.performance import perform
from wren_ladder.drumming.performance.midi import write_midi
from wren_ladder.studio.bin.models import Binned
from wren_ladder.studio.changes.bin import put_back
from wren_ladder.studio.climb.models import Attempt, Take
from wren_ladder.studio.climb.takes import bars_of
from wren_ladder.studio.exchange.studio_file import read_studio_file, restore

BEAT = """tempo crotchet = 120
bar 1
hat 8ths
snare 2 4
kick 1 3
hat foot 2 4
bars 2-4 as 1
"""


class TakeTest(StudioTest):
    def setUp(self):
        super().setUp()
        self.student = make_student(self.teacher, grade=3)
        self.plan = make_plan(make_piece(self.teacher, BEAT), self.student, 90, 120)
        self.step = self.plan.steps.filter(kind=StepKind.BAR).first()

    def record(self, **sent):
        sent = {"tempo": 100, "passes": 8, "fault": "", **sent}
        address = reverse("take-record", args=[self.step.pk])
        return self.client.post(address, sent, follow=True)


class Recording(TakeTest):
    def test_a_late_left_foot_is_said_and_its_limb_pair_is_one_press(self):
        page = self.record(fault="late-left-foot")
        late = r"The left foot comes (3[4-9]|4\d|5[0-2]) ms late"  # the dice is each take's own
        self.assertRegex(page.context["sentence"], late)
        self.assertContains(page, "with one other limb alone")
        self.assertContains(page, "cymbal and hat foot")
        self.assertNotContains(page, "cymbal and kick")
        line = next(one for one in page.context["limbs"] if one.limb.value == "left foot")
        self.assertIn("ms late", line.said)
        self.assertEqual(Attempt.objects.count(), 0)

    def test_a_clean_one_proposes_what_the_gate_counts_and_logs_on_a_press(self):
        page = self.record()
        self.assertContains(page, "Nothing to mend: it was clean.")
        self.assertContains(page, "<b>8 of 8</b> clean, 8 in a row")
        self.assertEqual(Attempt.objects.count(), 0)
        sent = {"tempo": 100, "passes": 8, "clean_try": "yes"}
        self.client.post(reverse("step-log", args=[self.step.pk]), sent)
        self.assertTrue(Attempt.objects.get().was_clean)

    def test_a_midi_file_of_it(self):
        data = write_midi(perform(bars_of(self.step), 1))
        file = SimpleUploadedFile("mine.mid", data)
        page = self.record(tempo=120, passes=1, file=file)
        self.assertContains(page, "<b>1 of 1</b> clean")
        self.assertEqual(Take.objects.get().source, "file")

    def test_what_is_no_take_is_told(self):
        empty = io.BytesIO()
        mido.MidiFile(tracks=[mido.MidiTrack()]).save(file=empty)
        for sent, said in (
            ({"file": SimpleUploadedFile("x.mid", b"no midi")}, "x.mid: it is no MIDI file"),
            (
                {"file": SimpleUploadedFile("e.mid", empty.getvalue())},
                "no drum is struck in it",
            ),
            ({"tempo": 9}, "No take: Tempo"),
            ({"passes": 99}, "No take: Times through"),
            ({"fault": "x"}, "No take"),
        ):
            with self.subTest(said):
                self.assertContains(self.record(**sent), said)
        self.assertEqual(Take.objects.count(), 0)

    def test_a_whole_piece_and_a_layer_are_judged_too(self):
        for step in self.plan.steps.all():
            self.step = step
            page = self.record(passes=2, fault="late-right-foot")
            self.assertEqual(page.status_code, 200)


class Keeping(TakeTest):
    def test_it_is_thrown_away_and_brought_back(self):
        self.record()
        take = Take.objects.get()
        self.client.post(reverse("take-delete", args=[take.pk]))
        self.assertEqual(Take.objects.count(), 0)
        put_back(Binned.objects.get())
        self.assertEqual(Take.objects.get().strokes, take.strokes)
        self.assertContains(self.client.get(reverse("step", args=[self.step.pk])), "at 100")

    def test_it_goes_along_in_the_studio_file_and_with_its_student(self):
        self.record()
        strokes = Take.objects.get().strokes
        answer = self.client.get(reverse("studio-json"))
        restore(read_studio_file(b"".join(answer.streaming_content)), self.teacher)
        self.assertEqual(Take.objects.get().strokes, strokes)
        self.teacher.students.get().delete()
        self.assertEqual(Take.objects.count(), 0)

    def test_nobody_else_sees_or_makes_one(self):
        self.record()
        take = Take.objects.get()
        self.client.force_login(make_teacher("bob"))
        self.assertEqual(self.client.get(reverse("take", args=[take.pk])).status_code, 404)
        self.assertEqual(self.record().status_code, 404)
        deleted = self.client.post(reverse("take-delete", args=[take.pk]))
        self.assertEqual(deleted.status_code, 404)

    def test_it_is_small(self):
        self.record(passes=32)
        size = len(str(Take.objects.get().strokes))
        self.assertLess(size, 20_000)

    def test_a_teachers_own_entry_is_not_overruled(self):
        log(self.step, 90)
        self.record(fault="misses")
        self.step.refresh_from_db()
        self.assertEqual(self.step.standing.held, 90)
