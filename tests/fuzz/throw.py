"""Every address there is, found as a visitor finds it, with what it is sent changed."""

import random
import time
import traceback
import uuid
from collections import Counter
from dataclasses import dataclass, field
from http.cookies import SimpleCookie
from typing import Any
from urllib.parse import parse_qsl, quote_from_bytes, urlsplit

from django.core.signals import got_request_exception
from django.db import transaction
from django.test import Client
from django.urls import URLPattern

from bulwark import urls
from bulwark.bench import limits
from bulwark.lessons import selectors
from bulwark.pages_door import LONG_WORK
from tests.core.lesson.test_events import RIGHT
from tests.fuzz import hostile
from tests.web.conftest import Hostel
from tests.web.test_forms import page_of

SLOW_S = 4.0


@dataclass(frozen=True, slots=True)
class Target:
    """One thing to send: by whom, how, where, with which fields."""

    who: str
    method: str
    path: str
    fields: tuple[tuple[str, str], ...] = ()


@dataclass(slots=True)
class Thrown:
    """What came of it."""

    count: int = 0
    broke: Counter[str] = field(default_factory=Counter)
    slow: Counter[str] = field(default_factory=Counter)
    statuses: Counter[int] = field(default_factory=Counter)


class Thrower:
    """Throws at one organisation that has something of everything. Each request is taken back afterwards."""

    def __init__(self, hostel: Hostel, seed: int) -> None:
        self.draw = random.Random(seed)
        self.hostel = hostel
        self.clients = {"educator": hostel.client(), "bench": hostel.tablet(), "stranger": Client()}
        for client in self.clients.values():
            client.raise_request_exception = False
        found = [*self._found("educator", "/"), *self._found("bench", "/b/"), *self._patterns()]
        # What tells how far it is works on a thread of its own, past this test's transaction.
        self.targets = [target for target in found if not target.path.endswith(tuple(row[1:] for row in LONG_WORK))]
        self.cookies = {who: client.cookies.output(header="", sep=";") for who, client in self.clients.items()}
        self.wrong = ""
        self.thrown = Thrown()

    def _found(self, who: str, start: str) -> list[Target]:
        """Every form and every link with a query, over all pages reached by links."""
        client, seen, waiting, found = self.clients[who], set[str](), [start], dict[Target, None]()
        while waiting:
            path = waiting.pop()
            if path in seen or not path.startswith("/") or path.startswith("/static/"):
                continue
            seen.add(path)
            page = page_of(client, path)
            for form in page.found:
                found[Target(who, "POST", form.action or path, tuple(form.fields.items()))] = None
                found[Target(who, "GET", form.action or path, tuple(form.fields.items()))] = None
            for link in sorted(page.links):
                parts = urlsplit(link)
                found[Target(who, "GET", parts.path or path, tuple(parse_qsl(parts.query)))] = None
                waiting.append(link.partition("#")[0])
        return list(found)

    def _patterns(self) -> list[Target]:
        """Every address of the program, with numbers and words in its places."""
        found = []
        for row in urls.urlpatterns:
            if isinstance(row, URLPattern):
                for who in self.clients:
                    for method in ("GET", "POST"):
                        found.append(Target(who, method, f"pattern:{row.pattern}"))
        return found

    def _path(self, target: Target) -> str:
        if not target.path.startswith("pattern:"):
            return target.path
        parts = []
        for part in target.path.removeprefix("pattern:").split("/"):
            if "int:" in part:
                number = self.draw.choice([self.hostel.lesson.pk, self.hostel.puffin.pk, 1, 0, 2**31, 2**63, 10**30])
                part = str(number)
            elif "<" in part or "(?P" in part:
                part = quote_from_bytes(hostile.text(self.draw)[:300].encode("utf-8", "surrogatepass"), safe="")
            parts.append(part.strip("^$\\"))
        return "/" + "/".join(parts)

    def throw(self) -> None:
        """One request."""
        target = self.draw.choice(self.targets)
        limits._left.clear()
        selectors._snapshots.clear()
        selectors._opened.clear()
        for who, client in self.clients.items():  # who signed out is in again
            client.cookies = SimpleCookie(self.cookies[who])
        self.wrong = ""
        began = time.perf_counter()
        with transaction.atomic():
            status = self._bench_json() if self.draw.random() < 0.2 else self._send(target)
            transaction.set_rollback(True)
        if time.perf_counter() - began > SLOW_S:
            self.thrown.slow[f"{target.method} {target.path}"] += 1
        self.thrown.count += 1
        self.thrown.statuses[status] += 1
        if status >= 500:
            self.thrown.broke[f"{target.method} {target.path}: {self.wrong}"] += 1

    def _send(self, target: Target) -> int:
        fields = [(key, hostile.text(self.draw) if self.draw.random() < 0.3 else value) for key, value in target.fields]
        if self.draw.random() < 0.3:
            fields.append((self.draw.choice([key for key, _ in target.fields] or ["next"]), hostile.text(self.draw)))
        query = "&".join(f"{quoted(key)}={quoted(value)}" for key, value in fields)
        client, path = self.clients[target.who], self._path(target)
        if target.method == "GET":
            return client.get(f"{path}?{query}" if query else path).status_code
        return client.post(path, query, content_type="application/x-www-form-urlencoded").status_code

    def _bench_json(self) -> int:
        kind = self.draw.choice([*RIGHT, "dance"])
        now = time.time() * 1000
        body = {"id": str(uuid.uuid4()), "kind": kind, "data": RIGHT.get(kind, {}), "happened_at": now, "sent_at": now}
        document = hostile.as_json(hostile.changed(body, self.draw), self.draw)
        path = self.draw.choice(["/b/entries/", "/b/entries/", "/b/entries/", "/b/here/"])
        return self.clients["bench"].post(path, document, content_type="application/json").status_code

    def note(self, sender: Any, **_: Any) -> None:
        """Remembers where it broke."""
        rows = traceback.format_exc().strip().splitlines()
        ours = [row.strip() for row in rows if "/src/" in row]
        self.wrong = f"{rows[-1][:160]} @ {ours[-1].split('/src/')[-1] if ours else ''}"

    def run(self, count: int, *, until_s: float | None = None) -> Thrown:
        """So many requests, or as many as fit."""
        got_request_exception.connect(self.note)
        try:
            for _ in range(count):
                if until_s is not None and time.monotonic() > until_s:
                    break
                self.throw()
        finally:
            got_request_exception.disconnect(self.note)
        return self.thrown


def quoted(value: str) -> str:
    return quote_from_bytes(value.encode("utf-8", "surrogatepass"), safe="")
