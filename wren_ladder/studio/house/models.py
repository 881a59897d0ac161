"""The house: the teachers who work under one roof, each with a studio of their own."""

from datetime import datetime, timedelta
from uuid import uuid4

from django.conf import settings
from django.db import models

from wren_ladder.studio import prose

INVITED_FOR = timedelta(days=7)


class Member(models.Model):
    class Role(models.TextChoices):
        OWNER = "owner", "owner"
        TEACHER = "teacher", "teacher"

    user = models.OneToOneField(
        settings.AUTH_USER_MODEL, models.CASCADE, related_name="membership"
    )
    role = models.CharField(max_length=8, choices=Role, default=Role.TEACHER)
    since = models.DateField()
    left = models.DateField(null=True)  # then nobody sees what is theirs

    class Meta:
        ordering = ["role", "user__username"]

    def __str__(self) -> str:
        return f"{self.user}, {self.get_role_display()}"

    @property
    def is_owner(self) -> bool:
        return self.role == self.Role.OWNER


class Invitation(models.Model):
    """An address at which one teacher makes a log-in, once."""

    key = models.UUIDField(default=uuid4, unique=True)
    note = models.CharField("for whom", max_length=80, blank=True)
    made = models.DateTimeField()

    PROSE = {"note": prose.text}

    class Meta:
        ordering = ["-made"]

    def __str__(self) -> str:
        return self.note or "a teacher"

    @property
    def ends(self) -> datetime:
        return self.made + INVITED_FOR
