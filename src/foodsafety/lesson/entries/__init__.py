"""Every kind of entry of a bench's log: one class a kind."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType

from foodsafety.lesson.entries.catching_up import Advised, NotMade
from foodsafety.lesson.entries.front import Answered, Called, Decided, Reopened, Voided, Waived
from foodsafety.lesson.entries.keeping import (
    BatchSaid,
    Categorised,
    GoneAway,
    MendedBy,
    Named,
    Remade,
    Stored,
    WasteSaid,
)
from foodsafety.lesson.entries.kit import Cleaned, Rinsed, Swapped
from foodsafety.lesson.entries.pausing import BackSeen, HeatSaid, Paused, Resumed
from foodsafety.lesson.entries.people import Came, HandsWashed, Ready, Touched, Unwell, WashStarted, Went
from foodsafety.lesson.entries.readings import AmbientRead, ColdRead, CoreRead, Counted, FridgeRead, Observed
from foodsafety.lesson.entries.sharing import SharedFridge, SharedKit, SharedOven, SharedVoided
from foodsafety.lesson.entries.shelf import (
    FromShelf,
    PartBoxed,
    PartCounted,
    PartGone,
    PartLabelled,
    PartMoved,
    PartRead,
    PartReheated,
    PartSeen,
    PartShortened,
    PartSigned,
    PartSplit,
    PartWarm,
)
from foodsafety.lesson.entries.steps import CookedAgain, LeftOut, OffHeat, OnHeat, StepDone
from foodsafety.lesson.entries.timers import TimerAnswered, TimerNudged, TimerSet
from foodsafety.lesson.entries.watching import TakenBack, Watched
from foodsafety.lesson.entry import AtBench, Entry
from foodsafety.quantities import CoreError

_CLASSES: tuple[type[Entry], ...] = (
    Ready,
    Unwell,
    Came,
    Went,
    WashStarted,
    HandsWashed,
    Touched,
    StepDone,
    Cleaned,
    Swapped,
    Rinsed,
    LeftOut,
    FridgeRead,
    ColdRead,
    CoreRead,
    Counted,
    Observed,
    OnHeat,
    OffHeat,
    AmbientRead,
    Stored,
    Categorised,
    Named,
    GoneAway,
    Remade,
    WasteSaid,
    BatchSaid,
    MendedBy,
    PartCounted,
    PartMoved,
    PartSplit,
    PartGone,
    PartLabelled,
    PartReheated,
    PartWarm,
    PartShortened,
    PartBoxed,
    PartRead,
    PartSeen,
    PartSigned,
    FromShelf,
    CookedAgain,
    TimerSet,
    TimerNudged,
    TimerAnswered,
    Watched,
    TakenBack,
    Paused,
    Resumed,
    HeatSaid,
    BackSeen,
    NotMade,
    Advised,
    Called,
    Answered,
    SharedKit,
    SharedFridge,
    SharedOven,
    SharedVoided,
    Reopened,
    Waived,
    Decided,
    Voided,
)
ENTRIES: Mapping[str, type[Entry]] = MappingProxyType({entry.kind: entry for entry in _CLASSES})


def read_entry(kind: str, data: object, bench: AtBench) -> Entry:
    """An entry from what was sent or stored. Raises CoreError naming the field that is wrong."""
    if kind not in ENTRIES:
        raise CoreError("kind", "unknown_entry", kind=str(kind)[:60])
    if not isinstance(data, Mapping):
        raise CoreError("data", "not_an_object")
    return ENTRIES[kind].read(data, bench)


def may_send(kind: str, *, front: bool, watches: bool = False) -> bool:
    """True if a bench (or, ``front``, the educator; ``watches``: an assistant, nothing else) may send entries of a
    kind."""
    found = ENTRIES.get(kind)
    if found is None or found.made_here:
        return False
    return found.watch_only if watches else front or not (found.front_only or found.watch_only)
