"""What the speed points were before and are now, side by side on one machine.

    python -m bench.beside [COMMIT]

The version before is checked out beside this one and asked the same questions by the same
programs (``bench/points.py``, and ``bench/large_studio.py`` on copies of one studio that the
version before has made). Machines differ, and this one has other things to do: of every figure
the ratio is what to keep. A page that says the same, byte for byte, is told so. Prints; asserts
nothing.
"""

import json
import os
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path

HERE = Path(__file__).parent.parent
BEFORE = "e855991"  # the main before these points were asked for
LARGE = HERE / "bench/large_studio.py"
Told = dict[str, tuple[float | str, str]]  # by name: the figure and its unit


def told(tree: Path, program: Path, *arguments: str) -> Told:
    """What a program of this version says of the studio in a folder, line by line."""
    answer = subprocess.run(
        [sys.executable, str(program), *arguments],
        env={**os.environ, "PYTHONPATH": str(tree)},
        cwd=tree,
        stdout=subprocess.PIPE,
        text=True,
    )
    lines = [json.loads(line) for line in answer.stdout.splitlines() if line.startswith("[")]
    return {f"{name} {unit}".strip(): (figure, unit) for name, figure, unit in lines}


def of_a_large_studio(before: Path, folder: Path) -> tuple[Told, Told]:
    """One studio, made by the version before and asked by both."""
    made = folder / "made"
    told(before, LARGE, "make", str(made))
    found = []
    for place, tree in enumerate((before, HERE)):
        shutil.copytree(made, folder / f"asked-{place}")
        found.append(told(tree, LARGE, "ask", str(folder / f"asked-{place}")))
    return found[0], found[1]


def table(before: Told, now: Told) -> Iterator[str]:
    for name, (figure, unit) in now.items():
        if unit == "page":
            continue
        short = name.removesuffix(f" {unit}").strip()
        was = before.get(name, (None, ""))[0]
        pages = before.get(f"{short} page"), now.get(f"{short} page")
        same = " the same" if pages[0] and pages[0] == pages[1] else ""
        ratio = f"{figure / was:.2f}" if was else "–"
        earlier = f"{was:.1f} {unit}" if was is not None else "–"
        yield f"| {short} | {earlier} | {figure:.1f} {unit} | {ratio} |{same}"


def main(commit: str) -> None:
    with tempfile.TemporaryDirectory(prefix="wren-before-") as name:
        folder = Path(name)
        tree = folder / "tree"
        git = ["git", "-C", str(HERE), "worktree"]
        subprocess.run([*git, "add", "--detach", "-f", str(tree), commit], check=True)
        try:
            points = HERE / "bench/points.py"
            pairs = [of_a_large_studio(tree, folder), (told(tree, points), told(HERE, points))]
        finally:
            subprocess.run([*git, "remove", "--force", str(tree)], check=True)
    print(f"| point | {commit} | now | ratio |\n|---|---|---|---|")
    for before, now in pairs:
        for line in table(before, now):
            print(line)


if __name__ == "__main__":
    main(*(sys.argv[1:2] or [BEFORE]))
