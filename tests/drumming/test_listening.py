"""Somebody counts in with their sticks, plays, and stops: found over every demo piece, and not
found where nobody counted."""

import random
from unittest import TestCase

from tests.players import GRADE, Part, Stretch, parts, play
from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.performance import perform
from wren_ladder.drumming.take_sources.heard import Heard, Source
from wren_ladder.drumming.take_sources.simulated import nameless
from wren_ladder.drumming.takes.limits import house_rule
from wren_ladder.drumming.takes.listening import Listened, Listening, counted_in, listen
from wren_ladder.drumming.takes.words import listened_said

ZERO = 7.0  # seconds on the strokes' clock
PARTS = parts()
SPREAD = 0.008
NEEDED = 4
OFTEN = 0.9  # of the takes by microphone, which has no drums to tell a count from


def counts_of(part: Part) -> list[float]:
    clicks = perform(part.road, count_in=True).clicks
    return [one.at for one in clicks if one.counted_in]


def played(part: Part, share: float, seed: int = 3, counted: bool = True, more=()) -> list:
    """Counted on the hat and played; ``more``: (seconds after the end, drum)."""
    dice = random.Random(seed)
    ends = ZERO + part.seconds / share
    heard, _ = play(part, [Stretch(0, part.seconds, ZERO, 1 / share)], seed, SPREAD, ends + 1)
    count = [
        Heard(ZERO + at / share + dice.gauss(0, SPREAD), Drum.HIHAT, 0.5)
        for at in counts_of(part)
    ]
    after = [Heard(ends + late, drum, 0.9) for late, drum in more]
    return sorted([*(count if counted else []), *heard, *after], key=lambda one: one.at)


def listened(part: Part, heard, now=None, asked=1.0, source=Source.KIT) -> Listened:
    now = heard[-1].at + 9 if now is None else now
    return listen(part.road, heard, now, asked, NEEDED, house_rule(GRADE), source)


class Counting(TestCase):
    def test_it_is_found_in_every_piece_at_its_tempo_with_its_passes(self):
        for part in PARTS:
            for share in (0.72, 0.9, 1.0, 1.2):
                found = listened(part, played(part, share))
                with self.subTest(part.name, share=share):
                    self.assertIs(found.state, Listening.DONE)
                    self.assertEqual(found.passes, part.passes)
                    self.assertTrue(found.clean)
                    self.assertAlmostEqual(found.share / share, 1, delta=0.03)

    def test_a_crash_where_it_is_over_is_no_other_time_through(self):
        for part in PARTS:
            found = listened(part, played(part, 1.0, more=[(0.0, Drum.CRASH)]))
            self.assertEqual(found.passes, part.passes, part.name)
            self.assertTrue(found.clean, part.name)

    def test_a_microphone_is_unsure_sometimes_and_never_sure_of_another_tempo(self):
        right = []
        for part in PARTS:
            heard = nameless(played(part, 0.9))
            found = listened(part, heard, source=Source.MICROPHONE)
            right.append(bool(found.take) and len(found.take.judged.passes) == part.passes)
            if found.take:
                self.assertAlmostEqual(found.share / 0.9, 1, delta=0.03, msg=part.name)
        self.assertGreaterEqual(sum(right) / len(right), OFTEN)

    def test_nobody_counted(self):
        for part in PARTS:
            for source in (Source.KIT, Source.MICROPHONE):
                heard = played(part, 1.0, counted=False)
                heard = heard if source is Source.KIT else nameless(heard)
                found = listened(part, heard, source=source)
                self.assertIsNone(found.take, (part.name, source))

    def test_an_uneven_count_and_one_on_two_drums_are_none(self):
        counts = [-2.0, -1.5, -1.0, -0.5]
        even = [Heard(5 + at, Drum.HIHAT) for at in counts]
        self.assertAlmostEqual(counted_in(even, counts, 1.0).begins, 5)
        late = [*even[:2], Heard(4.15, Drum.HIHAT), even[3]]
        self.assertIsNone(counted_in(late, counts, 1.0))
        other = [*even[:3], Heard(4.5, Drum.SNARE)]
        self.assertIsNone(counted_in(other, counts, 1.0))
        soon = [*even, Heard(4.7, Drum.KICK)]
        self.assertIsNone(counted_in(soon, counts, 1.0))
        self.assertIsNone(counted_in(even, counts, 2.0))  # quavers, perhaps


class OnTheWay(TestCase):
    def setUp(self):
        self.part = next(one for one in PARTS if one.passes > 1)
        self.heard = played(self.part, 1.0)

    def states(self):
        for now in (5.9, 7.1, 9.0, 60.0):
            yield listened(self.part, [one for one in self.heard if one.at <= now], now)

    def test_it_says_how_far_they_are(self):
        known = [found.state for found in self.states()]
        self.assertEqual(known[0], Listening.WAITING)  # three of the four
        self.assertIn(known[1], (Listening.COUNTED, Listening.PLAYING))
        self.assertEqual(known[2:], [Listening.PLAYING, Listening.DONE])

    def test_it_is_said_in_words(self):
        said = [listened_said(found, 96, True) for found in self.states()]
        self.assertEqual(said[0], "Listening: count in with your sticks, then play")
        self.assertEqual(said[2], "Listening, at 96")
        self.assertEqual(said[3], f"{self.part.passes} times through at 96, all clean")

    def test_something_else_is_no_try(self):
        count = self.heard[: len(counts_of(self.part))]
        other = [Heard(ZERO + 0.37 * n + 0.11 * (n % 3), Drum.COWBELL, 0.6) for n in range(60)]
        found = listened(self.part, [*count, *other])
        self.assertIsNone(found.take)
        self.assertIn("not this music", listened_said(found, 96, True))

    def test_strokes_that_are_missing_are_not_yet(self):
        mine = [one for one in self.heard if one.drum is not Drum.KICK]
        found = listened(self.part, mine)
        self.assertFalse(found.clean)
        self.assertIn(
            "not yet" if found.passes == 1 else "none of them", listened_said(found, 96, True)
        )
