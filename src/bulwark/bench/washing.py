"""Washing at the bench: everybody on arrival, and what has to be washed once raw work is over."""

from bulwark.bench import wording as bench_wording
from bulwark.bench.panels import Panel
from bulwark.lessons import log_wording
from foodsafety.lesson import Brick, Owed, State, owed_after


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
    return {step: _washing_up_panel(state, step, owed, now_s) for step, owed in owed_after(state, rows).items()}


def _washing_up_panel(state: State, step: str, owed: Owed, now_s: float) -> Panel:
    return Panel(
        id=f"washing-up-{step}",
        kind="wash",
        title="washing-up",
        done=not owed.hands and not owed.kit,
        after=step,
        extra={
            "rows": [row for row in wash_rows(state, now_s) if row["initials"] in owed.hands],
            "kit": owed.kit,
            "cleaned": bench_wording.cleaned(owed.kit),
            "step": "",
            "up": True,
        },
    )
