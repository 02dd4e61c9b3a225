"""Labels for what is kept, on sheets of the common sizes: as many as there are portions in one go."""

from __future__ import annotations

import datetime as dt
import io
from dataclasses import dataclass
from typing import Any

import pypdfium2
from django.template.loader import render_to_string
from django.utils import timezone
from django.utils.formats import date_format
from django.utils.safestring import SafeString

from bulwark.lessons import selectors as lessons
from bulwark.presentation import phrases
from bulwark.presentation.paper import page_count, pdf_of
from bulwark.shelf import stock, wording
from bulwark.shelf.stock import Item
from foodsafety.quantities import CoreError

MOST_COPIES = 240
_STYLE = "bulwark/labels.css"


@dataclass(frozen=True, slots=True, kw_only=True)
class Sheet:
    """A sheet of labels: how many across and down, and the size of one with what lies between two columns [mm]. Centred
    on its paper."""

    paper: str
    across: int
    down: int
    width_mm: float
    height_mm: float
    gap_mm: float

    @property
    def count(self) -> int:
        """Labels on a sheet."""
        return self.across * self.down

    @property
    def margins_mm(self) -> tuple[float, float]:
        """Above and left of the first label."""
        width, height = _PAPERS_MM[self.paper]
        across = self.across * self.width_mm + (self.across - 1) * self.gap_mm
        return round((height - self.down * self.height_mm) / 2, 2), round((width - across) / 2, 2)


_PAPERS_MM = {"A4": (210.0, 297.0), "Letter": (215.9, 279.4)}
# What comes off a printer: one label after the other.
ROLL = Sheet(paper="roll", across=1, down=1, width_mm=62.0, height_mm=46.0, gap_mm=0.0)
SHEETS = {
    "a4-24": Sheet(paper="A4", across=3, down=8, width_mm=63.5, height_mm=33.9, gap_mm=2.5),
    "a4-14": Sheet(paper="A4", across=2, down=7, width_mm=99.1, height_mm=38.1, gap_mm=2.5),
    "a4-8": Sheet(paper="A4", across=2, down=4, width_mm=99.1, height_mm=67.7, gap_mm=2.5),
    "letter-20": Sheet(paper="Letter", across=2, down=10, width_mm=101.6, height_mm=25.4, gap_mm=4.8),
    "letter-10": Sheet(paper="Letter", across=2, down=5, width_mm=101.6, height_mm=50.8, gap_mm=4.8),
    "letter-6": Sheet(paper="Letter", across=2, down=3, width_mm=101.6, height_mm=84.7, gap_mm=4.8),
}


def label_words(item: Item) -> dict[str, Any]:
    """What a label says of a part."""
    profile, frozen = lessons.profile_of(item.bench.lesson), item.row.place == "freezer"
    limit = profile.hold["freezer" if frozen else "cold"].temperature
    until = timezone.localtime(item.until) if item.until and item.standing not in ("over", "eat", "heat") else None
    return {
        "name": phrases.capital(item.food),
        "until": _date(until, frozen=frozen, by_the_hour=item.by_the_hour) if until else "",
        "frozen": frozen,
        "keep": _unbroken(wording.keep_at(phrases.limit_degrees(limit, profile.unit, at_most=True), frozen=frozen)),
        "reheat": _unbroken(stock.reheat_limit(item)),
        "wrapped": wording.wrap_means(item.row.box.wrap, frozen=False) if item.row.box else [],
        "contains": ", ".join(item.contains),
        "raw_egg": item.raw_egg,
        "raw": item.raw,
        "hole": item.standing == "hole",
        # Nobody measured in time that it was cold, and nobody has signed for it.
        "unseen": item.standing == "hole" and item.until is None,
        "chill": _chill(item, profile.unit),
        "portions": item.row.portions,
        "made": date_format(timezone.localtime(item.made_at), "j M, H:i"),
        "lesson": item.bench.lesson.title,
        "bench": item.bench.name,
        "again": item.row.prints,
    }


def _unbroken(text: str) -> str:
    """A figure and its unit stay on one line."""
    return text.replace(" °", "\u00a0°")


def _chill(item: Item, unit: str) -> str:
    """What must still be read while it cools, or its date does not hold."""
    due = item.chilling.due if item.chilling is not None and item.standing == "cooling" else ()
    at = [dt.datetime.fromtimestamp(row.at_s, tz=dt.UTC) for row in due]
    return _unbroken(wording.only_if_cold(due[-1].limit, at[-1], unit)) if due else ""


def _date(until: Any, *, frozen: bool, by_the_hour: bool) -> str:
    """With its year in a freezer, with its hour where the rule counts hours."""
    return date_format(until, "j M Y" if frozen else "D j M, H:i" if by_the_hour else "D j M")


def sheet_pdf(html: str) -> bytes:
    """The labels as a printer takes them."""
    return pdf_of(html, sheet=_STYLE)


def label_roll(item: Item, qr: SafeString, *, copies: int) -> str:
    """A part's labels off a roll, one a page. Raises CoreError where one has no room for all that it must say."""
    said = {"sheet": ROLL, "label": label_words(item), "qr": qr, "copies": copies, "alone": True}
    said["size"] = _letters(said, copies)
    return render_to_string("shelf/labels.html", {**said, "pages": [[[n]] for n in range(1, copies + 1)]})


def picture_of(pdf: bytes) -> bytes:
    """The first page of a PDF as a PNG, at about 200 dots to the inch."""
    page, out = pypdfium2.PdfDocument(pdf)[0], io.BytesIO()
    page.render(scale=200 / 72).to_pil().save(out, format="PNG")
    return out.getvalue()


def label_sheet(item: Item, sheet_id: str, qr: SafeString, *, copies: int, start: int = 1) -> str:
    """A part's labels on a sheet, from its ``start``-th place, in the largest letters that fit. Raises CoreError
    where a label has no room for all that it must say, or that place is not on the sheet."""
    sheet = SHEETS[sheet_id]
    if not 1 <= start <= sheet.count:
        raise CoreError("start", "not_on_the_sheet", most=sheet.count)
    places: list[int | None] = [None] * (start - 1) + list(range(1, copies + 1))
    pages = [places[at : at + sheet.count] for at in range(0, len(places), sheet.count)]
    rows = [[page[at : at + sheet.across] for at in range(0, len(page), sheet.across)] for page in pages]
    top_mm, left_mm = sheet.margins_mm
    said = {"sheet": sheet, "label": label_words(item), "qr": qr, "copies": copies}
    said["size"] = _letters(said, copies)
    return render_to_string("shelf/labels.html", {**said, "pages": rows, "top": top_mm, "left": left_mm})


def _letters(said: dict[str, Any], copies: int) -> str:
    """The largest letters in which all that is said has room on one label: laid out, not guessed."""
    for size in ("large", "middle", "small"):
        alone = render_to_string("shelf/labels.html", {**said, "size": size, "pages": [[[copies]]], "alone": True})
        if page_count(alone, sheet=_STYLE) == 1:
            return size
    raise CoreError("sheet", "label_too_small")
