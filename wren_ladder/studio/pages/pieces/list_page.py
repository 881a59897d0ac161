"""The list of pieces: each with its first bar, and who plays it."""

from collections.abc import Sequence
from dataclasses import dataclass

from django.contrib.auth.models import AbstractBaseUser
from django.urls import reverse

from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.study import study_bar
from wren_ladder.studio.drawing.engraving import engrave_each
from wren_ladder.studio.pieces.models import BarRow, Piece
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.students.taught import students_of
from wren_ladder.studio.teaching.models import style_of

WIDTH = 1250  # of the engraver's units
LAYOUT = Layout(counts=False, hands=False)
FIRST_BARS = (0, 1)  # a pick-up is not what a piece is known by


@dataclass(frozen=True, slots=True)
class PieceCard:
    """``svg`` of the first full bar."""

    piece: Piece
    svg: str
    players: tuple[Student, ...]
    href: str  # to the piece, or to give it to who is asked for


def piece_cards(
    teacher: AbstractBaseUser, pieces: Sequence[Piece], asked: Student | None
) -> list[PieceCard]:
    """In as many queries for many pieces as for one; bars drawn before are not drawn again."""
    first: dict[int, BarRow] = {}
    for row in BarRow.objects.filter(piece__in=pieces, position__in=FIRST_BARS):
        known = first.get(row.piece_id)
        if known is None or (known.bar.pickup and not row.bar.pickup):
            first[row.piece_id] = row
    style = style_of(teacher.pk)
    drawn = [piece for piece in pieces if piece.pk in first]
    bars = [study_bar(first[piece.pk].bar, piece.tempo, style) for piece in drawn]
    svgs = dict(zip(drawn, engrave_each(bars, LAYOUT, WIDTH, "p"), strict=True))
    players: dict[int, list[Student]] = {}
    climbed = Plan.objects.filter(
        piece__in=pieces, student__in=students_of(teacher), status=Plan.Status.CLIMBING
    )
    for plan in climbed.select_related("student").order_by("student__name"):
        players.setdefault(plan.piece_id, []).append(plan.student)
    return [
        PieceCard(
            piece=piece,
            svg=svgs.get(piece, ""),
            players=tuple(players.get(piece.pk, ())),
            href=f"{reverse('give', args=[piece.pk])}?student={asked.pk}"
            if asked
            else piece.get_absolute_url(),
        )
        for piece in pieces
    ]
