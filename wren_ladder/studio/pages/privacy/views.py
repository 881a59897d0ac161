"""What is kept, in plain words; one student exported, or erased."""

from django import forms
from django.conf import settings
from django.contrib.auth.decorators import login_not_required
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils.text import slugify
from django.views.decorators.http import require_http_methods, require_safe

from wren_ladder.studio.bin.models import KEPT
from wren_ladder.studio.pages.requests import owned_or_404
from wren_ladder.studio.privacy import expiry
from wren_ladder.studio.privacy.erasing import erase
from wren_ladder.studio.privacy.naming import (
    colleague_places,
    is_sure,
    names_of,
    out_of_reach,
    places_of,
)
from wren_ladder.studio.privacy.student_file import student_file
from wren_ladder.studio.students.models import Student

MOST_WORDS = 8  # by which a student is known beside the name


class LookForm(forms.Form):
    words = forms.CharField(
        label="Also known as",
        help_text="A nickname, with commas between several.",
        required=False,
        max_length=200,
    )

    def clean_words(self) -> tuple[str, ...]:
        words = tuple(
            filter(None, (one.strip() for one in self.cleaned_data["words"].split(",")))
        )
        if len(words) > MOST_WORDS:
            raise forms.ValidationError(f"{MOST_WORDS} words at the most.")
        return words


class EraseForm(LookForm):
    """``places``: the keys of those in which "a student" is to stand."""

    name = forms.CharField(label="Type the name to erase it", max_length=80)
    words = forms.CharField(required=False, max_length=200, widget=forms.HiddenInput)
    colleague = forms.BooleanField(required=False)

    def __init__(self, student: Student, *args, **kwargs) -> None:
        super().__init__(*args, auto_id="erase_%s", **kwargs)
        self.student = student

    def clean_name(self) -> str:
        if self.cleaned_data["name"].strip() != self.student.name:
            raise forms.ValidationError(f"Type {self.student.name}, as it is written above.")
        return self.student.name


@login_not_required
@require_safe
def privacy(request):
    context = {
        "bin_days": KEPT.days,
        "import_days": expiry.IMPORTS_KEPT.days,
        "draft_days": expiry.DRAFTS_KEPT.days,
        "lock_days": expiry.LOCK_OUTS_KEPT.days,
        "idle_hours": settings.IDLE_HOURS,
    }
    return render(request, "privacy/kept.html", context)


@require_safe
def student_kept(request, pk):
    student = owned_or_404(Student, request.user, pk)
    return render(request, "privacy/student.html", {"student": student})


@require_safe
def student_export(request, pk):
    student = owned_or_404(Student, request.user, pk)
    answer = HttpResponse(student_file(student), content_type="text/html; charset=utf-8")
    name = slugify(student.name) or "student"
    answer["Content-Disposition"] = f'attachment; filename="{name}.html"'
    return answer


@require_http_methods(["GET", "POST"])
def student_erase(request, pk):
    """Where the name stands, with a tick at each place that goes; then all of it at once."""
    student = owned_or_404(Student, request.user, pk)
    if request.method == "GET":
        look = LookForm(request.GET)
        words = look.cleaned_data["words"] if look.is_valid() else ()
        return _asked(request, student, look, words)
    form = EraseForm(student, request.POST)
    ticked = set(request.POST.getlist("places"))
    words = form.cleaned_data.get("words", ()) if form.is_valid() or form.cleaned_data else ()
    if not form.is_valid():
        look = LookForm({"words": ", ".join(words)})
        return _asked(request, student, look, words, form, ticked)
    erased = erase(student, words, ticked, form.cleaned_data["colleague"])
    # On the page of this answer only, so that no session keeps the name.
    return render(request, "privacy/erased.html", {"erased": erased})


def _asked(
    request: HttpRequest,
    student: Student,
    look: LookForm,
    words: tuple[str, ...],
    form: EraseForm | None = None,
    ticked: set[str] | None = None,
) -> HttpResponse:
    names = names_of(student, words)
    places = places_of(student, names, request.user)
    second, theirs = colleague_places(student, names)
    if ticked is None:
        ticked = {one.key for one in places if one.sure}
    context = {
        "student": student,
        "look": look,
        "form": form or EraseForm(student, initial={"words": ", ".join(words)}),
        "places": [(one, one.key in ticked) for one in places],
        "plain": [one for one in names.all if not is_sure(one, student)],
        "second": second,
        "theirs": len(theirs),
        "colleague": form is None or form.cleaned_data.get("colleague"),
        "out_of_reach": out_of_reach(student, names),
    }
    bound = (form and form.errors) or look.errors
    return render(request, "privacy/erase.html", context, status=422 if bound else 200)
