"""Forms that make something carry a key: what arrives twice is done once."""

from collections.abc import Callable
from datetime import timedelta
from functools import wraps
from uuid import UUID

from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.utils import timezone

from wren_ladder.studio.accounts.models import SentForm
from wren_ladder.studio.pages.requests import read_key

KEPT = timedelta(days=2)  # a press that arrives later is one from another day


def sent_once(view: Callable[..., HttpResponse]) -> Callable[..., HttpResponse]:
    """The view answers a second arrival of a form with the page the first one led to.

    Two that arrive together wait for each other, so the second sees what the first did:
    a race ends in a message of the form, not in an error of the database.
    """

    @wraps(view)
    def once(request: HttpRequest, *args, **kwargs) -> HttpResponse:
        if request.method != "POST":
            return view(request, *args, **kwargs)
        with transaction.atomic():
            key = key_of(request)
            done = SentForm.objects.filter(key=key).first() if key else None
            if done:
                return redirect(done.led_to)
            answer = view(request, *args, **kwargs)
            if key and answer.status_code == 302:
                _keep(key, answer.url)
            return answer

    return once


def key_of(request: HttpRequest) -> UUID | None:
    """The key of the form that was sent, None where it has none."""
    return read_key(request.POST.get("form_key"))


def _keep(key: UUID, led_to: str) -> None:
    SentForm.objects.filter(at__lt=timezone.now() - KEPT).delete()
    SentForm.objects.create(key=key, led_to=led_to)
