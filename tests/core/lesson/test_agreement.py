"""The live lesson and the plan's analysis share their rules: everything done as written, they agree."""

import itertools

import pytest

from foodsafety.contamination import HOUSE_RULES, analyse
from foodsafety.lesson import Event, State, advance, opening_state, safety_plan, settle, verdict_of
from foodsafety.recipes import Process
from foodsafety.rules import House, rule_profile
from tests.core.random_processes import crossed, crowded

HOUSE = House(arrive="unwashed")
HOME = rule_profile("canada")  # it has a temperature for every food


class Player:
    """Does every step as its recipe writes it, and measures what has to be measured at once."""

    def __init__(self, process: Process, house: House = HOUSE) -> None:
        self.state: State = opening_state(safety_plan(process, HOME, house), process.people)
        self.ids = itertools.count()
        self.now_s = 0.0

    def say(self, kind: str, **data: object) -> None:
        self.now_s += 1
        event = Event(id=str(next(self.ids)), kind=kind, at_s=self.now_s, data=data)
        self.state, _ = advance(self.state, event)

    def play(self) -> State:
        for step in self.state.plan.process.steps:
            for name in step.hands if step.do == "wash_hands" else ():
                self.say("hands_washed", learner=name, scrub_s=30)
            self.now_s += step.planned_s  # as written: not before its time
            self.say("step_done", step=step.id, by=list(step.hands))
            if step.do == "heat":
                self.measure(*step.foods, *([step.makes] if step.makes else []))
        return settle(self.state, self.now_s)

    def measure(self, *foods: str) -> None:
        for food in foods:
            if verdict_of(self.state, food, self.now_s) is not None:
                for piece in range(3):
                    self.say("core_read", food=food, piece=str(piece), core_c=90.0)


def keys(findings: object) -> set[tuple[str, str, str, str]]:
    return {finding.key for finding in findings}  # type: ignore[attr-defined]


@pytest.mark.parametrize("seed", range(80))
def test_crossed_dishes(seed: int) -> None:
    process = crossed(seed, 14, soils=8 if seed % 2 else 5)
    state, found = Player(process).play(), analyse(process, HOUSE)

    assert keys(i.finding for i in state.incidents) == keys(found.findings)
    assert keys(n.finding for n in state.noted if n.finding.rule != "doer-not-named") == keys(found.practice)


@pytest.mark.parametrize("seed", range(80))
def test_everything_meeting_everything(seed: int) -> None:
    process = crowded(seed, 24)
    state, found = Player(process).play(), analyse(process, HOUSE)

    assert keys(i.finding for i in state.incidents) == keys(found.findings)


@pytest.mark.parametrize("seed", range(40))
def test_a_kitchen_that_keeps_boards_apart_and_wears_gloves(seed: int) -> None:
    house = House(arrive="unwashed", boards="separate", gloves="gloves")
    process = crossed(seed, 14, soils=5)
    state, found = Player(process, house).play(), analyse(process, house)

    own = keys(n.finding for n in state.noted if n.finding.rule in HOUSE_RULES)
    assert keys(i.finding for i in state.incidents) | own == keys(found.findings)
    assert own == {key for key in keys(found.findings) if key[0] in HOUSE_RULES}
