"""Builders with safe defaults: a test states only what matters to it. Examples are the demo hostel's."""

import datetime as dt
import itertools
import json
from pathlib import Path
from typing import Any

from foodsafety.lesson import Event, Plan, State, advance, opening_state, safety_plan
from foodsafety.recipes import Process, process_from
from foodsafety.rules import House, rule_profile

DEMOS = sorted((Path(__file__).resolve().parent.parent / "src/bulwark/demo/recipes").glob("*.json"))
LEARNERS = ("AK", "JT", "NB")
READY = ["apron", "hair", "jewellery", "cuts", "well"]


def demo_recipe(name: str = "turkey-koftas") -> dict[str, Any]:
    """One of the hostel's own recipes, by its file's name."""
    [path] = [path for path in DEMOS if path.stem == name]
    return json.loads(path.read_text(encoding="utf-8"))


def koftas(code: str = "us-home", **house: Any) -> Plan:
    """The demo recipe's safety plan."""
    return safety_plan(process_from(demo_recipe()["process"]), rule_profile(code), House(**house))


class AProcess:
    """A process in the command line's own form, step by step."""

    def __init__(self) -> None:
        self.foods: dict[str, Any] = {}
        self.tools: dict[str, Any] = {}
        self.people: list[str] = []
        self.steps: list[dict[str, Any]] = []
        self.plates: list[str] = []
        self.free: dict[str, list[str]] = {}

    def food(self, name: str, *soils: str, kind: str | None = None) -> "AProcess":
        self.foods[name] = {"kind": kind} if kind else {"soils": list(soils)}
        return self

    def step(
        self, do: str, foods: str = "", *, tools: str = "", hands: str = "", makes: str | None = None, **more: Any
    ) -> "AProcess":
        """Foods, tools and hands as words parted by spaces; unknown ones come into being clean."""
        for name in foods.split():
            if name not in self.foods and not any(step.get("makes") == name for step in self.steps):
                self.food(name)
        for name in tools.split():
            self.tools.setdefault(name, {"kind": name.rstrip("0123456789")})
        for name in hands.split():
            if name not in self.people:
                self.people.append(name)
        row = {
            "id": more.pop("id", str(len(self.steps) + 1)),
            "do": do,
            "foods": foods.split(),
            "tools": tools.split(),
            "hands": hands.split(),
            **more,
        }
        self.steps.append({**row, "makes": makes} if makes else row)
        return self

    def serve(self, *foods: str) -> "AProcess":
        self.plates = list(foods)
        return self

    def free_of(self, food: str, *allergens: str) -> "AProcess":
        self.free[food] = list(allergens)
        return self

    @property
    def data(self) -> dict[str, Any]:
        return {
            "foods": self.foods,
            "tools": self.tools,
            "people": self.people,
            "steps": self.steps,
            "serve": self.plates,
            "free_of": self.free,
        }

    def build(self) -> Process:
        return process_from(self.data)


def a_process() -> AProcess:
    return AProcess()


def chicken_and_salad() -> AProcess:
    """A recipe that washes nothing: raw chicken and salad on one board."""
    return (
        a_process()
        .food("chicken", kind="raw_chicken")
        .step("cut", "chicken", tools="board knife", hands="AK", id="chop")
        .step("cut", "cress", tools="board knife", hands="AK", id="cress")
        .step("heat", "chicken", tools="pan", id="fry")
        .step("serve", "chicken cress", id="serve")
        .serve("chicken", "cress")
    )


class ABench:
    """A bench that does what it is told, one entry after another."""

    def __init__(self, plan: Plan | None = None, learners: tuple[str, ...] = LEARNERS) -> None:
        self.plan = plan or koftas()
        self.state: State = opening_state(self.plan, learners)
        self.events: list[Event] = []
        self.now_s = 0.0
        self.ids = itertools.count()

    def says(self, kind: str, *, after_s: float = 10, **data: Any) -> "ABench":
        self.now_s += after_s
        event = Event(id=f"e{next(self.ids)}", kind=kind, at_s=self.now_s, data=data)
        self.events.append(event)
        self.state, self.findings = advance(self.state, event)
        return self

    def washes(self, *learners: str, scrub_s: float = 20) -> "ABench":
        for name in learners or LEARNERS:
            self.says("hands_washed", learner=name, scrub_s=scrub_s)
        return self

    def arrives(self) -> "ABench":
        self.says("fridge_read", core_c=4.0)
        return self.washes()

    def does(self, *steps: str, by: str = "AK", after_s: float = 60) -> "ABench":
        for step in steps:
            self.says("step_done", step=step, by=[by], after_s=after_s)
        return self

    def shapes_koftas(self, by: str = "AK") -> "ABench":
        """Everything up to eight raw koftas on the tray."""
        return self.arrives().does("grate", "stir", "chill", by="JT").does("mix", "shape", by=by)

    def probes(self, *cores_c: float, after_s: float = 10) -> "ABench":
        for i, core_c in enumerate(cores_c, start=1):
            self.says("core_read", food="koftas", piece=str(i), core_c=core_c, after_s=after_s)
        return self

    def cooks(self) -> "ABench":
        """Washed back, on the griddle, clean tongs."""
        self.shapes_koftas().washes("AK").does("wash", "wash-up", "slice", "griddle", "fresh-tongs")
        return self


def a_bench(code: str = "us-home", **house: Any) -> ABench:
    return ABench(koftas(code, **house))


def at(text: str) -> dt.datetime:
    return dt.datetime.fromisoformat(text)


# A text that does not say who touches the lamb, nor whether anybody washes before the lettuce.
WRAPS = """Crew wraps

Ingredients
600 g lamb mince
1 tsp ground cumin
1 lettuce
6 flour tortillas

Method
Mix the lamb with the cumin.
Fry it for 9 minutes, to 71C in the middle.
Rinse the lettuce.
Lay the lettuce on the tortillas and serve with the lamb.
"""
# The same, with a heat that has neither a time nor an end.
TURNED_WRAPS = WRAPS.replace("Fry it for 9 minutes, to 71C in the middle.", "Put it on a hot griddle and turn it over.")
