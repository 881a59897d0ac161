"""What a take is to a child: every finding there can be, in short words without figures."""

import re
import unittest

from tests.reading_age import school_grade, words_in
from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.takes.childs_words import advice_for_child, sentence_for_child
from wren_ladder.drumming.takes.finding import Advice, Finding, Kind
from wren_ladder.drumming.takes.passes import Pass, Spoiled

PLACES = {
    Kind.BEATS_OFF: ("", "1", "2"),
    Kind.FILL: ("start", "end", "landing"),
    Kind.GRACES: ("flams", "drags", "ruffs"),
    Kind.PLACE: ("2&", "the a of 4"),
    Kind.DROPPED: ("", "bar 12"),
    Kind.TURN: ("", "bar 12"),
}


def every_finding():
    for kind in Kind:
        for where in PLACES.get(kind, ("bar 12",)):
            for limb in (None, *Limb):
                for seconds in (-0.04, 0.04):
                    for spoiled in Spoiled:
                        one = Pass(0, 8, 16, None, limb or Limb.LEFT_HAND, spoiled, 2)
                        yield Finding(
                            kind, Advice.SLOWER, limb, where, seconds, 0.5, 12, (1, 4),
                            Limb.RIGHT_HAND, (92, 100) if seconds > 0 else (108, 100), one,
                        )  # fmt: skip


class ChildsWords(unittest.TestCase):
    def test_no_sentence_is_long_and_none_holds_a_measure(self):
        said = {sentence_for_child(one) for one in every_finding()}
        said |= {advice_for_child(Finding(Kind.LEAN, one, limb)) for one in Advice
                 for limb in (None, *Limb)}  # fmt: skip
        self.assertGreater(len(said), 60)
        for text in said:
            self.assertTrue(text[0].isupper() and text.endswith("."), text)
            self.assertNotRegex(text, r"\bms\b|%|varies|None")
            for sentence in re.split(r"(?<=[.:])\s", text):
                self.assertLessEqual(len(words_in(sentence)), 12, text)
        self.assertLess(school_grade(said), 4)

    def test_a_habit_is_told_with_its_side(self):
        late = Finding(Kind.LEAN, Advice.PAIR, Limb.LEFT_FOOT, seconds=0.044, strokes=62)
        self.assertEqual(sentence_for_child(late), "The left foot comes a bit late.")
        self.assertEqual(
            advice_for_child(late),
            "First the left foot with one other hand or foot. Then all of it.",
        )
        both = Finding(Kind.LEAN, Advice.PAIR, None, seconds=-0.044)
        self.assertEqual(sentence_for_child(both), "The hands come a bit early.")
