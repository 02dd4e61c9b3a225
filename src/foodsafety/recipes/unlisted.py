"""Foods that a method names and no line of the list has."""

from __future__ import annotations

import re
from collections.abc import Sequence

from foodsafety.foods import Locale, food_kind, match_food, stem_words
from foodsafety.recipes.ingredient_words import ingredient_vocabulary
from foodsafety.recipes.ingredients import Ingredient, is_hazardous, read_ingredient, soils_of
from foodsafety.recipes.mentions import FoodsInHand, mentions
from foodsafety.recipes.named_foods import foods_named
from foodsafety.recipes.words import dish_words, made_nouns, verb_classes

# What it should look like by then names no new food ("until the fish flakes"); an order after it may.
_UNTIL = re.compile(r"\b(?:until|till?)\b(?:(?!\b(?:and|then)\b)[^.,;\n])*", re.IGNORECASE)


def _after_looks(looks: re.Match[str]) -> str:
    """What a clause of looks ends in: "until golden add 2 eggs" names the eggs."""
    words = re.finditer(r"(?<!the )\b\w+\b(?=\W+\w)", looks[0])
    orders = (word.start() for word in words if word[0].lower() in verb_classes() and match_food(word[0]) is None)
    return looks[0][next(orders, len(looks[0])) :]


# A food with one of these is an ingredient, wherever it stands.
_WEIGHED = frozenset({"g", "kg", "oz", "lb"})
# Produce in general: "pour over the fruit" is of what the list has.
_IN_GENERAL = frozenset("fruit vegetable veg berry herb green salad leaf leaves".split())


def _is_put_on(line: str, told: str) -> bool:
    """ "Serve with dill": produce that no line has and that is put on the dish, neither a choice nor a tip."""
    puts = r"\b(?:serve|scatter|top|garnish|sprinkle|finish|add|stir in|throw in)\b[^.;\n]*?"
    found = re.search(rf"{puts}(?<!or )\b{re.escape(line)}\b", told, re.IGNORECASE)
    return found is not None and _IN_GENERAL.isdisjoint(stem_words(line))


def raw_unlisted(listed: Sequence[str], told: str, locale: Locale) -> tuple[str, ...]:
    """Ingredient lines for the raw foods, for foods with an allergen that no line of the list has, and for measured
    food that nobody knows, that a method names and no line of the list does: "brush with beaten egg", "melt the
    butter". What the recipe itself makes ("the dough") is none."""
    items = [read_ingredient(line, locale) for line in listed]
    allergens = {name for item in items for name in item.allergens}
    kitchen = FoodsInHand(items)
    parts = {word for line in listed if line.endswith(":") for word in stem_words(line)}  # "For the pickle:"
    made = dish_words("dishes") | made_nouns() | parts
    written = {word for line in listed for word in stem_words(line)}
    heads = {
        stem_words(name)[-1:] for item in items if item.kind for name in (item.food or "", food_kind(item.kind).name)
    }
    # "The salmon" is the cooked salmon of the list, whatever its last word is.
    ready = (
        item for item in items if item.kind and food_kind(item.kind).group in ingredient_vocabulary()["ready_groups"]
    )
    heads |= {(word,) for item in ready for word in stem_words(item.food or "")}
    if any(food_kind(item.kind).group in ("canned fish", "smoked fish") for item in items if item.kind):
        heads.add(("fish",))
    found = []
    for line in foods_named(_UNTIL.sub(_after_looks, told), locale):
        item = read_ingredient(line, locale)
        name = stem_words(item.food or "")
        meant = [food for _, ids in mentions(kitchen, item.food or "") for food in ids]
        ends = name in (("flake",), ("crumb",)) and bool(meant)  # of the cornflakes, of the bread
        known = name[-1:] in heads or ends or any(kitchen.foods[food].raw for food in meant)
        new = not allergens.issuperset(item.allergens)
        grown = "unwashed_produce" in soils_of(item) and written.isdisjoint(name) and _is_put_on(line, told)
        weighed = item.measured and item.unit in _WEIGHED and written.isdisjoint(name)  # "cook 500 g rice"
        matters = is_hazardous(item) or not item.kind or new or grown or weighed
        if matters and not known and (made.isdisjoint(name) or (new and len(name) > 1)):
            found.append(line)
    return (*found, *_meat_in_general(items, kitchen, told))


_GENERAL = re.compile(r"(?:the |any |your )?raw (?:meat|poultry|fish|food)s?", re.IGNORECASE)


def foods_told(told: str, locale: Locale) -> tuple[str, ...]:
    """Ingredient lines for a text without a list: every food that it names, and meat that it only calls meat."""
    found = foods_named(told, locale)
    every = {line: read_ingredient(line, locale) for line in found}
    others = [item for line, item in every.items() if not _GENERAL.fullmatch(line)]
    brought = {name for item in others for name in (*soils_of(item), *item.allergens)}
    # "Wash between the raw meat and anything else" is of the mince, and raw fish is not.
    found = tuple(
        line
        for line, item in every.items()
        if not (_GENERAL.fullmatch(line) and brought >= {*soils_of(item), *item.allergens})
    )
    items = [every[line] for line in found]
    return (*found, *_meat_in_general(items, FoodsInHand(items), told))


def _meat_in_general(items: Sequence[Ingredient], kitchen: FoodsInHand, told: str) -> list[str]:
    """ "Brown the meat" where no food is meat: somebody has to say of what."""
    general = (
        word for word in ("meat", "poultry", "seafood") if re.search(rf"\b(?:the|your) {word}\b", told, re.IGNORECASE)
    )
    return [word for word in general if not mentions(kitchen, word) and not any(map(is_hazardous, items))]
