"""Paper: templates made into PDF, on the paper that was asked for."""

import hashlib

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.template.loader import render_to_string
from django.utils.html import format_html
from django.utils.safestring import SafeString, mark_safe
from django.utils.text import slugify

from wren_ladder.studio.kept_on_disk import keep, read, version_of
from wren_ladder.studio.paper.pdf import pdf_of

PAPERS = ("A4", "Letter")


def paper_of(request: HttpRequest) -> dict:
    """The paper chosen and those to choose from, for forms and templates."""
    asked = request.GET.get("paper")
    return {"paper": asked if asked in PAPERS else PAPERS[0], "papers": PAPERS}


def inside_drawing(name: str) -> SafeString:
    """A style sheet of ours as a <style> element, to stand inside a printed drawing."""
    css = (settings.STUDIO / "static/wren" / name).read_text()
    return format_html("<style>{}</style>", mark_safe(css))


def _printed(html: str) -> bytes:
    """Kept for a week by what is on it, and by what it is set with."""
    styles = settings.STUDIO / "static"
    set_by = version_of(settings.STUDIO / "paper", styles / "wren")
    key = hashlib.sha256(f"{set_by} {html}".encode()).hexdigest()
    printed = read("prints", [key]).get(key)
    if printed is None:
        printed = pdf_of(html, styles)
        keep("prints", {key: printed})
    return printed


def pdf(request: HttpRequest, template: str, context: dict, title: str) -> HttpResponse:
    """A page as PDF, named after its title."""
    data = _printed(render_to_string(template, context))
    name = slugify(title) or "piece"
    headers = {"Content-Disposition": f'inline; filename="{name}.pdf"'}
    return HttpResponse(data, content_type="application/pdf", headers=headers)
