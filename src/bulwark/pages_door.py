"""How an ordinary request gets from the event loop to a thread and back.

The whole body is read on the loop, with a limit of time and of size, before a thread is taken: a
device that stalls half-way through holds a socket, never one of the few threads. Then one hop to the
thread makes the whole answer and one hop brings it back (see bin/bench), so that a slow reader holds
neither thread nor database connection.
"""

import asyncio
import contextvars
from collections.abc import Callable, Iterable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from functools import partial
from http import HTTPStatus
from io import BytesIO
from tempfile import SpooledTemporaryFile
from typing import IO, Any, NamedTuple, cast

from a2wsgi.wsgi import build_environ

from bulwark.presentation.patience import WAIT

Message = dict[str, Any]
Receive = Callable[[], Any]
Send = Callable[[Message], Any]
Wsgi = Callable[..., Any]

# What is worked on for longer than a page may take, and tells how far it is: it has a way of its own.
LONG_WORK = ("/flow/live/", "/board/live/", "/workbench/log/live/")
# A body that is larger waits on the disk, not in memory.
IN_MEMORY_BYTES = 1024 * 1024

REFUSED = {
    HTTPStatus.REQUEST_TIMEOUT: "This did not arrive whole. Nothing was changed: please send it again.",
    HTTPStatus.REQUEST_ENTITY_TOO_LARGE: "This is too large to be taken. Nothing was changed.",
}


class NotTakenError(Exception):
    """The body of a request is not taken."""

    def __init__(self, status: HTTPStatus) -> None:
        super().__init__(status.phrase)
        self.status = status


class LeftError(Exception):
    """The device went away before its request was whole."""


@dataclass(frozen=True, slots=True)
class Limits:
    """What a body may take: bytes, seconds until the next piece of it, seconds for the whole."""

    most_bytes: int
    idle_s: float = 10.0
    whole_s: float = 120.0


class Answer(NamedTuple):
    """What the thread made."""

    status: int
    headers: list[tuple[bytes, bytes]]
    body: bytes


@dataclass(frozen=True, slots=True)
class Streams:
    """How an answer with a ``header`` goes on after its thread is free: ``serve`` is given what the header says,
    the socket, and a way to ask whether the same request would still be answered so."""

    header: str
    serve: Callable[[str, Receive, Send, Callable[[], Any]], Any]


class Pages:
    """An ASGI application that answers each request with a WSGI application on one of its threads."""

    def __init__(self, app: Wsgi, *, threads: int, limits: Limits, streams: Streams | None = None) -> None:
        self.app = app
        self.limits = limits
        self.streams = streams
        self.threads = ThreadPoolExecutor(threads, thread_name_prefix="pages")

    async def __call__(self, scope: Message, receive: Receive, send: Send) -> None:
        with SpooledTemporaryFile(IN_MEMORY_BYTES) as body:
            try:
                size = await read_body(scope, receive, cast("IO[bytes]", body), self.limits)
                answer = await self._asked(scope, cast("IO[bytes]", body), size)
            except NotTakenError as wrong:
                answer = _refusal(wrong.status)
            except LeftError:
                return
        wait = _header(answer, WAIT)
        if wait:
            await asyncio.sleep(float(wait))
            answer = answer._replace(headers=[row for row in answer.headers if row[0] != WAIT.lower().encode()])
        ticket = self._ticket(answer)
        if self.streams and ticket:
            await self.streams.serve(ticket, receive, send, partial(self._still, scope, ticket))
            return
        await send({"type": "http.response.start", "status": answer.status, "headers": answer.headers})
        await send({"type": "http.response.body", "body": answer.body})

    async def _asked(self, scope: Message, body: IO[bytes], size: int) -> Answer:
        environ = build_environ(cast("Any", scope), cast("Any", body)) | {"CONTENT_LENGTH": str(size)}
        work = partial(contextvars.copy_context().run, _answered, self.app, cast("Message", environ))
        return await asyncio.get_running_loop().run_in_executor(self.threads, work)

    def _ticket(self, answer: Answer) -> str:
        return _header(answer, self.streams.header) if self.streams else ""

    async def _still(self, scope: Message, ticket: str) -> bool:
        """True if the same request is still given the same ticket, or nobody can say just now."""
        answer = await self._asked(scope, BytesIO(), 0)
        return answer.status == HTTPStatus.SERVICE_UNAVAILABLE or self._ticket(answer) == ticket


async def read_body(scope: Message, receive: Receive, body: IO[bytes], limits: Limits) -> int:
    """Reads a request's body into a file, goes back to its beginning and gives its length in bytes.
    Raises NotTakenError when it is too large or too slow, LeftError when the device has gone."""
    told = dict(scope["headers"]).get(b"content-length", b"0")
    if told.isdigit() and int(told) > limits.most_bytes:
        raise NotTakenError(HTTPStatus.REQUEST_ENTITY_TOO_LARGE)
    try:
        async with asyncio.timeout(limits.whole_s):
            size = await _pieces(receive, body, limits)
    except TimeoutError as late:
        raise NotTakenError(HTTPStatus.REQUEST_TIMEOUT) from late
    body.seek(0)
    return size


async def _pieces(receive: Receive, body: IO[bytes], limits: Limits) -> int:
    size, more = 0, True
    while more:
        async with asyncio.timeout(limits.idle_s):
            message = await receive()
        if message["type"] == "http.disconnect":
            raise LeftError
        piece, more = message.get("body", b""), message.get("more_body", False)
        size += len(piece)
        if size > limits.most_bytes:
            raise NotTakenError(HTTPStatus.REQUEST_ENTITY_TOO_LARGE)
        body.write(piece)
    return size


def _refusal(status: HTTPStatus) -> Answer:
    """The refusal in words; the connection is closed, as the rest of the body may still be on its way."""
    text = REFUSED[status].encode()
    headers = {"content-type": "text/plain; charset=utf-8", "content-length": str(len(text)), "connection": "close"}
    return Answer(int(status), _as_bytes(headers.items()), text)


def _answered(app: Wsgi, environ: Message) -> Answer:
    """Asks the application, on a thread."""
    head: list[Any] = []
    chunks = app(environ, lambda status, headers, wrong=None: head.extend((status, headers)))
    try:
        body = b"".join(chunks)
    finally:
        getattr(chunks, "close", lambda: None)()
    status, headers = int(head[0][:3]), list(head[1])
    if status not in (HTTPStatus.NO_CONTENT, HTTPStatus.NOT_MODIFIED) and not _has(headers, "content-length"):
        headers.append(("content-length", str(len(body))))
    return Answer(status, _as_bytes(headers), body)


def _header(answer: Answer, name: str) -> str:
    return next((value.decode("latin-1") for key, value in answer.headers if key == name.lower().encode()), "")


def _has(headers: Iterable[tuple[str, str]], name: str) -> bool:
    return any(key.lower() == name for key, _ in headers)


def _as_bytes(headers: Iterable[tuple[str, str]]) -> list[tuple[bytes, bytes]]:
    return [(name.lower().encode("latin-1"), value.strip().encode("latin-1")) for name, value in headers]
