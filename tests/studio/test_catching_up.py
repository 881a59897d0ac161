"""After an upgrade the studio listens at once, and says how far it is."""

import json
import os
import subprocess
import sys
import tempfile
from pathlib import Path

from django.conf import settings
from django.urls import reverse

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.studio.climb.models import (
    RULES,
    RULES_CHANGED,
    HeldChange,
    PlanStanding,
    StepStanding,
)
from wren_ladder.studio.climb.standings import catch_up
from wren_ladder.studio.keeping import catching_up
from wren_ladder.studio.keeping.catching_up import NOTE, Progress, progress, work_out

GONE = 2**22 + 1  # above what a process can be numbered on Linux (proc(5), pid_max)
STARTED = """
import django, sys; django.setup()
from django.contrib.auth.models import User
from django.core.management import call_command
call_command("migrate", verbosity=0)
from tests.studio.base import make_piece, make_plan, make_student, make_teacher
from wren_ladder.studio.climb.models import PlanStanding
from wren_ladder.studio.keeping import catching_up
teacher = make_teacher(); piece = make_piece(teacher)
for number in range(3): make_plan(piece, make_student(teacher, str(number)))
PlanStanding.objects.update(forecast={})
from django.conf import settings
work = catching_up.begin(settings.DATA, print)
print(catching_up.progress(settings.DATA).of, flush=True)
work.wait()
print(PlanStanding.objects.filter(forecast={}).count(), catching_up.progress(settings.DATA))
"""


class CatchingUp(StudioTest):
    def setUp(self):
        super().setUp()
        self.note = Path(settings.DATA) / NOTE
        self.addCleanup(self.note.unlink, missing_ok=True)

    def write(self, pid: int) -> None:
        self.note.write_text(json.dumps({"pid": pid, "done": 12, "of": 200}))

    def test_every_page_says_how_far_it_is_and_looks_again(self):
        self.write(os.getpid())
        for name in ("desk", "students", "login"):
            page = self.client.get(reverse(name))
            self.assertContains(page, "12 of 200", status_code=503)
            self.assertEqual(page["Refresh"], "5")
        self.note.unlink()
        self.assertEqual(self.client.get(reverse("desk")).status_code, 200)

    def test_one_that_died_or_was_never_written_whole_is_in_nobodys_way(self):
        self.write(GONE)
        self.assertIsNone(progress(self.note.parent))
        self.note.write_text("{")
        self.assertEqual(self.client.get(reverse("desk")).status_code, 200)

    def test_it_is_worked_out_plan_by_plan_and_the_note_goes(self):
        for number in range(3):
            make_plan(
                make_piece(self.teacher, title=f"{number}"),
                make_student(self.teacher, f"{number}"),
            )
        PlanStanding.objects.update(forecast={})
        seen = []
        written = catching_up._write
        self.addCleanup(setattr, catching_up, "_write", written)
        catching_up._write = lambda data, pid, at: (seen.append(at), written(data, pid, at))
        self.assertEqual(work_out(self.note.parent), 3)
        self.assertEqual(seen, [Progress(done, 3) for done in (1, 2, 3)])
        self.assertFalse(PlanStanding.objects.filter(forecast={}).exists())
        self.assertFalse(self.note.exists())
        self.assertIsNone(catching_up.begin(self.note.parent, print))


class OtherRules(StudioTest):
    """A rule became stricter: whose rungs changed, and why, is told until it was seen."""

    def setUp(self):
        super().setUp()
        self.plan = make_plan(make_piece(self.teacher), make_student(self.teacher))
        self.step = self.plan.steps.first()
        log(self.step, 95)
        # As an older version left it: it held more by the same log.
        StepStanding.objects.filter(step=self.step).update(held=100)
        PlanStanding.objects.update(rules=1)

    def test_it_is_told_on_the_desk_until_it_was_seen(self):
        self.assertEqual(catch_up(), 1)
        desk = self.client.get(reverse("desk"))
        self.assertContains(desk, f"{self.step}: 100 held before, 95 held now")
        self.assertContains(desk, RULES_CHANGED[RULES])
        self.assertContains(desk, "Ines, Quay")
        self.client.force_login(self.other_teacher())
        self.client.post(reverse("rungs-seen"))
        self.assertNotContains(self.client.get(reverse("desk")), "100 held before")
        self.client.force_login(self.teacher)
        page = self.client.post(reverse("rungs-seen"), follow=True)
        self.assertNotContains(page, "100 held before")

    def test_it_is_worked_out_once_and_what_stays_is_not_told(self):
        StepStanding.objects.filter(step=self.step).update(held=95)
        self.assertEqual(catch_up(), 1)
        self.assertEqual(catch_up(), 0)
        self.assertFalse(HeldChange.objects.exists())

    def test_a_try_that_was_not_followed_yet_is_no_change_of_the_rules(self):
        PlanStanding.objects.update(changes=5, worked_out=4)
        self.assertEqual(catch_up(), 1)
        self.assertFalse(HeldChange.objects.exists())


class Started(StudioTest):
    def test_a_process_of_its_own_does_it(self):
        with tempfile.TemporaryDirectory() as data:
            told = {
                **os.environ,
                "WREN_DATA": data,
                "DJANGO_SETTINGS_MODULE": "wren_ladder.studio.settings",
            }
            done = subprocess.run(
                [sys.executable, "-c", STARTED], env=told, capture_output=True, text=True
            )
        lines = done.stdout.splitlines()
        self.assertEqual(lines[0][:9], "3 plans a", done.stderr[-600:])
        self.assertEqual((lines[1], lines[-1]), ("3", "0 None"))
