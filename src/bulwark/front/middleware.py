"""Knows a stand-in by the session, asks anew at each request whether they still are one, and lets them do what a lesson
needs and nothing else."""

from collections.abc import Callable
from typing import Any, cast

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render

from bulwark.front import selectors
from bulwark.people.actors import ActorRequest
from bulwark.people.roles import may_stand_in


class StandInMiddleware:
    """After ActorMiddleware: somebody with an account is who they are, whatever code they once used."""

    sync_capable = True
    async_capable = False

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        asked = cast("ActorRequest", request)
        if not request.path.startswith(("/b/", "/static/")) and selectors.SESSION in request.session:
            found = selectors.here(request.session[selectors.SESSION])
            if found is not None and asked.actor.kind == "anonymous":
                asked.actor = selectors.actor_of(found)
        return self.get_response(request)

    def process_view(self, request: HttpRequest, view: Any, args: Any, kwargs: Any) -> HttpResponse | None:
        """What a stand-in does not need is refused in words before the page is made."""
        asked = cast("ActorRequest", request)
        if request.path.startswith(("/b/", "/static/")) or asked.actor.kind != "stand_in":
            return None
        page = (request.resolver_match and request.resolver_match.url_name) or ""
        if may_stand_in(page):
            return None
        return render(request, "403.html", {"stands_in": True}, status=403)
