"""A small dose of what bin/fuzz throws."""

import os

from tests.fuzz.throw import Thrower
from tests.web.conftest import Hostel
from tests.web.test_forms import lived_in

__all__ = ["lived_in"]


def test_nothing_that_is_sent_breaks_it(lived_in: Hostel) -> None:
    thrown = Thrower(lived_in, int(os.environ.get("FUZZ_SEED", "1"))).run(int(os.environ.get("FUZZ_COUNT", "600")))

    told = "\n".join(f"{n} x {what}" for what, n in thrown.broke.most_common())
    print(f"{thrown.count} sent: {dict(sorted(thrown.statuses.items()))}\nslow: {dict(thrown.slow)}\n{told}")
    assert thrown.broke == {}, told
    assert thrown.statuses[200] > 0
