"""Sixteen teachers' and students' browsers at once on one studio, for as long as asked.

    python -m bench.clients [SECONDS] [WORKERS] [CLIENTS]

Starts a studio of its own with the demo in it. Half of the clients log tries, the others move
steps, type bars, print and look around. Then the database is asked: is every try that was
acknowledged there, and once? What each process held in memory is told minute by minute.
Prints; asserts nothing.
"""

import os
import random
import re
import socket
import sqlite3
import statistics
import subprocess
import sys
import tempfile
import threading
import time
from collections import defaultdict
from contextlib import closing
from uuid import uuid4

import requests

LOOKED_AT = (
    "/", "/pieces/", "/students/", "/lessons/", "/lessons/term/", "/workshop/grooves/",
    "/workshop/stickings/", "/rudiments/", "/students/{student}/",
    "/students/{student}/lesson/", "/students/{student}/report/", "/steps/{step}/",
    "/plans/{plan}/", "/plans/{plan}/steps/",
    "/plans/{plan}/progress/", "/pieces/{piece}/", "/pieces/{piece}/score/",
    "/pieces/{piece}/room/", "/pieces/{piece}/road/",
)  # fmt: skip
PRINTED = (
    "/plans/{plan}/sheet.pdf", "/plans/{plan}/wall.pdf", "/students/{student}/week.pdf",
    "/students/{student}/report.pdf", "/pieces/{piece}/score.pdf", "/lessons/term.pdf",
)  # fmt: skip
LOAD = "import django; django.setup(); from wren_ladder.demo import studio; studio.prepare()"
TOKEN = re.compile(r'x-csrftoken": "(\w+)"')


class Client(threading.Thread):
    def __init__(
        self, number: int, address: str, until: float, plans: list, climbing: list[dict]
    ):
        super().__init__()
        self.number, self.address, self.until = number, address, until
        self.dice = random.Random(number)
        self.plans, self.climbing = plans, climbing
        self.web = requests.Session()
        self.kept: list[str] = []
        self.times: dict[str, list[float]] = defaultdict(list)
        self.codes: dict[int, int] = defaultdict(int)

    def ask(self, name: str, method: str, path: str, **sent):
        begun = time.perf_counter()
        answer = self.web.request(method, self.address + path, timeout=90, **sent)
        self.times[name].append(time.perf_counter() - begun)
        self.codes[answer.status_code] += 1
        return answer

    def run(self) -> None:
        page = self.web.get(f"{self.address}/log-in/").text
        token = re.search(r'name="csrfmiddlewaretoken" value="(\w+)"', page)[1]
        form = {"username": "demo", "password": "wren-demo", "csrfmiddlewaretoken": token}
        desk = self.web.post(f"{self.address}/log-in/", form).text
        self.token = {"x-csrftoken": TOKEN.search(desk)[1]}
        while time.time() < self.until:
            work = (
                self.log
                if self.number % 2
                else self.dice.choice([self.look, self.look, self.move, self.type, self.print])
            )
            work()
            time.sleep(self.dice.random() / 2)

    def log(self) -> None:
        ids = self.dice.choice(self.climbing)
        key = str(uuid4())
        entry = {
            "key": key,
            "step": ids["step"],
            "tempo": 60 + self.dice.randrange(60),
            "passes": 8,
        }
        entry["clean_try"] = self.dice.choice(["yes", "no"])
        path = f"/students/{ids['student']}/lesson/entries/"
        answer = self.ask("a try", "POST", path, json=[entry], headers=self.token)
        if answer.ok and key in answer.json()["kept"]:
            self.kept.append(key)

    def look(self) -> None:
        ids = self.dice.choice(self.climbing)
        self.ask("a page", "GET", self.dice.choice(LOOKED_AT).format(**ids))

    def print(self) -> None:
        ids = self.dice.choice(self.climbing)
        self.ask("a print", "GET", self.dice.choice(PRINTED).format(**ids))

    def move(self) -> None:
        _, steps = self.dice.choice(self.plans)
        path = f"/steps/{self.dice.choice(steps)}/{self.dice.choice(['up', 'down'])}/"
        self.ask("a step moved", "POST", path, headers=self.token, allow_redirects=False)

    def type(self) -> None:
        beats = " ".join(sorted(self.dice.sample("1234", 2)))
        sent = {"text": f"bar 1\nhat 8ths\nkick {beats}\n", "title": f"Typed {self.number}"}
        self.ask("a bar typed", "POST", "/pieces/new/text/", data=sent, headers=self.token)


def main(seconds: int, workers: int, many: int) -> None:
    with tempfile.TemporaryDirectory() as data, socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
        probe.close()
        told = {**os.environ, "WREN_DATA": data, "MALLOC_ARENA_MAX": "2"}  # as ./wren does
        told.pop("DJANGO_SETTINGS_MODULE", None)
        settings = {"DJANGO_SETTINGS_MODULE": "wren_ladder.studio.settings"}
        subprocess.run(
            [sys.executable, "-c", LOAD],
            env={**told, **settings}, check=True,
        )  # fmt: skip
        serving = [sys.executable, "-m", "wren_ladder.cli", "serve", "--port", str(port)]
        server = subprocess.Popen([*serving, "--workers", str(workers)], env=told)
        try:
            run(f"http://127.0.0.1:{port}", f"{data}/studio.sqlite3", seconds, many, server.pid)
        finally:
            server.terminate()
            server.wait()


def run(address: str, database: str, seconds: int, many: int, server: int) -> None:
    with closing(sqlite3.connect(database)) as opened:
        opened.row_factory = sqlite3.Row
        found = opened.execute(
            "SELECT p.student_id AS student, s.id AS step, p.id AS plan, p.piece_id AS piece "
            "FROM plans_step s JOIN plans_plan p ON p.id = s.plan_id "
            "WHERE p.student_id NOT NULL AND p.status = 'climbing' AND NOT s.dropped"
        )
        climbing = [dict(one) for one in found]
        steps = defaultdict(list)
        for plan, step in opened.execute("SELECT plan_id, id FROM plans_step"):
            steps[plan].append(step)
    for _ in range(100):
        try:
            requests.get(f"{address}/log-in/", timeout=20)
            break
        except requests.ConnectionError:
            time.sleep(0.2)
    until = time.time() + seconds
    clients = [Client(n, address, until, list(steps.items()), climbing) for n in range(many)]
    for client in clients:
        client.start()
    for minute in range(seconds // 60):
        time.sleep(60)
        print(f"  minute {minute + 1}: {children(server)} MB", flush=True)
    for client in clients:
        client.join()
    report(clients, database, seconds, server)


def report(clients: list[Client], database: str, seconds: int, server: int) -> None:
    codes, times = defaultdict(int), defaultdict(list)
    for client in clients:
        for code, many in client.codes.items():
            codes[code] += many
        for name, each in client.times.items():
            times[name] += each
    print(f"{len(clients)} clients, {seconds} s, {sum(codes.values())} requests: {dict(codes)}")
    for name, each in sorted(times.items()):
        each.sort()
        print(
            f"  {name:<14} {len(each):6}   middle {1000 * statistics.median(each):6.0f} ms, "
            f"95 % within {1000 * each[int(0.95 * len(each))]:6.0f} ms, "
            f"longest {1000 * each[-1]:6.0f} ms"
        )
    kept = [key.replace("-", "") for client in clients for key in client.kept]
    with closing(sqlite3.connect(database)) as opened:
        stored = [
            key for (key,) in opened.execute("SELECT key FROM climb_attempt WHERE key NOT NULL")
        ]
        behind = opened.execute(
            "SELECT count(*) FROM climb_planstanding WHERE worked_out < changes"
        ).fetchone()
    lost = len(set(kept) - set(stored))
    print(
        f"  {len(kept)} tries acknowledged, {lost} lost, {len(stored) - len(set(stored))} twice"
    )
    print(f"  plans that do not follow their log: {behind[0]}")
    for process in children(server):
        print(f"  a process of the studio holds {process} MB")


def children(parent: int) -> list[int]:
    """Megabytes that each process of the studio has in memory (Linux)."""
    found = subprocess.run(
        ["ps", "-o", "rss=", "--ppid", str(parent)], capture_output=True, text=True
    )
    return [int(one) // 1024 for one in found.stdout.split()]


if __name__ == "__main__":
    asked = [int(one) for one in sys.argv[1:4]]
    main(*asked, *[600, 2, 16][len(asked) :])
