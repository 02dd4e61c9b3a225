"""A visitor with cookies who reads pages as a browser would: forms, buttons, links, and nothing else."""

import http.cookiejar
import json
import time
import urllib.error
import urllib.parse
import urllib.request
import uuid
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any
from xml.etree.ElementTree import Element

import tinyhtml5


@dataclass(frozen=True, slots=True)
class Form:
    """A form of a page with what stands in its fields."""

    action: str
    method: str
    element: Element
    values: list[tuple[str, str]] = field(default_factory=list)

    def value(self, name: str) -> str:
        """The first value of a field, or nothing."""
        return next((value for key, value in self.values if key == name), "")

    def has(self, name: str) -> bool:
        """True if the form has a field of this name."""
        return any(key == name for key, _ in self.values)

    def filled(self, **changes: Any) -> list[tuple[str, str]]:
        """The fields with some of them filled in anew; a list gives several values."""
        kept = [(key, value) for key, value in self.values if key not in changes]
        for key, value in changes.items():
            kept += [(key, str(one)) for one in (value if isinstance(value, list) else [value])]
        return kept


class Page:
    """A page as it came: its address, its status, and its tree."""

    def __init__(self, url: str, status: int, text: str) -> None:
        self.url, self.status, self.text = url, status, text
        self.root: Element = tinyhtml5.parse(text or "<p>", namespace_html_elements=False)

    def all(self, tag: str = "*", **wanted: str) -> Iterator[Element]:
        """Elements of a tag with these attributes; ``cls`` is one of its classes."""
        yield from find(self.root, tag, **wanted)

    def forms(self, within: Element | None = None) -> list[Form]:
        """The forms, in order."""
        return [read_form(form, self.url) for form in find(self.root if within is None else within, "form")]

    def form(self, ending: str) -> Form | None:
        """The first form that goes to an address with this ending."""
        return next((form for form in self.forms() if form.action.endswith(ending)), None)

    @property
    def words(self) -> str:
        """The words of the page, as they are read."""
        return words_of(self.root)


def find(root: Element, tag: str = "*", **wanted: str) -> Iterator[Element]:
    """Elements below one, in order; ``cls`` is one of the classes, ``_`` in a name is ``-``."""
    for element in root.iter(tag if tag != "*" else None):
        if not isinstance(element.tag, str):
            continue
        if all(_has(element, name, value) for name, value in wanted.items()):
            yield element


def _has(element: Element, name: str, value: str) -> bool:
    if name == "cls":
        return value in (element.get("class") or "").split()
    return element.get(name.replace("_", "-")) == value


def words_of(element: Element) -> str:
    """What an element says, without scripts, drawings and what is hidden from nobody's eyes."""
    return " ".join(" ".join(_texts(element)).split())


def _texts(element: Element) -> Iterator[str]:
    if element.tag in ("script", "style", "template", "datalist", "head"):
        yield element.tail or ""
        return
    yield element.text or ""
    for child in element:
        yield from _texts(child)
        if child.tag not in ("script", "style", "template", "datalist", "head"):
            yield child.tail or ""


def read_form(form: Element, url: str) -> Form:
    """What a browser would send of a form as it stands."""
    values: list[tuple[str, str]] = []
    for element in form.iter():
        name = element.get("name") if isinstance(element.tag, str) else None
        if not name or element.get("disabled") is not None:
            continue
        if element.tag == "input" and element.get("type") in ("checkbox", "radio"):
            if element.get("checked") is not None:
                values.append((name, element.get("value") or "on"))
        elif element.tag == "input" and element.get("type") not in ("submit", "button", "file", "image"):
            values.append((name, element.get("value") or ""))
        elif element.tag == "textarea":
            values.append((name, words_kept(element)))
        elif element.tag == "select":
            options = list(find(element, "option"))
            chosen = next((row for row in options if row.get("selected") is not None), options[0] if options else None)
            if chosen is not None:
                value = chosen.get("value")
                values.append((name, words_of(chosen) if value is None else value))
    action = urllib.parse.urljoin(url, form.get("action") or url)
    return Form(action, (form.get("method") or "get").lower(), form, values)


def words_kept(element: Element) -> str:
    """The text of an element with its line breaks."""
    return "".join(element.itertext())


class Visitor:
    """One browser: its own cookies, and a count of what it asked for."""

    def __init__(self, address: str) -> None:
        self.address = address
        self.jar = http.cookiejar.CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar))
        self.taps = 0

    def get(self, path: str) -> Page:
        """A page."""
        return self._ask(path)

    def send(self, form: Form, **changes: Any) -> Page:
        """A form sent as it stands, with what is filled in; one tap."""
        self.taps += 1
        fields = form.filled(**changes)
        if form.method == "get":
            return self._ask(f"{form.action}?{urllib.parse.urlencode(fields)}")
        return self._ask(form.action, urllib.parse.urlencode(fields).encode(), referer=form.action)

    def fetch(self, path: str) -> bytes:
        """A file."""
        with self.opener.open(urllib.parse.urljoin(self.address, path), timeout=60) as answer:
            found: bytes = answer.read()
        return found

    def upload(self, path: str, field: str, name: str, data: bytes) -> Page:
        """A file sent with the form of a page; one tap."""
        self.taps += 1
        form = self.get(path).form(path)
        assert form is not None
        edge = uuid.uuid4().hex
        parts = [
            f'--{edge}\r\nContent-Disposition: form-data; name="{key}"\r\n\r\n{value}\r\n'.encode()
            for key, value in form.filled()
            if key != field
        ]
        head = f'--{edge}\r\nContent-Disposition: form-data; name="{field}"; filename="{name}"\r\n\r\n'
        body = b"".join([*parts, head.encode(), data, f"\r\n--{edge}--\r\n".encode()])
        sort = {"Content-Type": f"multipart/form-data; boundary={edge}"}
        return self._ask(path, body, referer=urllib.parse.urljoin(self.address, path), headers=sort)

    def entry(
        self, kind: str, data: dict[str, Any], *, path: str = "/b/entries/", own: str = "", happened_ms: float = 0.0
    ) -> tuple[int, dict[str, Any]]:
        """An entry as the script of a tablet, or of a pad, sends it; one tap."""
        self.taps += 1
        now = time.time() * 1000
        row = {"id": own or str(uuid.uuid4()), "kind": kind, "data": data, "happened_at": happened_ms or now}
        row["sent_at"] = now
        token = next((c.value or "" for c in self.jar if c.name == "csrftoken"), "")
        headers = {"Content-Type": "application/json", "X-CSRFToken": token}
        page = self._ask(path, json.dumps(row).encode(), headers=headers)
        try:
            return page.status, json.loads(page.text)
        except ValueError:
            return page.status, {"message": page.text[:200]}

    def _ask(
        self, path: str, body: bytes | None = None, *, referer: str = "", headers: dict[str, str] | None = None
    ) -> Page:
        url = urllib.parse.urljoin(self.address, path)
        request = urllib.request.Request(url, body, {"Referer": referer or url, **(headers or {})})  # noqa: S310
        try:
            with self.opener.open(request, timeout=60) as answer:
                return Page(answer.geturl(), answer.status, answer.read().decode(errors="replace"))
        except urllib.error.HTTPError as answer:
            return Page(answer.geturl(), answer.code, answer.read().decode(errors="replace"))
