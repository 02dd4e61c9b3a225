"""A group typed or pasted, and split into the benches of a lesson's form."""

from __future__ import annotations

import pytest

from bulwark.board.rosters import read_roster, read_rules
from tests.web.conftest import Hostel

SHEET = """Age;Name;Has been shown;Allergies
11;AK;knife hob;nuts
12;Jo Tern;;none

9;SD;knife;milk egg
9;SD;;
"""


def test_a_sheet_is_read_by_its_headings_and_every_doubt_is_said() -> None:
    roster = read_roster(SHEET)

    assert [(row.name, row.age) for row in roster.learners] == [("AK", "10-11"), ("JT", "12-13"), ("SD", "8-9")]
    assert roster.learners[0].shown == {"knife", "hob"}
    assert roster.learners[0].allergies == {"nuts"}
    assert roster.learners[1].allergies == frozenset()
    assert roster.learners[2].allergies == {"milk", "egg"}
    assert roster.doubts == (
        "A full name was shortened to JT; it is not kept.",
        "SD is there twice: the second was left out.",
    )


def test_two_full_names_of_the_same_initials_both_stay() -> None:
    roster = read_roster("Jo Tern\nJan Teal\nJay Tope")

    assert [row.name for row in roster.learners] == ["JT", "JT2", "JT3"]
    assert len(roster.doubts) == 3


def test_lines_without_a_heading_are_in_order() -> None:
    [first, second] = read_roster("AK, 11, nuts, knife\nMO").learners

    assert (first.name, first.age, first.allergies, first.shown) == ("AK", "10-11", {"nuts"}, {"knife"})
    assert (second.name, second.age) == ("MO", "")


def test_rules_are_read_and_what_is_none_is_said() -> None:
    assert read_rules("AK with JT\nNB not with SD\nMO without DF\nall friends") == (
        [("AK", "JT")],
        [("NB", "SD"), ("MO", "DF")],
        ["“all friends” is no rule: write “AK with JT” or “NB not with SD”."],
    )


def sent(hostel: Hostel, **fields: str) -> str:
    asked = {"benches": "Gannet: XX\nPuffin:", "group": "AK, 11\nJT, 9\nSD, 11\nRO, 9", **fields}
    return " ".join(hostel.client().post("/groups/split/", asked).content.decode().split())


def test_the_benches_of_the_form_are_filled(hostel: Hostel) -> None:
    text = sent(hostel, rules="AK with JT")

    assert 'id="bench-lines" name="benches" rows="4">Gannet: ' in text
    assert "AK, JT" in text
    assert "Proven: no split is fairer." in text


@pytest.mark.parametrize(
    ("fields", "told"),
    [
        ({"group": ""}, "Write the group first"),
        ({"benches": ""}, "Write the benches first"),
        ({"group": "AK"}, "1 in the group for 2 benches."),
        ({"rules": "AK with JT\nJT with SD"}, "These rules cannot all be kept"),
        ({"rules": "AK with ZZ"}, "ZZ"),
        ({"group": '"' * 999 + "\n" + "AK\n" * 400}, "Only the first"),
    ],
)
def test_what_stands_against_it_is_said_and_nothing_is_filled(
    hostel: Hostel, fields: dict[str, str], told: str
) -> None:
    clean = {key: value.encode("utf-8", "replace").decode() for key, value in fields.items()}
    text = sent(hostel, **clean)

    assert told in text
    if "Only the first" not in told:
        assert f">{fields.get('benches', 'Gannet: XX Puffin:')}</textarea>" in text, "what was typed stays"
