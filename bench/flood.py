"""What a flood through one private link does to the teacher's own tries.

    python -m bench.flood ADDRESS

on a running demo. Prints; asserts nothing.
"""

import re
import statistics
import sys
import threading
import time
from uuid import uuid4

import requests

from bench.clients import TOKEN

SENDERS, SECONDS, TRIES = 8, 20, 25


def teacher(address: str) -> tuple[requests.Session, dict, str]:
    web = requests.Session()
    page = web.get(f"{address}/log-in/").text
    token = re.search(r'name="csrfmiddlewaretoken" value="(\w+)"', page)[1]
    form = {"username": "demo", "password": "wren-demo", "csrfmiddlewaretoken": token}
    desk = web.post(f"{address}/log-in/", form).text
    student = re.search(r'href="/students/(\d+)/lesson/', desk)[1]
    return web, {"x-csrftoken": TOKEN.search(desk)[1]}, student


def tries(address: str, web, headers: dict, student: str) -> None:
    page = web.get(f"{address}/students/{student}/lesson/").text
    step = re.search(r'name="step" value="(\d+)"', page)[1]
    times = []
    for _ in range(TRIES):
        entry = {
            "key": str(uuid4()),
            "step": step,
            "tempo": 80,
            "passes": 4,
            "clean_try": "yes",
        }
        begun = time.perf_counter()
        path = f"{address}/students/{student}/lesson/entries/"
        web.post(path, json=[entry], headers=headers)
        times.append(1000 * (time.perf_counter() - begun))
    print(
        f"  the teacher's try: {statistics.median(times):.0f} ms, longest {max(times):.0f} ms"
    )


def flood(address: str, link: str, until: float, codes: list[int]) -> None:
    web = requests.Session()
    page = web.get(link)
    token = re.search(r'name="csrfmiddlewaretoken" value="(\w+)"', page.text)[1]
    step = re.search(r'name="step" value="(\d+)"', page.text)[1]
    while time.time() < until:
        entry = {"key": str(uuid4()), "step": step, "tempo": 60, "passes": 1, "clean_try": "no"}
        answer = web.post(f"{link}entries/", json=[entry] * 50, headers={"x-csrftoken": token})
        codes.append(answer.status_code)


def main(address: str) -> None:
    web, headers, student = teacher(address)
    print("quiet")
    tries(address, web, headers, student)
    link = web.get(f"{address}/students/{student}/link/").url
    until, codes = time.time() + SECONDS, []
    senders = [
        threading.Thread(target=flood, args=(address, link, until, codes))
        for _ in range(SENDERS)
    ]
    for one in senders:
        one.start()
    print(f"while {SENDERS} senders flood one link")
    tries(address, web, headers, student)
    for one in senders:
        one.join()
    said = {code: codes.count(code) for code in sorted(set(codes))}
    print(f"  the flood got {said}")


if __name__ == "__main__":
    main(sys.argv[1])
