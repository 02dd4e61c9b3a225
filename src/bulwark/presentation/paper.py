"""Pages on paper: HTML to PDF."""

from pathlib import Path

from django.conf import settings
from weasyprint import CSS, HTML


def pdf_of(html: str, *, sheet: str = "") -> bytes:
    """A page's PDF, set by a style sheet of ours. No address is fetched: everything the page needs
    is in it, in the sheet, or beside the sheet."""
    static = Path(settings.ROOT) / "src" / "bulwark" / "static"
    sheets = [CSS(filename=static / sheet)] if sheet else []
    return bytes(HTML(string=html, base_url=str(static)).write_pdf(stylesheets=sheets))
