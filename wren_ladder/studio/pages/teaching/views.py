"""The teaching style page, with an example bar that follows every choice."""

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods, require_POST

from wren_ladder.drumming.counting import beat_shares, count_in
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.study import study
from wren_ladder.drumming.style import Style
from wren_ladder.studio.changes.styles import change_style, reset_style
from wren_ladder.studio.drawing.engraving import BAR_WIDTH, engrave
from wren_ladder.studio.drawing.sound import sound_of_bars
from wren_ladder.studio.pages.requests import posted
from wren_ladder.studio.pages.teaching.forms import EXAMPLE, StyleForm
from wren_ladder.studio.teaching.models import teaching_of


@require_http_methods(["GET", "POST"])
def teaching_style(request):
    style, syllabus = teaching_of(request.user.pk)
    form = StyleForm.of(style, syllabus, posted(request))
    if form.is_valid():
        change_style(request.user, form.kept())
        messages.success(request, "Kept. Every page counts and sticks that way from now on.")
        return redirect("teaching-style")
    context = {"form": form, **_example(style)}
    return render(request, "teaching/style.html", context, status=422 if form.is_bound else 200)


@require_POST
def teaching_example(request: HttpRequest) -> HttpResponse:
    """The example bar by the choices that are on the page, saved or not."""
    form = StyleForm(request.POST)
    if not form.is_valid():
        return render(request, "teaching/_example.html", {"errors": form.errors})
    return render(request, "teaching/_example.html", _example(form.style, form.example))


@require_POST
def teaching_reset(request):
    reset_style(request.user)
    messages.success(request, "The usual choices are back.")
    return redirect("teaching-style")


def _example(style: Style, chart=None) -> dict:
    studied = study(chart or read_chart(EXAMPLE), style)
    bar = studied.bars[0]
    return {
        "staff": engrave([bar], Layout(), BAR_WIDTH, "example-"),
        "sound": sound_of_bars([bar], studied.chart.tempo),
        "count_in": count_in(bar.bar).spoken,
        "shares": beat_shares(bar.bar, style.note_names),
        "rules": [
            (bar.bar.beat_of(stick.hit.at), stick.hit.drum.spoken, stick.hand, stick.why)
            for stick in bar.sticks
            if not stick.hit.drum.by_foot
        ],
        "rudiments": bar.rudiments,
    }
