"""From a file to a piece: read it, look over how it was understood, correct, save."""

from collections.abc import Sequence

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST

from wren_ladder.drumming.chart import Chart, ChartError, Drum, Problem
from wren_ladder.drumming.description.compared import ComparedBar, compare_pages
from wren_ladder.drumming.description.phrases import phrases
from wren_ladder.drumming.notation.reading import LEFT_OUT, Choice, Reading
from wren_ladder.drumming.study import Study, study
from wren_ladder.studio.changes.pieces import add_piece, replace_piece
from wren_ladder.studio.drawing.engraving import CARD_WIDTH, engrave_each, mark_notes
from wren_ladder.studio.drawing.sound import sound_of_bars, sound_of_file
from wren_ladder.studio.drawing.wall import edit_rows
from wren_ladder.studio.pages.deleting import confirm_delete
from wren_ladder.studio.pages.pieces.forms import ImportForm, UploadForm
from wren_ladder.studio.pages.requests import (
    number_asked,
    owned_or_404,
    posted,
)
from wren_ladder.studio.pages.sent_once import sent_once
from wren_ladder.studio.pieces.models import Import, Piece
from wren_ladder.studio.pieces.reading import read_upload
from wren_ladder.studio.pieces.studies import CARD_LAYOUT
from wren_ladder.studio.teaching.models import style_of

DRUMS = [(drum.value, drum.spoken) for drum in Drum]
MOST_DRAWN = 40  # bars of the preview
MOST_DOUBTFUL, MOST_TOLD = 12, 40  # bars drawn to look at first; told of
BARS_HEARD = 8
MOST_UNDONE = 30


@require_http_methods(["GET", "POST"])
@sent_once
def piece_upload(request):
    form = UploadForm(posted(request), request.FILES or None)
    if form.is_valid():
        found = Import.objects.create(
            owner=request.user,
            name=form.cleaned_data["file"].name[:200],
            data=form.data_read,
            grade=form.cleaned_data["grade"],
        )
        instead = number_asked(request, "instead")
        asked = f"?instead={instead}" if instead is not None else ""
        return redirect(f"{found.get_absolute_url()}{asked}")
    status = 422 if form.is_bound else 200
    return render(request, "pieces/upload.html", {"form": form}, status=status)


@require_http_methods(["GET", "POST"])
def import_page(request, pk):
    """How the file was understood. Posting corrections reads it again with them; what
    makes no chart is told, and the corrections before it stay."""
    found = owned_or_404(Import, request.user, pk)
    try:
        before = _read(found)
    except ChartError as unreadable:  # another version reads it otherwise
        context = {"found": found, "why": unreadable}
        return render(request, "pieces/import_unreadable.html", context, status=422)
    error = None
    if request.method == "POST" and "title" in request.POST:
        _keep_head(found, request)
    elif request.method == "POST":
        kept = [found.parts, found.drums, found.taken]
        if "undo" in request.POST:
            if found.before:
                *found.before, [found.parts, found.drums, found.taken] = found.before
        else:
            _correct(found, before, request.POST)
        try:
            before = _read(found)
            if "undo" not in request.POST and kept != [found.parts, found.drums, found.taken]:
                found.before = [*found.before, kept][-MOST_UNDONE:]
            found.save()
        except ChartError as caught:
            error = caught
            found.parts, found.drums, found.taken = kept
    if found.instead is None and request.method == "GET":
        number = number_asked(request, "instead")
        found.instead = Piece.objects.filter(owner=request.user, pk=number).first()
    context = {**_context(found, before), "error": error}
    name = "pieces/_reading.html" if request.htmx else "pieces/import.html"
    return render(request, name, context)


def _keep_head(found: Import, request: HttpRequest) -> None:
    """What is typed over the bars stays with the file, so that it is there tomorrow."""
    form = ImportForm(request.POST, owner=request.user)
    form.is_valid()
    found.title = form.cleaned_data.get("title", found.title)
    found.grade = form.cleaned_data.get("grade", found.grade)
    found.instead = form.cleaned_data.get("instead", found.instead)
    found.save()


@require_POST
@sent_once
def import_save(request, pk):
    found = owned_or_404(Import, request.user, pk)
    reading = _read(found)
    form = ImportForm(request.POST, owner=request.user)
    if not form.is_valid():
        return _page_with(request, found, reading, form)
    chart = Chart(form.cleaned_data["title"], reading.chart.bars)
    fields = {name: form.cleaned_data[name] for name in ("grade", "notes")}
    fields["import_report"] = [str(problem) for problem in reading.problems]
    fields["typed"] = reading.typed
    piece = form.cleaned_data["instead"]
    said = f"{len(chart.bars)} bars read."
    if piece is None:
        piece = add_piece(request.user, chart, **fields)
    else:
        before = replace_piece(piece, chart, timezone.localdate(), **fields)
        said = f"{said} Steps and tries stay with their bars; the bars of before are kept as "
        said += f"{before.name}, among the files that wait."
    found.delete()
    messages.success(request, said)
    return redirect(piece)


@require_http_methods(["GET", "POST"])
def import_discard(request, pk):
    found = owned_or_404(Import, request.user, pk)
    return confirm_delete(
        request,
        found,
        what=found.name,
        lost="what you corrected of how it is read",
        back=found.get_absolute_url(),
        then="pieces",
        done=f"{found.name} is gone.",
    )


def _read(found: Import) -> Reading:
    return read_upload(found.name, bytes(found.data), found.parts, found.drums, found.taken)


def _correct(found: Import, reading: Reading, sent) -> None:
    """Take the parts and offers that are ticked, the ways that are chosen, and the drum of each
    kind of note."""
    ticked = [offer.code for offer in reading.offers if offer.code in sent.getlist("take")]
    ways = [_way(found, choice, sent.get(f"way-{choice.name}")) for choice in reading.choices]
    found.taken = ticked + [code for code in ways if code]
    if reading.parts:
        keys = [part.key for part in reading.parts]
        found.parts = [key for key in sent.getlist("part") if key in keys]
    for place, source in enumerate(reading.sources):
        choice = sent.get(f"drum-{place}")
        if choice is not None and choice != (source.drum or LEFT_OUT):
            found.drums = {**found.drums, source.key: choice}


def _way(found: Import, choice: Choice, sent: str | None) -> str:
    """The way a person takes, empty where it is as the reader takes it."""
    known = [way.code for way in choice.ways]
    if sent in known and sent != choice.chosen:
        return sent
    return choice.chosen if choice.chosen in found.taken else ""


def _page_with(
    request: HttpRequest, found: Import, reading: Reading, form: ImportForm
) -> HttpResponse:
    context = {**_context(found, reading), "form": form}
    return render(request, "pieces/import.html", context, status=422)


def _context(found: Import, reading: Reading) -> dict:
    bars = reading.chart.bars
    studied = study(Chart("", bars), style_of(found.owner_id))
    shown = [phrase for phrase in phrases(bars) if phrase.first < MOST_DRAWN]
    rows, drawings = edit_rows(studied, shown, CARD_LAYOUT, CARD_WIDTH)
    title = found.title or (found.instead.title if found.instead else reading.chart.title)
    instead = found.instead or _same_title(found, title)
    differs = compare_pages(instead.chart().bars, bars) if instead else ()
    return {
        "found": found,
        "reading": reading,
        "form": ImportForm(
            owner=found.owner,
            initial={
                "title": title,
                "grade": found.grade or (found.instead.grade if found.instead else None),
                "instead": found.instead,
            },
        ),
        "rows": rows,
        "drawings": drawings.values(),
        "not_drawn": max(0, len(bars) - (shown[-1].last + 1)),
        "drums": DRUMS,
        "whole": sum(bar.whole for bar in reading.report),
        **_doubtful(reading, studied),
        **_sounds(reading, studied),
        "other": instead,
        "differs": _drawn(differs, studied),
        "same_bars": len(bars) - sum(one.index is not None for one in differs),
    }


def _same_title(found: Import, title: str) -> Piece | None:
    mine = Piece.objects.filter(owner=found.owner, kind=Piece.Kind.PIECE)
    return mine.filter(title__iexact=title).first()


def _doubtful(reading: Reading, studied: Study) -> dict:
    """The bars in which something was guessed or left out, those with marked notes first."""
    places = {bar.number: index for index, bar in enumerate(reading.chart.bars)}
    rows = [row for row in reading.report if not row.whole]
    rows.sort(key=lambda row: not row.doubtful)
    drawn = rows[:MOST_DOUBTFUL]
    bars = [studied.bars[places[row.number]] for row in drawn]
    svgs = engrave_each(bars, CARD_LAYOUT, CARD_WIDTH, "doubt") if bars else []
    marked = [
        mark_notes(svg, {n for n, hit in enumerate(bar.bar.hits) if hit.at in row.doubtful})
        for svg, bar, row in zip(svgs, bars, drawn, strict=True)
    ]
    return {
        "of_file": _of_the_file(reading),
        "open_bars": [{"bar": row, "svg": svg} for row, svg in zip(drawn, marked, strict=True)],
        "more_open": rows[MOST_DOUBTFUL:],
        "is_guessed": any(source.guessed for source in reading.sources),
    }


def _of_the_file(reading: Reading) -> list[Problem]:
    """What is told of all of it; what is told of bars stands with them."""
    of_bars = {text for bar in reading.report for text in (*bar.guessed, *bar.left_out)}
    return [one for one in reading.problems if not one.text.startswith(tuple(of_bars))]


def _sounds(reading: Reading, studied: Study) -> dict:
    """The first bars as they are written, and the same stretch as the file has it."""
    first = next((n for n, bar in enumerate(reading.chart.bars) if bar.hits), 0)
    bars = studied.bars[first : first + BARS_HEARD]
    tempo = studied.tempos[first]
    written = sound_of_bars(bars, tempo)
    start = reading.heard[0].seconds if reading.heard else 0.0
    heard = [one for one in reading.heard if one.seconds - start < written["length"]]
    return {
        "written_sound": written,
        "file_sound": sound_of_file(heard, tempo.bpm) if heard else None,
    }


def _drawn(differs: Sequence[ComparedBar], studied: Study) -> list[dict]:
    shown = [one for one in differs if one.index is not None][:MOST_DOUBTFUL]
    bars = [studied.bars[one.index] for one in shown]
    svgs = engrave_each(bars, CARD_LAYOUT, CARD_WIDTH, "differs") if bars else []
    of = {
        one.index: mark_notes(svg, set(one.places))
        for one, svg in zip(shown, svgs, strict=True)
    }
    return [{"bar": one, "svg": of.get(one.index, "")} for one in differs[:MOST_TOLD]]
