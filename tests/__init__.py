"""The tests: the core alone, the studio, a real browser, and the world outside."""

import os

from hypothesis import Phase, settings

# The same examples on every machine, and no clock: a slow machine is no failure. The example
# that fails is told as it was found, for to look for the smallest takes five minutes a test;
# WREN_SHRINK=1 looks for it.
PHASES = [phase for phase in Phase if phase is not Phase.shrink]
settings.register_profile(
    "house",
    deadline=None,
    derandomize=True,
    phases=list(Phase) if os.environ.get("WREN_SHRINK") else PHASES,
)
settings.load_profile("house")
