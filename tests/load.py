"""Many benches at once: bin/load [--lessons 100] [--seconds 60]. Every bench's tablet sends entries as a busy bench
does, each lesson's wall is asked for as a screen does it. Prints how long entries take and whether any is lost."""

from __future__ import annotations

import argparse
import random
import re
import statistics
import sys
import threading
import time
from pathlib import Path
from urllib.parse import urlencode

sys.path[:0] = [str(Path(__file__).resolve().parents[1])]
import django

django.setup()

# ruff: noqa: E402 - models can be imported only once Django is set up
from django.db import close_old_connections

from bulwark.lessons.models import Event
from tests.soak import At, a_lesson
from tests.tablets import Tablet

# A busy bench has an entry every so many seconds, at the mean; a wall is drawn anew at most so often.
ENTRY_EVERY_S, WALL_EVERY_S, TARGET_S = 10.0, 5.0, 0.25


def at_work(at: At, chance: random.Random, until: float) -> None:
    """One bench: says what its crew says, one entry after another."""
    said = 0
    time.sleep(chance.uniform(0, ENTRY_EVERY_S))
    while time.monotonic() < until and said < len(at.script):
        event = at.script[said]
        said += 1
        at.tablet.add(event.kind, dict(event.data), at.began_s + event.at_s)
        while at.tablet.rows and time.monotonic() < until + 10:
            at.tablet.flush_one()
        time.sleep(chance.expovariate(1 / ENTRY_EVERY_S))


def in_turn(rows: list[At], hands: int = 8) -> None:
    """Every bench joins before anything is measured, so many at a time."""

    def some(n: int) -> None:
        for at in rows[n::hands]:
            at.tablet.join()

    joining = [threading.Thread(target=some, args=(n,)) for n in range(hands)]
    for one in joining:
        one.start()
    for one in joining:
        one.join()


def watch(address: str, password: str, lessons: list[int], until: float, drawn: list[float]) -> None:
    """Walls on their screens: asked for every few seconds, drawn anew where something happened."""
    screen, tags = Tablet(address, ""), dict.fromkeys(lessons, "")
    _status, page = screen.send("GET", "/sign-in/")
    token = re.search(rb'name="csrfmiddlewaretoken" value="([^"]+)"', page)
    asked = {"username": "educator@skerrypoint.example", "password": password}
    screen.send("POST", "/sign-in/", urlencode({**asked, "csrfmiddlewaretoken": token[1].decode() if token else ""}))
    while time.monotonic() < until:
        round_s = time.monotonic()
        for lesson in lessons:
            began = time.perf_counter()
            status, page = screen.send("GET", f"/lessons/{lesson}/wall/fragment/?seen={tags[lesson]}")
            drawn.append(time.perf_counter() - began)
            found = re.search(rb"\?seen=([^\"&]+)", page) if status == 200 else None
            tags[lesson] = found[1].decode() if found else tags[lesson]
        time.sleep(max(0.0, WALL_EVERY_S - (time.monotonic() - round_s)))


def main() -> int:
    """Runs it; the exit status."""
    ask = argparse.ArgumentParser()
    ask.add_argument("address")
    ask.add_argument("password")
    ask.add_argument("--lessons", type=int, default=100)
    ask.add_argument("--seconds", type=float, default=60.0)
    ask.add_argument("--seed", type=int, default=1)
    asked = ask.parse_args()
    rows = []
    for n in range(asked.lessons):
        lesson = a_lesson(n)
        rows += [At(asked.address, lesson, bench, asked.seed + n) for bench in lesson.benches.all()]
    close_old_connections()
    in_turn(rows)
    until, drawn = time.monotonic() + asked.seconds, list[float]()
    lessons = sorted({at.bench.lesson_id for at in rows})
    walls = [
        threading.Thread(target=watch, args=(asked.address, asked.password, lessons[n::4], until, drawn))
        for n in range(4)
    ]
    workers = [threading.Thread(target=at_work, args=(at, random.Random(n), until)) for n, at in enumerate(rows)]
    for worker in [*workers, *walls]:
        worker.start()
    for worker in [*workers, *walls]:
        worker.join()
    close_old_connections()
    taken = [name for at in rows for name in at.tablet.taken]
    kept = set(map(str, Event.objects.filter(bench__in=[at.bench for at in rows]).values_list("uuid", flat=True)))
    times = sorted(s for at in rows for s in at.tablet.latencies_s)
    if len(times) < 100:
        print("too few entries to say anything")
        return 1
    p50, p95, p99 = statistics.median(times), times[int(0.95 * len(times))], times[int(0.99 * len(times))]
    lost = sum(name not in kept for name in taken)
    print(f"{len(rows)} benches in {asked.lessons} lessons, {len(times)} entries in {asked.seconds:g} s")
    print(f"an entry takes: median {1000 * p50:.0f} ms, p95 {1000 * p95:.0f} ms, p99 {1000 * p99:.0f} ms")
    print(f"{len(drawn)} walls asked for: p95 {1000 * sorted(drawn)[int(0.95 * len(drawn))]:.0f} ms")
    print(f"acknowledged and lost: {lost}")
    return 0 if not lost and p95 < TARGET_S else 1


if __name__ == "__main__":
    raise SystemExit(main())
