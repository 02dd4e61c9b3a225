"""What a text says of how food that is left over keeps: advice, and no order of the lesson."""

from __future__ import annotations

import re
from functools import cache

from foodsafety.recipes.clauses import without_asides
from foodsafety.recipes.words import layout_vocabulary


@cache
def _storage() -> re.Pattern[str]:
    return re.compile(rf"\b(?:{'|'.join(layout_vocabulary()['storage']['says'])})\b", re.IGNORECASE)


_IF_ANY = re.compile(
    r"\W*if (?:you (?:have|end up with)|you've got|there(?:'s| is| are)) "
    r"(?:any(?:thing)?|some|extras?|more|a few|leftovers?|spares?)\b",
    re.IGNORECASE,
)


# "Cover and keep in the fridge until needed": the lesson's own fridge, with no days named.
_CHILLS_NOW = re.compile(
    r"\W*(?:cover(?:ed)?,? (?:it |them )?(?:and )?)?keep (?:it |them |this )?(?:covered )?in (?:the|a) "
    r"(?:fridge|refrigerator|cool ?room)"
    r"(?: (?:until|till) (?:needed|serving|later|you need (?:it|them)|you eat|eating))?\W*$",
    re.IGNORECASE,
)
# "Serve with what is left of the yoghurt", which raw meat lay in: an order, and no advice.
_USES_THE_REST = re.compile(
    r"\W*(?:serve|spoon|pour|drizzle|brush|baste|spread|stir|dip|top|dress|use)\b[^.;]*"
    r"\bwhat(?:['’]s| is| was) left of\b"
    # "In what's left in the pot soften an onion".
    r"|\W*(?:(?:then|now) )?(?:in|into|to) what(?:['’]s| is| was) left in the (?:pot|pan|skillet|wok|tin|bowl|bag)\b",
    re.IGNORECASE,
)
_WEIGHED = re.compile(r"\d\s?(?:g|kg|ml|l|oz|lbs?|tsp|tbsp|cups?)\b")


def says_storage(sentence: str) -> bool:
    """True if a sentence says how what is left over keeps: advice, no order of the lesson. What is weighed out three
    times is a list, whatever else is said of it."""
    if len(_WEIGHED.findall(sentence)) >= 3 or _USES_THE_REST.match(sentence) or _CHILLS_NOW.match(sentence):
        return False
    told = sentence if _IF_ANY.match(sentence) else without_asides(sentence)
    return _storage().search(told) is not None
