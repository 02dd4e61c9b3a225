"""Notices from the log to the screens, and a start that names what is wrong."""

import asyncio
import os
import subprocess
import sys
from collections.abc import Callable, Coroutine
from concurrent.futures import ThreadPoolExecutor
from typing import Any
from unittest.mock import Mock

import pytest
from django.core.management import call_command
from django.db import OperationalError, connection
from django.test import Client

from bulwark.lessons import event_stream
from bulwark.lessons.models import Event
from tests.web.conftest import Hostel


class Screen:
    """A screen that listens: what it was sent, until it goes away."""

    def __init__(self) -> None:
        self.sent: list[dict[str, Any]] = []
        self.going = asyncio.Event()
        self.asked = False

    async def receive(self) -> dict[str, Any]:
        if not self.asked:
            self.asked = True
            return {"type": "http.request", "body": b"", "more_body": False}
        await self.going.wait()
        return {"type": "http.disconnect"}

    async def send(self, message: dict[str, Any]) -> None:
        self.sent.append(message)

    @property
    def text(self) -> bytes:
        return b"".join(message.get("body", b"") for message in self.sent)

    async def hears(self, what: bytes, *, within_s: float = 5.0) -> bool:
        for _ in range(int(within_s / 0.05)):
            if what in self.text:
                return True
            await asyncio.sleep(0.05)
        return False


async def always() -> bool:
    return True


def run(work: Coroutine[Any, Any, Any]) -> Any:
    """Runs on a thread of its own: a browser test may have left a loop on this one."""
    with ThreadPoolExecutor(1) as thread:
        return thread.submit(asyncio.run, work).result(timeout=90)


async def hears_of(ticket: str, act: Callable[[], None]) -> bytes:
    """What a screen hears within two seconds of an act."""
    screen = Screen()
    listens = asyncio.create_task(event_stream.serve(ticket, screen.receive, screen.send, always))
    assert await screen.hears(b"hello")
    await asyncio.sleep(0.5)  # until the listener listens
    await asyncio.to_thread(act)
    await screen.hears(b"changed", within_s=2)
    screen.going.set()
    await listens
    return screen.text


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("whose", ["whole lesson", "own bench", "other bench", "other lesson"])
def test_a_screen_hears_of_its_own_lesson_and_bench_only(whose: str) -> None:
    hostel = Hostel().open()
    bench = {"whole lesson": 0, "other bench": hostel.gannet.pk}.get(whose, hostel.puffin.pk)
    lesson = hostel.lesson.pk + (1 if whose == "other lesson" else 0)

    def say() -> None:
        hostel.says("called")
        connection.close()

    heard = run(hears_of(f"{lesson}:{bench}", say))

    told = f"event: changed\ndata: {hostel.puffin.pk}:1\n\n".encode()
    assert (told in heard) is not whose.startswith("other")


def asked(path: str, client: Client, method: str = "GET") -> dict[str, Any]:
    """The scope of a request with a client's cookies."""
    cookies = "; ".join(f"{name}={morsel.value}" for name, morsel in client.cookies.items())
    return {
        "type": "http",
        "http_version": "1.1",
        "method": method,
        "path": path,
        "raw_path": path.encode(),
        "root_path": "",
        "query_string": b"",
        "scheme": "http",
        "headers": [(b"host", b"testserver"), (b"cookie", cookies.encode())],
        "client": ("127.0.0.1", 1),
        "server": ("testserver", 80),
    }


async def status_of(app: Any, scope: dict[str, Any], within_s: float = 20) -> int:
    screen = Screen()
    await asyncio.wait_for(app(scope, screen.receive, screen.send), within_s)
    return int(screen.sent[0]["status"])


async def many_listen(app: Any, stream: dict[str, Any], page: dict[str, Any], screens: int) -> tuple[int, int]:
    """How many of so many screens hear, and what a page answers meanwhile."""
    rows = [Screen() for _ in range(screens)]
    tasks = [asyncio.create_task(app(stream, row.receive, row.send)) for row in rows]
    heard = sum(await asyncio.gather(*(row.hears(b"hello", within_s=30) for row in rows)))
    status = await status_of(app, page)
    for row in rows:
        row.going.set()
    await asyncio.gather(*tasks)
    return heard, status


@pytest.mark.django_db(transaction=True)
def test_listening_screens_hold_no_connection_to_the_database() -> None:
    from bulwark.asgi import Application

    hostel = Hostel().open()
    client = hostel.client()
    stream, page = asked(f"/lessons/{hostel.lesson.pk}/live/", client), asked("/recipes/", client)

    # four times as many as the pool of connections lends out
    assert run(many_listen(Application(), stream, page, 48)) == (48, 200)


async def ends_when(app: Any, stream: dict[str, Any], act: Callable[[], Any]) -> bool:
    """True if a screen that listens is let go after an act."""
    screen = Screen()
    listens = asyncio.create_task(app(stream, screen.receive, screen.send))
    assert await screen.hears(b"hello")
    await asyncio.to_thread(act)
    await asyncio.wait([listens], timeout=3)
    over = listens.done()
    screen.going.set()
    await listens
    return over


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("signs_out", [True, False])
def test_a_stream_ends_with_the_session(monkeypatch: pytest.MonkeyPatch, signs_out: bool) -> None:
    from bulwark.asgi import Application

    monkeypatch.setattr(event_stream, "CHECK_S", 0.2)
    monkeypatch.setattr(event_stream, "KEEP_ALIVE_S", 0.1)
    hostel = Hostel().open()
    client = hostel.client()
    stream = asked(f"/lessons/{hostel.lesson.pk}/live/", client)

    def act() -> None:
        if signs_out:
            client.post("/sign-out/")
        connection.close()

    assert run(ends_when(Application(), stream, act)) is signs_out


@pytest.mark.django_db(transaction=True)
def test_a_stream_goes_on_while_nobody_can_say_whether_it_may(monkeypatch: pytest.MonkeyPatch) -> None:
    from bulwark.asgi import Application

    monkeypatch.setattr(event_stream, "CHECK_S", 0.2)
    monkeypatch.setattr(event_stream, "KEEP_ALIVE_S", 0.1)
    hostel = Hostel().open()
    stream = asked(f"/lessons/{hostel.lesson.pk}/live/", hostel.client())

    def act() -> None:
        gone = OperationalError("the connection is lost")
        monkeypatch.setattr("bulwark.lessons.selectors.lessons_for", Mock(side_effect=gone))

    assert not run(ends_when(Application(), stream, act))


@pytest.mark.django_db(transaction=True)
def test_the_logs_migration_can_be_taken_back_and_done_again() -> None:
    call_command("migrate", "lessons", "0002", verbosity=0)
    call_command("migrate", verbosity=0)  # all of it: other rooms stand on lessons

    Hostel().open().says("called")
    assert Event.objects.get().seq == 1


@pytest.mark.parametrize(
    ("change", "named"),
    [
        ({"BULWARK_DEBUG": "perhaps"}, "perhaps"),
        ({"DATABASE_URL": None}, "DATABASE_URL"),
    ],
    ids=["misspelt", "missing"],
)
def test_a_wrong_setting_stops_the_start_and_names_itself(change: dict[str, str | None], named: str) -> None:
    env = {**os.environ, "DJANGO_SETTINGS_MODULE": "bulwark.settings", "PYTHONPATH": "src", "BULWARK_SECRET_KEY": "x"}
    for key, value in change.items():
        env.pop(key, None)
        if value is not None:
            env[key] = value

    done = subprocess.run(
        [sys.executable, "-c", "import django; django.setup()"], env=env, capture_output=True, text=True, timeout=60
    )

    assert done.returncode != 0
    assert named in done.stderr
