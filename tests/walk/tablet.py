"""A bench's tablet in a player's hands: over HTTP as its script sends, or by taps in Chromium."""

from collections import Counter
from collections.abc import Mapping
from typing import Any, Protocol
from xml.etree.ElementTree import Element

from playwright.sync_api import Page as BrowserPage

from tests.walk.visitor import Page, Visitor, read_form

LISTS = ("checks", "tools", "foods", "by")
_CHANGING = ("csrfmiddlewaretoken", "id", "by", "checks")
SCRUB_S = 30.0
WHOLE_WASH_S = 48


class Tablet(Protocol):
    """What a player can do at a bench. ``did`` counts what was acknowledged, by kind."""

    unit: str
    taps: int
    did: Counter[str]
    refused: list[str]

    def screen(self) -> Page:
        """What the tablet shows now."""

    def send(self, form: Element, page: Page, **changes: object) -> None:
        """A form of the screen, sent by its button."""

    def wash(self, who: str, scrub_s: float = SCRUB_S) -> None:
        """A hand-wash from its start to its end."""

    def reading(self, button: Element, celsius: float) -> None:
        """A true temperature [C] typed where a button asks for it."""

    def stay(self, panel: str) -> None:
        """What a reading shows stays in view until the bench goes on."""

    def go_on(self) -> None:
        """The button that leaves a panel as it is."""


class SentTablet:
    """A tablet without a browser: the same addresses, the same entries, the same questions."""

    def __init__(self, visitor: Visitor) -> None:
        self.visitor = visitor
        self.did: Counter[str] = Counter()
        self.refused: list[str] = []
        self.wanted = ""
        bench = next(visitor.get("/b/").all("div", id="bench"), None)
        if bench is None:
            raise LookupError("the tablet is at no bench")
        self.unit = bench.get("data-unit") or "C"

    @property
    def taps(self) -> int:
        """Requests that a tap made."""
        return self.visitor.taps

    def screen(self) -> Page:
        """The moving part, as the script fetches it."""
        return self.visitor.get(f"/b/screen/?panel={self.wanted}" if self.wanted else "/b/screen/")

    def send(self, form: Element, page: Page, **changes: object) -> None:
        """The fields of a form as an entry."""
        read = read_form(form, page.url)
        data: dict[str, Any] = {}
        for key, value in read.filled(**changes):
            if key in ("csrfmiddlewaretoken", "kind", "id") or key.startswith("doer-"):
                continue
            if key in LISTS:
                data.setdefault(key, []).extend([value] if value else [])
            else:
                data[key] = value
        self._enter(read.value("kind"), data)
        if form.get("data-next") is not None:
            self.wanted = ""

    def wash(self, who: str, scrub_s: float = SCRUB_S) -> None:
        """Its two entries; the time is not waited for."""
        self._enter("wash_started", {"learner": who})
        self._enter("hands_washed", {"learner": who, "scrub_s": scrub_s})

    def reading(self, button: Element, celsius: float) -> None:
        """A reading in the bench's unit, with the food and the piece the button names."""
        value = typed(celsius, self.unit)
        data: dict[str, Any] = {"value": value, "unit": self.unit, "source": "keypad"}
        for key in ("food", "piece"):
            if button.get(f"data-{key}"):
                data[key] = button.get(f"data-{key}")
        self._enter(button.get("data-kind") or "", data)

    def stay(self, panel: str) -> None:
        """What a reading shows stays in view until the bench goes on."""
        self.wanted = panel

    def go_on(self) -> None:
        """No entry: the tablet only shows the next panel."""
        self.wanted = ""

    def post(self, kind: str, data: Mapping[str, Any]) -> tuple[int, dict[str, Any]]:
        """One entry, and what was answered."""
        return self.visitor.entry(kind, dict(data))

    def _enter(self, kind: str, data: Mapping[str, Any]) -> None:
        status, body = self.post(kind, data)
        if status == 409 and body.get("code") == "question":
            answers = body.get("answers") or []
            if answers:
                change = {key: value for key, value in answers[-1].items() if key != "label"}
                status, body = self.post(kind, {**data, **change})
        if status == 200:
            self.did[kind] += 1
        else:
            self.refused.append(f"{kind} {dict(data)}: {status} {body.get('message') or body.get('title')}")


def typed(celsius: float, unit: str) -> float:
    """A temperature as its bench types it."""
    return round(celsius * 9 / 5 + 32, 1) if unit == "F" else celsius


class TouchedTablet:
    """A tablet in Chromium: every entry is a tap on what is in view. Its clock is run ahead for the
    length of a hand-wash and of a rest, since the page counts by it."""

    def __init__(self, page: BrowserPage, address: str, join: str) -> None:
        self.page, self.taps = page, 0
        self.did: Counter[str] = Counter()
        self.refused: list[str] = []
        page.on("requestfinished", self._note)
        page.clock.install()
        page.goto(address + join)
        page.click("main button")
        page.wait_for_selector("#bench")
        self.unit = page.locator("#bench").get_attribute("data-unit") or "C"

    def _note(self, request: Any) -> None:
        if request.method != "POST" or not request.url.endswith("/b/entries/"):
            return
        answer, row = request.response(), request.post_data_json
        if answer.status == 200:
            self.did[row["kind"]] += 1
        elif answer.status != 409:
            self.refused.append(f"{row['kind']} {row['data']}: {answer.status}")

    def screen(self) -> Page:
        """What stands in the page once it has settled."""
        self.page.clock.run_for(1_000)  # past the moment in which a second tap counts for nothing
        # The page's own script says which panel is in view; the server's mark may be a step behind.
        shown = self.page.evaluate(
            "() => [...document.querySelectorAll('[data-panel]')].find((panel) => !panel.hidden)?.dataset.panel"
        )
        self.page.evaluate("(name) => document.querySelector('#screen').dataset.current = name", shown)
        return Page(self.page.url, 200, self.page.content())

    def send(self, form: Element, page: Page, **changes: object) -> None:
        """The form's own button, with what is chosen beside it tapped first."""
        shown = self._in_view(_selector(form, page))
        if shown is None:
            return  # the screen has moved on: look again
        for box in changes.get("checks", []):  # type: ignore[attr-defined]
            if not shown.locator(f"input[value='{box}']").is_checked():
                shown.locator(f"label:has(input[value='{box}'])").click()
        for who in changes.get("by", []):  # type: ignore[attr-defined]
            token = self.page.locator(f"[data-panel]:not([hidden]) label.tok:has(input[value='{who}'])")
            if token.count():
                token.first.click()
        buttons = shown.locator("button")
        self._tap(buttons.locator("visible=true").last if buttons.count() > 1 else buttons.first)

    def _in_view(self, selector: str) -> Any:
        """The form whose button can be seen; panels that are not up yet hold the same ones."""
        found = self.page.locator(selector)
        seen = (i for i in range(found.count()) if found.nth(i).locator("button").last.is_visible())
        at = next(seen, None)
        return None if at is None else found.nth(at)

    def _tap(self, button: Any) -> None:
        with self.page.expect_response("**/b/entries/") as answer:
            button.click()
            self.page.clock.run_for(100)
        self.taps += 1
        if answer.value.status == 409:
            return self._tap(self._last_answer())
        return self._follow(answer.value)

    def _last_answer(self) -> Any:
        """The last answer that a question offers; the button after it takes the entry back."""
        buttons = self.page.locator(".bw-question .bw-acts button")
        return buttons.nth(buttons.count() - 2)

    def _follow(self, answer: Any) -> None:
        """Waits for the screen that knows of an entry, as anybody waits for what they tapped."""
        if answer.status == 200:
            seen = "(seq) => Number(document.querySelector('#screen').dataset.seq) >= seq"
            self.page.wait_for_function(seen, arg=answer.json()["seq"])

    def wash(self, who: str, scrub_s: float = SCRUB_S) -> None:
        """The whole wash, with the tablet's clock run ahead."""
        del scrub_s  # the page counts it
        self._tap(self.page.locator(f'.person[data-wash="{who}"]'))
        self.page.clock.run_for(WHOLE_WASH_S * 1000)
        self._tap(self.page.locator("[data-wash-done]"))

    def reading(self, button: Element, celsius: float) -> None:
        """Key by key on the keypad; a question is answered with its last answer."""
        wanted = "".join(
            f'[data-{key}="{button.get(f"data-{key}")}"]'
            for key in ("kind", "food", "piece")
            if button.get(f"data-{key}")
        )
        self.page.locator(f"button[data-keypad]{wanted}").locator("visible=true").first.click()
        for key in f"{typed(celsius, self.unit):g}":
            self.page.click(f'#keypad [data-key="{key}"]')
        with self.page.expect_response("**/b/entries/") as answer:
            self.page.click("#keypad [data-enter]")
            self.page.clock.run_for(100)
        self.taps += 1
        if answer.value.status == 409:
            return self._tap(self._last_answer())
        return self._follow(answer.value)

    def stay(self, panel: str) -> None:
        """The page does so by itself."""

    def go_on(self) -> None:
        """The button that sends nothing."""
        self.page.locator("[data-go-on]").locator("visible=true").first.click()
        self.taps += 1


def _selector(form: Element, page: Page) -> str:
    """A form by what it would send; its id changes whenever the screen is fetched anew."""
    fixed = [(key, value) for key, value in read_form(form, page.url).values if key not in _CHANGING]
    return "form" + "".join(f':has(input[type=hidden][name="{key}"][value="{value}"])' for key, value in fixed)
