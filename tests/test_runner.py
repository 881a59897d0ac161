"""The runner of the tests itself: errors travel as text, and the closing line always comes."""

import contextlib
import io
import pickle
import sys
import unittest

from tests.runner import FailureToldError, ToldAsText, ToldError, as_text, close


class UnsendableError(Exception):
    """One that no process can send to another."""

    def __init__(self, page: object, why: str) -> None:
        super().__init__(why)
        self.page = page

    def __reduce__(self):
        raise TypeError("cannot be pickled")


def raised(error: Exception) -> tuple:
    try:
        raise error
    except Exception:
        return sys.exc_info()


class Errors(unittest.TestCase):
    def test_one_that_cannot_be_sent_travels_as_text(self):
        for error, kind in ((UnsendableError(object(), "it took 20 s"), ToldError),
                            (AssertionError("1 != 2"), FailureToldError)):  # fmt: skip
            with self.subTest(error):
                told = pickle.loads(pickle.dumps(as_text(raised(error))))
                self.assertIs(told[0], kind)
                self.assertIn(str(error), str(told[1]))
                self.assertIn("in raised", str(told[1]))  # and where

    def test_the_result_of_another_process_can_be_sent_whole(self):
        result = ToldAsText()
        error = raised(UnsendableError(object(), "it took 20 s"))
        with self.subTest("inside"):
            result.addError(self, error)
            result.addFailure(self, error)
            result.addSubTest(self, self._subtest, error)
        self.assertEqual(len(pickle.loads(pickle.dumps(result.events))), 3)


class ClosingLine(unittest.TestCase):
    def closed(self, *arguments) -> tuple[int, str]:
        with contextlib.redirect_stdout(io.StringIO()) as out:
            code = close(*arguments)
        return code, out.getvalue()

    def test_it_comes_whatever_happened(self):
        result = unittest.TestResult()
        result.testsRun = 21
        self.assertEqual(self.closed(result), (0, "21 passed, 0 failed\n"))
        self.assertEqual(self.closed(result, True), (1, "21 passed, 1 failed\n"))
        self.assertEqual(self.closed(None, True), (1, "0 passed, 1 failed\n"))
        result.addError(self, raised(KeyError("x")))
        self.assertEqual(self.closed(result), (1, "20 passed, 1 failed\n"))
