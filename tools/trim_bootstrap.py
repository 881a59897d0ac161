"""Bootstrap cut down to the rules that some page can need.

    python -m tools.trim_bootstrap

Run it after a class of Bootstrap is used for the first time; a test says when that was
forgotten. A rule stays if every class in its selector is a word of a template, of a script, or
of the Python that writes HTML: too much stays sometimes, too little never.
"""

import re
from collections.abc import Iterator
from pathlib import Path

import crispy_bootstrap5
import tinycss2

STUDIO = Path(__file__).parents[1] / "wren_ladder/studio"
WHOLE = STUDIO / "static/vendor/bootstrap/bootstrap.min.css"
USED = STUDIO / "static/vendor/bootstrap/bootstrap.used.css"
FORMS = Path(crispy_bootstrap5.__file__).parent
READ = (
    *((STUDIO / "templates", ending) for ending in ("*.html", "*.js")),
    (STUDIO / "static/wren", "*.js"),
    (STUDIO, "*.py"),
    (FORMS, "*.html"),
)
WORD = re.compile(r"[A-Za-z][\w-]*")
CLASS = re.compile(r"\.((?:\\.|[\w-])+)")
NIGHT = re.compile(r"\[data-bs-theme=dark\]")


def words() -> set[str]:
    found: set[str] = set()
    for folder, ending in READ:
        for path in folder.rglob(ending):
            found.update(WORD.findall(path.read_text()))
    return found


def trimmed(css: str, used: set[str]) -> str:
    begun = tuple(word for word in used if word.endswith("-") and len(word) > 3)
    licence = css[: css.index("*/") + 2]
    return (
        licence
        + "\n"
        + "\n".join(_rules(tinycss2.parse_stylesheet(css, True, True), used, begun))
        + "\n"
    )


def _rules(rules, used: set[str], begun: tuple[str, ...]) -> Iterator[str]:
    for rule in rules:
        if rule.type == "qualified-rule":
            kept = [one for one in _selectors(rule.prelude) if _needed(one, used, begun)]
            if kept:
                yield f"{','.join(kept)}{{{tinycss2.serialize(rule.content).strip()}}}"
        elif rule.at_keyword == "media":
            inside = tinycss2.parse_rule_list(rule.content, True, True)
            if within := list(_rules(inside, used, begun)):
                asked = tinycss2.serialize(rule.prelude).strip()
                yield f"@media {asked}{{{''.join(within)}}}"


def _selectors(prelude) -> list[str]:
    """The selectors of a rule; commas within brackets divide none."""
    parts: list[list] = [[]]
    for token in prelude:
        if token.type == "literal" and token.value == ",":
            parts.append([])
        else:
            parts[-1].append(token)
    return [tinycss2.serialize(part).strip() for part in parts]


def _needed(selector: str, used: set[str], begun: tuple[str, ...]) -> bool:
    if NIGHT.search(selector):
        return False  # the night is our own style sheet's
    asked = re.sub(r":not\([^)]*\)", "", selector)
    names = [re.sub(r"\\(.)", r"\1", name) for name in CLASS.findall(asked)]
    return all(name in used or name.startswith(begun) for name in names)


def main() -> None:
    USED.write_text(trimmed(WHOLE.read_text(), words()))
    print(f"{WHOLE.stat().st_size / 1000:.0f} KB cut to {USED.stat().st_size / 1000:.0f} KB")


if __name__ == "__main__":
    main()
