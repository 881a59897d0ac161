"""Exams: planned, tried as a mock, told of, and the next grade."""

from django.contrib import messages
from django.http import Http404
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from wren_ladder.studio.changes.exams import (
    follow_exams,
    keep_exam,
    keep_mock,
    next_grade,
    tell_result,
)
from wren_ladder.studio.drawing.sound import click_alone
from wren_ladder.studio.exams.models import Exam
from wren_ladder.studio.pages.deleting import confirm_delete
from wren_ladder.studio.pages.exams.forms import ExamForm, MockRunForm, ResultForm
from wren_ladder.studio.pages.exams.page import mocks_of, programme
from wren_ladder.studio.pages.printing import paper_of, pdf
from wren_ladder.studio.pages.requests import came_from, posted, taught_or_404
from wren_ladder.studio.pages.sent_once import sent_once
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.students.taught import students_of


def exam_or_404(user, pk: int) -> Exam:
    exams = Exam.objects.select_related("student__owner")
    return get_object_or_404(exams, pk=pk, student__in=students_of(user))


@require_http_methods(["GET", "POST"])
@sent_once
def exam_new(request, pk):
    student = taught_or_404(request.user, pk)
    exam = Exam(student=student, grade=max(1, student.grade), day=student.exam_date)
    return _exam_form(request, exam)


@require_http_methods(["GET", "POST"])
def exam_edit(request, pk):
    return _exam_form(request, exam_or_404(request.user, pk))


def _exam_form(request, exam: Exam):
    form = ExamForm(posted(request), instance=exam)
    if form.is_valid():
        said = form.cleaned_data
        kept = keep_exam(
            form.save(commit=False), list(said["plans"]), said["others"], timezone.localdate()
        )
        return redirect(came_from(request) or kept)
    context = {"form": form, "exam": exam, "student": exam.student}
    return render(request, "exams/edit.html", context, status=422 if form.is_bound else 200)


@require_safe
def exam_page(request, pk):
    exam = exam_or_404(request.user, pk)
    return render(request, "exams/exam.html", _context(exam))


def _context(exam: Exam, form: ResultForm | None = None) -> dict:
    today = timezone.localdate()
    return {
        "exam": exam,
        "student": exam.student,
        "programme": programme(exam, today),
        "mocks": mocks_of(exam),
        "today": today,
        "days": (exam.day - today).days,
        "form": form or ResultForm(instance=exam),
    }


@require_http_methods(["GET", "POST"])
@sent_once
def exam_mock(request, pk):
    """The programme in its order, once, each thing counted in."""
    exam = exam_or_404(request.user, pk)
    items = list(exam.items.select_related("plan__piece"))
    forms = [MockRunForm(posted(request), prefix=f"run-{item.pk}") for item in items]
    valid = [form.is_valid() for form in forms]
    if request.method == "POST" and all(valid):
        said = [(item, form.cleaned_data) for item, form in zip(items, forms, strict=True)]
        runs = [(item, one["went"] == "yes", one["words"]) for item, one in said if one["went"]]
        keep_mock(timezone.localdate(), runs)
        messages.success(request, "The mock exam is kept.")
        return redirect(exam)
    context = {
        "exam": exam,
        "student": exam.student,
        "rows": [
            (item, form, {**click_alone(item.tempo), "rounds": 1} if item.tempo else None)
            for item, form in zip(items, forms, strict=True)
        ],
    }
    return render(request, "exams/mock.html", context)


@require_safe
def mock_sheet(request, pk):
    """The last mock exam, for the parents."""
    exam = exam_or_404(request.user, pk)
    mocks = mocks_of(exam)
    if not mocks:
        raise Http404("there was no mock exam")
    context = {"exam": exam, "student": exam.student, "mock": mocks[0]} | paper_of(request)
    return pdf(request, "exams/mock_sheet.html", context, f"{exam.student} mock exam")


@require_POST
def exam_result(request, pk):
    exam = exam_or_404(request.user, pk)
    form = ResultForm(request.POST, instance=exam)
    if not form.is_valid():
        stored = exam_or_404(request.user, pk)
        return render(request, "exams/exam.html", _context(stored, form), status=422)
    tell_result(form.save(commit=False), timezone.localdate())
    messages.success(request, f"{exam.student}: {exam.get_result_display()}.")
    return redirect(exam)


@require_POST
def exam_next_grade(request, pk):
    exam = exam_or_404(request.user, pk)
    if exam.result != Exam.Result.PASSED:
        raise Http404("this exam is not passed")
    student = next_grade(exam, timezone.localdate())
    messages.success(
        request, f"{student} begins {student.grade_said}; what was passed is kept."
    )
    return redirect(student)


@require_http_methods(["GET", "POST"])
def exam_delete(request, pk):
    exam = exam_or_404(request.user, pk)
    student = Student.objects.get(pk=exam.student_id)
    answer = confirm_delete(
        request,
        exam,
        what=f"the exam, {exam}",
        lost="its programme and its mock exams",
        back=exam.get_absolute_url(),
        then=student.get_absolute_url(),
        done="The exam is deleted; pieces and tries stay.",
        owner=student.owner,
    )
    if request.method == "POST":
        follow_exams(student, timezone.localdate())
    return answer
