"""Clauses without a verb: "Onions in, 4 mins", "into the fridge", "165 F in the middle"."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from typing import Literal

from foodsafety.foods import stem
from foodsafety.recipes.asides import FRONTED
from foodsafety.recipes.verb_forms import clause_words
from foodsafety.recipes.words import dish_words, layout_pattern

Form = Literal["order", "passive", "doing", "bare"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Clause:
    """An order's place in a sentence: its verb, the words from the verb on, and those before it.
    ``form`` "passive" has what is worked on before the verb, "doing" goes on beside another order
    ("scraping up the bits"), "bare" has no verb at all ("Onions in, 4 mins")."""

    verb: str
    do: str
    text: str
    lead: str = ""
    form: Form = "order"


def trimmed(text: str) -> str:
    return re.sub(r"(?:[,;(\s]|\band|\bthen|\bbut|\bso|\bor|\bto)+$", "", text.strip(), flags=re.IGNORECASE)


_BARE_PLACES: tuple[tuple[re.Pattern[str], str, str], ...] = tuple(
    (re.compile(pattern, re.IGNORECASE), verb, do)
    for pattern, verb, do in (
        (
            r"(?<!out of )(?<!out of the )(?<!from the )(?<!from )"
            r"\b(?:fridge|refrigerator|walk-?in|cold ?room|cool ?box|ice ?box|esky|chiller|blast chiller)\b"
            r"|\bback on (?:the )?ice\b",
            "chill",
            "chill",
        ),
        (
            r"(?<=[a-z] )\bin(?:to)? (?:\d+|an?|the|two) (?:[a-z]+ ){0,2}(?:bags?|bowls?|tubs?|box|boxes)\b.*\bwith\b",
            "put",
            "transfer",
        ),
        (r"(?<!of )(?<!from )(?<!of the )(?<!from the )\bfreezer\b(?! (?:bag|box|tub))", "freeze", "freeze"),
        (
            r"\bin(?:to)? (?:a (?:big )?pan of )?(?:boiling|simmering|bubbling) (?:salted )?(?:water|stock|oil)\b"
            r"|\bin(?:to)? (?:the |some |a little |plenty of |\d+ ?cm (?:of )?)?(?:very )?(?:hot|smoking"
            r"|sizzling|foaming)"
            r" (?:oil|fat|butter|dripping)\b(?! sauce)|^boiling (?:salted )?water,? (?:for )?\d",
            "boil",
            "heat",
        ),
        (
            r"^[\w ,&'-]+ in(?:to)? (?:a |the )?(?:blender|food processor|processor|liquidi[sz]er|mixer|chopper)$",
            "blend",
            "mix",
        ),
        (r"\bin(?:to)? (?:a |the )?(?:clean )?(?:sink|bowl|basin) of (?:cold |fresh )?water\b", "wash", "rinse"),
        (
            r"^(?:into the |in the )?(?:hot )?oven,? (?:at )?\d{2,3}\b.*\b(?:mins?|minutes?|hours?|hrs?)\b",
            "bake",
            "heat",
        ),
        (
            r"^[\w ,&+]+ into (?:[\w-]+ ){0,2}"
            r"(?:chunks|cubes|slices|wedges|strips|sticks|dice|batons|rounds|quarters|rings|chips|matchsticks|fingers)"
            r"(?: \([^)]*\))?(?:,[^,]*)?$",
            "cut",
            "cut",
        ),
        (r"\b(?:to|until|just below)\b.{0,20}\b(?:boil|simmer)\b", "heat", "heat"),
        (
            r"\b(?:in|into|to|back in|under|on) (?:the |a )?(?:hot |preheated |low )?(?:oven|grill"
            r"|microwave|bbq|barbecue|toaster|air ?fryer)\b",
            "bake",
            "heat",
        ),
        (  # "chorizo into a cold pan, gently, until its fat runs"
            r"\b(?:on(?:to)?|in(?:to)?|under) (?:the |a |an )?(?:[a-z-]+,? ){0,3}?"
            r"(?:pan|skillet|wok|griddle|barbecue|bbq|grill)\b"
            r".*\b(?:until|till) (?!needed|wanted|required|later|you\b|we\b|serv|ready"
            r"|the (?:oil|oven|pan|rest|others?|next))",
            "cook",
            "heat",
        ),
        (
            r"\b(?:board|knife|knives|bowl|kit|tools?|utensils|counter)s?\b.*\b(?:sink|soapy|dishwasher|washing.?up)\b",
            "clean",
            "clean",
        ),
        (
            r"^(?!.*\b(?:without|no) soap\b)"
            r"(?:.*\bhands?\b.*\b(?:soap|wash)|.*\b(?:wash|soap)\b.*\bhands?\b|.*\bsoap\b.*\b\d+ ?(?:secs?|seconds)\b)",
            "wash",
            "wash_hands",
        ),
        (
            r"\b\d{2,3} ?°? ?[CF]\b.*\b(?:middle|cent(?:re|er)|core|thickest|inside|probe)\b"
            r"|\b(?:probe|thermometer)\b.*\d{2,3}"
            r"|\b(?:core|internal|inside) temp(?:erature)?s?\b.{0,24}\b(?:[6-9]\d|1[3-9]\d)\b"
            r"|\b(?:must|should|has to|have to|needs to) (?:reach|hit|get to|come to|be|say|show) "
            r"(?:at least |about |above |over )?\d{2,3} ?(?:°? ?[CF]\b|degrees)",
            "probe",
            "probe",
        ),
    )
)


_INTO_TOOL = re.compile(
    r"(?:all (?:of )?(?:that |this |it |them )?|out |off |back |up |straight |right |and |then )*"
    r"(?:in|into|on|onto|on to) (?:(?:a|an|the|another|one|your|two|\d) )?(?:[a-z-]+ ){0,3}?(?:bowl"
    r"|dish|tin|tray|pan|pot|jug|tub|plate|platter|container|bag|jar)s?\b",
    re.IGNORECASE,
)


_HOT_ENOUGH = re.compile(
    r"(?!.*\b(?:fan|gas|oven)\b)"
    r"(?:above |over |at least |to )?"
    r"(?:(?:1[3-9]\d|20\d|21[0-2])\s?(?:°\s?F?(?!\s?C)|F\b)|(?:6\d|7\d|8\d)\s?(?:°\s?C?|C\b)"
    r"|(?:[6-9]\d|1[3-9]\d|20\d|21[0-2])"
    r"(?=\s+(?:in|inside|at|through|by|near|next to)\b[^.]*\b(?:middle|cent(?:re|er)|thick\w*|core|inside|bone)\b)"
    r"|(?:1[3-9]\d|20\d|21[0-2])(?=\s*(?:inside)?[.!]?$))",
    re.IGNORECASE,
)


_IN_IT = re.compile(
    r"^(?P<what>.+?),? (?:back )?(?:in(?: (?:the )?(?:hot |smoking |same )*(?:oil|fat|pan|wok|skillet))?"
    r"|into (?:it|that|the (?:pan|pot|bowl|mix|mixture|wok|skillet|case|shell|crust|pastry|base|well|middle|hollow|dip"
    r"|hole|cent(?:re|er)|tin|dish|tray|batter|sauce|soup|stew|(?:hot |smoking )*(?:oil|fat))))"
    r"(?:,? plus [a-z ,]+?)?"
    r"(?: (?:now|too|again|last|next|for|with|at|till|until|one (?:at a time|by one)"
    r"|a (?:little|bit|few) at a time|bit by bit|gradually|slowly)\b.*|, (?:a few|two|three|one) more \w+)?[.,!]*$",
    re.IGNORECASE,
)


_ON_TOP = re.compile(
    r"^(?P<what>.+?) (?:on top|over(?! (?:an?|\d|one|two|half)\b)(?: the top)?|on"
    r"|around the (?:sides?|edges?)|(?:on|in|round|around|over|under|inside|onto|into) each(?: one)?)[.,!]*(?: .*)?$",
    re.IGNORECASE,
)


_SWITCHED = re.compile(
    r"\b(?:lid|foil|cover|oven|grill|hob|barbecue|bbq|kettle|water|timer|tap|lights?|gloves|aprons?|dishwasher|fryer"
    r"|slow cooker) on\b",
    re.IGNORECASE,
)
# "Nobody crosses over", "they climb on top".
_SOMEBODY = re.compile(
    r"\W*(?:nobody|no one|every(?:one|body)|some(?:one|body)|you|we|they|i|he|she|who)\b", re.IGNORECASE
)
# "Chicken on a rack over a tray": it lies on kit, and dresses nothing.
_ON_KIT = re.compile(
    r"^(?P<what>[a-z' -]+?) on (?:an? |the |your |two |its own )(?:[a-z]+[ -]){0,3}?(?:racks?|trays?|sheets?|tins?)\b",
    re.IGNORECASE,
)


_MINUTES = re.compile(
    r"\b\d+(?: ?(?:-|to|or) ?\d+)? ?(?:mins?|minutes?|hrs?|hours?|secs?|seconds?|h)\b|\bovernight\b"
    r"|(?<!within )(?<!of )\b(?:half |(?:a |three )?quarters? of )?an hour\b(?! (?:ago|before|later|earlier))",
    re.IGNORECASE,
)


_A_SIDE = re.compile(r"\b(?:a|per|each|on each|on both) sides?\b", re.IGNORECASE)


# "The fridge should be at 5C": of it, and not of what lies in it.
_OF_THE_FRIDGE = re.compile(
    r"\W*(?:the |your |a |our )?(?:fridge|freezer)s? "
    r"(?:should|must|needs?|is|has|will|runs?|doors?|shel\w+|temp\w*|thermometer)\b",
    re.IGNORECASE,
)
_TIMED_FIRST = re.compile(
    r"(?:about |another |then |a further |on high,? )*\d+(?: ?(?:-|to|or) ?\d+)? ?(?:mins?|minutes?"
    r"|hrs?|hours?|secs?(?!.*\b(?:soap|scrub|rub|sing)))\b(?!.*\bfridge)",
    re.IGNORECASE,
)


# On top of a fridge and next to it nothing is chilled.
BESIDE_THE_COLD = re.compile(
    r"\b(?:on top of|next to|beside|near(?: to)?|close to|by|outside|in front of|alongside|behind|under|over|on)"
    r" (?:the |a |your |our )?(?:fridge|refrigerator|freezer|chiller|cool ?box|cooler)s?\b"
    r"(?! (?:shel\w+|drawers?|racks?|trays?|door))",
    re.IGNORECASE,
)
# "The hand wash is in the blue bottle".
_HAND_WASH = re.compile(r"\bhand[- ]?wash (?:is|are|comes|stands|lives|goes|smells)\b", re.IGNORECASE)


# "We will not fry the chicken for 12 minutes"; not "20 minutes, don't open the door".
_DENIED = re.compile(
    r"[^,;.\d]*\b(?:will|do|does|did|shall|must|should|would|can|could|is|are|was|were)(?: ?not|n['’]t)\b[^,;.]*\d"
    r"|[^,;.\d]*\bwon['’]t\b[^,;.]*\d",
    re.IGNORECASE,
)


def bare_clause(piece: str) -> Clause | None:
    """The order of words without a verb, by the place or the time they name; none where they name
    neither."""
    if re.match(r"\W*(?:please )?(?:never|do not|don['’]t|no|not)\b", piece, re.IGNORECASE):
        return None  # "never put cooked food back on the raw tray"
    if _DENIED.match(piece):
        return None
    if _OF_THE_FRIDGE.match(piece) or _HAND_WASH.search(piece):
        return None
    if BESIDE_THE_COLD.search(piece):
        return Clause(verb="leave", do="rest", text=piece, form="bare")
    if layout_pattern("sentences", "only_told").search(piece):
        return None  # "in the old days people boiled it for an hour", "talk about why it cooks for 40 minutes"
    if _TIMED_FIRST.match(piece) or _A_SIDE.search(piece):
        return Clause(verb="", do="timed", text=piece, form="bare")
    for pattern, verb, do in _BARE_PLACES:
        if pattern.search(piece):
            if piece.lower().startswith("boiling "):  # "noodles: boiling water, 4 min": nobody only boils the water
                return Clause(verb=verb, do=do, text=f"boil it in {piece}", form="bare")
            soap = do == "wash_hands" and "hand" not in piece.lower()  # "jug, soap, 20 seconds"
            return Clause(verb=verb, do=do, text=f"wash hands, {piece}" if soap else piece, form="bare")
    plain = _MINUTES.sub("", piece).strip(" ,.")
    if _INTO_TOOL.match(piece):
        # "Straight into the dish": what was worked on just now, and not what waits in another pan.
        what = "them" if re.match(r"(?:straight|right|then)\b", piece, re.IGNORECASE) else "the lot"
        return Clause(
            verb="put",
            do="mix" if " with " in piece else "transfer",
            text=f"put {what} {piece[0].lower()}{piece[1:]}",
            form="bare",
        )
    if _HOT_ENOUGH.match(piece):
        return Clause(verb="probe", do="probe", text=f"probe, {piece}", form="bare")  # "(165°)" is of the inside then
    inside = _IN_IT.match(plain) or _IN_IT.match(piece)
    if inside:
        rest = re.sub(r",? plus (?:any|the|its|all the) (?:[a-z]+ )?(?:juice|liquid|fat)s?\b[^,;.]*", "", piece)
        return Clause(verb="add", do="mix", text=f"add {inside['what']}" + rest[len(inside["what"]) :], form="bare")
    top = _ON_TOP.match(plain)
    if top and (_SWITCHED.search(plain) or _SOMEBODY.match(plain)):
        top = None  # "an hour with the lid on", "oven on"
    if top and _ON_KIT.match(plain):
        return Clause(verb="put", do="transfer", text=f"put {piece}", form="bare")
    if top and len(top["what"].split()) < 12:
        return Clause(verb="top", do="garnish", text=f"{piece}", form="bare")
    if _MINUTES.search(piece):
        return Clause(verb="", do="timed", text=piece, form="bare")
    return None


_WHAT_IS_LEFT = re.compile(
    r"\W*(?:and |then )*(?:the )?(?:rest of|remaining|remainder of|last of|other half of)\b", re.IGNORECASE
)


def topic_clause(piece: str, foods: frozenset[str]) -> Clause | None:
    """ "Rice first.": words that only name a food say what the next order is about."""
    words = [word for word in re.findall(r"[a-z'-]+", piece.lower()) if word not in clause_words("adverbs")]
    named = sum(word in foods for word in words)
    if not named or layout_pattern("sentences", "kit_for").match(piece):
        return None
    listed = (
        (_lists_foods(piece, foods, named) and clause_words("be").isdisjoint(words) and len(words) < 40)
        or (re.match(r"\W*\d", piece) and len(words) < 14)
        or (_WHAT_IS_LEFT.match(piece) and len(words) < 10)  # "Mash on. Rest of the cheese."
    )
    if listed:
        return Clause(verb="add", do="list", text=piece, form="bare")
    return Clause(verb="", do="topic", text=piece, form="bare") if len(words) <= 4 else None


def _lists_foods(piece: str, foods: frozenset[str], named: int) -> bool:
    parts = re.split(r",|\band\b|\bthen\b|\+", piece.lower())
    return named > 2 or sum(not foods.isdisjoint(part.split()) for part in parts) > 1


_TAIL_PLACE = re.compile(
    r",\s*(?:and |then |label(?:led)? (?:it )?|cover(?:ed)?,? |lids? on,? |straight |back )*"
    r"(?P<place>(?:(?:(?:an? |half an )?(?:\d+ ?(?:mins?|minutes?|hrs?|hours?)|hour|quarter of an hour|few minutes) )?"
    r"(?:straight |right |back |and |then )*(?:into?|to|in) (?:the |an? )?(?:(?:very )?hot |low |moderate "
    r"|warm |cool |slow )?|the )?"
    r"(?:oven|fridge|walk-?in(?: fridge)?|cold ?room|freezer)\b[^;]*)$",
    re.IGNORECASE,
)


_THEN = re.compile(
    r",?\s+(?:and )?then (?P<what>(?:the |a |an |some |your |all the )?(?P<first>[a-z'-]+).*)$", re.IGNORECASE
)


_TAIL_FOOD = re.compile(
    r",\s+(?P<all>(?P<what>(?:the |some )?[a-z' -]{2,40}?) (?:back )?(?:in|on|on top|over)(?: (?:for"
    r"|at|with) .*)?)[.]*$",
    re.IGNORECASE,
)


def _with_time(clause: Clause) -> list[Clause]:
    """ "Beans in for the last ten minutes": what goes in, and the time on the heat that it has."""
    if clause.do not in ("mix", "garnish") or not _MINUTES.search(_digits(clause.text)) or clause.form != "bare":
        return [clause]
    return [clause, Clause(verb="", do="timed", text=_digits(clause.text), form="bare")]


_COUNTS = {
    "a": 1,
    "one": 1,
    "two": 2,
    "three": 3,
    "four": 4,
    "five": 5,
    "six": 6,
    "eight": 8,
    "ten": 10,
    "twelve": 12,
    "fifteen": 15,
    "twenty": 20,
    "last": 1,
}


def _digits(text: str) -> str:
    text = re.sub(r"\bfor the last (\w+)$", r"for the last \1 minutes", text.rstrip("."))
    return re.sub(
        r"\b([a-z]+) (?=minutes?\b|mins?\b|hours?\b)",
        lambda m: f"{_COUNTS.get(m[1].lower(), m[1])} ",
        text,
        flags=re.IGNORECASE,
    )


def with_bare_ends(clause: Clause, foods: frozenset[str]) -> list[Clause]:
    """An order, and what follows it without a verb: a place ("snip them into a tub, lid on, fridge"), or
    more foods ("add the onion, give it 5 minutes, then the stock")."""
    more = _THEN.search(clause.text)
    if more and more["first"].lower() in foods and clause.do in ("mix", "heat", "pour", "garnish", "transfer"):
        rest = Clause(
            verb="add", do="garnish" if clause.do == "garnish" else "mix", text=f"add {more['what']}", form="bare"
        )
        return [*with_bare_ends(replace(clause, text=clause.text[: more.start()]), foods), rest]
    more = _TAIL_FOOD.search(clause.text)
    if more and set(more["what"].lower().split()) & foods and clause.form != "bare":
        bare = bare_clause(more["all"])
        if bare is not None:
            return [*with_bare_ends(replace(clause, text=clause.text[: more.start()]), foods), *_with_time(bare)]
    if clause.form == "bare":
        head, comma, tail = clause.text.rpartition(", ")
        if clause.do == "cut" and comma and _INTO_TOOL.match(tail):  # "chicken into strips, straight into the bowl"
            into = bare_clause(tail)
            return [replace(clause, text=head), *([into] if into else [])]
        return _with_time(clause)
    found = _TAIL_PLACE.search(clause.text)
    if not found or clause.do in ("chill", "freeze", "heat"):
        return [clause]
    bare = bare_clause(found["place"])
    if bare is None:
        return [clause]
    return [replace(clause, text=clause.text[: found.start()]), bare]


def names_any(piece: str, foods: frozenset[str]) -> bool:
    """True if any of these words names a food."""
    return not foods.isdisjoint(re.findall(r"[a-z'-]+", piece.lower()))


# Nothing waits in one: "pittas in the toaster, split".
_TOASTER = re.compile(r"\bin(?:to)? (?:the |a )?toaster\b", re.IGNORECASE)


def notes_in_a_row(piece: str, foods: frozenset[str]) -> list[Clause]:
    """ "Spuds into chips, oil and salt, 220 for 35 min": short notes one after another, where each says another kind of
    work; nothing for any other words."""
    parts = [part.strip() for part in piece.split(",") if part.strip(" .")]
    notes = [bare_clause(part) or topic_clause(part, foods) for part in parts]
    works = [note.do for note in notes if note and note.do not in ("topic", "list")]
    if len(parts) < 3 or len(set(works)) < 2 or works[0] not in ("cut", "rinse", "peel", "chill"):
        return []
    return [note for note in notes if note]


def opening_order(opening: str, foods: frozenset[str]) -> list[Clause]:
    """What stands before the first order and is one without a verb: "peppers in for 5 mins and keep it
    moving", "35 min, flip them once"."""
    plain = trim_lead(opening)
    words = plain.lower().split()
    if not words or words[0] in clause_words("subordinate") | clause_words("people") | FRONTED - {"in", "into", "on"}:
        return []
    head, *more = (part.strip() for part in plain.split(","))
    first = bare_clause(head) if more else None
    if first is not None and first.do in ("cut", "rinse", "peel") and names_any(head, foods):
        notes = [bare_clause(part) or topic_clause(part, foods) for part in more]
        return [first, *(note for note in notes if note)]  # "spuds into chips, oil and salt, bake ..."
    if first is not None and first.verb == "add" and not any(names_any(part, foods) for part in more):
        return [first]  # "fish in, skin side down, and press with a spatula"
    bare = bare_clause(plain)
    named = {*re.findall(r"[a-z'-]+", plain.lower())}
    made = any(stem(word) in dish_words("dishes") for word in named)  # "meatballs in, cover, 20 minutes"
    told = bare is not None and (
        bare.do in ("timed", "probe")
        or words[0].strip(",") in ("oven", "boiling")
        or not named.isdisjoint(foods | {"all"})
        or (made and bare.verb == "add")
    )
    if bare is None or not told:
        return []
    # "Bacon under the grill 6 min, snip it up"; "fish in the fridge, slice the lemon" may only say where it is.
    lies = bare.do in ("heat", "chill", "freeze") and (
        words[0] in clause_words("prepositions")
        or not (names_any(plain, foods) or words[0].strip(",") in ("oven", "boiling"))
        or not (_MINUTES.search(plain) or _TOASTER.search(plain))
    )
    return [] if lies else with_bare_ends(bare, foods)


def trim_lead(text: str) -> str:
    """What leads up to an order, without the joins at its ends."""
    return re.sub(r"^(?:[,;\s]|and\b|then\b|but\b|so\b|now\b)+|[,\s]+$", "", text.strip(), flags=re.IGNORECASE)
