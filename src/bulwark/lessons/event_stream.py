"""Tells open screens that a bench has changed: PostgreSQL NOTIFY to server-sent events.

One listening connection for each web process, shared by all its screens. If it is lost the
screens go on polling and the listener comes back by itself.
"""

import asyncio
import contextlib
import logging
from collections.abc import AsyncIterator, Awaitable, Callable
from typing import Any
from weakref import WeakKeyDictionary

import psycopg
from django.db import connection
from django.http import HttpResponse

log = logging.getLogger(__name__)
KEEP_ALIVE_S = 15.0

# A notice as lesson, bench and place in the log; None when the screen has gone.
_Queue = asyncio.Queue[tuple[int, int, int] | None]
Receive = Callable[[], Awaitable[Any]]
Send = Callable[[dict[str, Any]], Awaitable[None]]


class _Hub:
    """Passes notices of this process's one listener to every screen that waits."""

    def __init__(self) -> None:
        self.waiting: set[_Queue] = set()
        self.task: asyncio.Task[None] | None = None

    def join(self) -> _Queue:
        queue: _Queue = asyncio.Queue(maxsize=200)
        self.waiting.add(queue)
        if self.task is None or self.task.done():
            self.task = asyncio.create_task(self._listen())
        return queue

    def leave(self, queue: _Queue) -> None:
        self.waiting.discard(queue)
        if not self.waiting and self.task:
            self.task.cancel()
            self.task = None

    async def _listen(self) -> None:
        while True:
            try:
                async with await psycopg.AsyncConnection.connect(_conninfo(), autocommit=True) as listening:
                    await listening.execute("LISTEN bulwark")
                    async for notice in listening.notifies():
                        self._pass_on(notice.payload)
            except (psycopg.OperationalError, OSError):
                log.warning("lost the database's notices; screens poll until they are back")
            await asyncio.sleep(2)

    def _pass_on(self, payload: str) -> None:
        lesson, bench, seq = (int(part) for part in payload.split(":"))
        for queue in tuple(self.waiting):
            with contextlib.suppress(asyncio.QueueFull):  # a screen that does not read polls instead
                queue.put_nowait((lesson, bench, seq))


_hubs: WeakKeyDictionary[asyncio.AbstractEventLoop, _Hub] = WeakKeyDictionary()


def _conninfo() -> str:
    row = connection.settings_dict
    return psycopg.conninfo.make_conninfo(
        host=row["HOST"], port=row["PORT"] or None, dbname=row["NAME"], user=row["USER"], password=row["PASSWORD"]
    )


TICKET = "X-Bulwark-Stream"
# How often it is asked whether a screen may still look.
CHECK_S = 60.0


def stream_ticket(lesson_id: int, bench_id: int | None = None) -> HttpResponse:
    """What a view answers where a screen may hear of a lesson, or of one bench of it: the request is over, with
    its thread and its database connection, and ``serve`` goes on with the socket alone."""
    return HttpResponse(headers={TICKET: f"{lesson_id}:{bench_id or 0}"}, content_type="text/event-stream")


_HEADERS = [(b"content-type", b"text/event-stream"), (b"cache-control", b"no-store"), (b"x-accel-buffering", b"no")]


async def serve(ticket: str, receive: Receive, send: Send, still: Callable[[], Awaitable[bool]]) -> None:
    """Server-sent events to one screen, until it goes or ``still`` says that it may not look any more."""
    lesson_id, bench_id = (int(part) for part in ticket.split(":"))
    hub = _hubs.setdefault(asyncio.get_running_loop(), _Hub())
    queue = hub.join()
    gone = asyncio.create_task(_until_gone(receive, queue))
    await send({"type": "http.response.start", "status": 200, "headers": _HEADERS})
    try:
        await _say(send, b"retry: 3000\nevent: hello\ndata: ready\n\n")
        async for text in _notices(queue, lesson_id, bench_id, still):
            await _say(send, text)
    finally:
        gone.cancel()
        hub.leave(queue)
    await send({"type": "http.response.body", "body": b""})


async def _say(send: Send, text: bytes) -> None:
    await send({"type": "http.response.body", "body": text, "more_body": True})


async def _until_gone(receive: Receive, queue: _Queue) -> None:
    while (await receive())["type"] != "http.disconnect":
        pass
    await queue.put(None)


async def _notices(
    queue: _Queue, lesson_id: int, bench_id: int, still: Callable[[], Awaitable[bool]]
) -> AsyncIterator[bytes]:
    clock = asyncio.get_running_loop().time
    check_at = clock() + CHECK_S
    while True:
        if clock() >= check_at:
            if not await still():
                return
            check_at = clock() + CHECK_S
        try:
            notice = await asyncio.wait_for(queue.get(), KEEP_ALIVE_S)
        except TimeoutError:
            yield b": still here\n\n"
            continue
        if notice is None:
            return
        lesson, bench, seq = notice
        if lesson == lesson_id and bench_id in (0, bench):
            yield f"event: changed\ndata: {bench}:{seq}\n\n".encode()
