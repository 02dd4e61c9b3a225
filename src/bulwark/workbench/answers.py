"""What a tool answers: a verdict in a sentence, a drawing, what to do, a table that says the same."""

from dataclasses import dataclass, field
from typing import Literal, NamedTuple

from bulwark.presentation.charts import Chart

# "good" is shown by readings; "ahead" is reckoned or forecast, and no evidence of anything.
State = Literal["good", "ahead", "breach", "due", "open"]


class Verdict(NamedTuple):
    """A verdict in words: how it is drawn, its title, and what it says below."""

    state: State
    title: str
    text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Card:
    """Something at the side: what to do, or what is known. ``big`` is its one number."""

    title: str
    text: str = ""
    big: str = ""
    big_label: str = ""
    facts: tuple[tuple[str, str], ...] = ()
    foot: str = ""
    kind: Literal["do", "tag", "plain"] = "plain"


@dataclass(frozen=True, slots=True, kw_only=True)
class Table:
    """The same in rows."""

    title: str
    heads: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Meter:
    """A share of an allowance, drawn as a bar of bricks; above 1 it is spent."""

    name: str
    share: float
    text: str
    note: str = ""

    @property
    def filled(self) -> range:
        """Bricks that are spent, of twenty."""
        return range(min(20, max(0, -(-round(self.share * 2000) // 100))))

    @property
    def left(self) -> range:
        """Bricks that are not."""
        return range(20 - len(self.filled))


@dataclass(frozen=True, slots=True, kw_only=True)
class Answer:
    """A tool's whole answer."""

    state: State
    title: str
    text: str = ""
    chart: Chart | None = None
    picture: str = ""
    cards: tuple[Card, ...] = ()
    tables: tuple[Table, ...] = ()
    meters: tuple[Meter, ...] = ()
    notes: tuple[str, ...] = ()
    source: str = ""
    extra: dict[str, object] = field(default_factory=dict)
