"""What the speed points were before and are now, side by side on one machine.

    python -m bench.beside [COMMIT]

The version before is checked out beside this one and asked the same questions by the same
program (``bench/points.py``); machines differ, so the ratios are what to keep. Prints; asserts
nothing.
"""

import json
import os
import subprocess
import sys
import tempfile
from pathlib import Path

HERE = Path(__file__).parent.parent
BEFORE = "30c72f7"  # measured when these points were asked for


def figures(tree: Path) -> dict[str, tuple[float, str]]:
    """What ``bench/points.py`` of this version says of the studio in a folder."""
    answer = subprocess.run(
        [sys.executable, str(HERE / "bench/points.py")],
        env={**os.environ, "PYTHONPATH": str(tree)},
        cwd=tree,
        stdout=subprocess.PIPE,
        text=True,
    )
    lines = [json.loads(line) for line in answer.stdout.splitlines() if line.startswith("[")]
    return {name: (figure, unit) for name, figure, unit in lines}


def main(commit: str) -> None:
    with tempfile.TemporaryDirectory(prefix="wren-before-") as folder:
        tree = Path(folder) / "tree"
        git = ["git", "-C", str(HERE), "worktree"]
        subprocess.run([*git, "add", "--detach", "-f", str(tree), commit], check=True)
        try:
            before, now = figures(tree), figures(HERE)
        finally:
            subprocess.run([*git, "remove", "--force", str(tree)], check=True)
    print(f"{'':44} {commit:>12} {'now':>12}     ratio")
    for name, (figure, unit) in now.items():
        if name in before:
            was = before[name][0]
            ratio = figure / was if was else 0
            print(f"{name:44} {was:9.1f} {unit:2} {figure:9.1f} {unit:2}     × {ratio:.2f}")
        else:
            print(f"{name:44} {'–':>12} {figure:9.1f} {unit}")


if __name__ == "__main__":
    main(*(sys.argv[1:2] or [BEFORE]))
