"""Recipe documents: text, Markdown, schema.org JSON-LD and saved pages, in and out, losing nothing.

Whatever was read has a place: a line that is no title, ingredient or instruction is a note, and
a field of a JSON-LD recipe that we have no use for is kept and written out again.
"""

from __future__ import annotations

import html
import json
import re
from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from html.parser import HTMLParser
from typing import Any, Literal

from foodsafety.quantities import CoreError
from foodsafety.recipes.broken_rows import with_their_numbers, without_shouting
from foodsafety.recipes.food_rows import (
    all_foods,
    is_kit,
    labelled_foods,
    several_foods,
    two_without_amounts,
    unmarked,
)
from foodsafety.recipes.headings import component_name
from foodsafety.recipes.ingredients import read_ingredient
from foodsafety.recipes.layout import SERVES, Row, is_of_a_sheet, layout, number_of, serves_in

MOST_BYTES = 1_000_000
MOST_LINES = 2_000
MOST_INGREDIENTS = 300
MOST_INSTRUCTIONS = 500
EXTENSION = "bulwark:recipe"
_CONTEXT = ["https://schema.org", {"bulwark": "urn:bulwark:recipe:"}]

TakenAs = Literal["title", "summary", "serves", "ingredient", "instruction", "note", "heading", "kit", "blank", "kept"]


@dataclass(frozen=True, slots=True, kw_only=True)
class DocumentLine:
    """One line of what came in, and what it was taken for."""

    number: int
    text: str
    taken: TakenAs


@dataclass(frozen=True, slots=True, kw_only=True)
class Document:
    """A recipe as its document says it. ``extra`` are fields of the source that Bulwark does not
    use, ``extension`` our own part (process, ingredient details) as it came, unchecked."""

    title: str
    summary: str = ""
    serves: int | None = None
    servings_text: str = ""
    ingredients: tuple[str, ...] = ()
    instructions: tuple[str, ...] = ()
    notes: tuple[str, ...] = ()
    extra: Mapping[str, Any] = field(default_factory=dict)
    extension: Mapping[str, Any] = field(default_factory=dict)
    lines: tuple[DocumentLine, ...] = ()

    @property
    def said(self) -> tuple[Any, ...]:
        """Everything but where it stood: what must survive the trip out and in."""
        return (
            self.title,
            self.summary,
            self.serves,
            self.servings_text,
            self.ingredients,
            self.instructions,
            self.notes,
            dict(self.extra),
            dict(self.extension),
        )


def decoded_text(data: bytes, field_name: str = "file") -> str:
    """Bytes as text. Raises CoreError for too much, for what is no text, and for another encoding
    than UTF-8 or marked UTF-16, naming the line."""
    if len(data) > MOST_BYTES:
        raise CoreError(field_name, "file_too_large", count=len(data), most=MOST_BYTES)
    if data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        try:
            return data.decode("utf-16")
        except UnicodeDecodeError:
            raise CoreError(field_name, "broken_utf16") from None
    if b"\x00" in data[:4096] or data[:4] in (b"%PDF", b"PK\x03\x04", b"\x89PNG") or data[:3] == b"\xff\xd8\xff":
        raise CoreError(field_name, "not_a_text_file")
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as wrong:
        line = data[: wrong.start].count(b"\n") + 1
        raise CoreError(f"line {line}", "not_utf8_at") from None


def best_text(data: bytes) -> str:
    """Bytes as a person can best read and correct them; nothing is trusted, nothing fails."""
    return data[:MOST_BYTES].decode("cp1252", errors="replace").replace("\x00", "")


def read_document(text: str) -> Document:
    """A recipe from text, Markdown, JSON-LD or a saved page. Raises CoreError naming what is wrong."""
    if len(text.encode("utf-8", errors="surrogatepass")) > MOST_BYTES:
        raise CoreError("text", "too_large", most=MOST_BYTES)
    control = re.search(r"[\x00-\x08\x0b\x0e-\x1f\ud800-\udfff]", text)
    if control:
        raise CoreError(f"line {text[: control.start()].count(chr(10)) + 1}", "control_character")
    if not text.strip():
        raise CoreError("text", "nothing_given")
    head = text.lstrip()[:2000].lower()
    if head.startswith(("{", "[")):
        return _checked(_from_json(text))
    if head.startswith("<") or "<html" in head or "<script" in head or "<body" in head:
        return _checked(_from_html(text))
    return _checked(_from_text(with_their_numbers(without_shouting(text))))


def _checked(found: Document) -> Document:
    if len(found.ingredients) > MOST_INGREDIENTS:
        raise CoreError("ingredients", "too_many_ingredients", count=len(found.ingredients), most=MOST_INGREDIENTS)
    if len(found.instructions) > MOST_INSTRUCTIONS:
        raise CoreError("instructions", "too_many_instructions", count=len(found.instructions), most=MOST_INSTRUCTIONS)
    return found


# --- text and Markdown --------------------------------------------------------------------------

_STORED = re.compile(r"<!--\s*bulwark\s+(.*?)\s*-->", re.DOTALL)


def _from_text(text: str) -> Document:
    stored = _STORED.search(text)
    extension = _stored_extension(stored[1]) if stored else {}
    rows = layout([_without_marks(row) for row in _rows(_STORED.sub("", text) if stored else text)])
    pick: dict[str, list[str]] = defaultdict(list)
    for row in rows:
        pick[row.part].append(row.text)
    head = [*pick["title"], *pick["summary"], *pick["heading"]] or [row[:200] for row in pick["instruction"][:1]]
    serves, servings = _servings(pick["serves"], "\n".join(head))
    return Document(
        title=_title(pick["title"][0]) if pick["title"] else "",
        summary=" ".join(row.strip() for row in pick["summary"]),
        serves=serves,
        servings_text=servings,
        ingredients=tuple(_listed(rows)),
        instructions=tuple(_method(rows)),
        notes=tuple(unmarked(row) for row in (*pick["kit"], *pick["note"])),
        extra=extension.pop("extra", {}) if extension else {},
        extension=extension,
        lines=tuple(DocumentLine(number=row.number, text=row.text, taken=row.part) for row in rows),
    )


def _title(row: str) -> str:
    """What the dish is called: "COOKING CLUB WEEK 3: PIZZA SWIRLS" are pizza swirls."""
    plain = re.sub(r"^#+\s*", "", row).strip()
    of, colon, dish = plain.partition(":")
    return dish.strip() if colon and dish.strip() and is_of_a_sheet(of) else plain


_TABLE_ROW = re.compile(r"\s*\|(.+)\|\s*$")


def _without_marks(row: str) -> str:
    """A row without the marks of bold and slanted words; a row of a table as an ingredient line: "| leeks | 2 |"
    is "2 leeks", and its head is a heading."""
    plain = re.sub(r"(\*\*|__)(?=\S)(.+?)\1|(?<![\w*])\*(?=\S)([^*]+?)\*(?![\w*])", lambda m: m[2] or m[3], row)
    table = _TABLE_ROW.match(plain)
    if table is None:
        return plain
    cells = [cell.strip() for cell in table[1].split("|")]
    if all(re.fullmatch(r":?-*:?", cell) for cell in cells):
        return ""
    if re.match(r"(?:ingredient|food|item|what)s?$", cells[0], re.IGNORECASE):
        return "Ingredients"
    amounts = [cell for cell in cells if re.match(r"[\d½¼¾⅓⅔]", cell)]
    return " ".join([*amounts, *(cell for cell in cells if cell and cell not in amounts)])


def _listed(rows: Sequence[Row]) -> Iterator[str]:
    """The ingredient lines, and the headings among them that name a part of the dish."""
    part, part_of_row = "", False
    for i, row in enumerate(rows):
        if row.part == "ingredient":
            told = _one_each(unmarked(row.text))
            lines = [line for line in told if not is_kit(line)] or told  # "1 cup rice, red cutting board, wok"
            labelled = lines[0].endswith(":")
            ends = part and not row.component  # a gap after the foods of a part
            if (part_of_row or ends) and not labelled:
                yield f"{row.component or 'Ingredients'}:"  # "tartare: mayo, capers" ends with its row
            part = row.component
            part_of_row = labelled
            yield from lines
        elif (
            row.part == "heading"
            and (after := next((r for r in rows[i + 1 :] if r.part not in ("blank", "kit")), None))
            and after.part == "ingredient"
            # "To assemble:" ends the list of the dressing, and names no part.
            and (after.component == component_name(row.text) or (part and not after.component))
        ):
            part = after.component
            plain = re.sub(r"^#+\s*|[*_]+", "", unmarked(row.text)).strip()
            yield plain if plain.endswith(":") else f"{plain}:"


def _method(rows: Sequence[Row]) -> Iterator[str]:
    """The paragraphs of the method, and the headings that name the part of the dish they are for."""
    begun = False
    now = ""
    for i, row in enumerate(rows):
        if row.part == "instruction":
            # Between the lists of two parts: what stands under a part's own list is for that part.
            if row.component and row.component != now and any(r.part == "ingredient" for r in rows[i:]):
                yield f"For the {row.component}:"
            begun, now = True, row.component
            yield unmarked(row.text)
        elif row.part == "heading" and begun:
            after = next((r for r in rows[i + 1 :] if r.part != "blank"), None)
            if after is not None and after.part == "instruction" and after.component:
                now = after.component
                yield f"For the {after.component}:"


def _rows(text: str) -> list[str]:
    if len(rows := text.splitlines()) > MOST_LINES:
        raise CoreError(f"line {MOST_LINES + 1}", "too_many_text_lines", count=len(rows), most=MOST_LINES)
    return rows


def _stored_extension(text: str) -> dict[str, Any]:
    try:
        data = json.loads(text.replace("\\u002d\\u002d", "--"))
    except json.JSONDecodeError:
        raise CoreError("bulwark comment", "damaged_process") from None
    return dict(data) if isinstance(data, Mapping) else {}


def _one_each(row: str) -> list[str]:
    """A line of several ingredients, parted by semicolons or slashes, as a line for each."""
    parts = several_foods(row)
    labelled = labelled_foods(row)
    if labelled:
        # "2 carrots, 2 sticks celery, 1 onion": one of a list parted by semicolons may be several itself.
        return [f"{labelled[0]}:", *(one for part in labelled[1:] for one in _one_each(part))]
    known = [read_ingredient(part, "en-GB") for part in parts]
    told = all(item.measured for item in known) or (len(parts) > 2 and all(i.kind for i in known))
    several = len(parts) > 1 and (told or all_foods(parts) or two_without_amounts(row) == parts)
    return parts if several else [row]


def _servings(rows: Sequence[str], head: str) -> tuple[int | None, str]:
    for row in rows:
        found = SERVES.match(unmarked(row))
        count = number_of(found["n"]) if found else None
        if count or serves_in(row):
            return count or serves_in(row), row.strip(" *_#")
    return serves_in(head), ""


# --- JSON-LD ------------------------------------------------------------------------------------

_USED = frozenset(
    {
        "@context",
        "@type",
        "name",
        "description",
        "recipeYield",
        "recipeIngredient",
        "ingredients",
        "recipeInstructions",
        EXTENSION,
        "bulwark:notes",
    }
)


def _from_json(text: str) -> Document:
    try:
        data = json.loads(text)
    except json.JSONDecodeError as wrong:
        raise CoreError(f"line {wrong.lineno}", "broken_json") from None
    except RecursionError:
        raise CoreError("text", "nested_too_deeply") from None
    found = _find_recipe(data)
    if found is None:
        raise CoreError("text", "no_recipe_in_json")
    return _from_recipe(found)


def _find_recipe(data: Any, depth: int = 0) -> Mapping[str, Any] | None:
    if depth > 8:
        return None
    if isinstance(data, Mapping):
        kinds = data.get("@type")
        if "Recipe" in (kinds if isinstance(kinds, list) else [kinds]):
            return data
        data = list(data.values())
    if isinstance(data, list):
        for item in data[:500]:
            if isinstance(item, (Mapping, list)) and (found := _find_recipe(item, depth + 1)) is not None:
                return found
    return None


def plain_text(value: object) -> str:
    """A string that may hold markup, as plain text: tags go, scripts go with what is in them."""
    if not isinstance(value, (str, int, float)) or isinstance(value, bool):
        return ""
    text = re.sub(r"[\x00-\x08\x0b\x0e-\x1f]", "", str(value))
    if "<" in text:
        text = re.sub(r"[ \t\r\f\v]+", " ", "\n".join(_page(text).rows))
    elif "&" in text:
        text = html.unescape(text)
    return text.strip()


def _strings(value: Any) -> list[str]:
    if isinstance(value, list):
        return [row for item in value for row in _strings(item)]
    return [row.strip() for row in plain_text(value).splitlines() if row.strip()]


def _steps(value: Any, depth: int = 0) -> list[str]:
    """Instructions of any shape that schema.org allows, as paragraphs."""
    if depth > 6:
        return []
    if isinstance(value, list):
        return [row for item in value for row in _steps(item, depth + 1)]
    if isinstance(value, Mapping):
        if "itemListElement" in value:
            head = plain_text(value.get("name"))
            return [*([f"{head}:"] if head else []), *_steps(value["itemListElement"], depth + 1)]
        return _strings(value.get("text") or value.get("name") or value.get("description"))
    return _strings(value)


def _from_recipe(data: Mapping[str, Any]) -> Document:
    shown = _strings(data.get("recipeYield"))
    extension = data.get(EXTENSION)
    document = Document(
        title=plain_text(data.get("name")).replace("\n", " "),
        summary=plain_text(data.get("description")).replace("\n", " "),
        serves=next((int(found[0]) for row in shown if (found := re.search(r"\d{1,4}", row))), None),
        servings_text=shown[0] if shown else "",
        ingredients=tuple(_strings(data.get("recipeIngredient", data.get("ingredients")))),
        instructions=tuple(_steps(data.get("recipeInstructions"))),
        notes=tuple(_strings(data.get("bulwark:notes", []))),
        extra={str(key): value for key, value in data.items() if key not in _USED},
        extension=dict(extension) if isinstance(extension, Mapping) else {},
    )
    return replace(document, lines=tuple(_lines_of(document)))


def _lines_of(document: Document) -> Iterator[DocumentLine]:
    """What every part of a recipe without lines of its own was taken as."""
    rows: list[tuple[str, TakenAs]] = [(document.title, "title"), (document.summary, "summary")]
    if document.servings_text:
        rows.append((document.servings_text, "serves"))
    rows += [(row, "ingredient") for row in document.ingredients]
    rows += [(row, "instruction") for row in document.instructions]
    rows += [(f"{key}: {json.dumps(value, ensure_ascii=False)[:300]}", "kept") for key, value in document.extra.items()]
    return (DocumentLine(number=i, text=text, taken=taken) for i, (text, taken) in enumerate(rows, start=1) if text)


# --- saved pages --------------------------------------------------------------------------------

_BLOCKS = {
    "h1": "# ",
    "h2": "## ",
    "h3": "## ",
    "h4": "## ",
    "li": "- ",
    "p": "",
    "div": "",
    "br": "",
    "tr": "",
    "td": "",
    "section": "",
    "dt": "",
    "dd": "",
}


class _Page(HTMLParser):
    """The text of a page in rows, and what its JSON-LD scripts hold. Nothing else of a script or
    style is read, and nothing is run."""

    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.rows: list[str] = [""]
        self.data: list[str] = []
        self._skip = 0
        self._json = False

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if tag in ("script", "style", "noscript", "template", "svg", "title"):
            self._json = tag == "script" and (dict(attrs).get("type") or "").strip().lower() == "application/ld+json"
            if self._json:
                self.data.append("")
            self._skip += 1
        elif tag in _BLOCKS:
            self.rows.append(_BLOCKS[tag])

    def handle_endtag(self, tag: str) -> None:
        if tag in ("script", "style", "noscript", "template", "svg", "title"):
            self._skip = max(0, self._skip - 1)
            self._json = False
        elif tag in _BLOCKS and tag != "br":
            self.rows.append("")

    def handle_data(self, data: str) -> None:
        if self._json:
            self.data[-1] += data
        elif not self._skip:
            self.rows[-1] += re.sub(r"\s+", " ", data)


# A sign that opens a tag which the next one begins before it ends: no tag, and slow to look for the end of.
_NEVER_CLOSED = re.compile(r"<(?![!?])(?=[^<>]*(?:<|\Z))")


def _page(text: str) -> _Page:
    page = _Page()
    page.feed(_NEVER_CLOSED.sub("&lt;", text))
    page.close()
    page.rows = [row.strip() for row in page.rows if row.strip(" #-")]
    return page


def _from_html(text: str) -> Document:
    page = _page(text)
    for block in page.data:
        try:
            found = _find_recipe(json.loads(block))
        except (json.JSONDecodeError, RecursionError):
            continue
        if found is not None:
            return _from_recipe(found)
    if not page.rows:
        raise CoreError("text", "empty_page")
    return _from_text("\n".join(page.rows))


# --- out ----------------------------------------------------------------------------------------


def to_json_ld(document: Document) -> dict[str, Any]:
    """The recipe as schema.org JSON-LD; our part is in one namespaced field others ignore."""
    data: dict[str, Any] = {"@context": _CONTEXT, "@type": "Recipe", **document.extra, "name": document.title}
    if document.summary:
        data["description"] = document.summary
    if document.servings_text or document.serves:
        data["recipeYield"] = document.servings_text or str(document.serves)
    data["recipeIngredient"] = list(document.ingredients)
    data["recipeInstructions"] = [{"@type": "HowToStep", "text": text} for text in document.instructions]
    if document.notes:
        data["bulwark:notes"] = list(document.notes)
    if document.extension:
        data[EXTENSION] = dict(document.extension)
    return data


def _list(rows: Iterable[str], *, numbered: bool = False) -> list[str]:
    return [f"{i}. {row}" if numbered else f"- {row}" for i, row in enumerate(rows, start=1)]


def to_markdown(document: Document) -> str:
    """The recipe as Markdown; our part is in a comment at the end."""
    parts = [
        [f"# {document.title}"],
        [_served(document)],
        [document.summary],
        ["## Ingredients", "", *_list(document.ingredients)],
        ["## Method", "", *_list(document.instructions, numbered=True)],
        ["## Notes", "", *_list(document.notes)] if document.notes else [],
        [_comment(document)],
    ]
    return "\n\n".join("\n".join(rows) for rows in parts if any(rows)) + "\n"


def _served(document: Document) -> str:
    if SERVES.match(document.servings_text):
        return document.servings_text
    shown = document.servings_text or document.serves
    return f"Serves {shown}" if shown else ""


def _comment(document: Document) -> str:
    """Our part, which other readers of Markdown do not show."""
    stored = {**document.extension, **({"extra": dict(document.extra)} if document.extra else {})}
    # "--" may not stand in a comment.
    text = json.dumps(stored, ensure_ascii=True, sort_keys=True).replace("--", "\\u002d\\u002d")
    return f"<!-- bulwark {text} -->" if stored else ""
