"""What an older database does not have yet, made at the start."""

from wren_ladder.studio.changes.exercises import part_drills
from wren_ladder.studio.climb import standings


def catch_up() -> int:
    """How many things there were to do."""
    return part_drills() + standings.catch_up()
