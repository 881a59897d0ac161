"""A printed page by hand: its sheet, its lines and bars, pages added and taken out."""

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.chart.chart import MOST_BARS
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.page_reading.found import MOST_PAGES
from wren_ladder.studio.changes.scans import (
    add_pages,
    compare,
    read_again,
    set_lines,
    take_page,
)
from wren_ladder.studio.pages.requests import owned_or_404
from wren_ladder.studio.pages.scans.copy_page import beside_context, jpg_of
from wren_ladder.studio.pages.scans.drawn_lines import read_corners, read_lines
from wren_ladder.studio.pages.scans.forms import PagesForm
from wren_ladder.studio.scans.models import Scan, ScanPage

KEPT = "private, max-age=3600"  # its address has a version


def _page(request: HttpRequest, pk: int, number: int) -> ScanPage:
    scan = owned_or_404(Scan, request.user, pk)
    page = scan.pages.filter(position=number - 1).first()
    if page is None:
        raise Http404("no such page")
    return page


@require_safe
def scan_page(request, pk, number):
    """The whole page, with its bars to be moved, parted, joined and added."""
    page = _page(request, pk, number)
    if not page.is_read:
        return redirect("scan", pk)
    sheet = request.GET.get("show") == "sheet"
    return render(request, "scans/page.html", _context(page, sheet))


def _context(page: ScanPage, sheet: bool, **more) -> dict:
    return {
        "scan": page.scan,
        "page": page,
        "pages": page.scan.pages.defer("original", "picture"),
        "sheet": sheet,
        "src": jpg_of(page.scan, page, "came" if sheet else "straight"),
        "data": {"lines": page.lines, "corners": page.corners},
        "form": PagesForm(),
        **more,
    }


@require_POST
def scan_lines(request, pk, number):
    """Lines and bars as a person drew them."""
    page = _page(request, pk, number)
    try:
        lines = read_lines(request.POST.get("lines", ""), page.width, page.height)
        set_lines(page, lines)
    except (ValueError, ChartError) as error:
        context = _context(page, False, error=str(error))
        return render(request, "scans/page.html", context, status=422)
    messages.success(request, f"Kept: {sum(len(line['bars']) for line in lines)} bars here.")
    return redirect("scan", pk)


@require_POST
def scan_sheet(request, pk, number):
    """The sheet cut out anew by its corners, and read again."""
    page = _page(request, pk, number)
    try:
        corners = read_corners(request.POST.get("corners", ""))
        read_again(page, corners)
        compare(page.scan)
    except (ValueError, ChartError) as error:
        context = _context(page, True, error=str(error))
        return render(request, "scans/page.html", context, status=422)
    return redirect("scan-page", pk, number)


@require_POST
def scan_add(request, pk):
    scan = owned_or_404(Scan, request.user, pk)
    form = PagesForm(request.POST, request.FILES)
    if form.is_valid() and scan.pages.count() + len(form.opened) <= MOST_PAGES:
        add_pages(scan, form.opened)
        scan.keep_from(timezone.localdate())
        scan.save()
        return redirect(scan)
    page = scan.pages.first()
    if page is None:
        raise Http404("no page")
    full = "" if not form.is_valid() else f"One piece has at most {MOST_PAGES} pages."
    context = _context(page, False, form=form, error=full)
    return render(request, "scans/page.html", context, status=422)


@require_POST
def scan_take(request, pk, number):
    """One page out; what was typed for bars of the others stays."""
    page = _page(request, pk, number)
    if page.scan.pages.count() == 1:
        return redirect("scan-discard", pk)
    take_page(page)
    messages.success(request, "The page is out.")
    return redirect("scan-page", pk, 1)


@require_safe
def scan_beside(request, pk):
    """The line of a bar, shown beside what is typed in the editor."""
    found = owned_or_404(Scan, request.user, pk)
    index = read_whole(request.GET.get("bar"), 0, MOST_BARS)
    return render(request, "scans/_beside.html", beside_context(found, index))


@require_safe
def scan_jpg(request, pk, number, which):
    """A page's picture to its owner: as it came, or straight."""
    page = _page(request, pk, number)
    data = {"came": page.original, "straight": page.picture}.get(which)
    if data is None:
        raise Http404("no such picture")
    return HttpResponse(bytes(data), content_type="image/jpeg", headers={"Cache-Control": KEPT})
