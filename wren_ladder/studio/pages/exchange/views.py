"""In and out: tables, the calendar, the report for a parent, the whole studio."""

from collections.abc import Iterable
from itertools import chain

from django.conf import settings
from django.contrib import messages
from django.contrib.auth.decorators import login_not_required
from django.http import Http404, HttpResponse, StreamingHttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from wren_ladder.studio.climb.models import Attempt
from wren_ladder.studio.exchange import tables
from wren_ladder.studio.exchange.calendar_file import diary_of
from wren_ladder.studio.exchange.studio_file import (
    StudioFileError,
    is_empty,
    looked_over,
    read_studio_file,
    restore,
    studio_lines,
)
from wren_ladder.studio.keeping.backup import backup_is_old, last_backup
from wren_ladder.studio.lessons.models import CalendarAddress
from wren_ladder.studio.pages.exchange.forms import StudioForm, TableForm
from wren_ladder.studio.pages.requests import number_asked, posted
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.students.taught import students_of

MOST_WRONG = 40  # lines of errors shown
READERS = {
    "attempts": (tables.read_attempts, tables.store_attempts, tables.ATTEMPTS),
    "students": (tables.read_students, tables.store_students, tables.STUDENTS),
}


@require_safe
def in_and_out(request):
    return render(request, "exchange/in_and_out.html", _context(request))


def _context(request, form: StudioForm | None = None) -> dict:
    empty = is_empty(request.user)
    return {
        "form": form or StudioForm(empty=empty),
        "empty": empty,
        "students": Student.objects.filter(owner=request.user),
        "calendar": _calendar_address(request),
        "backed_up": last_backup(settings.DATA),
        "backup_is_old": backup_is_old(last_backup(settings.DATA), timezone.localdate()),
    }


def _calendar_address(request) -> str:
    """The secret address, as a calendar program takes it; empty where there is none."""
    address = CalendarAddress.objects.filter(owner=request.user).first()
    if address is None:
        return ""
    return request.build_absolute_uri(reverse("calendar-feed", args=[address.key]))


@require_safe
def attempts_csv(request):
    """Of the student asked for, else of all."""
    asked = number_asked(request, "student")
    if asked is None:
        students = Student.objects.filter(owner=request.user)
    else:
        students = students_of(request.user).filter(pk=asked)
    attempts = Attempt.objects.filter(step__plan__student__in=students)
    ordered = attempts.order_by("step__plan__student__name", "day", "pk")
    return _table(tables.attempt_lines(ordered), "attempts.csv")


@require_safe
def students_csv(request):
    students = Student.objects.filter(owner=request.user)
    return _table(tables.student_lines(students), "students.csv")


@login_not_required
@never_cache
@require_safe
def calendar_feed(request, key):
    """The calendar at its secret address, for a calendar program to read again and again."""
    address = get_object_or_404(CalendarAddress, key=key, owner__is_active=True)
    students = students_of(address.owner_id)
    return HttpResponse(diary_of(students, timezone.localdate()), content_type="text/calendar")


@require_POST
def calendar_address(request):
    """A new secret address, or none; the one before no longer works."""
    CalendarAddress.objects.filter(owner=request.user).delete()
    if request.POST.get("do") == "open":
        CalendarAddress.objects.create(owner=request.user)
        messages.success(request, "The calendar has a secret address.")
    else:
        messages.success(request, "The address is revoked; no calendar reads it any more.")
    return redirect("/in-and-out/#calendar")


@require_safe
def calendar_ics(request):
    students = students_of(request.user)
    asked = number_asked(request, "student")
    if asked is not None:
        students = students.filter(pk=asked)
    data = diary_of(students, timezone.localdate())
    return _download([data], "text/calendar", "wren-ladder.ics")


@require_safe
def studio_json(request):
    name = f"studio-{timezone.localdate():%Y-%m-%d}.json"
    asked = ("sounds" in request.GET, "printed" in request.GET)
    return _download(studio_lines(request.user, *asked), "application/json", name)


def _table(lines: Iterable[str], name: str) -> StreamingHttpResponse:
    """With the mark by which spreadsheets know the letters."""
    return _download(chain([tables.MARK], lines), "text/csv", name)


def _download(data: Iterable[str | bytes], kind: str, name: str) -> StreamingHttpResponse:
    """Sent while it is written: a whole studio is many megabytes."""
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return StreamingHttpResponse(data, content_type=f"{kind}; charset=utf-8", headers=headers)


@require_http_methods(["GET", "POST"])
def table_in(request, kind):
    """A table: first what would become of it, line by line; then it is stored, or nothing."""
    if kind not in READERS:
        raise Http404("no such table")
    read, store, columns = READERS[kind]
    form = TableForm(posted(request), request.FILES or None)
    context = {"form": form, "kind": kind, "columns": columns}
    status = 200
    if form.is_valid():
        reading = read(form.cleaned_data["text"], request.user)
        if reading.good and "store" in request.POST:
            store(reading)
            messages.success(request, f"{len(reading.new)} {kind} stored.")
            return redirect("in-and-out")
        status = 200 if reading.good else 422
        form = TableForm(initial={"text": form.cleaned_data["text"]})
        context |= {"form": form, "reading": reading, "wrong": reading.wrong[:MOST_WRONG]}
    elif form.is_bound:
        status = 422
    return render(request, "exchange/table_in.html", context, status=status)


@require_POST
def studio_in(request):
    """Looked over first, if one likes: nothing is changed then."""
    looks = "look" in request.POST
    form = StudioForm(request.POST, request.FILES, empty=looks or is_empty(request.user))
    if form.is_valid():
        try:
            tables = read_studio_file(form.cleaned_data["file"].read())
            if looks:
                context = _context(request, StudioForm(empty=is_empty(request.user)))
                context["looked"] = looked_over(tables, request.user)
                return render(request, "exchange/in_and_out.html", context)
            found = restore(tables, request.user)
        except StudioFileError as error:
            form.add_error("file", f"Nothing was changed. {error}")
        else:
            said = f"{found['student']} students, {found['piece']} pieces and "
            messages.success(request, f"{said}{found['attempt']} tries are here.")
            return redirect("desk")
    return render(request, "exchange/in_and_out.html", _context(request, form), status=422)
