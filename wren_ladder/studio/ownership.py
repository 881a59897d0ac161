"""Who may see what: everything belongs to one teacher, and is not there for others."""

from typing import TypeVar

from django.contrib.auth.models import AbstractBaseUser
from django.db.models import Model, QuerySet
from django.shortcuts import get_object_or_404

M = TypeVar("M", bound=Model)


def owned_or_404(found: type[M] | QuerySet[M], user: AbstractBaseUser, pk: int) -> M:
    """The teacher's own object; Http404 for anyone else's, as if it did not exist."""
    return get_object_or_404(found, pk=pk, owner=user)
