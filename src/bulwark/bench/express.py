"""The short way of an entry into the log.

Most entries are plainly in order: sent by a tablet of ours, with its cookie and token, asking nothing. They need none
of what Django does for a page, which takes as long as the log itself (see bin/bench). Whatever is not plain goes the
long way instead (``views.entries``) and is answered there: an entry that came both ways is one, by its id.
"""

import hmac
import json
from collections.abc import Mapping
from functools import lru_cache
from typing import Any

from django.conf import settings
from django.db import Error
from django.http import parse_cookie
from django.http.request import split_domain_port, validate_host
from psycopg_pool import PoolTimeout

from bulwark.bench import arriving, limits
from bulwark.bench.selectors import COOKIE, actor_of
from bulwark.lessons import selectors
from bulwark.lessons.services import LessonError
from bulwark.presentation.errors import NOT_TAKEN

HEADERS = [("Content-Type", "application/json"), ("X-Content-Type-Options", "nosniff")]
# The token as its cookie has it; a page's own, which is longer, goes the long way.
_TOKEN_LETTERS = 32


@lru_cache(maxsize=64)
def _is_ours(host: str) -> bool:
    return validate_host(split_domain_port(host)[0], settings.ALLOWED_HOSTS)


def _is_plain(environ: Mapping[str, Any], token: str) -> bool:
    """True for an entry that certainly comes from a page of ours: host, origin and token say so."""
    scheme, host = environ["wsgi.url_scheme"], environ.get("HTTP_HOST", "")
    origin = environ.get("HTTP_ORIGIN", "")
    return (
        environ["REQUEST_METHOD"] == "POST"
        and 0 < int(environ["CONTENT_LENGTH"]) <= arriving.MOST_ENTRY_BYTES
        and _is_ours(host)
        and (scheme == "https" or not settings.BEHIND_TLS)
        and (origin == f"{scheme}://{host}" or (not origin and scheme == "http"))
        and len(token) == _TOKEN_LETTERS
        and hmac.compare_digest(token.encode(), environ.get("HTTP_X_CSRFTOKEN", "").encode())
    )


def at_once(environ: Mapping[str, Any]) -> bytes | None:
    """Records the entry of a request; the answer, or None where it has to go the long way, with the body at its
    beginning again. The thread keeps its database connection for the next entry: there are enough for all threads."""
    cookies = parse_cookie(environ.get("HTTP_COOKIE", ""))
    if not _is_plain(environ, cookies.get(settings.CSRF_COOKIE_NAME, "")):
        return None
    try:
        answer = _recorded(cookies.get(COOKIE, ""), environ["wsgi.input"].read())
    except (*NOT_TAKEN, LessonError, Error, PoolTimeout):
        answer = None
    if answer is None:
        environ["wsgi.input"].seek(0)
        return None
    return json.dumps(answer).encode()


def _recorded(cookie: str, body: bytes) -> dict[str, Any] | None:
    actor = actor_of(cookie)
    bench = selectors.open_bench(actor)
    if bench is None or not limits.may_speak(limits.speaker(actor)):
        return None
    entry = arriving.entry_from(arriving.json_body(body))
    return None if arriving.question(entry, bench) else arriving.record(entry, bench, actor)
