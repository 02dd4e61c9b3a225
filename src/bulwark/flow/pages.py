"""What the flow pages show, put together from the core's answers and wording."""

from collections.abc import Mapping, Sequence
from typing import Any

from django.urls import reverse

from bulwark.flow import adapters, drawings, wording
from bulwark.flow.selectors import BenchLook, Look, PairLook, Sheet, best_repair, in_time, portion_run, time_allowed_s
from bulwark.presentation.long_work import deadline
from bulwark.presentation.phrases import verb
from bulwark.recipes import selectors as recipes
from bulwark.recipes import wording as recipe_wording
from bulwark.recipes.selectors import Recipe
from foodsafety.contamination import Contact, Finding, rule_source, severity
from foodsafety.ordering import (
    Repair,
    SearchProgress,
    ShouldStop,
    elapsed_s,
    find_repairs,
    in_best_order,
    wash_count,
    washes_needed,
)
from foodsafety.quantities import CoreError
from foodsafety.recipes import Process, accepted, finding_key

MOST_CLEARED = 8


def map_page(sheet: Look) -> dict[str, Any]:
    """The map with its findings: everything but the ways to mend it, which take longer."""
    found = sheet.findings()
    chosen = sheet.asked.finding if sheet.asked.finding < len(found) else 0
    drawing = sheet.drawing()
    ended = sheet.flow.analysis.cleared
    return {
        "name": sheet.name,
        "sheet": sheet,
        "map": drawing,
        "c": drawings.palette(),
        "findings": [finding_row(sheet, finding, i == chosen) for i, finding in enumerate(found)],
        "chosen": finding_row(sheet, found[chosen], True) if found else None,
        "not_known": sheet.not_known,
        "cleared": [wording.cleared(row, sheet.flow, sheet.titles) for row in ended[:MOST_CLEARED]],
        "more_cleared": max(0, len(ended) - MOST_CLEARED),
        "soils": [(look.id, look.name) for look in drawing.looks],
        "carriers": [(lane.id, wording.lane_name(lane, sheet.process)) for lane in sheet.flow.lanes],
        "rows": table_rows(sheet),
        "asked": sheet.asked,
        **_stepping(sheet.asked.at, drawing.heads),
        "rules": sheet.rules,
    }


def _stepping(at: int | None, heads: Sequence[drawings.Head]) -> dict[str, Any]:
    """The step the map stops at, and the ones before and after it."""
    return {
        "at_before": max(0, (len(heads) if at is None else at) - 1),
        "at_after": min(len(heads) - 1, -1 if at is None else at) + 1,
        "step": heads[at] if at is not None and at < len(heads) else None,
    }


def recipe_page(sheet: Sheet) -> dict[str, Any]:
    """The map of a recipe, with what can be asked of it."""
    return {
        **map_page(sheet),
        **allergen_choices(sheet),
        "recipe": sheet.recipe,
        "others": recipes.other_titles(sheet.actor, sheet.recipe.pk),
        "self_url": reverse("recipe_flow", args=[sheet.recipe.pk]),
        "svg_url": reverse("flow_svg", args=[sheet.recipe.pk]),
        "pdf_url": reverse("flow_pdf", args=[sheet.recipe.pk]),
        "movable": True,
    }


def pair_page(look: PairLook, recipe: Recipe, other: Recipe) -> dict[str, Any]:
    """The map of two recipes cooked side by side."""
    path = reverse("flow_pair", args=[recipe.pk, other.pk])
    return {
        **map_page(look),
        "recipe": recipe,
        "other": other,
        "self_url": path,
        "svg_url": f"{path}drawing.svg",
        "pdf_url": f"{path}drawing.pdf",
        "movable": False,
    }


def bench_page(look: BenchLook, bench: Any) -> dict[str, Any]:
    """The map of what a bench did."""
    return {
        **map_page(look),
        "unproven": [wording.capital(name) for name in look.unproven],
        "bench": bench,
        "lesson": bench.lesson,
        "self_url": reverse("bench_flow", args=[bench.pk]),
        "svg_url": reverse("bench_flow_svg", args=[bench.pk]),
        "pdf_url": reverse("bench_flow_pdf", args=[bench.pk]),
        "movable": False,
    }


def finding_row(sheet: Look, finding: Finding, chosen: bool) -> dict[str, Any]:
    """A finding in words: its heading, its path line by line, what is too late, its source."""
    return {
        "title": wording.finding_title(finding),
        "number": sheet.process.step_index.get(finding.step, 0) + 1,
        "hops": [
            {"text": text, "step": step}
            for text, step in wording.hops(finding, sheet.flow, sheet.discarded, sheet.waiting)
        ],
        "late": wording.too_late(finding, sheet.flow),
        "source": rule_source(finding.rule, sheet.rules.id),
        "severity": wording.severity(severity(finding, vulnerable=sheet.vulnerable)),
        "chosen": chosen,
        "answered": recipe_wording.answered(accepted(sheet.data).get(finding_key(finding))),
        "mended": finding.food in sheet.discarded,
    }


def table_rows(sheet: Look) -> list[dict[str, Any]]:
    """The table behind the drawing: each step with its contacts, and what is ended there."""
    return [_table_row(sheet, contact) for contact in sheet.flow.contacts]


def _table_row(sheet: Look, contact: Contact) -> dict[str, Any]:
    flow, step = sheet.flow, sheet.process.steps[contact.step]
    title = sheet.titles.get(step.id, "")
    says = [wording.contact(flow, contact, lane, title) for lane, soils in contact.members if soils]
    ends = [wording.mark(flow, mark, title) for mark in flow.marks if mark.step == contact.step]
    names = [wording.lane_name(lane, sheet.process) for lane in flow.lanes if lane.id in dict(contact.members)]
    return {
        "number": contact.step + 1,
        "id": step.id,
        "title": title or verb(step.do),
        "touch": ", ".join([*names, *contact.folded]),
        "carries": [text.split(". ", 1)[-1] for text in says],
        "ends": [text.split(". ", 1)[-1] for text in ends],
    }


def long_look(sheet: Sheet, seconds: float, progress: SearchProgress, cancelled: ShouldStop) -> dict[str, Any]:
    """The best order again, with more time."""
    best = in_best_order(
        sheet.process,
        sheet.house,
        scrub_s=sheet.scrub_s,
        seconds=seconds,
        progress=progress,
        should_stop=deadline(seconds, cancelled),
    )
    return {
        "recipe": sheet.recipe,
        "sheet": sheet,
        "needed": washes_needed(sheet.process, sheet.house, should_stop=deadline(1.0)),
        "best": repair_row(sheet, best, best.washes) if best else None,
        "unproven": best is not None and not best.proven,
        "bound": best.bound if best else 0,
        "minutes": round(elapsed_s(sheet.process) / 60),
        "plan": best.plan if best else None,
    }


def ways_page(sheet: Sheet) -> dict[str, Any]:
    """The best order and the smallest mends of what is looked at."""
    needed = washes_needed(sheet.process, sheet.house, should_stop=deadline(1.0))
    best = best_repair(sheet)
    ways = find_repairs(sheet.process, sheet.house, scrub_s=sheet.scrub_s)
    shown = best if best and _worth_showing(best, ways, needed) else None
    quick = in_time(sheet, ways) if shown and shown.elapsed_s > time_allowed_s(sheet, ways) else None
    return {
        "recipe": sheet.recipe,
        "sheet": sheet,
        "now": wash_count(sheet.process),
        "quick": repair_row(sheet, quick, quick.washes) if quick and needed and quick.washes < needed else None,
        "needed": needed,
        "best": repair_row(sheet, shown, shown.washes) if shown else None,
        "none_better": best is not None and shown is None,
        "fewest": best.washes if best else 0,
        "unproven": best is not None and not best.proven,
        "bound": best.bound if best else 0,
        "minutes": round(elapsed_s(sheet.process) / 60),
        "ways": [repair_row(sheet, repair, repair.washes) for repair in ways[:4]],
        "hopeless": best is None,
        "boards": board_rows(shown.process, sheet) if shown else [],
    }


def _worth_showing(best: Repair, ways: Sequence[Repair], needed: int | None) -> bool:
    """Another order is worth showing where it saves washes over the written one and every mend of it."""
    others = [needed] if needed is not None and not ways else [repair.washes for repair in ways if not repair.left]
    return not best.left and best.washes < min(others, default=best.washes + 1)


def repair_row(sheet: Sheet, repair: Repair, washes: int) -> dict[str, Any]:
    """A way to mend in words, with its order as a strip."""
    titles = adapters.titles(adapters.to_plain(sheet.data, repair.process), repair.process)
    return {
        "repair": repair,
        "kind": repair.kind,
        "title": wording.repair_title(repair),
        "text": wording.repair_text(repair, sheet.flow, titles),
        "left": wording.repair_left(repair),
        "cost": wording.cost(repair),
        "washes": washes,
        "minutes": round(repair.elapsed_s / 60),
        "strip": _strip(sheet, repair, titles),
    }


def _strip(sheet: Sheet, repair: Repair, titles: Mapping[str, str]) -> list[dict[str, Any]]:
    """The steps in the mend's order: the number each has as written, what is new, what has moved."""
    number = {step.id: i + 1 for i, step in enumerate(sheet.process.steps)}
    return [
        {
            "id": step.id,
            "number": number.get(step.id),
            "wash": step.do in ("wash_hands", "clean"),
            "new": step.id in repair.added,
            "moved": step.id in repair.moved,
            "title": titles.get(step.id) or verb(step.do),
        }
        for step in repair.process.steps
    ]


def allergen_choices(sheet: Sheet) -> dict[str, Any]:
    """The portions and the allergens a run can be asked for."""
    process = sheet.process
    served = dict.fromkeys((*process.serve, *(n for s in process.steps if s.do == "serve" for n in s.foods)))
    tags = sorted({tag for food in process.foods.values() for tag in food.allergens})
    return {"portions": list(served), "allergens": [(tag, wording.soil(tag)) for tag in tags]}


def allergen_page(sheet: Sheet, portion: str, allergen: str) -> dict[str, Any]:
    """Whether one portion can be kept free of an allergen, and how. Raises CoreError for a
    portion that is not served or an allergen that no food brings."""
    choices = allergen_choices(sheet)
    if portion not in choices["portions"]:
        raise CoreError("portion", "not_served", food=portion)
    if allergen not in {tag for tag, _ in choices["allergens"]}:
        raise CoreError("allergen", "no_such_allergen_here", allergen=allergen)
    found = portion_run(sheet, portion, allergen)
    return {
        "recipe": sheet.recipe,
        "sheet": sheet,
        "portion": portion,
        "allergen": allergen,
        "allergen_name": wording.soil(allergen),
        "way": repair_row(sheet, found.repair, found.repair.washes) if found.repair else None,
        "why": [{"title": wording.finding_title(f), "hops": wording.hops(f, sheet.flow)} for f in found.why],
    }


def board_rows(process: Process, sheet: Sheet) -> list[dict[str, Any]]:
    """Board by board, the steps it goes through in an order, washes between."""
    number = {step.id: i + 1 for i, step in enumerate(sheet.process.steps)}
    rows = []
    for name, tool in process.tools.items():
        steps: Sequence[Any] = [
            {"number": number.get(step.id), "wash": step.do == "clean"} for step in process.steps if name in step.tools
        ]
        if "board" in tool.kind and len(steps) > 1:
            rows.append({"name": wording.capital(name), "steps": steps})
    return rows
