"""Texts as people paste them, brought in, looked at and answered through the pages alone."""

import html as markup
import os
import re
from typing import Any

import pytest

from bulwark.kitchens import selectors as kitchens
from bulwark.recipes.adapters import to_process
from bulwark.recipes.models import Recipe
from bulwark.recipes.pages import RecipeContext
from foodsafety.contamination import analyse
from foodsafety.recipes import told_rows, unread_rows
from tests.core.wild import Wild, wild_texts
from tests.web.conftest import Hostel
from tests.web.test_first_visit import TOKEN, Visitor, bring, confirm, finding_keys

MOST_ANSWERS = 40


@pytest.fixture
def visitor(hostel: Hostel) -> Visitor:
    return Visitor(hostel)


def plain(html: str) -> str:
    """The words of a page, as a person reads them."""
    return re.sub(r"\s+", " ", markup.unescape(re.sub(r"<[^>]+>", "", html)))


def first_offer(html: str) -> dict[str, Any]:
    """What the first answer of the first question that holds sends; nothing where none holds. A food that nobody
    knows is said to be a carrot."""
    for card in re.findall(r'<details class="rd-q-card" .*?</details>', html, re.DOTALL):
        kind = re.search(r'name="kind" list="kinds"', card)
        forms = [re.findall(r'name="(\w+)" value="([^"]*)"', form) for form in card.split("<form")[1:]]
        if kind:
            fields = next(form for form in forms if ("remember", "1") in form)
            return {**sent(fields), "kind": "carrots"}
        if forms and "eaten" in dict(forms[0]).values():
            return {"what": "eaten", "eaten": [value for name, value in forms[0] if name == "eaten"]}
        if forms:
            return sent(forms[0])
    return {}


def sent(fields: list[tuple[str, str]]) -> dict[str, str]:
    return {name: markup.unescape(value) for name, value in fields if name != TOKEN}


# A small dose: every third through the pages; WILD_EVERY=1 takes them all, as bin/fuzz does.
EVERY = int(os.environ.get("WILD_EVERY", "3"))


@pytest.mark.parametrize("wild", wild_texts()[::EVERY], ids=lambda wild: wild.name)
def test_a_text_is_shown_whole_asked_about_and_confirmed(visitor: Visitor, wild: Wild) -> None:
    recipe = bring(visitor, wild.text)
    page = plain(visitor.get(f"/recipes/{recipe.pk}/steps/"))
    for row in told_rows(recipe.process):
        said = re.sub(r"\s+", "", re.sub(r"\d+", "", row["text"]))
        assert said in re.sub(r"\s+|\d+", "", page), "a sentence of the method is not on the screen"
    for line in recipe.ingredients:
        assert plain(line).strip() in page or line.strip() in page, "an ingredient line is not on the screen"

    held = 'class="rd-q-card"' in visitor.html
    looked = analyse(to_process(recipe), kitchens.house_of(kitchens.decided_by(recipe.organisation_id)))
    if held or looked.findings:
        assert "/confirm/" not in visitor.html
        confirm(visitor, recipe)
        recipe.refresh_from_db()
        assert recipe.confirmed_at is None, "confirmed over a question or a finding"

    foods = set(recipe.process["foods"])
    html = visitor.get(f"/recipes/{recipe.pk}/steps/")
    left_out = set[str]()
    for _ in range(MOST_ANSWERS):
        fields = first_offer(html)
        if not fields:
            break
        left_out |= {fields["food"]} if fields.get("into") == "" or fields.get("what") == "line" else set()
        html = visitor.send(f"/recipes/{recipe.pk}/steps/edit/", **fields)
    assert not first_offer(html), "a question came back after its first answer"

    html = visitor.send(f"/recipes/{recipe.pk}/flow/apply/", way="first", next="steps") if finding_keys(html) else html
    for key in finding_keys(html):
        html = visitor.send(f"/recipes/{recipe.pk}/steps/edit/", what="accept", key=markup.unescape(key), how="slip")
    assert finding_keys(html) == []
    confirm(visitor, recipe)
    recipe.refresh_from_db()
    assert recipe.confirmed_at is not None
    assert not any(row["holds"] for row in unread_rows(recipe.process))
    assert {food for food in foods if food not in recipe.process["foods"]} <= left_out, (
        "a food is gone that nobody left out"
    )
    for name in ("", "flow/", "amounts/", "eaters/", "cost/", "variants/"):
        assert visitor.client.get(f"/recipes/{recipe.pk}/{name}").status_code == 200


@pytest.mark.parametrize("wild", wild_texts()[::4], ids=lambda wild: wild.name)
def test_putting_it_right_finds_nothing_new_and_loses_no_food(visitor: Visitor, wild: Wild) -> None:
    recipe = bring(visitor, wild.text)
    house = kitchens.house_of(kitchens.decided_by(recipe.organisation_id))
    before = {(row.rule, row.soil) for row in analyse(to_process(recipe), house).findings}
    foods, serve = set(recipe.process["foods"]), recipe.process["serve"]
    visitor.get(f"/recipes/{recipe.pk}/steps/")
    visitor.send(f"/recipes/{recipe.pk}/flow/apply/", way="first", next="steps")
    recipe.refresh_from_db()
    after = {(row.rule, row.soil) for row in analyse(to_process(recipe), house).findings}

    assert after <= before
    assert set(recipe.process["foods"]) == foods
    assert recipe.process["serve"] == serve


PAGES = ("", "flow/", "amounts/", "eaters/", "variants/", "cost/")


def test_what_is_not_known_stands_on_every_page_of_a_recipe(visitor: Visitor, hostel: Hostel) -> None:
    asked = set()
    for wild in wild_texts():
        recipe = bring(visitor, wild.text)
        for text in RecipeContext(recipe, hostel.actor).not_known():
            asked.add(wild.name)
            for name in PAGES:
                page = plain(visitor.get(f"/recipes/{recipe.pk}/{name}"))
                assert plain(text) in page, name
                assert "Nothing raw reaches a plate" not in page, name
    assert len(asked) > 2


def test_a_map_with_no_finding_is_not_clean_while_a_heat_is_asked_about(visitor: Visitor) -> None:
    recipe = bring(visitor, "Cod\n\nIngredients\n4 cod fillets\n\nMethod\nWarm the cod in a pan. Serve.")
    page = plain(visitor.get(f"/recipes/{recipe.pk}/flow/"))

    assert "Nobody knows yet" in page
    assert "Nobody has said where it is cooked through: cod fillets." in page
    assert "Nothing raw reaches a plate" not in page
    assert visitor.paper(f"/recipes/{recipe.pk}/flow.pdf").startswith(b"%PDF")


def test_the_map_of_two_recipes_says_what_is_not_known_of_either(visitor: Visitor) -> None:
    own = Recipe.objects.get(confirmed_at__isnull=False)
    recipe = bring(visitor, "Cod\n\nIngredients\n4 cod fillets\n\nMethod\nWarm the cod in a pan. Serve.")
    for one, two in ((own, recipe), (recipe, own)):
        page = plain(visitor.get(f"/recipes/{one.pk}/flow/beside/{two.pk}/"))
        assert "Nobody has said where it is cooked through: cod fillets." in page


def test_brought_recipes_stand_in_the_list_of_what_waits(visitor: Visitor) -> None:
    for wild in wild_texts()[:6]:
        bring(visitor, wild.text)

    page = visitor.get("/recipes/waiting/")
    for recipe in Recipe.objects.filter(confirmed_at=None):
        assert recipe.title in markup.unescape(page)
