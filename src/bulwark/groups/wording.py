"""Groups in words."""

from __future__ import annotations

from collections.abc import Sequence

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from bulwark.presentation.phrases import listed
from foodsafety.foods import allergens_for
from foodsafety.planning import Split


def allergen(tag: str) -> str:
    """An allergen's name; a word nobody knows stays as it is."""
    return allergens_for().members.get(tag, tag.replace("_", " "))


def shown(name: str) -> str:
    """What a learner can have been shown."""
    return {
        "knife": _("knife"),
        "blade": _("a machine's blade"),
        "hob": _("hob"),
        "oven": _("oven"),
        "hot_oil": _("hot oil"),
    }.get(name, name)


def not_in_group(names: Sequence[str]) -> str:
    """A rule about somebody who is not there."""
    return _("A rule names %(names)s, who is not in the group.") % {"names": listed(names)}


def counted(n: int, silent: int) -> str:
    """How many were read, and of how many nobody has said what they have been shown."""
    says = ngettext("%(n)d learner read.", "%(n)d learners read.", n) % {"n": n}
    if silent:
        says += " " + _("Of %(n)d nobody said what they have been shown: taken for nothing.") % {"n": silent}
    return says


def nothing_to_split(*, has_group: bool) -> str:
    """What is missing."""
    if has_group:
        return _("Write the benches first, a line each: “Gannet:”.")
    return _("Write the group first, a line each: “AK, 11, nuts, knife hob”.")


def rules_cannot_be_kept() -> str:
    """Why there is no split."""
    return _("These rules cannot all be kept with so many benches: nobody was split. Take one away, or add a bench.")


def fairness(found: Split) -> str:
    """How even a split is, and whether none is fairer."""
    even = _("Ages, what they have been shown and allergies are as even as numbers allow.")
    if found.uneven:
        rows = listed(_("%(what)s by %(n)d") % {"what": what, "n": n} for what, n in found.uneven.items())
        even = _("Not quite even: %(rows)s.") % {"rows": rows}
    proven = _("Proven: no split is fairer.") if found.proven else _("Not proven to be the fairest.")
    return f"{even} {proven}"


def at_two_benches(name: str, benches: Sequence[str]) -> str:
    """Somebody who stands at more than one bench."""
    told = {"name": name, "benches": listed(benches)}
    return (
        _("%(name)s stands at %(benches)s: at one only, or are these two people? Then write them differently.") % told
    )


def broken_rules(parted: Sequence[tuple[str, str]], joined: Sequence[tuple[str, str]]) -> list[str]:
    """The rules of a group that benches do not keep."""
    rows = [_("By the rules %(one)s and %(other)s are together.") % {"one": a, "other": b} for a, b in parted]
    return rows + [
        _("By the rules %(one)s and %(other)s are not together.") % {"one": a, "other": b} for a, b in joined
    ]


def nowhere(names: Sequence[str]) -> str:
    """Who of a group is at no bench."""
    return _("At no bench: %(names)s.") % {"names": listed(names)}


def seated(n: int, *, rules: bool) -> str:
    """Nothing stands against how the benches are now; ``rules``: there are some."""
    says = ngettext("%(n)d learner at the benches.", "%(n)d learners at the benches.", n) % {"n": n}
    return f"{says} {_('The rules are kept.')}" if rules else says
