"""What is kept of a teacher's style, read from a form or a file: one reader for both.

ValueError says which entry is wrong and what would be right.
"""

from collections.abc import Iterable, Mapping

from wren_ladder.drumming.grades import FIGURES, HOUSE_SYLLABUS, MOST_GRADE
from wren_ladder.drumming.style import Reason
from wren_ladder.studio.teaching.models import PLAIN, SCHOOLS

MOST_WEIGHT, MOST_WORD = 10, 80
# Of each number the least and the most.
BOUNDS = {
    "hand_limit": (2, 20),
    "foot_limit": (1, 20),
    "roll_limit": (2, 40),
    "start_share": (20, 100),
    "rung": (1, 40),
    "clean_bars": (1, 256),
}
WHOLE = ("start_share", "rung", "clean_bars")


def read_words(pairs: Iterable[object]) -> list[tuple[str, str]]:
    """(figure, its word) in order."""
    found = []
    for pair in pairs:
        if not isinstance(pair, list | tuple) or len(pair) != 2:
            raise ValueError(f"{pair!r:.40} is no figure with its word")
        figure, word = pair
        if not isinstance(figure, str) or figure not in FIGURES:
            raise ValueError(
                f"'{figure!s:.40}' is no figure known here; the names are those of the syllabus"
            )
        if not isinstance(word, str) or not word.strip() or len(word) > MOST_WORD:
            raise ValueError(f"{figure}: a word of at most {MOST_WORD} letters is wanted")
        found.append((figure, word))
    return found


def read_weight(name: str, weight: object) -> float:
    if not _is_number(weight) or not 0 <= weight <= MOST_WEIGHT:
        raise ValueError(f"{name}: a weight is 0 to {MOST_WEIGHT}")
    return float(weight)


def read_weights(weights: Mapping[str, object]) -> dict[str, float]:
    """By the code of their reason; one that is known no more is left out."""
    return {
        code: read_weight(code, weight)
        for code, weight in weights.items()
        if code in tuple(Reason)
    }


def read_grade(name: str, grade: object) -> int:
    if not _is_number(grade) or grade not in range(MOST_GRADE + 1):
        raise ValueError(f"{name}: a grade is 0 to {MOST_GRADE}")
    return int(grade)


def read_syllabus(syllabus: Mapping[str, object]) -> dict[str, int]:
    """By name; what is known no more is left out."""
    return {
        name: read_grade(name, grade)
        for name, grade in syllabus.items()
        if name in HOUSE_SYLLABUS
    }


def read_choices(choices: Mapping[str, object]) -> dict[str, object]:
    """What differs from the house; a choice that is known no more is left out."""
    found: dict[str, object] = {}
    for name, choice in choices.items():
        if name in SCHOOLS:
            known = tuple(SCHOOLS[name])
            if choice not in known:
                raise ValueError(f"{name}: {choice!r:.40} is none of {', '.join(known)}")
            found[name] = choice
        elif name in BOUNDS:
            found[name] = _within(name, choice)
        elif name in PLAIN:
            if not isinstance(choice, bool):
                raise ValueError(f"{name}: yes or no is wanted, not {choice!r:.40}")
            found[name] = choice
    return found


def _within(name: str, number: object) -> float | int:
    least, most = BOUNDS[name]
    whole = name not in WHOLE or isinstance(number, int)
    if not (_is_number(number) and whole and least <= number <= most):
        raise ValueError(f"{name}: {least} to {most} is wanted, not {number!r:.40}")
    return number


def _is_number(value: object) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool)
