"""How a teacher teaches: changed, or the house's again."""

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.pieces.storing import store_chart
from wren_ladder.studio.teaching.models import TeachingStyle, style_of


@transaction.atomic
def change_style(owner: AbstractBaseUser, kept: dict) -> None:
    """Keep what differs from the house, see ``StyleForm.kept``. Pages study by it from the next
    request on; what is stored of each piece's length follows now."""
    TeachingStyle.objects.update_or_create(owner=owner, defaults=kept)
    _follow(owner)


@transaction.atomic
def reset_style(owner: AbstractBaseUser) -> None:
    TeachingStyle.objects.filter(owner=owner).delete()
    _follow(owner)


def _follow(owner: AbstractBaseUser) -> None:
    repeats = style_of(owner.pk).repeats_after_jump
    for piece in Piece.objects.filter(owner=owner):
        chart = piece.chart()
        if any(bar.jump for bar in chart.bars):
            rows = list(piece.bars.values_list("pk", flat=True))
            store_chart(piece, chart, rows, repeats)
