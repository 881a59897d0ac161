"""The rudiment shelf, and sending a drill from it to a student."""

from django.contrib import messages
from django.http import Http404
from django.shortcuts import redirect, render
from django.utils.text import slugify
from django.views.decorators.http import require_http_methods, require_safe
from quicktions import Fraction

from wren_ladder.drumming.chart import Tempo
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.rudiments import RUDIMENTS, Family, inversion_drills
from wren_ladder.studio.changes.exercises import send_drill
from wren_ladder.studio.drawing.engraving import BAR_WIDTH, engrave, engrave_each
from wren_ladder.studio.drawing.limb_view import limb_view
from wren_ladder.studio.drawing.sound import sound_of_bars
from wren_ladder.studio.pages.requests import posted
from wren_ladder.studio.pages.rudiments import shelf
from wren_ladder.studio.pages.rudiments.forms import SendForm
from wren_ladder.studio.pages.sent_once import sent_once
from wren_ladder.studio.teaching.models import style_of, syllabus_of, teaching_of

DRILL_TEMPO = Tempo(Fraction(1), 60)


@require_safe
def rudiment_shelf(request):
    style, grades = teaching_of(request.user.pk)
    found = shelf.occurrences(request.user)
    bars = [shelf.studied(drill.bar, style) for drill in shelf.drills()]
    drawings = engrave_each(bars, shelf.SHELF_LAYOUT, shelf.SHELF_WIDTH)
    entries = [
        {
            "one": one,
            "slug": slugify(one.name),
            "grade": grades.get(one.name),
            "svg": svg,
            "places": found.get(one.name, []),
        }
        for one, svg in zip(RUDIMENTS, drawings, strict=False)
    ]
    drills = [
        {"name": drill.name, "slug": slugify(drill.name), "svg": svg}
        for drill, svg in zip(inversion_drills(), drawings[len(RUDIMENTS) :], strict=True)
    ]
    families = [
        (family.value, [entry for entry in entries if entry["one"].family is family])
        for family in Family
    ]
    return render(request, "rudiments/shelf.html", {"families": families, "drills": drills})


@require_http_methods(["GET", "POST"])
@sent_once
def rudiment_page(request, slug):
    """One drill: staff, count, heights, where it occurs; and sending it to a student."""
    drill = next((one for one in shelf.drills() if slugify(one.name) == slug), None)
    if drill is None:
        raise Http404("nothing on the shelf has that name")
    form = SendForm(request.user, posted(request), initial={"tempo": 100})
    if form.is_valid():
        for student in form.cleaned_data["student"]:
            step = send_drill(drill, student, form.cleaned_data["tempo"])
            messages.success(request, f"{student.name} climbs the {drill.name} now.")
        return redirect(step.plan)
    studied = shelf.studied(drill.bar, style_of(request.user.pk))
    rudiment = next((one for one in RUDIMENTS if one.name == drill.name), None)
    context = {
        "drill": drill,
        "one": rudiment,
        "grade": syllabus_of(request.user.pk).get(drill.name),
        "staff": engrave([studied], Layout(), BAR_WIDTH, "drill-"),
        "limbs": limb_view(studied),
        "sound": sound_of_bars([studied], DRILL_TEMPO),
        "places": shelf.occurrences(request.user).get(drill.name, []),
        "roll": shelf.roll_of(drill.name),
        "form": form,
        "has_students": form.fields["student"].queryset.exists(),
    }
    status = 422 if form.is_bound else 200
    return render(request, "rudiments/rudiment.html", context, status=status)
