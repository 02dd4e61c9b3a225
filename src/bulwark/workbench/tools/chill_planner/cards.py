"""The cards beside a chill plan: the two best ways, and the label."""

from django.utils.translation import gettext as _

from bulwark.presentation.phrases import Clock, capital, span
from bulwark.presentation.units import Units, limit, shown
from bulwark.workbench.answers import Card
from bulwark.workbench.places import where_words
from bulwark.workbench.tools.chill_planner.wording import cold_at, way_name, way_title
from foodsafety.cooling import ChillOutlook, ChillPlan, CoolingVerdict, start_by
from foodsafety.rules import Profile

_MOST_WAYS = 2


def way_cards(look: ChillOutlook, clock: Clock, units: Units) -> tuple[Card, ...]:
    """The best ways, each with by when it must begin."""
    return tuple(_way_card(look, plan, clock, units, first=n == 0) for n, plan in enumerate(look.better[:_MOST_WAYS]))


def _way_card(look: ChillOutlook, plan: ChillPlan, clock: Clock, units: Units, *, first: bool) -> Card:
    by_s = start_by(look.situation, plan.course, look.model)
    return Card(
        kind="do" if first and look.final.verdict != "pass" else "plain",
        title=way_title(plan) if first else _("Or: %(way)s") % {"way": way_name(plan)},
        text=_how(plan, units),
        big=clock(by_s // 60 * 60),  # a deadline is never rounded up
        big_label=_("Start before"),
        facts=((_("Cold at"), cold_at(plan, clock)),),
    )


def _how(plan: ChillPlan, units: Units) -> str:
    if "ice" in plan.way.where:
        text = _("%(ice)s of ice, water up to the level of the food, topped up as it melts.")
        parts = [text % {"ice": shown(plan.ice_kg, "mass", units, up=True, places=1)}]
        if plan.way.where == "stirred_ice_bath":
            parts.append(_("Stir food and bath every few minutes."))
    else:
        text = _("%(depth)s deep, uncovered or lids ajar, apart from each other %(where)s.")
        depth = shown(plan.way.depth_m, "length", units, up=False, places=1)
        parts = [text % {"depth": depth, "where": where_words(plan.way.where)}]
    if not plan.enough:
        parts.append(_("The kitchen has %(n)d of these.") % {"n": plan.owned or 0})
    return " ".join(parts)


def tag(food: str, litres: float, profile: Profile, measured: CoolingVerdict, units: Units) -> Card:
    """The label of what is chilled; to be written only when it is."""
    cold = {"c": limit(profile.hold["cold"].temperature, units)}
    ready = measured.verdict == "pass"
    return Card(
        kind="tag",
        title=capital(food),
        facts=(
            (_("Keep at"), _("%(c)s or below") % cold),
            (_("Keeps"), span(profile.dates.leftover_min_s)),
            (_("Amount"), shown(litres, "volume", units)),
        ),
        foot=_("Chilled in time: label it now") if ready else _("Label it when every container reads %(c)s") % cold,
    )
