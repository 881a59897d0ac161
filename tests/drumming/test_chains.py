"""Chains from bar to bar: the fewest links, each playable. Common practice, no source."""

import unittest
from itertools import permutations

from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests.builders import make_bar
from tests.strategies import bars
from wren_ladder.drumming.building.chains import First, chain
from wren_ladder.drumming.chart import Bar, ChartError, Drum, Hit, Meter
from wren_ladder.drumming.description.differences import changes
from wren_ladder.drumming.findings.conflicts import hand_conflicts
from wren_ladder.drumming.hands import stick_bar

KNOWN = "hat 8ths\nsnare 2 4\nkick 1 3"
NEW = "hat 8ths, open 4&\nsnare 2 4, ghost 2a\nkick 1 2& 3&"


def said(known: str, new: str, first: First) -> list[str]:
    return [link.change.spoken for link in chain(make_bar(known), make_bar(new), first)]


@st.composite
def strokes(draw):
    places = draw(st.sets(st.integers(0, 7), max_size=4))
    drums = st.sampled_from([Drum.SNARE, Drum.KICK, Drum.TOM_HIGH])
    return tuple(Hit(Meter(4, 4).length * at / 8, draw(drums)) for at in sorted(places))


class Chains(unittest.TestCase):
    def test_hands_first_or_feet_first(self):
        hands = ["with the snare ghost on 2a", "with the hat open on 4&"]
        feet = ["with the kick moved from 3 to 2&", "with the kick on 3&"]
        self.assertEqual(said(KNOWN, NEW, First.HANDS), [*hands, *feet])
        self.assertEqual(said(KNOWN, NEW, First.FEET), [*feet, *hands])

    def test_equal_bars_need_no_link(self):
        self.assertEqual(said(KNOWN, KNOWN, First.HANDS), [])

    def test_bars_too_far_apart_are_refused(self):
        with self.assertRaisesRegex(ChartError, "build it in layers"):
            said("hat 16ths\nkick 1", "floor 8ths\nsnare 1e 2e 3e", First.HANDS)
        with self.assertRaisesRegex(ChartError, "different metres"):
            chain(make_bar(KNOWN), make_bar("hat 8ths", "3/4"))

    @settings(max_examples=60)
    @given(bars(meter=Meter(4, 4)), bars(meter=Meter(4, 4)), st.sampled_from(First))
    def test_it_ends_in_the_new_bar_and_every_link_has_its_hands(self, known, new, first):
        try:
            links = chain(known, new, first)
        except ChartError:
            assume(False)
        if not links:
            self.assertEqual(set(known.music), set(new.music))
            return
        self.assertEqual(set(links[-1].bar.music), set(new.music))
        for link in links:
            self.assertFalse(hand_conflicts(stick_bar(link.bar), link.bar))

    @settings(max_examples=80)
    @given(strokes(), strokes())
    def test_no_way_of_pairing_needs_fewer_changes(self, before, after):
        """Against every way to pair strokes that go with strokes that come."""
        known, new = (Bar("1", Meter(4, 4), hits) for hits in (before, after))
        gone = [hit for hit in before if hit not in after]
        come = [hit for hit in after if hit not in before]
        found = changes(known, new)
        pad = [None] * len(come)
        fewest = min(
            len(gone)
            + len(come)
            - sum(_one_step(a, b) for a, b in zip(order, come, strict=False))
            for order in permutations([*gone, *pad], len(come))
        )
        self.assertEqual(len(found), fewest)


def _one_step(old: Hit | None, hit: Hit) -> bool:
    if old is None:
        return False
    if old.at == hit.at:
        return old.drum.by_foot == hit.drum.by_foot
    return old.drum is hit.drum and abs(old.at - hit.at) <= 1
