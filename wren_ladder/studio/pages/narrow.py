"""Is the page for a narrow screen? Music is broken at the half of a bar there."""

from django.http import HttpRequest

COOKIE = "narrow"  # kept by store.js, from the first page on


def is_narrow(request: HttpRequest) -> bool:
    """By what the page before measured; by the name of the browser before there was one."""
    kept = request.COOKIES.get(COOKIE)
    return "Mobi" in request.headers.get("user-agent", "") if kept is None else kept == "1"
