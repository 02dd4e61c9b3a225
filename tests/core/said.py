"""Sentences of made-up recipes, each with what a careful reader does with it, in blocks under the foods they are of.

A block is a row of foods ("@ 4 chicken thighs; 1 onion") and sentences. What a sentence orders stands behind " > ":
kinds with "|" between those that are as good ("*" is any work), a colon, foods; "&" parts one order from the next. A
sentence that orders nothing has nothing behind it.
"""

from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import cache
from typing import Any

from foodsafety.cli import run_read
from tests.core.wild import DATA, VERBS, inside, near, same

ANY = set().union(*VERBS.values()) | {"rinse", "rest", "chill", "freeze", "probe", "clean", "wash_hands"}


@dataclass
class Block:
    foods: list[str]
    rows: list[tuple[str, list[tuple[set[str], list[str]]]]] = field(default_factory=list)


@dataclass
class Counted:
    read: int = 0
    asked: int = 0
    silent: int = 0
    misses: list[str] = field(default_factory=list)


@cache
def blocks() -> tuple[Block, ...]:
    return tuple(
        block for path in sorted((DATA / "said").glob("*.txt")) for block in _blocks_of(path.read_text("utf-8"))
    )


def _blocks_of(text: str) -> Iterator[Block]:
    block: Block | None = None
    for row in filter(None, (row.strip() for row in text.splitlines())):
        if row.startswith("@"):
            if block:
                yield block
            block = Block([food.strip() for food in row[1:].split(";")])
            continue
        assert block is not None
        said, _, told = row.rpartition(" > ") if " > " in row else (row.removesuffix(">"), "", "")
        facts = [part.split(":", 1) for part in told.split("&") if ":" in part]
        wanted = [(_works(kind.strip()), [f.strip() for f in foods.split(",") if f.strip()]) for kind, foods in facts]
        block.rows.append((said.strip(), wanted))
    if block:
        yield block


def _works(kinds: str) -> set[str]:
    return set().union(*(ANY if kind == "*" else VERBS.get(kind, {kind}) for kind in kinds.split("|")))


def count(block: Block) -> Counted:
    """How the reader does on the sentences of a block."""
    method = "\n".join(said for said, _ in block.rows)
    answer = run_read({"text": "Supper\n\n" + "\n".join(block.foods) + f"\n\nMethod\n{method}\n", "locale": "en-GB"})
    found = Counted()
    for said, wanted in block.rows:
        for works, foods in wanted:
            state = _state(answer, said, works, foods)
            setattr(found, state, getattr(found, state) + 1)
            if state != "read":
                found.misses.append(f"{', '.join(foods)}: {said!r}")
    return found


def _state(answer: dict[str, Any], said: str, works: set[str], foods: list[str]) -> str:
    rows = [row for row in answer["sentences"] if near(said, row["text"]) or near(row["text"], said)]
    ids = {name for row in rows for name in row["steps"]}
    steps = [step for step in answer["steps"] if step["id"] in ids]
    for step in steps:
        names = {n for own in (*step["foods"], step["makes"]) if own for n in inside(answer, own)}
        held = sum(any(same(name, food) or same(food, name) for name in names) for food in foods)
        if step["do"] in works and (not foods or held >= max(1, 0.6 * len(foods))):
            return "read"
    asked = {question.get("sentence") for question in answer["questions"]} & {row["n"] for row in rows}
    asked |= {question.get("step") for question in answer["questions"]} & ids
    unread = any(row["taken"] == "unread" for row in rows)
    return "asked" if asked or unread or any(step["doubts"] for step in steps) else "silent"


def main() -> None:
    """Prints every order that is not read, and the share of those that are."""
    every = [count(block) for block in blocks()]
    print(*(miss for one in every for miss in one.misses), sep="\n")
    read, asked, silent = (sum(getattr(one, name) for one in every) for name in ("read", "asked", "silent"))
    print(f"read {read}, asked {asked}, silent {silent}")


if __name__ == "__main__":
    main()
