"""From which machine a request comes: behind proxies that is not the one that is connected.

Each proxy adds the address that it heard to the end of X-Forwarded-For; what stands before the
additions of the trusted ones (``settings.PROXIES``) anybody may have written.
"""

from collections.abc import Callable
from ipaddress import ip_address

from django.conf import settings
from django.http import HttpRequest, HttpResponse


class ClientAddressMiddleware:
    """Puts the client's address where locks, limits and the journal look for it."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        told = forwarded_for(request, settings.PROXIES)
        if told:
            request.META["REMOTE_ADDR"] = told
        return self.get_response(request)


def forwarded_for(request: HttpRequest, proxies: int) -> str:
    """The address that the outermost trusted proxy heard; "" where there is none, or no
    address."""
    heard = [one.strip() for one in request.headers.get("X-Forwarded-For", "").split(",")]
    if not proxies or len(heard) < proxies:
        return ""
    try:
        return str(ip_address(heard[-proxies]))
    except ValueError:
        return ""
