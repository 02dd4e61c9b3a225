"""What the kitchen is like after a step: what is in hand, what has been heated, which vessel holds what."""

from __future__ import annotations

import re
from collections.abc import Sequence

from foodsafety.recipes.made_names import JOINS
from foodsafety.recipes.proposed_steps import ReadStep
from foodsafety.recipes.short_notes import ShortNotes
from foodsafety.recipes.soaked_in import WET
from foodsafety.recipes.vessels import VESSELS


class Remembered(ShortNotes):
    """Keeps the kitchen as a step leaves it."""

    def _remember(self, step: ReadStep) -> None:
        kitchen = self.kitchen
        for name in step.foods:
            kitchen.foods[name].used = True
        now = [step.makes] if step.makes else list(step.foods)
        if step.do in ("chill", "rest", "marinate"):
            for name in now:
                base = self._base_of([name])
                wet = any(kitchen.foods[part].group in WET for part in base)
                kitchen.foods[name].soaked = len(base) > (1 if wet else 2)
        if step.do in ("heat", "part_cook"):
            for name in now:
                kitchen.foods[name].heated = True
                kitchen.foods[name].raw = kitchen.foods[name].raw and step.do != "heat"
        if now:
            kitchen.last = now
        if now and (step.makes or step.do == "heat"):
            kitchen.main = now[0]
        if step.makes or step.do in ("heat", "serve", "chill"):
            kitchen.pile = []
        elif step.do in ("cut", "rinse", "peel", "grate", "transfer"):
            kitchen.pile = [name for name in kitchen.pile if name not in now] + now
        self._lies_now(step, now)

    def _lies_now(self, step: ReadStep, now: list[str]) -> None:
        """Which vessel holds what a step worked on, and which is in use."""
        kitchen = self.kitchen
        vessels = [tool for tool in step.tools if kitchen.tools[tool] in VESSELS]
        if step.do == "clean":  # what is washed is empty
            kitchen.holds |= {tool: [] for tool in step.tools}
            kitchen.vessel = None if kitchen.vessel in step.tools else kitchen.vessel
        falls = step.do != "cut" or re.search(r"\b(?:in|on)to (?:an? |the |your )", step.text)  # "snip them into a tub"
        if vessels and falls and step.do not in ("clean", "wipe", "probe"):
            # What is lifted from a hot pan onto a plate leaves the pan in use.
            rests = kitchen.tools[vessels[-1]] in ("plate", "board", "rack") and self._is_hot(kitchen.vessel)
            kitchen.vessel = kitchen.vessel if rests and step.do == "transfer" else vessels[-1]
            kitchen.holds[vessels[-1]] = now
        elif step.do in JOINS and kitchen.vessel in step.tools and kitchen.vessel:
            kitchen.holds[kitchen.vessel] = now
        elif step.makes and step.do in ("cut", "grate") and kitchen.vessel:
            kitchen.holds[kitchen.vessel] = now  # it fell onto what is there
        if step.do in ("chill", "freeze") or (step.do == "rest" and re.search(r"\baside\b", step.text)):
            kitchen.vessel = None  # it stands in the cold: what comes next is done in another
        self._leaves(step, now, vessels)

    def _leaves(self, step: ReadStep, now: list[str], vessels: Sequence[str]) -> None:
        """What food that is moved leaves empty."""
        kitchen = self.kitchen
        lifted = step.makes is not None and step.makes.startswith(("marinated ", "drained "))
        there = kitchen.holds.get(kitchen.vessel or "", [])
        worked = (row for row in reversed(kitchen.steps[:-1]) if row.do != "mix" or kitchen.vessel not in row.tools)
        before = next(worked, None)  # what was only stirred in stays on the heat
        in_use = before is not None and before.do in ("heat", "part_cook") and kitchen.vessel in before.tools
        joins = bool(step.makes) and not vessels and not lifted and bool(there) and set(there) <= set(step.foods)
        if step.do == "transfer" and joins and in_use and kitchen.vessel:
            kitchen.holds[kitchen.vessel] = now  # "the milk goes on": to what is in the pan
            return
        spread = re.match(r"(?:spread|push|shuffle|turn)\b", step.text) is not None and not vessels  # it stays in there
        if step.do == "transfer" and not lifted and not spread:  # what raw food is lifted out of stays where it is
            for tool, held in list(kitchen.holds.items()):
                if tool not in vessels and set(held) & set(step.foods):
                    kitchen.holds[tool] = []
                    emptied = not vessels and set(held) <= set(step.foods) and "foods" not in step.guesses
                    if emptied and tool == kitchen.vessel:
                        kitchen.vessel = None  # what comes next is done in another
