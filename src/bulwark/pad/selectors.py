"""Who an assistant is, and at which benches they look on."""

from __future__ import annotations

import time
from collections.abc import Iterable

from django.core import signing
from django.http import HttpRequest

from bulwark.lessons import selectors as lessons
from bulwark.lessons.selectors import Bench, Lesson
from bulwark.pad.models import Assistant
from bulwark.people.actors import Actor

COOKIE = "bulwark_pad"
SALT = "bulwark.pad"
COOKIE_AGE_S = 60 * 60 * 18


def assistant_of(request: HttpRequest) -> Assistant | None:
    """The assistant of this device, by its signed cookie: none who was sent away, none of a lesson that is not open or
    has been over for long."""
    try:
        cookie = request.COOKIES.get(COOKIE, "")
        pk, signed_s = int(signing.loads(cookie, salt=SALT)), signing.b62_decode(cookie.rsplit(":", 2)[1])
    except (signing.BadSignature, TypeError, ValueError, IndexError):
        return None
    if time.time() - signed_s > COOKIE_AGE_S:
        return None
    rows = Assistant.objects.select_related("lesson", "lesson__organisation")
    found = rows.filter(pk=pk, sent_away_at=None, lesson__opened_at__isnull=False).first()
    return None if found is None or lessons.long_over(found.lesson) else found


def with_code(code: str) -> Assistant | None:
    """Whoever has a code, of a lesson that is open."""
    rows = Assistant.objects.filter(sent_away_at=None, lesson__opened_at__isnull=False, lesson__closed_at=None)
    return rows.filter(code=code.strip().upper()).first()


def benches_of(assistant: Assistant) -> list[Bench]:
    """The benches at which they look on, in the lesson's order."""
    ids = set(assistant.benches.values_list("pk", flat=True))
    return [bench for bench in lessons.benches_of(assistant.lesson) if bench.pk in ids]


def assistants_of(lesson: Lesson) -> list[Assistant]:
    """Everybody who was let in, and not sent away."""
    return list(Assistant.objects.filter(lesson=lesson, sent_away_at=None).prefetch_related("benches"))


def actor_of(assistant: Assistant) -> Actor:
    """Who their entries are from: a number, never a name."""
    return Actor(kind="assistant", device=assistant.number)


def names(benches: Iterable[Bench]) -> str:
    """Benches by name."""
    return ", ".join(bench.name for bench in benches)
