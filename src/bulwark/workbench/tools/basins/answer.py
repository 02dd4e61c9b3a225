"""Everyone's hands at the basins."""

from bulwark.workbench.answers import Answer
from bulwark.workbench.tool import Asked, Setting
from bulwark.workbench.tools.basins import wording
from foodsafety.hygiene import BasinQueue, basin_queue

_MORE_BASINS = 4


def _queue(asked: Asked, more: int) -> BasinQueue:
    return basin_queue(
        people=asked["people"], basins=asked["basins"] + more, scrub_s=asked["scrub"], around_s=asked["around"]
    )


def answer(asked: Asked, setting: Setting) -> Answer:
    """How long a group takes, and with more basins."""
    found = _queue(asked, 0)
    state, title, text = wording.verdict(found, asked["people"], asked["basins"])
    return Answer(
        state=state,
        title=title,
        text=text,
        cards=wording.cards(found),
        tables=(wording.table([(asked["basins"] + more, _queue(asked, more)) for more in range(_MORE_BASINS)]),),
        source=wording.source(),
        extra={"good": found.long_enough},
    )
