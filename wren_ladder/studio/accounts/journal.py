"""Log-ins in the studio's log: who, from where, what was refused. A name that is nobody's is
not written, for it may be a password in the wrong field."""

import logging

from django.contrib.auth.models import User
from django.contrib.auth.signals import user_logged_in, user_logged_out, user_login_failed
from django.dispatch import receiver
from django.http import HttpRequest

log = logging.getLogger("wren.log_ins")


@receiver(user_logged_in)
def logged_in(request: HttpRequest, user: User, **_) -> None:
    log.info("%s logged in from %s", user, _where(request))


@receiver(user_logged_out)
def logged_out(request: HttpRequest, user: User | None, **_) -> None:
    if user:
        log.info("%s logged out at %s", user, _where(request))


@receiver(user_login_failed)
def refused(credentials: dict, request: HttpRequest | None = None, **_) -> None:
    known = User.objects.filter(username=credentials.get("username", "")).first()
    log.info("a log-in of %s was refused at %s", known or "nobody known", _where(request))


def _where(request: HttpRequest | None) -> str:
    return request.META.get("REMOTE_ADDR", "?") if request else "?"
