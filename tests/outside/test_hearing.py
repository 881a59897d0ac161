"""The hearing budget against the published tables."""

import unittest

from wren_ladder.drumming.practice.hearing import Ears, HearingRule, allowed_minutes

# NIOSH, "Criteria for a Recommended Standard: Occupational Noise Exposure", publication
# 98-126, table 1-1 (rows at whole halvings): dBA -> minutes.
NIOSH = {85: 480, 88: 240, 91: 120, 94: 60, 97: 30, 100: 15}
# OSHA, 29 CFR 1910.95, table G-16: dBA -> hours.
OSHA = {90: 8, 95: 4, 100: 2, 105: 1, 110: 0.5, 115: 0.25}


class Tables(unittest.TestCase):
    def test_niosh_98_126(self):
        for level, minutes in NIOSH.items():
            with self.subTest(level):
                self.assertAlmostEqual(allowed_minutes(level, HearingRule.NIOSH), minutes)

    def test_osha_1910_95(self):
        for level, hours in OSHA.items():
            with self.subTest(level):
                self.assertAlmostEqual(allowed_minutes(level, HearingRule.OSHA), hours * 60)


class Budget(unittest.TestCase):
    def test_the_stricter_rule_without_protection_is_the_houses(self):
        self.assertEqual(Ears().spoken, "100 dBA, unprotected: 15 minutes a day, by NIOSH")

    def test_a_protector_counts_by_the_teachers_entry(self):
        ears = Ears(level=100, rating=12)
        self.assertEqual(ears.budget, 240)
        self.assertIn("100 dBA, less 12 dB of protection", ears.spoken)

    def test_a_quiet_pad_never_asks_for_more_than_a_day(self):
        self.assertEqual(Ears(level=60).budget, 24 * 60)


if __name__ == "__main__":
    unittest.main()
