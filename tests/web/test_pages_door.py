"""The way of a request to its thread: bodies that stall, that are too large, that break off."""

import asyncio
from collections.abc import Awaitable, Callable, Coroutine
from concurrent.futures import ThreadPoolExecutor
from typing import Any, TypeVar

import pytest

from bulwark.pages_door import Limits, Pages
from bulwark.presentation.patience import WAIT

Answered = TypeVar("Answered")
Messages = list[dict[str, Any]]
LIMITS = Limits(most_bytes=1000, idle_s=0.1, whole_s=0.4)


def echo(environ: dict[str, Any], start: Callable[..., Any]) -> list[bytes]:
    """Answers with the method, the told length and the body."""
    body = environ["wsgi.input"].read()
    start("200 OK", [("Content-Type", "text/plain")])
    return [f"{environ['REQUEST_METHOD']} {environ['CONTENT_LENGTH']} ".encode(), body]


def scope(method: str = "POST", **headers: str) -> dict[str, Any]:
    rows = [(name.replace("_", "-").encode(), value.encode()) for name, value in headers.items()]
    return {
        "type": "http",
        "method": method,
        "path": "/b/entries/",
        "query_string": b"",
        "http_version": "1.1",
        "headers": rows,
    }


def piece(body: bytes, more: bool = False) -> dict[str, Any]:
    return {"type": "http.request", "body": body, "more_body": more}


def run(work: Coroutine[Any, Any, Answered]) -> Answered:
    """Runs to its end on a thread of its own: a browser test may have left a loop running in this one."""
    with ThreadPoolExecutor(1) as thread:
        return thread.submit(asyncio.run, work).result(timeout=30)


def receiving(*messages: dict[str, Any], every_s: float = 0.0) -> Callable[[], Awaitable[dict[str, Any]]]:
    """A device that sends these messages and then nothing more."""
    left = list(messages)

    async def receive() -> dict[str, Any]:
        if not left:
            await asyncio.Event().wait()
        await asyncio.sleep(every_s)
        return left.pop(0)

    return receive


async def asked(pages: Pages, receive: Callable[[], Any], **headers: str) -> Messages:
    sent: Messages = []

    async def send(message: dict[str, Any]) -> None:
        sent.append(message)

    await pages(scope(**headers), receive, send)
    return sent


def door(threads: int = 2) -> Pages:
    return Pages(echo, threads=threads, limits=LIMITS)


def test_a_body_in_pieces_arrives_whole_and_its_length_is_told() -> None:
    sent = run(asked(door(), receiving(piece(b"cook", True), piece(b"ed"))))
    assert sent[0]["status"] == 200
    assert (b"content-length", b"13") in sent[0]["headers"]
    assert sent[1]["body"] == b"POST 6 cooked"


@pytest.mark.parametrize("size", [1000, 1001])
def test_a_body_is_taken_up_to_its_limit_and_no_further(size: int) -> None:
    sent = run(asked(door(), receiving(piece(b"x" * 600, True), piece(b"x" * (size - 600)))))
    assert sent[0]["status"] == (200 if size == 1000 else 413)


def test_what_says_that_it_is_too_large_is_not_read_at_all() -> None:
    sent = run(asked(door(), receiving(), content_length="1001"))
    assert sent[0]["status"] == 413
    assert b"Nothing was changed" in sent[1]["body"]


def test_a_body_that_stalls_is_refused_in_words_and_its_socket_closed() -> None:
    sent = run(asked(door(), receiving(piece(b"half", True))))
    assert sent[0]["status"] == 408
    assert (b"connection", b"close") in sent[0]["headers"]
    assert b"please send it again" in sent[1]["body"]


def test_a_body_that_drips_is_refused_when_its_whole_time_is_over() -> None:
    drops = [piece(b"x", True) for _ in range(50)]
    assert run(asked(door(), receiving(*drops, every_s=0.05)))[0]["status"] == 408


def test_a_device_that_goes_away_half_way_is_answered_nothing() -> None:
    assert run(asked(door(), receiving(piece(b"half", True), {"type": "http.disconnect"}))) == []


def test_thirty_stalled_bodies_hold_no_thread() -> None:
    async def together() -> tuple[Messages, int]:
        pages = Pages(echo, threads=1, limits=Limits(1000, idle_s=30.0, whole_s=30.0))
        stalled = [asyncio.create_task(asked(pages, receiving(piece(b"half", True)))) for _ in range(30)]
        await asyncio.sleep(0.05)
        sent = await asyncio.wait_for(asked(pages, receiving(piece(b"whole"))), timeout=5.0)
        waiting = sum(not task.done() for task in stalled)
        for task in stalled:
            task.cancel()
        return sent, waiting

    sent, waiting = run(together())
    assert (sent[0]["status"], waiting) == (200, 30)


def test_an_answer_without_content_has_no_length_put_to_it() -> None:
    def empty(environ: dict[str, Any], start: Callable[..., Any]) -> list[bytes]:
        start("204 No Content", [])
        return []

    sent = run(asked(Pages(empty, threads=1, limits=LIMITS), receiving(piece(b""))))
    assert sent[0] == {"type": "http.response.start", "status": 204, "headers": []}


def test_an_answer_that_is_to_wait_waits_and_does_not_say_how_long() -> None:
    def slow(environ: dict[str, Any], start: Callable[..., Any]) -> list[bytes]:
        start("404 Not Found", [("Content-Type", "text/plain"), (WAIT, "0.3")])
        return [b"no such code"]

    async def timed() -> tuple[float, Messages]:
        clock = asyncio.get_running_loop().time
        began = clock()
        sent = await asked(Pages(slow, threads=1, limits=LIMITS), receiving(piece(b"")))
        return clock() - began, sent

    took_s, sent = run(timed())
    assert took_s >= 0.3
    assert WAIT.lower().encode() not in dict(sent[0]["headers"])
