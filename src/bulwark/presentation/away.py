"""The database is away: it is said as that, for a moment, and nobody's entry is taken for refused."""

import sys
import time

from django.db import DatabaseError, InterfaceError, OperationalError, connection
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.template.loader import render_to_string
from django.views.defaults import server_error
from psycopg_pool import PoolTimeout

RETRY_AFTER_S = 5


def broke(request: HttpRequest) -> HttpResponse:
    """Django's last answer: what broke before or behind a view, in a session that could not be read, is looked at
    here once more; all else is a fault of ours."""
    wrong = sys.exc_info()[1]
    if wrong is not None and is_away(wrong):
        return away(request)
    return server_error(request)


def is_away(exception: BaseException) -> bool:
    """True for a database that cannot be reached or has just gone."""
    if isinstance(exception, (OperationalError, InterfaceError, PoolTimeout)):
        return True
    return isinstance(exception, DatabaseError) and "connection" in str(exception).lower()


_mended_s = float("-inf")


def _mend_pool() -> None:
    """Lets go of the connections that broke, so that the next request finds one that works; now and then only."""
    global _mended_s  # one pool a process
    if connection.in_atomic_block or time.monotonic() - _mended_s < 1:
        return
    _mended_s = time.monotonic()
    connection.close_if_unusable_or_obsolete()
    pool = getattr(connection, "pool", None)
    if pool is not None:
        pool.check()


def away(request: HttpRequest) -> HttpResponse:
    """The answer while the database is away. Nothing in it asks the database."""
    _mend_pool()
    headers = {"Retry-After": f"{RETRY_AFTER_S}", "Cache-Control": "no-store"}
    if request.content_type == "application/json":
        return JsonResponse({"code": "away"}, status=503, headers=headers)
    return HttpResponse(
        render_to_string("503.html", {"retry_s": RETRY_AFTER_S, "again": request.method == "GET"}),
        status=503,
        headers=headers,
    )
