"""Pieces and exercises that a teacher shares with the house: seen there, and taken as a copy,
so that nobody's change reaches another's students."""

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import QuerySet

from wren_ladder.studio.changes.pieces import add_piece
from wren_ladder.studio.house.members import colleagues
from wren_ladder.studio.pieces.models import Piece


def shared_with(user: User) -> QuerySet[Piece]:
    """What colleagues share; of who has left, nothing."""
    pieces = Piece.objects.filter(shared=True, drills_of=None, owner__in=colleagues(user))
    return pieces.select_related("owner").order_by("title", "pk")


def share(piece: Piece, shared: bool) -> None:
    Piece.objects.filter(pk=piece.pk).update(shared=shared)


@transaction.atomic
def take_copy(piece: Piece, user: User) -> Piece:
    """The music and its grade; notes, plans and tries stay where they are."""
    return add_piece(
        user,
        piece.chart(),
        grade=piece.grade,
        kind=piece.kind,
        made_of=piece.made_of,
        typed=piece.typed,
    )
