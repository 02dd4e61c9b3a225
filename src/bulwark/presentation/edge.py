"""The last edge: what was sent and no page of ours could take is refused in words, and a database that is away is
said to be away. Neither is a breakdown.

Pages read what they are sent themselves, and say which field is wrong. What they overlooked ends here: a value the
core refuses, one the database cannot hold, letters that are none. A real fault of ours is none of these, and stays
one: it is a 500, and is logged.
"""

import logging
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render

from bulwark.presentation.away import away, is_away
from bulwark.presentation.errors import NOT_TAKEN, error_sentence
from foodsafety.quantities import CoreError

log = logging.getLogger(__name__)


class EdgeMiddleware:
    """Answers 503 where the database is away, 422 where a view did not take what it was sent."""

    sync_capable = True
    async_capable = False

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        return self.get_response(request)

    def process_exception(self, request: HttpRequest, exception: Exception) -> HttpResponse | None:
        """What a view raised, before Django makes a 500 of it."""
        if is_away(exception):
            return away(request)
        if not isinstance(exception, NOT_TAKEN):
            return None
        page = request.resolver_match.view_name if request.resolver_match else ""
        log.warning("refused at the last edge, %s: %s", page, type(exception).__name__)
        return refused(request, error_sentence(exception) if isinstance(exception, CoreError) else "")


def refused(request: HttpRequest, why: str) -> HttpResponse:
    """The refusal, as a page or for a script."""
    if request.content_type == "application/json":
        return JsonResponse({"code": "field", "field": "", "message": why}, status=422)
    return render(request, "422.html", {"why": why}, status=422)
