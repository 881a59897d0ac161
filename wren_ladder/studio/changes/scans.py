"""Printed pages: taken in, read, corrected by hand, copied bar by bar, kept as a piece."""

from collections.abc import Sequence
from datetime import date

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from wren_ladder.drumming.chart import Chart
from wren_ladder.drumming.page_reading.copied import State, typed_signs, unseen, whole_text
from wren_ladder.drumming.page_reading.found import SPACE
from wren_ladder.studio.changes.pieces import add_piece
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.scans.models import MOST_UNDONE, Scan, ScanPage
from wren_ladder.studio.scans.reading import compare_bars, read_page

SAME_LINE = 4 * SPACE  # pixels by which a line may have moved
FRESH = {"text": "", "state": State.OPEN.value}


@transaction.atomic
def add_scan(
    owner: AbstractBaseUser, pages: Sequence[tuple[str, bytes]], today: date, **fields
) -> Scan:
    """New pages, as (name, grey JPEG) each; they are read one by one afterwards."""
    scan = Scan(owner=owner, **fields)
    scan.keep_from(today)
    scan.save()
    add_pages(scan, pages)
    return scan


def add_pages(scan: Scan, pages: Sequence[tuple[str, bytes]]) -> None:
    last = scan.pages.order_by("-position").values_list("position", flat=True).first()
    first = 0 if last is None else last + 1
    for position, (name, original) in enumerate(pages, first):
        ScanPage.objects.create(
            scan=scan, position=position, name=name[:200], original=original
        )


def read_next(scan: Scan) -> bool:
    """Read one page that is not read yet, and compare all bars once none is left; True while
    something is left."""
    page = scan.pages.filter(picture=None).first()
    if page is None:
        return False
    read_again(page, page.corners)
    if scan.pages.filter(picture=None).exists():
        return True
    compare(scan)
    return False


def read_again(page: ScanPage, corners: Sequence) -> None:
    """A page cut out by these corners, sought where none are given."""
    found = read_page(bytes(page.original), corners)
    for name, value in found.items():
        setattr(page, name, value)
    page.version += 1
    page.save()


def set_lines(page: ScanPage, lines: list[dict]) -> None:
    """The lines and bars that a person drew; what was typed stays with the bars that stay."""
    page.lines = lines
    others = page.scan.pages.exclude(picture=None).exclude(pk=page.pk)
    pages = sorted([*others, page], key=lambda one: one.position)
    rows = _rows(page.scan, pages)
    with transaction.atomic():
        page.save(update_fields=["lines"])
        _set_rows(page.scan, rows)


def take_page(page: ScanPage) -> None:
    """One page out; what was typed for bars of the others stays."""
    scan = page.scan
    rows = _rows(scan, list(scan.pages.exclude(picture=None).exclude(pk=page.pk)))
    with transaction.atomic():
        page.delete()
        for position, other in enumerate(scan.pages.only("pk")):
            ScanPage.objects.filter(pk=other.pk).update(position=position)
        _set_rows(scan, rows)


def compare(scan: Scan) -> None:
    """Find anew which bars are alike, and carry on what was typed for those of before."""
    _set_rows(scan, _rows(scan, list(scan.pages.exclude(picture=None))))


def _rows(scan: Scan, pages: Sequence[ScanPage]) -> list[dict]:
    """A row for each printed bar of these pages. It takes seconds, so that nobody else may be
    waiting for the database meanwhile."""
    found = compare_bars([(bytes(page.picture), page.lines) for page in pages])
    boxes = [
        [page.pk, (line["top"] + line["bottom"]) // 2, bar["left"], bar["right"]]
        for page in pages
        for line in page.lines
        for bar in line["bars"]
    ]
    lines = [line for page in pages for line in page.found_lines()]
    signs = typed_signs([bar for line in lines for bar in line.bars])
    return [
        {**row, "box": box, "signs": [*said, *row["signs"]], **_carried(box, scan.bars)}
        for row, box, said in zip(found, boxes, signs, strict=True)
    ]


def _set_rows(scan: Scan, rows: list[dict]) -> None:
    scan.bars = rows
    scan.before = []  # places are others now
    scan.save()


def _carried(box: list[int], rows: Sequence[dict]) -> dict:
    """What was typed where most of this box was."""
    page, middle, left, right = box
    best, most = FRESH, (right - left) / 2
    for row in rows:
        its_page, its_middle, its_left, its_right = row["box"]
        shared = min(right, its_right) - max(left, its_left)
        if its_page == page and abs(its_middle - middle) < SAME_LINE and shared > most:
            best, most = {"text": row["text"], "state": row["state"]}, shared
    return dict(best)


@transaction.atomic
def set_key(scan: Scan, key: dict[str, str], today: date) -> None:
    """Which drum stands on which row with which head, as a person says."""
    scan.key = key
    scan.keep_from(today)
    scan.save()


@transaction.atomic
def change_bars(scan: Scan, changed: dict[int, dict], today: date) -> None:
    """Text or state of some bars; what they were can be brought back."""
    before = [[place, scan.bars[place]] for place in changed]
    scan.bars = [row | changed.get(place, {}) for place, row in enumerate(scan.bars)]
    scan.before = [*scan.before, before][-MOST_UNDONE:]
    scan.keep_from(today)
    scan.save()


@transaction.atomic
def undo_bars(scan: Scan) -> int | None:
    """The last change taken back; the place of its first bar, None where there was none."""
    if not scan.before:
        return None
    *scan.before, last = scan.before
    for place, row in last:
        scan.bars[place] = row
    scan.save()
    return last[0][0]


@transaction.atomic
def keep_scan(scan: Scan, chart: Chart, today: date) -> Piece:
    """What is copied as a piece; the pages stay for some days, to look something up."""
    bars = scan.copied()
    left = len(unseen(bars))
    report = [f"{left} printed bars were not called right by anybody"] if left else []
    piece = add_piece(
        scan.owner, chart, grade=scan.grade, import_report=report, typed=whole_text(bars)
    )
    scan.piece = piece
    scan.keep_from(today, finished=True)
    scan.save()
    return piece
