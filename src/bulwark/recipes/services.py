"""Changes to recipes."""

import json
import re
from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from django.contrib.postgres.search import SearchVector
from django.db import transaction
from django.db.models import Value
from django.utils import timezone

from bulwark.kitchens import selectors as kitchens
from bulwark.kitchens import services as kitchen_services
from bulwark.people.actors import Actor
from bulwark.people.models import Organisation
from bulwark.presentation.errors import error_sentence
from bulwark.recipes import wording
from bulwark.recipes.adapters import (
    CORRECTED,
    sound_correction,
    sound_eaters,
    sound_variants,
    steps_version,
    to_ingredients,
)
from bulwark.recipes.models import ProcessEdit, Recipe, SearchWord
from foodsafety.contamination import Finding, analyse
from foodsafety.foods import food_kind, kitchen_units, locale_from
from foodsafety.quantities import CoreError, finite
from foodsafety.recipes import (
    NOT_LISTED,
    PERSON,
    Document,
    Ingredient,
    Question,
    accept,
    accepted,
    add_step_after,
    change_step,
    discard,
    finding_key,
    finding_name,
    ingredient_lines,
    merge_steps,
    move_step,
    names_told,
    open_questions,
    place_food,
    process_from,
    proposed_process,
    remove_step,
    rename_food,
    reorder_steps,
    say_cooked,
    say_eaten,
    say_way,
    set_aside,
    set_food,
    split_step,
    step_of_sentence,
    swap,
    swapped_ingredient,
    swapped_process,
    trust_step,
    without_line,
)

MOST_EDITS = 60
# What a person answers instead of a step.
THROWN_AWAY = "-"
LONGEST_TITLE = 160


def _organisation_id(recipe: Recipe) -> int:
    return int(recipe.organisation_id)


def index(recipe: Recipe) -> None:
    """Writes what a search looks through: the words, and every name of every food in them."""
    items = to_ingredients(recipe, kitchens.known_foods(_organisation_id(recipe)))
    names = [name for item in items if item.kind for name in food_kind(item.kind).names]
    foods = [item.food for item in items if item.food]
    words = " ".join(dict.fromkeys((*foods, *names)))
    text = f"{recipe.title} {recipe.summary} {words}"[:8000].lower()
    vector = SearchVector(Value(recipe.title), weight="A", config="english") + SearchVector(
        Value(f"{recipe.summary} {words}"[:8000]), weight="B", config="english"
    )
    Recipe.objects.filter(pk=recipe.pk).update(search=vector)
    found = sorted(set(re.findall(r"[^\W\d_]{4,40}", text)))
    SearchWord.objects.bulk_create(
        [SearchWord(organisation_id=recipe.organisation_id, word=word) for word in found], ignore_conflicts=True
    )


@transaction.atomic
def add_confirmed_recipe(*, organisation: Organisation, data: dict[str, Any]) -> Recipe:
    """Adds a recipe whose process a person has confirmed. Raises CoreError if it is not a process."""
    process_from(data["process"])
    recipe = Recipe.objects.create(
        organisation=organisation,
        title=data["title"],
        summary=data["summary"],
        serves=data["serves"],
        servings_text=f"Serves {data['serves']}",
        ingredients=data["ingredients"],
        instructions=[step["detail"] for step in data["process"]["steps"] if step.get("detail")],
        notes=data.get("notes", []),
        pieces=data["pieces"],
        variants=data.get("variants", []),
        process=data["process"],
        confirmed_at=timezone.now(),
    )
    index(recipe)
    return recipe


def proposed(recipe: Recipe, items: Sequence[Ingredient], names: str = "") -> dict[str, Any]:
    """The process the reader proposes, or one step that says there are no instructions yet. ``names`` is what the
    document calls the dish."""
    process, _ = proposed_process(
        items, recipe.instructions, names or recipe.title, summary=recipe.summary, notes=recipe.notes
    )
    if process["steps"]:
        return process
    step = {"id": "s1", "do": "mix", "foods": list(process["foods"]), "tools": [], "hands": ["cook"]}
    step |= {"title": wording.no_instructions(), "detail": "", "guesses": ["step"]}
    return {**process, "steps": [step]}


def _unanswered(process: Mapping[str, Any]) -> dict[str, Any]:
    """A process from a file without what somebody answered there: that a finding cannot happen, that a heat
    cooks through, that this spoon is meant, was said of another kitchen and not by anybody here."""
    answers = ("through", "settled")
    steps = [{key: value for key, value in step.items() if key not in answers} for step in process["steps"]]
    return {**{key: value for key, value in process.items() if key != "accepted"}, "steps": steps}


def _extension(document: Document) -> dict[str, Any]:
    """Our own part of a document, as far as it holds together; what does not is left to be read
    from the words. Nothing of it is trusted: it comes from outside."""
    found: dict[str, Any] = {}
    given = document.extension
    if "process" in given:
        try:
            process_from(given["process"])
            found["process"] = _unanswered(given["process"])
        except CoreError as wrong:
            found["refused"] = error_sentence(wrong)
    if isinstance(given.get("corrections"), Mapping):
        found["corrections"] = {
            str(line): {key: row[key] for key in (*CORRECTED, "allergens") if key in row}
            for line, row in given["corrections"].items()
            if isinstance(row, Mapping) and sound_correction(row)
        }
    for name, kind in (("pieces", Mapping), ("variants", list), ("eaters", Mapping)):
        if isinstance(given.get(name), kind) and len(json.dumps(given[name])) < 20_000:
            found[name] = given[name]
    found["variants"] = sound_variants(found.get("variants", []))
    found["eaters"] = sound_eaters(found.get("eaters", {}))
    return found


@transaction.atomic
def add_recipe(*, by: Actor, document: Document, locale: str) -> Recipe:
    """Adds a recipe as it was read: its process is a proposal until somebody confirms it. Raises CoreError
    where there is more of it than one recipe can hold."""
    extension = _extension(document)
    recipe = Recipe(organisation_id=by.organisation)
    given = document.extension.get("locale")
    recipe.locale = locale_from(given if given in ("en-US", "en-GB", "en-AU", "en-CA") else locale)
    _set_words(recipe, document)
    recipe.corrections = extension.get("corrections", {})
    recipe.pieces = extension.get("pieces", {})
    recipe.variants, recipe.eaters = extension["variants"], extension["eaters"]
    items = to_ingredients(recipe, kitchens.known_foods(by.organisation))
    recipe.process = extension.get("process") or proposed(recipe, items, names_told(document))
    process_from(recipe.process)
    if "refused" in extension:
        recipe.source.append([0, wording.stored_steps(extension["refused"]), "refused"])
    recipe.save()
    index(recipe)
    return recipe


def _set_words(recipe: Recipe, document: Document) -> None:
    """The words of a document, with its whole list: what only the method names is added, to be seen and
    put right."""
    recipe.title = document.title[:LONGEST_TITLE].strip() or wording.untitled()
    recipe.summary = document.summary
    recipe.serves = document.serves if document.serves and document.serves < 10_000 else None
    recipe.servings_text = document.servings_text[:80]
    recipe.ingredients = list(ingredient_lines(document, recipe.measures))
    recipe.instructions = list(document.instructions)
    recipe.notes = list(document.notes)
    recipe.extra = dict(document.extra) if document.extra else recipe.extra
    recipe.source = [[line.number, line.text[:2000], line.taken] for line in document.lines]
    if document.ingredients:
        recipe.source += [[0, line, NOT_LISTED] for line in recipe.ingredients[len(document.ingredients) :]]


@transaction.atomic
def rewrite(*, recipe: Recipe, document: Document, by: Actor) -> Recipe:
    """The recipe with other words. Corrections stay with the lines whose text stayed; the steps
    are read anew if the words of the method or the foods changed."""
    old = {line: recipe.corrections.get(str(i)) for i, line in enumerate(recipe.ingredients)}
    before = recipe.ingredients, recipe.instructions
    _set_words(recipe, document)
    same = before == (recipe.ingredients, recipe.instructions)
    recipe.corrections = {str(i): old[line] for i, line in enumerate(recipe.ingredients) if old.get(line)}
    if not same:
        items = to_ingredients(recipe, kitchens.known_foods(by.organisation))
        _set_process(recipe, proposed(recipe, items, names_told(document)), "words", by)
    recipe.save()
    index(recipe)
    return recipe


def _set_process(recipe: Recipe, process: Mapping[str, Any], what: str, by: Actor) -> None:
    """Puts a process in place, keeping the one before, and who changed it, for undo. A changed process is
    unconfirmed."""
    if recipe.pk:
        ProcessEdit.objects.create(recipe=recipe, before=recipe.process, what=what, by_id=by.user_id)
        old = list(recipe.edits.values_list("pk", flat=True)[MOST_EDITS:])
        ProcessEdit.objects.filter(pk__in=old).delete()
    recipe.process = dict(process)
    recipe.confirmed_at, recipe.confirmed_by = None, None


@transaction.atomic
def edit_steps(
    *, recipe: Recipe, what: str, step_id: str, fields: Mapping[str, Any], by: Actor, seen: str = ""
) -> Recipe:
    """One edit of the step editor, by somebody who has ``seen`` a version of the steps ("" where nobody says
    which): what they have not seen they cannot undo. Raises CoreError naming the field that is wrong; then
    nothing changed."""
    locked = Recipe.objects.select_for_update().get(pk=recipe.pk)
    process = locked.process
    if what == "undo":
        if seen and seen != steps_version(locked):
            raise CoreError("undo", "steps_changed_by_another")
        return _undo(locked)
    changed = {
        "up": lambda: move_step(process, step_id, -1),
        "down": lambda: move_step(process, step_id, 1),
        "order": lambda: reorder_steps(process, fields["ids"]),
        "split": lambda: split_step(process, step_id),
        "merge": lambda: merge_steps(process, step_id),
        "remove": lambda: remove_step(process, step_id),
        "add": lambda: add_step_after(process, step_id or None, fields["step"]),
        "blank": lambda: add_step_after(process, step_id or None, fields["step"]),
        "change": lambda: change_step(process, step_id, fields),
        "eaten": lambda: say_eaten(process, fields["foods"], str(fields["title"])),
        "place": lambda: _placed(process, fields["places"]),
        "aside": lambda: set_aside(process, str(fields["text"])),
        "make": lambda: step_of_sentence(process, str(fields["text"]), PERSON),
        "kind": lambda: set_food(process, fields["food"], food_kind(str(fields["kind"])).id, (), ()),
        "fate": lambda: _fated(process, fields["places"], str(fields["title"])),
        "accept": lambda: _accepted(locked, fields),
        "sure": lambda: trust_step(process, step_id),
        "way": lambda: say_way(process, step_id, str(fields["carrier"]), str(fields["how"]), wording.clean_kit),
        "cooked": lambda: say_cooked(process, step_id, through=fields["how"] == "said"),
    }.get(what)
    if changed is None:
        raise CoreError("what", "not_an_edit", what=what)
    _set_process(locked, changed(), what, by)
    locked.save()
    return locked


@transaction.atomic
def replace_steps(
    *, recipe: Recipe, before: Mapping[str, Any], process: Mapping[str, Any], what: str, by: Actor
) -> Recipe:
    """Puts other steps in place of ``before``, to be undone like any edit. Raises CoreError where
    they do not hold together, or the recipe's steps are no longer those they were made from."""
    locked = Recipe.objects.select_for_update().get(pk=recipe.pk)
    if locked.process != before:
        raise CoreError("steps", "steps_changed_by_another")
    process_from(process)
    _set_process(locked, process, what, by)
    locked.save()
    return locked


def _placed(process: Mapping[str, Any], places: Mapping[str, str]) -> dict[str, Any]:
    """Each food put into the step that was said, or left out."""
    found = dict(process)
    for food, step in places.items():
        found = place_food(found, food, step)
    return found


def _fated(process: Mapping[str, Any], places: Mapping[str, str], title: str) -> dict[str, Any]:
    """Each food put into the step that was said, thrown away, or eaten as it is."""
    found = _placed(process, {food: step for food, step in places.items() if step and step != THROWN_AWAY})
    for food in (food for food, step in places.items() if step == THROWN_AWAY):
        found = discard(found, food)
    eaten = [food for food, step in places.items() if not step]
    return say_eaten(found, eaten, title) if eaten else found


def findings_of(recipe: Recipe) -> tuple[Finding, ...]:
    """What the steps, in their order, would carry to a plate by the house rules of the kitchen."""
    house = kitchens.house_of(kitchens.decided_by(_organisation_id(recipe)))
    return analyse(process_from(recipe.process), house).findings


def _accepted(recipe: Recipe, fields: Mapping[str, Any]) -> dict[str, Any]:
    """The process with what a person said of one of its findings."""
    found = next((row for row in findings_of(recipe) if finding_name(row) == fields["key"]), None)
    if found is None:
        raise CoreError("finding", "finding_gone")
    return accept(recipe.process, finding_key(found), str(fields["how"]), str(fields["reason"]))


def _undo(recipe: Recipe) -> Recipe:
    last = recipe.edits.first()
    if last is None:
        raise CoreError("undo", "nothing_to_undo")
    recipe.process = last.before
    recipe.confirmed_at, recipe.confirmed_by = None, None
    recipe.save()
    last.delete()
    return recipe


def _nothing_open(recipe: Recipe, by: Actor) -> None:
    """Raises CoreError while a question is open that could hide a hazard."""
    items = to_ingredients(recipe, kitchens.known_foods(by.organisation))
    questions = open_questions(items, recipe.process, process_from(recipe.process))
    held: defaultdict[str, list[Question]] = defaultdict(list)
    for question in questions:
        if question.holds:
            held[question.why].append(question)
    if unknown := held["which-food"]:
        raise CoreError("foods", "foods_unknown", foods=_foods_of(unknown))
    if held["nothing-served"]:
        raise CoreError("serve", "nothing_served")
    if astray := [*held["unplaced"], *held["goes-nowhere"]]:
        raise CoreError("foods", "foods_unplaced", foods=_foods_of(astray))
    if unread := held["unread"]:
        raise CoreError("sentences", "sentences_unread", text=unread[0].text[:80], count=len(unread))
    if left := sum(len(rows) for rows in held.values()):
        raise CoreError("questions", "questions_open", count=left)


def _foods_of(questions: Iterable[Question]) -> tuple[str, ...]:
    return tuple(food for row in questions for food in row.foods)


@transaction.atomic
def confirm(*, recipe: Recipe, by: Actor, version: str) -> None:
    """Records that a person has read the steps and answers for them. Raises CoreError while a food
    is unknown, or raw and in no step, a finding is neither mended nor answered for, the process does not hold
    together, or the steps are not those of ``version``: what nobody has read is not confirmed."""
    recipe = Recipe.objects.select_for_update().get(pk=recipe.pk)
    if version != steps_version(recipe):
        raise CoreError("steps", "steps_changed_since_read")
    _nothing_open(recipe, by)
    said = accepted(recipe.process)
    unanswered = [row for row in findings_of(recipe) if finding_key(row) not in said]
    if unanswered:
        raise CoreError("findings", "findings_open", count=len(unanswered))
    recipe.confirmed_at, recipe.confirmed_by_id = timezone.now(), by.user_id
    recipe.save(update_fields=["confirmed_at", "confirmed_by"])


@transaction.atomic
def correct_line(*, recipe: Recipe, line: int, values: Mapping[str, Any], by: Actor, remember: bool) -> Recipe:
    """Corrects what was understood of a line. ``remember`` keeps an unlisted food's answer for
    every later recipe. Raises CoreError naming the field that is wrong."""
    locked = Recipe.objects.select_for_update().get(pk=recipe.pk)
    if not 0 <= line < len(locked.ingredients):
        raise CoreError("line", "no_such_line")
    row = {key: values[key] for key in CORRECTED if key in values}
    if row.get("kind"):
        row["kind"] = food_kind(str(row["kind"])).id
    for key in ("low", "high"):
        if row.get(key) is not None:
            row[key] = finite(row[key], key, low=0, high=1e6)
    if row.get("low") is not None and row.get("high") is not None and row["low"] > row["high"]:
        raise CoreError("high", "high_below_low")
    if row.get("unit") and len(str(row["unit"])) > 20:
        raise CoreError("unit", "kitchen_unit_needed", allowed=tuple(list(kitchen_units())[:6]))
    allergens = [str(tag) for tag in values.get("allergens", [])]
    if allergens:
        row["allergens"] = allergens
    if remember and row.get("kind") and row.get("food"):
        kitchen_services.remember_food(by=by, words=row["food"], kind=row["kind"], allergens=allergens)
    locked.corrections = {**locked.corrections, str(line): row}
    _follow_line(locked, line, row, by)
    locked.save()
    index(locked)
    return locked


def _follow_line(recipe: Recipe, line: int, row: Mapping[str, Any], by: Actor) -> None:
    """Takes a corrected food into the process: read anew while nobody has worked on it, else in place."""
    hit = [name for name, food in recipe.process["foods"].items() if food.get("line") == line]
    if recipe.confirmed_at is None and not recipe.edits.exists():
        items = to_ingredients(recipe, kitchens.known_foods(by.organisation))
        recipe.process = proposed(recipe, items)
    elif hit and not row.get("food"):
        _set_process(recipe, without_line(recipe.process, line), "food", by)
    elif hit and row.get("kind"):
        process: Mapping[str, Any] = recipe.process
        item = to_ingredients(recipe, kitchens.known_foods(by.organisation))[line]
        more = sorted(set(item.allergens) - food_kind(row["kind"]).allergens)
        for name in hit:
            process = set_food(process, name, row["kind"], (), more)
            # One food of a line takes the name that was given to it; parts of one keep theirs apart.
            if len(hit) == 1 and (new := str(row["food"]).lower()) not in (name, ""):
                process = rename_food(process, name, new)
        if process != recipe.process:
            _set_process(recipe, process, "food", by)


@transaction.atomic
def set_archived(*, recipe: Recipe, archived: bool) -> None:
    """Puts a recipe away, or takes it out again."""
    recipe.archived_at = timezone.now() if archived else None
    recipe.save(update_fields=["archived_at"])


_COPIED = (
    "summary", "serves", "servings_text", "locale", "ingredients", "corrections", "instructions", "notes", "extra",
    "source", "pieces", "variants", "eaters", "process",
)  # fmt: skip


@transaction.atomic
def copy_recipe(*, recipe: Recipe, by: Actor) -> Recipe:
    """A copy to change, unconfirmed until somebody reads it. What was changed can be compared with its base."""
    new = Recipe(organisation_id=by.organisation, base=recipe)
    for name in _COPIED:
        setattr(new, name, getattr(recipe, name))
    new.title = wording.copied(recipe.title)[:LONGEST_TITLE]
    new.save()
    index(new)
    return new


@transaction.atomic
def set_eaters(*, recipe: Recipe, eaters: Mapping[str, Any]) -> None:
    """Records who eats: head count, groups and allergies."""
    recipe.eaters = sound_eaters(eaters)
    recipe.save(update_fields=["eaters"])


@transaction.atomic
def set_variants(*, recipe: Recipe, variants: Sequence[Mapping[str, Any]]) -> None:
    """Records the variants made on this recipe as a base."""
    recipe.variants = sound_variants(list(variants))
    recipe.save(update_fields=["variants"])


def swapped(recipe: Recipe, *, line: int, swap_id: str, known: Any) -> Recipe:
    """The recipe with a swap, not saved: to be looked at beside the one it comes from. An empty
    ``swap_id`` leaves the ingredient out. Raises CoreError where that cannot be."""
    if not 0 <= line < len(recipe.ingredients):
        raise CoreError("line", "no_such_line")
    item = to_ingredients(recipe, known)[line]
    new = Recipe(organisation_id=recipe.organisation_id, base=recipe)
    for name in ("summary", "serves", "servings_text", "locale", "instructions", "notes", "extra", "pieces", "eaters"):
        setattr(new, name, getattr(recipe, name))
    new.ingredients, new.corrections = list(recipe.ingredients), dict(recipe.corrections)
    if not swap_id:
        new.process = without_line(recipe.process, line)
        new.title = wording.without_food(recipe.title, item.food or "")[:LONGEST_TITLE]
        new.ingredients[line] = f"({recipe.ingredients[line]}: left out)"
        new.corrections[str(line)] = {"low": None, "high": None, "unit": None, "food": None, "kind": None}
        return new
    row = swap(swap_id)
    kind = food_kind(item.kind) if item.kind else None
    if kind is None or not row.replaces(kind):
        raise CoreError("swap", "swap_not_for_food")
    other = swapped_ingredient(item, row, recipe.measures)
    new.process = swapped_process(recipe.process, line, row)
    new.title = wording.with_food(recipe.title, other.food or "")[:LONGEST_TITLE]
    amount = "" if other.low is None else f"{other.low:.4g} "
    new.ingredients[line] = f"{amount}{other.unit + ' ' if other.unit else ''}{other.food}"
    new.corrections[str(line)] = {
        "low": other.low,
        "high": other.high,
        "unit": other.unit,
        "food": other.food,
        "kind": other.kind,
    }
    return new


@transaction.atomic
def keep_swapped(*, recipe: Recipe, line: int, swap_id: str, by: Actor) -> Recipe:
    """Keeps a swap as a recipe of its own on the same base, unconfirmed: the steps may need other words."""
    new = swapped(recipe, line=line, swap_id=swap_id, known=kitchens.known_foods(by.organisation))
    new.save()
    index(new)
    return new
