"""Pages on paper: HTML to PDF."""

import logging
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING

from django.conf import settings

if TYPE_CHECKING:
    from weasyprint.document import Document

_SETTER_SAYS = logging.getLogger("weasyprint.progress")


class _PagesSet(logging.Handler):
    """Hears from the type setter that one more page is laid out; what its listener raises stops the setting."""

    def __init__(self, progress: Callable[[int], None]) -> None:
        super().__init__(logging.INFO)
        self._progress = progress

    def emit(self, record: logging.LogRecord) -> None:
        if isinstance(record.args, tuple) and record.args and "Page" in str(record.msg):
            self._progress(int(str(record.args[0])))


@contextmanager
def _told_to(progress: Callable[[int], None] | None) -> Iterator[None]:
    """One paper at a time in a process: the setter's news does not say which paper it is of."""
    if progress is None:
        yield
        return
    listener, before = _PagesSet(progress), (_SETTER_SAYS.level, _SETTER_SAYS.propagate)
    _SETTER_SAYS.setLevel(logging.INFO)
    _SETTER_SAYS.propagate = False  # news for whoever waits, not for the operator
    _SETTER_SAYS.addHandler(listener)
    try:
        yield
    finally:
        _SETTER_SAYS.removeHandler(listener)
        _SETTER_SAYS.level, _SETTER_SAYS.propagate = before


def pdf_of(html: str, *, sheet: str = "", progress: Callable[[int], None] | None = None) -> bytes:
    """A page's PDF, in our own letters and set by a style sheet of ours. No address is fetched:
    everything the page needs is in it, in the sheet, or beside the sheet. ``progress`` is called with
    the number of each page that is laid out, and stops the work by raising."""
    with _told_to(progress):
        return bytes(_laid_out(html, sheet).write_pdf())


def page_count(html: str, *, sheet: str = "") -> int:
    """How many pages a page of ours takes on paper."""
    return len(_laid_out(html, sheet).pages)


def _laid_out(html: str, sheet: str) -> "Document":
    # The setter takes a second to load, and most commands and most processes never set a page.
    from weasyprint import CSS, HTML
    from weasyprint.text.fonts import FontConfiguration

    static = Path(settings.ROOT) / "src" / "bulwark" / "static"
    fonts = FontConfiguration()
    sheets = [CSS(filename=static / name, font_config=fonts) for name in ("bulwark/paper.css", sheet) if name]
    return HTML(string=html, base_url=str(static)).render(stylesheets=sheets, font_config=fonts)
