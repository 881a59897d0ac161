"""How long others wait while requests are half sent: python -m bench.half_sent ADDRESS

Twenty-four connections announce a body and send three bytes of it; a page is asked for again
and again meanwhile. Then the same with a body of ten digits. Bounded: half a minute each.
"""

import socket
import sys
import time
import urllib.error
import urllib.request
from urllib.parse import urlsplit

MANY, ASKED, PATIENCE = 24, 20, 30.0  # connections, pages, seconds
HEAD = "POST /log-in/ HTTP/1.1\r\nHost: {}\r\nContent-Length: {}\r\n\r\nabc"


def waited(address: str) -> float:
    """Seconds for a page; PATIENCE where none came."""
    begun = time.monotonic()
    try:
        urllib.request.urlopen(f"{address}/privacy/", timeout=PATIENCE).read()
    except (urllib.error.URLError, TimeoutError):
        return PATIENCE
    return time.monotonic() - begun


def measured(address: str, length: int) -> str:
    there = urlsplit(address)
    opened = []
    for _ in range(MANY):
        one = socket.create_connection((there.hostname, there.port))
        one.sendall(HEAD.format(there.netloc, length).encode())
        opened.append(one)
    time.sleep(0.5)
    found: list[float] = []
    until = time.monotonic() + PATIENCE
    while len(found) < ASKED and time.monotonic() < until:
        found.append(waited(address))
    for one in opened:
        one.close()
    found.sort()
    return f"median {found[len(found) // 2] * 1000:.0f} ms, longest {found[-1] * 1000:.0f} ms"


def main() -> None:
    address = sys.argv[1].rstrip("/")
    print(f"nobody half sends: {waited(address) * 1000:.0f} ms")
    for length in (1000, 1_000_000_000):
        print(f"{MANY} half-sent bodies of {length:,} bytes: {measured(address, length)}")


if __name__ == "__main__":
    main()
