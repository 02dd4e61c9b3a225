"""What an ingredient line says beside amount and food: preparation, notes, alternatives."""

from __future__ import annotations

import re
from dataclasses import replace
from functools import cache

from foodsafety.foods import FoodMatch, food_kind, match_food, stem, stem_words
from foodsafety.recipes.amounts import names_another
from foodsafety.recipes.ingredient_words import OpenLine, ingredient_vocabulary, listed_words


def close_brackets(line: OpenLine) -> None:
    for found in re.finditer(r"[(\[]([^()\[\]]*)[)\]]", line.rest):
        line.note(found[1])
    line.rest = re.sub(r"\s*[(\[][^()\[\]]*[)\]]\s*", " ", line.rest)
    line.rest = re.sub(r"\s+([,;])", r"\1", line.rest.replace("(", " ").replace(")", " "))
    line.rest = re.sub(r"\s+", " ", line.rest).strip()


@cache
def _note_pattern() -> re.Pattern[str]:
    return re.compile(rf"(?:^|\s)((?:{'|'.join(ingredient_vocabulary()['notes'])}))$", re.IGNORECASE)


def split_tail(line: OpenLine) -> None:
    """What stands after the first comma or dash: preparation, or a note."""
    parts = re.split(r"\s*[,;]\s+|\s*[,;]$|\s+-+\s+|,(?=[A-Za-z])", line.rest)
    parts = [part.strip() for part in parts if part and part.strip()]
    if not parts:
        return
    # "boneless, skinless chicken thighs": only preparation before the comma is no food yet.
    while len(parts) > 1 and all(
        word in listed_words("preparation") for word in re.findall(r"[a-z-]+", parts[0].lower())
    ):
        line.prepared.append(parts.pop(0))
    line.rest = parts[0]
    for part in parts[1:]:
        if _note_pattern().fullmatch(part) or _note_pattern().match(" " + part):
            line.note(part)
        else:
            line.prepared.append(part)


def strip_notes(line: OpenLine) -> None:
    for _ in range(4):
        found = _note_pattern().search(line.rest)
        if not found or not line.rest[: found.start()].strip():
            if found and not line.rest[: found.start()].strip():
                return
            return
        line.note(found[1])
        line.rest = line.rest[: found.start()].rstrip(" ,;-")


@cache
def _prepared_after() -> re.Pattern[str]:
    words = "|".join(map(re.escape, sorted(listed_words("preparation"))))
    more = "and|into|in|small|large|pieces|cubes|chunks|slices|half|halves"
    return re.compile(rf"(?<=\S) ((?:(?:{words}|{more})(?: |$))+)$", re.IGNORECASE)


def _fresh_by_count(line: OpenLine, rest: str) -> bool:
    """ "3 chopped tomatoes" are fresh ones; by weight or in a tin they are the tinned kind."""
    found = match_food(rest)
    return line.unit in (None, "cup") and found is not None and found.kind.id == "tomato"


def strip_preparation(line: OpenLine) -> None:
    """Preparation words before the food, unless the food's own name begins with them."""
    taken: list[str] = []
    while True:
        found = re.match(r"(and |& |but )?([a-z-]+)(?: |$)", line.rest, re.IGNORECASE)
        if not found or found[2].lower() not in listed_words("preparation"):
            break
        rest = line.rest[found.end() :].strip()
        if not rest or (names_another(line.rest, rest) and not _fresh_by_count(line, rest)):
            break
        taken.append((found[1] or "") + found[2])
        line.rest = rest
    if taken:
        line.prepared.insert(0, " ".join(taken))
    # and after it, without a comma: "parsley finely chopped"
    found = _prepared_after().search(line.rest)
    if found and found[1].split()[0].lower() in listed_words("preparation"):
        kept = match_food(line.rest)
        if not (kept and kept.sure and len(stem_words(line.rest)) == 1):
            line.prepared.append(found[1].strip())
            line.rest = line.rest[: found.start()].strip()


def split_alternatives(line: OpenLine) -> None:
    """ "butter or margarine": the first is the food, the rest could be."""
    parts = re.split(r"\s+or\s+", line.rest, flags=re.IGNORECASE)
    if len(parts) < 2:
        return
    head, *others = parts
    # "beef or chicken stock": the first borrows the last word of the second.
    last = others[-1].split()
    if len(last) > 1 and not last[0][0].isdigit() and match_food(head) and (joint := match_food(f"{head} {last[-1]}")):
        same = match_food(others[-1])
        own = match_food(head)
        if same and joint.kind.id == same.kind.id and own and own.kind.id != joint.kind.id:
            head = f"{head} {last[-1]}"
    line.rest = head
    line.alternatives.extend(others)
    line.note("or " + " or ".join(others))


def noun_after(line: OpenLine) -> None:
    """ "2 garlic cloves": counted in cloves, of garlic."""
    words = line.rest.split()
    if line.unit or line.low is None or len(words) < 2:
        return
    noun = stem(words[-1].lower())
    kept = {stem_words(text) for text in ingredient_vocabulary()["kept_after"]}
    if noun in listed_words("after_food") and stem_words(" ".join(words[-2:])) not in kept:
        line.unit = noun
        line.rest = " ".join(words[:-1])


# "Dried", and not "no dried ones".
_DRY = re.compile(r"(?<!not )(?<!no )(?<!un)\b(?:dried|dry|soaked|uncooked)\b", re.IGNORECASE)


def in_its_state(line: OpenLine, food: str, found: FoodMatch) -> FoodMatch:
    """The food of a line as the rest of the line says that it comes: "turkey slices, cooked", "apricots, dried". Beans
    that are dried or soaked are raw, and no beans out of a tin."""
    told = " ".join((*line.prepared, *line.notes)).lower()
    said = set(re.findall(r"(?<!not )(?<!no )\b[a-z]+", told))
    for state in ("cooked", "leftover"):
        ready = match_food(f"{state} {food}") if state in said else None
        if ready and ready.kind.name.startswith(("cooked", "ready")):
            found = ready
    for state in ("dried", "tinned", "canned", "smoked"):
        kept = match_food(f"{state} {food}") if state in said else None
        if kept and kept.sure and kept.whole:
            found = kept
    dry = ingredient_vocabulary()["dry_like"].get(found.kind.id) if _DRY.search(line.text) else None
    return replace(found, kind=food_kind(dry)) if dry else found
