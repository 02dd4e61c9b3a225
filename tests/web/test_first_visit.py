"""From paste to confirmed as a first visitor goes: pages as they are loaded, CSRF checks on."""

import re
from typing import Any

import pytest
from django.test import Client

from bulwark.recipes.models import Recipe
from tests.web.conftest import Hostel

RUNNING = (
    "Warden's fish supper\n\n"
    "You take four cod fillets and fry them in a tablespoon of oil for 8 minutes. Rinse a bag of spinach and "
    "lay it on the plates."
)
NO_SERVE = """Fried cod

Ingredients
4 cod fillets
1 tbsp oil
200 g sea kelp crisps

Method
Fry the cod fillets in the oil for 8 minutes.
Serve the crisps.
"""


class Visitor:
    """Posts only what a loaded page holds, token and all."""

    def __init__(self, hostel: Hostel) -> None:
        self.client = Client(enforce_csrf_checks=True)
        self.client.force_login(hostel.user, backend="django.contrib.auth.backends.ModelBackend")
        self.html = ""

    def get(self, path: str) -> str:
        self.html = self.client.get(path, follow=True).content.decode()
        return self.html

    def send(self, path: str, **fields: Any) -> str:
        token = re.search(r'name="csrfmiddlewaretoken" value="(\w+)"', self.html)[1]
        answer = self.client.post(path, {"csrfmiddlewaretoken": token, **fields}, follow=True)
        assert answer.status_code == 200, answer.status_code
        self.at = answer.request["PATH_INFO"]
        self.html = answer.content.decode()
        return self.html


@pytest.fixture
def visitor(hostel: Hostel) -> Visitor:
    return Visitor(hostel)


def bring(visitor: Visitor, text: str) -> Recipe:
    visitor.get("/recipes/bring/")
    visitor.send("/recipes/bring/", text=text, locale="en-GB")
    return Recipe.objects.latest("pk")


def test_foods_of_running_words_become_the_list_and_somebody_is_told(visitor: Visitor) -> None:
    recipe = bring(visitor, RUNNING)
    assert visitor.at == f"/recipes/{recipe.pk}/lines/"
    assert "No list of ingredients was found" in visitor.html
    assert recipe.ingredients == ["four cod fillets", "a tablespoon of oil", "a bag of spinach"]
    assert recipe.process["foods"]["cod fillets"]["kind"] == "cod"


RISKY = NO_SERVE.replace("Serve the crisps.", "Then the old trick with the raw juices. Serve the cod with the crisps.")


@pytest.mark.parametrize("answer", ["aside", "make"])
def test_a_sentence_nobody_understood_holds_back_confirming_until_somebody_says_what_it_is(
    visitor: Visitor, answer: str
) -> None:
    recipe = bring(visitor, RISKY)
    html = visitor.get(f"/recipes/{recipe.pk}/steps/")
    assert "may hide raw work" in html
    assert "nothing raw reaches a plate" not in html
    version = re.search(r'name="version" value="(\w+)"', html)[1]
    assert "Say first what this is" in visitor.send(f"/recipes/{recipe.pk}/confirm/", version=version)

    [said] = [row["text"] for row in recipe.process["unread"]]
    html = visitor.send(f"/recipes/{recipe.pk}/steps/edit/", what=answer, text=said)
    assert "may hide raw work" not in html
    recipe.refresh_from_db()
    titles = [step.get("detail") for step in recipe.process["steps"]]
    assert (said in titles) is (answer == "make")

    version = re.search(r'name="version" value="(\w+)"', visitor.get(f"/recipes/{recipe.pk}/steps/"))[1]
    visitor.send(f"/recipes/{recipe.pk}/confirm/", version=version)
    recipe.refresh_from_db()
    assert recipe.confirmed_at is not None


def test_what_becomes_of_food_is_asked_and_said_with_one_tap(visitor: Visitor) -> None:
    recipe = bring(visitor, NO_SERVE.replace("Serve the crisps.\n", "Scatter over the crisps.\n"))
    Recipe.objects.filter(pk=recipe.pk).update(process={**recipe.process, "serve": [], "steps": unserved(recipe)})
    html = visitor.get(f"/recipes/{recipe.pk}/steps/")
    assert "What is eaten?" in html
    offered = re.findall(r'name="eaten" value="([^"]+)"', html)
    assert offered

    html = visitor.send(f"/recipes/{recipe.pk}/steps/edit/", what="eaten", eaten=offered)
    recipe.refresh_from_db()
    assert recipe.process["serve"] == offered
    assert recipe.process["steps"][-1]["do"] == "serve"
    assert "What is eaten?" not in html


def unserved(recipe: Recipe) -> list[dict[str, Any]]:
    return [step for step in recipe.process["steps"] if step["do"] != "serve"]


def test_a_line_that_is_no_ingredient_is_said_to_be_none_and_then_it_can_be_confirmed(visitor: Visitor) -> None:
    recipe = bring(visitor, NO_SERVE.replace("200 g sea kelp crisps", "wibble the moonrock slowly"))
    html = visitor.get(f"/recipes/{recipe.pk}/lines/")
    assert "It is no ingredient" in html
    visitor.send(f"/recipes/{recipe.pk}/lines/2/", food="")
    assert "no ingredient" in visitor.get(f"/recipes/{recipe.pk}/lines/")
    assert "is-doubtful" not in visitor.html

    visitor.get(f"/recipes/{recipe.pk}/steps/")
    version = re.search(r'name="version" value="(\w+)"', visitor.html)[1]
    visitor.send(f"/recipes/{recipe.pk}/confirm/", version=version)
    recipe.refresh_from_db()
    assert recipe.confirmed_at is not None
    assert recipe.ingredients[2] == "wibble the moonrock slowly"  # nothing that came in is lost


def test_a_food_that_is_made_is_renamed_everywhere_in_the_step_editor(visitor: Visitor) -> None:
    recipe = bring(visitor, NO_SERVE.replace("Fry the cod", "Mix the crisps and the oil. Fry the cod"))
    step = next(step for step in recipe.process["steps"] if step.get("makes"))
    visitor.get(f"/recipes/{recipe.pk}/steps/")
    fields = {"do": step["do"], "title": step["title"], "foods": ", ".join(step["foods"]), "makes": "kelp topping"}
    visitor.send(f"/recipes/{recipe.pk}/steps/edit/", what="change", step=step["id"], **fields)
    recipe.refresh_from_db()
    assert "kelp topping" in str(recipe.process["steps"])
    assert f"'{step['makes']}'" not in str(recipe.process["steps"])


def test_a_raw_food_that_no_step_uses_is_asked_about_and_is_never_confirmed_in_silence(visitor: Visitor) -> None:
    recipe = bring(visitor, NO_SERVE.replace("1 tbsp oil", "1 tbsp oil\n400 g turkey mince"))
    html = visitor.get(f"/recipes/{recipe.pk}/steps/")
    assert "Where does it go?" in html
    assert "nothing raw reaches a plate" not in html
    version = re.search(r'name="version" value="(\w+)"', html)[1]
    assert "nobody has said where it goes: turkey mince" in visitor.send(
        f"/recipes/{recipe.pk}/confirm/", version=version
    )
    recipe.refresh_from_db()
    assert recipe.confirmed_at is None

    fields = re.findall(r'name="food" value="([^"]+)"', visitor.html)
    step = re.search(r'<option value="(\w+)" selected', visitor.html.split("rc-places")[1])[1]
    visitor.send(f"/recipes/{recipe.pk}/steps/edit/", what="place", food=fields, into=[step] * len(fields))
    assert "Where does it go?" not in visitor.html
    version = re.search(r'name="version" value="(\w+)"', visitor.html)[1]
    visitor.send(f"/recipes/{recipe.pk}/confirm/", version=version)
    recipe.refresh_from_db()
    assert recipe.confirmed_at is not None
