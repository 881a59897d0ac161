"""HTML made into PDF: text and tables by WeasyPrint, staves by Typst, joined by pikepdf."""

import base64
from collections.abc import Sequence
from io import BytesIO
from pathlib import Path

from wren_ladder.studio.paper.staves import STAVES, Staff, staff_of, staff_pages

POINTS = 0.75  # of a pixel of CSS
NAME = "staff-"


def load() -> None:
    """What the first print of a process would wait for: the typesetters, their fonts."""
    staff = '<svg class="staff-svg" viewBox="0 0 2 1" xmlns="http://www.w3.org/2000/svg"></svg>'
    pdf_of(f"<p>a <b>staff</b></p>{staff}", Path(__file__).parent.parent / "static")


def pdf_of(html: str, styles: Path) -> bytes:
    """The pages of ``html``, whose style sheets lie in the folder ``styles``."""
    import weasyprint  # heavy, and only printing needs it

    staves = [staff_of(svg) for svg in STAVES.findall(html)]
    numbers = iter(range(len(staves)))
    html = STAVES.sub(lambda _: _place(next(numbers), staves), html)
    document = weasyprint.HTML(string=html, base_url=f"{styles}/").render()
    data = document.write_pdf()
    return _with_staves(data, document.pages, staves) if staves else data


def _place(number: int, staves: Sequence[Staff]) -> str:
    """A picture with nothing in it, as large as the staff that will stand there."""
    data = base64.b64encode(staves[number].empty.encode()).decode()
    source = f"data:image/svg+xml;base64,{data}"
    return f'<img class="staff-svg" id="{NAME}{number}" alt="" src="{source}">'


def _with_staves(data: bytes, pages, staves: Sequence[Staff]) -> bytes:
    import pikepdf

    with (
        pikepdf.open(BytesIO(data)) as whole,
        pikepdf.open(BytesIO(staff_pages(staves))) as drawn,
    ):
        for page, laid_out in zip(whole.pages, pages, strict=True):
            for name, (left, top, right, bottom) in laid_out.anchors.items():
                if not name.startswith(NAME):
                    continue
                high = laid_out.height  # a PDF counts from below
                place = (left, high - bottom, right, high - top)
                at = pikepdf.Rectangle(*(POINTS * edge for edge in place))
                page.add_overlay(drawn.pages[int(name.removeprefix(NAME))], at)
        made = BytesIO()
        whole.save(made, object_stream_mode=pikepdf.ObjectStreamMode.generate)
    return made.getvalue()
