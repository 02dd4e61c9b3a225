"""Someone at a bench who has never seen the program: does what each screen offers first, washes when
asked, types true readings, and keeps count of what they did. Nothing here knows any recipe."""

import time
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, field
from random import Random
from xml.etree.ElementTree import Element

from tests.walk.tablet import SCRUB_S, Tablet
from tests.walk.visitor import Page, find, read_form, words_of

FRIDGE_C, CHILLED_C, ROOM_C = 3.0, 4.0, 21.0
LOW_C, DONE_C = 55.0, 82.0
SHORT_SCRUB_S = 8.0
MOST_TURNS = 200
SAME_SCREENS = 4


@dataclass(slots=True)
class Cooked:
    """What came of one bench."""

    taps: int = 0
    stuck: str = ""
    refused: list[str] = field(default_factory=list)
    did: Counter[str] = field(default_factory=Counter)
    panels: list[str] = field(default_factory=list)
    words: list[tuple[str, str]] = field(default_factory=list)
    waited_s: float = 0.0
    slips: list[str] = field(default_factory=list)
    uncalled: list[str] = field(default_factory=list)

    def add(self, other: "Cooked") -> None:
        """With what came of another bench."""
        self.taps += other.taps
        self.waited_s += other.waited_s
        self.stuck = self.stuck or other.stuck
        self.did += other.did
        for name in ("refused", "panels", "words", "slips", "uncalled"):
            getattr(self, name).extend(getattr(other, name))


class SimulatedFood:
    """Food on the heat: the first reading of it is too low, later ones are right. Cold food is cold."""

    def __init__(self) -> None:
        self.readings: Counter[str] = Counter()

    def shows_c(self, button: Element) -> float:
        """What a true thermometer shows [C] where a button asks for it."""
        kind, food = button.get("data-kind") or "", button.get("data-food") or ""
        cold = {"fridge_read": FRIDGE_C, "cold_read": CHILLED_C, "ambient_read": ROOM_C}.get(kind)
        if cold is not None:
            return cold
        self.readings[food] += 1
        return LOW_C if self.readings[food] == 1 else DONE_C


class Slips:
    """Slips made at random, each of which somebody must be told of. ``calls`` counts what has been
    told so far: breaches and notes."""

    def __init__(self, seed: str, calls: Callable[[], int], often: float = 0.3) -> None:
        self.random, self.calls, self.often = Random(seed), calls, often

    def now(self) -> bool:
        """True if the player slips here."""
        return self.random.random() < self.often


class Cook:
    """One bench, from joining to the end."""

    def __init__(self, tablet: Tablet, *, patience_s: float = 400.0, slips: Slips | None = None) -> None:
        self.tablet, self.patience_s, self.slips = tablet, patience_s, slips
        self.food = SimulatedFood()
        self.done = Cooked()

    def cook(self) -> Cooked:
        """Everything the screens ask for, until the last one."""
        seen: Counter[tuple[str, str]] = Counter()
        for _ in range(MOST_TURNS):
            page = self.tablet.screen()
            screen = next(page.all("main", id="screen"), None)
            if screen is None:
                return self._ended(f"status {page.status}: {page.words[:120]}")
            name = screen.get("data-current") or ""
            panel = next((row for row in find(screen, "section") if row.get("data-panel") == name), None)
            if panel is None:
                return self._ended("no panel is current")
            self._note(name, panel)
            if "is-finished" in _classes(panel):
                return self._ended("")
            key = (name, screen.get("data-seq") or "")
            seen[key] += 1
            if seen[key] > 1 and self._rests(panel):
                continue
            if seen[key] > SAME_SCREENS:
                return self._ended(f"{name} stays as it is: {words_of(panel)[:160]}")
            self._act(screen, panel, page)
            if self.done.stuck or len(self.tablet.refused) > 8:
                return self._ended(self.done.stuck or "entries are refused again and again")
        return self._ended(f"it never ends: {self.done.panels[-4:]}")

    def _rests(self, panel: Element) -> bool:
        """A panel that comes back because food rests: waited for, as it says."""
        verdict = next(find(panel, "div", cls="verdict"), None)
        if verdict is None or not any(b.get("data-down") for b in verdict.iter()):
            return False
        self._wait(verdict)
        return True

    def _ended(self, stuck: str) -> Cooked:
        self.done.stuck, self.done.taps = stuck, self.tablet.taps
        self.done.did, self.done.refused = self.tablet.did, self.tablet.refused
        return self.done

    def _note(self, name: str, panel: Element) -> None:
        if not self.done.panels or self.done.panels[-1] != name:
            self.done.panels.append(name)
        self.done.words.append((name, words_of(panel)))

    # --- what a screen offers first ---------------------------------------------------------------------------

    def _act(self, screen: Element, panel: Element, page: Page) -> None:
        for alarm in find(screen, "section", cls="bw-alarm"):
            self.done.words.append(("alarm", words_of(alarm)))
            if not self._first(alarm, page):
                self.done.stuck = f"an alarm offers nothing: {words_of(alarm)[:160]}"
            return
        rinse = next(find(panel, "form", cls="bw-rinse"), None)
        if rinse is not None:
            self.tablet.send(rinse, page)
            return
        doer = next((i.get("value") or "" for i in find(panel, "input") if i.get("checked") is not None), "")
        for lock in find(panel, "section", cls="bw-interlock"):
            if lock.get("data-interlock") == doer and lock.get("hidden") is None and self._stopped(lock, panel, page):
                return
        act = {"is-ready": self._ready, "is-wash": self._washing, "is-leftovers": self._leftovers}
        own = next((act[name] for name in _classes(panel) if name in act), None)
        if own:
            own(panel, page)
        else:
            self._main(panel, page, doer)

    def _stopped(self, lock: Element, panel: Element, page: Page) -> bool:
        """An interlock: its first fix, or going on in spite of it."""
        if not any(row.tag in ("form", "button") for row in lock.iter()):
            return False
        if self.slips and self.slips.now():
            doer = lock.get("data-interlock") or ""
            self._slip(f"went on: {words_of(lock)[:80]}", lambda: self._main(panel, page, doer))
            return True
        return self._first(lock, page)

    def _slip(self, what: str, act: Callable[[], object]) -> None:
        """A slip, and whether anybody was told."""
        assert self.slips is not None
        before = self.slips.calls()
        act()
        self.done.slips.append(what)
        if self.slips.calls() <= before:
            self.done.uncalled.append(what)

    def _first(self, part: Element, page: Page) -> bool:
        """The first thing a part of the screen offers: a tap on a button, a form, or waiting."""
        for element in part.iter():
            if element.tag == "p" and "wait" in _classes(element):
                self._wait(part)
                return True
            if element.tag == "button" and element.get("data-wash"):
                self._wash(element.get("data-wash") or "")
                return True
            if element.tag == "button" and element.get("data-keypad") is not None:
                self.tablet.reading(element, self.food.shows_c(element))
                return True
            if element.tag == "form":
                self._send(element, page)
                return True
        return False

    def _send(self, form: Element, page: Page) -> None:
        kind = read_form(form, page.url).value("kind")
        if kind == "cleaned" and self.slips and self.slips.now():
            return self._slip("only wiped", lambda: self.tablet.send(form, page, how="wipe"))
        return self.tablet.send(form, page)

    def _wash(self, who: str) -> None:
        if self.slips and self.slips.now():
            return self._slip("a short hand-wash", lambda: self.tablet.wash(who, SHORT_SCRUB_S))
        return self.tablet.wash(who, SCRUB_S)

    def _wait(self, part: Element) -> None:
        left = next((float(b.get("data-down") or 0) for b in part.iter() if b.get("data-down")), 5.0)
        if self.done.waited_s + left > self.patience_s:
            self.done.stuck = f"it asks to wait for {left:.0f} s more"
            return
        time.sleep(left + 1)
        self.done.waited_s += left + 1

    def _ready(self, panel: Element, page: Page) -> None:
        form = next((row for row in find(panel, "form", cls="ready-form") if row.get("hidden") is None), None)
        if form is not None:
            boxes = [box.get("value") or "" for box in find(form, "input", type="checkbox")]
            self.tablet.send(form, page, checks=boxes)

    def _washing(self, panel: Element, page: Page) -> None:
        for button in find(panel, "button", cls="washer"):
            if "is-clean" not in _classes(button):
                self._wash(button.get("data-wash") or "")
                return
        for form in find(panel, "form", cls="main-act"):
            self.tablet.send(form, page)

    def _leftovers(self, panel: Element, page: Page) -> None:
        for food in find(panel, "article", cls="food"):
            if "is-settled" not in _classes(food):
                self._first(food, page)
                return

    def _main(self, panel: Element, page: Page, doer: str) -> None:
        for element in panel.iter():
            if "main-act" not in _classes(element):
                continue
            if element.tag == "form":
                step = read_form(element, page.url).value("kind") == "step_done"
                return self.tablet.send(element, page, **({"by": [doer]} if doer and step else {}))
            if element.get("data-go-on") is not None:
                return self.tablet.go_on()
            if element.get("data-keypad") is not None:
                if panel.get("data-lingers") is not None:
                    self.tablet.stay(panel.get("data-panel") or "")
                return self.tablet.reading(element, self.food.shows_c(element))
        for form in find(panel, "form"):
            if read_form(form, page.url).value("kind") == "observed":
                return self.tablet.send(form, page)
        self.done.stuck = f"{panel.get('data-panel')} offers nothing: {words_of(panel)[:160]}"
        return None


def _classes(element: Element) -> list[str]:
    return (element.get("class") or "").split()
