"""What the recipe pages show, put together from the core's answers and wording."""

from collections.abc import Iterable, Mapping
from decimal import Decimal
from typing import Any

from bulwark.kitchens import selectors as kitchens
from bulwark.people.actors import Actor
from bulwark.presentation import phrases
from bulwark.presentation.errors import error_sentence
from bulwark.recipes import wording
from bulwark.recipes.adapters import to_ingredients, to_process
from bulwark.recipes.models import Recipe
from foodsafety.contamination import Finding, find_contamination
from foodsafety.foods import LOCALES, allergen_sets, allergens_for, food_kind, food_kinds, kitchen_units
from foodsafety.lesson import safety_plan
from foodsafety.quantities import CoreError
from foodsafety.recipes import (
    VERBS,
    Batches,
    Ingredient,
    Process,
    cook_batches,
    equal_portions,
    factor_for_amount,
    factor_for_servings,
    orders,
    process_from,
    read_ingredient,
    scale_ingredient,
    sentences,
    swap,
    swaps_for,
    time_factor,
    time_rule,
    tolerance_of,
    total_weight_g,
)
from foodsafety.review import KitNeed, NotFor, RecipeCost, eater_groups, not_for, recipe_cost, review_recipe
from foodsafety.rules import Profile

RAW = frozenset({"raw_poultry", "raw_meat", "raw_fish", "raw_shellfish", "raw_egg", "raw_flour"})


class Book:
    """A recipe with its kitchen, read once for a page."""

    def __init__(self, recipe: Recipe, actor: Actor) -> None:
        self.recipe = recipe
        self.actor = actor
        self.kitchen = kitchens.kitchen_of(recipe.organisation_id)
        self.rules: Profile = kitchens.rules_for(recipe.organisation_id, self.kitchen.profile)
        self.house = kitchens.house_of(self.kitchen)
        self.known = kitchens.known_foods(recipe.organisation_id)
        self.items: list[Ingredient] = to_ingredients(recipe, self.known)
        self.named = allergens_for(profile_id=self.kitchen.profile)

    @property
    def process(self) -> Process:
        """The recipe's process."""
        return to_process(self.recipe)

    def base(self, tab: str) -> dict[str, Any]:
        """What every recipe page needs."""
        return {"recipe": self.recipe, "tab": tab, "kitchen": self.kitchen, "rules": self.rules}


def _need(need: KitNeed) -> dict[str, Any]:
    return {"need": need, "name": wording.tool(need.kind)}


def finding_row(finding: Finding) -> dict[str, Any]:
    """A finding of the process in words."""
    return {
        "finding": finding,
        "soil": wording.hazard(finding.soil),
        "path": " → ".join(finding.path),
        "title": phrases.capital(wording.finding(finding.rule, finding.food, finding.soil)),
    }


def _raw_foods(process: Process) -> frozenset[str]:
    return frozenset(food.id for food in process.foods.values() if food.soils & RAW)


def _look(do: str, foods: Iterable[str], process: Process, raw: frozenset[str]) -> str:
    """How a step is drawn: what it means before any word is read."""
    if do in ("heat", "part_cook"):
        return "hot"
    if do in ("chill", "freeze"):
        return "cold"
    if do in ("wash_hands", "clean", "rinse"):
        return "wash"
    if any(raw & process.ingredients_of(name) for name in foods):
        return "raw"
    return "plain"


_BLANK_STEP: dict[str, Any] = {
    "title": "",
    "detail": "",
    "foods": [],
    "tools": [],
    "hands": [],
    "makes": "",
    "minutes": None,
    "waiting_min": None,
}


def step_rows(book: Book) -> list[dict[str, Any]]:
    """The steps of a recipe, each with how it looks and what is said at it."""
    process = book.process
    raw, cooked = _raw_foods(process), set[str]()
    rows = []
    for i, data in enumerate(book.recipe.process["steps"], start=1):
        foods = data.get("foods", [])
        live = frozenset(name for name in raw if name not in cooked)
        rows.append(
            {
                "step": {**_BLANK_STEP, **data},
                "number": i,
                "verb": wording.verb(data["do"]),
                "look": _look(data["do"], foods, process, live),
                "heat": wording.heat(data, book.actor.unit),
                "minutes": wording.minutes(float(data.get("minutes") or 0)) if data.get("minutes") else "",
                "waits": bool(data.get("waiting_min")),
                "guesses": [wording.guess(name) for name in data.get("guesses", [])],
                "presumed": data.get("guesses", []) == ["tools"],
                "heat_c": {"oven_c": None, "level": "", **(data.get("heat") or {})},
                "end": {"core_c": None, "cue": "", **(data.get("end") or {})},
                "cautions": [],
            }
        )
        if data["do"] == "heat":
            cooked |= {part for name in foods for part in process.ingredients_of(name)}
    return rows


def read_page(book: Book, benches: int) -> dict[str, Any]:
    """The read-through."""
    process = book.process
    read = review_recipe(
        process,
        book.recipe.process["steps"],
        named=book.named,
        profile=book.rules,
        house=book.house,
        benches=benches,
        equipment=book.kitchen.equipment,
    )
    rows = step_rows(book)
    for row in rows:
        row["cautions"] = [wording.caution_text(c.id) for c in read.cautions.get(str(row["step"]["id"]), ())]
    titles = {str(row["step"]["id"]): row["step"].get("title") or row["verb"] for row in rows}
    needs = [_need(need) for need in (*read.sources, *read.needs)]
    return {
        **book.base("read"),
        "read": read,
        "benches": benches,
        "items": [{"item": item, "amount": wording.amount(item)} for item in book.items if item.food],
        "headings": [item.text for item in book.items if not item.food],
        "steps": rows,
        "needs": needs,
        "lacking": [row for row in needs if row["need"].lacking],
        "uncounted": [row for row in needs if row["need"].have is None],
        "hazards": [
            {"row": row, "text": wording.hazard(row.hazard), "ends": titles.get(row.ends or "", "")}
            for row in read.hazards
        ],
        "allergens": [{"name": book.named.members[tag], "foods": foods} for tag, foods in read.allergens.items()],
        "named": book.named,
        "findings": [finding_row(finding) for finding in read.findings],
        "ahead": [
            {
                "title": titles[row.step],
                "foods": ", ".join(row.foods),
                "minutes": wording.minutes(row.waiting_min),
                "place": wording.place(row.place),
            }
            for row in read.ahead
        ],
        "cold": book.rules.hold["cold"],
        "times": {
            "active": wording.minutes(read.active_min),
            "waiting": wording.minutes(read.waiting_min),
            "path": wording.minutes(read.path_min),
        },
        "untimed": [titles[name] for name in read.unknown_times],
        "not_for": _not_for(book, process),
        "controls": len(safety_plan(process, book.rules, book.house).controls),
    }


def lines_page(book: Book) -> dict[str, Any]:
    """Every line beside what was understood."""
    rows = [line_row(book, i, item) for i, item in enumerate(book.items)]
    taken = [row for row in book.recipe.source if row[2] not in ("blank", "ingredient")]
    return {
        **book.base("lines"),
        "rows": rows,
        "doubtful": sum(1 for row in rows if row["doubts"]),
        "others": [{"number": number, "text": text, "taken": kind} for number, text, kind in taken],
        "kinds": food_kinds(),
        "units": [*kitchen_units()],
        "tags": all_allergens(),
    }


def all_allergens() -> list[tuple[str, str]]:
    """Every allergen we know, with its words."""
    tags = sorted({tag for row in allergen_sets().values() for tag in row.members})
    return [(tag, wording.allergen(tag)) for tag in tags]


def line_row(book: Book, i: int, item: Ingredient) -> dict[str, Any]:
    """One line beside what was understood."""
    kind = food_kind(item.kind) if item.kind else None
    asks = [name for name in item.doubts if name not in ("heading", "empty")]
    return {
        "i": i,
        "item": item,
        "text": book.recipe.ingredients[i],
        "amount": wording.amount(item) if item.food else "",
        "kind": kind,
        "ready": {"as_is": "ready to eat", "rinse": "ready once washed", "cook": "must be cooked"}[kind.ready]
        if kind
        else "",
        "soils": [wording.hazard(name) for name in sorted(kind.soils)] if kind else [],
        "allergens": wording.allergens(item.allergens),
        "doubts": [wording.doubt(name) for name in asks],
        "heading": "heading" in item.doubts,
        "unknown": "food-unknown" in item.doubts,
        "corrected": str(i) in book.recipe.corrections,
    }


def steps_page(book: Book) -> dict[str, Any]:
    """The step editor."""
    last = book.recipe.edits.first()
    process = book.process
    return {
        **book.base("steps"),
        "steps": step_rows(book),
        "verbs": sorted((name, wording.verb(name)) for name in VERBS),
        "foods": sorted(process.food_ids),
        "tools": sorted(process.tools),
        "undo": wording.edit_done(last.what) if last else "",
        "findings": [finding_row(finding) for finding in find_contamination(process, book.house)],
        "unknown": [food.id for food in process.foods.values() if "unknown" in food.soils],
        "serve": ", ".join(process.serve),
        "taken_clean": sorted(f.id for f in process.foods.values() if f.kind and f.kind.soils - f.soils),
        "guessed": sum(1 for step in book.recipe.process["steps"] if set(step.get("guesses", [])) - {"tools"}),
        "unread": [text for row in book.recipe.instructions for text in sentences(row) if not orders(text)],
    }


def amounts_page(book: Book, data: Mapping[str, Any]) -> dict[str, Any]:
    """The recipe scaled. Raises CoreError naming what is wrong with the wish."""
    factor = _factor(book, data)
    preserving = any(word in f"{book.recipe.title} {' '.join(book.recipe.notes)}".lower() for word in _PRESERVES)
    rows = []
    for item in book.items:
        if not item.food:
            continue
        tolerance = tolerance_of(item.kind, preserving=preserving)
        row = scale_ingredient(item, factor, book.recipe.measures, tolerance=tolerance)
        rows.append(
            {
                "item": item,
                "was": wording.amount(item),
                "now": wording.scaled(row),
                "help": wording.scaled_help(row),
                "exact": tolerance == "exact",
            }
        )
    total, unknown = total_weight_g(book.items, book.recipe.measures)
    process = book.process
    return {
        **book.base("amounts"),
        "factor": factor,
        "shown_factor": wording.number(factor),
        "rows": rows,
        "serves": book.recipe.serves * factor if book.recipe.serves else None,
        "total_g": total * factor,
        "unweighed": unknown,
        "portion": _portion(total * factor, book, factor),
        "batches": _batches(data, factor),
        "times": [
            {
                "title": data_.get("title") or step.do,
                "was": wording.minutes(float(data_.get("minutes") or 0)),
                "rule": wording.time_rule(time_rule(step, process)),
            }
            for step, data_ in _with_data(book)
            if data_.get("minutes")
        ],
        "asked": data,
    }


_PRESERVES = ("cure", "curing", "pickle", "preserv", "ferment", "jam", "brine", "canning")


def _with_data(book: Book) -> list[tuple[Any, Mapping[str, Any]]]:
    by_id = {str(row["id"]): row for row in book.recipe.process["steps"]}
    return [(step, by_id[step.id]) for step in book.process.steps]


def _factor(book: Book, data: Mapping[str, Any]) -> float:
    by = data.get("by")
    if by == "servings":
        return factor_for_servings(book.recipe.serves, data.get("servings") or 0)
    if by == "people":
        wanted = (data.get("people") or 0) * (data.get("each") or 1)
        return factor_for_servings(book.recipe.serves, wanted)
    if by == "have":
        line = data.get("line")
        if line is None or line >= len(book.items):
            raise CoreError("line", "ingredient_not_chosen")
        unit = data.get("have_unit") or "kg"
        return factor_for_amount(book.items[line], data.get("have") or 0, unit, book.recipe.measures)
    return 1.0


def _portion(total_g: float, book: Book, factor: float) -> dict[str, Any] | None:
    count = round((book.recipe.serves or 0) * factor)
    if count < 1 or total_g <= 0:
        return None
    portion = equal_portions(total_g, count, density_g_ml=1.0)
    return {"each_g": wording.number(portion.each_g), "count": count, "scoop_ml": portion.scoop_ml}


def _batches(data: Mapping[str, Any], factor: float) -> Batches | None:
    if not data.get("pieces") or not data.get("fits"):
        return None
    return cook_batches(data["pieces"] * factor, data["fits"])


def _not_for(book: Book, process: Process) -> list[dict[str, Any]]:
    eaters = book.recipe.eaters or {}
    found = not_for(process, eaters.get("groups", {}), eaters.get("allergens", []), book.house)
    return [_not_for_row(row, book) for row in found]


def _not_for_row(row: NotFor, book: Book) -> dict[str, Any]:
    line = book.recipe.process["foods"].get(row.food, {}).get("line")
    return {
        "row": row,
        "eater": wording.eater(row.eater),
        "why": wording.not_for(row.rule),
        "line": line,
        "swaps": [{"id": name, "to": food_kind(swap(name).to).name} for name in row.swaps],
    }


def eaters_page(book: Book, line: int | None, swap_id: str | None, difference: dict[str, Any] | None) -> dict[str, Any]:
    """Who eats, what they may not have, and swaps for every line."""
    eaters = book.recipe.eaters or {}
    lines = []
    for i, item in enumerate(book.items):
        kind = food_kind(item.kind) if item.kind else None
        if kind is None or not item.food:
            continue
        rows = [
            {"id": row.id, "to": food_kind(row.to).name, "family": wording.swap_family(row.family)}
            for row in swaps_for(kind)
        ]
        lines.append({"i": i, "item": item, "amount": wording.amount(item), "swaps": rows, "open": i == line})
    return {
        **book.base("eaters"),
        "groups": [(name, wording.eater(name), eaters.get("groups", {}).get(name, "")) for name in eater_groups()],
        "count": eaters.get("count") or "",
        "tags": [(tag, name, tag in eaters.get("allergens", [])) for tag, name in all_allergens()],
        "not_for": _not_for(book, book.process),
        "lines": lines,
        "line": line,
        "swap_id": swap_id,
        "difference": difference,
    }


def _facts(book: Book) -> dict[str, Any]:
    process = book.process
    plan = safety_plan(process, book.rules, book.house)
    cores = {}
    for control in plan.controls:
        if control.rule == "core-temperature" and control.limit:
            cores[control.foods[-1]] = f"{control.limit.value:g} °{control.limit.unit}"
    tags = {tag for food in process.foods.values() for tag in book.named.named(food.allergens)}
    soils = {wording.hazard(name) for food in process.foods.values() for name in food.soils}
    soils |= {wording.hazard(name) for food in process.foods.values() if food.kind for name in food.kind.hazards}
    return {
        "allergens": {book.named.members[tag] for tag in tags},
        "hazards": soils,
        "cores": cores,
        "findings": {(f.rule, f.food, f.soil) for f in find_contamination(process, book.house)},
        "cost": recipe_cost(book.items, kitchens.prices_of(book.recipe.organisation_id), book.recipe.measures),
    }


def difference(before: Book, after: Book) -> dict[str, Any]:
    """What a swap changes: hazards, allergens, limits, findings, cost."""
    a, b = _facts(before), _facts(after)
    return {
        "title": after.recipe.title,
        "gone": {"allergens": sorted(a["allergens"] - b["allergens"]), "hazards": sorted(a["hazards"] - b["hazards"])},
        "new": {"allergens": sorted(b["allergens"] - a["allergens"]), "hazards": sorted(b["hazards"] - a["hazards"])},
        "cores": sorted(
            (food, a["cores"].get(food, "-"), limit)
            for food, limit in b["cores"].items()
            if a["cores"].get(food) != limit
        ),
        "cores_gone": sorted(food for food in a["cores"] if food not in b["cores"]),
        "findings": sorted(wording.finding(*row) for row in b["findings"] - a["findings"]),
        "cost_before": a["cost"],
        "cost_after": b["cost"],
        "same": all(a[key] == b[key] for key in ("allergens", "hazards", "cores", "findings")),
    }


def thickness(old: float, new: float, minutes: float) -> dict[str, str]:
    """How a time changes with another thickness: when to start checking, never when it is done."""
    factor = time_factor(old, new)
    return {"factor": wording.number(factor), "minutes": wording.minutes(round(minutes * factor, 1))}


def cost_page(book: Book) -> dict[str, Any]:
    """What it costs."""
    prices = kitchens.prices_of(book.recipe.organisation_id)
    cost: RecipeCost = recipe_cost(book.items, prices, book.recipe.measures)
    rows = [
        {
            "line": line,
            "amount": wording.amount(line.ingredient),
            "kind": food_kind(line.ingredient.kind) if line.ingredient.kind else None,
            "why": wording.missing_cost(line.why),
            "cost": line.cost.quantize(Decimal("0.01"), rounding="ROUND_UP") if line.cost is not None else None,
        }
        for line in cost.lines
    ]
    benches = book.kitchen.benches
    return {
        **book.base("cost"),
        "cost": cost,
        "rows": rows,
        "unpriced": sum(1 for row in rows if row["cost"] is None),
        "per_serving": cost.per(book.recipe.serves) if book.recipe.serves else None,
        "benches": benches,
        "all_benches": (cost.total * benches).quantize(Decimal("0.01")),
        "currency": book.kitchen.currency,
        "priced": sorted(((food_kind(name), price) for name, price in prices.items()), key=lambda row: row[0].name),
    }


def variants_page(book: Book) -> dict[str, Any]:
    """Fillings per learner on one base, and what each needs first."""
    rows = []
    for i, variant in enumerate(book.recipe.variants):
        items = [read_ingredient(line, book.recipe.measures, book.known) for line in variant["lines"]]
        rows.append(
            {
                "i": i,
                "variant": variant,
                "lines": "\n".join(variant["lines"]),
                "items": [_variant_item(item, book) for item in items],
                "allergens": wording.allergens(
                    sorted({tag for item in items for tag in book.named.named(item.allergens)})
                ),
            }
        )
    return {**book.base("variants"), "variants": rows}


def _variant_item(item: Ingredient, book: Book) -> dict[str, Any]:
    kind = food_kind(item.kind) if item.kind else None
    row = book.rules.cook.get(kind.cook_class or "") if kind and kind.ready == "cook" else None
    limit = ""
    if row and row.main:
        hold = f", {row.main.hold_s:g} s" if row.main.hold_s else ""
        limit = f"{row.main.temperature.value:g} °{row.main.temperature.unit}{hold}"
    elif row:
        limit = row.observation
    return {
        "item": item,
        "amount": wording.amount(item),
        "unknown": kind is None,
        "needs": kind.ready if kind else "unknown",
        "limit": limit,
        "section": row.section if row else "",
    }


def bring_page(**more: Any) -> dict[str, Any]:
    """The page that brings a recipe in."""
    return {"locales": LOCALES, "tab": "", "text": "", "error": None, **more}


def checked_process(recipe: Recipe) -> str:
    """Why a recipe's process does not hold together, or nothing."""
    try:
        process_from(recipe.process)
    except CoreError as wrong:
        return error_sentence(wrong)
    return ""
