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
from django.core.handlers.wsgi import WSGIHandler
from django.core.wsgi import get_wsgi_application
from django.urls import reverse

from bulwark.lessons import event_stream
from bulwark.pages_door import LONG_WORK, Limits, Pages, Streams, Wsgi

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "bulwark.settings")
# As many as the database pool lends out; more would only wait for each other.
THREADS = 10
_PR_SET_PDEATHSIG = 1


class EntryHandler(WSGIHandler):
    """Django with no more middleware than an entry of a bench needs."""

    def load_middleware(self, is_async: bool = False) -> None:
        """As Django's own, over ``ENTRY_MIDDLEWARE``."""
        whole, settings.MIDDLEWARE = settings.MIDDLEWARE, settings.ENTRY_MIDDLEWARE
        try:
            super().load_middleware(is_async)
        finally:
            settings.MIDDLEWARE = whole


def by_request() -> Wsgi:
    """Entries of tablets to their own handler, all else to the whole of Django."""
    whole, entries = get_wsgi_application(), EntryHandler()
    paths = (reverse("bench_entries"), reverse("bench_here"))

    def answer(environ: dict[str, Any], start: Any) -> Any:
        is_entry = environ["PATH_INFO"] in paths and environ.get("CONTENT_TYPE") == "application/json"
        return (entries if is_entry else whole)(environ, start)

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
