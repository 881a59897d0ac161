"""A sound file beside a piece: taken in, placed, served to its owner, gone with its piece."""

import io
import json
import wave
from datetime import timedelta
from pathlib import Path

from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse
from django.utils import timezone

from tests.studio.base import StudioTest, make_piece, make_plan, make_student, make_teacher
from wren_ladder.studio.bin.models import KEPT, Binned
from wren_ladder.studio.changes.bin import empty_old, put_back
from wren_ladder.studio.changes.recordings import content_type_of
from wren_ladder.studio.exchange.studio_file import (
    StudioFileError,
    read_studio_file,
    restore,
)
from wren_ladder.studio.pieces.models import Recording
from wren_ladder.studio.students.links import open_link, path_of, revoke


def sound(seconds: float = 12) -> bytes:
    file = io.BytesIO()
    with wave.open(file, "wb") as made:
        made.setnchannels(1)
        made.setsampwidth(2)
        made.setframerate(8000)
        made.writeframes(bytes(int(16000 * seconds)))
    return file.getvalue()


class RecordingTest(StudioTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher)

    def address(self, name):
        return reverse(name, args=[self.piece.pk])

    def attach(self, data=None, name="mine.wav"):
        file = SimpleUploadedFile(name, sound() if data is None else data)
        return self.client.post(
            self.address("recording-attach"), {"recording": file}, follow=True
        )

    def place(self, **sent):
        return self.client.post(self.address("recording-place"), sent, follow=True)

    def path(self) -> Path:
        return Path(Recording.objects.get().file.path)


class TakingIn(RecordingTest):
    def test_it_is_attached_placed_and_the_room_plays_along(self):
        page = self.attach()
        self.assertContains(page, "mine.wav is attached. Say where its bars are.")
        self.assertContains(page, "not placed beside the notes yet")
        self.assertNotContains(page, "With the recording")
        page = self.place(second="1.5", bpm="60")
        self.assertContains(page, "The recording follows the notes now.")
        self.assertContains(page, 'data-recording="recording"')
        bars = page.context["sound"]["bars"]
        # Twice as slow as the page's 120: a bar of four lasts four seconds from 1.5 on.
        self.assertEqual([bar[:2] for bar in bars], [[1.5 + 4 * n, 4.0] for n in range(4)])
        self.assertEqual(page.context["sound"]["countIns"][0][0], 4.0)
        kit = self.client.get(self.address("piece-room"))
        self.assertEqual(kit.context["sound"]["bars"][1][0], 2.0)

    def test_by_taps(self):
        self.attach()
        page = self.place(taps="[1, 3, 5.2, 7.1]")
        starts = [bar[0] for bar in page.context["sound"]["bars"]]
        self.assertEqual(starts, [1, 3, 5.2, 7.1])

    def test_what_is_wrong_is_told_and_nothing_is_changed(self):
        for data, name, said in (
            (b"MZ no sound", "x.mp3", "x.mp3 is no sound file that can be played here"),
            (b"", "empty.wav", "Not attached"),
            (b"ID3" + bytes(30 * 1024**2), "long.mp3", "long.mp3 has more than 30 MB"),
        ):
            self.assertContains(self.attach(data, name), said)
        self.assertContains(
            self.client.post(self.address("recording-attach"), follow=True),
            "choose a sound file",
        )
        self.assertEqual(Recording.objects.count(), 0)
        self.attach()
        for sent, said in (
            ({"second": "x", "bpm": "60"}, "where bar 1 begins is a number, such as 12.5"),
            ({"second": "nan", "bpm": "60"}, "a number from 0 to 3600"),
            ({"second": "1", "bpm": "900"}, "a tempo is 20 to 400"),
            ({"taps": "[1]"}, "tap two bars or more"),
            ({"taps": "[5, 3]"}, "cannot come before"),
            ({"taps": "{}"}, "tap two bars"),
            ({"taps": "[1, null]"}, "Not placed"),
            ({"taps": "x"}, "Not placed"),
        ):
            with self.subTest(said):
                page = self.client.post(self.address("recording-place"), sent)
                self.assertContains(page, said, status_code=422)
        self.assertEqual(Recording.objects.get().anchors, [])

    def test_kinds_are_told_by_how_a_file_begins(self):
        for beginning, kind in (
            (b"ID3\x04", "audio/mpeg"),
            (b"OggS\0", "audio/ogg"),
            (b"fLaC", "audio/flac"),
            (b"RIFF\0\0\0\0WAVE", "audio/wav"),
            (b"\0\0\0\x20ftypM4A ", "audio/mp4"),
            (b"<html>", None),
        ):
            self.assertEqual(content_type_of(beginning), kind)


class Serving(RecordingTest):
    def setUp(self):
        super().setUp()
        self.attach()

    def ask(self, part=""):
        headers = {"Range": part} if part else {}
        return self.client.get(self.address("recording-file"), headers=headers)

    def test_whole_or_in_part(self):
        data = sound()
        whole = self.ask()
        self.assertEqual(b"".join(whole.streaming_content), data)
        self.assertEqual(whole["Content-Type"], "audio/wav")
        for part, expected in (
            ("bytes=0-3", data[:4]),
            ("bytes=100-", data[100:]),
            ("bytes=-5", data[-5:]),
            ("bytes=10-999999999", data[10:]),
        ):
            with self.subTest(part):
                answer = self.ask(part)
                self.assertEqual((answer.status_code, answer.content), (206, expected))
        for wrong in ("bytes=5-2", "bytes=99999999-"):
            self.assertEqual(self.ask(wrong).status_code, 416)
        for passed_over in ("bytes=a-b", "bytes=-", "bytes=0-1,3-4", "lines=1-2"):
            self.assertEqual(self.ask(passed_over).status_code, 200)

    def test_nobody_else_gets_it_or_touches_it(self):
        self.client.force_login(make_teacher("bob"))
        self.assertEqual(self.ask().status_code, 404)
        for name in ("recording-place", "recording-delete", "recording-attach"):
            self.assertEqual(self.client.post(self.address(name)).status_code, 404)
        self.client.logout()
        self.assertEqual(self.ask().status_code, 302)
        self.assertEqual(Recording.objects.count(), 1)


class ForTheStudent(RecordingTest):
    """Behind the private link: the pieces that the student climbs, and their recordings."""

    def setUp(self):
        super().setUp()
        self.student = make_student(self.teacher)
        self.attach()
        self.place(second="1", bpm="120")
        make_plan(self.piece, self.student)
        open_link(self.student)
        self.client.logout()
        self.signed = path_of(self.student).split("/")[-2]

    def open(self, name, piece, **asked):
        return self.client.get(reverse(name, args=[self.signed, piece.pk]), asked)

    def test_a_piece_is_played_with_the_drums_or_the_recording(self):
        page = self.open("link-piece", self.piece)
        self.assertContains(page, "With the recording")
        self.assertNotContains(page, "<audio")
        along = self.open("link-piece", self.piece, **{"with": "recording"})
        self.assertContains(along, 'data-recording="recording"')
        whole = self.open("link-recording", self.piece)
        self.assertEqual(b"".join(whole.streaming_content), sound())
        held = self.client.get(reverse("link-held", args=[self.signed]))
        self.assertContains(held, reverse("link-piece", args=[self.signed, self.piece.pk]))

    def test_no_other_piece_and_nothing_once_it_is_revoked(self):
        other = make_piece(self.teacher, title="Other")
        for name in ("link-piece", "link-recording"):
            self.assertEqual(self.open(name, other).status_code, 404)
        revoke(self.student)
        for name in ("link-piece", "link-recording"):
            self.assertEqual(self.open(name, self.piece).status_code, 404)


class Going(RecordingTest):
    def setUp(self):
        super().setUp()
        self.attach()
        self.file = self.path()

    def test_taken_away_it_lies_in_the_bin_and_comes_back(self):
        with self.captureOnCommitCallbacks(execute=True):
            self.client.post(self.address("recording-delete"))
        self.assertEqual(Recording.objects.count(), 0)
        self.assertTrue(self.file.exists())
        with self.captureOnCommitCallbacks(execute=True):
            put_back(Binned.objects.get())
        self.assertEqual(self.path(), self.file)
        self.assertTrue(self.file.exists())

    def test_the_piece_takes_its_file_along_and_erasing_deletes_it(self):
        later = timezone.localdate() + KEPT + timedelta(days=1)
        with self.captureOnCommitCallbacks(execute=True):
            self.client.post(reverse("piece-delete", args=[self.piece.pk]))
        self.assertTrue(self.file.exists())
        with self.captureOnCommitCallbacks(execute=True):
            empty_old(self.teacher, later)
        self.assertFalse(self.file.exists())

    def test_deleted_for_good_at_once_it_is_gone(self):
        address = reverse("piece-delete", args=[self.piece.pk])
        with self.captureOnCommitCallbacks(execute=True):
            self.client.post(address, {"for_good": "1"})
        self.assertFalse(self.file.exists())

    def test_another_file_takes_its_place(self):
        with self.captureOnCommitCallbacks(execute=True):
            self.attach(sound(3), "other.wav")
        self.assertFalse(self.file.exists())
        self.assertEqual(Recording.objects.get().name, "other.wav")

    def test_a_piece_that_changed_under_it_is_told_so(self):
        self.place(taps="[1, 3, 5, 7]")
        self.piece.bars.filter(position__gt=1).delete()
        self.piece.refresh_from_db()
        page = self.client.get(self.address("piece-room") + "?with=recording")
        self.assertEqual(page.status_code, 200)


class InTheStudioFile(RecordingTest):
    def file(self, **asked):
        answer = self.client.get(reverse("studio-json"), asked)
        return b"".join(answer.streaming_content)

    def test_it_comes_along_where_asked_for_and_is_put_back(self):
        self.attach()
        self.place(taps="[1, 3, 5, 7]")
        self.assertNotIn(b"recordings", self.file())
        data = self.file(sounds=1)
        restore(read_studio_file(data), self.teacher)
        recording = Recording.objects.get()
        self.assertEqual(recording.file.read(), sound())
        self.assertEqual(recording.anchors, [[0, 1], [1, 3], [2, 5], [3, 7]])
        self.assertEqual((recording.name, recording.piece.title), ("mine.wav", "Quay"))

    def test_a_wrong_row_is_named_and_nothing_is_changed(self):
        self.attach()
        whole = json.loads(self.file(sounds=1))
        for field, wrong, said in (
            ("sound", "???", "row 1: its sound is no base64"),
            ("sound", "TVo=", "row 1: its sound is no sound file"),
            ("piece", 999, "row 1: there is no piece 999"),
            ("anchors", "x", "row 1: it has no piece, name, anchors, sound"),
            ("anchors", [1], "row 1"),
        ):
            with self.subTest(said):
                row = {**whole["recordings"][0], field: wrong}
                broken = json.dumps({**whole, "recordings": [row]}).encode()
                with (
                    self.captureOnCommitCallbacks(execute=True),
                    self.assertRaisesRegex(StudioFileError, said),
                ):
                    restore(read_studio_file(broken), self.teacher)
                self.assertTrue(self.path().exists())
                self.assertEqual(Recording.objects.get().name, "mine.wav")
        with self.assertRaisesRegex(StudioFileError, "the recordings are no list"):
            broken = json.dumps({**whole, "recordings": 3}).encode()
            restore(read_studio_file(broken), self.teacher)
