"""Orders of heat that leave raw what they are of: seared, cooked from one side, a yolk that runs."""

from __future__ import annotations

import re

from foodsafety.recipes.order import Order
from foodsafety.recipes.words import vocabulary, word_set

_LEFT_RAW = re.compile(
    r"(?<!no )(?<!not )\b(?:runny|dippy|sunny[- ]side[- ]up|soft[- ](?:boil|poach)(?:ed)?|soft yolks?|medium[- ]rare"
    r"|yolks? (?:must |should |will |to |still |is |are |stays? |remains? |kept )*"
    r"(?:runs?|running|oozes?|liquid|soft)|(?<!medium )rare|blue"
    r"|(?:still|so (?:that )?(?:it|they)(?:[’']s| is| are|[’']re| stays?)|a little|slightly|keep (?:it|them)|stays?"
    r"|blushing)"
    r" (?:pink|rosy|rare|bloody)"
    r"|(?:still )?(?:pink|rosy) (?:in|inside|at) ?(?:the middle|the centre)?"
    r"|(?:nearly|almost|not quite|barely|half|three quarters|partly)[ -](?:all the way )?(?:cooked|done))\b(?! cheese)",
    re.IGNORECASE,
)
# What lies above is raw.
_ONE_SIDE = re.compile(
    r"(?!.*(?<!not )(?<!n't )(?<!n’t )(?<!never )\b(?:turn|flip|other side|both|each side|a side)\b)"
    r".*\b(?:(?:skin|flesh|fat|rind)[- ]?(?:side)?[- ]down|on one side|on the first side|without turning)\b",
    re.IGNORECASE,
)
_DONE = re.compile(r"\bno longer pink\b|\b(?:cooked|done)(?: all the way)? through\b|\bopaque\b|\bflak", re.IGNORECASE)
_IN_PART = re.compile(r"\b(?:not|outsides?|edges?|surface|rim|top|bottom|halfway)\b", re.IGNORECASE)


def leaves_raw(order: Order, whole: str) -> bool:
    """True for an order of heat that cooks the outside, or one side, of what came raw, or says that it stays raw.
    ``whole`` is its sentence, which is asked where no verb of heat stands in it: "liver in, 1 minute a side so that it
    is pink"."""
    told = whole if order.text in ("cook it", "bake it") else order.text
    if order.do == "heat" and _LEFT_RAW.search(told):
        return True
    least_min = vocabulary()["times"]["least_cook_min"]
    if order.do == "heat" and order.high_min is not None and order.high_min < least_min and order.core_c is None:
        return True  # "into hot oil, 30 seconds"
    outside = order.verb in word_set("names", "outside_only") or _ONE_SIDE.match(order.text) is not None
    done = _DONE.search(order.until) and not _IN_PART.search(order.until)
    return outside and order.core_c is None and not done


def is_held_hot(order: Order) -> bool:
    """True for food that is kept hot: what it is held at is no end of its cook, and however long it is held cooks
    nothing through."""
    boils = re.search(r"\b(?:simmer|boil|bubbl)", order.text, re.IGNORECASE)
    return order.do == "heat" and order.verb in ("keep", "hold") and boils is None


_LOOKS_COOKED = re.compile(
    r"\b(?:pink|opaque|gold(?:en)?|brown(?:ed|s)?|crisp(?:y|s)?|charred|translucent|see-?through|wilt(?:ed|s)?|soft(?:ened|ens|er)?"
    r"|tender|colour(?:ed|s)?|fat runs|limp|set|bubbl\w+|sizzl\w+|firm|caramel\w*|fragrant|collaps\w+"
    r"|burst|pops?|thick\w*"
    r"|reduced|syrupy|cooked|done|hot|steaming|glassy|sticky|curl(?:s|ed)?)\b",
    re.IGNORECASE,
)


# Cold does it, or it is said of something else: "until cooled and firm", "until the oil is hot".
_NO_HEAT = re.compile(
    r"\b(?:cool(?:ed|s)?|cold|chilled|frozen|fridge|freezer|thawed|defrosted|ready|needed|toasted)\b"
    r"|\b(?:oil|oven|pan|water|grill|bread|butter|coals?)\b (?:is|are|has|gets?|turns?|looks?)\b",
    re.IGNORECASE,
)


def looks_cooked(until: str) -> bool:
    """True for an end that only heat brings: "until see-through", "till its fat runs"."""
    return _LOOKS_COOKED.search(until) is not None and _NO_HEAT.search(until) is None


# A look that is of meat cooked through, not of its outside or of what is with it.
_MEAT_LOOKS_DONE = re.compile(
    r"(?<!still )(?<!slightly )\bpink\b|\bno longer (?:red|bloody)\b"
    r"|\b(?:opaque|cooked|done|flak\w*|(?<!see-)(?<!see )through|white|juices)\b"
    r"|\bprobe",
    re.IGNORECASE,
)


def meat_looks_done(until: str) -> bool:
    """True for a look that says of meat or fish that it is cooked through: "until no pink is left"."""
    return _MEAT_LOOKS_DONE.search(until) is not None


def is_hot_through(until: str) -> bool:
    """True for food that is said to be steaming hot all through."""
    return (
        re.search(r"\b(?:piping|steaming) hot\b|\bhot (?:right |all the way )?through\b", until, re.IGNORECASE)
        is not None
    )
