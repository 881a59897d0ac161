"""What was deleted, kept for a while: its rows, so that it can be put back as it was."""

from datetime import date, timedelta

from django.conf import settings
from django.db import models

KEPT = timedelta(days=30)


class Binned(models.Model):
    """One thing that was deleted, with everything that hung on it."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="binned")
    kind = models.CharField(max_length=60)  # the model, as "students.student"
    what = models.CharField(max_length=200)
    lost = models.CharField(max_length=400, blank=True)
    day = models.DateField()
    rows = models.JSONField()  # as Django's serializer writes them

    class Meta:
        ordering = ["-day", "-pk"]

    def __str__(self) -> str:
        return self.what

    @property
    def gone_on(self) -> date:
        return self.day + KEPT
