"""What a bench's screen is made of: one panel a screenful."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from bulwark.bench import wording as bench_wording
from bulwark.bench.interlocks import Interlock
from bulwark.presentation import care


@dataclass(frozen=True, slots=True, kw_only=True)
class StepCare:
    """What is said at a step besides the step: cautions, and who may not have what is served.
    ``eaters_said`` is False where nobody said who eats, so that anybody may be meant."""

    cautions: tuple[str, ...] = ()
    not_for: tuple[care.NotForLine, ...] = ()
    eaters_said: bool = True


@dataclass(frozen=True, slots=True, kw_only=True)
class Words:
    """What a lesson's recipe says of its steps, and what has to be said with it."""

    texts: Mapping[str, Any]
    care: Mapping[str, StepCare]


@dataclass(frozen=True, slots=True, kw_only=True)
class Panel:
    """One screenful: what to do, who can, and what stands in the way.

    ``after`` is the step that has to be done before it is this panel's turn; a panel that ``lingers``
    stays in view when its work is done, until the bench goes on: what it says then is the answer. One
    that ``waits`` may be left and is not over: it comes back before the end.
    """

    id: str
    kind: str
    title: str
    detail: str = ""
    done: bool = False
    after: str = ""
    lingers: bool = False
    waits: bool = False
    doers: tuple[dict[str, str], ...] = ()
    chosen: str = ""
    interlocks: tuple[Interlock, ...] = ()
    care: StepCare = field(default_factory=lambda: StepCare())
    extra: dict[str, Any] = field(default_factory=dict)

    @property
    def name(self) -> str:
        """What it is called in the list of all steps."""
        return bench_wording.panel_name(
            self.kind if self.kind == "leftovers" else self.title, self.extra.get("food", "")
        )
