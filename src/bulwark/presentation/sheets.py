"""Rows as a sheet: CSV and XLSX, in which no cell is a formula."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Sequence

from openpyxl import Workbook
from openpyxl.cell import WriteOnlyCell
from openpyxl.styles import Font

XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def harmless(value: object) -> object:
    """A cell that no spreadsheet takes for a formula; a number stays a number."""
    if isinstance(value, int | float):
        return value
    text = str(value)
    return f"'{text}" if text.startswith(_FORMULA) else text


def csv_of(rows: Iterable[Sequence[object]], line_end: str = "\r\n") -> str:
    """Rows as CSV."""
    out = io.StringIO()
    sheet = csv.writer(out, lineterminator=line_end)
    for row in rows:
        sheet.writerow([harmless(cell) for cell in row])
    return out.getvalue()


def xlsx_of(title: str, rows: Iterable[Sequence[object]]) -> bytes:
    """Rows as a workbook of one sheet, the first row its heading."""
    book = Workbook(write_only=True)
    sheet = book.create_sheet(title="".join(sign for sign in title if sign not in "[]:*?/\\")[:31] or "1")
    for n, row in enumerate(rows):
        cells = []
        for value in row:
            cell = WriteOnlyCell(sheet, value=harmless(_drawn(value)))
            cell.font = Font(bold=n == 0)
            cells.append(cell)
        sheet.append(cells)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _drawn(value: object) -> object:
    """A text without the signs that a workbook cannot hold."""
    if isinstance(value, int | float):
        return value
    return "".join(sign for sign in str(value) if sign >= " " or sign in "\t\n\r")
