"""The glyphs of all drawings of a page, once: heads, rests and clefs are the same in each.

A drawing carries the glyphs that it refers to, so that it can stand anywhere: in a fragment, on
paper, in a file. On a whole page they are gathered in front of it.
"""

import re
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

STAFF = b'class="staff-svg"'
DEFS = re.compile(r'<defs>((?:<g id="[^"]*">(?:(?!</?g\b).)*</g>)+)</defs>', re.DOTALL)
GLYPH = re.compile(r'<g id="([^"]*?)(E[0-9A-F]{3})">(.*?)</g>', re.DOTALL)
USED = re.compile(r'href="#([^"]*?)(E[0-9A-F]{3})"')
BODY = re.compile(r"<body\b[^>]*>")
POOL = (
    '<svg class="glyphs" width="0" height="0" aria-hidden="true" focusable="false">'
    "<defs>{}</defs></svg>"
)


def with_glyphs_once(html: str) -> str:
    """The same page with each glyph in it once; a glyph whose outline differs from another of
    its name stays where it is."""
    body = BODY.search(html)
    if body is None:
        return html
    outlines: dict[str, str] = {}
    moved: set[str] = set()

    def gather(defs: re.Match) -> str:
        stays = []
        for whole in GLYPH.finditer(defs[1]):
            prefix, name, outline = whole.groups()
            if outlines.setdefault(name, outline) == outline:
                moved.add(prefix + name)
            else:
                stays.append(whole[0])
        return f"<defs>{''.join(stays)}</defs>" if stays else ""

    after = DEFS.sub(gather, html[body.end() :])
    after = USED.sub(
        lambda used: f'href="#{used[2]}"' if used[1] + used[2] in moved else used[0], after
    )
    pool = "".join(f'<g id="{name}">{outline}</g>' for name, outline in outlines.items())
    return f"{html[: body.end()]}{POOL.format(pool)}{after}"


class GlyphsOnceMiddleware:
    """For whole pages. A fragment, and a page that a script takes a part from, keeps its own:
    what it is put into may not have them."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        answer = self.get_response(request)
        if "HX-Request" in request.headers or answer.streaming or STAFF not in answer.content:
            return answer
        if answer.get("Content-Type", "").startswith("text/html"):
            answer.content = with_glyphs_once(answer.content.decode())
        return answer
