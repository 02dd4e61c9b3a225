"""Recipes on the web: bringing in, correcting, editing, confirming, and who may do what."""

import json
import re
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from bulwark.kitchens import selectors as kitchens
from bulwark.kitchens import services as kitchen_services
from bulwark.kitchens.models import LocalLimit
from bulwark.lessons.models import Lesson
from bulwark.people import services as people
from bulwark.recipes import selectors, services
from bulwark.recipes.adapters import steps_version
from bulwark.recipes.models import Recipe
from foodsafety.quantities import CoreError
from foodsafety.recipes import read_document
from tests.web.conftest import Hostel, paper_of

SOUP = """Causeway soup
Serves 4

Ingredients
3 leeks, sliced
500 ml vegetable stock
2 tbsp moonrock

Method
Wash the leeks. Simmer the leeks in the stock for 20 minutes.
Scatter the moonrock over and serve.

Notes
Windy days only.
"""


@pytest.fixture
def client(hostel: Hostel) -> Client:
    return hostel.client()


@pytest.fixture
def soup(hostel: Hostel) -> Recipe:
    return services.add_recipe(by=hostel.actor, document=read_document(SOUP), locale="en-GB")


def edit(client: Client, recipe: Recipe, what: str, step: str = "", **fields: Any) -> Any:
    return client.post(
        f"/recipes/{recipe.pk}/steps/edit/", {"what": what, "step": step, **fields}, headers={"HX-Request": "true"}
    )


def paths(recipe: Recipe) -> list[str]:
    own = [
        "",
        "steps/",
        "write/",
        "amounts/",
        "eaters/",
        "variants/",
        "cost/",
        "recipe.json",
        "recipe.md",
    ]
    return [f"/recipes/{recipe.pk}/{page}" for page in own]


def changes(recipe: Recipe) -> list[str]:
    own = ["write/", "lines/0/", "steps/edit/", "confirm/", "recipe.pdf", "eaters/", "swap/", "variants/", "lesson/"]
    return [f"/recipes/{recipe.pk}/{page}" for page in own]


def test_every_page_of_an_unconfirmed_recipe_opens(client: Client, soup: Recipe) -> None:
    statuses = {path: client.get(path).status_code for path in paths(soup)}

    assert statuses == dict.fromkeys(paths(soup), 200)


def test_every_page_that_relies_on_the_steps_says_they_are_unconfirmed(client: Client, soup: Recipe) -> None:
    pages = [f"/recipes/{soup.pk}/{page}" for page in ("", "steps/", "amounts/", "eaters/", "variants/", "cost/")]

    assert all("Unconfirmed" in client.get(path).content.decode() for path in pages)


def test_another_organisation_finds_no_recipe(soup: Recipe, hostel: Hostel) -> None:
    stranger = Hostel("Other House").client()

    assert {stranger.get(path).status_code for path in paths(soup)} == {404}
    assert {stranger.post(path).status_code for path in changes(soup)} == {404}
    assert soup.title not in stranger.get("/recipes/").content.decode()


def test_a_tablet_and_a_stranger_see_no_recipe(soup: Recipe, hostel: Hostel) -> None:
    for client in (hostel.open().tablet(), Client()):
        assert {client.get(path).status_code for path in [*paths(soup), "/recipes/", "/rules/", "/kitchen/"]} == {302}


def test_a_pasted_recipe_shows_every_line_beside_what_was_understood(client: Client) -> None:
    answer = client.post("/recipes/bring/", {"text": SOUP, "locale": "en-GB"}, follow=True)
    page = re.sub(r"<[^>]+>", "", answer.content.decode())

    assert all(
        line.strip() in page for line in SOUP.splitlines() if line.strip().startswith(("3 ", "500", "2 tbsp", "Windy"))
    )
    assert "Scatter the moonrock over and" in page
    assert "Nobody here knows this food" in page


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (b"", "There is nothing here"),
        (b"x" * 2_000_000, "bytes"),
        (b"\x89PNG\r\n\x1a\n\x00", "This is no text"),
        (b"Soup\n3 leeks\nbr\xfbl\xe9e", "Line 3: "),
        (b"line\n" * 10_000, "Line 2001: "),
        (b'{"@type": "Recipe",\n oops}', "Line 2: "),
    ],
    ids=["empty", "2 MB", "binary", "wrong encoding", "10,000 lines", "broken JSON"],
)
def test_a_bad_file_is_refused_with_the_place_and_what_was_sent_is_kept(client: Client, data: bytes, said: str) -> None:
    before = Recipe.objects.count()

    answer = client.post("/recipes/bring/", {"file": SimpleUploadedFile("r.txt", data), "locale": "en-GB"})

    assert (answer.status_code, Recipe.objects.count()) == (422, before)
    assert said in answer.content.decode()
    if b"leeks" in data:
        assert "3 leeks" in answer.content.decode()


def test_a_script_in_a_page_is_never_kept(client: Client) -> None:
    page = (
        "<script>alert(1)</script><h1>Soup<img src=x onerror=alert(2)></h1><h2>Ingredients</h2><li>3 leeks</li>"
        "<h2>Method</h2><p>Boil the leeks.</p>"
    )

    client.post("/recipes/bring/", {"text": page, "locale": "en-GB"})

    recipe = Recipe.objects.get(title="Soup")
    kept = json.dumps([recipe.title, recipe.ingredients, recipe.instructions, recipe.source, recipe.process])
    assert "alert" not in kept
    assert "<" not in kept


@pytest.mark.parametrize("text", ["Only a title", "Soup\n\nIngredients\nleeks\nsalt", "Soup\n\nMethod\nBoil it."])
def test_a_recipe_with_little_in_it_is_kept_and_shown(client: Client, text: str) -> None:
    answer = client.post("/recipes/bring/", {"text": text, "locale": "en-GB"}, follow=True)

    assert answer.status_code == 200
    recipe = Recipe.objects.latest("pk")
    assert {client.get(path).status_code for path in paths(recipe)} == {200}


def test_json_ld_out_and_in_loses_nothing(client: Client, hostel: Hostel) -> None:
    original = Recipe.objects.get(organisation=hostel.organisation)
    text = client.get(f"/recipes/{original.pk}/recipe.json").content.decode()

    client.post("/recipes/bring/", {"text": text, "locale": "en-US"})

    copy = Recipe.objects.latest("pk")
    for name in (
        "title",
        "summary",
        "serves",
        "servings_text",
        "locale",
        "ingredients",
        "instructions",
        "notes",
        "pieces",
        "process",
    ):
        assert getattr(copy, name) == getattr(original, name), name
    assert copy.confirmed_at is None


def test_markdown_out_and_in_loses_nothing(client: Client, soup: Recipe) -> None:
    text = client.get(f"/recipes/{soup.pk}/recipe.md").content.decode()

    client.post("/recipes/bring/", {"text": text, "locale": "en-US"})

    copy = Recipe.objects.latest("pk")
    for name in ("title", "serves", "locale", "ingredients", "instructions", "notes", "process"):
        assert getattr(copy, name) == getattr(soup, name), name


def test_a_forged_process_is_left_to_be_read_from_the_words(client: Client) -> None:
    forged = {
        "@type": "Recipe",
        "name": "Trap",
        "recipeIngredient": ["1 chicken breast"],
        "recipeInstructions": "Fry the chicken.",
        "bulwark:recipe": {
            "process": {"steps": [{"id": 1, "do": "teleport"}]},
            "eaters": {"groups": {"martian": 3}},
            "variants": [7],
        },
    }

    client.post("/recipes/bring/", {"text": json.dumps(forged), "locale": "en-GB"})

    recipe = Recipe.objects.latest("pk")
    assert [step["do"] for step in recipe.process["steps"]] == ["heat", "serve"]
    assert (recipe.eaters["groups"], recipe.variants) == ({}, [])
    assert "refused" in client.get(f"/recipes/{recipe.pk}/steps/").content.decode()


def test_an_unknown_food_is_asked_about_once_and_remembered(client: Client, soup: Recipe, hostel: Hostel) -> None:
    answer = client.post(
        f"/recipes/{soup.pk}/lines/2/",
        {
            "low": "2",
            "unit": "tbsp",
            "food": "moonrock",
            "kind": "sunflower seeds",
            "allergens": ["sesame"],
            "remember": "1",
        },
        headers={"HX-Request": "true"},
    )
    later = services.add_recipe(
        by=hostel.actor, document=read_document("Toast\n1 tbsp moonrock\nServe the moonrock."), locale="en-GB"
    )

    assert answer.status_code == 200
    assert later.process["foods"]["moonrock"]["kind"] == "sunflower_seeds"
    assert "sesame" in later.process["foods"]["moonrock"]["allergens"]


def test_a_wrong_correction_names_the_field_and_keeps_what_was_typed(client: Client, soup: Recipe) -> None:
    answer = client.post(
        f"/recipes/{soup.pk}/lines/0/", {"low": "3", "food": "leeks", "kind": "unicorn"}, headers={"HX-Request": "true"}
    )

    assert answer.status_code == 422
    assert "unicorn" in answer.content.decode()
    soup.refresh_from_db()
    assert soup.corrections == {}


def confirm(client: Client, recipe: Recipe) -> Any:
    """What the button on a freshly loaded page sends."""
    recipe.refresh_from_db()
    version = steps_version(recipe)
    return client.post(f"/recipes/{recipe.pk}/confirm/", {"version": version}, follow=True)


def test_what_somebody_else_has_changed_meanwhile_is_not_confirmed(client: Client, hostel: Hostel) -> None:
    recipe = Recipe.objects.get(organisation=hostel.organisation)
    edit(client, recipe, "down", "grate")
    page = client.get(f"/recipes/{recipe.pk}/steps/").content.decode()
    seen = page.split('name="version" value="')[1].split('"')[0]
    edit(client, recipe, "up", "grate")

    answer = client.post(f"/recipes/{recipe.pk}/confirm/", {"version": seen}, follow=True).content.decode()

    recipe.refresh_from_db()
    assert recipe.confirmed_at is None
    assert "changed since you read them" in answer
    client.post(f"/recipes/{recipe.pk}/confirm/")
    recipe.refresh_from_db()
    assert recipe.confirmed_at is None


def test_steps_with_an_unknown_food_cannot_be_confirmed(client: Client, soup: Recipe) -> None:
    page = confirm(client, soup).content.decode()

    soup.refresh_from_db()
    assert soup.confirmed_at is None
    assert "moonrock" in page


def test_confirming_is_signed_and_an_edit_takes_it_back(client: Client, hostel: Hostel) -> None:
    recipe = Recipe.objects.get(organisation=hostel.organisation)
    edit(client, recipe, "down", "grate")
    confirm(client, recipe)
    recipe.refresh_from_db()
    assert recipe.confirmed_by_id == hostel.user.pk

    edit(client, recipe, "split", "mix")

    recipe.refresh_from_db()
    assert recipe.confirmed_at is None


def test_edits_are_undone_one_by_one(client: Client, hostel: Hostel) -> None:
    recipe = Recipe.objects.get(organisation=hostel.organisation)
    before = recipe.process
    for what, step in (("split", "mix"), ("down", "wash"), ("add", "shape")):
        assert edit(client, recipe, what, step).status_code == 200

    for _ in range(3):
        edit(client, recipe, "undo")

    recipe.refresh_from_db()
    assert recipe.process == before
    assert edit(client, recipe, "undo").status_code == 422


@pytest.mark.parametrize(
    ("what", "step", "fields"),
    [
        ("up", "nowhere", {}),
        ("fly", "mix", {}),
        ("remove", "mix", {}),
        ("change", "mix", {"do": "mix", "foods": "unicorn"}),
        ("change", "mix", {"do": "mix", "minutes": "-3"}),
        ("order", "", {"ids": "mix,mix"}),
    ],
)
def test_an_edit_that_cannot_be_changes_nothing_and_says_why(
    client: Client, hostel: Hostel, what: str, step: str, fields: dict
) -> None:
    recipe = Recipe.objects.get(organisation=hostel.organisation)
    before = recipe.process

    answer = edit(client, recipe, what, step, **fields)

    recipe.refresh_from_db()
    assert (answer.status_code, recipe.process) == (422, before)
    assert "Nothing was changed" in answer.content.decode()


def test_any_name_of_a_food_finds_its_recipes(client: Client, hostel: Hostel) -> None:
    assert "Turkey koftas" in client.get("/recipes/?q=courgette+OR+cilantro+OR+turkey").content.decode()
    assert "Turkey koftas" in client.get("/recipes/?q=ground+turkey").content.decode()
    assert "Turkey koftas" in client.get("/recipes/?q=turky").content.decode()
    assert "Nothing with" in client.get("/recipes/?q=submarine").content.decode()


@pytest.mark.parametrize(
    "query", ["q=%00", "q=%27%22%3B--&page=-1", "page=999999999999", "q=" + "x" * 5000, "page=abc"]
)
def test_a_strange_search_is_only_a_search(client: Client, hostel: Hostel, query: str) -> None:
    assert client.get(f"/recipes/?{query}").status_code == 200


def test_a_list_of_recipes_is_one_query_long(hostel: Hostel, django_assert_num_queries) -> None:
    with django_assert_num_queries(1):
        selectors.recipe_page(hostel.actor, "turkey", 1)


@pytest.mark.parametrize(
    ("query", "status", "said"),
    [
        ("by=servings&servings=10", 200, "× 2.5"),
        ("by=people&people=5&each=2", 200, "× 2.5"),
        ("by=have&line=0&have=1.3&have_unit=kg", 200, "× 2.6"),
        ("by=servings&servings=-1", 422, "servings"),
        ("by=servings&servings=", 422, "How many: 0 is not above 0."),
        ("by=have&line=99&have=1", 422, "line"),
        ("by=have&line=0&have=1&have_unit=parsec", 422, "parsec"),
        ("by=magic", 422, "by"),
    ],
)
def test_scaling_answers_or_says_which_wish_is_wrong(
    client: Client, hostel: Hostel, query: str, status: int, said: str
) -> None:
    recipe = Recipe.objects.get(organisation=hostel.organisation)

    answer = client.get(f"/recipes/{recipe.pk}/amounts/?{query}")

    assert answer.status_code == status
    assert said in answer.content.decode()


def test_a_swap_shows_what_changes_and_is_kept_as_a_recipe_of_its_own(client: Client, hostel: Hostel) -> None:
    recipe = Recipe.objects.get(organisation=hostel.organisation)

    page = client.get(f"/recipes/{recipe.pk}/eaters/?line=0&swap=lamb-mince").content.decode()
    client.post(f"/recipes/{recipe.pk}/swap/", {"line": "0", "swap": "lamb-mince"})

    assert "raw meat" in page
    assert "165 °F" in page
    assert "160 °F" in page
    kept = Recipe.objects.get(base=recipe)
    assert (kept.confirmed_at, kept.process["foods"]["turkey"]["kind"]) == (None, "lamb_mince")
    assert client.get(f"/recipes/{kept.pk}/").status_code == 200


@pytest.mark.parametrize(
    "query", ["line=0&swap=oat-milk", "line=77&swap=lamb-mince", "line=0&swap=nonsense", "line=0&swap="]
)
def test_a_swap_that_cannot_be_is_refused_kindly(client: Client, hostel: Hostel, query: str) -> None:
    recipe = Recipe.objects.get(organisation=hostel.organisation)

    assert client.get(f"/recipes/{recipe.pk}/eaters/?{query}").status_code == 200


def test_leaving_out_a_garnish_is_a_recipe_without_it(client: Client, hostel: Hostel) -> None:
    recipe = Recipe.objects.get(organisation=hostel.organisation)

    client.post(f"/recipes/{recipe.pk}/swap/", {"line": "7", "swap": ""})

    assert "mint" not in Recipe.objects.get(base=recipe).process["foods"]


def test_who_eats_is_judged_on_the_read_through(client: Client, hostel: Hostel) -> None:
    recipe = Recipe.objects.get(organisation=hostel.organisation)

    client.post(f"/recipes/{recipe.pk}/eaters/", {"count": "12", "pregnant": "1", "allergens": ["milk"]})

    page = client.get(f"/recipes/{recipe.pk}/").content.decode()
    assert "not for allergic to milk" in page
    assert "coconut yoghurt" in page


def test_variants_say_what_is_cooked_first(client: Client, hostel: Hostel) -> None:
    recipe = Recipe.objects.get(organisation=hostel.organisation)

    client.post(
        f"/recipes/{recipe.pk}/variants/",
        {
            "name": ["Raw start", "Cold"],
            "who": ["AK", "JT"],
            "lines": ["100 g chicken breast\n50 g moonrock", "30 g cheddar"],
        },
    )

    page = client.get(f"/recipes/{recipe.pk}/variants/").content.decode()
    assert "165 °F" in page
    assert "counts as unsafe" in page
    assert "ready as it is" in page


def test_a_price_makes_a_cost_and_a_missing_one_is_said(client: Client, hostel: Hostel) -> None:
    recipe = Recipe.objects.get(organisation=hostel.organisation)
    client.post(
        "/kitchen/price/",
        {"kind": "turkey_mince", "amount": "8.00", "per": "kg", "next": f"/recipes/{recipe.pk}/cost/"},
    )

    page = client.get(f"/recipes/{recipe.pk}/cost/").content.decode()

    assert "at least" in page
    assert "4.00" in page


@pytest.mark.parametrize(
    "data",
    [
        {"kind": "unicorn", "amount": "1", "per": "kg"},
        {"kind": "egg", "amount": "-1", "per": "each"},
        {"kind": "egg", "amount": "x", "per": "each"},
        {"kind": "egg", "amount": "1", "per": "dozen"},
    ],
)
def test_a_price_that_cannot_be_is_refused(client: Client, hostel: Hostel, data: dict[str, str]) -> None:
    client.post("/kitchen/price/", data)

    assert kitchens.prices_of(hostel.organisation.pk) == {}


def test_a_large_pack_is_held_against_the_freezer(client: Client, hostel: Hostel) -> None:
    client.post("/kitchen/price/", {"kind": "turkey_mince", "amount": "8.00", "per": "kg"})

    page = client.get("/kitchen/bulk/?kind=turkey_mince&pack=10&pack_price=50&used_per_month=2").content.decode()

    assert "This pack is too much" in page


def test_rules_lie_side_by_side_for_any_food(client: Client, hostel: Hostel) -> None:
    page = client.get("/rules/?food=shrimp").content.decode()

    assert all(code in page for code in ("us-home", "us-foodservice", "uk", "canada", "anz"))
    assert "145 °F, 15 s" in page
    assert "crustacean" in page
    assert "No food is called" in client.get("/rules/?food=unicorn").content.decode()


def test_a_local_limit_is_signed_flagged_and_followed_by_new_lessons(client: Client, hostel: Hostel) -> None:
    data = {"base": "us-home", "path": "cook.poultry.temperature", "value": "160", "signed": "RK", "reason": "a trial"}
    client.post("/rules/limit/", data)
    recipe = Recipe.objects.get(organisation=hostel.organisation)
    client.post(
        f"/recipes/{recipe.pk}/lesson/",
        {"starts_at": "2026-11-24T10:30", "length_min": "75", "benches": "Gannet: SD, RO"},
    )
    lesson = Lesson.objects.latest("pk")

    assert "weaker than its base" in client.get("/rules/").content.decode()
    assert lesson.weaker == {"cook.poultry.temperature"}
    plan = client.get(f"/lessons/{lesson.pk}/plan/").content.decode()
    assert "160 °F" in plan
    assert "weaker than us-home" in plan
    assert "weaker" not in client.get(f"/lessons/{hostel.lesson.pk}/plan/").content.decode()


def test_a_local_limit_is_taken_back_by_a_later_one_and_none_is_lost(client: Client, hostel: Hostel) -> None:
    data = {"base": "us-home", "path": "hands.scrub_s", "signed": "RK", "reason": "why"}
    client.post("/rules/limit/", {**data, "value": "30"})
    client.post("/rules/limit/", {**data, "back": "1"})

    assert kitchens.rules_for(hostel.organisation.pk, "us-home").scrub_s == 20
    assert LocalLimit.objects.count() == 2


@pytest.mark.parametrize(
    "data",
    [
        {"path": "cook.poultry.unit", "value": "3"},
        {"path": "hands.scrub_s", "value": "-3"},
        {"path": "hands.scrub_s", "value": "30", "reason": ""},
        {"path": "hands.scrub_s", "value": "30", "signed": ""},
        {"path": "hands.scrub_s", "value": ""},
        {"path": "hands.scrub_s", "value": "nan"},
    ],
)
def test_a_local_limit_that_cannot_be_is_not_set(client: Client, hostel: Hostel, data: dict[str, str]) -> None:
    client.post("/rules/limit/", {"base": "us-home", "signed": "RK", "reason": "why", **data})

    assert not LocalLimit.objects.exists()


def test_house_rules_are_kept_and_a_wrong_one_is_named(client: Client, hostel: Hostel) -> None:
    good = {
        "profile": "uk",
        "locale": "en-GB",
        "currency": "GBP",
        "benches": "6",
        "boards": "separate",
        "gloves": "bare",
        "drying": "paper",
        "produce": "brush",
        "sanitise": "sanitise",
        "eggs": "firm",
        "scrub_s": "30",
    }
    client.post("/kitchen/", good)
    wrong = client.post("/kitchen/", {**good, "boards": "none"})

    decided = kitchens.decided_by(hostel.organisation.pk)
    assert (decided.profile, kitchens.house_of(decided).boards, kitchens.house_of(decided).scrub_s) == (
        "uk",
        "separate",
        30,
    )
    assert (wrong.status_code, "boards" in wrong.content.decode()) == (422, True)


def test_what_the_kitchen_lacks_is_said_on_the_read_through(client: Client, hostel: Hostel) -> None:
    recipe = Recipe.objects.get(organisation=hostel.organisation)
    client.post("/kitchens/", {"begin": "1"})
    [room] = kitchens.kitchens_of(hostel.organisation.pk)
    cells = {"name": "Hostel", "benches": "4", "n-grater": "3", "n-oven": ""}
    client.post("/kitchens/", {f"k{room.pk}-{name}": value for name, value in cells.items()})

    page = client.get(f"/recipes/{recipe.pk}/?benches=4").content.decode()

    assert "1 missing" in page
    assert "not counted" in page


def test_a_lesson_on_an_unconfirmed_recipe_says_so_everywhere(client: Client, soup: Recipe) -> None:
    client.post(
        f"/recipes/{soup.pk}/lesson/", {"starts_at": "2026-11-24T10:30", "length_min": "75", "benches": "Gannet: SD"}
    )
    lesson = Lesson.objects.latest("pk")

    pages = [f"/lessons/{lesson.pk}/{page}" for page in ("", "plan/", "wall/", "record/")]
    assert all("steps unconfirmed" in client.get(path).content.decode() for path in [*pages, "/"])


@pytest.mark.parametrize("benches", ["", "Gannet", "Gannet:", "x" * 50 + ": AB"])
def test_a_lesson_needs_benches_with_somebody(client: Client, soup: Recipe, benches: str) -> None:
    before = Lesson.objects.count()
    data = {"starts_at": "2026-11-24T10:30", "length_min": "77", "benches": benches}

    answer = client.post(f"/recipes/{soup.pk}/lesson/", data)

    assert (answer.status_code, Lesson.objects.count()) == (422, before)
    assert 'value="77"' in answer.content.decode()


def test_words_changed_keep_corrections_of_lines_that_stayed(client: Client, soup: Recipe, hostel: Hostel) -> None:
    services.correct_line(
        recipe=soup,
        line=2,
        values={"low": 2, "high": 2, "unit": "tbsp", "food": "moonrock", "kind": "almond"},
        by=hostel.actor,
        remember=False,
    )

    client.post(
        f"/recipes/{soup.pk}/write/",
        {"title": "Soup", "serves": "4", "ingredients": "4 leeks\n2 tbsp moonrock", "instructions": "Boil the leeks."},
    )

    soup.refresh_from_db()
    assert soup.corrections["1"]["kind"] == "almond"
    assert len(soup.corrections) == 1


def test_the_words_form_keeps_what_was_typed_when_the_title_is_missing(client: Client, hostel: Hostel) -> None:
    answer = client.post("/recipes/write/", {"title": "", "ingredients": "3 leeks", "serves": "many"})

    assert answer.status_code == 422
    assert "3 leeks" in answer.content.decode()


def test_a_limit_set_by_nobody_is_refused_by_the_service(hostel: Hostel) -> None:
    with pytest.raises(CoreError, match="unsigned limit"):
        kitchen_services.set_limit(by=hostel.actor, base="uk", path="hands.scrub_s", value=30, signed=" ", reason="x")


def test_sentences_without_an_order_are_shown_beside_the_steps(client: Client, hostel: Hostel) -> None:
    text = SOUP.replace("Wash the leeks.", "Granny liked it so. Wash the leeks.")
    recipe = services.add_recipe(by=hostel.actor, document=read_document(text), locale="en-GB")

    assert "Granny liked it so." in client.get(f"/recipes/{recipe.pk}/steps/").content.decode()


def test_prices_limits_and_answers_stay_with_their_organisation(client: Client, hostel: Hostel) -> None:
    other = Hostel("Other House")
    client.post("/kitchen/price/", {"kind": "egg", "amount": "0.30", "per": "each"})
    client.post(
        "/rules/limit/", {"base": "uk", "path": "hands.scrub_s", "value": "30", "signed": "RK", "reason": "why"}
    )
    kitchen_services.remember_food(by=hostel.actor, words="moonrock", kind="almond", allergens=[])

    assert kitchens.prices_of(other.organisation.pk) == {}
    assert kitchens.local_changes(other.organisation.pk, "uk") == []
    assert kitchens.known_foods(other.organisation.pk) == {}
    assert kitchens.prices_of(hostel.organisation.pk)["egg"].per == "each"


def test_a_later_price_counts_and_the_earlier_stays(client: Client, hostel: Hostel) -> None:
    for amount in ("0.30", "0.35"):
        client.post("/kitchen/price/", {"kind": "egg", "amount": amount, "per": "each"})

    assert str(kitchens.prices_of(hostel.organisation.pk)["egg"].amount) == "0.35"
    assert hostel.organisation.prices.count() == 2


def test_an_unsure_line_is_right_with_one_click(client: Client, hostel: Hostel) -> None:
    recipe = services.add_recipe(
        by=hostel.actor, document=read_document("Dip\n300 g chicken moonrock\nServe the chicken."), locale="en-GB"
    )
    assert "It is right" in client.get(f"/recipes/{recipe.pk}/steps/").content.decode()

    data = {"low": "300", "high": "300", "unit": "g", "food": "chicken moonrock", "kind": "chicken"}
    answer = client.post(f"/recipes/{recipe.pk}/lines/0/", data, headers={"HX-Request": "true"})

    assert "It is right" not in answer.content.decode()
    assert "corrected by hand" in answer.content.decode()


def test_edits_work_without_a_script(client: Client, hostel: Hostel) -> None:
    recipe = Recipe.objects.get(organisation=hostel.organisation)

    moved = client.post(f"/recipes/{recipe.pk}/steps/edit/", {"what": "down", "step": "grate"})
    refused = client.post(f"/recipes/{recipe.pk}/steps/edit/", {"what": "remove", "step": "mix"}, follow=True)

    assert moved["Location"].endswith("#step-grate")
    assert "koftas" in refused.content.decode()


def test_a_recipe_is_written_here_from_nothing(client: Client) -> None:
    method = "Toast the bread.\nSpread with the butter and serve."
    data = {"title": "Toast", "serves": "2", "ingredients": "2 slices bread\n10 g butter", "instructions": method}

    client.post("/recipes/write/", data)

    recipe = Recipe.objects.get(title="Toast")
    assert [step["do"] for step in recipe.process["steps"]] == ["heat", "transfer", "serve"]


def test_an_empty_shelf_of_recipes_says_what_to_do(db: None) -> None:
    user = people.create_educator(
        organisation=people.create_organisation(name="New House"), username="new@house.example", password="x"
    )
    client = Client()
    client.force_login(user, backend="django.contrib.auth.backends.ModelBackend")

    page = client.get("/recipes/").content.decode()

    assert "No recipe yet" in page
    assert "Bring a recipe in" in page
    assert {client.get(path).status_code for path in ("/rules/", "/kitchen/", "/recipes/bring/")} == {200}


def test_the_paper_is_a_pdf_and_says_when_it_is_unconfirmed(client: Client, soup: Recipe) -> None:
    assert paper_of(client, f"/recipes/{soup.pk}/recipe.pdf").startswith(b"%PDF")


def test_the_lesson_form_begins_with_the_benches_of_the_last_lesson(client: Client, hostel: Hostel) -> None:
    recipe = Recipe.objects.get(organisation=hostel.organisation)

    assert "Gannet: SD, RO" in client.get(f"/recipes/{recipe.pk}/").content.decode()


def test_what_a_known_food_brings_is_not_lost_by_correcting_its_line(
    client: Client, soup: Recipe, hostel: Hostel
) -> None:
    url, head = f"/recipes/{soup.pk}/lines/2/", {"HX-Request": "true"}
    line = {"low": "2", "unit": "tbsp", "food": "moonrock", "kind": "sunflower_seeds"}
    client.post(url, {**line, "allergens": ["sesame"], "remember": "1"}, headers=head)
    edit(client, soup, "down", "s1")

    answer = client.post(url, {**line, "low": "3"}, headers=head)

    soup.refresh_from_db()
    assert "sesame" in answer.content.decode()
    assert "sesame" in soup.process["foods"]["moonrock"]["allergens"]


def test_foods_taken_as_clean_are_named_before_somebody_confirms(client: Client, hostel: Hostel) -> None:
    recipe = Recipe.objects.get(organisation=hostel.organisation)

    assert "Taken as washed or safe" in client.get(f"/recipes/{recipe.pk}/steps/").content.decode()


# --- a folder, copies, what changed, what is put away ----------------------------------------------------------


def files(**named: str | bytes) -> list[SimpleUploadedFile]:
    rows = {name: text if isinstance(text, bytes) else text.encode() for name, text in named.items()}
    return [SimpleUploadedFile(f"{name}.txt", data) for name, data in rows.items()]


def test_a_folder_is_read_at_once_and_one_table_says_what_needs_an_answer(client: Client) -> None:
    plain = "Leek pan\n\n2 leeks\n\nRinse the leeks.\nFry the leeks.\nServe the leeks."
    sent = files(soup=SOUP, plain=plain, broken=b"\x89PNG\r\n\x1a\n\x00")
    page = client.post("/recipes/folder/", {"files": sent, "locale": "en-GB"}, follow=True).content.decode()
    rows = {row.split("</a>")[0].split(">")[-1]: row for row in page.split("<tr")[2:]}

    assert "broken.txt: This is no text" in page
    assert set(rows) == {"Causeway soup", "Leek pan"}
    assert "it back" in rows["Causeway soup"]
    assert "it back" not in rows["Leek pan"]


def test_a_file_of_a_folder_is_a_row_of_its_own(client: Client) -> None:
    head = {"HX-Request": "true"}
    good = client.post("/recipes/folder/", {"files": files(soup=SOUP), "locale": "en-GB"}, headers=head)
    bad = client.post("/recipes/folder/", {"files": files(none=b"\x00"), "locale": "en-GB"}, headers=head)
    odd = client.post("/recipes/folder/", {"files": files(soup=SOUP), "locale": "xx"}, headers=head)

    assert "Causeway soup" in good.content.decode()
    assert good.content.decode().count("<tr") == 1
    assert "none.txt" in bad.content.decode()
    assert "This is no text" in bad.content.decode()
    assert Recipe.objects.filter(title="Causeway soup").count() == 1
    assert odd.status_code == 200


def test_no_file_and_no_waiting_recipe_are_said(client: Client, hostel: Hostel) -> None:
    page = client.post("/recipes/folder/", {"locale": "en-GB"}, follow=True).content.decode()
    assert "No recipe was brought in" in page
    assert "Nothing waits" in client.get("/recipes/waiting/").content.decode()


def test_what_waits_is_the_organisations_own(client: Client, soup: Recipe) -> None:
    stranger = Hostel("Other House").client()
    assert soup.title in client.get("/recipes/waiting/").content.decode()
    assert soup.title not in stranger.get(f"/recipes/waiting/?ids={soup.pk}").content.decode()


def test_a_recipe_is_put_away_and_taken_out_again(client: Client, soup: Recipe) -> None:
    client.post(f"/recipes/{soup.pk}/archive/")
    assert soup.title not in client.get("/recipes/").content.decode()
    assert soup.title not in client.get("/recipes/?q=moonrock").content.decode()
    assert "1 recipe put away" in client.get("/recipes/").content.decode()
    assert soup.title in client.get("/recipes/?archived=1").content.decode()
    assert client.get(f"/recipes/{soup.pk}/").status_code == 200

    client.post(f"/recipes/{soup.pk}/archive/")
    assert soup.title in client.get("/recipes/").content.decode()


def test_a_copy_is_unconfirmed_and_is_compared_with_what_it_was_copied_from(client: Client, hostel: Hostel) -> None:
    base = Recipe.objects.get(organisation=hostel.organisation)
    client.post(f"/recipes/{base.pk}/copy/")
    copy = Recipe.objects.latest("pk")
    assert (copy.base_id, copy.confirmed_at, copy.process) == (base.pk, None, base.process)
    assert "Nothing in the steps is different" in client.get(f"/recipes/{copy.pk}/changes/").content.decode()

    edit(client, copy, "add", "grate")
    page = client.get(f"/recipes/{copy.pk}/changes/").content.decode()
    assert "New step: Wash your hands" in page
    assert (
        "Step taken out: Wash your hands" in client.get(f"/recipes/{base.pk}/changes/?other={copy.pk}").content.decode()
    )


def test_a_lesson_says_what_its_recipe_has_changed_since(client: Client, hostel: Hostel) -> None:
    recipe = Recipe.objects.get(organisation=hostel.organisation)
    assert "changes/" not in client.get(f"/lessons/{hostel.lesson.pk}/").content.decode()
    edit(client, recipe, "down", "grate")
    assert "The recipe has 1 change since" in client.get(f"/lessons/{hostel.lesson.pk}/").content.decode()
    assert "Step moved" in client.get(f"/lessons/{hostel.lesson.pk}/changes/").content.decode()


@pytest.mark.parametrize("what", ["archive/", "copy/"])
def test_nobody_else_copies_or_puts_away(soup: Recipe, what: str) -> None:
    stranger = Hostel("Other House").client()
    assert stranger.post(f"/recipes/{soup.pk}/{what}").status_code == 404
    assert stranger.get(f"/recipes/{soup.pk}/changes/").status_code == 404
    soup.refresh_from_db()
    assert soup.archived_at is None


def test_a_recipe_is_never_compared_with_another_organisations(client: Client, hostel: Hostel) -> None:
    other = Hostel("Other House")
    theirs = Recipe.objects.get(organisation=other.organisation)
    ours = Recipe.objects.get(organisation=hostel.organisation)
    assert client.get(f"/recipes/{ours.pk}/changes/?other={theirs.pk}").status_code == 404


def test_a_lesson_on_a_recipe_with_open_questions_says_which(client: Client, soup: Recipe) -> None:
    client.post(
        f"/recipes/{soup.pk}/lesson/", {"benches": "Gannet: SD", "starts_at": "2026-12-01T10:30", "length_min": "60"}
    )
    lesson = Lesson.objects.latest("pk")
    for page in ("", "plan/"):
        assert "Nobody has said what “moonrock” is." in client.get(f"/lessons/{lesson.pk}/{page}").content.decode()


def test_every_page_and_paper_of_an_unconfirmed_recipe_says_which_question_is_open(
    client: Client, soup: Recipe
) -> None:
    for page in ("", "amounts/", "eaters/", "variants/", "cost/"):
        assert "Nobody has said what “moonrock” is." in client.get(f"/recipes/{soup.pk}/{page}").content.decode()


def test_a_lesson_with_open_questions_says_so_wherever_it_is_relied_on(client: Client, soup: Recipe) -> None:
    form = {"benches": "Gannet: SD", "starts_at": "2026-12-01T10:30", "length_min": "60"}
    client.post(f"/recipes/{soup.pk}/lesson/", form)
    lesson = Lesson.objects.latest("pk")
    for page in ("wall/", "record/"):
        assert "1 question open" in client.get(f"/lessons/{lesson.pk}/{page}").content.decode()
    assert "Nobody has said what “moonrock” is." in client.get(f"/lessons/{lesson.pk}/record/").content.decode()
