"""Requests that are half sent keep nobody waiting: asked of the real server."""

import os
import socket
import subprocess
import sys
import tempfile
import time
import unittest
import urllib.error
import urllib.request

from wren_ladder.studio.arriving import GATHERED, Arriving

START = (
    "import sys; from wren_ladder.studio import arriving, serving;"
    "arriving.ARRIVES = float(sys.argv[2]);"
    "import django; django.setup();"
    "from wren_ladder.studio.keeping.starting import made_ready; made_ready(print);"
    "from django.db import connections; connections.close_all();"
    "serving.serve('127.0.0.1', int(sys.argv[1]), 1)"
)
HEAD = "POST /log-in/ HTTP/1.1\r\nHost: localhost\r\nContent-Length: {}\r\n\r\n"


class Head(unittest.TestCase):
    """When a request is whole, told by what has arrived of it, in pieces of any size."""

    def whole_at(self, sent: bytes, piece: int) -> int | None:
        one, other = socket.socketpair()
        self.addCleanup(one.close)
        self.addCleanup(other.close)
        conn = Arriving(None, one, None, None)
        conn.begin()
        for at in range(0, len(sent), piece):
            conn.take(sent[at : at + piece])
            if conn.is_whole:
                return min(len(sent), at + piece)
        return None

    def test_whatever_the_pieces(self):
        small = HEAD.format(5).encode() + b"abcde"
        get = b"GET / HTTP/1.1\r\nHost: localhost\r\n\r\n"
        large = HEAD.format(GATHERED + 1).encode()
        for sent, whole in ((small, True), (small[:-1], False), (get, True), (get[:-1], False),
                            (large, True), (b"x" * 70_000, True)):  # fmt: skip
            for piece in (1, 7, 100_000):
                with self.subTest(sent[:20], piece=piece):
                    self.assertEqual(self.whole_at(sent, piece) is not None, whole)
        self.assertEqual(self.whole_at(small, 1), len(small))


class HalfSent(unittest.TestCase):
    """One process with four threads, as the studio runs two of."""

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.serve(arrives=60)

    @classmethod
    def serve(cls, arrives: float) -> None:
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            cls.port = probe.getsockname()[1]
        environment = dict(os.environ, WREN_DATA=tempfile.mkdtemp(prefix="wren-test-"))
        environment["DJANGO_SETTINGS_MODULE"] = "wren_ladder.studio.settings"
        cls.server = subprocess.Popen(
            [sys.executable, "-c", START, str(cls.port), str(arrives)],
            env=environment,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
        )
        cls.addClassCleanup(cls.server.wait)
        cls.addClassCleanup(cls.server.kill)
        for _ in range(300):
            try:
                cls.get()
                return
            except (urllib.error.URLError, ConnectionError):
                time.sleep(0.1)
        raise AssertionError("the server did not come up")

    @classmethod
    def get(cls) -> int:
        address = f"http://127.0.0.1:{cls.port}/privacy/"
        with urllib.request.urlopen(address, timeout=30) as answer:
            return answer.status

    def half(self, sent: bytes) -> socket.socket:
        opened = socket.create_connection(("127.0.0.1", self.port), timeout=30)
        self.addCleanup(opened.close)
        opened.sendall(sent)
        return opened

    def test_whoever_else_asks_is_answered(self):
        for sent in (
            HEAD.format(1000).encode() + b"abc",  # a body that never comes
            HEAD.format(1000).encode()[:-8],  # nor does the rest of the head
            b"",
        ):
            with self.subTest(sent):
                for _ in range(24):
                    self.half(sent)
                self.assertEqual(self.get(), 200)

    def test_a_large_body_of_a_stranger_is_refused_before_it_is_sent(self):
        for length in (10_000_000, 1_000_000_000, 10**18):
            with self.subTest(length):
                opened = [self.half(HEAD.format(length).encode() + b"abc") for _ in range(24)]
                for one in opened:
                    self.assertIn(b" 413 ", one.recv(100))
                self.assertEqual(self.get(), 200)

    def test_what_is_sent_slowly_and_whole_is_answered(self):
        sent = HEAD.format(3).encode() + b"a=b"
        opened = self.half(sent[:20])
        for at in range(20, len(sent), 30):
            time.sleep(0.02)
            opened.sendall(sent[at : at + 30])
        self.assertRegex(opened.recv(100), rb"^HTTP/1.1 (200|403) ")

    def test_one_connection_brings_several_requests(self):
        opened = self.half(b"")
        for _ in range(3):
            opened.sendall(b"HEAD /privacy/ HTTP/1.1\r\nHost: localhost\r\n\r\n")
            self.assertIn(b" 200 ", opened.recv(10_000)[:30])


class TimeToArrive(HalfSent):
    @classmethod
    def setUpClass(cls):
        cls.serve(arrives=1)

    def test_what_does_not_arrive_in_its_time_is_dropped(self):
        opened = self.half(HEAD.format(1000).encode() + b"abc")
        self.assertEqual(opened.recv(100), b"")
