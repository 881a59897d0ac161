"""Who is of the house, and who comes and goes."""

from datetime import date, datetime

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import QuerySet
from django.http import Http404
from django.utils import timezone

from wren_ladder.studio.accounts.log_ins import end_elsewhere
from wren_ladder.studio.house.models import INVITED_FOR, Invitation, Member


def membership_of(user: User) -> Member:
    """Everybody with a log-in is of the house; the first is its owner."""
    found = Member.objects.filter(user=user).first()
    return found or join(user, timezone.localdate())


@transaction.atomic
def join(user: User, today: date) -> Member:
    owned = Member.objects.filter(role=Member.Role.OWNER, left=None).exists()
    role = Member.Role.TEACHER if owned else Member.Role.OWNER
    return Member.objects.get_or_create(user=user, defaults={"role": role, "since": today})[0]


def colleagues(user: User) -> QuerySet[User]:
    """The others who work here now."""
    return User.objects.filter(is_active=True).exclude(pk=user.pk).order_by("username")


def open_invitations(now: datetime) -> QuerySet[Invitation]:
    return Invitation.objects.filter(made__gt=now - INVITED_FOR)


def invitation_or_404(key, now: datetime) -> Invitation:
    """Http404 for one that was used, taken back, or is over."""
    found = open_invitations(now).filter(key=key).first()
    if found is None:
        raise Http404("no such invitation")
    return found


@transaction.atomic
def leave(member: Member, today: date) -> None:
    """No log-in of theirs opens anything, nor a link of their students; their data lie there,
    seen by nobody, until they come back or are erased."""
    User.objects.filter(pk=member.user_id).update(is_active=False)
    Member.objects.filter(pk=member.pk).update(left=today)
    end_elsewhere(member.user, None)


@transaction.atomic
def come_back(member: Member) -> None:
    User.objects.filter(pk=member.user_id).update(is_active=True)
    Member.objects.filter(pk=member.pk).update(left=None)


@transaction.atomic
def hand_on(owner: Member, to: Member) -> None:
    """The house has another owner."""
    Member.objects.filter(pk=owner.pk).update(role=Member.Role.TEACHER)
    Member.objects.filter(pk=to.pk).update(role=Member.Role.OWNER)
