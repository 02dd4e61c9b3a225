"""What a kitchen has counted or said, and what a plan comes up against, in words."""

from __future__ import annotations

import math

from django.utils.translation import gettext as _

from foodsafety.quantities import f_from_c


def altitude_not_said() -> str:
    """That boiling is planned as at the sea."""
    return _("Nobody has said how high this kitchen lies: planned as if water boiled as at the sea.")


def water_boils_colder(altitude_m: int, water_c: float) -> str:
    """That boiling takes longer up here; the temperature is cut, never rounded up."""
    cut_c = int(water_c * 10) / 10
    told = {"m": altitude_m, "c": cut_c, "f": int(f_from_c(cut_c))}
    return (
        _("At %(m)d m water boils at %(c)g °C (%(f)d °F): boiling takes longer than the recipe says. Measure it.")
        % told
    )


def few_hand_towels(towels: int, benches: int) -> str:
    """That benches would dry their hands on something else."""
    return _("Hand towels: %(n)d for %(benches)d benches. Have paper at the others, and never the dish towel.") % {
        "n": towels,
        "benches": benches,
    }


def cold_space(store: str, litres: float, space_l: int | None, full: float, *, unweighed: bool) -> str:
    """What stands in the cold at once, and whether it has room: from the share ``full`` on it may have none. Never
    fewer litres than there are."""
    name = {"fridge": _("fridge"), "freezer": _("freezer")}[store]
    told = {"litres": f"{math.ceil(litres * 10) / 10:g}", "store": name, "space": space_l or 0}
    said = [_("Up to %(litres)s litres of food stand in the %(store)s at once, its tubs not counted.") % told]
    if unweighed:
        said.append(_("Some of it nobody has weighed: there is more."))
    if space_l is None:
        said.append(_("Nobody has said how much it holds."))
    elif litres > space_l:
        said.append(_("It holds %(space)s litres: that does not go in.") % told)
    elif litres > full * space_l:
        said.append(_("It holds %(space)s litres: with tubs and air between them it may not go in.") % told)
    return " ".join(said)
