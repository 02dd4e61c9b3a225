"""Two people at the same recipe: what one has changed the other sees before it is undone or built upon."""

import re

import pytest
from django.test import Client
from django.utils import timezone

from bulwark.flow import services as flow
from bulwark.people import services as people
from bulwark.people.actors import Actor
from bulwark.people.models import User
from bulwark.recipes import services as recipes
from bulwark.recipes import wording
from bulwark.recipes.adapters import steps_version, to_process
from bulwark.recipes.models import ProcessEdit, Recipe
from bulwark.recipes.pages import RecipeContext, reading_page
from bulwark.recipes.pages.edits import last_edit, meanwhile
from foodsafety.quantities import CoreError
from foodsafety.recipes import read_document, weak_heats
from tests.builders import TURNED_WRAPS
from tests.web.conftest import PASSWORD, Hostel


@pytest.fixture
def other(hostel: Hostel) -> Actor:
    user = people.create_educator(organisation=hostel.organisation, username="second@skerry.example", password=PASSWORD)
    return Actor(kind="educator", user_id=user.pk, organisation_id=hostel.organisation.pk)


def own(hostel: Hostel) -> Recipe:
    return Recipe.objects.get(organisation=hostel.organisation)


def down(recipe: Recipe, by: Actor, seen: str = "") -> Recipe:
    return recipes.edit_steps(recipe=recipe, what="down", step_id="grate", fields={}, by=by, seen=seen)


def test_undo_says_what_it_takes_back_and_whose_it_was(hostel: Hostel, other: Actor) -> None:
    recipe = down(own(hostel), other)

    assert last_edit(recipe, other) == "moving a step"
    assert last_edit(recipe, hostel.actor) == "moving a step, by second@skerry.example"


def test_an_edit_from_before_this_was_kept_is_nobodys(hostel: Hostel, other: Actor) -> None:
    recipe = down(own(hostel), other)
    ProcessEdit.objects.update(by=None)

    assert last_edit(recipe, hostel.actor) == "moving a step"


def test_what_was_not_seen_cannot_be_undone(hostel: Hostel, other: Actor) -> None:
    recipe = own(hostel)
    seen = steps_version(recipe)
    recipe = down(recipe, other)
    with pytest.raises(CoreError) as wrong:
        recipes.edit_steps(recipe=recipe, what="undo", step_id="", fields={}, by=hostel.actor, seen=seen)

    assert wrong.value.why == "steps_changed_by_another"
    assert own(hostel).process == recipe.process


def test_what_was_seen_can_be_undone_by_anybody(hostel: Hostel, other: Actor) -> None:
    before = own(hostel).process
    recipe = down(own(hostel), other)
    recipes.edit_steps(recipe=recipe, what="undo", step_id="", fields={}, by=hostel.actor, seen=steps_version(recipe))

    assert own(hostel).process == before


def test_a_later_edit_is_told_what_has_changed_and_by_whom(hostel: Hostel, other: Actor) -> None:
    recipe = own(hostel)
    seen = steps_version(recipe)
    recipe = down(recipe, other)
    recipe = (
        recipes.edit_steps(recipe=recipe, what="remove", step_id="raita", fields={}, by=other)
        if any(step["id"] == "raita" for step in recipe.process["steps"])
        else down(recipe, other)
    )

    [told] = meanwhile(recipe, hostel.actor, seen)
    assert told.startswith("Changed since you saw the steps: moving a step, by second@skerry.example; ")
    assert meanwhile(recipe, hostel.actor, steps_version(recipe)) == []
    assert meanwhile(recipe, hostel.actor, "") == []


def test_steps_seen_too_long_ago_are_said_to_have_changed(hostel: Hostel, other: Actor) -> None:
    recipe = down(own(hostel), other)

    assert meanwhile(recipe, hostel.actor, "0123456789abcdef") == ["The steps have changed since you saw them."]


def test_the_screen_tells_it_after_an_edit_and_the_edit_counts(hostel: Hostel, other: Actor) -> None:
    client, recipe = hostel.client(), own(hostel)
    page = client.get(f"/recipes/{recipe.pk}/steps/").content.decode()
    seen = re.search(r'data-seen="(\w+)"', page)[1]
    down(recipe, other)
    answer = client.post(
        f"/recipes/{recipe.pk}/steps/edit/",
        {"what": "down", "step": "grate", "seen": seen},
        headers={"HX-Request": "true"},
    )

    assert answer.status_code == 200
    assert "Changed since you saw the steps: moving a step, by second@skerry.example." in answer.content.decode()
    assert own(hostel).edits.count() == 2


def test_a_stale_undo_is_refused_with_what_has_changed(hostel: Hostel, other: Actor) -> None:
    client, recipe = hostel.client(), own(hostel)
    page = client.get(f"/recipes/{recipe.pk}/steps/").content.decode()
    seen = re.search(r'data-seen="(\w+)"', page)[1]
    changed = down(recipe, other).process
    answer = client.post(
        f"/recipes/{recipe.pk}/steps/edit/", {"what": "undo", "step": "", "seen": seen}, headers={"HX-Request": "true"}
    )
    words = answer.content.decode()

    assert answer.status_code == 422
    assert "Somebody changed the steps meanwhile" in words
    assert "moving a step, by second@skerry.example" in words
    assert own(hostel).process == changed


def test_another_organisation_neither_sees_nor_undoes(hostel: Hostel) -> None:
    stranger = Hostel("Far Point")
    recipe = down(own(hostel), hostel.actor)
    client: Client = stranger.client()
    answer = client.post(f"/recipes/{recipe.pk}/steps/edit/", {"what": "undo", "seen": steps_version(recipe)})

    assert answer.status_code == 404
    assert own(hostel).edits.count() == 1


def test_the_reading_screen_has_the_version_it_shows(hostel: Hostel) -> None:
    recipe = own(hostel)

    assert reading_page(RecipeContext(recipe, hostel.actor))["version"] == steps_version(recipe)


# --- every way of changing the steps says whose it was, and belongs to one organisation ------------------------------


def unclear(hostel: Hostel) -> Recipe:
    """A recipe as it was pasted, with a heat that nobody knows and hands that nobody named."""
    document = read_document(TURNED_WRAPS)
    return recipes.add_recipe(by=hostel.actor, document=document, locale="en-GB")


def asked_edits(recipe: Recipe) -> list[dict[str, str]]:
    """What the screen of a recipe would send for its two new sorts of answer."""
    process = to_process(recipe)
    [heat] = weak_heats(recipe.process, process)
    by_hand = next(step["id"] for step in recipe.process["steps"] if "hands" in step.get("guesses", ()))
    return [
        {"what": "cooked", "step": heat, "how": "said"},
        {"what": "way", "step": by_hand, "carrier": "cook", "how": "another"},
    ]


def test_a_line_that_another_corrected_is_undone_as_theirs(hostel: Hostel, other: Actor) -> None:
    recipe = unclear(hostel)
    values = {"food": "lamb mince", "kind": "beef_mince", "low": 600, "high": 600, "unit": "g"}
    recipes.edit_steps(recipe=recipe, what="sure", step_id=recipe.process["steps"][0]["id"], fields={}, by=other)
    recipe = recipes.correct_line(recipe=recipe, line=0, values=values, by=other, remember=False)

    assert last_edit(recipe, hostel.actor) == "changing a food, by second@skerry.example"


def test_what_another_put_right_is_undone_as_theirs(hostel: Hostel, other: Actor) -> None:
    recipe = unclear(hostel)
    flow.put_right(recipe=recipe, actor=other)
    recipe.refresh_from_db()

    assert last_edit(recipe, hostel.actor) == "putting it right, by second@skerry.example"


def test_the_one_whose_account_is_gone_leaves_an_edit_that_can_be_undone(hostel: Hostel, other: Actor) -> None:
    before = own(hostel).process
    recipe = down(own(hostel), other)
    User.objects.filter(pk=other.user_id).delete()
    recipe = Recipe.objects.get(pk=recipe.pk)

    assert last_edit(recipe, hostel.actor) == "moving a step"
    recipes.edit_steps(recipe=recipe, what="undo", step_id="", fields={}, by=hostel.actor)
    assert own(hostel).process == before


@pytest.mark.parametrize("which", [0, 1])
def test_an_answer_of_another_organisation_is_not_taken(hostel: Hostel, which: int) -> None:
    recipe = unclear(hostel)
    answer = Hostel("Far Point").client().post(f"/recipes/{recipe.pk}/steps/edit/", asked_edits(recipe)[which])

    assert answer.status_code == 404
    assert Recipe.objects.get(pk=recipe.pk).process == recipe.process


@pytest.mark.parametrize("which", [0, 1])
def test_an_answer_of_a_bench_or_of_nobody_is_not_taken(hostel: Hostel, which: int) -> None:
    recipe = unclear(hostel)
    for client in (hostel.open().tablet(), Client()):
        answer = client.post(f"/recipes/{recipe.pk}/steps/edit/", asked_edits(recipe)[which])
        assert answer.status_code in (302, 403, 404)
    assert Recipe.objects.get(pk=recipe.pk).process == recipe.process


@pytest.mark.parametrize("which", [0, 1])
def test_an_answer_takes_the_confirmation_back(hostel: Hostel, which: int) -> None:
    recipe = unclear(hostel)
    Recipe.objects.filter(pk=recipe.pk).update(confirmed_at=timezone.now())
    answer = hostel.client().post(f"/recipes/{recipe.pk}/steps/edit/", asked_edits(recipe)[which])

    assert answer.status_code == 302
    assert Recipe.objects.get(pk=recipe.pk).confirmed_at is None


@pytest.mark.parametrize("which", [0, 1])
def test_an_answer_can_be_undone(hostel: Hostel, which: int) -> None:
    recipe = unclear(hostel)
    client = hostel.client()
    client.post(f"/recipes/{recipe.pk}/steps/edit/", asked_edits(recipe)[which])
    assert Recipe.objects.get(pk=recipe.pk).process != recipe.process
    client.post(f"/recipes/{recipe.pk}/steps/edit/", {"what": "undo"})

    assert Recipe.objects.get(pk=recipe.pk).process == recipe.process


def test_clean_kit_that_is_there_already_is_not_taken_for_more_clean_kit(hostel: Hostel) -> None:
    names = wording.clean_kit("tongs")

    assert names[0] == "clean tongs"
    assert len(set(names)) == len(names) > 2
