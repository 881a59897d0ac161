"""A log-in that nobody uses ends: a tablet that was left somewhere opens nothing."""

from collections.abc import Callable
from time import time

from django.conf import settings
from django.contrib import messages
from django.contrib.auth import logout
from django.http import HttpRequest, HttpResponse

from wren_ladder.studio.accounts.log_ins import SEEN

EVERY = 300  # seconds; not every page that is opened need be a write


class IdleMiddleware:
    """Logs out who has opened nothing for ``settings.IDLE_HOURS``."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if request.user.is_authenticated:
            now = int(time())
            seen = request.session.get(SEEN, now)
            if now - seen > settings.IDLE_HOURS * 3600:
                logout(request)
                hours = f"{settings.IDLE_HOURS} hours"
                messages.info(request, f"You were logged out: nothing was opened for {hours}.")
            elif SEEN not in request.session or abs(now - seen) > EVERY:
                request.session[SEEN] = now
        return self.get_response(request)
