"""Forms that make something carry a key: what arrives twice is done once.

"Twice" is the same content under the same key: a form that went back and was changed is another
act.
"""

import json
from collections.abc import Callable
from datetime import timedelta
from functools import wraps
from hashlib import sha256
from uuid import UUID, uuid5

from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.utils import timezone

from wren_ladder.studio.accounts.models import SentForm
from wren_ladder.studio.pages.requests import read_key

NOT_CONTENT = ("form_key", "csrfmiddlewaretoken")
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
    """What was sent, known again: the page's own key and the content under it. None where the
    form has no key."""
    key = read_key(request.POST.get("form_key"))
    return uuid5(key, _content_of(request)) if key else None


def _content_of(request: HttpRequest) -> str:
    fields = sorted(
        (name, values) for name, values in request.POST.lists() if name not in NOT_CONTENT
    )
    files = [
        (name, file.name, sha256(file.read()).hexdigest())
        for name, sent in sorted(request.FILES.lists())
        for file in sent
    ]
    for sent in request.FILES.values():
        sent.seek(0)
    return json.dumps([request.path, fields, files])


def _keep(key: UUID, led_to: str) -> None:
    SentForm.objects.filter(at__lt=timezone.now() - KEPT).delete()
    SentForm.objects.create(key=key, led_to=led_to)
