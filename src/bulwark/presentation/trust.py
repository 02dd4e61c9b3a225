"""How a tablet comes to trust this installation's own certificate authority."""

from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET

from bulwark.presentation.qr import qr_svg


@require_GET
def trust(request: HttpRequest) -> HttpResponse:
    """The page at the front that tablets are shown once: open to everybody, since it says nothing that is secret.
    Not found where there is no authority of our own."""
    if not settings.CA_FINGERPRINT or not settings.TRUST_ADDRESS:
        raise Http404
    # In blocks of four pairs: two people can read them to each other.
    pairs = settings.CA_FINGERPRINT.split(":")
    blocks = [" ".join(pairs[i : i + 4]) for i in range(0, len(pairs), 4)]
    context = {"qr": qr_svg(settings.TRUST_ADDRESS), "address": settings.TRUST_ADDRESS, "blocks": blocks}
    return render(request, "trust.html", context)
