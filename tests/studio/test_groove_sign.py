"""A groove as a sign: what stands in it is what is played."""

import re
import unittest

from wren_ladder.drumming.workshop.grooves import Groove, family
from wren_ladder.drumming.workshop.patterns import KICK_BY_CODE, Hands, LeftFoot
from wren_ladder.studio.drawing.groove_sign import EDGE, SLOT, groove_sign

STROKE = re.compile(r"M([\d.]+) ([\d.]+)v-([\d.]+)")


class Sign(unittest.TestCase):
    def test_every_groove_of_the_board_has_each_of_its_strokes_once_on_its_limbs_line(self):
        for left_foot in (LeftFoot.NOTHING, LeftFoot.TWO_AND_FOUR):
            for groove in family(left_foot=left_foot):
                sign, bar = groove_sign(groove.bar), groove.bar
                drawn = sorted(
                    round((float(x) - EDGE) / SLOT * 4, 1)
                    for line in sign.lines
                    for x, _, _ in STROKE.findall(line.strokes)
                )
                self.assertEqual(drawn, sorted(round(float(h.at), 1) for h in bar.hits))
                for line in sign.lines:
                    self.assertEqual(
                        {y for _, y, _ in STROKE.findall(line.strokes)} - {str(line.y)}, set()
                    )
                    self.assertLess(line.y, sign.height)

    def test_accents_stand_taller_and_what_rings_has_a_ring(self):
        kick = KICK_BY_CODE["1-3"]
        cymbal, *_ = groove_sign(Groove(Hands.HAT_ACCENTED, kick).bar).lines
        heights = [float(up) for _, _, up in STROKE.findall(cymbal.strokes)]
        self.assertGreater(heights[0], heights[1])
        opened, *_ = groove_sign(Groove(Hands.HAT_OPEN, kick).bar).lines
        self.assertEqual(len(opened.rings), 4)
