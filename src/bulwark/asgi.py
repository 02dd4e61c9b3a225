"""The ASGI application: event streams stay on the event loop, every other request has a thread.

Django's middleware is synchronous here. Handing a whole request to one thread costs one hop;
letting it cross between loop and thread at each layer costs a dozen (see bin/bench).
"""

import os
from typing import Any, cast

from a2wsgi import WSGIMiddleware
from django.core.asgi import get_asgi_application
from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "bulwark.settings")
# As many as the database pool lends out; more would only wait for each other.
THREADS = 10


class Application:
    """Sends each request to the handler that suits it."""

    def __init__(self) -> None:
        self.streams = get_asgi_application()
        # Django's own callable; the adapter's types know no HttpResponse.
        self.pages: Any = WSGIMiddleware(cast("Any", get_wsgi_application()), workers=THREADS)

    async def __call__(self, scope: dict[str, Any], receive: Any, send: Any) -> None:
        if scope["type"] == "http" and not scope["path"].endswith("/live/"):
            await self.pages(scope, receive, send)
        else:
            await self.streams(scope, receive, send)


application = Application()
