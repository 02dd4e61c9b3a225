"""A bench's tablet as the server sees it: joins with a code, keeps what waits, sends it until it is taken."""

from __future__ import annotations

import http.client
import json
import random
import re
import time
import uuid
from dataclasses import dataclass, field
from typing import Any
from urllib.parse import urlencode

# What is typed in a unit of its own.
READINGS = {"fridge_read": "core_c", "core_read": "core_c", "cold_read": "core_c", "ambient_read": "ambient_c"}
# A gap in the network, and how long a tablet waits before it tries again [s].
AGAIN_S = 0.15
TIMEOUT_S = 8.0


class CutError(Exception):
    """The network is gone, or an answer never came."""


@dataclass
class Waiting:
    """An entry that has not been taken yet. ``happened_ms``: by the tablet's own clock."""

    id: str
    kind: str
    data: dict[str, Any]
    happened_ms: float


@dataclass
class Tablet:
    """One tablet. ``skew_s`` is how far its clock is off; ``taken`` are the ids that the server has acknowledged."""

    address: str
    code: str
    skew_s: float = 0.0
    cookies: dict[str, str] = field(default_factory=dict)
    rows: list[Waiting] = field(default_factory=list)
    taken: list[str] = field(default_factory=list)
    refused: list[str] = field(default_factory=list)
    latencies_s: list[float] = field(default_factory=list)
    cut_until_s: float = 0.0
    lose_answer: bool = False
    twice: bool = False
    _line: http.client.HTTPConnection | None = None

    def now_ms(self) -> float:
        """Its own clock."""
        return (time.time() + self.skew_s) * 1000

    def send(self, method: str, path: str, body: str = "", kind: str = "") -> tuple[int, bytes]:
        """One request over a connection that is kept. Raises CutError where it is gone."""
        if time.monotonic() < self.cut_until_s:
            raise CutError
        line, self._line = self._line, None
        try:
            if line is None:
                line = http.client.HTTPConnection(self.address.removeprefix("http://"), timeout=TIMEOUT_S)
            line.request(method, path, body.encode(), self._headers(kind))
            if self.lose_answer:  # it went out, and what came back is lost
                self.lose_answer = False
                raise CutError
            answer = line.getresponse()
            for key, value in answer.getheaders():
                if key.lower() == "set-cookie":
                    name, _, rest = value.partition("=")
                    self.cookies[name] = rest.split(";")[0]
            found = answer.status, answer.read()
        except (OSError, http.client.HTTPException, CutError):
            if line is not None:
                line.close()
            raise CutError from None
        self._line = line
        return found

    def _headers(self, kind: str) -> dict[str, str]:
        return {
            "Cookie": "; ".join(f"{key}={value}" for key, value in self.cookies.items()),
            "X-CSRFToken": self.cookies.get("csrftoken", ""),
            "Referer": f"{self.address}/",
            "Content-Type": kind or "application/x-www-form-urlencoded",
        }

    def join(self) -> None:
        """In with the code of its bench; tried until the server answers."""
        while True:
            try:
                _status, page = self.send("GET", f"/j/{self.code}/")
                token = re.search(rb'name="csrfmiddlewaretoken" value="([^"]+)"', page)
                form = urlencode({"code": self.code, "csrfmiddlewaretoken": token[1].decode() if token else ""})
                status, _page = self.send("POST", "/join/", form)
                if status in (302, 303) and self.send("GET", "/b/")[0] == 200:
                    return
            except CutError:
                status = 503
            if status < 500:
                raise AssertionError(f"not let in: {status}")
            time.sleep(AGAIN_S)

    def add(self, kind: str, data: dict[str, Any], happened_s: float) -> None:
        """An entry that happened at a true moment [s], noted by the tablet's own clock."""
        happened_ms = (happened_s + self.skew_s) * 1000
        field = READINGS.get(kind)
        if field in data:  # as the keypad types it
            data = {**{key: row for key, row in data.items() if key != field}, "value": data[field], "unit": "C"}
        self.rows.append(Waiting(id=str(uuid.uuid4()), kind=kind, data=data, happened_ms=happened_ms))

    def reload(self) -> None:
        """The page is loaded anew: what waits comes from the tablet's store, what was on its way is sent again."""
        kept = json.dumps([vars(row) for row in self.rows])
        self.rows = [Waiting(**row) for row in json.loads(kept)]
        self._line = None

    def set_clock(self, by_s: float) -> None:
        """Somebody sets the clock: what waits keeps the moment at which it happened."""
        self.skew_s += by_s
        for row in self.rows:
            row.happened_ms += by_s * 1000

    def flush_one(self) -> bool:
        """Sends the first entry that waits; True if the server took it."""
        if not self.rows:
            return False
        row = self.rows[0]
        body = {"id": row.id, "kind": row.kind, "data": row.data, "happened_at": row.happened_ms}
        began = time.perf_counter()
        try:
            status, answer = self._post(body)
            if self.twice:
                self.twice = False
                status, answer = self._post(body)
        except CutError:
            return False
        if status == 200:
            self.latencies_s.append(time.perf_counter() - began)
            self.rows.remove(row)
            self.taken.append(row.id)
            return True
        if status == 409 and b'"question"' in answer:
            row.data = {**row.data, **({"early": True} if row.kind == "step_done" else {"confirmed": True})}
        elif status not in (403, 409, 429) and status < 500:
            self.rows.remove(row)
            self.refused.append(f"{status} {row.kind} {answer[:200]!r}")
        return False

    def _post(self, body: dict[str, Any]) -> tuple[int, bytes]:
        return self.send("POST", "/b/entries/", json.dumps({**body, "sent_at": self.now_ms()}), "application/json")


def a_fault(tablet: Tablet, what: str, chance: random.Random) -> None:
    """Something goes wrong at one tablet."""
    if what == "cut":
        tablet.cut_until_s = time.monotonic() + chance.uniform(0.2, 2.0)
    elif what == "lost_answer":
        tablet.lose_answer = True
    elif what == "reload":
        tablet.reload()
    elif what == "clock":
        tablet.set_clock(chance.choice([-3600.0, -61.0, 47.0, 86_400.0]))
    elif what == "double":
        tablet.twice = True
    elif what == "order":
        some = tablet.rows[:6]
        chance.shuffle(some)
        tablet.rows[:6] = some
