"""The written cases of tests/data/contamination.txt: every finding of each, with its whole path."""

import re
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import pytest

from foodsafety.contamination import Finding, analyse, rule_source, severity
from foodsafety.recipes import Process, process_from
from foodsafety.rules import House, house_from

FILE = Path(__file__).resolve().parents[2] / "data/contamination.txt"


PROFILES = ("us-home", "us-foodservice", "uk", "canada", "anz")


@dataclass
class Case:
    name: str
    foods: dict[str, Any] = field(default_factory=dict)
    tools: dict[str, Any] = field(default_factory=dict)
    people: list[str] = field(default_factory=list)
    steps: list[dict[str, Any]] = field(default_factory=list)
    serve: list[str] = field(default_factory=list)
    free_of: dict[str, list[str]] = field(default_factory=dict)
    house: dict[str, str] = field(default_factory=dict)
    finds: set[tuple[str, str, str]] = field(default_factory=set)
    advises: set[tuple[str, str, str]] = field(default_factory=set)
    ended: set[tuple[str, str, str]] = field(default_factory=set)

    @property
    def data(self) -> dict[str, Any]:
        names = ("foods", "tools", "people", "steps", "serve", "free_of")
        return {name: getattr(self, name) for name in names}

    def process(self) -> Process:
        return process_from(self.data)

    def kitchen(self) -> House:
        return house_from(self.house)

    def _food(self, text: str) -> str:
        name, mark, rest = re.match(r"([^:=]+)([:=]?)(.*)", text).groups()  # type: ignore[union-attr]
        made = any(step.get("makes") == name for step in self.steps)
        if mark == "=":
            self.foods[name] = {"kind": rest}
        elif mark or (name not in self.foods and not made):
            self.foods[name] = {"soils": [part for part in rest.split(",") if part]}
        return name

    def _step(self, name: str, text: str) -> None:
        text, _, makes = text.partition(">")
        parts = [part.split() for part in (*text.split("/"), "", "")][:3]
        (do, *foods), tools, hands = parts
        step = {"id": name, "do": do, "foods": [self._food(food) for food in foods], "tools": tools, "hands": hands}
        for tool in tools:
            self.tools[tool] = {"kind": tool.rstrip("0123456789")}
        self.people += [hand for hand in hands if hand not in self.people]
        self.steps.append({**step, "makes": makes.strip()} if makes.strip() else step)

    def read(self, line: str) -> None:
        word, _, rest = line.partition(" ")
        if word == "foods":
            for text in rest.split():
                self._food(text)
        elif word == "serve":
            self.serve = [self._food(name) for name in rest.split()]
        elif word == "house":
            self.house.update(pair.split("=") for pair in rest.split())  # type: ignore[misc]
        elif word == "free":
            food, names = rest.split(": ")
            self.free_of[food] = names.split()
        elif word in ("finds", "advises"):
            rule, at, *path = rest.split()
            getattr(self, word).add((rule, at.removeprefix("@"), path[0] if path else ""))
        elif word == "ended":
            soil, food, by = rest.replace(" by ", " ").split()
            self.ended.add((soil, food, by))
        else:
            self._step(word, rest)


def cases() -> list[Case]:
    found = []
    for block in FILE.read_text(encoding="utf-8").split("\n\n"):
        if block.startswith("# "):
            head, *lines = block.strip().splitlines()
            case = Case(head.removeprefix("# "))
            for line in lines:
                case.read(line)
            found.append(case)
    return found


CASES = cases()


def shown(finding: Finding) -> tuple[str, str, str]:
    return (finding.rule, finding.step, ">".join(finding.path))


def test_there_are_at_least_sixty_cases() -> None:
    assert len(CASES) >= 60
    assert len({case.name for case in CASES}) == len(CASES)


@pytest.mark.parametrize("case", CASES, ids=lambda case: case.name)
def test_the_case_finds_what_is_written_and_nothing_else(case: Case) -> None:
    found = analyse(case.process(), case.kitchen())

    assert {shown(finding) for finding in found.findings} == case.finds
    assert {shown(finding) for finding in found.practice} == case.advises
    assert case.ended <= {(row.soil, row.food, row.by) for row in found.cleared}


@pytest.mark.parametrize("case", CASES, ids=lambda case: case.name)
def test_every_finding_tells_its_steps_its_weight_and_its_source(case: Case) -> None:
    steps = {step.id for step in case.process().steps}

    for finding in analyse(case.process(), case.kitchen()).findings:
        assert not finding.at or (len(finding.at) == len(finding.path) and set(finding.at) <= steps | {""})
        assert severity(finding) < severity(finding, vulnerable=True)
        assert all(rule_source(finding.rule, code) for code in PROFILES)


@pytest.mark.parametrize("case", CASES, ids=lambda case: case.name)
def test_the_wash_a_finding_asks_for_ends_it(case: Case) -> None:
    process = case.process()
    for finding in analyse(process, case.kitchen()).findings:
        if "wash" not in finding.evidence:
            continue
        carrier, before = finding.evidence["wash"]
        hands = carrier in process.people
        wash = {"id": "w", "do": "wash_hands" if hands else "clean", "hands" if hands else "tools": [carrier]}
        at = process.step_index[before]
        gloves = [{"id": "off", "do": "gloves_off", "hands": [carrier]}] if finding.rule == "gloves-not-changed" else []
        data = {**case.data, "steps": [*case.steps[:at], *gloves, wash, *case.steps[at:]]}

        assert shown(finding) not in {shown(row) for row in analyse(process_from(data), case.kitchen()).findings}


def test_what_is_partly_eaten_raw_is_not_called_cleared() -> None:
    case = Case("tartare")
    for line in (
        "foods beef:raw_meat",
        "1 mix beef / bowl > tartare",
        "2 heat beef / pan",
        "serve beef tartare",
    ):
        case.read(line)
    found = analyse(case.process())

    assert [shown(finding) for finding in found.findings] == [("no-kill-step", "2", "beef>tartare")]
    assert found.cleared == ()


def test_a_wash_that_comes_too_late_and_a_wipe_are_named() -> None:
    case = Case("late")
    for line in (
        "foods turkey:raw_poultry",
        "1 cut turkey / board",
        "2 wipe / board",
        "3 cut bread / board",
        "4 clean / board",
        "5 heat turkey / pan",
        "serve turkey bread",
    ):
        case.read(line)

    [finding] = analyse(case.process()).findings

    assert finding.evidence == {"wash": ("board", "3"), "wiped": "2", "too_late": "4"}
