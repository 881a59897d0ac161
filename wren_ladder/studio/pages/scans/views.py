"""A piece copied from its printed pages: pages in, bar by bar, looked over, kept."""

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe
from django_htmx.http import HttpResponseClientRedirect

from wren_ladder.drumming.chart import Chart, ChartError
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.page_reading.copied import State, following, whole_text
from wren_ladder.studio.changes.scans import (
    add_scan,
    change_bars,
    keep_scan,
    read_next,
    set_key,
    undo_bars,
)
from wren_ladder.studio.pages.pieces.wall_page import MOST_TEXT, read_text
from wren_ladder.studio.pages.requests import owned_or_404, posted
from wren_ladder.studio.pages.scans.copy_page import (
    chart_with,
    copy_context,
    drawn,
    key_context,
    look_context,
    printed_lines,
)
from wren_ladder.studio.pages.scans.forms import PagesForm
from wren_ladder.studio.pages.scans.proposals import (
    heads_asked,
    is_known,
    read_key,
    read_of,
    surely,
)
from wren_ladder.studio.pages.sent_once import sent_once
from wren_ladder.studio.scans.models import Scan

MOST_BAR = 2000  # characters typed for one bar


@require_http_methods(["GET", "POST"])
def scan_new(request):
    form = PagesForm(posted(request), request.FILES or None)
    if form.is_valid():
        return _taken_in(request, form.opened)
    status = 422 if form.is_bound else 200
    return render(request, "scans/new.html", {"form": form}, status=status)


@sent_once
def _taken_in(request: HttpRequest, opened: list[tuple[str, bytes]]) -> HttpResponse:
    """Opening takes seconds; the database is held only now."""
    return redirect(add_scan(request.user, opened, timezone.localdate()))


@require_safe
def scan(request, pk):
    """The stand with one bar: the one asked for, else the next that nothing is known of."""
    found = owned_or_404(Scan, request.user, pk)
    if found.pages.filter(picture=None).exists():
        return render(request, "scans/reading.html", _progress(found))
    if not found.bars:
        return redirect("scan-page", pk, 1)
    if not found.key and heads_asked(found):
        return redirect("scan-key", pk)
    asked = read_whole(request.GET.get("bar"), 0, len(found.bars) - 1)
    place = following(found.copied(), -1) if asked is None else asked
    if place is None:
        return redirect("scan-look", pk)
    second = request.GET.get("reading") == "2"
    return render(request, "scans/copy.html", copy_context(found, place, second=second))


@require_http_methods(["GET", "POST"])
def scan_key(request, pk):
    """Which drum stands where, asked once for the piece."""
    found = owned_or_404(Scan, request.user, pk)
    rows = heads_asked(found)
    error = None
    if request.method == "POST":
        try:
            set_key(found, read_key(request.POST.getlist("drum"), rows), timezone.localdate())
            return redirect("scan-look", pk)
        except ChartError as caught:
            error = caught
    context = key_context(found, rows, error)
    return render(request, "scans/key.html", context, status=422 if error else 200)


@require_POST
def scan_read(request, pk):
    """One page more is read; the answer asks for the next one, or leads to the bars."""
    found = owned_or_404(Scan, request.user, pk)
    try:
        more = read_next(found)
    except ChartError as error:
        context = _progress(found) | {"error": error}
        return render(request, "scans/_reading.html", context, status=200)
    if more:
        return render(request, "scans/_reading.html", _progress(found))
    return HttpResponseClientRedirect(found.get_absolute_url())


def _progress(found: Scan) -> dict:
    read = found.pages.exclude(picture=None).count()
    return {"scan": found, "read": read, "all": found.pages.count()}


@require_POST
def scan_bar(request, pk, place):
    """A bar called right as it is typed, put off, or the last of these taken back."""
    found = _with_bar(request, pk, place)
    text = request.POST.get("text", "").replace("\r\n", "\n")[:MOST_BAR]
    op, today = request.POST.get("op", ""), timezone.localdate()
    if op == "undo":
        back = undo_bars(found)
        return _stand(request, found, place if back is None else back)
    if op == "right":
        try:
            chart_with(found, place, text)
        except ChartError as error:
            context = copy_context(found, place, text, error)
            return render(request, "scans/_copy.html", context)
        change_bars(found, {place: {"text": text, "state": State.RIGHT.value}}, today)
    elif op == "later":
        change_bars(found, {place: {"text": text, "state": State.LATER.value}}, today)
    return _stand(request, found, following(found.copied(), place))


def _stand(request: HttpRequest, found: Scan, place: int | None) -> HttpResponse:
    if place is None:
        return HttpResponseClientRedirect(reverse("scan-look", args=[found.pk]))
    return render(request, "scans/_copy.html", copy_context(found, place))


@require_POST
def scan_draw(request, pk, place):
    """What is typed for a bar, drawn as it would be; nothing is kept."""
    found = _with_bar(request, pk, place)
    text = request.POST.get("text", "")[:MOST_BAR]
    return render(request, "scans/_drawn.html", drawn(found, place, text))


def _with_bar(request: HttpRequest, pk: int, place: int) -> Scan:
    found = owned_or_404(Scan, request.user, pk)
    if place >= len(found.bars):
        raise Http404("no such bar")
    return found


@require_http_methods(["GET", "POST"])
def scan_look(request, pk):
    """Line under line: the picture, and what was copied of it; a line is right at once."""
    found = owned_or_404(Scan, request.user, pk)
    if request.method == "POST" and "undo" in request.POST:
        undo_bars(found)
    elif request.method == "POST":
        lines = printed_lines(found)
        number = read_whole(request.POST.get("line"), 0, len(lines) - 1)
        places = [bar.place for bar in lines[number].bars] if number is not None else []
        copied, read = found.copied(), surely(read_of(found))
        if places and all(is_known(copied, read, place) for place in places):
            right = {
                place: {"text": read.get(place, copied[place].text), "state": State.RIGHT.value}
                for place in places
            }
            change_bars(found, right, timezone.localdate())
    name = "scans/_look.html" if request.htmx else "scans/look.html"
    return render(request, name, look_context(found))


@require_POST
@sent_once
def scan_keep(request, pk):
    """What is copied becomes a piece; bars that nobody typed are rests, and are told of."""
    found = owned_or_404(Scan, request.user, pk)
    title = request.POST.get("title", "").strip()[:120] or found.title
    found.title = title
    text = whole_text(found.copied())
    try:
        chart = read_text(text) if len(text) <= MOST_TEXT else None
        if chart is None or not found.bars:
            raise ChartError("there are no bars to keep yet")
    except ChartError as error:
        return render(request, "scans/look.html", look_context(found, error), status=422)
    if not title:
        error = ChartError("give the piece its title")
        return render(request, "scans/look.html", look_context(found, error), status=422)
    piece = keep_scan(found, Chart(title, chart.bars), timezone.localdate())
    messages.success(request, f"{len(chart.bars)} bars copied from the page.")
    return redirect(piece)


@require_http_methods(["GET", "POST"])
def scan_discard(request, pk):
    """The pages thrown away for good; what is not kept as a piece goes with them."""
    found = owned_or_404(Scan, request.user, pk)
    back = found.piece or reverse("pieces")
    if request.method == "POST":
        found.delete()
        messages.success(request, "The pictures of the printed page are gone.")
        return redirect(back)
    what = "the pictures of the printed page"
    context = {
        "verb": "Throw away", "also": "This throws away", "what": what,
        "lost": "what was copied from them and is not kept as a piece",
        "for_good": True, "back": found.get_absolute_url(),
    }  # fmt: skip
    return render(request, "_delete.html", context)
