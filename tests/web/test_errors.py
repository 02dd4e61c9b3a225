"""No text of the core reaches a person: every error it can raise has a sentence, with its facts."""

import ast
import re
from pathlib import Path

import pytest

from bulwark.presentation.errors import SENTENCES, error_sentence
from foodsafety.quantities import CoreError

SRC = Path(__file__).resolve().parents[2] / "src"


def raised() -> dict[str, set[frozenset[str]]]:
    """Every id that is raised anywhere, with the facts each place gives."""
    found: dict[str, set[frozenset[str]]] = {}
    for path in SRC.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, ast.Call) and getattr(node.func, "id", "") == "CoreError":
                why = node.args[1]
                assert isinstance(why, ast.Constant), f"{path}:{node.lineno}: an id is a plain word"
                found.setdefault(why.value, set()).add(frozenset(k.arg or "" for k in node.keywords))
    return found


def test_every_id_has_a_sentence_and_every_sentence_an_id() -> None:
    assert raised().keys() == SENTENCES.keys()


def test_every_place_gives_the_facts_its_sentence_needs() -> None:
    lacking = {
        why: needed - facts
        for why, places in raised().items()
        for facts in places
        if (needed := set(re.findall(r"%\((\w+)\)", str(SENTENCES[why])))) - facts
    }

    assert lacking == {}


@pytest.mark.parametrize(
    ("wrong", "sentence"),
    [
        (CoreError("steps[5] (s6).foods", "no_such_food", food="balls"), "There is no food “balls”."),
        (CoreError("readings line 3", "not_a_time", value="x"), "Line 3: “x” is no time: minutes, or hours:minutes."),
        (CoreError("core_c", "outside", value=900.0, low=-60.0, high=300.0), "Temperature: 900 is outside -60 to 300."),
        (CoreError("foods.a.kind", "never heard of"), "This cannot be used as it is."),
    ],
)
def test_a_sentence_names_what_a_person_can_find(wrong: CoreError, sentence: str) -> None:
    assert error_sentence(wrong) == sentence
