"""Long work that tells how far it is, and stops when nobody listens any more."""

import asyncio
import json
import threading
import time
from collections.abc import AsyncIterator, Callable

from django.http import StreamingHttpResponse

LONG_S = 45.0
# A page answers first with what a search finds in this time.
FIRST_LOOK_S = 2.0
KEEP_ALIVE_S = 1.0

Work = Callable[[Callable[[int], None], Callable[[], bool]], str]


def deadline(seconds: float, cancelled: Callable[[], bool] | None = None) -> Callable[[], bool]:
    """Says when work must stop: after so many seconds from now, or when nobody waits for it."""
    end = time.monotonic() + seconds
    return lambda: time.monotonic() > end or bool(cancelled and cancelled())


def _unheard(task: "asyncio.Task[str]") -> None:
    """How work ended that nobody listens to any more: what it stumbles over then (its file is closed) is not told."""
    if not task.cancelled():
        task.exception()


async def _stream(work: Work) -> AsyncIterator[bytes]:
    """``work`` runs in a thread; it is told to stop when the stream is closed, which is how a
    person cancels."""
    loop = asyncio.get_running_loop()
    news: asyncio.Queue[int] = asyncio.Queue()
    gone = threading.Event()

    def progress(bound: int) -> None:
        loop.call_soon_threadsafe(news.put_nowait, bound)

    task = asyncio.create_task(asyncio.to_thread(work, progress, gone.is_set))
    try:
        yield b"event: begun\ndata: 0\n\n"
        while not task.done():
            try:
                bound = await asyncio.wait_for(news.get(), KEEP_ALIVE_S)
            except TimeoutError:
                yield b": still looking\n\n"
            else:
                yield f"event: bound\ndata: {bound}\n\n".encode()
        yield f"event: found\ndata: {json.dumps(await task)}\n\n".encode()
    finally:
        gone.set()
        task.add_done_callback(_unheard)


def stream_response(work: Work) -> StreamingHttpResponse:
    """Server-sent events: ``bound`` as far as it has come, then ``found`` with a page fragment."""
    response = StreamingHttpResponse(_stream(work), content_type="text/event-stream")
    response["Cache-Control"] = "no-store"
    response["X-Accel-Buffering"] = "no"
    return response
