"""Every drum of the table is drawn, on the staff and by its limb, and has a sound."""

import re
from fractions import Fraction

from django.conf import settings
from django.test import SimpleTestCase

from tests.outside.test_standards import engraver_log
from wren_ladder.drumming.chart import Bar, Drum, Hit, Meter, Tempo
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.study import study_bar
from wren_ladder.studio.drawing.engraving import BAR_WIDTH, engrave
from wren_ladder.studio.drawing.limb_view import limb_view


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

    def test_in_the_lane_of_its_limb_with_a_glyph_that_is_there(self):
        template = settings.STUDIO / "templates/drawing/limb_view.html"
        glyphs = set(re.findall(r'id="glyph-([\w-]+)"', template.read_text()))
        for drum in Drum:
            with self.subTest(drum.value):
                strokes = [s for lane in limb_view(studied(drum)).lanes for s in lane.strokes]
                self.assertEqual([stroke.drum for stroke in strokes], [drum.value])
                self.assertIn(strokes[0].glyph, glyphs)

    def test_with_a_voice_that_the_page_has(self):
        script = (settings.STUDIO / "static/wren/sound.js").read_text()
        voices = set(re.findall(r'^    "?([\w-]+)"?: \(at, s\)', script, re.MULTILINE))
        self.assertLessEqual({drum.row.sound for drum in Drum}, voices)
