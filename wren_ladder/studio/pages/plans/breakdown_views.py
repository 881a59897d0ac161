"""The breakdown: what will catch, the plan as a tree, its steps moved, split and joined."""

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from wren_ladder.drumming.breakdown import StepChange
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.style import School
from wren_ladder.studio.changes.plans import (
    add_step,
    change_step,
    join_with_next,
    move_step,
    place_step,
    revise,
    set_dropped,
    set_rank,
    set_repeats,
    split_step,
)
from wren_ladder.studio.pages.plans.bar_panel import catch_context
from wren_ladder.studio.pages.plans.breakdown_page import (
    breakdown_context,
    needed_by,
    tree_context,
)
from wren_ladder.studio.pages.plans.compare_page import compare_context
from wren_ladder.studio.pages.plans.forms import (
    AddStepForm,
    RankForm,
    RepeatsForm,
    StepForm,
)
from wren_ladder.studio.pages.plans.lookups import plan_or_404, step_or_404
from wren_ladder.studio.pages.plans.step_music import step_music
from wren_ladder.studio.pages.printing import paper_of, pdf
from wren_ladder.studio.pages.requests import came_from, number_asked, posted
from wren_ladder.studio.pages.sent_once import sent_once
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.plans.planning import propose
from wren_ladder.studio.plans.rules import climb_rule
from wren_ladder.studio.plans.versions import music_for, study_for

FEW = 6  # changes of a kind that a page shows without being asked


@require_safe
def breakdown(request, pk):
    plan = plan_or_404(request.user, pk)
    asked = number_asked(request, "step")
    chosen = plan.steps.filter(pk=asked).first() if asked is not None else None
    context = {
        **breakdown_context(plan, request.user, timezone.localdate(), chosen),
        "add_form": AddStepForm(piece=plan.piece),
        **(panel_context(chosen) if chosen else {}),
        **_opened_bar(request, plan),
    }
    return render(request, "plans/breakdown.html", context)


def _opened_bar(request: HttpRequest, plan: Plan) -> dict:
    asked = number_asked(request, "bar")
    found = catch_context(plan, asked) if asked is not None else None
    return {"opened_bar": True, **found} if found else {}


def panel_context(step: Step) -> dict:
    """A step opened beside the tree: its music, and what can be done with it."""
    context = {"step": step, "plan": step.plan, "repeats_form": RepeatsForm(instance=step)}
    if step.music_is_there:
        context |= {
            "music": step_music(step.plan, step, "step-", music_for(step.plan)),
            "sound_id": f"score-{step.pk}",
            "needed": needed_by(step),
            "climb": climb_rule(step.plan, step),
        }
    return context


@require_safe
def step_panel(request, pk):
    step = step_or_404(request.user, pk)
    return render(request, "plans/_step_panel.html", panel_context(step))


def _changed(
    request: HttpRequest, plan: Plan, said: str, chosen: Step | None = None
) -> HttpResponse:
    """The tree again after a change: the fragment for htmx, the page otherwise."""
    if not request.htmx:
        messages.success(request, said)
        address = reverse("plan-steps", args=[plan.pk])
        return redirect(f"{address}?step={chosen.pk}" if chosen else address)
    plan = plan_or_404(request.user, plan.pk)
    context = {
        "plan": plan,
        "said": said,
        "chosen": chosen,
        **tree_context(plan, study_for(plan), timezone.localdate(), chosen),
    }
    if chosen:
        context |= panel_context(step_or_404(request.user, chosen.pk))
    return render(request, "plans/_changed.html", context)


@require_POST
def step_move(request, pk, way):
    step = step_or_404(request.user, pk)
    if not step.dropped:
        move_step(step, -1 if way == "up" else 1)
    return _changed(request, step.plan, f"{step.name} moved {way}.", step)


@require_POST
def step_place(request, pk):
    """Dropped in front of another step, or behind all."""
    step = step_or_404(request.user, pk)
    asked = read_whole(request.POST.get("before"))
    before = step.plan.steps.filter(pk=asked).first() if asked is not None else None
    if not step.dropped:
        place_step(step, before)
    where = f"before {before.name}" if before else "to the end"
    return _changed(request, step.plan, f"{step.name} moved {where}.", step)


@require_POST
def step_drop(request, pk):
    step = step_or_404(request.user, pk)
    parts = set_dropped(step, dropped=True)
    also = f" with its {parts} part{'' if parts == 1 else 's'}" if parts else ""
    said = f"{step.name} is left out{also}; bring it back below."
    return _changed(request, step.plan, said, step)


@require_POST
def step_restore(request, pk):
    step = step_or_404(request.user, pk)
    set_dropped(step, dropped=False)
    return _changed(request, step.plan, f"{step.name} is back.", step)


@require_POST
def step_split(request, pk):
    step = step_or_404(request.user, pk)
    try:
        first, second = split_step(step)
    except ValueError as error:
        return _changed(request, step.plan, f"Not split: {error}.", step)
    said = f"{step.name} is split into {first.name} and {second.name}."
    return _changed(request, step.plan, said, first)


@require_POST
def step_join(request, pk):
    step = step_or_404(request.user, pk)
    try:
        joined = join_with_next(step)
    except ValueError as error:
        return _changed(request, step.plan, f"Not joined: {error}.", step)
    return _changed(request, step.plan, f"Joined into {joined.name}.", joined)


@require_POST
def step_repeats(request, pk):
    step = step_or_404(request.user, pk)
    form = RepeatsForm(request.POST, instance=step)
    if not form.is_valid():
        wrong = "; ".join(f"{name}: {' '.join(said)}" for name, said in form.errors.items())
        step.refresh_from_db()
        return _changed(request, step.plan, f"Not changed: {wrong}", step)
    set_repeats(step, step.repeats, step.gap)
    return _changed(request, step.plan, f"{step.name}: {step.repeats} times.", step)


@require_http_methods(["GET", "POST"])
def step_edit(request, pk):
    step = step_or_404(request.user, pk)
    form = StepForm(posted(request), instance=step)
    if form.is_valid():
        changed = {name: form.cleaned_data[name] for name in form.changed_data}
        change_step(step, changed)
        return redirect(came_from(request) or reverse("plan-steps", args=[step.plan_id]))
    context = {"form": form, "step": step, "plan": step.plan}
    return render(
        request, "plans/step_edit.html", context, status=422 if form.is_bound else 200
    )


@require_POST
@sent_once
def step_add(request, pk):
    plan = plan_or_404(request.user, pk)
    form = AddStepForm(request.POST, piece=plan.piece)
    if not form.is_valid():
        context = {
            **breakdown_context(plan, request.user, timezone.localdate()),
            "add_form": form,
        }
        return render(request, "plans/breakdown.html", context, status=422)
    added = form.cleaned_data
    step = add_step(plan, added["first"], added["last"], repeats=added["repeats"])
    messages.success(request, f"{step.name} is added at the end.")
    return redirect(f"{reverse('plan-steps', args=[plan.pk])}?step={step.pk}")


@require_http_methods(["GET", "POST"])
def plan_revise(request, pk):
    """What would change, and why; then the change itself."""
    plan = plan_or_404(request.user, pk)
    asked = request.POST.get("school") or request.GET.get("school") or plan.school
    if asked not in tuple(School):
        raise Http404("no such school")
    school = School(asked)
    if request.method == "POST":
        revise(plan, timezone.localdate(), school)
        messages.success(request, "The plan is revised; what was practised is kept.")
        return redirect("plan-steps", plan.pk)
    entries = propose(plan, school)
    context = {
        "plan": plan,
        "school": school,
        "few": FEW,
        "stays": sum(entry.change is StepChange.STAYS for entry in entries),
        "groups": [
            (change, [entry for entry in entries if entry.change is change])
            for change in (
                StepChange.CHANGED,
                StepChange.ADDED,
                StepChange.LEFT_OUT,
                StepChange.REMOVED,
            )
        ],
        "renamed": [
            e for e in entries if e.change is StepChange.STAYS and e.why.startswith("was ")
        ],
        "revisions": plan.revisions.all()[:5],
    }
    return render(request, "plans/revise.html", context)


@require_safe
def compare(request, pk):
    """Two schools side by side for the same piece and student."""
    plan = plan_or_404(request.user, pk)
    return render(request, "plans/compare.html", compare_context(request, plan))


@require_POST
def bar_rank(request, pk, index):
    """The teacher's own rank of a bar; an empty one goes back to what is worked out."""
    plan = plan_or_404(request.user, pk)
    row = get_object_or_404(plan.piece.bars, position=index)
    form = RankForm(request.POST)
    if form.is_valid():
        rank = form.cleaned_data["rank"]
        set_rank(plan, row, rank)
        worked = "as worked out" if rank is None else f"{rank:g}, by you"
        messages.success(
            request, f"Bar {row.number} ranks {worked}. Revise the plan to let it follow."
        )
    else:
        messages.error(request, f"Bar {row.number}: {form.errors['rank'][0]}")
    return redirect(f"{reverse('plan-steps', args=[plan.pk])}?bar={index}#bar-{index}")


@require_safe
def catch_panel(request, pk, index):
    """One bar: what will catch this student in it, and how it is built up."""
    plan = plan_or_404(request.user, pk)
    return render(request, "plans/_catch_panel.html", _bar_or_404(plan, index))


@require_safe
def built_up_sheet(request, pk, index):
    """A bar in layers, beats and limbs, on paper."""
    plan = plan_or_404(request.user, pk)
    context = _bar_or_404(plan, index) | paper_of(request)
    title = f"{plan.piece.title} bar {context['bar'].bar.number}"
    return pdf(request, "plans/built_up_sheet.html", context, title)


def _bar_or_404(plan: Plan, index: int) -> dict:
    context = catch_context(plan, index)
    if context is None:
        raise Http404("no such bar")
    return context
