"""Printed pages in a studio file, where they are asked for: their pictures as base64, and how
far the piece on them is copied."""

import base64
import binascii
from collections.abc import Iterator, Mapping
from datetime import date

from django.contrib.auth.models import AbstractBaseUser

from wren_ladder.studio.exchange.rows import row_lines
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.scans.models import Scan, ScanPage

PRINTED = "printed"  # its name in the file
MOST_BYTES = 8 << 20  # of one picture
JPEG = b"\xff\xd8\xff"
OF_SCAN = {"title": str, "bars": list, "key": dict, "until": str, "pages": list}
OF_PAGE = {"name": str, "original": str, "corners": list, "lines": list}


def printed_lines(teacher: AbstractBaseUser) -> Iterator[str]:
    """A line for each piece that is copied from its pages."""
    return row_lines(map(_row, Scan.objects.filter(owner=teacher).order_by("pk")))


def _row(scan: Scan) -> dict:
    pages = list(scan.pages.all())
    places = {page.pk: place for place, page in enumerate(pages)}
    return {
        "piece": scan.piece_id,
        "title": scan.title,
        "grade": scan.grade,
        "key": scan.key,
        "until": scan.until,
        # A box begins with its page, which has another number elsewhere.
        "bars": [row | {"box": [places[row["box"][0]], *row["box"][1:]]} for row in scan.bars],
        "pages": [
            {
                "name": page.name,
                "original": _text(page.original),
                "picture": page.picture and _text(page.picture),
                "width": page.width,
                "height": page.height,
                "corners": page.corners,
                "lines": page.lines,
            }
            for page in pages
        ],
    }


def take_printed(row: dict, pieces: Mapping[int, Piece], teacher: AbstractBaseUser) -> None:
    """One row of a file as it was; ValueError says what is wrong with it."""
    _check(row, OF_SCAN)
    piece = row.get("piece")
    if piece is not None and piece not in pieces:
        raise ValueError(f"there is no piece {piece}")
    scan = Scan(
        owner=teacher,
        piece=pieces.get(piece),
        title=row["title"][:120],
        grade=_grade(row.get("grade")),
        key=row["key"],
        until=date.fromisoformat(row["until"]),
    )
    scan.save()
    pages = [_page(scan, position, one) for position, one in enumerate(row["pages"])]
    scan.bars = [_bar(one, len(row["bars"]), pages) for one in row["bars"]]
    found = sum(len(line.bars) for page in pages for line in page.found_lines())
    if found != len(scan.bars):
        raise ValueError(f"its lines have {found} bars, and {len(scan.bars)} are copied")
    _read_through(scan)
    scan.save()


def _read_through(scan: Scan) -> None:
    """ValueError where what is copied or was read is none."""
    try:
        scan.copied()
        scan.reads()
    except (AttributeError, KeyError, TypeError) as error:
        raise ValueError(f"a bar of it can't be read: {error!r}") from error


def _page(scan: Scan, position: int, row: object) -> ScanPage:
    _check(row, OF_PAGE)
    picture = row.get("picture")
    return ScanPage.objects.create(
        scan=scan,
        position=position,
        name=row["name"][:200],
        original=_picture(row["original"]),
        picture=None if picture is None else _picture(picture),
        width=max(0, int(row["width"])),
        height=max(0, int(row["height"])),
        corners=row["corners"],
        lines=row["lines"],
    )


def _bar(row: object, bars: int, pages: list[ScanPage]) -> dict:
    """A row of bars with its own page's number; what it points to is there."""
    _check(row, {"kind": int, "text": str, "state": str, "signs": list, "box": list})
    page, *box = row["box"]
    pointed = [row["kind"], row["kind"] if row["near"] is None else row["near"]]
    if not all(0 <= one < bars for one in pointed) or not 0 <= page < len(pages):
        raise ValueError("a bar of it points to what is not there")
    return row | {"box": [pages[page].pk, *box]}


def _check(row: object, fields: Mapping[str, type]) -> None:
    if not isinstance(row, dict) or any(
        not isinstance(row.get(name), kind) for name, kind in fields.items()
    ):
        raise ValueError(f"it has no {', '.join(fields)} of the right kinds")


def _grade(grade: object) -> int | None:
    if grade is not None and grade not in range(1, 9):
        raise ValueError(f"grade {grade!r}: it is 1 to 8")
    return grade


def _text(picture: bytes) -> str:
    return base64.b64encode(bytes(picture)).decode()


def _picture(text: object) -> bytes:
    try:
        picture = base64.b64decode(text, validate=True)
    except binascii.Error as error:
        raise ValueError("its picture is no base64") from error
    if not picture.startswith(JPEG) or len(picture) > MOST_BYTES:
        raise ValueError("its picture is no JPEG, or too large")
    return picture
