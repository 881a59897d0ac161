"""The tests: the core alone, the studio, a real browser, and the world outside."""

from hypothesis import settings

# The same examples on every machine, and no clock: a slow machine is no failure.
settings.register_profile("house", deadline=None, derandomize=True)
settings.load_profile("house")
