"""What the verdict of a lesson rests on, as one hash: the chain of every bench begins with it."""

import hashlib
import json
from collections.abc import Iterable
from typing import Any

from bulwark.lessons.models import Bench, Lesson

_OF_LESSON = ("process", "pieces", "eaters", "variants", "profile", "house", "local_limits", "unconfirmed", "rehearsal")


def context_of(lesson: Lesson, bench: Bench, learners: Iterable[str], rules: str) -> dict[str, Any]:
    """What was judged, by which limits, of whom; ``rules`` is the digest of the rule profile."""
    row = {name: getattr(lesson, name) for name in (*_OF_LESSON, "pace")}
    # Only where it was chosen, so that chains of before still fit.
    chosen = {"dishes": list(bench.dishes)} if bench.dishes else {}
    return {**row, **chosen, "bench": bench.name, "learners": sorted(learners), "rules": rules}


def context_hash(lesson: Lesson, bench: Bench, learners: Iterable[str], rules: str) -> str:
    """SHA-256 of the context, its keys in order."""
    text = json.dumps(context_of(lesson, bench, learners, rules), sort_keys=True, separators=(",", ":"))
    return hashlib.sha256(text.encode()).hexdigest()
