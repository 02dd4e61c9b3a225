"""Ice point, boiling point, the right kind, where the tip goes."""

from django.utils import timezone

from bulwark.workbench.answers import Answer
from bulwark.workbench.tool import Asked, Setting
from bulwark.workbench.tools.thermometers import wording
from foodsafety.measuring import check_thermometer, fitting_thermometers, probe_placement


def answer(asked: Asked, setting: Setting) -> Answer:
    """A thermometer checked, and placed in a food."""
    found = check_thermometer(
        ice_shows_c=asked["ice"], boil_shows_c=asked["boil"], altitude_m=asked["altitude"], on=timezone.localdate()
    )
    where = probe_placement(asked["food"], thickness_m=asked["thick"], width_m=asked["wide"])
    state, title, text = wording.verdict(found, setting.units)
    return Answer(
        state=state,
        title=title,
        text=text,
        picture=where.shape,
        cards=wording.cards(where, asked["altitude"], setting.units),
        tables=(wording.table(fitting_thermometers(where, thickness_m=asked["thick"]), setting.units),),
        notes=wording.notes(),
        source=wording.source(),
        extra={"good": state == "good", "from_side": where.from_side, "clear": where.clear},
    )
