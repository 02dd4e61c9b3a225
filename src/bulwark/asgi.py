"""The ASGI application: event streams stay on the event loop, every other request has a thread.

Django's middleware is synchronous here. Handing a whole request to one thread costs one hop;
letting it cross between loop and thread at each layer costs a dozen (see bin/bench).
"""

import gc
import os
from typing import Any

from django.conf import settings
from django.core.asgi import get_asgi_application
from django.core.wsgi import get_wsgi_application

from bulwark.pages_door import Limits, Pages

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "bulwark.settings")
# As many as the database pool lends out; more would only wait for each other.
THREADS = 10


class Application:
    """Sends each request to the handler that suits it."""

    def __init__(self) -> None:
        self.streams = get_asgi_application()
        limits = Limits(settings.MOST_BODY_BYTES, idle_s=settings.BODY_IDLE_S, whole_s=settings.BODY_WHOLE_S)
        self.pages = Pages(get_wsgi_application(), threads=THREADS, limits=limits)

    async def __call__(self, scope: dict[str, Any], receive: Any, send: Any) -> None:
        if scope["type"] == "http" and not scope["path"].endswith("/live/"):
            await self.pages(scope, receive, send)
        else:
            await self.streams(scope, receive, send)


application = Application()
# What is loaded by now stays: the collector need not look through it again while a bench waits.
gc.collect()
gc.freeze()
