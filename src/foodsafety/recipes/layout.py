"""What each row of a pasted text is: title, heading, ingredient, kit, words to cook by, tip, storage
advice or chatter; by its headings where it has any, else by what the rows look like."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace

from foodsafety.foods import match_food, stem_words
from foodsafety.recipes.broken_rows import unbroken
from foodsafety.recipes.food_rows import (
    is_kit,
    is_order,
    is_weighed_note,
    labelled_foods,
    layout_dishes,
    looks_like_ingredient,
    several_foods,
    unmarked,
)
from foodsafety.recipes.headings import Part, component_name, is_component, is_marked, looks_like_heading, section_of
from foodsafety.recipes.ingredients import read_ingredient
from foodsafety.recipes.instructions import orders, unlabelled
from foodsafety.recipes.verb_forms import begins_with_verb, clause_words
from foodsafety.recipes.words import layout_pattern


@dataclass(frozen=True, slots=True, kw_only=True)
class Row:
    """One row of a text, as it was written, and what it is; ``component`` is the part of the dish that
    the heading above it names ("For the filling"), "" for the whole."""

    number: int
    text: str
    part: Part
    component: str = ""


_NUMBER_WORDS = {
    word: n for n, word in enumerate("zero one two three four five six seven eight nine ten eleven twelve".split())
} | {"twenty": 20, "dozen": 12}
_COUNT = rf"(?:\d{{1,4}}|{'|'.join(_NUMBER_WORDS)})"
SERVES = re.compile(
    rf"^\W*(?:(?:(?:this|it|recipe|will|should|easily) )*"
    rf"(?:serves?|servings?(?! size)|makes(?: enough for)?|yields?|feeds"
    rf"|does|gives|cuts into|for|enough for|portions?|quantity|batch(?=\s*:)|(?:no\.?|number) of (?:portions|servings)"
    rf"|per group of)\b\s*:?\s*(?:about |approx\.? |around |up to |a (?:crowd|class|group|party) of )?"
    rf"|(?={_COUNT} (?:portions|servings|people|persons|helpings)\W*$))(?P<n>{_COUNT})?(?P<rest>.*)$",
    re.IGNORECASE,
)
_SERVES_ANYWHERE = re.compile(
    rf"\b(?:serves|feeds|servings?:?|yield:?|makes)\s*:?\s*(?:about |around )?(?P<n>{_COUNT})\b"
    rf"|\b(?P<m>{_COUNT}) (?:servings|portions|people)\b|\(for (?P<k>{_COUNT})\)",
    re.IGNORECASE,
)


def number_of(word: str | None) -> int | None:
    """A count written as digits or as a word."""
    if not word:
        return None
    return int(word) if word.isdigit() else _NUMBER_WORDS.get(word.lower())


def serves_in(text: str) -> int | None:
    """How many a text says it feeds."""
    found = _SERVES_ANYWHERE.search(text)
    return number_of(found["n"] or found["m"] or found["k"]) if found else None


def _begins_with_work(text: str) -> bool:
    """True if the first word orders work on food: "Soak the beans overnight." stands before many a list.
    What is said of the dish ("Bake this for a birthday") orders nothing yet."""
    text = unlabelled(text)[1]
    first, second = ([*stem_words(text), "", ""])[:2]
    found = orders(text)
    return bool(
        found
        and second not in ("this", "these", "it", "them")
        and first in stem_words(found[0].verb)
        and found[0].do not in ("none", "serve", "topic", "list", "timed")
    )


def _works_for_minutes(text: str) -> bool:
    """True for a row above the list that orders several things and says for how long: it is no talk of the dish."""
    works = [o for o in orders(text) if o.do not in ("none", "serve", "topic", "list", "timed")]
    return len(works) > 1 and any(order.high_min for order in orders(text))


def _sets_the_oven(text: str) -> bool:
    """ "Oven 190C" above the list: it is what everything is baked at."""
    return len(text.split()) <= 8 and any(order.oven_c is not None for order in orders(text))


# "Spuds in first 15 min": work, in a text that has no heading over it.
_TIMED_WORK = re.compile(r"\b\d+ ?(?:mins?|minutes|hrs?|hours)\b|\b\d{3} ?(?:deg\b|degrees|°)", re.IGNORECASE)
_BARE_NUMBER = re.compile(r"\s*(\d{1,2})\s+(?=[A-Z])")


def _numbered(rows: Sequence[str]) -> list[str]:
    """The rows with a dot behind bare numbers that count orders: "1 Rub the pork", "2 Put it in"."""
    marks = {i: found for i, row in enumerate(rows) if (found := _BARE_NUMBER.match(row))}
    counted = [i for i in marks if is_order(rows[i][marks[i].end() :])]
    numbers = [int(marks[i][1]) for i in counted]
    if len(counted) < 3 or numbers != sorted(set(numbers)) or numbers[0] > 2:
        return list(rows)
    first = counted[0]
    return [
        f"{marks[i][1]}. {row[marks[i].end() :]}" if i in marks and i >= first else row for i, row in enumerate(rows)
    ]


_COUNTS = re.compile(r"\s*(\d{1,2})[.)]\s+(?=[A-Za-z(])")


def _counted_orders(rows: Sequence[str]) -> frozenset[int]:
    """The rows of a method that is counted from 1 without a gap, most of them orders: what looks like food among them
    ("8. Two thighs each") is none."""
    marks = [(i, int(found[1])) for i, row in enumerate(rows) if (found := _COUNTS.match(row))]
    run = [i for at, (i, number) in enumerate(marks) if number == at + 1]
    works = sum(is_order(unmarked(rows[i])) for i in run)
    return frozenset(run if len(run) == len(marks) >= 4 and works >= 0.6 * len(run) else ())


# "For 4 you need 500 g chicken and 2 eggs": how many it feeds, and foods behind it.
_FEEDS_AND_NEEDS = re.compile(
    rf"(?P<feeds>(?:serves|feeds|makes|for|yields?)\W+(?:about )?{_COUNT}"
    r"(?: (?:people|persons|of us|portions|servings))?"
    r"(?:\s*[:;,.](?=\s)|\s[-–—](?=\s)|(?=\s(?:you|u|i|we|ya)(?:['’]?ll| will)? (?:need|want|use|take|have)\b))"
    r"(?:\s*(?:(?:you|u|i|we|ya)(?:['’]?ll| will)? )?(?:uses?|needs?|wants?|takes?|have)\b:?)?)\s*(?P<foods>.*)",
    re.IGNORECASE | re.DOTALL,
)


def _served_and_needed(text: str) -> list[str]:
    """A row that says how many it feeds and lists foods behind it, as two: nothing of a list is lost behind a count."""
    found = _FEEDS_AND_NEEDS.fullmatch(unmarked(text).strip())
    parts = re.split(r",|;|\s[-–—/+]\s|\band\b|&", found["foods"]) if found else []
    return [found["feeds"], found["foods"]] if found and any(map(_is_measured_food, parts)) else [text]


def layout(rows: Sequence[str]) -> list[Row]:
    """Every row of a text with what it is."""
    joined = unbroken(_numbered(rows), _is_measured_food)
    whole = [(number, part) for number, row in joined for part in _served_and_needed(row)]
    sheet = _Sheet([row for _, row in whole])
    return _named_by_the_dish([sheet.row(i, number) for i, (number, _) in enumerate(whole)])


def is_of_a_sheet(text: str) -> bool:
    """True for words that say of what a sheet is ("Year 9 Food, lesson 6") and name no dish."""
    return layout_pattern("rows", "sheet").fullmatch(text.strip(" #*_:")) is not None


def _named_by_the_dish(rows: list[Row]) -> list[Row]:
    """The rows, with the dish for their title where the first row only says of what the sheet is."""
    said = [i for i, row in enumerate(rows) if row.part != "blank"][:3]
    if not said or rows[said[0]].part != "title" or not is_of_a_sheet(rows[said[0]].text):
        return rows
    for i in said[1:]:
        row = rows[i]
        short = row.part in ("summary", "heading", "serves") and len(row.text.split()) <= 8
        if short and not is_of_a_sheet(row.text) and section_of(row.text) is None and _names_a_dish(row.text):
            first = replace(rows[said[0]], part="summary")
            return [first if k == said[0] else replace(row, part="title") if k == i else r for k, r in enumerate(rows)]
    return rows


def _names_a_dish(text: str) -> bool:
    words = set(stem_words(text))
    return bool(words & layout_dishes()) or any(match_food(word) is not None for word in words)


def _is_a_name(texts: Sequence[str]) -> bool:
    """True for a first row that only looks like food ("One tray sausage supper"): written without a figure,
    it stands alone above a list."""
    alone = len(texts) > 2 and not texts[1].strip()
    return alone and not re.match(r"\W*[\d½¼¾⅓⅔]", texts[0]) and any(looks_like_ingredient(row) for row in texts[2:5])


# A recipe for the freezer says so above; "frozen berry pie" does not.
_FREEZES = re.compile(r"\bfreez(?:e|er|ing)\b", re.IGNORECASE)


class _Sheet:
    """A text while its rows are told apart, from top to bottom."""

    def __init__(self, texts: Sequence[str]) -> None:
        self.texts = texts
        self.lists = _ingredient_lists(texts)
        self.counted = _counted_orders(texts)
        self.section: Part | None = None
        self.component = ""
        self.titled = False
        self.begun = False
        self.worked = False
        self.freezes = any(_FREEZES.search(text) for text in [row for row in texts if row.strip()][:2])

    def row(self, i: int, number: int) -> Row:
        """The next row, and what it changes for those that follow."""
        text = self.texts[i]
        part = self._frame(i) or self._counted_order(i) or (self._in_list(i) if self.lists[i] else self._outside(i))
        if part == "heading":
            self._under(i)
        elif part == "blank" and self.component and self._ends_its_part(i):
            self.component = ""
        elif part == "instruction" and not self._before_the_list(i):
            self.begun = True
            self.section = "instruction" if self.section == "ingredient" else self.section
        self.titled = self.titled or part == "title"
        return Row(number=number, text=text, part=part, component=self.component if part != "heading" else "")

    def _counted_order(self, i: int) -> Part | None:
        return "instruction" if i in self.counted else None

    def _ends_its_part(self, i: int) -> bool:
        """True for the gap between the foods of a part and those of the whole: "Paste", its foods, and after a gap the
        beef. A list with a gap after every row says nothing by them."""
        near = (i - 2, i - 1, i + 1, i + 2)
        foods = i > 1 and i + 2 < len(self.texts) and all(self.lists[n] and self.texts[n].strip() for n in near)
        return foods and not is_component(self.texts, i + 1)

    def _under(self, i: int) -> None:
        named = section_of(self.texts[i])
        if named == "note" and self.freezes and _FREEZES.search(self.texts[i]):
            named = "instruction"  # what is made for the freezer is frozen, and no advice
        if named:
            self.section, self.component = named, ""
        elif not _is_phase(self.texts[i]):
            named_work = self.begun and is_order(self.texts[i])  # "Cook the fish" names no part
            self.component = "" if named_work else component_name(self.texts[i])
        elif self.lists[i]:
            self.component = ""

    def _frame(self, i: int) -> Part | None:
        """What surrounds a recipe: blanks, title, headings, how many it serves."""
        text, plain = self.texts[i], unmarked(self.texts[i])
        if not plain or re.fullmatch(r"\s*[-=_*#.]{3,}\s*", text):
            return "blank"
        if layout_pattern("rows", "navigation").fullmatch(plain):
            return "note"
        if not self.titled and layout_pattern("rows", "greeting").match(plain):
            return "summary"
        if self.begun and layout_pattern("sentences", "plated").match(plain):
            return "instruction"  # "To order: 1 cup of salad, cheese": what goes on a plate, and no list
        if not self.titled and i == 0 and self.lists[0] and _is_a_name(self.texts):
            return "title"
        if not self.titled and len(plain) > 100:
            return "instruction"  # one long paragraph, and no title
        measured = (self.lists[i] and _AMOUNT_FIRST.match(plain)) or _begins_untitled(self.texts, i)
        if not self.titled and not self.begun and self.section is None and not measured:
            return "title" if section_of(text) is None else "heading"
        if section_of(text) or _is_phase(text):
            return "heading"
        return "serves" if self._is_serves(i) else None

    def _is_serves(self, i: int) -> bool:
        plain = unmarked(self.texts[i])
        if "|" in plain and re.search(r"\b(?:serves|prep|cook|total)\b", plain, re.IGNORECASE):
            return True
        if re.match(r"(?:total |prep(?:aration)? |cook(?:ing)? )?times?\s*:", plain, re.IGNORECASE) and len(plain) < 60:
            return True
        found = SERVES.match(plain)
        counted = serves_in(plain) is not None and re.search(r"\b(?:portions|servings|helpings)\W*$", plain)
        early = self.section in (None, "ingredient") and (not self.lists[i] or bool(counted))
        return bool(found and found["n"] and early and len(plain) < 70)

    def _in_list(self, i: int) -> Part:
        text = self.texts[i]
        if _only_people(text):
            return "summary"
        if is_weighed_note(text):
            return "ingredient"
        if is_component(self.texts, i):
            return "heading"
        labelled = bool(labelled_foods(unmarked(text)))  # "For the pan: 2 peppers, 1 onion"
        if is_kit(text) and not labelled:
            return "kit"
        if labelled or looks_like_ingredient(text):
            return "ingredient"
        return "instruction" if is_order(text) and not _among_foods(self.texts, i) else "ingredient"

    def _outside(self, i: int) -> Part:
        """A row outside every list of foods: by its section, else by what it says."""
        text, plain = self.texts[i], unmarked(self.texts[i])
        if self.begun and _heads_a_paragraph(self.texts, i):
            return "heading"
        more = section_of(next((row for row in self.texts[i + 1 :] if row.strip()), "method")) is None
        name = component_name(text)
        small = text.strip().islower()  # who writes no capitals heads nothing with "check it"
        orders_work = is_order(name) and (len(name.split()) > 1 or small) and not is_marked(text)
        orders_work = orders_work or (small and begins_with_verb(name))
        if more and is_component(self.texts, i) and not orders_work:
            return "heading"
        if self.section in ("note", "kit"):
            return self.section
        if re.match(rf"\W*{layout_pattern('rows', 'aside').pattern}", plain, re.IGNORECASE):
            return "note"
        if self.section == "instruction":
            return "instruction"
        if self._may_be_food(i):
            return "kit" if is_kit(text) else "ingredient"
        if self.begun and self.section is None:
            return "instruction"
        if self.section == "ingredient":
            return "instruction" if is_order(text) else "summary"
        if self._before_the_list(i):
            goes_on = self.worked and is_order(plain)  # one of several rows of work that stand above the list
            works = goes_on or _begins_with_work(plain) or _works_for_minutes(plain) or _sets_the_oven(plain)
            self.worked = works
            return "instruction" if works else "summary"
        works = is_order(text) or _TIMED_WORK.search(text) is not None
        return "instruction" if works or not any(self.lists) else "summary"

    def _before_the_list(self, i: int) -> bool:
        """True for a row above the first list of foods, where there is one."""
        return any(self.lists[i:]) and not any(self.lists[:i])

    def _may_be_food(self, i: int) -> bool:
        """True for a measured food that nobody knows, and for a short row that goes on with the list."""
        text, plain = self.texts[i], unmarked(self.texts[i])
        if _only_people(plain):
            return False
        item = read_ingredient(plain, "en-GB")
        if item.measured and item.unit and looks_like_ingredient(text) and not plain.endswith((".", "!", "?")):
            return True
        joined = i > 0 and bool(self.texts[i - 1].strip()) and self.lists[i - 1]
        if joined and not self.begun and _among_foods(self.texts, i):
            return True
        short = len(plain) < 60 and not plain.endswith((".", "!", "?"))
        ends = i + 1 == len(self.texts) or not self.texts[i + 1].strip()
        if joined and ends and not self.begun and short and len(plain.split()) <= 4 and not is_order(plain):
            return True  # a name that nobody knows, the last of the list
        if self.section != "ingredient" or self.begun:
            return False
        goes_on = i > 0 and (self.lists[i - 1] or section_of(self.texts[i - 1]) == "ingredient")
        return is_kit(text) or looks_like_ingredient(text) or (goes_on and short)


def _begins_untitled(texts: Sequence[str], i: int) -> bool:
    """True for a first row that is no title: an order with its stop, or a measured food above another one."""
    plain = unmarked(texts[i])
    if plain.endswith(".") and len(plain.split()) > 4 and is_order(plain):
        return True
    if len(several_foods(plain)) > 2 and re.search(r"\d", plain):
        return True
    rows = [unmarked(row) for row in texts[i : i + 2]]
    return len(rows) > 1 and all(_is_measured_food(row) and not SERVES.match(row) for row in rows)


def _only_people(text: str) -> bool:
    """ "Head chef  Assistant  Dishwasher  Recorder": who is there, and no food."""
    words = re.findall(r"[a-z]+", text.lower())
    people = clause_words("people") | {"head", "sous", "recorder", "dishwasher", "reporter", "manager", "leader"}
    return len(words) > 1 and all(word in people or len(word) == 1 for word in words)


def _stands_alone(texts: Sequence[str], i: int) -> bool:
    """True for a few words between a gap and a paragraph, without a stop: "Cook the fish"."""
    text = texts[i].strip()
    few = 0 < len(text.split()) <= 5 and text[:1].isupper() and text[-1:].isalpha() and unmarked(text) == text
    below = texts[i + 1].strip() if i + 1 < len(texts) else ""
    return few and i > 0 and not texts[i - 1].strip() and len(below) > 60 and re.search(r"[a-z]\.", below) is not None


def _heads_a_paragraph(texts: Sequence[str], i: int) -> bool:
    """True for such words where a text has several of them: they head what is below, and the work is told there.
    Washing is never lost to a heading."""
    alone = [k for k in range(len(texts)) if _stands_alone(texts, k)]
    washes = re.search(r"\b(?:wash|hands?|clean|rinse|preheat|oven)\b", texts[i], re.IGNORECASE)
    return i in alone and len(alone) > 1 and washes is None


def _is_phase(text: str) -> bool:
    """True for a heading of a time or a stage ("Day 2", "Step 3"), with no order in the same row."""
    plain = unmarked(text)
    found = layout_pattern("rows", "phase").fullmatch(plain)
    if found is None:
        return False
    said = re.sub(r"^\w+ \w+\W*", "", plain)
    # "Day 2 - build - 40 min": a name and how long it takes.
    named = re.sub(r"\s*[-–—(]\s*\d+ ?(?:mins?|minutes?|hours?|hrs?)\W*$", "", said)
    return not is_order(said) or (named != said and len(named.split()) <= 2 and plain.lower().startswith("day"))


_AMOUNT_FIRST = re.compile(r"\W*(?:\d|[½¼¾⅓⅔]|(?:an?|half|one|two|three|four|six) )", re.IGNORECASE)


def _ingredient_lists(texts: Sequence[str]) -> list[bool]:
    """Which rows stand in a list of ingredients: at least two foods near each other."""
    first = next((k for k, text in enumerate(texts) if text.strip()), 0)
    like = [bool(text.strip()) and section_of(text) is None and _is_food(text) for text in texts]
    if like and not _AMOUNT_FIRST.match(unmarked(texts[first])):
        like[first] = like[first] and _begins_untitled(texts, first)  # else the title, though it names a food
    marks = [False] * len(texts)
    i = 0
    while i < len(texts):
        if not like[i] or not _begins_list(like, texts, i):
            i += 1
            continue
        j, gap, last, count = i, 0, i, 0
        while j < len(texts) and gap <= 1 and section_of(texts[j]) is None:
            if like[j]:
                last, gap, count = j, 0, count + 1
            elif texts[j].strip() and not is_kit(texts[j]) and not is_component(texts, j):
                gap += 1
                if is_order(texts[j]) and not _among_foods(texts, j):
                    break
            j += 1
        if (
            count >= 2
            or len(several_foods(texts[i])) > 2
            or len(labelled_foods(unmarked(texts[i]))) > 3
            or (count == 1 and any(section_of(texts[k]) == "ingredient" for k in range(max(0, i - 2), i)))
        ):
            for k in range(i, last + 1):
                marks[k] = True
        i = last + 1
    return _with_strays(texts, like, marks)


def _among_foods(texts: Sequence[str], i: int) -> bool:
    """True for a short row right between foods ("roast potatoes", "bread for mopping", "dip"): it orders no work there,
    whatever its first word may mean."""
    plain = re.sub(r"\s*\([^)]*\)", "", unmarked(texts[i])).strip()
    if not plain or len(plain.split()) > 4 or plain.endswith((".", "!", ":", ";")) or _POINTS.search(plain):
        return False
    above, below = texts[i - 1] if i else "", texts[i + 1] if i + 1 < len(texts) else ""
    if not above.strip() or re.search(r"\d", plain) or not looks_like_ingredient(above):
        return False
    last = not below.strip() and match_food(plain) is not None and len(plain.split()) > 1
    return last or (bool(below.strip()) and looks_like_ingredient(below))


# Work has an object: "chop the onion", "fold it in".
_POINTS = re.compile(
    r"\b(?:the|it|them|all|everything|your|in|into|until|till|together|well|again|up)\b", re.IGNORECASE
)


def _is_food(text: str) -> bool:
    return looks_like_ingredient(text) or is_weighed_note(text)


def _with_strays(texts: Sequence[str], like: Sequence[bool], marks: Sequence[bool]) -> list[bool]:
    """The same with a measured food that stands alone right before or after a list: a row between that nobody knows
    parts no food from its list."""
    found = list(marks)
    for k, text in enumerate(texts):
        near = [n for n in range(max(0, k - 2), min(len(texts), k + 3)) if n != k and marks[n]]
        joined = near and all(texts[n].strip() for n in range(min(k, near[0]), max(k, near[0])))
        if joined and not found[k] and text.strip() and not section_of(text):
            found[k] = like[k] and (_is_short_food(text) or _stands_first(texts, marks, k))
    return found


def _stands_first(texts: Sequence[str], marks: Sequence[bool], k: int) -> bool:
    """True for a count of something that nobody knows, between a heading and the foods under it: "12 wrappers"."""
    under = k > 0 and k + 1 < len(texts) and marks[k + 1]
    counted = re.match(r"\W*\d+ [a-z]", unmarked(texts[k])) is not None and len(texts[k].split()) <= 5
    return under and counted and not is_order(texts[k]) and looks_like_heading(texts[k - 1])


def _is_short_food(text: str) -> bool:
    return _AMOUNT_FIRST.match(unmarked(text)) is not None and _is_measured_food(text)


def _is_measured_food(text: str) -> bool:
    """True for a food that is known with its amount, and no more: "ground turkey 6 lb"."""
    item = read_ingredient(unmarked(text), "en-GB") if len(text.split()) <= 8 else None
    return bool(item and item.kind and item.measured and not is_order(text))


def _begins_list(like: Sequence[bool], texts: Sequence[str], i: int) -> bool:
    """True for a measured food that is known, or for the first of three foods without amounts."""
    if labelled_foods(unmarked(texts[i])):
        return True
    item = read_ingredient(unmarked(texts[i]), "en-GB")
    if item.kind is None or SERVES.match(unmarked(texts[i])):
        return False
    return item.measured or (not texts[i].isupper() and like[i : i + 3] == [True, True, True])
