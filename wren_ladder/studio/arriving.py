"""Requests are taken in while they arrive, and a thread is given to a whole one only.

A thread of the server answers one request at a time, and there are few. Whoever announces a
body and sends three bytes of it would keep a thread for as long as they like; so what arrives
is gathered beside the threads, has a time to arrive in, and is dropped after it. Of a large
body only the head is waited for: the studio decides by that who may send one.
"""

import re
import selectors
import socket
import struct
import time
from functools import partial

from gunicorn.workers.gthread import TConn, ThreadWorker

ARRIVES = 10.0  # seconds that the head of a request and a small body have, all together
STALLS = 20  # seconds without a byte, then a large body is given up
LINGERS = 2.0  # seconds for the other side to read the last answer
MOST_ARRIVING = 256  # of one process; the one that began first gives way
GATHERED = 256 << 10  # bytes of a body that is waited for whole
MOST_HEAD = 64 << 10  # bytes; the server itself refuses a longer one
CHUNK = 64 << 10
LENGTH = re.compile(rb"^content-length:[ \t]*(\d+)[ \t]*\r?$", re.IGNORECASE | re.MULTILINE)


class Arriving(TConn):
    """A connection, and what has arrived of its next request."""

    def __init__(self, *args) -> None:
        super().__init__(*args)
        self.received = bytearray()
        self.ends: int | None = None  # bytes of the whole request, once its head is there
        self.until = 0.0  # by the monotonic clock
        self.has_large_body = False
        self.on_last_answer = None

    def begin(self) -> None:
        self.received, self.ends = bytearray(), None
        self.until = time.monotonic() + ARRIVES

    def take(self, data: bytes) -> None:
        self.received += data
        head = -1 if self.ends is not None else self.received.find(b"\r\n\r\n")
        if head < 0:
            return
        found = LENGTH.search(self.received, 0, head + 2)
        length = int(found[1][:18]) if found else 0
        self.has_large_body = length > GATHERED
        self.ends = head + 4 + (0 if self.has_large_body else length)

    @property
    def is_whole(self) -> bool:
        many = len(self.received)
        return many > MOST_HEAD if self.ends is None else many >= self.ends

    def init(self) -> None:
        """Before a thread reads the request: with what has arrived of it."""
        super().init()
        if self.received:
            self.parser.unreader.unread(bytes(self.received))
            self.received = bytearray()

    def close(self, graceful: bool = False) -> None:
        if graceful and self.on_last_answer:
            self.on_last_answer(self)
        else:
            super().close()


class ArrivingWorker(ThreadWorker):
    def __init__(self, *args, **kwargs) -> None:
        super().__init__(*args, **kwargs)
        self.arriving: dict[Arriving, None] = {}  # those that began first stand first
        self.lingering: dict[Arriving, float] = {}

    def accept(self, listener: socket.socket) -> None:
        try:
            client, address = listener.accept()
        except (BlockingIOError, ConnectionAbortedError):
            return
        self.nr_conns += 1
        client.setsockopt(socket.SOL_SOCKET, socket.SO_RCVTIMEO, struct.pack("ll", STALLS, 0))
        conn = Arriving(self.cfg, client, address, listener.getsockname())
        conn.on_last_answer = self.linger
        self.gather(conn)

    def on_client_socket_readable(self, conn: Arriving, client: socket.socket) -> None:
        """The next request of a connection that was kept."""
        self.poller.unregister(client)
        self.keepalived_conns.remove(conn)
        self.gather(conn)

    def gather(self, conn: Arriving) -> None:
        conn.begin()
        self._watch(conn, self.on_more)
        self.arriving[conn] = None
        while len(self.arriving) > MOST_ARRIVING:
            self.drop(next(iter(self.arriving)))

    def on_more(self, conn: Arriving, _client) -> None:
        data = _read(conn)
        if data is None:
            return
        conn.take(data)
        if not data:
            self.drop(conn)
        elif conn.is_whole:
            self.poller.unregister(conn.sock)
            del self.arriving[conn]
            conn.data_ready = True
            self.enqueue_req(conn)

    def drop(self, conn: Arriving) -> None:
        self.poller.unregister(conn.sock)
        del self.arriving[conn]
        self.nr_conns -= 1
        conn.close()

    def linger(self, conn: Arriving) -> None:
        """Answered and not to be kept: what is still on its way is read and forgotten for a
        moment, else the answer would be lost on its way too."""
        try:
            conn.sock.shutdown(socket.SHUT_WR)
        except OSError:
            conn.close()
            return
        self._watch(conn, self.on_late)
        self.lingering[conn] = time.monotonic() + LINGERS

    def on_late(self, conn: Arriving, _client) -> None:
        if _read(conn) == b"":
            self._end(conn)

    def _end(self, conn: Arriving) -> None:
        self.poller.unregister(conn.sock)
        del self.lingering[conn]
        conn.close()

    def _watch(self, conn: Arriving, told) -> None:
        conn.sock.setblocking(False)
        self.poller.register(conn.sock, selectors.EVENT_READ, partial(told, conn))

    def _keepalive_after(self, conn: Arriving, keepalive: bool) -> bool:
        """A connection that brought a large body is not kept: what was refused of it is still
        on its way."""
        return super()._keepalive_after(conn, keepalive and not conn.has_large_body)

    def murder_pending(self) -> None:
        super().murder_pending()
        now = time.monotonic()
        for conn in [one for one in self.arriving if one.until < now]:
            self.drop(conn)
        for conn in [one for one, until in self.lingering.items() if until < now]:
            self._end(conn)


def _read(conn: Arriving) -> bytes | None:
    """What there is to read; nothing at the end, None where there is nothing yet."""
    try:
        return conn.sock.recv(CHUNK)
    except BlockingIOError:
        return None
    except OSError:
        return b""
