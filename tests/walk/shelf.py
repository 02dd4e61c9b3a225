"""What a lesson has kept, until nothing of it is left: counted, split, frozen, thawed, heated again, eaten, thrown
away. Its page, its label and the list for other programs must say one date, and nothing that is done may make it later.
In the minutes that a walk takes: days are the business of the histories in ``tests/data``."""

from __future__ import annotations

import datetime as dt
import json
import urllib.parse
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

from tests.walk.visitor import Form, Page, Visitor, find, words_of

# Between two looks at a date no more than this passes: frozen time pauses the clock of a fridge.
SLACK = dt.timedelta(minutes=2)
PORTIONS, SPLIT, HOT, COLD = 8, 3, 95, 4


@dataclass(slots=True)
class Emptying:
    """Empties the shelf of what some benches put there. ``wrong``: what did not agree; ``gone``: how many parts."""

    educator: Visitor
    benches: frozenset[str]
    gone: int = 0
    wrong: list[str] = field(default_factory=list)

    def empty(self) -> None:
        """Everything, one part after the other."""
        for row in list(self._rows()):
            self._agrees(row)
            if row["use_by"] is None:
                self._end(row["code"], "discarded")
            else:
                self._through(row)
        self.wrong += [f"still on the shelf: {row['code']}" for row in self._rows()]

    def _rows(self) -> Iterator[dict[str, Any]]:
        for line in self.educator.get("/shelf/shelf.jsonl").text.splitlines():
            row = json.loads(line)
            if row["code"].split("-")[0] in self.benches:
                yield row

    def _row(self, code: str) -> dict[str, Any] | None:
        return next((row for row in self._rows() if row["code"] == code), None)

    def _page(self, code: str) -> Page:
        return self.educator.get(f"/shelf/?{urllib.parse.urlencode({'item': code})}")

    def _agrees(self, row: dict[str, Any]) -> None:
        """The page of a part and its label say what the list says."""
        page = self._page(row["code"])
        opened = next(page.all("section", cls="sf-open"), None)
        if opened is None:
            self.wrong.append(f"{row['code']} has no page")
            return
        link = next(a.get("href") or "" for a in find(opened, "a") if words_of(a) == "Label")
        label = self.educator.get(link).words
        if row["use_by"] is None:
            if "so use by" in words_of(opened) or "Use by" in label or "Best before" in label:
                self.wrong.append(f"{row['code']} is over, and a page or its label has a date")
            return
        day = dt.datetime.fromisoformat(row["use_by"])
        told = f"{day.day} {day:%b}"
        if told not in label or not (told in words_of(opened) or "today" in words_of(opened)):
            self.wrong.append(f"{row['code']} is good until {told}: its page or its label says something else")

    def _through(self, row: dict[str, Any]) -> None:
        """Some portions are frozen and thawed, the rest is heated again and eaten."""
        code, until = row["code"], row["use_by"]
        self._do(code, "count", portions=PORTIONS)
        self._cooled(code)
        self._do(code, "split", portions=SPLIT)
        pk, _, rest = code.partition("-")
        other = f"{pk}-2-{rest.partition('-')[2]}"
        if row["place"] != "freezer":
            self._do(other, "move", place="freezer")
        self._do(other, "move", place="fridge")
        thawed = self._row(other)
        if thawed is None:
            self.wrong.append(f"{other} is lost")
        elif row["place"] == "fridge" and thawed["use_by"] and _later(thawed["use_by"], until):
            self.wrong.append(f"{other} keeps longer for having been frozen: {until}, then {thawed['use_by']}")
        if thawed is not None:
            self._agrees(thawed)
        self._do(other, "move", place="freezer")
        again = self._row(other)
        if again is not None and again["use_by"]:
            self.wrong.append(f"{other} was thawed and frozen again, and has a date")
        self._end(other, "discarded")
        self._do(code, "heat", value=HOT, unit="C")
        self._do(code, "move", place="fridge")
        back = self._row(code)
        if back is not None and back["use_by"]:
            self.wrong.append(f"{code} was heated again and put back, and has a date")
        self._end(code, "eaten" if back is None else "discarded")

    def _cooled(self, code: str) -> None:
        """It stands in something, and is read until it is cold."""
        self._do(code, "box", container="tray_half", count=2, litres=2, wrap="lid")
        before = self._row(code)
        self._do(code, "read", value=COLD, unit="C")
        after = self._row(code)
        if after is None or after["standing"] == "cooling":
            self.wrong.append(f"{code} was read at {COLD} C and still cools")
        elif before and before["use_by"] and after["use_by"] and _later(after["use_by"], before["use_by"]):
            self.wrong.append(f"{code} keeps longer for having been read")

    def _end(self, code: str, how: str) -> None:
        self._do(code, "take", how=how)
        said = " ".join(words_of(row) for row in self._page(code).all(cls="sf-lost"))
        if ("eaten on" if how == "eaten" else "thrown away on") not in said:
            self.wrong.append(f"{code} was {how}, and its label says: {said or 'nothing'}")
        self.gone += 1

    def _do(self, code: str, do: str, **said: Any) -> None:
        page = self._page(code)
        form = next((form for form in page.forms() if _does(form, do) and _ends(form, said.get("how"))), None)
        if form is None:
            self.wrong.append(f"nothing to {do} {code} with")
            return
        answer = self.educator.send(form, do=do, **{name: str(value) for name, value in said.items()})
        told = [words_of(row) for row in answer.all() if "is-error" in (row.get("class") or "")]
        self.wrong += [f"{do} {code}: {text}" for text in told]


def _does(form: Form, do: str) -> bool:
    """True for the form of the shelf that does a thing: a field of it says so, or one of its buttons."""
    fields = [*find(form.element, "input", name="do"), *find(form.element, "button", name="do")]
    return form.action.endswith("/shelf/act/") and any(row.get("value") == do for row in fields)


def _ends(form: Form, how: Any) -> bool:
    """True where a form has the button for how something ends, or nothing is asked to end."""
    return how is None or any(row.get("value") == how for row in find(form.element, "button", name="how"))


def _later(one: str, other: str) -> bool:
    return dt.datetime.fromisoformat(one) > dt.datetime.fromisoformat(other) + SLACK
