"""Faults while lessons run: bin/soak [--lessons 20] [--faults 200] [--seed 1]. Prints a score; ends with 1 if anything
that was acknowledged is lost or doubled, or any bench stands otherwise than undisturbed."""

from __future__ import annotations

import argparse
import os
import random
import subprocess
import sys
import threading
import time
from collections import Counter
from datetime import timedelta
from pathlib import Path
from typing import Any

sys.path[:0] = [str(Path(__file__).resolve().parents[1])]
import django
import psycopg

django.setup()

# ruff: noqa: E402 - models can be imported only once Django is set up
from django.db import close_old_connections
from django.utils import timezone

from bulwark.lessons import selectors, services
from bulwark.lessons.adapters import to_event
from bulwark.lessons.models import Bench, Event, Lesson
from bulwark.recipes.models import Recipe
from foodsafety.lesson import SLIPS, bricks, fold, rehearse
from tests.tablets import AGAIN_S, Tablet, a_fault
from tests.walk.faults import kill_a_worker

AT_TABLETS = ("cut", "lost_answer", "reload", "clock", "double", "order")
AT_THE_SERVER = ("worker", "database")
LONGEST_S = 900.0
# So long from one fault to the next, at the mean [s].
BETWEEN_S = 0.15


def a_lesson(n: int) -> Lesson:
    """A lesson that began some hours ago, so that its entries have happened."""
    recipe = Recipe.objects.filter(organisation__is_demo=True, title__startswith="Turkey koftas").first()
    assert recipe is not None
    lesson = services.create_lesson(
        recipe=recipe,
        place=f"Soak {n}",
        starts_at=timezone.now() - timedelta(hours=6),
        length_min=90,
        benches={name: [f"{name[0]}{i}" for i in "AB"] for name in ("Gannet", "Puffin", "Tern", "Plover")},
        profile_id="us-home",
    )
    services.open_lesson(lesson=lesson)
    Lesson.objects.filter(pk=lesson.pk).update(opened_at=timezone.now() - timedelta(hours=5))
    return Lesson.objects.get(pk=lesson.pk)


class At:
    """A bench with its tablet and what its crew will say."""

    def __init__(self, address: str, lesson: Lesson, bench: Bench, seed: int) -> None:
        self.bench = bench
        self.plan = selectors.plan_at(bench)
        self.learners = selectors.learners_of(bench)
        self.script = rehearse(self.plan, self.learners, seed=seed, slip=SLIPS[seed % len(SLIPS)])
        self.tablet = Tablet(address, bench.join_code)
        assert lesson.opened_at is not None
        self.began_s = lesson.opened_at.timestamp()

    def work(self, chance: random.Random, takes_s: float, stop: float) -> None:
        """Says everything within so long [s], at odd intervals, and sends until nothing waits."""
        self.tablet.join()
        began, said = time.monotonic(), 0
        when = sorted(chance.uniform(0, takes_s) for _ in self.script)
        while (said < len(self.script) or self.tablet.rows) and time.monotonic() < stop:
            while said < len(self.script) and when[said] <= time.monotonic() - began:
                event = self.script[said]
                self.tablet.add(event.kind, dict(event.data), self.began_s + event.at_s)
                said += 1
            if not self.tablet.flush_one():
                time.sleep(AGAIN_S * chance.random())


def restart_the_database() -> str:
    """Restarts the project's own cluster at once; where somebody else uses it too, every connection of the server to
    this database is ended, which is all that a restart is to it. What was done."""
    command = os.environ.get("SOAK_RESTART", "")
    if command and subprocess.run(["bash", "-c", command], capture_output=True, check=False).returncode == 0:
        return "database restarted"
    with psycopg.connect(os.environ["DATABASE_URL"], autocommit=True) as own:
        own.execute(
            "SELECT pg_terminate_backend(pid) FROM pg_stat_activity "
            "WHERE datname = current_database() AND usename = 'bulwark_web' AND pid <> pg_backend_pid()"
        )
    return "database connections ended"


def faults(rows: list[At], server: int, number: int, seed: int, done: threading.Event) -> Counter[str]:
    """Makes the faults, spread over the time that the lessons take."""
    chance, made = random.Random(seed), Counter[str]()
    kinds = [*AT_TABLETS * 6, *AT_THE_SERVER]
    while sum(made.values()) < number and not done.is_set():
        what = chance.choice(kinds)
        if what == "worker":
            made[what] += kill_a_worker(server, chance)
        elif what == "database":
            made[restart_the_database()] += 1
        else:
            a_fault(chance.choice(rows).tablet, what, chance)
            made[what] += 1
        time.sleep(chance.uniform(0, 2 * BETWEEN_S))
    return made


def outcome(state: Any, now_s: float) -> tuple[Any, ...]:
    """What a bench comes to, but for the moments, which a clock that is set moves by the time an answer takes."""
    walls = tuple((row.control.id, row.status) for row in bricks(state, now_s, ended=True))
    breaches = sorted((i.finding.key, i.open, i.action) for i in state.incidents)
    foods = sorted((name, bool(food.kept), food.discarded) for name, food in state.foods.items())
    return walls, tuple(breaches), tuple(sorted(state.done)), tuple(foods)


def judge(at: At) -> dict[str, Any]:
    """What of a bench's entries was lost or doubled, and whether it stands as if nothing had gone wrong."""
    log = list(Event.objects.filter(bench=at.bench).order_by("seq"))
    ids = Counter(str(row.uuid) for row in log)
    lost = [name for name in at.tablet.taken if name not in ids]
    end_s = at.began_s + max(event.at_s for event in at.script) + 60
    shifted = [type(e)(id=e.id, kind=e.kind, at_s=e.at_s + at.began_s, data=e.data) for e in at.script]
    undisturbed = fold(at.plan, at.learners, shifted)
    stands = fold(at.plan, at.learners, [to_event(row) for row in log])
    kept = selectors.bench_state(at.bench)[0]
    same = outcome(stands, end_s) == outcome(undisturbed, end_s) and stands == kept
    return {
        "lost": len(lost),
        "doubled": sum(n - 1 for n in ids.values()),
        "waiting": len(at.script) - len(at.tablet.taken),
        "refused": at.tablet.refused,
        "same": same,
    }


def main() -> int:
    """Runs it; the exit status."""
    ask = argparse.ArgumentParser()
    ask.add_argument("address")
    ask.add_argument("server", type=int)
    ask.add_argument("--lessons", type=int, default=20)
    ask.add_argument("--faults", type=int, default=200)
    ask.add_argument("--seed", type=int, default=1)
    asked = ask.parse_args()
    rows = []
    for n in range(asked.lessons):
        lesson = a_lesson(n)
        rows += [At(asked.address, lesson, b, asked.seed + 10 * n + i) for i, b in enumerate(lesson.benches.all())]
    close_old_connections()
    stop, done = time.monotonic() + LONGEST_S, threading.Event()
    takes_s = asked.faults * BETWEEN_S
    chances = [random.Random(asked.seed + n) for n in range(len(rows))]
    workers = [
        threading.Thread(target=at.work, args=(chance, takes_s, stop)) for at, chance in zip(rows, chances, strict=True)
    ]
    made: Counter[str] = Counter()
    breaker = threading.Thread(target=lambda: made.update(faults(rows, asked.server, asked.faults, asked.seed, done)))
    began = time.monotonic()
    for worker in [*workers, breaker]:
        worker.start()
    for worker in workers:
        worker.join()
    done.set()
    breaker.join()
    close_old_connections()
    judged = [judge(at) for at in rows]
    entries = sum(len(at.tablet.taken) for at in rows)
    told = {name: sum(row[name] for row in judged) for name in ("lost", "doubled", "waiting")}
    refused = [line for row in judged for line in row["refused"]]
    same = sum(row["same"] for row in judged)
    took_s = time.monotonic() - began
    print(f"{asked.lessons} lessons, {len(rows)} benches, {entries} entries acknowledged in {took_s:.0f} s")
    print(f"faults: {sum(made.values())} ({', '.join(f'{name} {n}' for name, n in sorted(made.items()))})")
    print(f"lost {told['lost']}, doubled {told['doubled']}, never taken {told['waiting']}, refused {len(refused)}")
    for line in refused[:5]:
        print(f"  refused: {line}")
    print(f"benches that stand as if undisturbed: {same} of {len(rows)}")
    right = not any(told.values()) and not refused and same == len(rows)
    return 0 if right else 1


if __name__ == "__main__":
    raise SystemExit(main())
