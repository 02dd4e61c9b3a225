"""What a kitchen has counted or said that changes no brick, and that a plan comes up against all the same: how high it
lies, how much its fridge and freezer hold, how many towels there are for hands."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from bulwark.board import room_wording, selectors
from bulwark.kitchens.selectors import Kitchen, known_foods
from bulwark.recipes.adapters import to_ingredients
from foodsafety.measuring import boiling_c
from foodsafety.planning import planning_figures, step_task
from foodsafety.recipes import Step, weight_g

_COLD = {"chill": "fridge", "marinate": "fridge", "freeze": "freezer"}
_BOILS_IN = frozenset({"saucepan", "pot", "slow_cooker"})


def room_notes(board: selectors.Board) -> list[str]:
    """The notes of a lesson's kitchen on its plan."""
    kitchen = board.kitchen
    return [*_altitude(board, kitchen), *_cold(board, kitchen), *_towels(board, kitchen)]


def _altitude(board: selectors.Board, kitchen: Kitchen) -> Iterator[str]:
    kinds = {name: tool.kind for name, tool in board.process.tools.items()}
    boils = any(
        step.do in ("heat", "part_cook") and _BOILS_IN & {kinds.get(name) for name in step.tools}
        for step in board.process.steps
    )
    if not boils:
        return
    if kitchen.altitude_m is None:
        yield room_wording.altitude_not_said()
    elif (water_c := boiling_c(kitchen.altitude_m)) < planning_figures()["room"]["boils_colder_below_c"]:
        yield room_wording.water_boils_colder(kitchen.altitude_m, water_c)


def _towels(board: selectors.Board, kitchen: Kitchen) -> Iterator[str]:
    towels, benches = kitchen.equipment.get("hand_towel"), len(board.room.benches)
    if towels is not None and int(towels) < benches:
        yield room_wording.few_hand_towels(int(towels), benches)


def _cold(board: selectors.Board, kitchen: Kitchen) -> Iterator[str]:
    space = {"fridge": kitchen.fridge_l, "freezer": kitchen.freezer_l}
    for store, (litres, unweighed) in cold_litres(board).items():
        if litres or unweighed:
            full = planning_figures()["room"]["cold_store_full_share"]
            yield room_wording.cold_space(store, litres, space[store], full, unweighed=unweighed)


def cold_litres(board: selectors.Board) -> dict[str, tuple[float, bool]]:
    """How much food stands in the fridge and in the freezer at once at most [l], by the plan and by what the lines of
    the recipe weigh (a litre a kilogram, without its tubs), and whether there is some that nobody has weighed."""
    weights = _weights_g(board)
    stands: dict[str, list[tuple[int, int, float]]] = {"fridge": [], "freezer": []}
    unknown = dict.fromkeys(stands, False)
    for number, _bench in enumerate(board.room.benches, start=1):
        for step in board.process.steps:
            begin, end = _span(board, step_task(number, step.id))
            if step.do not in _COLD or begin is None or end is None:
                continue
            parts = [weights.get(part) for part in _parts(board, step)]
            store = _COLD[step.do]
            unknown[store] = unknown[store] or None in parts
            stands[store].append((begin, end, sum(part or 0.0 for part in parts) / 1000))
    return {store: (_peak(rows), unknown[store]) for store, rows in stands.items() if rows}


def _peak(rows: list[tuple[int, int, float]]) -> float:
    return max(sum(litres for begin, end, litres in rows if begin <= at < end) for at, _end, _l in rows)


def _span(board: selectors.Board, task: str) -> tuple[int | None, int | None]:
    """From when to when a step and its waiting last [s]; nothing for one that is not in the plan."""
    starts, tasks = board.shown.starts, board.whole.problem.tasks
    own = [name for name in (task, f"{task} waits") if name in starts]
    if not own:
        return None, None
    return min(starts[name] for name in own), max(starts[name] + tasks[name].s for name in own)


def _parts(board: selectors.Board, step: Step) -> set[str]:
    return {part for food in step.foods for part in board.process.ingredients_of(food)}


def _weights_g(board: selectors.Board) -> Mapping[str, float | None]:
    """What each food of a bench weighs, by the recipe's lines; None where nobody can say."""
    lesson = board.lesson
    items, found = to_ingredients(lesson.recipe, known_foods(lesson.organisation_id)), dict[str, float | None]()
    for name, row in lesson.process["foods"].items():
        line = row.get("line")
        known = line is not None and line < len(items)
        found[name] = weight_g(items[line], lesson.recipe.measures) if known else None
    return found
