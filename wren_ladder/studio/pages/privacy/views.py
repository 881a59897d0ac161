"""What is kept, in plain words; one student exported, or erased."""

from django import forms
from django.conf import settings
from django.contrib.auth.decorators import login_not_required
from django.http import HttpResponse
from django.shortcuts import render
from django.utils.text import slugify
from django.views.decorators.http import require_POST, require_safe

from wren_ladder.studio.bin.models import KEPT
from wren_ladder.studio.pages.requests import owned_or_404
from wren_ladder.studio.privacy import expiry
from wren_ladder.studio.privacy.erasing import erase
from wren_ladder.studio.privacy.student_file import student_file
from wren_ladder.studio.students.models import Student

MOST_WORDS, SHORTEST = 8, 3  # other words that are taken out, and letters of each


class EraseForm(forms.Form):
    name = forms.CharField(label="Type the name to erase it", max_length=80)
    words = forms.CharField(
        label="Take these out of titles and notes too",
        help_text="A first name or a nickname that nobody else here has, with commas between.",
        required=False,
        max_length=200,
    )

    def __init__(self, student: Student, *args) -> None:
        super().__init__(*args)
        self.student = student

    def clean_name(self) -> str:
        if self.cleaned_data["name"].strip() != self.student.name:
            raise forms.ValidationError(f"Type {self.student.name}, as it is written above.")
        return self.student.name

    def clean_words(self) -> tuple[str, ...]:
        words = [one.strip() for one in self.cleaned_data["words"].split(",")]
        words = [one for one in words if one]
        if len(words) > MOST_WORDS:
            raise forms.ValidationError(f"{MOST_WORDS} words at the most.")
        for one in words:
            if len(one) < SHORTEST:
                raise forms.ValidationError(
                    f"“{one}” is too short to be told from other words."
                )
            others = Student.objects.filter(owner=self.student.owner_id, name__icontains=one)
            if other := others.exclude(pk=self.student.pk).first():
                raise forms.ValidationError(f"“{one}” is in the name of {other} too.")
        return tuple(words)


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
    return _kept(request, student, EraseForm(student))


@require_safe
def student_export(request, pk):
    student = owned_or_404(Student, request.user, pk)
    answer = HttpResponse(student_file(student), content_type="text/html; charset=utf-8")
    name = slugify(student.name) or "student"
    answer["Content-Disposition"] = f'attachment; filename="{name}.html"'
    return answer


@require_POST
def student_erase(request, pk):
    student = owned_or_404(Student, request.user, pk)
    form = EraseForm(student, request.POST)
    if not form.is_valid():
        return _kept(request, student, form, status=422)
    erased = erase(student, form.cleaned_data["words"])
    # On the page of this answer only, so that no session keeps the name.
    return render(request, "privacy/erased.html", {"erased": erased})


def _kept(request, student: Student, form: EraseForm, status: int = 200) -> HttpResponse:
    context = {"student": student, "form": form}
    return render(request, "privacy/student.html", context, status=status)
