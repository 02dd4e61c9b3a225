"""Rules of the web side that nothing may quietly undo: each stated once, each broken by a planted fault."""

import datetime as dt
import json
from concurrent.futures import ThreadPoolExecutor
from typing import Any
from unittest.mock import patch

import pytest
from django.core import signing
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from bulwark.bench.selectors import COOKIE, COOKIE_AGE_S, SALT
from bulwark.kitchens import selectors as kitchens
from bulwark.kitchens import services as kitchen_services
from bulwark.lessons import adapters, services
from bulwark.lessons.models import Event, Learner, Lesson
from bulwark.recipes import services as recipes
from bulwark.recipes.adapters import steps_version
from bulwark.recipes.models import Recipe
from bulwark.records.selectors import record_rows
from bulwark.workbench import selectors as workbench
from foodsafety.quantities import CoreError
from foodsafety.rules import LocalChange
from tests.web.conftest import Hostel, post_entry


def own_recipe(hostel: Hostel) -> Recipe:
    return Recipe.objects.get(organisation=hostel.organisation)


def test_nothing_of_a_bench_slips_in_after_the_end(hostel: Hostel) -> None:
    tablet = hostel.open().tablet()
    assert post_entry(tablet, "called").status_code == 200
    # The bench is remembered by this process: only the INSERT itself can refuse.
    Lesson.objects.filter(pk=hostel.lesson.pk).update(closed_at=timezone.now())

    assert post_entry(tablet, "called").status_code == 410
    assert Event.objects.count() == 1


def test_a_lesson_that_is_over_is_not_joined(hostel: Hostel) -> None:
    hostel.open().close()
    answer = Client().post("/join/", {"code": hostel.puffin.join_code})

    assert answer.status_code == 410
    assert COOKIE not in answer.cookies


@pytest.mark.parametrize(("age_s", "joined"), [(COOKIE_AGE_S - 60, True), (COOKIE_AGE_S + 60, False)])
def test_a_tablet_forgets_its_bench_after_a_day(hostel: Hostel, age_s: int, joined: bool) -> None:
    hostel.open()
    made = timezone.now().timestamp() - age_s
    with patch("django.core.signing.time.time", return_value=made):
        cookie = signing.dumps({"bench": hostel.puffin.pk}, salt=SALT)
    tablet = Client()
    tablet.cookies[COOKIE] = cookie

    assert (tablet.get("/b/").status_code == 200) is joined


@pytest.mark.django_db(transaction=True)
def test_the_stream_of_a_lesson_is_only_for_its_own(transactional_db: None) -> None:
    hostel, stranger = Hostel().open(), Hostel("Farside Bothy")
    path = f"/lessons/{hostel.lesson.pk}/live/"

    def asked(client: Client) -> Any:
        answer = client.get(path)
        connection.close()
        return answer

    clients = (stranger.client(), Client(), hostel.client())
    with ThreadPoolExecutor(1) as thread:  # a browser test may have left a loop on this one
        answers = [thread.submit(asked, client).result() for client in clients]
    assert [answer.status_code for answer in answers] == [404, 404, 200]
    assert answers[2]["Content-Type"] == "text/event-stream"


@pytest.mark.django_db(transaction=True)
def test_a_lesson_comes_with_all_its_learners_or_not_at_all(transactional_db: None) -> None:
    hostel = Hostel()
    with patch.object(Learner.objects, "bulk_create", side_effect=RuntimeError), pytest.raises(RuntimeError):
        services.create_lesson(
            recipe=own_recipe(hostel), place="", starts_at=timezone.now(), length_min=60,
            benches={"Tern": ["MO"]}, profile_id="uk",
        )  # fmt: skip

    assert Lesson.objects.count() == 1


@pytest.mark.django_db(transaction=True)
def test_a_corrected_line_is_remembered_only_if_it_was_kept(transactional_db: None) -> None:
    hostel = Hostel()
    recipe = own_recipe(hostel)
    recipe.ingredients = ["1 moonrock"]
    recipe.save()
    values = {"food": "moonrock", "kind": "sugar"}
    with patch("bulwark.recipes.services.index", side_effect=RuntimeError), pytest.raises(RuntimeError):
        recipes.correct_line(recipe=recipe, line=0, values=values, by=hostel.actor, remember=True)

    assert "moonrock" not in kitchens.known_foods(hostel.organisation.pk)
    recipe.refresh_from_db()
    assert recipe.corrections == {}


def test_an_edit_of_the_steps_locks_its_recipe(hostel: Hostel) -> None:
    with CaptureQueriesContext(
        connection,
    ) as seen:
        recipes.edit_steps(recipe=own_recipe(hostel), what="down", step_id="grate", fields={}, by=hostel.actor)

    assert any("FOR UPDATE" in query["sql"] and "recipes_recipe" in query["sql"] for query in seen.captured_queries)


def test_house_rules_and_profile_stay_once_a_lesson_has_begun(hostel: Hostel) -> None:
    hostel.open()
    lesson = Lesson.objects.get(pk=hostel.lesson.pk)
    with pytest.raises(services.LessonError):
        services.set_house(lesson=lesson, cook_equivalents=True)
    with pytest.raises(services.LessonError):
        services.set_profile(lesson=lesson, profile_id="uk")


def test_steps_are_not_put_over_anothers_edit(hostel: Hostel) -> None:
    recipe = own_recipe(hostel)
    before = recipe.process
    recipes.edit_steps(recipe=recipe, what="down", step_id="grate", fields={}, by=hostel.actor)
    with pytest.raises(CoreError) as wrong:
        recipes.replace_steps(recipe=recipe, before=before, process=before, what="repair", by=hostel.actor)

    assert wrong.value.why == "steps_changed_by_another"


def test_undo_takes_the_confirmation_back(hostel: Hostel) -> None:
    recipe = recipes.edit_steps(recipe=own_recipe(hostel), what="down", step_id="grate", fields={}, by=hostel.actor)
    recipes.confirm(recipe=recipe, by=hostel.actor, version=steps_version(recipe))
    recipes.edit_steps(recipe=recipe, what="undo", step_id="", fields={}, by=hostel.actor)

    assert own_recipe(hostel).confirmed_at is None


def test_a_recipe_that_serves_nothing_is_not_confirmed(hostel: Hostel) -> None:
    recipe = own_recipe(hostel)
    recipe.process = {**recipe.process, "serve": []}
    recipe.confirmed_at = None
    recipe.save()
    with pytest.raises(CoreError) as wrong:
        recipes.confirm(recipe=recipe, by=hostel.actor, version=steps_version(recipe))

    assert wrong.value.field == "serve"


def test_steps_that_were_changed_since_they_were_read_are_not_confirmed(hostel: Hostel) -> None:
    recipe = own_recipe(hostel)
    seen = steps_version(recipe)
    recipe = recipes.edit_steps(recipe=recipe, what="down", step_id="grate", fields={}, by=hostel.actor)
    with pytest.raises(CoreError) as wrong:
        recipes.confirm(recipe=recipe, by=hostel.actor, version=seen)

    assert wrong.value.why == "steps_changed_since_read"


def set_limit(hostel: Hostel, value: float | None) -> None:
    kitchen_services.set_limit(
        by=hostel.actor, base="us-home", path="cook.poultry.temperature", value=value, signed="AK", reason="thick birds"
    )


def poultry_f(hostel: Hostel) -> float:
    main = kitchens.rules_for(hostel.organisation.pk, "us-home").cook["poultry"].main
    assert main is not None
    return main.temperature.value


def test_a_limit_taken_back_is_the_bases_again(hostel: Hostel) -> None:
    set_limit(hostel, 175)
    assert poultry_f(hostel) == 175
    set_limit(hostel, None)
    assert poultry_f(hostel) == 165
    assert kitchens.lesson_rules(hostel.organisation.pk)["local_limits"] == []


def test_the_workbench_judges_by_the_kitchens_own_limits(hostel: Hostel) -> None:
    set_limit(hostel, 175)
    main = workbench.rules_of(hostel.actor)("us-home").cook["poultry"].main
    assert main is not None
    assert main.temperature.value == 175


def test_a_profile_that_is_only_compared_has_no_local_limits(hostel: Hostel) -> None:
    change = LocalChange(path="hands.scrub_s", value=40, by="AK", on=dt.date(2026, 3, 2), reason="long nails")
    services.set_profile(lesson=hostel.lesson, profile_id="us-home", local_limits=[change])
    lesson = Lesson.objects.get(pk=hostel.lesson.pk)

    assert adapters.to_plan(lesson).scrub_s == 40
    assert adapters.to_plan(lesson, profile_id="uk").scrub_s == 20


def test_no_cell_of_the_record_is_a_formula(hostel: Hostel) -> None:
    hostel.lesson.title = "-2+3"
    hostel.lesson.save()

    assert "'-2+3" in record_rows(hostel.lesson)


def test_a_body_larger_than_a_logger_sends_is_refused(hostel: Hostel, settings) -> None:  # type: ignore[no-untyped-def]
    settings.DATA_UPLOAD_MAX_MEMORY_SIZE = None
    body = json.dumps({"device": "x", "readings": [], "junk": "x" * (2 * 1024 * 1024)})
    answer = Client().post("/devices/readings/", body, content_type="application/json")

    assert answer.status_code == 413


def test_a_bench_cannot_waive_and_what_it_sends_besides_is_not_kept(hostel: Hostel) -> None:
    tablet = hostel.open().tablet()
    waived = post_entry(tablet, "waived", data={"control": "fridge", "reason": "no fridge"})
    assert waived.status_code == 422

    post_entry(tablet, "touched", data={"learner": "AK", "what": "phone", "junk": "x" * 7_000})
    assert Event.objects.get().data == {"learner": "AK", "what": "phone"}
