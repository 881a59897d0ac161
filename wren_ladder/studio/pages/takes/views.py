"""Takes: recorded from a page, shown, thrown away; the teacher's rule; calibration."""

from django.contrib import messages
from django.contrib.auth.decorators import login_not_required
from django.http import JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from wren_ladder.drumming.plain_text import plain_json
from wren_ladder.drumming.take_sources.calibration import (
    TAPS,
    CalibrationError,
    calibrated,
    clicks_at,
)
from wren_ladder.drumming.take_sources.midi_file import TakeError
from wren_ladder.studio.climb.models import Take, Where
from wren_ladder.studio.pages.climb.step_views import climbed_or_404
from wren_ladder.studio.pages.deleting import tell_binned
from wren_ladder.studio.pages.requests import number_asked, posted
from wren_ladder.studio.pages.takes.examples import examples
from wren_ladder.studio.pages.takes.form import Recording, TakeForm
from wren_ladder.studio.pages.takes.listening import ListeningForm, proposal
from wren_ladder.studio.pages.takes.page import take_context
from wren_ladder.studio.pages.takes.rules import RulesForm
from wren_ladder.studio.students.taught import students_of
from wren_ladder.studio.teaching.models import take_rules as rules_by_grade

MOST_TAPS = 4 * TAPS
MILLISECONDS = 1000


@require_POST
def take_record(request, pk):
    """What was recorded in the page, a MIDI file, or the made-up player."""
    step = climbed_or_404(request.user, pk)
    in_lesson = request.POST.get("from") == "lesson"
    back = reverse("step", args=[pk])
    if in_lesson:
        back = f"{reverse('lesson-mode', args=[step.plan.student_id])}?at={pk}"
    form = TakeForm(request.POST, request.FILES)
    try:
        if not form.is_valid():
            raise TakeError(form.problem())
        sent, today = form.cleaned_data, timezone.localdate()
        if sent_before := step.takes.filter(key=sent["key"]).first() if sent["key"] else None:
            return redirect("take", sent_before.pk)
        take = Recording(step, sent, form.kit, today, Where.LESSON).kept()
    except TakeError as error:
        messages.error(request, f"No take: {error}.".replace("..", "."))
        return redirect(back)
    return redirect(f"{reverse('take', args=[take.pk])}{'?from=lesson' if in_lesson else ''}")


@require_POST
def take_listen(request, pk):
    """Strokes heard in a lesson so far: what to propose. Nothing is kept."""
    step = climbed_or_404(request.user, pk)
    form = ListeningForm(request.POST)
    if not form.is_valid():
        return JsonResponse({"error": form.problem()}, status=422)
    return JsonResponse(proposal(step, form))


@require_safe
def take_page(request, pk):
    take = take_or_404(request, pk)
    beside = take.step.takes.filter(pk=number_asked(request, "beside") or 0).first()
    context = take_context(take, beside)
    return render(
        request,
        "takes/take.html",
        {**context, "in_lesson": request.GET.get("from") == "lesson"},
    )


@require_POST
def take_delete(request, pk):
    take = take_or_404(request, pk)
    what = f"The {take} of {take.step}"
    owner = take.step.plan.owner
    tell_binned(request, take, owner, what, "its strokes", "The take is thrown away.")
    return redirect("step", take.step_id)


@require_http_methods(["GET", "POST"])
def take_rules(request):
    """When a pass is clean, grade by grade."""
    form = RulesForm.of(request.user, posted(request))
    if form.is_valid():
        form.save(request.user)
        messages.success(request, "The rules are kept. Takes are judged by them from now on.")
        return redirect("take-rules")
    status = 422 if form.is_bound else 200
    context = {"form": form, "examples": examples(rules_by_grade(request.user.pk))}
    return render(request, "takes/rules.html", context, status=status)


@login_not_required
@require_POST
def calibrate(request):
    """Taps to sixteen clicks, in milliseconds from the first: how late a set-up is. Nothing is
    kept here; the page keeps it on its device."""
    if request.content_type != "application/json":
        return JsonResponse({"error": "a list of taps is wanted"}, status=400)
    try:
        taps = [float(tap) / MILLISECONDS for tap in plain_json(request.body)][:MOST_TAPS]
    except (ValueError, TypeError):
        return JsonResponse({"error": "a list of taps is wanted"}, status=400)
    try:
        found = calibrated(taps, clicks_at())
    except CalibrationError as error:
        return JsonResponse({"error": str(error)}, status=422)
    late, spread = round(MILLISECONDS * found.latency), round(MILLISECONDS * found.spread)
    return JsonResponse(
        {
            "latency": late,
            "spread": spread,
            "said": f"This set-up is {late} ms late, measured to within {spread} ms "
            f"({found.taps} taps). It is taken off from now on, on this device.",
        }
    )


def take_or_404(request, pk) -> Take:
    takes = Take.objects.select_related(
        "step__plan__student", "step__plan__piece", "step__plan__owner"
    )
    mine = students_of(request.user)
    return get_object_or_404(takes, pk=pk, step__plan__student__in=mine)
