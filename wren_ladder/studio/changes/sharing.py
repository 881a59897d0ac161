"""Pieces and exercises that a teacher shares with the house: seen there, and taken as a copy,
so that nobody's change reaches another's students."""

from datetime import date

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import QuerySet

from wren_ladder.studio.changes.pieces import add_piece
from wren_ladder.studio.changes.students import end_links_known_to
from wren_ladder.studio.house.members import colleagues, leave
from wren_ladder.studio.house.models import Member
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.students.models import Student


def shared_with(user: User) -> QuerySet[Piece]:
    """What colleagues share; of who has left, nothing."""
    pieces = Piece.objects.filter(shared=True, owner__in=colleagues(user))
    return pieces.select_related("owner").order_by("title", "pk")


def share(piece: Piece, shared: bool) -> None:
    Piece.objects.filter(pk=piece.pk).update(shared=shared)


def piece_for(student: Student, piece: Piece) -> Piece:
    """What a student climbs lies in their own teacher's studio: the piece itself, or its copy
    there, which is made once."""
    if piece.owner_id == student.owner_id:
        return piece
    there = Piece.objects.filter(owner=student.owner_id, title=piece.title, kind=piece.kind)
    bars = piece.chart().bars
    same = (one for one in there if one.chart().bars == bars)
    return next(same, None) or take_copy(piece, student.owner)


@transaction.atomic
def leave_house(member: Member, today: date) -> None:
    """Whom they taught as the second is taught by the first alone."""
    leave(member, today)
    shared = Student.objects.filter(second_teacher=member.user_id)
    end_links_known_to(member.user_id, shared)
    shared.update(second_teacher=None)


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
