"""The report for a parent: the teacher's words, then the sheet."""

from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_safe

from wren_ladder.studio.changes.sayings import put_in_report
from wren_ladder.studio.changes.students import change_student
from wren_ladder.studio.pages.printing import paper_of, pdf
from wren_ladder.studio.pages.reports.parent import report_context
from wren_ladder.studio.pages.requests import posted, taught_or_404
from wren_ladder.studio.pages.students.forms import ReportForm
from wren_ladder.studio.students.models import Student


@require_http_methods(["GET", "POST"])
def report_words(request, pk):
    student = taught_or_404(request.user, pk)
    form = ReportForm(posted(request), instance=student)
    if form.is_valid():
        sent = form.cleaned_data
        put_in_report(student, [one.pk for one in sent.pop("sayings", [])])
        changed = {name: sent[name] for name in form.changed_data if name in sent}
        change_student(student, changed, timezone.localdate())
        return redirect("report", student.pk)
    context = {"form": form, "student": Student.objects.get(pk=pk)}
    status = 422 if form.is_bound else 200
    return render(request, "reports/words.html", context, status=status)


@require_safe
def report(request, pk):
    student = taught_or_404(request.user, pk)
    context = report_context(student, timezone.localdate()) | paper_of(request)
    return pdf(request, "reports/report.html", context, f"{student} progress")
