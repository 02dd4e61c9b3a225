"""The tables below a chill plan: every way, every stage, the greatest sizes."""

from collections.abc import Mapping, Sequence

from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy as _l

from bulwark.presentation.phrases import Clock, Text, capital, span
from bulwark.presentation.units import Units, limit, shown, temp
from bulwark.workbench.answers import Table
from bulwark.workbench.places import place_name
from bulwark.workbench.tools.chill_planner.wording import cold_at, way_name
from foodsafety.cooling import ChillPlan, CoolingVerdict, SolidShape

_MOST_WAYS = 14
SHAPES: dict[SolidShape, Text] = {
    "slab": _l("layer, both sides free"),
    "cylinder": _l("roll or log"),
    "sphere": _l("ball, whole piece"),
}
_STANDINGS = {"met": _l("met"), "broken": _l("broken"), "open": _l("open")}


def ways_table(plans: Sequence[ChillPlan], clock: Clock, units: Units) -> Table:
    """Every way that was reckoned, the first one leaving it."""

    def row(plan: ChillPlan) -> tuple[str, ...]:
        return (
            capital(way_name(plan)) if plan is not plans[0] else _("As it is"),
            shown(plan.way.depth_m, "length", units, places=1),
            cold_at(plan, clock),
            _("passes") if plan.passes else _("fails"),
            shown(plan.ice_kg, "mass", units, up=True, places=1) if plan.ice_kg else "",
            span(plan.way.effort_s),
            "" if plan.enough else _("kitchen has %(n)d") % {"n": plan.owned or 0},
        )

    return Table(
        title=_("Every way, reckoned on the slow side"),
        heads=(_("Way"), _("Depth"), _("Cold at"), _("Rule"), _("Ice"), _("Effort"), ""),
        rows=tuple(row(plan) for plan in plans[:_MOST_WAYS]),
    )


def stage_table(verdict: CoolingVerdict, clock: Clock, units: Units) -> Table:
    """Stage by stage: due and reached."""
    between = _("%(a)s to %(b)s")
    rows = tuple(
        (
            between % {"a": limit(row.stage.start, units), "b": limit(row.stage.end, units)},
            span(row.stage.within_s),
            clock(row.due_s),
            clock(row.reached_s) if row.reached_s is not None else _("not reached"),
            str(_STANDINGS[row.standing]),
        )
        for row in verdict.stages
    )
    return Table(
        title=_("Stage by stage, readings and forecast together"),
        heads=(_("From, to"), _("Within"), _("Due"), _("Reached"), _("So")),
        rows=rows,
    )


def greatest_table(
    sizes: Mapping[SolidShape, Sequence[float | None]], places: Sequence[str], hot_c: float, units: Units
) -> Table:
    """The greatest size [m] of each shape that passes in each place."""
    rows = tuple(
        (str(SHAPES[shape]), *(shown(s, "length", units, up=False, places=1) if s else _("none") for s in row))
        for shape, row in sizes.items()
    )
    return Table(
        title=_("The greatest size that passes, begun at once from %(c)s") % {"c": temp(hot_c, units)},
        heads=(_("Shape"), *(capital(place_name(name)) for name in places)),
        rows=rows,
    )
