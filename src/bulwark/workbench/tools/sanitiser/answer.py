"""How much bleach."""

from bulwark.workbench.answers import Answer
from bulwark.workbench.tool import Asked, Setting
from bulwark.workbench.tools.sanitiser import wording
from foodsafety.hygiene import sanitiser_dilution


def answer(asked: Asked, setting: Setting) -> Answer:
    """Product for so much water, and whether that is a strength for food surfaces."""
    found = sanitiser_dilution(litres=asked["litres"], ppm=asked["ppm"], product_percent=asked["percent"])
    state, title, text = wording.verdict(found, asked["litres"], setting.units)
    return Answer(
        state=state,
        title=title,
        text=text,
        cards=wording.cards(found, setting.units),
        notes=wording.notes(),
        source=wording.source(),
        extra={"good": state == "good"},
    )
