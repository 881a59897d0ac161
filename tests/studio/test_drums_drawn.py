"""Every drum of the table is drawn, on the staff and by its limb, and has a sound."""

import re
from fractions import Fraction
from unittest.mock import patch
from xml.etree.ElementTree import fromstring

from django.conf import settings
from django.test import SimpleTestCase

from tests.builders import make_bar
from tests.outside.test_standards import engraver_log
from wren_ladder.drumming.chart import Bar, Drum, Hit, Meter, Surface, Tempo
from wren_ladder.drumming.counting.spoken import SAMPLES
from wren_ladder.drumming.notation.mei import Around, Layout
from wren_ladder.drumming.study import study_bar
from wren_ladder.studio.drawing import engraving
from wren_ladder.studio.drawing.engraving import BAR_WIDTH, engrave, engrave_narrow
from wren_ladder.studio.drawing.limb_view import limb_view

SVG = "{http://www.w3.org/2000/svg}"


def studied(drum: Drum):
    bar = Bar("1", Meter(4, 4), (Hit(Fraction(0), drum),))
    return study_bar(bar, Tempo(Fraction(1), 80))


class Drawn(SimpleTestCase):
    def test_on_the_staff_with_nothing_for_the_engraver_to_complain_of(self):
        with engraver_log() as said:
            for drum in Drum:
                with self.subTest(drum.value):
                    svg = engrave([studied(drum)], Layout(), BAR_WIDTH, "drum-")
                    self.assertIn('id="drum-b0h0"', svg)
        self.assertEqual(said, [""])

    def test_an_id_of_the_engravers_own_is_no_notes_whatever_it_looks_like(self):
        """It is drawn by lot from letters and figures, and was once "b12h345"."""
        render = engraving._render

        def unlucky(mei: str, asked: dict) -> list[str]:
            return [
                re.sub(r'id="\w+" class="(system|stem)"', r'id="b12h345" class="\1"', svg)
                for svg in render(mei, asked)
            ]

        lesson = [study_bar(make_bar("snare 1 2e 3 4a"), Tempo(Fraction(1), 81))]
        with patch.object(engraving, "_render", unlucky):
            svg = engrave_narrow(lesson, Layout(), "drum-")
        found = set(re.findall(r'id="drum-(b\d+h\d+)"', svg))
        self.assertEqual(found, {"b0h0", "b0h1", "b0h2", "b0h3"})

    def test_a_slashed_head_is_a_head_on_its_stem_with_a_line_through_it(self):
        bar = make_bar("hat 8ths\nsnare rim 2, 4")
        svg = engrave([study_bar(bar, Tempo(Fraction(1), 80))], Layout(), BAR_WIDTH, "drum-")
        tree = fromstring(svg)
        drawn = {}
        for place, hit in enumerate(bar.hits):
            if hit.drum.surface is Surface.SNARE:
                (note,) = (g for g in tree.iter(f"{SVG}g") if g.get("id") == f"drum-b0h{place}")
                drawn[hit.drum] = len(note.findall(f".//{SVG}path"))
        self.assertEqual(drawn[Drum.RIM_SHOT], drawn[Drum.SNARE] + 1)

    def test_the_note_of_a_metronome_mark_is_a_path_before_its_number(self):
        bar, around = make_bar("snare 1"), Around(Tempo(Fraction(3, 2), 60))
        studied = study_bar(bar, Tempo(Fraction(1), 80))
        svg = engrave([studied], Layout(numbers=True), BAR_WIDTH, "drum-", around)
        self.assertNotIn("Leipzig", svg)
        tree = fromstring(svg)
        parents = {child: parent for parent in tree.iter() for child in parent}
        words = {"".join(text.itertext()).strip(): text for text in tree.iter(f"{SVG}text")}
        number = words["= 60"]
        note, dot = list(parents[number])[: list(parents[number]).index(number)]
        self.assertEqual([note.tag, dot.tag], [f"{SVG}path"] * 2)
        places = [float(one.get("transform")[10:].partition(",")[0]) for one in (note, dot)]
        self.assertLess(places[0], places[1])
        self.assertLess(places[1], float(number.get("x")))

    def test_in_the_lane_of_its_limb_with_a_glyph_that_is_there(self):
        template = settings.STUDIO / "templates/drawing/glyphs.html"
        glyphs = set(re.findall(r'id="glyph-([\w-]+)"', template.read_text()))
        for drum in Drum:
            with self.subTest(drum.value):
                strokes = [s for lane in limb_view(studied(drum)).lanes for s in lane.strokes]
                self.assertEqual([stroke.drum for stroke in strokes], [drum.value])
                self.assertIn(strokes[0].glyph, glyphs)

    def test_with_a_sample_that_ships_with_the_app(self):
        sounds = settings.STUDIO / "static/wren/sounds"
        for ending in ("flac", "ogg"):
            shipped = {path.stem for path in sounds.glob(f"*.{ending}")}
            self.assertLessEqual({drum.row.sound.sample for drum in Drum}, shipped, ending)
        self.assertTrue((sounds / "LICENSE.txt").exists())
        words = {path.stem for path in (settings.STUDIO / "static/wren/words").glob("*.flac")}
        self.assertEqual(set(SAMPLES.values()), words)
