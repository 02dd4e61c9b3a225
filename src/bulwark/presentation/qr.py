"""QR codes as inline SVG."""

import io

import segno
from django.conf import settings
from django.http import HttpRequest
from django.utils.safestring import SafeString, mark_safe


def tablet_address(request: HttpRequest, path: str) -> str:
    """The whole address of a page as a tablet in the room reaches it."""
    return settings.ADDRESS + path if settings.ADDRESS else request.build_absolute_uri(path)


def qr_svg(text: str) -> SafeString:
    """The text as a QR drawing that scales with its box; the link stands beside it in words."""
    out = io.BytesIO()
    segno.make(text, error="m").save(
        out, kind="svg", xmldecl=False, svgns=False, border=2, omitsize=True, dark="#10262d", light="#fffefa"
    )
    return mark_safe(out.getvalue().decode())  # noqa: S308 - segno draws modules, never the text itself
