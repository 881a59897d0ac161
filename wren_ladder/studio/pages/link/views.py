"""The student's page behind the private link, and the teacher's hand on it."""

from django.contrib import messages
from django.contrib.auth.decorators import login_not_required
from django.http import Http404, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.templatetags.static import static
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_POST, require_safe

from wren_ladder.studio.climb.models import HomeMinutes, Where
from wren_ladder.studio.pages.climb.entries import answer
from wren_ladder.studio.pages.headers import records
from wren_ladder.studio.pages.link.forms import MinutesForm
from wren_ladder.studio.pages.link.held_page import held_context
from wren_ladder.studio.pages.link.limits import limited
from wren_ladder.studio.pages.link.page import link_context
from wren_ladder.studio.pages.piece_room.page import room_context
from wren_ladder.studio.pages.plans.lookups import STEPS
from wren_ladder.studio.pages.requests import taught_or_404
from wren_ladder.studio.pages.sent_once import sent_once
from wren_ladder.studio.pages.sounds import sent_recording, sent_sound
from wren_ladder.studio.pieces.models import Piece, Recording
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.plans.sayings import said_of, sayings_for, sound_of
from wren_ladder.studio.students.links import open_link, path_of, revoke, student_or_404
from wren_ladder.studio.students.models import Student

MOST_A_DAY = 20  # entries of minutes


@login_not_required
@limited
@never_cache
@require_safe
@records
def link_page(request, signed):
    try:
        student = student_or_404(signed)
    except Http404:  # a page that takes away what the device kept
        return render(request, "link/closed.html", {"signed": signed}, status=404)
    request.teaches = student.owner_id
    context = {**link_context(student, timezone.localdate()), "signed": signed}
    return render(request, "link/link.html", {**context, "form": MinutesForm()})


@login_not_required
@limited
@never_cache
@require_safe
def link_worker(request, signed):
    """The script that keeps this student's page on the device; of a link that was closed, one
    that takes it away."""
    try:
        student_or_404(signed)
        name = "link/worker.js"
    except Http404:
        name = "link/closed_worker.js"
    context = {"signed": signed, "page": reverse("link", args=[signed])}
    return render(request, name, context, content_type="text/javascript")


@login_not_required
@limited
@require_safe
def link_manifest(request, signed):
    """What a phone needs to put the page among its own."""
    student = student_or_404(signed)
    page = reverse("link", args=[signed])
    return JsonResponse(
        {
            "name": f"{student.name.split()[0]}'s practice",
            "short_name": "Practice",
            "start_url": page,
            "scope": page,
            "display": "standalone",
            "background_color": "#FBF7EF",
            "theme_color": "#FBF7EF",
            "icons": [
                {"src": static("wren/wren.svg"), "sizes": "any", "type": "image/svg+xml"}
            ],
        },
        content_type="application/manifest+json",
    )


@login_not_required
@limited
@never_cache
@require_safe
def link_piece(request, signed, pk):
    """A whole piece that the student climbs, with the drums or along its recording."""
    student = student_or_404(signed)
    request.teaches = student.owner_id
    context = room_context(_piece(student, pk), request.GET.get("with") == "recording")
    return render(request, "link/piece.html", {**context, "signed": signed, "student": student})


@login_not_required
@limited
@require_safe
def link_says(request, signed, pk, saying):
    """The teacher's voice on a step."""
    student = student_or_404(signed)
    step = get_object_or_404(STEPS.filter(plan__student=student), pk=pk)
    return sent_sound(sound_of(said_of(step, sayings_for([step.plan])), saying))


@login_not_required
@limited
@never_cache
@require_safe
def link_held(request, signed):
    """What the student can play: to play it for fun, to show it at home, or to print."""
    student = student_or_404(signed)
    request.teaches = student.owner_id
    today = timezone.localdate()
    context = {"signed": signed, "first_name": student.name.split()[0], "today": today}
    return render(request, "link/held.html", context | held_context(student, today))


@login_not_required
@limited
@require_safe
def link_recording(request, signed, pk):
    piece = _piece(student_or_404(signed), pk)
    return sent_recording(request, get_object_or_404(Recording, piece=piece))


def _piece(student: Student, pk: int) -> Piece:
    climbing = student.plans.filter(status=Plan.Status.CLIMBING).values("piece")
    return get_object_or_404(Piece, pk=pk, pk__in=climbing)


@login_not_required
@limited
@require_POST
def link_entries(request, signed):
    student = student_or_404(signed)
    steps = STEPS.filter(plan__student=student)
    return answer(request, steps, Where.HOME, reverse("link", args=[signed]))


@login_not_required
@limited
@require_POST
@sent_once
@records
def link_minutes(request, signed):
    student = student_or_404(signed)
    today = timezone.localdate()
    form = MinutesForm(request.POST, instance=HomeMinutes(student=student, day=today))
    if student.logged_minutes.filter(day=today).count() >= MOST_A_DAY:
        form.add_error("minutes", f"{MOST_A_DAY} entries a day are kept at the most.")
    if form.is_valid():
        form.save()
        messages.success(request, f"{form.instance.minutes} minutes are logged.")
        return redirect("link", signed)
    context = {**link_context(student, today), "signed": signed, "form": form}
    return render(request, "link/link.html", context, status=422)


@require_POST
def link_open(request, pk):
    """Give out a link, or a new one in place of the old."""
    student = taught_or_404(request.user, pk)
    open_link(student)
    messages.success(request, f"{student.name} has a link. Print it with the week's sheet.")
    return redirect(f"{student.get_absolute_url()}#link")


@require_POST
def link_revoke(request, pk):
    student = taught_or_404(request.user, pk)
    revoke(student)
    messages.success(request, "The link is revoked; nobody gets in with it any more.")
    return redirect(f"{student.get_absolute_url()}#link")


@require_safe
def link_follow(request, pk):
    """What the student sees."""
    student = taught_or_404(request.user, pk)
    return redirect(path_of(student) if student.link_key else student)
