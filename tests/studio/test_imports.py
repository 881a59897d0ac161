"""Files read, looked over, corrected, and saved as pieces."""

from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse

from tests.drumming.test_midi import made
from tests.drumming.test_midi_played import tempo
from tests.drumming.test_musicxml import FOUR, note, score
from tests.studio.base import StudioTest
from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.files import write_file
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.studio.pieces.models import Import, Piece

TWO_PARTS = """<score-partwise><part-list>
<score-part id="P1"><part-name>Kit</part-name></score-part>
<score-part id="P2"><part-name>Street</part-name></score-part></part-list>
<part id="P1"><measure number="1">{kick}</measure></part>
<part id="P2"><measure number="1">{snare}</measure></part></score-partwise>"""
PLACED = (
    "<attributes><divisions>1</divisions></attributes><note><unpitched><display-step>{step}"
    "</display-step><display-octave>{octave}</display-octave></unpitched>"
    "<duration>4</duration></note>"
)


def shuffle() -> bytes:
    chart = read_chart("tempo crotchet = 90\nride 1 1l 2 2l 3 3l 4 4l\nsnare 2 4\nkick 1 3")
    return write_file("take.mid", chart)


class ImportTest(StudioTest):
    def upload(self, name: str, data: bytes, **fields):
        file = SimpleUploadedFile(name, data)
        return self.client.post(reverse("piece-upload"), {"file": file, **fields}, follow=True)

    def correct(self, **sent):
        return self.client.post(Import.objects.get().get_absolute_url(), sent)

    def save(self, title="Quay", **fields):
        address = reverse("import-save", args=[Import.objects.get().pk])
        return self.client.post(address, {"title": title, "notes": "", "grade": "", **fields})

    def drums(self):
        bars = Piece.objects.get().chart().bars
        return [hit.drum for bar in bars for hit in bar.hits]


class Reading(ImportTest):
    def test_every_kind_of_note_is_listed_with_its_drum_and_why(self):
        page = self.upload("quay.musicxml", score(FOUR + note("S") * 3 + note("K")))
        self.assertContains(page, "<td>Snare</td><td>3</td>", html=False)
        self.assertContains(page, '<option value="kick" selected>kick</option>', html=True)
        self.assertContains(page, "by its name")
        self.assertContains(page, "1 bar, each taken whole: nothing guessed, nothing left out.")

    def test_a_drum_is_corrected_before_anything_is_saved(self):
        self.upload("quay.musicxml", score(FOUR + note("S") * 3 + note("K")))
        page = self.correct(**{"part": "P1", "drum-0": "tom-floor"})
        self.assertContains(page, "chosen by you")
        self.assertFalse(Piece.objects.exists())
        self.assertEqual(Import.objects.get().drums, {"instrument S": "tom-floor"})  # tomorrow
        self.save()
        self.assertEqual(self.drums(), [Drum.TOM_FLOOR] * 3 + [Drum.KICK])
        self.assertFalse(Import.objects.exists())

    def test_a_drum_can_be_left_out_and_taken_again(self):
        self.upload("quay.musicxml", score(FOUR + note("S") * 3 + note("K")))
        page = self.correct(**{"part": "P1", "drum-0": "", "drum-1": "kick"})
        self.assertContains(page, "left out by you")
        self.assertContains(page, "instrument S is left out", count=0)
        self.correct(**{"part": "P1", "drum-0": "snare", "drum-1": "kick"})
        self.save()
        self.assertEqual(len(self.drums()), 4)

    def test_a_place_that_no_drum_has_is_given_one(self):
        part = PLACED.format(step="B", octave="6")
        self.upload("odd.musicxml", TWO_PARTS.format(kick=part, snare="").encode())
        page = self.correct(**{"part": "P1", "drum-0": "cowbell"})
        self.assertContains(page, "a round head on B6")
        self.save()
        self.assertEqual(self.drums(), [Drum.COWBELL])

    def test_parts_are_chosen_from_a_list(self):
        kick, snare = PLACED.format(step="F", octave="4"), PLACED.format(step="C", octave="5")
        page = self.upload("two.musicxml", TWO_PARTS.format(kick=kick, snare=snare).encode())
        self.assertContains(page, "These parts are read together: Kit, Street")
        self.correct(part=["P2"])
        self.save()
        self.assertEqual(self.drums(), [Drum.SNARE])

    def test_the_report_says_bar_by_bar_what_was_left_out(self):
        element = "<direction-type><dynamics><rfz/></dynamics></direction-type>"
        measure = FOUR + f"<direction>{element}</direction>" + note() * 4
        page = self.upload("quay.musicxml", score(measure, FOUR + note() * 4), grade=3)
        self.assertContains(page, '<figcaption class="card-number">1</figcaption>')
        self.assertContains(page, "<li>1: 4 notes</li>")
        self.assertContains(page, "the dynamic &#x27;rfz&#x27; is not kept")
        self.assertContains(page, "1 bar taken whole")
        self.save(grade=3)
        piece = Piece.objects.get()
        self.assertEqual((piece.grade, piece.bar_count), (3, 2))
        kept = self.client.get(piece.get_absolute_url())
        self.assertContains(kept, "bar 1: the dynamic &#x27;rfz&#x27; is not kept")

    def test_a_midi_drum_track_shows_its_keys_and_how_far_off_it_was(self):
        chart = read_chart("title Take\ntempo crotchet = 90\nhat 8ths\nsnare 2 4\nkick 1 3")
        page = self.upload("take.mid", write_file("take.mid", chart))
        self.assertContains(page, "Every note lay on the grid")
        self.assertContains(page, "<td>key 38, Acoustic Snare</td><td>2</td>")
        self.save(title="Take")
        self.assertEqual(len(self.drums()), 12)

    def test_a_pick_up_is_offered_and_stays_chosen(self):
        page = self.upload("quay.musicxml", score(FOUR + note("S"), note("S") * 4))
        self.assertContains(page, "bar 1 holds 1 of its 4 crotchets: read it as a pick-up")
        self.correct(part="P1", take="0")
        page = self.client.get(Import.objects.get().get_absolute_url())
        self.assertContains(page, 'value="0" checked')
        self.save()
        bars = Piece.objects.get().chart().bars
        self.assertEqual([(bar.number, bar.length) for bar in bars], [("0", 1), ("2", 4)])
        self.upload("quay.musicxml", score(FOUR + note("S"), note("S") * 4))
        self.correct(part="P1", take="0")
        self.correct(part="P1")
        self.assertEqual(Import.objects.get().taken, [])

    def test_what_a_file_leaves_open_is_chosen_and_undone(self):
        self.upload("take.mid", shuffle())
        page = self.correct(**{"way-feel": "feel swung"})
        self.assertContains(page, '<option value="feel swung" selected>')
        self.assertEqual(Import.objects.get().taken, ["feel swung"])
        self.correct(**{"way-feel": "feel swung", "way-loudness": "plain"})
        self.assertEqual(Import.objects.get().taken, ["feel swung", "plain"])
        page = self.correct(undo=1)
        self.assertEqual(Import.objects.get().taken, ["feel swung"])
        self.correct(undo=1)
        page = self.client.get(Import.objects.get().get_absolute_url())
        self.assertEqual(Import.objects.get().taken, [])
        self.assertContains(page, 'value="undo"', count=0)
        self.assertNotContains(page, 'name="undo"')

    def test_a_way_chosen_back_is_as_the_reader_takes_it(self):
        self.upload("take.mid", shuffle())
        self.correct(**{"way-metre": "metre 12/8"})
        self.correct(**{"way-metre": "metre file"})
        self.assertEqual(Import.objects.get().taken, ["metre file"])
        self.save()
        self.assertEqual({str(bar.meter) for bar in Piece.objects.get().chart().bars}, {"4/4"})

    def test_a_way_that_no_choice_has_changes_nothing(self):
        self.upload("take.mid", shuffle())
        self.correct(**{"way-feel": "<script>", "way-nothing": "feel swung"})
        found = Import.objects.get()
        self.assertEqual((found.taken, found.before), ([], []))

    def test_the_title_that_was_typed_is_there_after_a_reload(self):
        self.upload("take.mid", shuffle())
        self.correct(title="Harbour in the rain", grade="4", instead="")
        page = self.client.get(Import.objects.get().get_absolute_url())
        self.assertContains(page, 'value="Harbour in the rain"')
        self.assertContains(page, 'value="4"')
        self.correct(title="Harbour in the rain", grade="much", instead="")
        self.assertEqual(Import.objects.get().title, "Harbour in the rain")

    def test_bars_in_doubt_stand_first_with_what_was_guessed_marked(self):
        early = [(n / 2, 42, 80) for n in range(16)]
        early += [(at - 0.04 * 160 / 60, 38, 90) for at in (1, 3)]
        page = self.upload("take.mid", made(early, tempo(160)))
        text = page.content.decode()
        self.assertLess(text.index("To look at first"), text.index("The first bars"))
        first = text[text.index("To look at") : text.index("The first bars")]
        self.assertIn('data-differs=""', first)
        self.assertContains(page, "notes moved to the grid by more than")

    def test_it_is_heard_as_written_and_as_the_file_has_it(self):
        page = self.upload("take.mid", shuffle())
        written, own = page.context["written_sound"], page.context["file_sound"]
        self.assertEqual(len(written["strokes"]), len(own["strokes"]))
        self.assertContains(page, "Play as the file has it")
        other = self.upload("quay.musicxml", score(FOUR + note("S") * 4))
        self.assertNotContains(other, "Play as the file has it")

    def test_a_second_upload_of_a_piece_shows_what_differs(self):
        text = "title Quay\nbar 1\nhat 8ths\nkick 1 3\nbar 2\nhat 8ths\nkick 1 3 3&"
        self.upload("quay.wren", text.encode())
        self.save(title="Quay")
        again = text.replace("kick 1 3 3&", "kick 1 3 4&") + "\nbar 3\ncrash 1"
        page = self.upload("quay.wren", again.encode())
        self.assertContains(page, "Beside Quay as it is")
        self.assertContains(page, "1 bar the same")
        told = {one["bar"].number: one["bar"].said for one in page.context["differs"]}
        self.assertEqual(set(told), {"2", "3"})
        self.assertIn("kick", told["2"])
        self.assertEqual(told["3"], "is new")
        piece = Piece.objects.get()
        self.correct(title="Quay", grade="", instead=piece.pk)
        Import.objects.get().delete()
        same = self.upload("quay.wren", text.encode())
        self.assertContains(same, "Bar for bar the same")

    def test_typed_bars_come_as_they_stand(self):
        page = self.upload("quay.wren", b"bar 1\nhat 8ths")
        self.assertContains(page, "Typed bars are taken as they stand")

    def test_a_title_is_asked_for_and_the_file_stays(self):
        self.upload("quay.wren", b"bar 1\nhat 8ths")
        self.assertContains(self.save(title=""), "This field is required", status_code=422)
        self.assertTrue(Import.objects.exists())

    def test_an_import_is_found_again_and_can_be_thrown_away(self):
        self.upload("quay.wren", b"bar 1\nhat 8ths")
        self.assertContains(self.client.get(reverse("pieces")), "was read but not kept")
        discard = reverse("import-discard", args=[Import.objects.get().pk])
        self.assertContains(self.client.get(discard), "Delete quay.wren?")
        self.client.post(discard)
        self.assertFalse(Import.objects.exists())

    def test_several_that_wait_take_one_line_of_the_page(self):
        self.upload("quay.wren", b"bar 1\nhat 8ths")
        self.assertNotContains(self.client.get(reverse("pieces")), "files were read")
        self.upload("pier.wren", b"bar 1\nhat 8ths")
        page = self.client.get(reverse("pieces"))
        self.assertContains(page, "2 parts came in and are not kept as pieces")
        self.assertContains(page, "Throw it away", count=2)

    def test_nobody_sees_anothers_import(self):
        self.upload("quay.wren", b"bar 1\nhat 8ths")
        address = Import.objects.get().get_absolute_url()
        self.client.force_login(self.other_teacher())
        self.assertEqual(self.client.get(address).status_code, 404)


class Refused(ImportTest):
    def test_an_xml_bomb_gets_a_friendly_refusal(self):
        bomb = (
            b'<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]>'
            b"<score-partwise>&b;</score-partwise>"
        )
        response = self.upload("bomb.xml", bomb)
        self.assertContains(response, "defines XML entities", status_code=422)
        self.assertFalse(Import.objects.exists())

    def test_fifty_megabytes_get_a_friendly_refusal(self):
        response = self.upload("huge.musicxml", b" " * (50 * 1024**2))
        self.assertContains(response, "This file has 50 MB", status_code=422)

    def test_a_wrong_file_is_named(self):
        response = self.upload("song.pdf", b"%PDF")
        self.assertContains(response, "song.pdf:", status_code=422)
        self.assertContains(response, "is not read; use .wren, .musicxml", status_code=422)

    def test_no_file_at_all_is_asked_for(self):
        response = self.client.post(reverse("piece-upload"), {})
        self.assertContains(response, "This field is required", status_code=422)
