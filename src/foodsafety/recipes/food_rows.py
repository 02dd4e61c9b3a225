"""Rows of a pasted text that name foods or kit: one or several in a row, under a label or alone."""

from __future__ import annotations

import re
from collections.abc import Sequence
from functools import cache

from foodsafety.foods import food_kind, match_food
from foodsafety.recipes.broken_rows import BULLET
from foodsafety.recipes.ingredients import ALSO, read_ingredient
from foodsafety.recipes.instructions import orders, sentences
from foodsafety.recipes.plain_speech import plain_words
from foodsafety.recipes.times_and_heats import temperatures_in
from foodsafety.recipes.vessels import tools_in
from foodsafety.recipes.words import layout_pattern, vocabulary


def unmarked(row: str) -> str:
    """A row without its bullet or number."""
    return BULLET.sub("", row).strip()


def is_order(text: str) -> bool:
    """True if words order some work."""
    if _BROWN_FOOD.match(unmarked(text)) or _is_a_foods_name(text):
        return False
    return any(
        order.do not in ("none", "timed", "topic") or len(text) > 40 or order.oven_c is not None
        for part in sentences(text)
        for order in orders(part, _foods_next(part))
    )


def _is_a_foods_name(text: str) -> bool:
    """True for "fish sauce", "bread", "lard": verbs too, and as a row the whole name of a food."""
    found = match_food(unmarked(text)) if len(text) <= 40 and re.fullmatch(r"[A-Za-z' -]+", unmarked(text)) else None
    return found is not None and found.sure and found.whole


# A row of a list, and no work: "brown bread & butter".
_BROWN_FOOD = re.compile(
    r"brown (?:bread|rice|sugar|sauce|flour|pasta|lentils|rolls|baps|toast)"
    r"(?:,? (?:&|and|or|with|to serve) ?[a-z ]*)?$",
    re.IGNORECASE,
)


def is_weighed_note(row: str) -> bool:
    """True for a food with its weight behind it and then a note: "rice from last night, 3kg, check the label"."""
    head = re.match(r"(?P<food>[a-z][a-z ,-]{2,40}?),? \d[\d.]* ?(?:g|kg|ml|l|oz|lbs?)\b", unmarked(row), re.IGNORECASE)
    if head is None or _TAKES_MINUTES.search(row):
        return False
    return not is_order(head["food"]) and read_ingredient(head["food"], "en-GB").kind is not None


def _foods_next(text: str) -> frozenset[str]:
    """Foods right behind the first word: "whisk whites until stiff" is an order."""
    words = re.findall(r"[a-z]+", text.lower())[1:3]
    return frozenset(word for word in words if word in ("whites", "yolks") or match_food(word))


# Kit is not weighed: "400 g tin moonrock".
_WEIGHED = re.compile(r"\d[\d.,]*\s?(?:g|kg|oz|lbs?)\b", re.IGNORECASE)


_PLATES_OF = re.compile(
    r"\W*(?:\d|two|three|four) (?:[a-z]+ )?(?:plates|bowls|dishes|trays|saucers)\b(?! of)", re.IGNORECASE
)


def _parted_by_stops(row: str) -> list[str]:
    """ "8 plums, halved. 2 tbsp sugar.": nothing where most of it is not measured."""
    stops = [part.strip(" .") for part in re.split(r"(?<=[a-z)])\.\s+", row) if part.strip(" .")]
    if any(len(part.split()) > 14 for part in stops):
        return []  # sentences
    each = [read_ingredient(part, "en-GB") for part in stops]
    sure = sum(bool(item.measured and item.kind) for item in each)
    return stops if len(stops) > 1 and (sure == len(stops) or (sure > 3 and sure >= 0.7 * len(stops))) else []


def several_foods(row: str) -> list[str]:
    """A row parted where people part foods: by semicolons, by slashes with spaces, by bars or bullets; by
    commas where every part is a food and most have an amount."""
    row = _UNIT_STOP.sub(r"\1", ALSO.sub("", row))
    each = _ALL_SO.search(row)
    if each and len(parts := several_foods(row[: each.start()])) > 1:
        return [f"{part}, {each['how']}" for part in parts]  # "2 carrots, 1 onion, all diced"
    # A paragraph of work is no row, whatever it adds: "dice 1 kg of chicken. Peel 4 carrots and a small pumpkin".
    adds = _PLUS if _SENTENCES.search(row.rstrip(" .")) else _ADDED
    added = adds.split(re.sub(r"\s+to (?:go with(?: it| them)?|serve)$", "", row))
    both = [read_ingredient(part, "en-GB") for part in added] if len(added) > 1 else []
    apart = not any(re.match(r"\S+ (?:[a-z]+ )?for (?:the )?", part) for part in added)  # "3 tbsp + 1 tbsp for later"
    measured = sum(item.measured for item in both)
    if both and apart and all(item.kind for item in both) and (measured == len(both) or (len(both) > 2 and measured)):
        # "Milk 3 L + water 3 L", "avocado + half a lemon + some cress".
        return [one for part in added for one in (several_foods(part) if "," in part else [part.strip(" .")])]
    if stops := _parted_by_stops(row):
        return [one for part in stops for one in (several_foods(part) if "," in part else [part])]
    if each := _OF_EACH.match(row):  # "Onion, carrot, celery – 1 of each, diced"
        return [
            f"{each['amount']} {part.strip()}{each['how']}" for part in re.split(r",|\s+(?:and|&)\s+", each["foods"])
        ]
    if each := _EACH_OF.match(row):  # "1 tbsp each smoked paprika, salt"
        parts = [part.strip() for part in re.split(r",|\s+(?:and|&)\s+", each["foods"]) if part.strip()]
        if len(parts) > 1 and all(read_ingredient(part, "en-GB").kind for part in parts):
            return [f"{each['amount']} {part}" for part in parts]
    mixed = re.split(r"\s+(?:mixed |let down |diluted |thinned )?(?:with|w/)\s+(?=\d)", row)
    if len(mixed) == 2 and all(item.measured and item.kind for item in (read_ingredient(m, "en-GB") for m in mixed)):
        return [part.strip(" .") for part in mixed]  # "milk 200ml mixed with 75ml water"
    found = [part.strip(" .") for part in _PARTED.split(row) if part.strip(" .")]
    for every in (re.split(r"\s{2,}|\t", row.strip()), _COMMA.split(row)):
        parts = [part for part in every if not is_kit(part)] if len(every) > 3 else every  # "rice, eggs, board, wok"
        if len(found) == 1 and len(parts) > 1 and not _SENTENCES.search(row.rstrip(" .")) and all_foods(parts):
            found = [part.strip(" .") for part in parts]
            return [one for part in found for one in (several_foods(part) if _ADDED.search(part) else [part])]
    return two_without_amounts(row) or found


def two_without_amounts(row: str) -> list[str]:
    """ "Cooked white rice, sliced green onions": two foods of two sorts. "Stock, chicken" and "oil, olive" are one,
    whose name stands behind it."""
    parts = [part.strip(" .") for part in _COMMA.split(row) if part.strip(" .")]
    if len(parts) != 2 or re.search(r"\d", row) or len(row) > 60:
        return []
    first, second = (read_ingredient(part, "en-GB") for part in parts)
    if not (first.kind and second.kind and first.food and second.food) or first.doubts or second.doubts:
        return []
    apart = food_kind(first.kind).group != food_kind(second.kind).group
    turned = match_food(f"{second.food} {first.food}")
    return parts if apart and not (turned and turned.whole) else []


# Between the foods of a row; "... butter. For the cabbage: half a Savoy" begins with another part of the dish.
_PARTED = re.compile(r"\s*;\s*|\s+/\s+|\s+[|•·.]\s+|\.\s+For (?:the )?[a-z ]{3,25}:\s+")
# A comma between foods: none in brackets.
_COMMA = re.compile(r"\s*,\s*(?![^()]*\))")
# "Milk 3 L + water 3 L", "300 g pasta - 2 eggs", "500 g chicken and 2 eggs".
_PLUS = re.compile(r"\s+\+\s+")
_ADDED = re.compile(
    r"\s+\+\s+|\s+(?:[-–—]|and|&|plus)\s+(?=[\d½¼¾⅓⅔]|(?:half an?|an?|one|two|three|four) [a-z])", re.IGNORECASE
)
_OF_EACH = re.compile(
    r"(?P<foods>[A-Za-z ]+(?:(?:,|\s(?:and|&)\s)[A-Za-z ]+)+?)\s*[–—:-]\s*(?P<amount>[\d¼½¾⅓⅔]+(?:\s?[a-z]+)?)"
    r" (?:of )?each\b(?P<how>(?:,.*)?)$"
)
_EACH_OF = re.compile(
    r"(?P<amount>[\d¼½¾⅓⅔/. ]+\s?(?:tbsps?|tsps?|tablespoons?|teaspoons?|g|ml|oz|cups?|pinch(?:es)?|handfuls?)) each"
    r"(?: of)?:? (?P<foods>[^\d()]+)$",
    re.IGNORECASE,
)
_ALL_SO = re.compile(
    r",?\s+(?:all|each|both) (?P<how>(?:(?:very )?\w+ly )?(?:diced|chopped|sliced|peeled|washed|grated|cubed|crushed"
    r"|trimmed|halved|quartered)(?: and \w+)?)\s*$",
    re.IGNORECASE,
)
# What no list of foods has: a sentence, or a label.
_SENTENCES = re.compile(r"[a-z]{2}[.!?](?:\s|$)|:")


def all_foods(parts: Sequence[str]) -> bool:
    """True for parts that are each a food: all with an amount, most of four or more, or three that are only
    names."""
    items = [read_ingredient(part.strip(" ."), "en-GB") for part in parts]
    measured = sum(item.measured for item in items)
    known = sum(item.kind is not None for item in items)
    if known < len(items):  # one of many that nobody knows: the rest is a list all the same, and it is asked about
        begins = all(item.measured for item in items[:3])
        return len(items) > 4 and known >= 0.7 * len(items) and measured >= (0.5 if begins else 0.6) * len(items)
    names = len(items) > 2 and all(len(part.split()) <= 3 for part in parts)
    return names or measured == len(items) or (len(items) > 3 and measured >= 0.6 * len(items))


_AMOUNT_NEXT = re.compile(r"[A-Za-z][A-Za-z' -]{2,40}, ?\d[\d.]*\s?(?:g|kg|ml|l|oz|lbs?|tsp|tbsp|cups?)\b(?!.*\d ?min)")
_WORK_IN_IT = re.compile(
    r"\b(?:bring|stir|fry|cook|put|add|tip|mix|toss|leave|let|give|take|pop|keep) (?:it|them|em|this|everything)\b"
    r"|,\s*(?:about |another )?(?:\d+|one|two|three|four|five|ten)(?: more)? ?(?:mins?|minutes?)\b",
    re.IGNORECASE,
)
# Sentences after each other are no list.
_ORDERS_WORK = re.compile(r"[a-z]{2}[.!?]\s+[A-Za-z]{2,}")


@cache
def layout_dishes() -> frozenset[str]:
    """What a part of a dish may be called before its foods, without an amount to any of them."""
    made = vocabulary()["made"]
    return frozenset(f"{made['nouns']} {made['dishes']}".split())


# "FILLING 8 oz cream cheese • 1/3 cup sugar": a label in capitals, and no colon.
_CAPITALS = re.compile(r"([A-Z]{3,16})\s+(?=[\d¼½¾⅓⅔⅛])(.+)$")


def _label(row: str) -> re.Match[str] | None:
    """The label of a row, and what stands behind it."""
    capitals = _CAPITALS.match(row)
    if capitals and (" • " in capitals[2] or capitals[1].lower() in {*layout_dishes(), "top", "topping", "base"}):
        return capitals
    return re.match(r"([A-Za-z][A-Za-z'’ -]{2,20}?)(?:\s*\([^)]{1,20}\))?:\s+(.+)$", row)


def _listed(text: str) -> list[str]:
    """A text parted where its foods are, where no part is longer than a food is called."""
    between = next((sign for sign in (";", " / ", " | ", " • ", " - ") if sign in text), ",")
    listed = re.split(rf"(?:{re.escape(between)}|(?<=[a-z])\.\s+)(?![^(]*\))", text)  # none inside brackets
    listed = [one for part in listed for one in re.split(r"\s\+\s(?=\d)", part)]
    parts = [one for part in listed for one in _made_of(part.strip(" .")) if part.strip(" .")]
    named = [re.sub(r"\([^)]*\)|,.*$", "", part).split() for part in parts]  # how it is prepared stands behind
    return parts if all(len(words) <= 7 for words in named) else []


def _made_of(part: str) -> list[str]:
    """ "Guacamole (2 avocados, juice of half a lime, 1 tomato)": what it is made of, where each of that is measured."""
    inside = re.fullmatch(r"[A-Za-z' -]+ \(([^()]+)\)", part)
    foods = [food.strip() for food in inside[1].split(",")] if inside else []
    items = [read_ingredient(food, "en-GB") for food in foods]
    return foods if len(foods) > 1 and all(item.measured and item.kind for item in items) else [part]


_TAKES_MINUTES = re.compile(r"\b\d+ ?(?:mins?|minutes|hrs?|hours)\b(?! (?:old|before|ahead))", re.IGNORECASE)


def labelled_foods(row: str) -> list[str]:
    """The label of a row and the foods it lists, where it lists three or more: "Filling: 4 eggs, 200 g sugar,
    100 ml cream"; nothing for any other row."""
    row = row[1:-1] if row.startswith("(") and row.endswith(")") else row
    rows = re.split(r"[;.]\s+(?=[A-Za-z][A-Za-z '-]{2,20}:\s)", row)
    if len(rows) > 1:  # "Shopping: 2 chicken breasts, 1 lettuce; dressing: 3 tbsp mayonnaise, 1 anchovy"
        lists = [labelled_foods(part) for part in rows]
        more = [one for part in lists[1:] for one in (f"{part[0]}:", *part[1:])] if all(lists) else []
        return [*lists[0], *more] if more else []
    label = _label(row)
    if label is None:
        return []
    parts = _listed(label[2])
    if _TAKES_MINUTES.search(label[2]):
        return []  # "chips: spuds into wedges, oil + salt, 220 for 35 min": work
    # "Ingredients: ...; spray oil": what a heading calls a list is one, whatever one of its foods sounds like.
    heading = layout_pattern("headings", "ingredient").fullmatch(label[1]) is not None
    if not parts or (_orders_among(row, parts) and not heading):
        return []
    items = [read_ingredient(part, "en-GB") for part in parts]
    known = sum(item.kind is not None for item in items)
    every = all(item.kind is not None and item.measured for item in items)
    # "Gravy: lamb bones, stock, flour": without amounts only where each is a food.
    bare = [re.sub(r"\([^()]*\)", "", part) for part in parts]
    short = all(len(part.split()) <= 4 for part in bare) or not is_order(label[2])
    named = {label[1].lower(), label[1].lower().removesuffix("s")}
    called = not layout_dishes().isdisjoint(named) and len(items) > 2
    plain = (called or (heading and len(items) > 1)) and known == len(items) and short
    measured = re.search(r"\d", label[2]) is not None and (known > 2 or every)
    return [label[1], *parts] if measured or plain else []


def _orders_among(row: str, parts: Sequence[str]) -> bool:
    """True for a row of work: "Chef: whisk the flour, sugar and salt in bowl 1", "Chips: peel, rinse, dry, fry"."""
    work = [is_order(part) and not read_ingredient(part, "en-GB").measured for part in parts]
    return work[0] or sum(work) > 1 or (_ORDERS_WORK.search(row) is not None and any(map(is_order, parts)))


# "1 tsp. salt": no sentence ends there.
_UNIT_STOP = re.compile(
    r"\b(tsps?|tbsps?|oz|lbs?|pkgs?|pts?|qts?|gal|doz|med|lge?|sml?|c|g|kg|ml)\.(?=\s)", re.IGNORECASE
)
# "Cube chicken" is work, though a cube is an amount of stock.
_CUTS = re.compile(r"(?:cube|slice|quarter|strip|dice|round|wedge)\s+(?!of\b)[a-z]", re.IGNORECASE)
_COUNTS = re.compile(r"\W*(?:[\d¼½¾⅓⅔⅛]|an? |half|one |two |three )", re.IGNORECASE)


# A heading of the work: "get the salad ready", "start the chicken".
_GET_READY = re.compile(
    r"(?:get|make|start|finish|prepare|build|assemble|do|cook|put) (?:the|your|it|up)\b", re.IGNORECASE
)


def looks_like_ingredient(row: str) -> bool:
    """True if a row is a food, with its amount or alone."""
    plain = _UNIT_STOP.sub(r"\1", unmarked(plain_words(row)))
    if _PLATES_OF.match(plain):
        return False  # "3 plates: flour / beaten egg / crumbs": how they are set out
    if plain.endswith(".") and re.search(r"\b(?:is|are) [a-z]+", plain) and len(plain) > 40:
        return False  # "A tin is lined with 6 slices of ham."
    parts = several_foods(plain)
    if len(parts) > 2 or (len(parts) == 2 and " + " in plain):
        like = sum(bool(looks_like_ingredient(part) or read_ingredient(part, "en-GB").kind) for part in parts)
        return like == len(parts) or (len(parts) > 4 and like >= 0.8 * len(parts))  # one that nobody knows among many
    if labelled_foods(plain):
        return True
    plain = re.sub(r"\s*\([^)]{12,}\)\s*$", "", plain)  # what is said of it behind
    if len(plain) > 110 or re.search(r"[a-z]{2}[.!?]\s+\S", plain):
        return False
    if _AMOUNT_NEXT.match(plain) and read_ingredient(plain, "en-GB").kind:
        return True  # "leftover roast turkey, 500g, picked off the bone"
    if _TAKES_MINUTES.search(plain) and not re.match(r"\W*[\d¼½¾⅓⅔]", plain):
        return False  # "mince in, brown 8 min, no pink"
    if temperatures_in(plain)[0] is not None:
        return False  # "Heat oven to 190C": 190 of nothing
    if _WORK_IN_IT.search(plain):
        return False  # "2 tbsp curry paste, one more min, tin coconut milk, bring it up"
    plain = layout_pattern("rows", "what_for").sub("", layout_pattern("rows", "prepared").sub("", plain))
    item = read_ingredient(plain, "en-GB")
    if (
        item.measured
        and item.kind
        and len(plain.split()) <= 6
        and not re.search(r"\b(?:in|into|until|then|to|on)\b", plain)
    ):
        return not is_kit_name(plain) and not (_CUTS.match(plain) and is_order(plain))
    if (
        item.kind
        and len(plain.split()) <= 4
        and plain.split()[0].lower().strip(",+&/") in ("salt", "pepper", "oil", "butter", "flour", "sugar")
    ):
        return not re.search(r"\b(?:the|it|them|in|on)\b", plain)
    if item.measured and item.kind:
        return not (is_order(plain) and not _COUNTS.match(plain)) and not re.search(r"\b(?:into|until|then)\b", plain)
    if item.measured:
        return (
            len(plain) < 70
            and (_WEIGHED.match(plain) or not tools_in(plain))
            and not is_order(plain)
            and not re.search(r"\bmin(?:ute)?s?\b|\bhours?\b", plain)
        )
    tells = _GET_READY.match(plain) or plain.endswith((".", "!", "?"))
    return bool(item.kind) and len(plain) < 60 and not is_order(plain) and not tells


def is_kit_name(text: str) -> bool:
    return re.search(rf"\b(?:{layout_pattern('rows', 'kit_ends').pattern})\s*$", text, re.IGNORECASE) is not None


_SO_MUCH_OF_FOOD = re.compile(r"(?:(?:a|an|one|two|\d+|whole|half a|small|large) )*[a-z]+ of [a-z]", re.IGNORECASE)


def is_kit(row: str) -> bool:
    """True if a row names kit and no food: "2 mixing bowls", "griddle, spatula, dinner plate"."""
    plain = unmarked(row)
    if len(plain) > 90 or not (tools_in(plain) or is_kit_name(plain)):
        return False
    if is_kit_name(plain):
        return True
    if _SO_MUCH_OF_FOOD.match(plain) and match_food(plain.split(" of ", 1)[1]):
        return False  # "rack of lamb"
    for_it = re.match(r"([a-z][a-z -]*?)(?:,? for (?:the |your )?[a-z]|, (?:an? )?\d)", plain, re.IGNORECASE)
    named = match_food(for_it[1]) if for_it else None
    if named and named.whole:
        return False  # "butter for the tin", "frozen peas, a 1 kg bag"
    label = re.match(r"(?:you(?:'ll| will)? need|equipment|kit|tools)\s*:\s*", plain, re.IGNORECASE)
    if label:
        return all(tools_in(part) or is_kit_name(part) for part in plain[label.end() :].split(","))
    item = read_ingredient(plain, "en-GB")
    if item.measured and (item.kind or _WEIGHED.match(plain)):
        return False
    every = all(tools_in(part) and len(part.split()) <= 4 for part in plain.split(","))
    return every or not is_order(plain)
