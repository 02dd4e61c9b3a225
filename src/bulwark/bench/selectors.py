"""Which bench a device has joined."""

import time
from functools import lru_cache
from typing import Any

from django.core import signing
from django.http import HttpRequest

from bulwark.lessons import selectors as lessons
from bulwark.people.actors import ANONYMOUS, Actor, bench_actor

COOKIE = "bulwark_bench"
SALT = "bulwark.bench"
COOKIE_AGE_S = 60 * 60 * 18


@lru_cache(maxsize=1024)
def _signed(cookie: str) -> tuple[Actor, int]:
    """Whom a cookie names, and when it was signed [s]. Remembered: a tablet sends the same one with every entry.
    Raises BadSignature, KeyError, TypeError, ValueError for one that is not ours."""
    said = signing.loads(cookie, salt=SALT)
    actor = bench_actor(int(said["bench"]), said.get("device"), said.get("n"))
    return actor, signing.b62_decode(cookie.rsplit(":", 2)[1])


def device_actor(request: HttpRequest) -> Actor:
    """The actor of this device, by its signed cookie."""
    return actor_of(request.COOKIES.get(COOKIE, ""))


def actor_of(cookie: str) -> Actor:
    """The actor that a signed cookie names."""
    try:
        actor, signed_s = _signed(cookie)
    except (signing.BadSignature, KeyError, TypeError, ValueError):
        return ANONYMOUS
    return actor if time.time() - signed_s <= COOKIE_AGE_S else ANONYMOUS


def joined_bench(request: HttpRequest) -> Any:
    """The open bench of this device, or None."""
    return lessons.benches_for(device_actor(request)).first()
