"""How much of the core its own tests run through, line by line, without Django.

    python -m tools.core_coverage

Prints the modules of which most is left, and the sum. Takes about ten minutes.
"""

import sys
import unittest
from io import StringIO

import coverage

CORE = "wren_ladder/drumming/*"
LEAST_LEFT = 95  # per cent; what is above is not printed


def main() -> int:
    sys.modules["django"] = None  # nothing of the core, nor of its tests, may ask for it
    measured = coverage.Coverage(include=[CORE], data_file=None)
    measured.start()
    tests = unittest.defaultTestLoader.discover("tests/drumming", top_level_dir=".")
    found = unittest.TextTestRunner(verbosity=0).run(tests)
    measured.stop()
    for line in _report(measured).splitlines():
        *_, share = line.split() or [""]
        whole = not share.endswith("%") or float(share[:-1]) < LEAST_LEFT
        if whole or line.startswith("TOTAL"):
            print(line)
    return 0 if found.wasSuccessful() else 1


def _report(measured: coverage.Coverage) -> str:
    told = StringIO()
    measured.report(file=told, sort="cover", show_missing=False, skip_covered=True)
    return told.getvalue()


if __name__ == "__main__":
    sys.exit(main())
