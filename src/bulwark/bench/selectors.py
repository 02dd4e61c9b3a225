"""Which bench a device has joined."""

from typing import Any

from django.core import signing
from django.http import HttpRequest

from bulwark.lessons import selectors as lessons
from bulwark.people.actors import ANONYMOUS, Actor, bench_actor

COOKIE = "bulwark_bench"
SALT = "bulwark.bench"
COOKIE_AGE_S = 60 * 60 * 18


def device_actor(request: HttpRequest) -> Actor:
    """The actor of this device, by its signed cookie."""
    try:
        bench_id = int(signing.loads(request.COOKIES.get(COOKIE, ""), salt=SALT, max_age=COOKIE_AGE_S)["bench"])
    except (signing.BadSignature, KeyError, TypeError, ValueError):
        return ANONYMOUS
    return bench_actor(bench_id)


def joined_bench(request: HttpRequest) -> Any:
    """The open bench of this device, or None."""
    return lessons.benches_for(device_actor(request)).first()
