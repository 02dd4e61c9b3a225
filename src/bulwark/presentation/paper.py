"""Pages on paper: HTML to PDF."""

from pathlib import Path

from django.conf import settings
from weasyprint import CSS, HTML
from weasyprint.text.fonts import FontConfiguration


def pdf_of(html: str, *, sheet: str = "") -> bytes:
    """A page's PDF, in our own letters and set by a style sheet of ours. No address is fetched:
    everything the page needs is in it, in the sheet, or beside the sheet."""
    static = Path(settings.ROOT) / "src" / "bulwark" / "static"
    fonts = FontConfiguration()
    sheets = [CSS(filename=static / name, font_config=fonts) for name in ("bulwark/paper.css", sheet) if name]
    return bytes(HTML(string=html, base_url=str(static)).write_pdf(stylesheets=sheets, font_config=fonts))
