"""Where in a row people's own words stand, as each model declares it beside its fields.

``PROSE`` names the fields that hold words, each with a function that leads to them; ``CODES``
names the texts that hold none: codes, recipes, music, fingerprints. Whoever looks for words
(erasing a student) goes by these and by nothing else.
"""

import re
from collections.abc import Callable, Iterator

from django.db import models

from wren_ladder.drumming.notation.counts.tokens import COMMENT

Change = Callable[[str], str]
Words = Callable[[object, Change], object]  # a value and a change of its words -> the new value

# Lines of typed bars that say something to people, as far as their first word tells.
SAYING = re.compile(r"(?m)^(\s*(?:title|section|part|note|cue)\b)(.*)$", re.IGNORECASE)


def text(value: object, change: Change) -> object:
    """All of it is words."""
    return change(value) if isinstance(value, str) else value


def each(inner: Words) -> Words:
    """Of a list, every one."""

    def words(value: object, change: Change) -> object:
        return [inner(one, change) for one in value] if isinstance(value, list) else value

    return words


def at(**inner: Words) -> Words:
    """Of an object, what stands under these names."""

    def words(value: object, change: Change) -> object:
        if not isinstance(value, dict):
            return value
        return value | {
            name: inner[name](value[name], change) for name in inner if name in value
        }

    return words


def nth(**inner: Words) -> Words:
    """Of a list of fixed length, what stands at these places: ``nth(_1=text)``."""
    places = {int(name[1:]): words for name, words in inner.items()}

    def words(value: object, change: Change) -> object:
        if not isinstance(value, list):
            return value
        return [
            places[place](one, change) if place in places else one
            for place, one in enumerate(value)
        ]

    return words


def typed(value: object, change: Change) -> object:
    """Of typed bars the comments, and the lines that are words: "tom 1 2" is music."""
    if not isinstance(value, str):
        return value
    said = SAYING.sub(lambda line: line[1] + change(line[2]), value)
    return "\n".join(
        line if SAYING.match(line) else COMMENT.sub(lambda comment: change(comment[0]), line)
        for line in said.split("\n")
    )


# A bar as the core writes it: what stands over and under the notes.
BAR = at(section=text, note=text, marks=each(at(text=text)))


def prose_of(model: type[models.Model]) -> dict[str, Words]:
    return getattr(model, "PROSE", {})


def words_in(value: object, words: Words) -> Iterator[str]:
    """Every stretch of words in a field's value, in order."""
    found: list[str] = []

    def keep(said: str) -> str:
        found.append(said)
        return said

    words(value, keep)
    return iter(found)
