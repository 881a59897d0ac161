"""What follows from takes on every page: rules by grade, habits, the log, at home, files."""

import json
from datetime import timedelta

from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.urls import reverse
from django.utils import timezone

from tests.studio.base import log, make_plan, make_student, make_teacher, press_undo
from tests.studio.test_take_pages import BEAT, TakeTest
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.performance import perform
from wren_ladder.drumming.take_sources.calibration import clicks_at
from wren_ladder.drumming.take_sources.heard import Heard, Source
from wren_ladder.drumming.take_sources.simulated import Fault, play
from wren_ladder.studio.bin.models import Binned
from wren_ladder.studio.changes.pieces import save_piece
from wren_ladder.studio.changes.takes import keep_take
from wren_ladder.studio.climb.models import Attempt, Take
from wren_ladder.studio.climb.takes import bars_of, share_of
from wren_ladder.studio.pages.reports.parent import heard_in_takes
from wren_ladder.studio.students.links import open_link, path_of
from wren_ladder.studio.teaching.models import TakeRule, take_rules

LATE = (Fault.LATE_LEFT_FOOT,)


class KeptTest(TakeTest):
    def keep(self, faults=(), days_ago=0, seed=1, tempo=100, passes=8, **more) -> Take:
        bars = bars_of(self.step)
        heard = play(perform(bars, share_of(self.step, tempo)), bars, passes, seed, faults)
        day = timezone.localdate() - timedelta(days=days_ago)
        return keep_take(self.step, Source.KIT, tempo, passes, heard, day, **more)

    def page(self, take: Take, **query):
        return self.client.get(reverse("take", args=[take.pk]), query)


class TheTeachersRule(KeptTest):
    def post(self, **changed):
        sent = {}
        for grade, rule in take_rules(self.teacher.pk).items():
            for name in ("slips", "spread", "lean", "unit"):
                sent[f"grade-{grade}-{name}"] = getattr(rule, name)
        return self.client.post(reverse("take-rules"), {**sent, **changed}, follow=True)

    def test_a_stricter_rule_changes_what_is_said_everywhere(self):
        take = self.keep()
        self.assertContains(self.page(take), "<b>8 of 8</b> clean")
        page = self.post(**{"grade-3-spread": 4, "grade-3-lean": 4})
        self.assertContains(page, "The rules are kept.")
        self.assertEqual(TakeRule.objects.count(), 1)
        self.assertContains(self.page(take), "<b>0 of 8</b> clean")
        progress = self.client.get(reverse("progress", args=[self.plan.pk]))
        self.assertContains(progress, "0 of 8")

    def test_the_houses_rule_is_not_kept_and_nothing_wrong_is(self):
        self.post(**{"grade-3-spread": 4})
        self.post(**{"grade-3-spread": 25})
        self.assertEqual(TakeRule.objects.count(), 0)
        page = self.client.post(reverse("take-rules"), {"grade-3-spread": "0"})
        self.assertEqual(page.status_code, 422)
        self.assertEqual(TakeRule.objects.count(), 0)

    def test_every_rule_shows_a_bar_that_it_lets_pass_and_one_that_it_does_not(self):
        """Each is judged by the rule that it stands under, and drawn and heard."""
        self.post(**{"grade-4-spread": 9, "grade-4-lean": 9})
        found = dict(self.client.get(reverse("take-rules")).context["examples"])
        self.assertEqual(
            list(found), ["Up to grade 2", "Grade 3", "Grade 4", "From grade 5 on"]
        )
        for limit, both in zip((30, 25, 9, 15), found.values(), strict=True):
            with self.subTest(limit):
                clean, not_yet = both
                self.assertEqual((clean.said, not_yet.said), ("clean", "not yet"))
                self.assertLessEqual(clean.spread, limit)
                self.assertGreaterEqual(not_yet.spread, limit)
                self.assertEqual(len(clean.sound["strokes"]), 2 * 12)
                self.assertEqual(len(clean.view.lanes), 3)

    def test_a_share_of_the_subdivision(self):
        self.post(**{"grade-3-spread": 2, "grade-3-lean": 2, "grade-3-unit": "share"})
        self.assertContains(self.page(self.keep()), "<b>0 of 8</b> clean")

    def test_another_teachers_rules_are_theirs(self):
        self.post(**{"grade-3-spread": 4})
        self.assertEqual(take_rules(make_teacher("bob").pk)[3].spread, 25)


class OverWeeks(KeptTest):
    def test_a_habit_is_told_on_progress_desk_and_in_the_parents_report(self):
        for ago in (8, 5, 1):
            self.keep(LATE, days_ago=ago)
        progress = self.client.get(reverse("progress", args=[self.plan.pk]))
        self.assertContains(progress, "The left foot comes late since")
        self.assertContains(progress, "over 3 days of takes")
        self.assertContains(progress, 'class="take-dot', 3)
        self.student.lesson_day = timezone.localdate().weekday()
        self.student.save()
        self.assertContains(self.client.get("/"), "The left foot comes late")
        self.assertIn(
            "still comes a little late", heard_in_takes(self.student, timezone.localdate())
        )

    def test_two_days_are_none_and_the_last_take_is_told_instead(self):
        for ago in (5, 1):
            self.keep(LATE, days_ago=ago)
        self.student.lesson_day = timezone.localdate().weekday()
        self.student.save()
        desk = self.client.get("/")
        self.assertNotContains(desk, "late since")
        self.assertContains(desk, "The left foot comes")

    def test_a_clean_take_is_one_plain_sentence(self):
        self.keep(days_ago=2)
        said = heard_in_takes(self.student, timezone.localdate())
        self.assertEqual(
            said, "Recorded and measured: Bar 1 was clean 8 times in a row at 100."
        )
        self.assertEqual(
            heard_in_takes(make_student(self.teacher, "Ola"), timezone.localdate()), ""
        )

    def test_the_desk_asks_no_more_of_the_database_for_more_takes(self):
        self.student.lesson_day = timezone.localdate().weekday()
        self.student.save()
        self.keep(LATE, days_ago=1)
        with_one = _queries(lambda: self.client.get("/"))
        for ago in (2, 3, 4):
            self.keep(LATE, days_ago=ago)
        self.assertEqual(_queries(lambda: self.client.get("/")), with_one)


class InTheLog(KeptTest):
    def test_a_try_knows_the_take_it_was_logged_from(self):
        take = self.keep()
        sent = {"tempo": 100, "passes": 8, "clean_try": "yes", "take": take.pk}
        self.client.post(reverse("step-log", args=[self.step.pk]), sent)
        self.assertEqual(Attempt.objects.get().take, take)
        self.assertContains(self.page(take), "Logged: 100 clean, 8 times")
        progress = self.client.get(reverse("progress", args=[self.plan.pk]))
        self.assertContains(progress, "from a take")
        self.client.post(reverse("take-delete", args=[take.pk]))
        self.assertIsNone(Attempt.objects.get().take)

    def test_a_take_of_another_step_is_not_taken(self):
        other = self.plan.steps.exclude(pk=self.step.pk).first()
        sent = {"tempo": 100, "passes": 8, "clean_try": "yes", "take": self.keep().pk}
        self.client.post(reverse("step-log", args=[other.pk]), sent)
        self.assertIsNone(Attempt.objects.get().take)

    def test_bars_that_were_changed_are_not_what_it_is_judged_by(self):
        take = self.keep(LATE)
        other = read_chart(BEAT.replace("kick 1 3", "kick 1 4"), title="Quay")
        rows = list(self.plan.piece.bars.values_list("pk", flat=True))
        save_piece(self.plan.piece, other, rows)
        page = self.page(Take.objects.get(pk=take.pk))
        self.assertContains(page, "The bars of this step were changed since")
        self.assertContains(page, "The left foot comes")

    def test_a_take_of_bars_that_are_gone_still_says_what_was_said(self):
        take = self.keep(LATE)
        save_piece(self.plan.piece, read_chart("bar 1\nhat 8ths", title="Quay"), [None])
        for rule in ("as then", "another"):
            with self.subTest(rule):
                if rule == "another":
                    TakeRule.objects.create(
                        owner=self.teacher,
                        grade=take.step.plan.student.grade,
                        slips=3,
                        spread=9,
                        lean=9,
                    )
                page = self.page(Take.objects.get(pk=take.pk))
                self.assertContains(page, "The bars of this step were changed since")
                self.assertContains(page, "The left foot comes")
                self.assertEqual(self.client.get(reverse("desk")).status_code, 200)
        Take.objects.update(told={})  # from a file
        self.assertEqual(self.page(take).status_code, 200)

    def test_two_side_by_side(self):
        first, second = self.keep(LATE), self.keep(seed=2)
        page = self.page(second, beside=first.pk)
        self.assertContains(page, 'class="take-view"', 1)  # one over the other
        self.assertContains(page, 'class="then"')
        self.assertEqual(len(page.context["columns"]), 2)
        self.assertRegex(
            page.context["compared"], r"^Evenness \d+ ms on \d+ \w+ at 100, \d+ ms on"
        )
        self.assertContains(page, "Hear the one of")
        self.assertEqual(len(self.page(second, beside="x" * 400).context["columns"]), 1)


class Kept(KeptTest):
    def test_five_minutes_and_four_thousand_strokes_are_under_20_kb(self):
        heard = [
            Heard(place * 0.075 + (place * 37 % 11) / 1000, None, 0.3 + (place * 7 % 60) / 100)
            for place in range(4000)
        ]
        take = keep_take(self.step, Source.PAD, 100, 30, heard, timezone.localdate())
        field = Take._meta.get_field("strokes")
        self.assertLess(len(field.get_prep_value(take.strokes)), 20_000)
        again = Take.objects.get(pk=take.pk).strokes
        self.assertEqual(again, take.strokes)

    def test_it_comes_back_from_the_bin_as_it_was(self):
        take = self.keep()
        before = Take.objects.values().get()
        page = self.client.post(reverse("take-delete", args=[take.pk]), follow=True)
        press_undo(self.client, page)
        self.assertEqual(Take.objects.values().get(), before)
        self.assertEqual(Binned.objects.count(), 0)

    def test_the_delay_of_the_set_up_is_no_habit_of_the_player(self):
        bars = bars_of(self.step)
        heard = play(perform(bars, share_of(self.step, 100)), bars, 8, 3)
        late = [Heard(one.at + 0.12, one.drum, one.strength) for one in heard]
        day = timezone.localdate()
        take = keep_take(self.step, Source.KIT, 100, 8, late, day, latency=120)
        self.assertContains(self.page(take), "taken off: ")
        offset = self.page(take).context["columns"][0].offset
        self.assertRegex(offset, r"^(in time|[1-4] ms (early|late))$")
        without = keep_take(self.step, Source.KIT, 100, 8, late, day)
        self.assertRegex(self.page(without).context["columns"][0].offset, r"1[12]\d ms late")


class Recorded(KeptTest):
    def send(self, rows, **more):
        sent = {"tempo": 100, "passes": 1, "way": "kit", "strokes": json.dumps(rows), **more}
        return self.client.post(reverse("take-record", args=[self.step.pk]), sent, follow=True)

    def test_a_kits_own_notes_curve_and_pedal(self):
        rows = [[0, 99, 64, 0], [600, 98, 64, 127], [900, 98, 64, 0]]
        self.send(rows, own='{"99": "kick", "98": "hihat"}', curve="light")
        drums = [(drum, strength) for _, drum, strength in Take.objects.get().strokes]
        self.assertEqual([drum for drum, _ in drums], ["kick", "hihat-open", "hihat"])
        self.assertGreater(drums[0][1], 64)

    def test_one_pad_has_no_drums(self):
        self.send([[0, 31, 64], [600, 31, 90]], layout="one-pad")
        take = Take.objects.get()
        self.assertEqual((take.source, take.strokes[0][1]), ("pad", ""))

    def test_a_microphone_hears_no_click_of_the_loudspeaker(self):
        clicks = [[600 * place - 2400 + 40, "", 12] for place in range(8)]
        self.send([*clicks, [330, "", 70]], way="microphone")
        self.assertEqual(Take.objects.get().strokes, [[330.0, "", None]])

    def test_what_is_wrong_is_told_and_nothing_kept(self):
        for sent in (
            {"own": '{"99": "gong"}'},
            {"own": "[" * 2000},
            {"layout": "x"},
            {"latency": "9999"},
            {"empty_bars": "9"},
            {"strokes": "[" * 2000},
        ):
            with self.subTest(sent):
                self.assertContains(self.send([[0, 38, 64]], **sent), "No take: ")
        self.assertContains(self.send([]), "nothing was heard")
        self.assertEqual(Take.objects.count(), 0)

    def test_empty_bars_between_are_no_misses(self):
        page = self.client.post(
            reverse("take-record", args=[self.step.pk]),
            {"tempo": 100, "passes": 3, "empty_bars": 1, "way": "made-up"},
            follow=True,
        )
        self.assertContains(page, "<b>3 of 3</b> clean")

    def test_taps_are_measured_by_the_studio(self):
        taps = [1000 * at + 85 + (place % 3) for place, at in enumerate(clicks_at())]
        answer = self.client.post(reverse("calibrate"), taps, content_type="application/json")
        self.assertEqual(answer.json()["latency"], 86)
        self.assertIn("86 ms late", answer.json()["said"])
        few = self.client.post(reverse("calibrate"), taps[:3], content_type="application/json")
        self.assertEqual(few.status_code, 422)
        for body in ("{", '["x"]', "5", "[" * 3000):
            with self.subTest(body[:5]):
                bad = self.client.post(
                    reverse("calibrate"), body, content_type="application/json"
                )
                self.assertEqual(bad.status_code, 400)


class AtHome(KeptTest):
    def setUp(self):
        super().setUp()
        open_link(self.student)
        self.link = path_of(self.student)
        self.client.logout()

    def allow(self):
        self.student.records_at_home = True
        self.student.save()

    def send(self, **more):
        rows = [[0, "hihat", None], [0, "kick", None], [300, "hihat", None]]
        sent = {"tempo": 100, "passes": 1, "way": "keys", "strokes": json.dumps(rows)}
        sent |= {"step": self.step.pk, **more}
        return self.client.post(f"{self.link}takes/", sent, follow=True)

    def test_only_where_the_teacher_allows_it(self):
        self.assertEqual(self.send().status_code, 404)
        self.assertNotContains(self.client.get(self.link), "Record a take")
        self.allow()
        self.assertContains(self.client.get(self.link), "Record a take")
        self.assertContains(self.send(), "What you played")
        self.assertEqual(Take.objects.get().where, "home")

    def test_a_child_sees_and_throws_away_their_own_and_no_others(self):
        self.allow()
        of_the_lesson = self.keep()
        self.send()
        mine = Take.objects.get(where="home")
        self.assertEqual(
            self.client.get(f"{self.link}takes/{of_the_lesson.pk}/").status_code, 404
        )
        gone = self.client.post(f"{self.link}takes/{mine.pk}/delete/", follow=True)
        self.assertContains(gone, "Gone.")
        kept = self.client.post(f"{self.link}takes/{of_the_lesson.pk}/delete/")
        self.assertEqual((kept.status_code, Take.objects.get()), (404, of_the_lesson))

    def test_the_made_up_player_and_other_students_steps_are_not_theirs(self):
        self.allow()
        self.assertContains(self.send(way="made-up", strokes=""), "nothing was heard")
        other = make_student(self.teacher, "Ola")
        step = make_plan(self.plan.piece, other, 90, 120).steps.first()
        self.assertEqual(self.send(step=step.pk).status_code, 404)
        self.assertEqual(Take.objects.count(), 0)

    def test_a_try_from_a_take_at_home_knows_it(self):
        self.allow()
        self.send()
        take = Take.objects.get()
        sent = {"step": self.step.pk, "tempo": 100, "passes": 1, "clean_try": "yes"}
        self.client.post(f"{self.link}entries/", {**sent, "take": take.pk})
        self.assertEqual(Attempt.objects.get().take, take)

    def test_with_the_student_everything_goes(self):
        self.allow()
        self.send()
        log(self.step, 90)
        self.student.delete()
        self.assertEqual(Take.objects.count(), 0)


def _queries(act) -> int:
    act()
    with CaptureQueriesContext(connection) as found:
        act()
    return len(found)
