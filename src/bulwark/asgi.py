"""The ASGI application: a request has a thread until it is answered, a screen that listens has the event loop.

Django's middleware is synchronous here. Handing a whole request to one thread costs one hop;
letting it cross between loop and thread at each layer costs a dozen (see bin/bench).
"""

import ctypes
import gc
import multiprocessing
import os
import signal
import sys
from typing import Any

from django.conf import settings
from django.core.asgi import get_asgi_application
from django.core.wsgi import get_wsgi_application
from django.urls import reverse

from bulwark.lessons import event_stream
from bulwark.pages_door import LONG_WORK, Limits, Pages, Streams, Wsgi

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "bulwark.settings")
# Fewer than the database pool lends out: each may keep a connection for the next entry (bench/express.py).
THREADS = 10
_PR_SET_PDEATHSIG = 1


def by_request() -> Wsgi:
    """Django, but for the entries of tablets that go into the log at once."""
    whole = get_wsgi_application()
    from bulwark.bench import express  # models can only be loaded once Django is set up

    entries = reverse("bench_entries")

    def answer(environ: dict[str, Any], start: Any) -> Any:
        is_entry = environ["PATH_INFO"] == entries and environ.get("CONTENT_TYPE") == "application/json"
        done = express.at_once(environ) if is_entry else None
        if done is None:
            return whole(environ, start)
        start("200 OK", express.HEADERS)
        return [done]

    return answer


class Application:
    """Sends each request to the handler that suits it."""

    def __init__(self) -> None:
        self.long_work = get_asgi_application()
        limits = Limits(settings.MOST_BODY_BYTES, idle_s=settings.BODY_IDLE_S, whole_s=settings.BODY_WHOLE_S)
        screens = Streams(event_stream.TICKET, event_stream.serve)
        self.pages = Pages(by_request(), threads=THREADS, limits=limits, streams=screens)

    async def __call__(self, scope: dict[str, Any], receive: Any, send: Any) -> None:
        if scope["type"] == "http" and not scope["path"].endswith(LONG_WORK):
            await self.pages(scope, receive, send)
        else:
            await self.long_work(scope, receive, send)


def end_with_parent() -> None:
    """A worker ends with the process that started it, however that went: nothing stays behind on the port. (Linux
    only; elsewhere a worker whose parent was killed has to be ended by hand.)"""
    if sys.platform == "linux" and multiprocessing.parent_process() is not None:
        ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGTERM)


end_with_parent()
application = Application()
# What is loaded by now stays: the collector need not look through it again while a bench waits.
gc.collect()
gc.freeze()
