"""Exams: planned, changed, tried as a mock, told of; the next grade."""

from collections.abc import Iterable, Sequence
from datetime import date

from django.db import transaction

from wren_ladder.drumming.grades import MOST_GRADE
from wren_ladder.studio.changes.plans import set_status
from wren_ladder.studio.changes.students import change_student
from wren_ladder.studio.exams.models import Exam, ExamItem, MockRun
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.models import Student


@transaction.atomic
def keep_exam(exam: Exam, plans: Sequence[Plan], others: Iterable[str], today: date) -> Exam:
    """With its programme: the pieces and exercises, then what is said in words. Items that
    stay keep the runs of their mock exams."""
    exam.save()
    kept = {item.plan_id or item.name: item for item in exam.items.all()}
    wanted = [(plan.pk, plan.piece.title, plan.target, plan) for plan in plans]
    wanted += [(name, name, None, None) for name in others]
    for place, (key, name, tempo, plan) in enumerate(wanted):
        item = kept.pop(key, None) or ExamItem(exam=exam, plan=plan)
        item.place, item.name, item.tempo = place, name, tempo
        item.save()
    for item in kept.values():
        item.delete()
    Plan.objects.filter(pk__in=[plan.pk for plan in plans]).update(for_exam=True)
    follow_exams(exam.student, today)
    return exam


def follow_exams(student: Student, today: date) -> None:
    """Forecasts look to the next exam that nothing is told of yet."""
    ahead = _next_exam(student)
    day = ahead.day if ahead else None
    if day != Student.objects.get(pk=student.pk).exam_date:
        change_student(student, {"exam_date": day}, today)


def _next_exam(student: Student) -> Exam | None:
    """The first that nothing is told of yet."""
    return student.exams.filter(result="").order_by("day").first()


@transaction.atomic
def tell_result(exam: Exam, today: date) -> Exam:
    exam.save()
    follow_exams(exam.student, today)
    return exam


@transaction.atomic
def next_grade(exam: Exam, today: date) -> Student:
    """Passed: its pieces are put away, the grade goes up, nothing is deleted."""
    for item in exam.items.select_related("plan"):
        if item.plan and item.plan.status == Plan.Status.CLIMBING:
            set_status(item.plan, Plan.Status.PASSED, today)
    student = Student.objects.get(pk=exam.student_id)
    grade = min(MOST_GRADE, max(student.grade, exam.grade + 1))
    return change_student(student, {"grade": grade}, today)


@transaction.atomic
def keep_mock(day: date, runs: Iterable[tuple[ExamItem, bool, str]]) -> None:
    """A mock exam of a day; told again it is told anew."""
    for item, was_clean, words in runs:
        item.runs.filter(day=day).delete()
        MockRun.objects.create(item=item, day=day, was_clean=was_clean, words=words)


def exam_on(student: Student, day: date | None, today: date) -> None:
    """The exam's day as it is said of a student elsewhere: in a table, in a form. The open exam
    moves to it, or there is one now; without a day there is none ahead."""
    exam = _next_exam(student)
    if day is None:
        student.exams.filter(result="").delete()
    elif exam is None:
        plans = student.plans.filter(status=Plan.Status.CLIMBING, for_exam=True)
        exam = Exam(student=student, day=day, grade=max(1, student.grade))
        keep_exam(exam, list(plans.select_related("piece")), (), today)
    elif exam.day != day:
        Exam.objects.filter(pk=exam.pk).update(day=day)
