"""Tells open screens that a bench has changed: PostgreSQL NOTIFY to server-sent events.

One listening connection for each web process, shared by all its screens. If it is lost the
screens go on polling and the listener comes back by itself.
"""

import asyncio
import contextlib
import logging
from collections.abc import AsyncIterator
from weakref import WeakKeyDictionary

import psycopg
from django.db import connection
from django.http import StreamingHttpResponse

log = logging.getLogger(__name__)
KEEP_ALIVE_S = 15.0


class _Hub:
    """Passes notices of this process's one listener to every screen that waits."""

    def __init__(self) -> None:
        self.waiting: set[asyncio.Queue[tuple[int, int, int]]] = set()
        self.task: asyncio.Task[None] | None = None

    def join(self) -> asyncio.Queue[tuple[int, int, int]]:
        queue: asyncio.Queue[tuple[int, int, int]] = asyncio.Queue(maxsize=200)
        self.waiting.add(queue)
        if self.task is None or self.task.done():
            self.task = asyncio.create_task(self._listen())
        return queue

    def leave(self, queue: asyncio.Queue[tuple[int, int, int]]) -> None:
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


async def _stream(lesson_id: int, bench_id: int | None) -> AsyncIterator[bytes]:
    hub = _hubs.setdefault(asyncio.get_running_loop(), _Hub())
    queue = hub.join()
    try:
        yield b"retry: 3000\nevent: hello\ndata: ready\n\n"
        while True:
            try:
                lesson, bench, seq = await asyncio.wait_for(queue.get(), KEEP_ALIVE_S)
            except TimeoutError:
                yield b": still here\n\n"
                continue
            if lesson == lesson_id and bench_id in (None, bench):
                yield f"event: changed\ndata: {bench}:{seq}\n\n".encode()
    finally:
        hub.leave(queue)


def stream_response(lesson_id: int, bench_id: int | None = None) -> StreamingHttpResponse:
    """Server-sent events for a lesson, or for one bench of it."""
    response = StreamingHttpResponse(_stream(lesson_id, bench_id), content_type="text/event-stream")
    response["Cache-Control"] = "no-store"
    response["X-Accel-Buffering"] = "no"
    return response
