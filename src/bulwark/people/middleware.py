"""Puts ``request.actor`` in place and speaks the person's English."""

from collections.abc import Callable
from typing import Any, cast

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils import translation
from django.utils.functional import SimpleLazyObject

from bulwark.people.actors import ANONYMOUS, Actor, ActorRequest
from bulwark.people.roles import Role, may


def _actor(request: HttpRequest) -> Actor:
    user = request.user
    if not user.is_authenticated or user.organisation_id is None:
        return ANONYMOUS
    return Actor(
        kind="educator",
        user_id=user.pk,
        organisation_id=user.organisation_id,
        role=cast("Role", user.role),
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

    def process_view(self, request: HttpRequest, view: Any, args: Any, kwargs: Any) -> HttpResponse | None:
        """What an account's role does not reach is refused in words before the page is made."""
        asked = cast("ActorRequest", request)
        if request.path.startswith(("/b/", "/static/")) or asked.actor.kind != "educator":
            return None
        page = (request.resolver_match and request.resolver_match.url_name) or ""
        if may(asked.actor.role, page, changes=request.method not in ("GET", "HEAD", "OPTIONS")):
            return None
        return render(request, "403.html", {"role": asked.actor.role}, status=403)
