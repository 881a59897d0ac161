"""Paper: templates made into PDF, on the paper that was asked for."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.template.loader import render_to_string
from django.utils.html import format_html
from django.utils.safestring import SafeString, mark_safe
from django.utils.text import slugify

from wren_ladder.studio.pages.note_names import american_page, speaks_american

PAPERS = ("A4", "Letter")


def paper_of(request: HttpRequest) -> dict:
    """The paper chosen and those to choose from, for forms and templates."""
    asked = request.GET.get("paper")
    return {"paper": asked if asked in PAPERS else PAPERS[0], "papers": PAPERS}


def inside_drawing(name: str) -> SafeString:
    """A style sheet of ours as a <style> element, to stand inside a printed drawing."""
    css = (settings.STUDIO / "static/wren" / name).read_text()
    return format_html("<style>{}</style>", mark_safe(css))


def pdf(request: HttpRequest, template: str, context: dict, title: str) -> HttpResponse:
    """A page as PDF, named after its title, in the note names of the teacher who prints it."""
    import weasyprint  # heavy, and only printing needs it

    html = render_to_string(template, context)
    html = american_page(html) if speaks_american(request.user.pk) else html
    base = settings.STUDIO / "static"
    data = weasyprint.HTML(string=html, base_url=f"{base}/").write_pdf()
    name = slugify(title) or "piece"
    headers = {"Content-Disposition": f'inline; filename="{name}.pdf"'}
    return HttpResponse(data, content_type="application/pdf", headers=headers)
