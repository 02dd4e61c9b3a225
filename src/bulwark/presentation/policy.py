"""The content security policy on every answer."""

from typing import Any

from csp.constants import HEADER
from csp.middleware import CSPMiddleware
from csp.utils import build_policy
from django.http import HttpRequest
from django.http.response import HttpResponseBase


class OnePolicyMiddleware(CSPMiddleware):
    """The settings' policy, written out once: no page of ours has one of its own or uses a nonce, and
    building it anew for every answer costs a tenth of a bench's entry (see bin/bench)."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.policy = build_policy()

    def process_request(self, request: HttpRequest) -> None:
        """No nonce is offered."""

    def process_response(self, request: HttpRequest, response: HttpResponseBase) -> HttpResponseBase:
        response.headers.setdefault(HEADER, self.policy)
        return response
