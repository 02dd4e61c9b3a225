"""Washing at the bench: everybody on arrival, and what has to be washed once raw work is over."""

from bulwark.bench import wording as bench_wording
from bulwark.bench.panels import Panel
from bulwark.lessons import log_wording
from foodsafety.lesson import Brick, ControlPoint, State

_WASHING_UP = ("hands-after-raw", "kit-after-raw", "clean-utensils")


def wash_rows(state: State, now_s: float) -> list[dict[str, str]]:
    """Everybody at the bench, with their hands."""
    rows = []
    for name in state.present:
        hands, word = log_wording.hands_of(state, name, now_s)
        wash = state.person(name).washed
        rows.append({"initials": name, "hands": hands, "word": word, "scrub": f"{wash.scrub_s:g} s" if wash else ""})
    return rows


def arrive_panel(state: State, now_s: float) -> Panel:
    """Everybody washes before anything else."""
    done = bool(state.present) and all(state.person(name).washed for name in state.present)
    return Panel(
        id="arrive-wash", kind="wash", title="arrive", done=done, extra={"rows": wash_rows(state, now_s), "step": ""}
    )


def washing_up(state: State, rows: tuple[Brick, ...], now_s: float) -> dict[str, Panel]:
    """The hands and the kit that the rules want washed and that no step of the recipe washes, by the
    step after which they are due."""
    owed: dict[str, list[Brick]] = {}
    for brick in rows:
        control = brick.control
        if control.rule in _WASHING_UP and control.due_after and not _recipe_washes(state, control):
            owed.setdefault(control.due_after[-1], []).append(brick)
    return {step: _washing_up_panel(state, step, bricks, now_s) for step, bricks in owed.items()}


def _recipe_washes(state: State, control: ControlPoint) -> bool:
    """True if steps of the recipe itself that are still to come wash all that this control asks for: what was soiled
    again after them is asked about."""
    process = state.plan.process
    at = process.step_index
    due = max(at[name] for name in control.due_after)
    later = [step for step in process.steps if at[step.id] > due and step.id not in state.done]
    if control.rule == "hands-after-raw":
        return any(step.do == "wash_hands" for step in later)
    cleaned = {tool for step in later if step.do == "clean" for tool in step.tools}
    return cleaned >= set(control.carriers)


def _washing_up_panel(state: State, step: str, bricks: list[Brick], now_s: float) -> Panel:
    left = [brick for brick in bricks if brick.status not in ("laid", "mended", "waived")]
    hands = {name for brick in left if brick.control.rule == "hands-after-raw" for name in brick.evidence["left"]}
    kit = dict.fromkeys(
        name for brick in left if brick.control.rule != "hands-after-raw" for name in brick.evidence["left"]
    )
    return Panel(
        id=f"washing-up-{step}",
        kind="wash",
        title="washing-up",
        done=not hands and not kit,
        after=step,
        extra={
            "rows": [row for row in wash_rows(state, now_s) if row["initials"] in hands],
            "kit": tuple(kit),
            "cleaned": bench_wording.cleaned(tuple(kit)),
            "step": "",
            "up": True,
        },
    )
