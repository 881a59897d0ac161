"""A code from the teacher's phone beside the password, for those who turn it on.

Time-based codes (RFC 6238) and single recovery codes, both kept and checked by django-otp,
which also slows down guessing.
"""

import math

from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone
from django_otp import devices_for_user, match_token
from django_otp.plugins.otp_static.models import StaticDevice, StaticToken
from django_otp.plugins.otp_totp.models import TOTPDevice

RECOVERY_CODES = 8


def is_on(user: User) -> bool:
    return TOTPDevice.objects.filter(user=user, confirmed=True).exists()


def is_right(user: User, code: str) -> bool:
    return match_token(user, "".join(code.split())) is not None


def seconds_to_wait(user: User) -> int:
    """How long no code is looked at, after wrong ones; 0 where one may be tried now."""
    now, wait = timezone.now(), 0
    for device in devices_for_user(user):
        allowed, why = device.verify_is_allowed()
        if not allowed and why and why.get("locked_until"):
            wait = max(wait, math.ceil((why["locked_until"] - now).total_seconds()))
    return max(0, wait)


@transaction.atomic
def begin(user: User) -> TOTPDevice:
    """A secret to be put into an app; nothing asks for it before a code has shown it."""
    begun = TOTPDevice.objects.filter(user=user, confirmed=False).first()
    return begun or TOTPDevice.objects.create(user=user, name="app", confirmed=False)


@transaction.atomic
def turn_on(user: User, code: str) -> list[str]:
    """The recovery codes, to be written down; none where the code is wrong."""
    device = TOTPDevice.objects.filter(user=user, confirmed=False).first()
    if device is None or not device.verify_token("".join(code.split())):
        return []
    device.confirmed = True
    device.save()
    StaticDevice.objects.filter(user=user).delete()
    kept = StaticDevice.objects.create(user=user, name="recovery")
    codes = [StaticToken.random_token() for _ in range(RECOVERY_CODES)]
    StaticToken.objects.bulk_create(StaticToken(device=kept, token=code) for code in codes)
    return codes


@transaction.atomic
def turn_off(user: User) -> None:
    TOTPDevice.objects.filter(user=user).delete()
    StaticDevice.objects.filter(user=user).delete()


def codes_left(user: User) -> int:
    return StaticToken.objects.filter(device__user=user).count()
