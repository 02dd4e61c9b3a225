"""Part of a can, and portions of a batch."""

from bulwark.workbench.answers import Answer
from bulwark.workbench.tool import Asked, Setting
from bulwark.workbench.tools.portions import wording
from foodsafety.recipes import batch_portions, part_can


def answer(asked: Asked, setting: Setting) -> Answer:
    """Cans to open and portions for a group."""
    can = part_can(needed_g=asked["needed"], can_g=asked["can"])
    made = batch_portions(batch_g=asked["batch"], portion_g=asked["portion"], people=asked["people"])
    state, title, text = wording.verdict(made, asked["people"], setting.units)
    return Answer(
        state=state,
        title=title,
        text=text,
        cards=wording.cards(can, setting.units),
        tables=(wording.table(can, made, setting.units),),
        source=wording.source(),
        extra={"good": state == "good"},
    )
