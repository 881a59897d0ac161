"""How things are said in a row."""

from collections.abc import Sequence


def listed(names: Sequence[str]) -> str:
    """ "2, 4 and 6"; the word by itself where there is one, nothing for none."""
    if len(names) < 2:
        return "".join(names)
    return f"{', '.join(names[:-1])} and {names[-1]}"
