"""How long the planner takes, on lessons of the size that DESIGN asks for."""

import random
import statistics
import time
from typing import Any

from foodsafety.planning import problem_from, schedule


def lesson(benches: int, steps: int, seed: int) -> dict[str, Any]:
    """Benches of four people, with two hand-wash basins, two ovens and four sinks among them."""
    draw = random.Random(seed)
    rows: list[dict[str, Any]] = []
    for bench in range(benches):
        ids: list[str] = []
        for n in range(steps):
            row: dict[str, Any] = {
                "id": f"{bench}.{n}",
                "bench": f"B{bench}",
                "s": 60 * draw.choice([1, 2, 3, 4, 5, 6, 8]),
                "people": draw.choice([1, 1, 1, 1, 2]),
                "after": draw.sample(ids[-4:], min(len(ids[-4:]), draw.choice([0, 1, 1, 2]))),
            }
            kind = draw.random()
            if n < 4:
                row |= {"s": 60, "people": 1, "after": [], "needs": {"basin": 1}}
            elif kind < 0.12:
                row |= {"passive": True, "people": 0, "s": 60 * draw.choice([8, 10, 12]), "needs": {"oven": 1}}
            elif kind < 0.22:
                row |= {"s": 120, "needs": {"sink": 1}}
            rows.append(row)
            ids.append(row["id"])
    people = [{"id": f"B{n}", "people": 4} for n in range(benches)]
    return {"lesson_s": 9000, "benches": people, "steps": rows, "resources": {"basin": 2, "oven": 2, "sink": 4}}


def one_bench_ms() -> float:
    """Milliseconds until a plan of one bench of 25 steps is proven, the median of five."""
    return statistics.median(_proven_ms(seed) for seed in range(5))


def _proven_ms(seed: int) -> float:
    start = time.perf_counter()
    assert schedule(problem_from(lesson(1, 25, seed)), seconds=5.0).status == "optimal"
    return (time.perf_counter() - start) * 1000


def eight_benches() -> tuple[float, float]:
    """Of 8 benches of 25 steps: milliseconds until the first plan is told, and the worst gap to what is proven after
    three seconds [%], over four lessons."""
    firsts, gaps = [], []
    for seed in (1, 3, 6, 8):
        told: list[float] = []
        start = time.perf_counter()

        def tell(best: int | None, bound: int, told: list[float] = told, start: float = start) -> None:
            if best is not None:
                told.append(time.perf_counter() - start)

        plan = schedule(problem_from(lesson(8, 25, seed)), seconds=3.0, progress=tell)
        firsts.append(told[0] * 1000)
        assert plan.makespan_s
        gaps.append(100 * (plan.makespan_s - plan.bound_s) / plan.makespan_s)
    return statistics.median(firsts), max(gaps)


def dragged_ms() -> float:
    """Milliseconds until a plan of 8 benches is mended after a step was put elsewhere, the median of twelve."""
    problem = problem_from(lesson(8, 25, 3))
    plan = schedule(problem, seconds=4.0)
    draw, times = random.Random(5), []
    for _ in range(12):
        step = draw.choice(list(problem.tasks))
        start = time.perf_counter()
        schedule(problem, seconds=0.45, fixed={step: plan.starts[step] + 300}, hint=plan.starts)
        times.append((time.perf_counter() - start) * 1000)
    return statistics.median(times)
