"""Students: list, add, look at, change, delete."""

from django.contrib import messages
from django.core.paginator import Paginator
from django.db.models import Q
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from wren_ladder.drumming.numbers import read_whole
from wren_ladder.studio.changes.students import change_student, set_second_teacher, set_status
from wren_ladder.studio.house.members import colleagues
from wren_ladder.studio.pages.deleting import confirm_delete
from wren_ladder.studio.pages.link.limits import last_flood
from wren_ladder.studio.pages.requests import (
    came_from,
    number_asked,
    owned_or_404,
    posted,
    taught_or_404,
    words_asked,
)
from wren_ladder.studio.pages.sent_once import sent_once
from wren_ladder.studio.pages.students.forms import EditStudentForm
from wren_ladder.studio.pages.students.list_page import ORDERS, student_lines
from wren_ladder.studio.pages.students.page import compare_context, student_context
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.students.forms import NewStudentForm
from wren_ladder.studio.students.links import link_out
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.students.taught import students_of

PAGE = 60


@require_safe
def student_list(request):
    query, order = words_asked(request), request.GET.get("by", "day")
    students = students_of(request.user).select_related("owner", "second_teacher")
    if query:
        students = students.filter(
            Q(name__icontains=query) | Q(plans__piece__title__icontains=query)
        ).distinct()
    away = students.exclude(status=Student.Status.HERE).order_by("name")
    here = list(students.filter(status=Student.Status.HERE).order_by("name"))
    lines = student_lines(request.user, here, timezone.localdate(), order)
    context = {
        "page": Paginator(lines, PAGE).get_page(request.GET.get("page")),
        "query": query,
        "away": away,
        "orders": ORDERS,
        "order": order if order in ORDERS else "day",
    }
    return render(request, "students/list.html", context)


@require_http_methods(["GET", "POST"])
@sent_once
def student_new(request):
    form = NewStudentForm(posted(request), instance=Student(owner=request.user))
    wanted = number_asked(request, "give")
    piece = Piece.objects.filter(owner=request.user, pk=wanted).first() if wanted else None
    if form.is_valid():
        student = form.save()
        if piece:  # on the way to giving it
            return redirect(f"{reverse('give', args=[piece.pk])}?student={student.pk}")
        return redirect(student)
    context = {"form": form, "piece": piece}
    status = 422 if form.is_bound else 200
    return render(request, "students/edit.html", context, status=status)


@require_safe
def student_page(request, pk):
    student = taught_or_404(request.user, pk)
    asked, whole = request.GET.get("plan", ""), request.GET.get("lessons") == "all"
    context = student_context(student, timezone.localdate(), asked, whole)
    if student.owner_id == request.user.pk and not student.trial:
        context["seconds"] = colleagues(request.user)
    if student.link_key:
        context |= {**link_out(request, student), "flooded": last_flood(student)}
        context["week_text"] += f"\n{context['link_address']}" if context["week_text"] else ""
    return render(request, "students/student.html", context)


@require_safe
def student_compare(request, pk):
    """Which of two pieces is nearer?"""
    student = taught_or_404(request.user, pk)
    asked = [request.GET.get("one", ""), request.GET.get("other", "")]
    context = compare_context(student, timezone.localdate(), asked)
    return render(request, "students/compare.html", context)


@require_http_methods(["GET", "POST"])
def student_edit(request, pk):
    student = taught_or_404(request.user, pk)
    form = EditStudentForm(posted(request), instance=student)
    if form.is_valid():
        changed = {name: form.cleaned_data[name] for name in form.changed_data}
        kept = change_student(student, changed, timezone.localdate())
        return redirect(came_from(request) or kept)
    context = {"form": form, "student": Student.objects.get(pk=pk)}
    return render(request, "students/edit.html", context, status=422 if form.is_bound else 200)


@require_POST
def student_status(request, pk):
    """Paused or left, and here again, by one press each."""
    student = taught_or_404(request.user, pk)
    status = request.POST.get("status")
    if status in Student.Status.values:
        set_status(student, status)
        messages.success(request, f"{student.name}: {Student.Status(status).label}.")
    return redirect(student)


@require_POST
def student_second(request, pk):
    """A second teacher chosen by the first, or no more, as either of them says."""
    student = taught_or_404(request.user, pk)
    asked = read_whole(request.POST.get("teacher"))
    if asked is None:
        set_second_teacher(student, None)
        if student.owner_id != request.user.pk:
            messages.success(request, f"You do not teach {student} any more.")
            return redirect("students")
        messages.success(request, f"Only you teach {student}.")
        if student.link_key:
            messages.info(
                request,
                "The private link is closed, for your colleague knows it. Hand out a new one.",
            )
    else:
        student = owned_or_404(Student, request.user, pk)
        teacher = get_object_or_404(colleagues(request.user), pk=asked)
        set_second_teacher(student, teacher)
        messages.success(request, f"{teacher} teaches {student} together with you.")
    return redirect(student)


@require_http_methods(["GET", "POST"])
def student_delete(request, pk):
    student = owned_or_404(Student, request.user, pk)
    return confirm_delete(
        request,
        student,
        what=student.name,
        lost=f"{student.plans.count()} plans with every try logged in them, the lessons, "
        "the minutes and the link",
        back=student.get_absolute_url(),
        then="students",
        done=f"{student.name} is deleted, with everything of theirs.",
    )
