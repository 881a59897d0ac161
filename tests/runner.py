"""Runs the tests and closes with one line: N passed, N failed."""

import os
import unittest

import django
from django.test.runner import DiscoverRunner


class CountingRunner(DiscoverRunner):
    """Django's runner, keeping the result so that it can be counted."""

    def run_suite(self, suite: unittest.TestSuite, **kwargs):
        self.result = super().run_suite(suite, **kwargs)
        return self.result


def run(names: list[str]) -> int:
    """0 if every test passed and there was at least one."""
    # Playwright keeps an event loop in this thread; the ORM is still called from it alone.
    os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "1"
    django.setup()
    runner = CountingRunner(verbosity=1, interactive=False)
    runner.run_tests(names or ["tests"])
    result = runner.result
    # A test with several failing parts is still one test.
    broken = [test for test, _ in [*result.failures, *result.errors]]
    broken += result.unexpectedSuccesses
    failed = len({getattr(test, "test_case", test) for test in broken})
    passed = result.testsRun - failed - len(result.skipped)
    print(f"{passed} passed, {failed} failed")
    return 1 if failed or not passed else 0
