"""A plan revised: what stays, changes, comes and goes."""

import unittest
from dataclasses import replace

from wren_ladder.drumming.breakdown import (
    ExistingStep,
    Step,
    StepChange,
    StepIdentity,
    StepKind,
    revise,
)
from wren_ladder.drumming.building.parts import Part

BAR, HALF, PAIR, OWN = StepKind.BAR, StepKind.HALF, StepKind.PAIR, StepKind.OWN


def identity(kind=BAR, music="a", bars=(1,), part="") -> StepIdentity:
    return StepIdentity(kind, part, music, bars)


def made(name: str, of: StepIdentity):
    return name, of, Step(of.kind, 0, 0, 4, f"why {name}", of.part)


def told(entries) -> list[tuple[str, str]]:
    return [(entry.change.value, entry.name) for entry in entries]


class Revisions(unittest.TestCase):
    def test_the_same_plan_stays_as_it_is(self):
        existing = [
            ExistingStep("Bar 1", identity()),
            ExistingStep("Bar 2", identity(music="b", bars=(2,))),
        ]
        entries = revise(existing, [made(one.name, one.identity) for one in existing])
        self.assertEqual([(e.change, e.old, e.why) for e in entries],
                         [(StepChange.STAYS, 0, ""), (StepChange.STAYS, 1, "")])  # fmt: skip

    def test_music_that_moved_keeps_its_step_and_says_what_it_was(self):
        (entry,) = revise(
            [ExistingStep("Bar 1", identity(), tries=3)], [made("Bar 2", identity(bars=(9,)))]
        )
        self.assertEqual(
            (entry.change, entry.old, entry.why), (StepChange.STAYS, 0, "was Bar 1")
        )

    def test_a_bar_that_was_edited_keeps_its_tries_and_says_what_changed(self):
        (entry,) = revise(
            [ExistingStep("Bar 1", identity(), tries=3)],
            [made("Bar 1", identity(music="b"))],
            {1: "bar 1 is now with the kick on 3&"},
        )
        self.assertEqual(entry.change, StepChange.CHANGED)
        self.assertEqual(entry.why, "bar 1 is now with the kick on 3&; its 3 tries are kept")

    def test_equal_music_elsewhere_is_preferred_to_the_same_place(self):
        existing = [
            ExistingStep("Bar 1", identity(music="a", bars=(1,))),
            ExistingStep("Bar 2", identity(music="b", bars=(2,))),
        ]
        new = [
            made("Bar 1", identity(music="b", bars=(1,))),
            made("Bar 2", identity(music="a", bars=(2,))),
        ]
        self.assertEqual(
            [entry.old for entry in revise(existing, new, keep_order=False)], [1, 0]
        )

    def test_what_was_tried_is_left_out_and_what_was_not_is_removed(self):
        existing = [
            ExistingStep("Bar 1", identity(), tries=2),
            ExistingStep("Bar 2", identity(music="b", bars=(2,))),
        ]
        entries = revise(existing, [])
        self.assertEqual(told(entries), [("left-out", "Bar 1"), ("removed", "Bar 2")])
        self.assertEqual(entries[0].why, "the plan no longer needs it; its 2 tries are kept")

    def test_a_step_whose_bars_are_gone(self):
        entries = revise(
            [ExistingStep("Bar 1", None, tries=1), ExistingStep("Bar 2", None)], []
        )
        self.assertEqual([entry.why.partition(";")[0] for entry in entries],
                         ["its bars are gone from the piece"] * 2)  # fmt: skip

    def test_the_teachers_own_steps_and_their_place_stay(self):
        own = ExistingStep("Bars 1–2", identity(OWN, "ab", (1, 2)), by_hand=True)
        existing = [
            ExistingStep("Bar 1", identity()),
            own,
            ExistingStep("Bar 2", identity(music="b", bars=(2,))),
        ]
        new = [made("Bar 1", identity()), made("Bar 2", identity(music="b", bars=(2,)))]
        self.assertEqual(
            [e.name for e in revise(existing, new)], ["Bar 1", "Bars 1–2", "Bar 2"]
        )

    def test_the_teachers_order_stays_and_new_steps_find_their_place(self):
        one, two = identity(), identity(music="b", bars=(2,))
        join = identity(PAIR, "ab", (1, 2))
        existing = [ExistingStep("Bar 2", two), ExistingStep("Bar 1", one)]
        new = [made("Bar 1", one), made("Bar 2", two), made("Bars 1 to 2", join)]
        kept = [entry.name for entry in revise(existing, new)]
        self.assertEqual(kept, ["Bar 2", "Bar 1", "Bars 1 to 2"])
        fresh = [entry.name for entry in revise(existing, new, keep_order=False)]
        self.assertEqual(fresh, ["Bar 1", "Bar 2", "Bars 1 to 2"])

    def test_new_parts_of_a_bar_come_before_it_wherever_the_teacher_put_it(self):
        one, two = identity(), identity(music="b", bars=(2,))
        half = identity(HALF, "b", (2,), Part.FIRST)
        existing = [ExistingStep("Bar 2", two), ExistingStep("Bar 1", one)]
        new = [made("Bar 1", one), made("Bar 2, first half", half), made("Bar 2", two)]
        kept = [entry.name for entry in revise(existing, new)]
        self.assertEqual(kept, ["Bar 2, first half", "Bar 2", "Bar 1"])

    def test_where_nothing_was_moved_the_order_is_that_of_the_new_plan(self):
        one, half = identity(), identity(HALF, part=Part.FIRST)
        notes = identity(StepKind.NOTES)
        existing = [ExistingStep("half", half), ExistingStep("bar", one)]
        new = [made("notes", notes), made("half", half), made("bar", one)]
        self.assertEqual(
            [entry.name for entry in revise(existing, new)], ["notes", "half", "bar"]
        )

    def test_the_parts_of_a_bar_that_is_passed_are_not_needed_any_more(self):
        whole = ExistingStep("Bar 1", identity(), tries=9, passed=True)
        half = ExistingStep("Bar 1, first half", identity(HALF, part=Part.FIRST))
        plan = [
            made("Bar 1", identity()),
            made("Bar 1, first half", identity(HALF, part=Part.FIRST)),
        ]
        self.assertEqual(
            told(revise([whole, half], plan))[1], ("left-out", "Bar 1, first half")
        )
        self.assertEqual(told(revise([whole], plan)), [("stays", "Bar 1")])
        not_yet = replace(whole, passed=False)
        self.assertIn(("added", "Bar 1, first half"), told(revise([not_yet], plan)))

    def test_a_line_and_a_section_of_the_same_bars_are_the_same_run(self):
        line = ExistingStep(
            "Bars 1–4", identity(StepKind.PHRASE, "abcd", (1, 2, 3, 4)), tries=5
        )
        section = made("Bars 1–4", identity(StepKind.SECTION, "abcd", (1, 2, 3, 4)))
        (entry,) = revise([line], [section])
        self.assertEqual((entry.change, entry.old), (StepChange.STAYS, 0))

    def test_what_was_left_out_stays_left_out(self):
        (entry,) = revise(
            [ExistingStep("Bar 1", identity(), dropped=True)], [made("Bar 1", identity())]
        )
        self.assertEqual(
            (entry.change, entry.why), (StepChange.STAYS, "left out by you before")
        )
