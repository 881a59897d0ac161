"""Runs the tests by several processes, and closes with one line."""

import os
import tempfile
import traceback
import unittest
from pathlib import Path
from time import monotonic

import django
from django.conf import settings
from django.db import connection
from django.test import SimpleTestCase, TestCase
from django.test.runner import (
    DiscoverRunner,
    ParallelTestSuite,
    RemoteTestResult,
    RemoteTestRunner,
    _init_worker,
)


def _in_a_place_of_its_own(*arguments, **options) -> None:
    """A process beside others has its own database already; its files lie apart too."""
    _init_worker(*arguments, **options)
    settings.DATA = Path(tempfile.mkdtemp(prefix="wren-test-"))
    settings.MEDIA_ROOT = settings.DATA / "recordings"


class ToldAsText(RemoteTestResult):
    """What went wrong travels between processes as text: not every error can be sent, and one
    that cannot would end the whole run."""

    def startTest(self, test):  # noqa: N802 (unittest's names)
        super().startTest(test)
        self.began = monotonic()

    def stopTest(self, test):  # noqa: N802
        if ord(b"\0"):
            why = f"{test} gave text to quicktions: drumming/numbers.py says why not"
            self.addError(test, (SystemError, SystemError(why), None))
        super().stopTest(test)
        self.events.append(("took", self.test_index, monotonic() - self.began))

    def addError(self, test, err):  # noqa: N802
        super().addError(test, as_text(err))

    def addFailure(self, test, err):  # noqa: N802
        super().addFailure(test, as_text(err))

    def addExpectedFailure(self, test, err):  # noqa: N802
        super().addExpectedFailure(test, as_text(err))

    def addSubTest(self, test, subtest, err):  # noqa: N802
        """Told as one of its test: what a part of it holds, such as a browser, is not sent."""
        if err:
            what, error, trace = as_text(err)
            told = what(f"{subtest}\n{error}")
            tell = self.addFailure if issubclass(what, AssertionError) else self.addError
            tell(test, (what, told, trace))


class ToldError(Exception):
    """An error of another process, as it was told there."""


class FailureToldError(ToldError, AssertionError):
    """A test's own, as unittest tells the two apart."""


def as_text(err: tuple) -> tuple:
    kind = FailureToldError if issubclass(err[0], AssertionError) else ToldError
    return kind, kind("".join(traceback.format_exception(*err))), None


class RunnerOfText(RemoteTestRunner):
    resultclass = ToldAsText


class Timed(unittest.TextTestResult):
    """With how long each test held its process, in seconds."""

    def __init__(self, *arguments, **options):
        super().__init__(*arguments, **options)
        self.times: list[tuple[float, str]] = []

    def took(self, test: unittest.TestCase, seconds: float) -> None:
        self.times.append((seconds, test.id()))


class Processes(ParallelTestSuite):
    init_worker = _in_a_place_of_its_own
    runner_class = RunnerOfText


def _shared_out(tests: unittest.TestSuite) -> list[unittest.TestSuite]:
    """The tests of a class go to one process, unless it says ``tests_apart``."""
    apart = any(getattr(test, "tests_apart", False) for test in tests)
    return [unittest.TestSuite([test]) for test in tests] if apart else [tests]


class CountingRunner(DiscoverRunner):
    """Django's runner, keeping the result so that it can be counted."""

    parallel_test_suite = Processes
    result: Timed | None = None
    died = False

    def build_suite(self, *arguments, **options) -> unittest.TestSuite:
        # What takes longest first, so that no process is left alone with it at the end.
        from tests.browser.base import BrowserTest

        self.reorder_by = (BrowserTest, TestCase, SimpleTestCase)
        suite = super().build_suite(*arguments, **options)
        if isinstance(suite, Processes):
            suite.subsuites = [one for found in suite.subsuites for one in _shared_out(found)]
        return suite

    def setup_databases(self, **options):
        """One database a process. Django would copy the file without its write-ahead log."""
        processes, self.parallel = self.parallel, 0
        made = super().setup_databases(**options)
        self.parallel = processes
        if processes > 1:
            if connection.vendor == "sqlite":
                connection.cursor().execute("PRAGMA wal_checkpoint(TRUNCATE)")
            connection.close()
            for process in range(processes):
                connection.creation.clone_test_db(str(process + 1), verbosity=0)
        return made

    def get_resultclass(self):
        """Kept from the first test on, so that it can be counted however the run ends."""

        def kept(*arguments, **options) -> Timed:
            self.result = Timed(*arguments, **options)
            return self.result

        return kept


def run(names: list[str]) -> int:
    """0 if every test passed and there was at least one."""
    # Playwright keeps an event loop in this thread; the ORM is still called from it alone.
    os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "1"
    django.setup()
    from tests.fenced_once import remember

    remember()
    # One more than there are cores: a browser that listens or a kill that is waited for leaves
    # one idle.
    processes = (os.cpu_count() or 1) + 1
    runner = CountingRunner(verbosity=1, interactive=False, parallel=processes)
    try:
        runner.run_tests(names or ["tests"])
    except Exception:
        traceback.print_exc()
        runner.died = True
    print_slowest(runner.result)
    return close(runner.result, runner.died)


def print_slowest(result: Timed | None, count: int = 20) -> None:
    """What held a process longest; what one after the other was run has no times."""
    for seconds, name in sorted(result.times if result else (), reverse=True)[:count]:
        print(f"{seconds:6.1f} s  {name}")


def close(result: Timed | None, died: bool = False) -> int:
    """The closing line, whatever has happened; 0 if every test passed and there was one."""
    if result is None:
        print("0 passed, 1 failed")
        return 1
    # A test with several failing parts is still one test.
    broken = [test for test, _ in [*result.failures, *result.errors]]
    broken += result.unexpectedSuccesses
    failed = len({getattr(test, "test_case", test) for test in broken}) + died
    passed = max(0, result.testsRun - failed + died - len(result.skipped))
    print(f"{passed} passed, {failed} failed")
    return 1 if failed or not passed else 0
