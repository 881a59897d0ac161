"""Served by processes that are begun anew when they hold too much, and nobody notices."""

import os
import socket
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request
from pathlib import Path
from types import SimpleNamespace
from unittest.mock import patch

from django.test import SimpleTestCase

from wren_ladder.studio import serving

SMALL = (
    "import sys; from wren_ladder.studio import serving; serving.MOST_HELD = 1;"
    "serving.serve('127.0.0.1', int(sys.argv[1]), 1)"
)


class Printer(SimpleTestCase):
    def test_a_process_loads_it_before_the_first_print(self):
        with patch.object(serving, "SOON", 0), patch.object(serving.pdf, "load") as load:
            serving.load_printer_soon(None)
            for _ in range(100):
                if load.called:
                    break
                time.sleep(0.05)
        load.assert_called_once_with()

    def test_what_it_loads_is_what_a_print_needs(self):
        heavy = ("weasyprint", "pikepdf", "typst")
        ask = (
            "import sys; from wren_ladder.studio.paper import pdf; pdf.load();"
            f"print([name for name in {heavy!r} if name in sys.modules])"
        )
        asked = subprocess.run([sys.executable, "-c", ask], capture_output=True, text=True)
        self.assertEqual(asked.stdout.strip(), str(list(heavy)))


class Large(SimpleTestCase):
    def after(self, held: int) -> int:
        worker = SimpleNamespace(nr=7, max_requests=4000)
        with patch.object(serving, "held", return_value=held):
            serving.end_if_large(worker, None, {}, None)
        return worker.max_requests

    def test_a_process_that_holds_much_ends_after_one_more(self):
        self.assertEqual(self.after(serving.MOST_HELD + 1), 8)
        self.assertEqual(self.after(serving.MOST_HELD), 4000)

    def test_what_it_holds_is_what_the_system_says(self):
        said = Path("/proc/self/status").read_text().split("VmRSS:")[1].split()[0]
        self.assertAlmostEqual(serving.held(), int(said) / 1024, delta=5)


class Renewed(SimpleTestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        settings = {
            "WREN_DATA": folder.name,
            "DJANGO_SETTINGS_MODULE": "wren_ladder.studio.settings",
        }
        server = subprocess.Popen(
            [sys.executable, "-c", SMALL, str(self.port)], env={**os.environ, **settings}
        )
        self.server = server
        self.addCleanup(server.wait)
        self.addCleanup(server.terminate)

    def ask(self) -> int | None:
        """The status of an answer, None before the first process listens."""
        try:
            with urllib.request.urlopen(f"http://127.0.0.1:{self.port}/robots.txt", timeout=60):
                return 200
        except urllib.error.HTTPError as error:
            return error.code
        except urllib.error.URLError as error:
            if isinstance(error.reason, ConnectionRefusedError):
                return None
            raise

    def workers(self) -> set[str]:
        found = subprocess.run(
            ["ps", "-o", "pid=", "--ppid", str(self.server.pid)], capture_output=True, text=True
        )
        return set(found.stdout.split())

    def test_every_request_is_answered_while_processes_come_and_go(self):
        until = time.monotonic() + 60
        while self.ask() is None and time.monotonic() < until:
            time.sleep(0.2)
        codes, seen = [], set()
        for _ in range(12):
            seen |= self.workers()
            codes.append(self.ask())
        self.assertEqual(set(codes), {404})
        self.assertGreater(len(seen), 2)
