"""A group typed or pasted, and split into the benches of a lesson's form."""

from __future__ import annotations

import html
import io

import pytest

from bulwark.board import selectors as boards
from bulwark.groups.models import Group, Member
from bulwark.groups.rosters import read_roster, read_rules
from bulwark.lessons.models import Learner, Lesson
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
    assert roster.learners[0].allergies == {"tree_nuts", "peanut"}
    assert roster.learners[1].allergies == frozenset()
    assert roster.learners[2].allergies == {"milk", "egg"}
    assert roster.doubts == (
        "“nuts” was taken for tree nuts and peanuts: write which, if it is one of them.",
        "A full name was shortened to JT; it is not kept.",
        "SD is there twice: the second was left out.",
    )


def test_two_full_names_of_the_same_initials_both_stay() -> None:
    roster = read_roster("Jo Tern\nJan Teal\nJay Tope")

    assert [row.name for row in roster.learners] == ["JT", "JT2", "JT3"]
    assert len(roster.doubts) == 3


def test_lines_without_a_heading_are_in_order() -> None:
    [first, second] = read_roster("AK, 11, nuts, knife\nMO").learners

    assert (first.name, first.age, first.allergies, first.shown) == ("AK", "10-11", {"tree_nuts", "peanut"}, {"knife"})
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


# --- groups that are kept ---


GROUP = """initials,age,allergies,shown,needs,eats
AK,11,nuts,knife hob,,
JT,11,,knife,sits,
SD,9,kiwi,,,no
RO,13,milk,knife hob oven,,
"""


def kept(hostel: Hostel, lines: str = GROUP, **fields: str) -> Group:
    answer = hostel.client().post("/groups/new/", {"name": "Tern crew", "lines": lines, "keep": "1", **fields})
    assert answer.status_code == 302, answer.content.decode()
    return Group.objects.get(organisation=hostel.organisation, name="Tern crew")


def test_a_group_is_read_first_and_kept_when_somebody_has_looked_at_it(hostel: Hostel) -> None:
    client = hostel.client()
    text = " ".join(client.post("/groups/new/", {"name": "Tern crew", "lines": GROUP}).content.decode().split())

    assert "4 learners read." in text
    assert "Of 1 nobody said what they have been shown: taken for nothing." in text
    assert "“kiwi” is no allergen that Bulwark knows: no dish is checked for it." in text
    assert not Group.objects.exists()
    group = kept(hostel, roles="steward: washes up, watches timers\nchef", **{"n-pregnant": "1"})
    assert [(row.initials, row.age, row.eats, row.needs) for row in group.members.all()] == [
        ("AK", "10-11", True, ""),
        ("JT", "10-11", True, "sits"),
        ("SD", "8-9", False, ""),
        ("RO", "12-13", True, ""),
    ]
    again = client.get(f"/groups/{group.pk}/").content.decode()
    assert "steward: washes up, watches timers" in again
    assert [row.name for row in read_roster(selectors_text(again)).learners] == ["AK", "JT", "SD", "RO"]


def selectors_text(page: str) -> str:
    """The lines of a group's form, as a browser would send them back."""
    return html.unescape(page.partition('name="lines"')[2].partition(">")[2].partition("</textarea>")[0])


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "cp1252"])
def test_a_sheet_is_read_in_any_usual_encoding(hostel: Hostel, encoding: str) -> None:
    sheet = io.BytesIO("Élève;Who;Age\nx;Zoë;11\n".encode(encoding))
    sheet.name = "group.csv"
    text = hostel.client().post("/groups/new/", {"name": "Tern crew", "sheet": sheet}).content.decode()

    assert "<b>Zoë</b>" in text
    assert "Not read, since nothing here needs it: Élève." in text


def test_a_sheet_that_is_too_large_is_refused_and_what_was_typed_stays(hostel: Hostel) -> None:
    sheet = io.BytesIO(b"AK,11\n" * 200_000)
    sheet.name = "group.csv"
    answer = hostel.client().post("/groups/new/", {"name": "Tern crew", "lines": "SD,13", "sheet": sheet})

    assert answer.status_code == 422
    assert "larger than a megabyte" in answer.content.decode()
    assert ">SD,13</textarea>" in answer.content.decode()


def test_a_formula_is_written_out_harmless(hostel: Hostel) -> None:
    group = kept(hostel, '=SUM(A1),11,,,"@cmd"\n+AK,9')
    page = hostel.client().get(f"/groups/{group.pk}/").content.decode()

    assert [row.initials for row in group.members.all()] == ["SUM(A1)", "AK"]
    assert "&#x27;@cmd" in page
    assert "\n@cmd" not in page


def test_whoever_has_not_been_shown_a_hob_does_not_stand_at_one_and_an_adult_is_told(hostel: Hostel) -> None:
    hostel.lesson.group = kept(hostel)
    hostel.lesson.save()
    board = boards.board_of(hostel.lesson)

    assert board.plan.people["1.griddle"] == ("RO",), "SD has been shown nothing"
    assert board.plan.people["2.griddle"] == ("AK",), "JT has been shown the knife alone"
    Member.objects.filter(initials="AK").update(age="7-8")
    board = boards.board_of(hostel.lesson)
    assert "2.griddle" not in board.plan.people, "AK is too young for it"
    text = " ".join(hostel.client().get(f"/lessons/{hostel.lesson.pk}/board/").content.decode().split())
    assert "An adult does “Koftas on the griddle” at Puffin" in text
    assert "Allergies that no dish is checked for: kiwi." in text


def test_whoever_is_in_no_list_has_been_shown_nothing(hostel: Hostel) -> None:
    hostel.lesson.group = kept(hostel, "AK,11,,knife hob\nJT,11,,knife hob")
    hostel.lesson.save()
    board = boards.board_of(hostel.lesson)

    assert board.said.unknown == ("SD", "RO")
    assert board.whole.parts["1.griddle"].adult
    assert not board.whole.parts["2.griddle"].adult


def test_a_lesson_of_a_group_counts_with_who_eats_and_gives_roles_that_go_round(hostel: Hostel) -> None:
    group = kept(hostel, roles="chef\nsteward", **{"n-pregnant": "2"})
    had: dict[str, list[str]] = {}
    for _ in range(4):
        answer = hostel.client().post(
            f"/recipes/{hostel.lesson.recipe_id}/lesson/",
            {
                "starts_at": "2026-12-01T10:30",
                "length_min": "90",
                "benches": "Gannet: AK, JT\nPuffin: SD, RO",
                "group_id": group.pk,
            },
        )
        assert answer.status_code == 302
        lesson = Lesson.objects.filter(organisation=hostel.organisation).latest("pk")
        for row in Learner.objects.filter(bench__lesson=lesson):
            had.setdefault(row.initials, []).append(row.role)

    assert lesson.eaters == {"groups": {"pregnant": 2}, "allergens": ["milk", "peanut", "tree_nuts"], "count": 3}
    for rows in had.values():
        assert sorted(rows) == ["chef", "chef", "steward", "steward"], "nobody has one more often than the other"
        assert rows[0] != rows[1], "nor twice before the other has had it"


def test_whoever_may_not_cannot_be_chosen_either(hostel: Hostel) -> None:
    hostel.lesson.group = kept(hostel)
    hostel.lesson.save()
    path = f"/lessons/{hostel.lesson.pk}/board/change/"
    refused = hostel.client().post(path, {"do": "doer", "of": "1.griddle", "value": "SD"})

    assert refused.status_code == 422
    assert "has not been shown what this step asks" in refused.content.decode()
    assert hostel.client().post(path, {"do": "doer", "of": "1.mix", "value": "SD"}).status_code == 302


def test_an_allergy_that_is_named_after_the_lesson_was_made_is_never_silently_missing(hostel: Hostel) -> None:
    group = kept(hostel, "AK,11,,knife hob\nJT,11,,knife")
    hostel.lesson.group = group
    hostel.lesson.save()
    client, told = hostel.client(), "no dish of this lesson is checked for"
    pages = (f"/lessons/{hostel.lesson.pk}/", f"/lessons/{hostel.lesson.pk}/board/", "/")
    assert not any(told in client.get(path).content.decode() for path in pages)

    Member.objects.filter(initials="AK").update(allergies=["milk"])
    assert all(told in client.get(path).content.decode() for path in pages)
    client.post(f"/lessons/{hostel.lesson.pk}/renew/")
    assert not any(told in client.get(path).content.decode() for path in pages)
    hostel.lesson.refresh_from_db()
    assert hostel.lesson.eaters["allergens"] == ["milk"]


def test_a_kept_group_is_split_by_its_own_rules(hostel: Hostel) -> None:
    group = kept(hostel, rules="AK with SD")
    text = sent(hostel, group_id=str(group.pk), group="")

    assert "AK, SD" in text


def test_a_group_of_nobody_or_of_a_name_that_is_taken_is_not_kept(hostel: Hostel) -> None:
    kept(hostel)
    client = hostel.client()
    for lines, told in (("", "Nobody could be read"), ("AK", "There is a group called “Tern crew” already.")):
        answer = client.post("/groups/new/", {"name": "Tern crew", "lines": lines, "keep": "1"})
        assert (answer.status_code, told in answer.content.decode()) == (422, True)
    assert Group.objects.count() == 1


def test_another_organisation_finds_no_group(hostel: Hostel) -> None:
    group = kept(hostel)
    other = Hostel("Gull Rock Hostel")

    assert other.client().get(f"/groups/{group.pk}/").status_code == 404
    assert other.client().post(f"/groups/{group.pk}/away/").status_code == 404
    assert "Tern crew" not in other.client().get("/groups/").content.decode()
    assert "Write the group first" in sent(other, group_id=str(group.pk), group="")


def test_benches_changed_by_hand_are_held_against_the_rules_and_the_list(hostel: Hostel) -> None:
    group = kept(hostel, "AK,11,,knife\nJT,11,,knife\nSD,9,,")
    asked = {"group_id": group.pk, "rules": "AK with JT\nJT not with SD", "benches": "Gannet: AK, SD\nPuffin: JT"}
    client = hostel.client()

    said = client.post("/groups/check/", asked).content.decode()
    assert "By the rules AK and JT are together." in said
    assert "are not together" not in said
    said = client.post("/groups/check/", {**asked, "benches": "Gannet: AK, JT\nPuffin: JT"}).content.decode()
    assert "JT stands at Gannet and Puffin" in said
    assert "At no bench: SD." in said
    said = client.post("/groups/check/", {**asked, "benches": "Gannet: AK, JT\nPuffin: SD"}).content.decode()
    assert "3 learners at the benches. The rules are kept." in said


def test_nobody_is_taken_for_two_people(hostel: Hostel) -> None:
    asked = {"starts_at": "2026-12-01T10:30", "length_min": "90", "benches": "Gannet: AK, JT\nPuffin: JT"}
    answer = hostel.client().post(f"/recipes/{hostel.lesson.recipe_id}/lesson/", asked)

    assert answer.status_code == 422
    assert "JT stands at Gannet and Puffin" in answer.content.decode()
    assert "Puffin: JT" in answer.content.decode(), "what was typed is still there"
