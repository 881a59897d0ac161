"""A bar that the page leaves open, written out in a student's own version of the piece."""

from django.contrib import messages
from django.http import Http404
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_http_methods

from wren_ladder.studio.changes.plans import forget_own_bar, write_own_bar
from wren_ladder.studio.pages.plans.lookups import student_plan_or_404
from wren_ladder.studio.pages.plans.own_bar_page import own_bar_context


@require_http_methods(["GET", "POST"])
def own_bar(request, pk, index):
    plan = student_plan_or_404(request.user, pk)
    chosen = request.POST if request.method == "POST" else request.GET
    context = own_bar_context(plan, index, chosen)
    if context is None:
        raise Http404("no open bar there")
    here = reverse("own-bar", args=[plan.pk, index])
    if request.method == "POST" and "forget" in request.POST:
        forget_own_bar(plan, index)
        messages.success(request, f"Bar {context['number']} is as the page has it again.")
        return redirect(here)
    if request.method == "POST" and context["written"] is not None:
        write_own_bar(plan, index, context["written"])
        messages.success(request, f"Written into {plan.student.name}'s version of the piece.")
        return redirect(here)
    fragment = request.htmx and not request.htmx.boosted
    template = "plans/_own_bar.html" if fragment else "plans/own_bar.html"
    return render(request, template, context, status=422 if request.method == "POST" else 200)
