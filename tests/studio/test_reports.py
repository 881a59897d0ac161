"""In and out: tables with a dry run, the whole studio as a file, the report for a parent."""

import csv
import io
import json
from datetime import date, time, timedelta

from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse
from pypdf import PdfReader

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from tests.studio.test_forecasts import practise
from wren_ladder.studio.changes.exercises import send_drill
from wren_ladder.studio.climb.models import Attempt, HomeMinutes
from wren_ladder.studio.exchange.studio_file import studio_lines
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.pages.reports.parent import report_context
from wren_ladder.studio.pages.rudiments.shelf import drill_named
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.students.links import path_of
from wren_ladder.studio.students.models import Student

HEAD = "student,piece,step,day,tempo,clean,passes,where,note"


class ReportsTest(StudioTest):
    def setUp(self):
        super().setUp()
        self.student = make_student(self.teacher, "Ines", notes="Shy", lesson_time=time(16))
        self.plan = make_plan(make_piece(self.teacher), self.student)
        self.step = self.plan.steps.first()

    def rows(self, name, **asked):
        response = self.client.get(reverse(name), asked)
        self.assertTrue(response["content-type"].startswith("text/csv"))
        return list(csv.DictReader(io.StringIO(response.getvalue().decode("utf-8-sig"))))

    def bring(self, kind, *lines, **more):
        address = reverse("table-in", args=[kind])
        return self.client.post(address, {"text": "\n".join(lines), **more})


class AttemptsOut(ReportsTest):
    def test_every_try_with_its_day_step_and_result(self):
        log(self.step, 95, days_ago=1)
        (row,) = self.rows("attempts-csv")
        self.assertEqual((row["student"], row["piece"], row["step"]), ("Ines", "Quay", "Bar 1"))
        self.assertEqual((row["tempo"], row["clean"], row["passes"]), ("95", "yes", "8"))

    def test_of_one_student_and_of_nobody_elses(self):
        other = make_student(self.teacher, "Kofi")
        log(make_plan(self.plan.piece, other).steps.first(), 90)
        log(self.step, 95)
        self.assertEqual(len(self.rows("attempts-csv")), 2)
        self.assertEqual(len(self.rows("attempts-csv", student=self.student.pk)), 1)
        self.client.force_login(self.other_teacher())
        self.assertEqual(self.rows("attempts-csv", student=self.student.pk), [])

    def test_a_word_that_begins_like_a_formula_is_made_harmless_and_comes_back_as_it_was(self):
        attempt = log(self.step, 95)
        attempt.note = '=HYPERLINK("x"), "quoted"'
        attempt.save()
        text = self.client.get(reverse("attempts-csv")).getvalue().decode("utf-8-sig")
        (row,) = csv.DictReader(io.StringIO(text))
        self.assertEqual(row["note"], "'" + attempt.note)
        Attempt.objects.all().delete()
        self.bring("attempts", text, store=1)
        self.assertEqual(Attempt.objects.get().note, attempt.note)

    def test_ones_own_table_read_again_stores_nothing_new(self):
        """Whatever words there are: as formulas, quoted by hand, full-width, with signs."""
        words = ("=1+1", "'=1", "''=1", "'n' roll", "＝1", "＠x", "+49", "-5", "@home", "a,b;c")
        for n, word in enumerate((*words, '"x"', "'", "''", "tab\there", "’tis")):
            attempt = log(self.step, 90 + n)
            attempt.note = word
            attempt.save()
        text = self.client.get(reverse("attempts-csv")).getvalue().decode("utf-8-sig")
        for row in csv.reader(io.StringIO(text)):
            self.assertFalse([cell for cell in row if cell[:1] in "=+-@＝＋－＠" and cell])
        page = self.bring("attempts", text)
        self.assertContains(page, f"0 would be stored, {len(words) + 5} are here already")

    def test_tries_of_two_pieces_of_one_title_come_back_into_their_own(self):
        other = make_plan(make_piece(self.teacher, title="Quay"), self.student)
        log(other.steps.get(name="Bar 1"), 95)
        text = self.client.get(reverse("attempts-csv")).getvalue().decode("utf-8-sig")
        self.assertIn(f"Quay #{other.piece_id},Bar 1", text)
        Attempt.objects.all().delete()
        self.bring("attempts", text, store=1)
        self.assertEqual(Attempt.objects.get().step.plan, other)
        wrong = self.bring("attempts", HEAD, AttemptsIn.LINE)
        self.assertContains(wrong, "did you mean &#x27;Quay #", status_code=422)


class AttemptsIn(ReportsTest):
    LINE = "Ines,Quay,Bar 1,2026-05-01,90,yes,8,home,even"

    def test_a_dry_run_stores_nothing_then_it_is_stored_and_everything_follows(self):
        page = self.bring("attempts", HEAD, self.LINE)
        self.assertContains(page, "1 would be stored, 0 are here already")
        self.assertFalse(Attempt.objects.exists())
        self.bring("attempts", HEAD, self.LINE, store=1)
        self.assertEqual(self.fresh(self.step).standing.held, 90)

    def test_an_older_export_without_the_later_columns_is_read_with_them_empty(self):
        head = "student,piece,step,day,tempo,clean"
        self.bring("attempts", head, "Ines,Quay,Bar 1,2026-05-01,90,yes", store=1)
        attempt = Attempt.objects.get()
        self.assertEqual((attempt.where, attempt.note, attempt.passes), ("file", "", 1))

    def test_what_is_there_already_is_passed_over_as_often_as_it_is_there(self):
        self.bring("attempts", HEAD, self.LINE, store=1)
        page = self.bring("attempts", HEAD, self.LINE, self.LINE)
        self.assertContains(page, "1 would be stored, 1 are here already")

    def test_errors_are_told_by_line_and_nothing_is_stored(self):
        page = self.bring(
            "attempts",
            HEAD,
            "Innes,Quay,Bar 1,2026-05-01,90,yes,8,home,",
            "Ines,Kay,Bar 1,2026-05-01,90,yes,8,home,",
            "Ines,Quay,Bar 44,2026-05-01,90,yes,8,home,",
            "Ines,Quay,Bar 1,1 May,90,yes,8,home,",
            "Ines,Quay,Bar 1,2026-05-01,900,yes,8,home,",
            "Ines,Quay,Bar 1,2026-05-01,90,perhaps,8,home,",
            "Ines,Quay,Bar 1,2026-05-01,90,yes,8,moon,",
            "Ines,Quay,Bar 1,2999-05-01,90,yes,8,home,",
            self.LINE,
            store=1,
        )
        for said in (
            "Line 2: there is no student called &#x27;Innes&#x27;; did you mean",
            "Line 3: there is no piece of Ines called &#x27;Kay&#x27;",
            "Line 4: there is no step in Quay called &#x27;Bar 44&#x27;",
            "Line 5: day: &#x27;1 May&#x27; is no day; write it as 2026-05-31",
            "Line 6: tempo: Ensure this value is less than or equal to 400",
            "Line 7: clean: &#x27;perhaps&#x27; is neither yes nor no",
            "Line 8: where: &#x27;moon&#x27; is none of lesson, home, file",
            "Line 9: day: This day has not come yet.",
        ):
            with self.subTest(said):
                self.assertContains(page, said, status_code=422)
        self.assertContains(page, self.LINE, status_code=422)  # kept as typed
        self.assertFalse(Attempt.objects.exists())

    def test_what_is_no_table_is_told(self):
        for text, said in (
            ("", "Choose a file, or paste"),
            ("a,b\n1,2", "missing: student, piece"),
            (HEAD, "there are no lines under the heading"),
        ):
            with self.subTest(said):
                self.assertContains(self.bring("attempts", text), said, status_code=422)
        binary = SimpleUploadedFile("a.csv", b"\xff\xfe\x00")
        response = self.client.post(reverse("table-in", args=["attempts"]), {"file": binary})
        self.assertContains(response, "no text in UTF-8", status_code=422)

    def test_a_file_with_a_byte_order_mark_and_semicolons_in_notes_is_read(self):
        data = f"\ufeff{HEAD}\r\n{self.LINE};;\r\n".encode()
        file = SimpleUploadedFile("a.csv", data)
        page = self.client.post(reverse("table-in", args=["attempts"]), {"file": file})
        self.assertContains(page, "1 would be stored")

    def test_semicolons_and_decimal_commas_of_a_spreadsheet_are_read_and_named(self):
        line = "Ines;Quay;Bar 1;2026-05-01;90,0;yes;8,00;home;softly, then loud"
        page = self.bring("attempts", HEAD.replace(",", ";"), line, store=1)
        self.assertRedirects(page, reverse("in-and-out"))
        one = Attempt.objects.get()
        self.assertEqual((one.tempo, one.passes, one.note), (90, 8, "softly, then loud"))
        again = self.bring("attempts", HEAD.replace(",", ";"), line)
        self.assertContains(again, "Read with semicolons between the cells.")
        self.assertContains(again, "1 are here already")
        tabs = self.bring("attempts", HEAD.replace(",", "\t"), line.replace(";", "\t"))
        self.assertContains(tabs, "Read with tabs between the cells.")
        half = self.bring("attempts", HEAD.replace(",", ";"), line.replace("90,0", "90,5"))
        self.assertContains(half, "Line 2: tempo: Enter a whole number", status_code=422)

    def test_what_goes_out_begins_with_the_mark_of_its_letters_and_comes_back(self):
        self.bring("attempts", HEAD, self.LINE, store=1)
        data = self.client.get(reverse("attempts-csv")).getvalue()
        self.assertTrue(data.startswith("\ufeff".encode()))
        page = self.client.post(
            reverse("table-in", args=["attempts"]), {"file": SimpleUploadedFile("a.csv", data)}
        )
        self.assertContains(page, "0 would be stored, 1 are here already")

    def test_an_unknown_table_is_not_there(self):
        self.assertEqual(self.client.get("/in-and-out/teachers/").status_code, 404)


class StudentsTable(ReportsTest):
    def test_out_and_in_again_changes_nothing(self):
        text = self.client.get(reverse("students-csv")).getvalue().decode("utf-8-sig")
        page = self.bring("students", text)
        self.assertContains(page, "0 would be stored, 1 are as they stand")

    def test_new_ones_are_added_known_ones_changed(self):
        head = "name,grade,hand,open_handed,lesson_day,lesson_time,exam_date,notes"
        lines = (
            "Ines,5,L,yes,Monday,17:30,2027-03-01,Left now",
            "Kofi,2,R,no,,,,",
        )
        self.bring("students", head, *lines, store=1)
        ines, kofi = Student.objects.order_by("name")
        self.assertEqual((ines.pk, ines.grade, ines.lead), (self.student.pk, 5, "L"))
        self.assertEqual((ines.lesson_day, ines.lesson_time), (0, time(17, 30)))
        self.assertEqual((kofi.name, kofi.exam_date), ("Kofi", None))

    def test_errors_are_told_by_line(self):
        head = "name,grade,hand,open_handed,lesson_day,lesson_time,exam_date,notes"
        page = self.bring(
            "students",
            head,
            "Kofi,12,R,no,,,,",
            "Mira,2,R,no,Mon,,,",
            "Jo,2,R,no,,,1 May,",
            "Bo,2,R,no,,,,",
            "Bo,3,R,no,,,,",
        )
        for said in (
            "Line 2: grade: Select a valid choice. 12 is not one",
            "Line 3: lesson_day: &#x27;Mon&#x27; is no day; write Monday",
            "Line 4: exam_date: &#x27;1 May&#x27; is no day",
            "Line 6: &#x27;Bo&#x27; stands in this file twice",
        ):
            with self.subTest(said):
                self.assertContains(page, said, status_code=422)


class WholeStudio(ReportsTest):
    def setUp(self):
        super().setUp()
        practise(self.plan, days=4)
        day = date.today() - timedelta(days=7)
        one = {"step": self.step.pk, "name": "Bar 1", "piece": "Quay", "tempo": 90}
        Lesson.objects.create(student=self.student, day=day, was_set=[one], note="Early")
        HomeMinutes.objects.create(student=self.student, day=day, minutes=20)
        self.text = self.client.get(reverse("studio-json")).getvalue().decode("utf-8-sig")

    def restore(self, text, user=None, **more):
        self.client.force_login(user or self.other_teacher())
        file = SimpleUploadedFile("studio.json", text.encode())
        return self.client.post(reverse("studio-in"), {"file": file, **more}, follow=True)

    def test_another_installation_has_the_same_studio_with_new_numbers(self):
        eve = self.other_teacher()
        page = self.restore(self.text, eve)
        self.assertContains(page, "1 students, 1 pieces and 32 tries are here.")
        plan = Plan.objects.get(owner=eve)
        self.assertNotEqual(plan.pk, self.plan.pk)
        mine = self.fresh(self.plan)
        self.assertEqual(
            (plan.standing.ready, plan.standing.held_by.name),
            (mine.standing.ready, mine.standing.held_by.name),
        )
        self.assertEqual(plan.standing.forecast["days"], mine.standing.forecast["days"])
        self.assertEqual(plan.piece.chart(), self.plan.piece.chart())
        lesson = Lesson.objects.get(student__owner=eve)
        self.assertEqual(Step.objects.get(pk=lesson.set_steps[0]).plan, plan)
        again = json.loads("".join(studio_lines(eve)))["tables"]
        first = json.loads(self.text)["tables"]
        for name, rows in first.items():
            self.assertEqual(len(again[name]), len(rows), name)

    def test_a_link_is_copied_mailed_and_shown(self):
        self.client.post(reverse("link-open", args=[self.student.pk]))
        page = self.client.get(self.student.get_absolute_url())
        self.student.refresh_from_db()
        self.assertContains(page, f'value="http://testserver{path_of(self.student)}"')
        self.assertContains(page, 'data-copy="link-address"')
        self.assertContains(page, "mailto:?subject=")
        self.assertIn("<svg", page.context["link_qr"])

    def test_a_link_does_not_travel(self):
        self.client.post(reverse("link-open", args=[self.student.pk]))
        text = "".join(studio_lines(self.teacher))
        self.assertNotIn("link_key", text)
        eve = self.other_teacher()
        self.restore(text, eve)
        self.assertEqual(Student.objects.get(owner=eve).link_key, "")

    def test_a_studio_that_is_not_empty_is_replaced_only_when_asked(self):
        page = self.restore(self.text, self.teacher)
        self.assertContains(page, "not empty. Tick this to replace it", status_code=422)
        self.assertTrue(Plan.objects.filter(pk=self.plan.pk).exists())
        self.restore(self.text, self.teacher, replace="on")
        self.assertEqual(
            Plan.objects.filter(owner=self.teacher, student__isnull=False).count(), 1
        )
        self.assertFalse(Plan.objects.filter(pk=self.plan.pk).exists())

    def test_a_wrong_file_is_told_where_and_changes_nothing(self):
        def broken(change):
            whole = json.loads(self.text)
            change(whole)
            return json.dumps(whole)

        tables = "tables"
        for text, said in (
            ("{", "this is no JSON"),
            ("[]", "no studio file of Wren Ladder"),
            (broken(lambda w: w.update(version=10)), "version 10 is not known here"),
            (broken(lambda w: w[tables].pop("step")), "the table &#x27;step&#x27; is missing"),
            (
                broken(lambda w: w[tables]["student"][0].update(grade=40)),
                "student, row 1: grade: Value 40 is not a valid choice",
            ),
            (
                broken(lambda w: w[tables]["attempt"][2].update(step=999)),
                "attempt, row 3: 999 is missing, or refers to nothing",
            ),
            (
                broken(lambda w: w[tables]["attempt"][2].pop("tempo")),
                "attempt, row 3: &#x27;tempo&#x27; is missing",
            ),
            (
                broken(lambda w: w[tables]["plan"].append(w[tables]["plan"][0])),
                "plan: two rows are the same",
            ),
            (
                broken(lambda w: w[tables]["barrow"][0].update(data={"number": "1"})),
                "barrow, row 1: ",
            ),
            (
                broken(lambda w: w[tables]["plan"][0].update(start=500)),
                "plan, row 1: start: Ensure",
            ),
            (
                broken(lambda w: w[tables]["lesson"][0].update(was_set="x")),
                "lesson, row 1: was_set: a list is wanted",
            ),
        ):
            with self.subTest(said):
                page = self.restore(text, self.teacher, replace="on")
                self.assertContains(page, said, status_code=422)
                self.assertTrue(Plan.objects.filter(pk=self.plan.pk).exists())
                self.assertEqual(Attempt.objects.count(), 32)

    def test_the_page_says_what_there_is(self):
        page = self.client.get(reverse("in-and-out"))
        for said in ("Students", "Tries", "Calendar", "The whole studio", "Young people"):
            self.assertContains(page, said)


class Report(ReportsTest):
    def text(self):
        response = self.client.get(reverse("report", args=[self.student.pk]))
        pages = PdfReader(io.BytesIO(response.content)).pages
        return " ".join(page.extract_text() for page in pages)

    def test_it_tells_a_parent_in_plain_words_and_keeps_private_notes(self):
        self.student.exam_date = date.today() + timedelta(days=200)
        self.student.save()
        practise(self.plan)
        text = " ".join(self.text().split())
        self.assertIn("Progress of Ines", text)
        self.assertIn("Every part can be played at 115 of 120 beats a minute", text)
        self.assertIn("It will very likely be ready in time for the exam", text)
        self.assertIn("practice on 6 days", text)
        self.assertNotIn("Shy", text)

    def words(self, text, **more):
        address = reverse("report-words", args=[self.student.pk])
        opened = {"initial-report_words": self.fresh(self.student).report_words}
        return self.client.post(address, opened | {"report_words": text, **more})

    def test_before_anything_is_known_it_says_so(self):
        log(self.step, 95)
        self.assertIn("Too early to say when it will be ready", " ".join(self.text().split()))

    def test_what_nobody_has_begun_has_no_empty_picture(self):
        context = report_context(self.student, date.today())
        self.assertEqual((context["pieces"], context["unbegun"]), ([], ["Quay"]))
        self.assertIsNone(context["calendar"])
        text = " ".join(self.text().split())
        self.assertIn("Given, and not begun yet: Quay.", text)
        self.assertNotIn("The stairs are", text)
        log(self.step, 95)
        context = report_context(self.student, date.today())
        self.assertEqual([one["plan"] for one in context["pieces"]], [self.plan])
        self.assertIsNotNone(context["calendar"])

    def test_exercises_without_an_attempt_are_left_out(self):
        send_drill(drill_named("flam paradiddle"), self.student, 96)
        context = report_context(self.student, date.today())
        self.assertEqual(context["unbegun"], ["Quay"])
        self.assertNotIn("Drills for", self.text())

    def test_the_teachers_own_words_stand_first_and_are_kept(self):
        kept = self.words("Steady work.\r\n\r\nShort and slow at home.")
        self.assertRedirects(kept, reverse("report", args=[self.student.pk]))
        page = self.client.get(reverse("report-words", args=[self.student.pk]))
        self.assertContains(page, "Short and slow at home.</textarea>")
        text = " ".join(self.text().split())
        self.assertLess(text.index("Steady work. Short and slow"), text.index("In the last"))
        self.words("")
        self.assertNotIn("Steady work", self.text())

    def test_words_that_are_too_long_stay_in_the_form(self):
        page = self.words("drum " * 500)
        self.assertContains(page, "has at most 2000 characters", status_code=422)
        self.assertContains(page, "drum drum drum", status_code=422)
        self.assertEqual(self.fresh(self.student).report_words, "")

    def test_an_older_tab_is_told_of_newer_words(self):
        self.words("Newer")
        page = self.words("Older", **{"initial-report_words": ""})
        self.assertContains(page, "Meanwhile another tab kept Newer", status_code=422)
        self.assertEqual(self.fresh(self.student).report_words, "Newer")

    def test_another_teacher_can_do_nothing_with_it(self):
        self.client.force_login(self.other_teacher())
        self.assertEqual(self.words("Mine now").status_code, 404)
