"""A teacher's own exercises on the shelf: put there from a piece, and as a file of many."""

from django import forms
from django.contrib import messages
from django.db import transaction
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.workshop.pack import (
    FASTEST,
    MOST_BARS,
    SLOWEST,
    OwnExercise,
    own_exercise,
    read_pack,
    write_pack,
)
from wren_ladder.drumming.workshop.recipes import made, typed_recipe
from wren_ladder.drumming.workshop.shelf import KINDS
from wren_ladder.studio.changes.exercises import make_exercise
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.teaching.models import teaching_of

MOST_PACK = 1_000_000  # bytes
TOLD = 5  # of what was left out


class ShelfForm(forms.Form):
    """Where on the shelf, and how fast it is to be reached."""

    kind = forms.ChoiceField(choices=[(one, one) for one in KINDS])
    target = forms.IntegerField(min_value=SLOWEST, max_value=FASTEST)


def can_be_put(piece: Piece, user) -> bool:
    return piece.owner_id == user.pk and not piece.is_exercise and piece.bar_count <= MOST_BARS


@require_POST
def put_on_shelf(request, pk):
    """A copy of a piece as an exercise."""
    piece = get_object_or_404(Piece, pk=pk, owner=request.user)
    form = ShelfForm(request.POST)
    try:
        if not form.is_valid():
            raise ChartError("say what it is for, and a target of 20 to 300 BPM")
        own = own_exercise(
            piece.chart(), form.cleaned_data["kind"], form.cleaned_data["target"]
        )
    except ChartError as error:
        messages.error(request, f"Not on the shelf: {error}.")
        return redirect(piece)
    _keep(request.user, own)
    messages.success(request, f"{piece.title} stands on the shelf, under “made here” too.")
    return redirect(f"{reverse('workshop')}?kind={own.kind}")


@require_safe
def pack_out(request):
    """All of the teacher's own as one text."""
    own = own_pieces(request.user)
    text = write_pack(tuple(own_exercise_of(piece) for piece in own))
    answer = HttpResponse(text, content_type="text/plain; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="exercises.wren"'
    return answer


@require_POST
def pack_in(request):
    """Another's exercises: what was taken, what was there, what was left out."""
    file, back = request.FILES.get("pack"), redirect("workshop")
    if file is None or file.size > MOST_PACK:
        messages.error(request, "Choose a pack of exercises, of at most 1 MB.")
        return back
    try:
        pack = read_pack(file.read().decode("utf-8-sig"))
    except (ChartError, UnicodeDecodeError) as error:
        why = error if isinstance(error, ChartError) else "it is no text"
        messages.error(request, f"{file.name}: {why}.")
        return back
    before = own_pieces(request.user).count()
    with transaction.atomic():
        for one in pack.exercises:
            _keep(request.user, one)
    taken = own_pieces(request.user).count() - before
    there = len(pack.exercises) - taken
    said = f"{taken} taken" + (f", {there} that you have" if there else "")
    messages.success(request, f"{file.name}: {said}.")
    for why in pack.left_out[:TOLD]:
        messages.warning(request, f"Left out: {why}.")
    if len(pack.left_out) > TOLD:
        messages.warning(request, f"And {len(pack.left_out) - TOLD} more were left out.")
    return back


def own_pieces(user):
    return Piece.objects.filter(owner=user, made_of__has_key="typed").order_by("title", "pk")


def own_exercise_of(piece: Piece) -> OwnExercise:
    """As its bars are now."""
    return own_exercise(piece.chart(), piece.kind, piece.made_of["to"])


def _keep(owner, own: OwnExercise) -> Piece:
    _, syllabus = teaching_of(owner.pk)
    recipe = typed_recipe(own)
    found = made(recipe, syllabus)
    return make_exercise(owner, found.chart, found.kind, recipe, found.grade or None)
