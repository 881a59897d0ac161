"""Minutes at home: what the student logged, looked over and added to by the teacher."""

from django.contrib import messages
from django.core.paginator import Paginator
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods

from wren_ladder.studio.climb.forms import HomeMinutesForm
from wren_ladder.studio.climb.models import HomeMinutes
from wren_ladder.studio.pages.deleting import confirm_delete
from wren_ladder.studio.pages.requests import posted, taught_or_404
from wren_ladder.studio.pages.sent_once import sent_once
from wren_ladder.studio.students.taught import students_of

PAGE = 60


@require_http_methods(["GET", "POST"])
@sent_once
def minutes(request, pk):
    student = taught_or_404(request.user, pk)
    form = HomeMinutesForm(
        posted(request),
        instance=HomeMinutes(student=student),
        initial={"day": timezone.localdate()},
    )
    if form.is_valid():
        messages.success(request, f"{form.save()} are logged.")
        return redirect("minutes", pk)
    logged = student.logged_minutes.order_by("-day", "-pk")
    context = {
        "student": student,
        "form": form,
        "page": Paginator(logged, PAGE).get_page(request.GET.get("page")),
    }
    status = 422 if form.is_bound else 200
    return render(request, "climb/minutes.html", context, status=status)


@require_http_methods(["GET", "POST"])
def minutes_delete(request, pk):
    logged = HomeMinutes.objects.select_related("student")
    practice = get_object_or_404(logged, pk=pk, student__in=students_of(request.user))
    back = f"/students/{practice.student_id}/minutes/"
    return confirm_delete(
        request,
        practice,
        what=str(practice),
        lost="this entry alone; the tries of the day stay",
        back=back,
        then=back,
        done="The entry is deleted.",
        owner=practice.student.owner,
    )
