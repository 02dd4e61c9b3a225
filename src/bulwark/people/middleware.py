"""Puts ``request.actor`` in place and speaks the person's English."""

from collections.abc import Callable
from typing import cast

from django.http import HttpRequest, HttpResponse
from django.utils import translation
from django.utils.functional import SimpleLazyObject

from bulwark.people.actors import ANONYMOUS, Actor, ActorRequest


def _actor(request: HttpRequest) -> Actor:
    user = request.user
    if not user.is_authenticated or user.organisation_id is None:
        return ANONYMOUS
    return Actor(
        kind="educator",
        user_id=user.pk,
        organisation_id=user.organisation_id,
        unit="F" if user.unit == "F" else "C",
        language=user.language,
    )


class ActorMiddleware:
    """An educator is known by the session. A bench is known by its own signed cookie, which only
    the bench views read, so that a tablet signed in for testing never mixes the two."""

    sync_capable = True
    async_capable = False

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        asked = cast("ActorRequest", request)
        asked.actor = cast("Actor", SimpleLazyObject(lambda: _actor(request)))
        if request.path.startswith(("/b/", "/static/")):
            return self.get_response(request)
        with translation.override(asked.actor.language):
            return self.get_response(request)
