"""The studio served by as many processes as asked for: what one draws holds up no other.

Each is begun anew after some thousand requests, or when it holds much memory after printing, so
that none of them grows for ever.
"""

import os
from pathlib import Path
from threading import Timer

from gunicorn.app.base import BaseApplication

from wren_ladder.studio.arriving import ArrivingWorker
from wren_ladder.studio.paper import pdf

THREADS = 4  # of each process: most requests wait for the disk or the line
RENEWED = 4000  # requests, and up to a quarter more, so that not all are renewed at once
MOST_HELD = 200  # MB, then a process is begun anew; one print can take 60 more
SLOWEST = 120  # seconds after which a process that does not answer is begun anew
SOON = 6  # seconds after its start in which a process loads the printer
GRACE = 20  # seconds to end what was begun


class Server(BaseApplication):
    def __init__(self, host: str, port: int, workers: int) -> None:
        self.settings = {
            "bind": f"{host}:{port}",
            "workers": workers,
            "threads": THREADS,
            "worker_class": ArrivingWorker,
            "max_requests": RENEWED,
            "max_requests_jitter": RENEWED // 4,
            "timeout": SLOWEST,
            "graceful_timeout": GRACE,
            "keepalive": 5,
            "loglevel": "warning",
            "proc_name": "wren-ladder",
            "post_worker_init": load_printer_soon,
            "post_request": end_if_large,
        }
        super().__init__()

    def load_config(self) -> None:
        for name, value in self.settings.items():
            self.cfg.set(name, value)

    def load(self):
        from wren_ladder.studio.wsgi import application

        return application


def load_printer_soon(worker) -> None:
    """Once the first pages are out, so that nobody waits for it at the first print."""
    timer = Timer(SOON, pdf.load)
    timer.daemon = True
    timer.start()


def end_if_large(worker, request, environ, response) -> None:
    """After one more request, as after the last of its thousands."""
    if held() > MOST_HELD:
        worker.max_requests = worker.nr + 1


def held() -> int:
    """MB of memory that this process has; 0 where the system does not tell it like Linux."""
    try:
        pages = int(Path("/proc/self/statm").read_text().split()[1])
    except FileNotFoundError:
        return 0
    return pages * os.sysconf("SC_PAGE_SIZE") >> 20


def serve(host: str, port: int, workers: int) -> None:
    Server(host, port, workers).run()
