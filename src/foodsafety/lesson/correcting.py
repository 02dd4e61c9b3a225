"""What puts a breach, or a control point that was missed, right: what the profile allows, best first, and of that
only what can help as things stand."""

from __future__ import annotations

import tomllib
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any, Literal, get_args

from foodsafety.contamination import Finding
from foodsafety.data import data_text
from foodsafety.lesson.breaches import mended_by_heat, remade_helps
from foodsafety.lesson.evidence import Brick
from foodsafety.lesson.proving import verdict_of
from foodsafety.lesson.state import State

Do = Literal[
    "measure", "rest", "cook_on", "wash", "clean", "remake", "chill", "serve_now", "label", "discard", "ask"
]  # fmt: skip
DOS: tuple[Do, ...] = get_args(Do)
_HEAT = ("measure", "rest", "cook_on")


@dataclass(frozen=True, slots=True, kw_only=True)
class Correction:
    """One thing that may be done about a breach: to a ``food``, to hands (``who``) or to ``tools``. ``wait_s``: how
    long it rests still [s]."""

    do: Do
    food: str = ""
    who: tuple[str, ...] = ()
    tools: tuple[str, ...] = ()
    wait_s: float = 0.0


@cache
def _actions() -> Mapping[str, Any]:
    data = tomllib.loads(data_text("corrective_actions.toml"))
    rules = {rule: tuple(row["do"]) for row in data["actions"] for rule in row["rules"]}
    return {"rules": rules, "other": tuple(data["other"]["do"]), "profile": data["profile"]}


def allowed(rule: str, profile_id: str) -> tuple[Do, ...]:
    """What a profile lets be done about a breach of a rule, best first."""
    actions = _actions()
    own = actions["profile"].get(profile_id.split("/")[0], {}).get(rule)
    found: tuple[Do, ...] = tuple(own) if own else actions["rules"].get(rule, actions["other"])
    return found


def corrections(state: State, finding: Finding, now_s: float) -> tuple[Correction, ...]:
    """What can be done about a breach now [s]: nothing at the bench once its food is eaten, but to ask."""
    if state.food(finding.food).gone is not None:
        return (Correction(do="ask"),)
    return tuple(_doable(state, allowed(finding.rule, state.plan.profile.id), finding, now_s))


def _doable(state: State, dos: tuple[Do, ...], finding: Finding, now_s: float) -> Iterator[Correction]:
    hot = mended_by_heat(state.plan, finding)
    for do in dos:
        if do == "wash" and (who := _carrying(state, finding, state.present)):
            yield Correction(do=do, who=who)
        elif do == "clean" and (tools := _carrying(state, finding, tuple(state.plan.process.tools))):
            yield Correction(do=do, tools=tools)
        elif do in _HEAT and hot:
            yield from _by_heat(state, hot, do, now_s)
        elif do == "remake" and not hot and remade_helps(state, finding):
            yield Correction(do=do, food=finding.food)
        elif do == "discard":
            yield Correction(do=do, food=hot or finding.food)
        elif do == "ask" and not hot:
            yield Correction(do=do)


def _by_heat(state: State, food: str, do: Do, now_s: float) -> Iterator[Correction]:
    """One of the three for food that is not shown to be cooked. Food that has just gone back on the heat is measured
    next; food that is shown to be cooked goes back on, since what came onto it came later."""
    verdict = verdict_of(state, food, now_s)
    if verdict is None:
        return
    held = state.food(food)
    resting = verdict.status == "rest"
    if do == "rest" and resting:
        yield Correction(do=do, food=food, wait_s=verdict.remaining_s or 0.0)
    if do == "measure" and not resting and held.proof is None:
        yield Correction(do=do, food=food)
    if do == "cook_on" and (held.on_heat_s is None or held.proof is not None or resting):
        yield Correction(do=do, food=food)


def _carrying(state: State, finding: Finding, names: tuple[str, ...]) -> tuple[str, ...]:
    """Those on the way of a breach that carry its soil still."""
    on_the_way = set(finding.path)
    return tuple(n for n in names if n in on_the_way and finding.soil in state.surfaces.get(n, ()))


def brick_corrections(state: State, brick: Brick) -> tuple[Correction, ...]:
    """What can be done about a control point that was missed, or whose limit was not kept; nothing for any other. What
    its breaches ask for is with them."""
    if brick.status not in ("missed", "breach", "not_done") or any(row.open for row in brick.incidents):
        return ()
    control = brick.control
    foods = tuple(brick.evidence.get("foods", ())) or control.foods
    found: list[Correction] = []
    for do in allowed(control.rule, state.plan.profile.id):
        if not _within_limit(brick) and (do == "serve_now" or (do == "chill" and control.rule == "raw-out-of-fridge")):
            continue
        if do == "wash":
            found.append(Correction(do=do, who=state.present))
        elif do == "clean":
            tools = {tool for step in state.plan.process.steps if step.id in control.steps for tool in step.tools}
            found.append(Correction(do=do, tools=tuple(sorted(tools))))
        elif do == "ask":
            found.append(Correction(do=do))
        elif do != "rest":
            found += [Correction(do=do, food=food) for food in foods if _can_be_done(state, food, do)]
    return tuple(found)


def _within_limit(brick: Brick) -> bool:
    """True if a time out is known, and under the profile's own limit."""
    out_s, limit_s = brick.evidence.get("out_s"), brick.evidence.get("limit_s")
    return out_s is not None and limit_s is not None and out_s < limit_s


def _can_be_done(state: State, food: str, do: Do) -> bool:
    """What is put away can still be thrown away or labelled; what is gone is gone."""
    held = state.food(food)
    return held.gone is None and (held.kept is None or do in ("discard", "label"))
