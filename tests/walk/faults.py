"""A tablet and a server that fail as they do in a kitchen: what was tapped is still there once, in its time."""

import os
import signal
import subprocess
import time
import uuid
from collections import Counter
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from random import Random
from typing import Any

from tests.walk.tablet import SentTablet
from tests.walk.visitor import Page, Visitor

# How often a tap meets a fault, which, and how often the server loses a process.
OFTEN, KILLS = 0.2, 0.03
FAULTS = ("double", "lost_answer", "cut", "reload", "other_tablet")
CUT_S = 1.2
# A tablet tries again so often [s], and gives up never in a lesson: so many times are a minute.
AGAIN_S, TIMES = 0.25, 240


class FaultyTablet(SentTablet):
    """A tablet over HTTP whose taps meet faults. It sends again what was not acknowledged, under the same id."""

    def __init__(self, address: str, code: str, chance: Random, server: int) -> None:
        self.address, self.code, self.chance, self.server = address, code, chance, server
        self.made: Counter[str] = Counter()
        self.tapped_before = 0
        super().__init__(_joined(address, code))

    @property
    def taps(self) -> int:
        """Those of all devices that were this tablet."""
        return self.tapped_before + self.visitor.taps

    def screen(self) -> Page:
        """What the tablet shows once the server answers."""
        for _ in range(TIMES):
            try:
                page = super().screen()
            except OSError:
                page = None
            if page is not None and page.status < 500:
                return page
            time.sleep(AGAIN_S)
        raise TimeoutError("the server did not come back")

    def post(self, kind: str, data: Mapping[str, Any]) -> tuple[int, dict[str, Any]]:
        """One entry through whatever goes wrong."""
        own, happened_ms = str(uuid.uuid4()), time.time() * 1000
        what = self.chance.choice(FAULTS) if self.chance.random() < OFTEN else ""
        self.made[what] += bool(what)
        if self.server and self.chance.random() < KILLS:
            self.made["worker"] += kill_a_worker(self.server, self.chance)
        if what == "cut":
            time.sleep(CUT_S)
        elif what == "reload":
            self.visitor.get("/b/")
        elif what == "other_tablet":
            self.tapped_before += self.visitor.taps
            self.visitor = _joined(self.address, self.code)
        answer = self._until_taken(kind, data, own, happened_ms)
        if what in ("double", "lost_answer") and answer[0] == 200:
            answer = self._until_taken(kind, data, own, happened_ms)
        return answer

    def _until_taken(self, kind: str, data: Mapping[str, Any], own: str, at_ms: float) -> tuple[int, dict[str, Any]]:
        for _ in range(TIMES):
            try:
                status, body = self.visitor.entry(kind, dict(data), own=own, happened_ms=at_ms)
            except OSError:
                status, body = 503, {}
            if status < 500 and status != 429:
                return status, body
            time.sleep(AGAIN_S)
        return 503, {"message": "the server did not come back"}


def _joined(address: str, code: str) -> Visitor:
    """Another device at a bench; its count of taps begins anew."""
    visitor = Visitor(address)
    for _ in range(TIMES):
        try:
            form = visitor.get(f"/j/{code}/").form("/join/")
            if form is not None and visitor.send(form).status < 400:
                return visitor
        except OSError:
            pass
        time.sleep(AGAIN_S)
    raise TimeoutError("the server did not come back")


def kill_a_worker(server: int, chance: Random) -> bool:
    """Kills one of the server's processes, as the machine might. True if there was one."""
    told = subprocess.run(
        ["ps", "--ppid", str(server), "-o", "pid=,args="], capture_output=True, text=True, check=False
    )
    found = [int(row.split()[0]) for row in told.stdout.splitlines() if "spawn_main" in row or "uvicorn" in row]
    if not found:
        return False
    os.kill(chance.choice(found), signal.SIGKILL)
    return True


class Faults:
    """Makes the tablets of a walk, and counts what went wrong at all of them."""

    def __init__(self, server: int, seed: int = 1) -> None:
        self.server, self.chance, self.made = server, Random(seed), Counter[str]()

    @contextmanager
    def joins(self, address: str, code: str) -> Iterator[FaultyTablet]:
        """A tablet that joins by its code and fails."""
        tablet = FaultyTablet(address, code, self.chance, self.server)
        yield tablet
        self.made += tablet.made
