"""How fast one device may speak. A person taps a few times a second at most; what waited through a gap in the
Wi-Fi comes at once, and is let through."""

import time
from collections import OrderedDict

from bulwark.people.actors import Actor

# A full outbox may come in one go; after that so many a second. Each web process counts for itself.
BURST = 120
A_SECOND = 6.0
_MOST = 4096

_left: OrderedDict[int, tuple[float, float]] = OrderedDict()


def speaker(actor: Actor) -> int:
    """By what a device is counted: its own number, or its bench's where it has none."""
    return actor.device_id or -(actor.bench_id or 0)


def may_speak(device: int, now_s: float | None = None) -> bool:
    """True if a device may send an entry now; every one it sends counts."""
    now_s = time.monotonic() if now_s is None else now_s
    left, then_s = _left.pop(device, (float(BURST), now_s))
    left = min(float(BURST), left + (now_s - then_s) * A_SECOND)
    may = left >= 1
    _left[device] = (left - 1 if may else left, now_s)
    if len(_left) > _MOST:
        _left.popitem(last=False)
    return may
