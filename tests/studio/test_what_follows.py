"""What must follow when a person changes something: one line of the trade for each test."""

import io
from datetime import date, timedelta

from django.urls import reverse
from pypdf import PdfReader

from tests.studio.base import QUAY, StudioTest, log, make_piece, make_plan, make_student
from tests.studio.test_forecasts import practise
from tests.studio.test_lessons import RULE
from tests.studio.test_own_bars import CHOICE, OPEN
from wren_ladder.drumming.forecast import Status
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.practice.week import DayPart
from wren_ladder.studio.changes.attempts import log_attempts
from wren_ladder.studio.changes.pieces import save_piece
from wren_ladder.studio.changes.plans import change_plan
from wren_ladder.studio.climb.forecasts import outlook_of
from wren_ladder.studio.climb.models import Attempt, PlanStanding, Where
from wren_ladder.studio.climb.standings import plateau_of, refresh
from wren_ladder.studio.lessons.weeks import open_steps, plans_of, week_of_student
from wren_ladder.studio.pieces.studies import study_of
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.plans.rules import climb_rule
from wren_ladder.studio.plans.versions import study_for
from wren_ladder.studio.students.links import open_link, path_of

TODAY = date.today()
JUMP = """tempo crotchet = 100
bar 1
repeat start
snare 1
bar 2
repeat end
snare 1 2
bar 3
fine
snare 3
bar 4
jump D.C. al Fine
snare 4
"""


class OfAPiece(StudioTest):
    def text_of(self, response) -> str:
        pages = PdfReader(io.BytesIO(response.content)).pages
        return " ".join(" ".join(page.extract_text() for page in pages).split())

    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher)
        self.plan = make_plan(self.piece, make_student(self.teacher))

    def test_a_bar_taken_out_no_longer_holds_the_plan_back(self):
        for step in self.plan.steps.all():
            log(step, 95 if 3 in step.played else 120)  # a longer one would hold it
        slow = self.plan.steps.get(name="Bar 4")
        self.assertEqual(self.fresh(self.plan).standing.held_by, slow)
        rows = [row.pk for row in self.piece.bars.all()][:3]
        three = QUAY.split("bar 4")[0]
        save_piece(self.piece, read_chart(three, title="Quay"), rows)
        standing = PlanStanding.objects.get(plan=self.plan)
        self.assertNotEqual(standing.held_by, slow)

    def test_the_whole_piece_played_at_90_is_said_on_every_page(self):
        student = self.plan.student
        open_link(student)
        log(self.plan.steps.get(name="Bar 4"), 80, days_ago=3)
        log(self.plan.steps.last(), 90, days_ago=2)
        log(self.plan.steps.last(), 95, clean=False, days_ago=1)  # takes nothing
        plan = self.fresh(self.plan)
        held = [step.standing.held for step in plan.steps.all() if step.is_needed]
        self.assertEqual(set(held), {90})
        self.assertEqual((plan.standing.ready, plan.standing.waiting), (90, 0))
        for address, said in (
            (reverse("students"), "90 of 120"),
            (plan.get_absolute_url(), "</dfn> 90"),
            (reverse("student", args=[student.pk]), "90 of 120"),
            (reverse("week-sheet", args=[student.pk]), "90 of 120"),
            (reverse("report", args=[student.pk]), "90 of 120"),
            (path_of(student), "90"),
        ):
            with self.subTest(address):
                response = self.client.get(address)
                if response["Content-Type"] == "application/pdf":
                    self.assertIn(said, self.text_of(response))
                else:
                    self.assertContains(response, said)
        step = plan.steps.get(name="Bar 4")
        self.assertContains(
            self.client.get(reverse("step", args=[step.pk])), "held by Whole piece"
        )
        taken = plan.steps.last().attempts.filter(was_clean=True).get()
        self.client.post(reverse("attempt-delete", args=[taken.pk]))
        self.assertEqual(self.fresh(step).standing.held, 80)

    def test_a_bar_put_in_front_takes_a_students_own_bar_along(self):
        piece = make_piece(self.teacher, OPEN, "Open")
        plan = make_plan(piece, make_student(self.teacher, "Kofi", grade=2), target=100)
        self.client.post(reverse("own-bar", args=[plan.pk, 3]), {**CHOICE, "keep": "1"})
        before = study_for(plan).bars[3].bar.hits
        self.assertNotEqual(before, study_of(piece).bars[3].bar.hits)
        rows = [None, *[row.pk for row in piece.bars.all()]]
        lines = OPEN.split("bar 1\n", 1)
        text = f"{lines[0]}bar 1\nhat 8ths\nbar 2\n{lines[1]}"
        for number in (5, 4, 3, 2):
            head, _, tail = text.rpartition(f"bar {number}")
            text = f"{head}bar {number + 1}{tail}"
        save_piece(piece, read_chart(text, title="Open"), rows)
        plan = Plan.objects.get(pk=plan.pk)
        self.assertEqual(study_for(plan).bars[4].bar.hits, before)
        self.assertEqual(study_for(plan).bars[4].bar.number, "5")

    def test_a_page_read_before_the_change_shows_the_music_of_after(self):
        piece = make_piece(self.teacher, title="Never looked at")
        older = self.fresh(piece)
        save_piece(piece, read_chart(QUAY.split("bar 4")[0], title=piece.title))
        self.assertEqual(len(study_of(older).bars), 3)
        save_piece(piece, read_chart(QUAY, title=piece.title))  # taken back
        self.assertEqual(len(study_of(self.fresh(piece)).bars), 4)


class OfAPlan(StudioTest):
    def setUp(self):
        super().setUp()
        self.plan = make_plan(make_piece(self.teacher), make_student(self.teacher))

    def test_a_try_logged_from_an_older_page_leaves_the_new_target(self):
        step = self.plan.steps.select_related("plan").first()  # read before the change
        change_plan(self.plan, {"target": 100})
        log_attempts([Attempt(step=step, day=TODAY, tempo=90, was_clean=True, passes=8)])
        refresh(self.plan)  # so is this
        self.assertEqual(self.fresh(self.plan).target, 100)

    def test_a_lower_target_is_nearer_at_once_on_every_page(self):
        practise(self.plan)
        before = PlanStanding.objects.get(plan=self.plan).forecast
        self.client.post(
            reverse("plan-edit", args=[self.plan.pk]),
            {"target": 100, "start": 90, **RULE},
        )
        plan = Plan.objects.get(pk=self.plan.pk)
        self.assertEqual(plan.target, 100)
        self.assertNotEqual(plan.standing.forecast, before)
        for page in (
            reverse("students"),
            plan.student.get_absolute_url(),
            plan.get_absolute_url(),
            reverse("progress", args=[plan.pk]),
        ):
            with self.subTest(page):
                self.assertContains(self.client.get(page), "100")

    def test_near_enough_to_the_target_is_there_wherever_that_is_asked(self):
        change_plan(self.plan, {"tolerance": 4})
        for step in self.plan.steps.all():
            for days in (9, 8, 7):
                log(step, 116, days_ago=days)
            for days in (6, 5, 4, 3):  # stuck above it, which is no plateau
                log(step, 120, clean=False, days_ago=days)
        plan = plans_of(self.plan.student)[0]
        steps = [step for step in plan.steps.all() if step.is_needed]
        self.assertTrue(all(step.is_there for step in open_steps(plan, TODAY)))
        self.assertEqual(outlook_of(plan, TODAY).status, Status.READY)
        self.assertEqual(
            {plateau_of(plan, step, climb_rule(plan, step)) for step in steps}, {None}
        )
        days = week_of_student(plan.student, [plan], TODAY).days
        parts = {item.part for day in days for item in day.items}
        self.assertEqual(parts, {DayPart.WARM_UP, DayPart.RUN})

    def test_the_speed_of_a_piece_is_one_on_every_page(self):
        first, *others = self.plan.steps.all()
        log(first, 110)
        plan = plans_of(self.plan.student)[0]
        run = [i for d in week_of_student(plan.student, [plan], TODAY).days for i in d.items]
        run = {item.tempo for item in run if item.part is DayPart.RUN}
        self.assertEqual((plan.standing.speed, run), (90, set()))  # others hold nothing yet
        for step in others:
            log(step, 105)
        plan = plans_of(self.plan.student)[0]
        run = [i for d in week_of_student(plan.student, [plan], TODAY).days for i in d.items]
        run = {item.tempo for item in run if item.part is DayPart.RUN}
        self.assertEqual((plan.standing.speed, run), (105, {105}))
        self.assertEqual(plan.standing.share, 87)
        self.assertContains(self.client.get(reverse("students")), "105 of 120")

    def test_a_corrected_try_moves_what_is_held(self):
        step = self.plan.steps.first()
        attempt = log(step, 120)
        self.assertEqual(self.fresh(step).standing.held, 120)
        attempt.tempo = 95
        form = {"tempo": 95, "passes": 8, "clean_try": "yes", "day": TODAY.isoformat()}
        self.client.post(reverse("attempt-edit", args=[attempt.pk]), form)
        self.assertEqual(self.fresh(step).standing.held, 95)


class OfTheTeachersStyle(StudioTest):
    def choose(self, **fields):
        page = self.client.get(reverse("teaching-style")).context["form"]
        sent = {name: page[name].value() for name in page.fields}
        sent = {name: value for name, value in sent.items() if value not in (None, False)}
        answer = self.client.post(reverse("teaching-style"), {**sent, **fields})
        self.assertEqual(answer.status_code, 302)

    def test_repeats_after_a_jump_lengthen_road_and_list(self):
        piece = make_piece(self.teacher, JUMP)
        road = reverse("piece-road", args=[piece.pk])
        before = len(self.client.get(road).context["road"].visits)
        seconds = self.fresh(piece).seconds
        self.choose(repeats_after_jump="on")
        self.assertGreater(len(self.client.get(road).context["road"].visits), before)
        self.assertGreater(self.fresh(piece).seconds, seconds)

    def test_the_editor_sticks_by_it(self):
        self.choose(sticking="accents-lead")
        piece = make_piece(self.teacher, "snare 8ths, accent 1& 2&")
        page = self.client.get(reverse("piece-edit", args=[piece.pk]))
        hands = [stick.hand for stick in page.context["opened"].sticks]
        self.assertEqual(hands, [one.hand for one in study_of(piece).bars[0].sticks])


class OfADay(StudioTest):
    def test_what_was_done_since_the_lesson_five_weeks_ago_is_counted(self):
        student = make_student(self.teacher, lesson_day=TODAY.weekday())
        plan = make_plan(make_piece(self.teacher), student)
        student.lessons.create(day=TODAY - timedelta(days=49))
        log(plan.steps.first(), 90, days_ago=40)
        Attempt.objects.update(where=Where.HOME)
        lesson = self.client.get(reverse("desk")).context["lessons"][0]
        self.assertEqual(lesson.days, 1)
