"""What a piece asks for: figures, techniques, rudiments, against a grade. Common practice."""

import unittest
from fractions import Fraction

from tests.builders import make_bar, make_chart
from wren_ladder.drumming.chart import Bar, Drum, Hit, Meter
from wren_ladder.drumming.description.figures import Voice, figures, names_for
from wren_ladder.drumming.description.techniques import ASKED, techniques
from wren_ladder.drumming.grades import HOUSE_SYLLABUS
from wren_ladder.drumming.hands import stick_bar, strokes_of
from wren_ladder.drumming.judging.syllabus import Kind, Status, vocabulary
from wren_ladder.drumming.study import study
from wren_ladder.drumming.style import WORDS


class Figures(unittest.TestCase):
    def test_each_voice_has_figures_of_its_own(self):
        bar = make_bar("hat 8ths\nkick 1 2&", "2/4")
        self.assertEqual(figures(bar, Voice.HANDS), ("two quavers",))
        self.assertEqual(figures(bar, Voice.FEET), ("dotted crotchet + quaver",))
        self.assertEqual(figures(bar), ("two quavers",))

    def test_every_figure_the_syllabus_and_the_words_name_is_one_that_is_found(self):
        lengths = (Fraction(1, 2), Fraction(1), Fraction(3, 2), Fraction(2))
        known = {name for length in lengths for name in names_for(length)}
        named = {name for name, _ in WORDS}
        self.assertEqual(named - known, set())
        self.assertEqual(known & set(HOUSE_SYLLABUS) & named, named)


class Techniques(unittest.TestCase):
    def test_each_is_found_where_it_is_asked_for(self):
        for name, lines in (
            ("rock beat", "hat 8ths\nsnare 2 4\nkick 1 3"),
            ("crash at a section", "crash 1"),
            ("open and closed hat", "hat 8ths, open 4&"),
            ("pushed crash", "crash 4&"),
            ("toms", "floor 1"),
            ("accents", "snare accent 1"),
            ("flams", "snare flam 1"),
            ("drags", "snare drag 1"),
            ("ruffs", "snare ruff 1"),
            ("buzz roll", "snare buzz 1-2"),
            ("left foot on the hat", "foot 2 4"),
            ("cross-stick", "snare cross 2"),
            ("rim shots", "snare rim 2"),
            ("open double-stroke roll", "snare roll 1-2"),
            ("crescendo and diminuendo", "snare 1\ncresc 1-4"),
            ("ghost notes", "snare ghost 2a"),
            ("off-beat open hats", "hat offbeats, open 1& 2& 3& 4&"),
            ("ride bell", "ride bell 1"),
            ("paradiddle groove", "hat 1 1& 1a 2e\nsnare 1e 2 2& 2a"),
            ("inverted paradiddle", "snare 16ths 1-2\nhands RLLRLRRL"),
            ("5, 7 and 9 stroke rolls", "snare roll 7 1-2, 2"),
            ("bell on the off-beats", "ride quarters\nride bell 1& 2& 3& 4&"),
            ("hat opened in semiquavers", "hat open 1e, 1&"),
            ("linear figures", "snare 1 1e 2 2e\nkick 1& 2&"),
            ("left foot off the beat", "ride quarters\nfoot offbeats"),
            ("flams round the kit", "floor flam 1"),
            ("accents inside rolls", "snare roll 1-2 accent"),
            (
                "rolls with accents in every place",
                "snare roll 5 1-1&, accent 1&, roll 5 2-2e, accent 2e, roll 5 3-4, accent 4",
            ),
            ("brushes", "snare 2 4\ncue 1 with brushes"),
            ("kicks over time", "ride 8ths\ncue 1 kicks over time"),
            ("paradiddles round the kit", "snare 16ths 1\nmid 16ths 2\nhands RLRRLRLL"),
            ("doubles round the kit", "snare 16ths 1\nmid 16ths 2\nhands RRLLRRLL"),
            ("groups of three across the beat", "snare 16ths, accent 1 1a 2& 3e"),
            ("linear groove", "hat 1 2 3 4\nsnare 1& 2& 3& 4&\nkick 1e 2e 3e 4e"),
            ("both feet under the hands", "snare 8ths\nkick quarters\nfoot quarters"),
        ):
            with self.subTest(name):
                self.assertIn(name, techniques(make_bar(lines)))
                self.assertNotIn(name, techniques(make_bar("mid 1")) if name != "toms" else ())
                self.assertIn(name, HOUSE_SYLLABUS)
        self.assertEqual(len(ASKED), 35)


class Vocabulary(unittest.TestCase):
    PIECE = (
        "bar 1\nhat 8ths\nsnare 2 4\nkick 1 3\nbar 2\nsnare 16ths 1-2, accent 1 2\n"
        "hands RLRRLRLL\nbar 3\nhat triplets"
    )

    def items(self, grade):
        return {item.name: item for item in vocabulary(study(make_chart(self.PIECE)), grade)}

    def test_known_due_and_new_by_the_students_grade(self):
        items = self.items(2)
        self.assertEqual(items["two quavers"].status, Status.KNOWN)
        self.assertEqual(items["single paradiddle"].status, Status.DUE)
        self.assertEqual(items["single paradiddle"].kind, Kind.RUDIMENT)
        self.assertEqual(items["triplet"].status, Status.NEW)

    def test_the_bars_are_told_first_appearance_first(self):
        items = self.items(2)
        self.assertEqual(items["four semiquavers"].bars, (1,))
        self.assertEqual(items["triplet"].bars, (2,))

    def test_what_no_syllabus_has_is_new_and_hardest(self):
        found = vocabulary(study(make_chart("bar 1\nsnare 1 1+1/5")), 8)
        self.assertEqual((found[0].name, found[0].status), ("two uneven notes", Status.NEW))


class Grooves(unittest.TestCase):
    GROOVE = "bar 1\nhat 1 1l 2 2l 3 3l 4 4l\nsnare ghost 1t 2t 3t 4t"

    def found(self, text):
        return [one.rudiment.name for one in study(make_chart(text)).bars[0].rudiments]

    def test_a_groove_is_no_rudiment(self):
        self.assertEqual(self.found(self.GROOVE), [])

    def test_written_hands_make_it_one(self):
        paddles = "bar 1\nhat 1 1& 1a 2e\nsnare 1e 2 2& 2a\nhands RLRRLRLL"
        self.assertEqual(self.found(paddles), ["single paradiddle"])


class AcrossTheLine(unittest.TestCase):
    def test_the_last_stroke_looks_to_the_bar_that_follows(self):
        plain, loud = make_bar("snare 1"), make_bar("snare accent 1")
        (alone,) = strokes_of(stick_bar(plain))
        (before_loud,) = strokes_of(stick_bar(plain), stick_bar(loud))
        self.assertEqual((alone.kind, before_loud.kind), ("tap", "up"))

    def test_a_hand_that_rests_there_comes_round_again(self):
        (stroke,) = strokes_of(stick_bar(make_bar("snare accent 1")), stick_bar(make_bar("")))
        self.assertEqual(stroke.kind, "full")


class ManyNotes(unittest.TestCase):
    def test_each_of_sixty_four_notes_gets_a_hand(self):
        hits = tuple(Hit(Fraction(n, 16), Drum.SNARE) for n in range(64))
        sticks = stick_bar(Bar("1", Meter(4, 4), hits))
        self.assertTrue(all(stick.hand for stick in sticks))
