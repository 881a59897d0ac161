"""Where a teacher is logged in, and ending it there."""

from time import time

from django.contrib.auth import SESSION_KEY
from django.contrib.auth.models import User
from django.contrib.auth.signals import user_logged_in
from django.contrib.sessions.models import Session
from django.dispatch import receiver
from django.utils import timezone

SEEN = "seen"  # in the session: when it was used last, in seconds since 1970


@receiver(user_logged_in)
def begin(request, **_) -> None:
    """A log-in begins as one that is used."""
    request.session[SEEN] = int(time())


def elsewhere(user: User, here: str | None) -> list[Session]:
    """The log-ins of a teacher in other browsers than the one of the session ``here``."""
    running = Session.objects.filter(expire_date__gte=timezone.now()).exclude(session_key=here)
    return [one for one in running if one.get_decoded().get(SESSION_KEY) == str(user.pk)]


def end_elsewhere(user: User, here: str | None) -> int:
    """How many were ended."""
    keys = [one.pk for one in elsewhere(user, here)]
    Session.objects.filter(pk__in=keys).delete()
    return len(keys)
