"""Small wrongs put into the core's rules, one at a time: do its tests notice?

    python -m tools.mutants [COUNT] [SEED]

Each is one comparison turned, one number moved or one "and" made an "or", in a copy of the
core; then the tests run that import the changed room. Prints each survivor with its place: a
rule that no test holds, or a line that says nothing. Takes about a minute each.
"""

import ast
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import NamedTuple

ROOT = Path(__file__).resolve().parent.parent
CORE = Path("wren_ladder/drumming")
# Where the rules of the trade are; notation and the reading of pages are held by their peers.
ROOMS = (
    "climb", "forecast", "practice", "judging", "findings", "breakdown", "hands", "takes",
    "roadmap",
)  # fmt: skip
LONGEST = 900  # seconds of the tests of one room
TURNED = {
    ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt, ast.Eq: ast.NotEq,
    ast.NotEq: ast.Eq, ast.And: ast.Or, ast.Or: ast.And, ast.Add: ast.Sub, ast.Sub: ast.Add,
}  # fmt: skip


class Mutant(NamedTuple):
    path: Path
    line: int
    before: str
    after: str
    source: str  # of the whole module


def mutants_of(path: Path) -> Iterator[Mutant]:
    """Every one that a module has."""
    source = (ROOT / path).read_text()
    for place in range(len(list(_changeable(ast.parse(source))))):
        tree = ast.parse(source)
        whole, change = list(_changeable(tree))[place]
        before = ast.unparse(whole)
        change()
        after = ast.unparse(whole)
        yield Mutant(path, whole.lineno, before, after, ast.unparse(tree))


def _changeable(tree: ast.AST) -> Iterator[tuple]:
    """(the expression or statement it stands in, what changes it)."""
    for node in ast.walk(tree):
        match node:
            case ast.Compare(ops=[operator]) if type(operator) in TURNED:
                turned = [TURNED[type(operator)]()]
                yield node, lambda node=node, new=turned: setattr(node, "ops", new)
            case ast.BoolOp(op=operator) | ast.BinOp(op=operator) if type(operator) in TURNED:
                new = TURNED[type(operator)]()
                yield node, lambda node=node, new=new: setattr(node, "op", new)
            case ast.Assign(value=ast.Constant(value=bool() | str())):
                continue
            case ast.Assign(value=ast.Constant(value=int() | float() as number) as constant):
                more = number + 1 if isinstance(number, int) else number * 1.5
                yield node, lambda one=constant, new=more: setattr(one, "value", new)


def tests_of(room: str) -> list[str]:
    """The core's test modules that import the room."""
    tests = sorted((ROOT / "tests/drumming").glob("test_*.py"))
    named = f"wren_ladder.drumming.{room}"
    return [f"tests.drumming.{one.stem}" for one in tests if named in one.read_text()]


def survives(mutant: Mutant, copy: Path) -> bool:
    room = mutant.path.relative_to(CORE).parts[0]
    changed = copy / mutant.path
    whole = changed.read_text()
    changed.write_text(mutant.source)
    command = [sys.executable, "-m", "unittest", "--failfast", *tests_of(room)]
    try:
        done = subprocess.run(command, cwd=copy, capture_output=True, timeout=LONGEST)
        return done.returncode == 0
    except subprocess.TimeoutExpired:
        return False
    finally:
        changed.write_text(whole)


def main(count: int = 40, seed: int = 4) -> None:
    paths = [
        path.relative_to(ROOT)
        for room in ROOMS
        for path in sorted((ROOT / CORE / room).rglob("*.py"))
    ]
    every = [mutant for path in paths for mutant in mutants_of(path)]
    chosen = random.Random(seed).sample(every, count)
    left = 0
    with tempfile.TemporaryDirectory() as folder:
        for part in ("wren_ladder", "tests"):
            shutil.copytree(ROOT / part, Path(folder) / part)
        for number, mutant in enumerate(chosen, 1):
            lives = survives(mutant, Path(folder))
            left += lives
            said = f"{mutant.path}:{mutant.line}: {mutant.before}  ->  {mutant.after}"
            print(f"{number}/{count} {'SURVIVES' if lives else 'found   '} {said}", flush=True)
    print(f"{left} of {count} survived, of {len(every)} there could be")


if __name__ == "__main__":
    main(*(int(one) for one in sys.argv[1:]))
