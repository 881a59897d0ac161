"""What ends by itself: nothing waits here for ever that nobody asked to keep."""

from collections.abc import Callable
from datetime import datetime, timedelta

from axes.models import AccessAttempt, AccessFailureLog, AccessLog
from django.contrib.sessions.models import Session
from django.db import models, transaction
from django.utils import timezone

from wren_ladder.studio.accounts.models import SentForm
from wren_ladder.studio.bin.models import KEPT, Binned
from wren_ladder.studio.climb.models import TakenBack
from wren_ladder.studio.pieces.models import Draft, Import
from wren_ladder.studio.scans.models import Scan

IMPORTS_KEPT = timedelta(days=30)
DRAFTS_KEPT = timedelta(days=180)
LOCK_OUTS_KEPT = timedelta(days=30)
SENT_FORMS_KEPT = timedelta(days=7)
TAKEN_BACK_KEPT = timedelta(days=40)  # longer than a page may wait to send


def ended(now: datetime) -> list[models.QuerySet]:
    """The rows whose time is over. Days are those of the studio's own place."""
    today = timezone.localtime(now).date()
    return [
        Import.objects.filter(changed__lt=now - IMPORTS_KEPT),
        Draft.objects.filter(changed__lt=now - DRAFTS_KEPT),
        Scan.objects.filter(until__lt=today),
        Binned.objects.filter(day__lt=today - KEPT),
        Session.objects.filter(expire_date__lt=now),
        TakenBack.objects.filter(at__lt=now - TAKEN_BACK_KEPT),
        SentForm.objects.filter(at__lt=now - SENT_FORMS_KEPT),
        *(
            model.objects.filter(attempt_time__lt=now - LOCK_OUTS_KEPT)
            for model in (AccessAttempt, AccessFailureLog, AccessLog)
        ),
    ]


def expire(now: datetime) -> int:
    """How many rows were let go. Asked first: looking takes no lock."""
    gone = 0
    for rows in ended(now):
        if rows.exists():
            with transaction.atomic():
                gone += rows.delete()[0]
    return gone


class OnceADay:
    """Runs something at the first call of each day of this process."""

    def __init__(self, work: Callable[[datetime], object]) -> None:
        self.work, self.last = work, None

    def __call__(self, now: datetime) -> None:
        if self.last != now.date():
            self.last = now.date()
            self.work(now)


expire_once_a_day = OnceADay(expire)
