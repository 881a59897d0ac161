"""What an older database does not have yet, made beside the studio that is up already."""

from collections.abc import Callable

from wren_ladder.studio.changes.exercises import part_drills
from wren_ladder.studio.climb import standings
from wren_ladder.studio.pieces.models import Piece


def waits() -> int:
    """How much there is to do."""
    return Piece.objects.filter(drills_of__isnull=False).count() + standings.behind().count()


def catch_up(tell: Callable[[int], None] = lambda done: None) -> int:
    """How many things there were to do; ``tell`` is told after each how many are done."""
    parted = part_drills()
    tell(parted)
    return parted + standings.catch_up(lambda done: tell(parted + done))
