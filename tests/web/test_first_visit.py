"""From paste to confirmed as a first visitor goes: pages as they are loaded, CSRF checks on."""

import re
from typing import Any

import pytest
from django.test import Client

from bulwark.recipes.adapters import steps_version
from bulwark.recipes.models import Recipe
from tests.web.conftest import Hostel

RUNNING = (
    "Warden's fish supper\n\n"
    "You take four cod fillets and fry them in a tablespoon of oil for 8 minutes. Rinse a bag of spinach and "
    "lay it on the plates."
)
TOKEN = "csrfmiddlewaretoken"
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

    def paper(self, path: str) -> bytes:
        self.send(path)
        return self.client.get(f"{self.at}file/").content


@pytest.fixture
def visitor(hostel: Hostel) -> Visitor:
    return Visitor(hostel)


def bring(visitor: Visitor, text: str) -> Recipe:
    visitor.get("/recipes/bring/")
    visitor.send("/recipes/bring/", text=text, locale="en-GB")
    return Recipe.objects.latest("pk")


def test_foods_of_running_words_become_the_list_and_somebody_is_told(visitor: Visitor) -> None:
    recipe = bring(visitor, RUNNING)
    assert visitor.at == f"/recipes/{recipe.pk}/steps/"
    assert "No list of ingredients was found" in visitor.html
    assert recipe.ingredients == ["four cod fillets", "a tablespoon of oil", "a bag of spinach"]
    assert recipe.process["foods"]["cod fillets"]["kind"] == "cod"


RISKY = NO_SERVE.replace("Serve the crisps.", "Then the old trick with the raw juices. Serve the cod with the crisps.")


def offers(html: str, card: int = 1) -> list[dict[str, str]]:
    """What the forms of a question send, in their order."""
    [cut] = re.findall(rf'id="question-{card}".*?</details>', html, re.DOTALL)
    return [dict(re.findall(r'name="(\w+)" value="([^"]*)"', form)) for form in cut.split("<form")[1:]]


def confirm(visitor: Visitor, recipe: Recipe) -> str:
    """What the button sends, or would send were it shown."""
    visitor.get(f"/recipes/{recipe.pk}/steps/")
    recipe.refresh_from_db()
    return visitor.send(f"/recipes/{recipe.pk}/confirm/", version=steps_version(recipe))


@pytest.mark.parametrize("answer", ["aside", "make"])
def test_a_sentence_nobody_understood_holds_back_confirming_until_somebody_says_what_it_is(
    visitor: Visitor, answer: str
) -> None:
    recipe = bring(visitor, RISKY)
    html = visitor.get(f"/recipes/{recipe.pk}/steps/")
    assert "may hide raw work" in html
    assert "nothing raw reaches a plate" not in html
    assert "/confirm/" not in html
    assert "Say first what this is" in confirm(visitor, recipe)

    [said] = [row["text"] for row in recipe.process["unread"]]
    sent = next(row for row in offers(html) if row["what"] == answer)
    assert sent["text"] == said
    html = visitor.send(f"/recipes/{recipe.pk}/steps/edit/", **{k: v for k, v in sent.items() if k != TOKEN})
    assert "may hide raw work" not in html
    recipe.refresh_from_db()
    titles = [step.get("detail") for step in recipe.process["steps"]]
    assert (said in titles) is (answer == "make")

    assert "/confirm/" in html
    confirm(visitor, recipe)
    recipe.refresh_from_db()
    assert recipe.confirmed_at is not None


SAME_BOARD = """Cod and cucumber

Ingredients
4 cod fillets
1 cucumber

Method
Cut the cod on the board.
Rinse the cucumber.
Cut the cucumber on the board.
Fry the cod for 8 minutes.
Serve the cod with the cucumber.
"""


def finding_keys(html: str) -> list[str]:
    return list(dict.fromkeys(re.findall(r'name="key" value="([^"]+)"', html)))


def test_what_would_reach_a_plate_is_put_right_or_answered_for_before_anybody_confirms(visitor: Visitor) -> None:
    recipe = bring(visitor, SAME_BOARD)
    html = visitor.get(f"/recipes/{recipe.pk}/steps/")
    assert "reaches cucumber, which is eaten as it is" in html
    assert "neither put right nor answered for" in confirm(visitor, recipe)

    html = visitor.send(f"/recipes/{recipe.pk}/flow/apply/", way="first", next="steps")
    assert visitor.at == f"/recipes/{recipe.pk}/steps/"
    assert finding_keys(html) == []
    confirm(visitor, recipe)
    recipe.refresh_from_db()
    assert recipe.confirmed_at is not None


def test_produce_that_nobody_rinsed_is_rinsed_first(visitor: Visitor) -> None:
    recipe = bring(visitor, SAME_BOARD.replace("Rinse the cucumber.\n", ""))
    assert "served unrinsed" in visitor.get(f"/recipes/{recipe.pk}/steps/")
    html = visitor.send(f"/recipes/{recipe.pk}/flow/apply/", way="first", next="steps")
    recipe.refresh_from_db()
    steps = [(step["do"], step["foods"]) for step in recipe.process["steps"]]
    assert steps.index(("rinse", ["cucumber"])) < steps.index(("cut", ["cucumber"]))
    assert finding_keys(html) == []


def test_what_cannot_be_put_right_is_said(visitor: Visitor) -> None:
    recipe = bring(visitor, SAME_BOARD.replace("Fry the cod for 8 minutes.\n", ""))
    html = visitor.get(f"/recipes/{recipe.pk}/steps/")
    assert finding_keys(html)
    before = recipe.process
    visitor.send(f"/recipes/{recipe.pk}/flow/apply/", way="first", next="steps")
    recipe.refresh_from_db()
    assert recipe.process == before
    assert finding_keys(visitor.html)


@pytest.mark.parametrize(
    ("said", "told"),
    [
        ({"how": "slip"}, "Kept as a slip to be taught"),
        ({"how": "cannot", "reason": "two boards hang here"}, "two boards hang here"),
    ],
)
def test_a_finding_may_stay_if_somebody_says_so_and_the_read_through_repeats_it(
    visitor: Visitor, said: dict[str, str], told: str
) -> None:
    recipe = bring(visitor, SAME_BOARD)
    keys = finding_keys(visitor.get(f"/recipes/{recipe.pk}/steps/"))
    assert keys
    for key in keys:
        html = visitor.send(f"/recipes/{recipe.pk}/steps/edit/", what="accept", key=key, **said)
    assert told in html
    assert "nothing raw reaches a plate" not in html
    confirm(visitor, recipe)
    recipe.refresh_from_db()
    assert recipe.confirmed_at is not None
    assert told in visitor.get(f"/recipes/{recipe.pk}/")
    assert told in visitor.get(f"/recipes/{recipe.pk}/flow/")


@pytest.mark.parametrize(
    ("said", "why"),
    [
        ({"how": "cannot", "reason": " "}, "Say why it cannot happen here"),
        ({"how": "fine"}, "fine"),
        ({"how": "slip", "key": "rule|s9|soup|soil"}, "no longer there"),
        ({"how": "slip", "key": ""}, "no longer there"),
    ],
)
def test_a_finding_is_not_waved_away(visitor: Visitor, said: dict[str, str], why: str) -> None:
    recipe = bring(visitor, SAME_BOARD)
    [key, *_] = finding_keys(visitor.get(f"/recipes/{recipe.pk}/steps/"))
    html = visitor.send(f"/recipes/{recipe.pk}/steps/edit/", **{"what": "accept", "key": key, **said})
    assert why in html
    recipe.refresh_from_db()
    assert recipe.process.get("accepted", []) == []


def test_a_finding_that_comes_with_other_steps_is_asked_about_anew(visitor: Visitor) -> None:
    recipe = bring(visitor, SAME_BOARD)
    for key in finding_keys(visitor.get(f"/recipes/{recipe.pk}/steps/")):
        visitor.send(f"/recipes/{recipe.pk}/steps/edit/", what="accept", key=key, how="slip")
    confirm(visitor, recipe)
    rinse = next(step["id"] for step in recipe.process["steps"] if step["do"] == "rinse")
    html = visitor.send(f"/recipes/{recipe.pk}/steps/edit/", what="remove", step=rinse)
    recipe.refresh_from_db()
    assert recipe.confirmed_at is None
    assert finding_keys(html)


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
    html = visitor.get(f"/recipes/{recipe.pk}/steps/")
    assert "It is no ingredient" in html
    visitor.send(f"/recipes/{recipe.pk}/lines/2/", food="")
    assert "no ingredient" in visitor.get(f"/recipes/{recipe.pk}/steps/")
    assert "is-doubtful" not in visitor.html

    confirm(visitor, recipe)
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
    assert "nobody has said where it goes: turkey mince" in confirm(visitor, recipe)
    recipe.refresh_from_db()
    assert recipe.confirmed_at is None

    first = {k: v for k, v in offers(visitor.get(f"/recipes/{recipe.pk}/steps/"))[0].items() if k != TOKEN}
    assert (first["what"], first["food"]) == ("place", "turkey mince")
    html = visitor.send(f"/recipes/{recipe.pk}/steps/edit/", **first)
    assert "No step uses turkey mince" not in html
    recipe.refresh_from_db()
    assert "turkey mince" in next(row for row in recipe.process["steps"] if row["id"] == first["into"])["foods"]


def test_a_food_nobody_knows_is_said_in_its_question_and_keeps_its_amount(visitor: Visitor) -> None:
    recipe = bring(visitor, NO_SERVE.replace("200 g sea kelp crisps", "200 g moonrock"))
    html = visitor.get(f"/recipes/{recipe.pk}/steps/")
    assert "What is “moonrock”?" in html
    ask = {k: v for k, v in offers(html)[-1].items() if k != TOKEN}
    html = visitor.send(f"/recipes/{recipe.pk}/steps/edit/", **ask, kind="sunflower seeds")
    recipe.refresh_from_db()
    assert "What is “moonrock”?" not in html
    assert recipe.corrections["2"] == {
        "low": 200.0, "high": 200.0, "unit": "g", "food": "moonrock", "kind": "sunflower_seeds",
    }  # fmt: skip


def test_a_food_that_only_the_method_names_is_seen_and_said_to_be_none(visitor: Visitor) -> None:
    recipe = bring(visitor, NO_SERVE.replace("Serve the crisps.", "Brush with beaten egg. Serve the cod and crisps."))
    assert recipe.ingredients[-1] == "beaten egg"
    html = visitor.get(f"/recipes/{recipe.pk}/steps/")
    assert "Not in the list: only the method names it" in html
    none = next(row for card in (1, 2) for row in offers(html, card) if row.get("food") == "")
    html = visitor.send(f"/recipes/{recipe.pk}/steps/edit/", **{k: v for k, v in none.items() if k != TOKEN})
    recipe.refresh_from_db()
    assert "egg" not in recipe.process["foods"]
    assert "only the method names it" not in html


def test_a_line_that_hides_raw_food_is_never_confirmed(visitor: Visitor) -> None:
    recipe = bring(visitor, NO_SERVE.replace("200 g sea kelp crisps", "chicken and chips"))
    assert "names a raw food" in visitor.get(f"/recipes/{recipe.pk}/steps/")
    confirm(visitor, recipe)
    recipe.refresh_from_db()
    assert recipe.confirmed_at is None


def test_a_sentence_said_to_order_nothing_stays_on_the_page_without_its_steps(visitor: Visitor) -> None:
    recipe = bring(visitor, SAME_BOARD)
    visitor.get(f"/recipes/{recipe.pk}/steps/")
    html = visitor.send(f"/recipes/{recipe.pk}/steps/edit/", what="aside", text="Rinse the cucumber.")
    recipe.refresh_from_db()
    assert "rinse" not in [step["do"] for step in recipe.process["steps"]]
    assert "Rinse the cucumber." in html
    visitor.send(f"/recipes/{recipe.pk}/steps/edit/", what="undo")
    recipe.refresh_from_db()
    assert "rinse" in [step["do"] for step in recipe.process["steps"]]


def test_what_was_guessed_is_asked_about_and_said_to_be_right_with_one_tap(visitor: Visitor) -> None:
    recipe = bring(visitor, SAME_BOARD.replace("Fry the cod for 8 minutes.", "Cook for 8 minutes."))
    html = visitor.get(f"/recipes/{recipe.pk}/steps/")
    assert "Foods guessed: no food is named" in html
    sure = next(
        row for n in range(1, 6) if f'id="question-{n}"' in html for row in offers(html, n) if row["what"] == "sure"
    )
    html = visitor.send(f"/recipes/{recipe.pk}/steps/edit/", **{k: v for k, v in sure.items() if k != TOKEN})
    recipe.refresh_from_db()
    step = next(step for step in recipe.process["steps"] if step["id"] == sure["step"])
    assert step["guesses"] == []
    assert f"Is step {recipe.process['steps'].index(step) + 1}." not in html


def test_a_step_is_added_anywhere_and_is_doubted_until_somebody_says_what_it_is(visitor: Visitor) -> None:
    recipe = bring(visitor, SAME_BOARD)
    visitor.get(f"/recipes/{recipe.pk}/steps/")
    html = visitor.send(f"/recipes/{recipe.pk}/steps/edit/", what="blank", step="s1")
    recipe.refresh_from_db()
    assert (recipe.process["steps"][1]["do"], recipe.process["steps"][1]["guesses"]) == ("touch", ["step"])
    assert "added: nothing says so" in html


@pytest.mark.parametrize("field", ["told", "accepted", "unread", "aside"])
def test_stored_words_that_are_none_are_said_and_no_page_breaks(visitor: Visitor, field: str) -> None:
    recipe = bring(visitor, SAME_BOARD)
    Recipe.objects.filter(pk=recipe.pk).update(process={**recipe.process, field: [{"text": 3}]})
    for page in ("steps/", ""):
        answer = visitor.client.get(f"/recipes/{recipe.pk}/{page}")
        assert answer.status_code == 302
    assert visitor.client.get(answer["Location"]).status_code == 200
