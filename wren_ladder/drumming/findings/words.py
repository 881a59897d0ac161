"""What was found, in plain sentences; nobody reads them back."""

from collections.abc import Sequence

from wren_ladder.drumming.findings.finding import Finding, by_kind
from wren_ladder.drumming.style import Reason


def say_together(found: Sequence[Finding]) -> str:
    """Findings of one reason in a sentence; "" where none of them is worth a word."""
    said = (mine[0].kind.together(mine) for mine in by_kind(found))
    return "; ".join(sentence for sentence in said if sentence)


def watch_for(found: Sequence[Finding]) -> tuple[str, ...]:
    """What to watch for in a bar, most telling first, in the order of the reasons; empty for
    one that holds no surprise."""
    order = list(Reason)
    told = [
        (order.index(kind.reason), kind.watch(mine))
        for mine in by_kind(found)
        if (kind := mine[0].kind).watch and kind.reason
    ]
    told.sort(key=lambda one: one[0])
    return tuple(sentence for _, sentence in told if sentence)
