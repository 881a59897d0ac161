"""What is found in the music, as values: weighed, worded and counted from the same one."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from quicktions import Fraction

from wren_ladder.drumming.style import Reason
from wren_ladder.drumming.wording import listed


def one_each(found: Finding) -> float:
    return 1.0


def where_it_is(found: Finding) -> frozenset[Fraction]:
    return frozenset() if found.at is None else frozenset({found.at})


def the_first(found: Sequence[Finding]) -> str:
    """A bar has one cause for many of a kind, so the first stands for them."""
    return found[0].kind.say(found[0])


def every_one(found: Sequence[Finding]) -> str:
    return "; ".join(one.kind.say(one) for one in found)


@dataclass(frozen=True, slots=True)
class Kind:
    """A kind of thing that is found; it stands beside the function that finds it.

    ``code`` is stable, its words are free: ``say`` of one, ``together`` of several in a bar,
    ``watch`` of what to watch for there, where it is told at all ("" for once not). ``reason``
    is what it counts for, None where it is told and not weighed; ``amount`` how much one is;
    ``moments`` are the places of what it is about, none where it is about the whole bar.
    """

    code: str
    say: Callable[[Finding], str]
    reason: Reason | None = None
    amount: Callable[[Finding], float] = one_each
    together: Callable[[Sequence[Finding]], str] = the_first
    watch: Callable[[Sequence[Finding]], str] | None = None
    moments: Callable[[Finding], frozenset[Fraction]] = where_it_is

    def found(self, at: Fraction | None = None, **facts: Any) -> Finding:
        return Finding(self, at, tuple(facts.items()))


@dataclass(frozen=True, slots=True)
class Finding:
    """One thing found: ``at`` in crotchets from where its bar starts, None where it is not in
    one place; ``facts`` are the values that its words are made of, by name."""

    kind: Kind
    at: Fraction | None = None
    facts: tuple[tuple[str, Any], ...] = ()

    def __getitem__(self, name: str) -> Any:
        return dict(self.facts)[name]

    def __str__(self) -> str:
        return self.kind.say(self)


def places_of(found: Sequence[Finding]) -> str:
    """ "2, 3e and 4": where they are, each place once."""
    return listed(list(dict.fromkeys(one["where"] for one in found)))


def by_kind(found: Sequence[Finding]) -> list[list[Finding]]:
    """Those of each kind together, in the order in which the kinds come."""
    groups: dict[Kind, list[Finding]] = {}
    for one in found:
        groups.setdefault(one.kind, []).append(one)
    return list(groups.values())
