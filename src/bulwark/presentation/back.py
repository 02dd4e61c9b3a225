"""Where a form goes back to."""

from django.http import HttpRequest
from django.shortcuts import resolve_url
from django.utils.http import url_has_allowed_host_and_scheme


def back_or(request: HttpRequest, elsewhere: str) -> str:
    """The page of ours that a form names as ``next``, else the address of a view: never another site, and never
    something that only looks like an address."""
    back = request.POST.get("next", "")
    ours = back.startswith("/") and url_has_allowed_host_and_scheme(back, allowed_hosts=None)
    return back if ours else resolve_url(elsewhere)
