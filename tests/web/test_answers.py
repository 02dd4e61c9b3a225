"""Answers of one tap on the reading screen, and what becomes of a finding that is kept to be taught."""

import datetime as dt
import html as markup
import re
from typing import Any
from unittest.mock import patch

import pytest
from django.utils import timezone

from bulwark.lessons import selectors as lessons
from bulwark.lessons import services
from bulwark.recipes.models import Recipe
from bulwark.recipes.services import _unanswered
from tests.builders import TURNED_WRAPS, WRAPS
from tests.web.conftest import Hostel
from tests.web.test_first_visit import SAME_BOARD, TOKEN, Visitor, bring, confirm, finding_keys
from tests.web.test_wild_recipes import plain


@pytest.fixture
def visitor(hostel: Hostel) -> Visitor:
    return Visitor(hostel)


def forms(html: str, what: str) -> list[dict[str, str]]:
    """The forms of the screen that send an edit of this sort, with their hidden fields."""
    found = []
    for form in re.findall(r"<form.*?</form>", html, re.DOTALL):
        fields = {name: markup.unescape(value) for name, value in re.findall(r'name="(\w+)" value="([^"]*)"', form)}
        if fields.pop("what", None) == what:
            found.append({name: value for name, value in fields.items() if name not in (TOKEN, "how")})
    return found


def edit(visitor: Visitor, recipe: Recipe, **fields: Any) -> str:
    return visitor.send(f"/recipes/{recipe.pk}/steps/edit/", **fields)


# --- who touches it ------------------------------------------------------------------------------------------------


def test_a_finding_that_rests_on_hands_nobody_named_asks_who_touches_it(visitor: Visitor) -> None:
    recipe = bring(visitor, WRAPS)
    page = plain(visitor.get(f"/recipes/{recipe.pk}/steps/"))

    assert "Nobody has said." in page
    assert "Who touches the" in page
    assert "Clean tongs or a spoon" in page
    assert "Hands, as it was read" in page


def test_clean_tongs_take_the_finding_away_one_tap_at_a_time(visitor: Visitor) -> None:
    recipe = bring(visitor, WRAPS)
    html = visitor.get(f"/recipes/{recipe.pk}/steps/")
    before = len(finding_keys(html))
    for _ in range(4):
        asked = forms(html, "way")
        if not asked:
            break
        html = edit(visitor, recipe, what="way", how="another", **asked[0])
    recipe.refresh_from_db()

    assert len(finding_keys(html)) < before
    assert any(name.startswith("clean ") for name in recipe.process["tools"])
    assert "saying what touches it" in plain(html)  # what undo would take back


def test_hands_that_were_right_leave_a_finding_to_be_put_right(visitor: Visitor) -> None:
    recipe = bring(visitor, WRAPS)
    html = visitor.get(f"/recipes/{recipe.pk}/steps/")
    keys = finding_keys(html)
    for _ in range(4):
        asked = forms(html, "way")
        if not asked:
            break
        html = edit(visitor, recipe, what="way", how="said", **asked[0])

    assert finding_keys(html) == keys
    assert "Who touches the" not in plain(html)


@pytest.mark.parametrize(
    ("fields", "why"),
    [
        ({"step": "s1", "carrier": "cook", "how": "maybe"}, "“maybe” is not one of said, another"),
        ({"step": "s99", "carrier": "cook", "how": "said"}, "Nothing is asked about this any more"),
        ({"step": "s1", "carrier": "<script>", "how": "another"}, "Nothing is asked about this any more"),
        ({"step": "s1"}, "is not one of said, another"),
    ],
)
def test_an_answer_that_is_none_changes_nothing_and_says_why(
    visitor: Visitor, fields: dict[str, str], why: str
) -> None:
    recipe = bring(visitor, WRAPS)
    visitor.get(f"/recipes/{recipe.pk}/steps/")
    page = plain(edit(visitor, recipe, what="way", **fields))
    before = recipe.process
    recipe.refresh_from_db()

    assert recipe.process == before
    assert "<script>" not in visitor.html
    assert why in page


# --- which heat makes it safe --------------------------------------------------------------------------------------


def test_a_heat_without_an_end_holds_until_somebody_says_that_it_cooks(visitor: Visitor) -> None:
    recipe = bring(visitor, TURNED_WRAPS)
    html = visitor.get(f"/recipes/{recipe.pk}/steps/")
    assert "cooked through here?" in plain(html)
    assert "/confirm/" not in html

    [asked] = forms(html, "cooked")[:1]
    html = edit(visitor, recipe, what="cooked", how="said", **asked)
    assert "cooked through here?" not in plain(html)


def test_a_danger_that_a_read_sentence_speaks_of_is_asked_about_as_what_it_is(visitor: Visitor) -> None:
    pink = "Club burgers\n\n500 g beef mince\n4 buns\n\nMethod\nShape the mince into 4 burgers.\n"
    recipe = bring(visitor, pink + "Fry the burgers for 4 minutes a side.\nServe pink in the middle, in the buns.\n")
    html = visitor.get(f"/recipes/{recipe.pk}/steps/")
    assert "It says that it stays raw or pink." in plain(html)
    assert "/confirm/" not in html

    html = edit(visitor, recipe, what="aside", text="Serve pink in the middle, in the buns.")
    assert "It says that it stays raw or pink." not in plain(html)


def test_a_heat_that_only_warms_is_a_finding_that_cannot_be_confirmed_over(visitor: Visitor) -> None:
    recipe = bring(visitor, TURNED_WRAPS)
    [asked] = forms(visitor.get(f"/recipes/{recipe.pk}/steps/"), "cooked")[:1]
    html = edit(visitor, recipe, what="cooked", how="another", **asked)
    recipe.refresh_from_db()

    assert next(step["do"] for step in recipe.process["steps"] if step["id"] == asked["step"]) == "part_cook"
    assert any("no-kill-step" in key for key in finding_keys(html))
    assert "/confirm/" not in html


def test_a_lesson_from_steps_nobody_answers_for_says_that_the_heat_is_not_known(
    visitor: Visitor, hostel: Hostel
) -> None:
    recipe = bring(visitor, TURNED_WRAPS)
    lesson = lesson_of(recipe)
    text = "Nobody has said where it is cooked through: lamb mince."

    assert text in plain(visitor.get(f"/lessons/{lesson.pk}/"))
    assert text in plain(visitor.get(f"/lessons/{lesson.pk}/plan/"))


# --- a slip that is kept to be taught ------------------------------------------------------------------------------


def lesson_of(recipe: Recipe) -> Any:
    return services.create_lesson(
        recipe=recipe,
        place="Skerry Point",
        starts_at=timezone.now() + dt.timedelta(minutes=1),
        length_min=75,
        benches={"Gannet": ["SD", "RO"]},
        profile_id="us-home",
    )


def kept_as_slip(visitor: Visitor) -> Recipe:
    recipe = bring(visitor, SAME_BOARD)
    for key in finding_keys(visitor.get(f"/recipes/{recipe.pk}/steps/")):
        edit(visitor, recipe, what="accept", key=key, how="slip")
    confirm(visitor, recipe)
    recipe.refresh_from_db()
    assert recipe.confirmed_at is not None
    return recipe


def test_a_kept_slip_stands_on_the_plan_and_has_its_brick(visitor: Visitor, hostel: Hostel) -> None:
    lesson = lesson_of(kept_as_slip(visitor))
    page = plain(visitor.get(f"/lessons/{lesson.pk}/plan/"))

    assert "Findings that stay" in page
    assert "Kept as a slip to be taught" in page
    plan = lessons.plan_for(lesson)
    apart = next(control for control in plan.controls if control.rule == "raw-kept-apart")
    assert "cucumber" in {*apart.foods, *plan.process.serve}


def test_a_kept_slip_is_called_when_a_bench_makes_it(visitor: Visitor, hostel: Hostel) -> None:
    recipe = kept_as_slip(visitor)
    lesson = lesson_of(recipe)
    services.open_lesson(lesson=lesson)
    bench = lesson.benches.get()
    hostel.says("hands_washed", bench, learner="SD", scrub_s=22)
    for step in recipe.process["steps"]:
        hostel.says("step_done", bench, step=step["id"], by=["SD"])
        if step["do"] == "cut" and "cucumber" in step["foods"]:
            break
    page = plain(hostel.client().get(f"/benches/{bench.pk}/flow/").content.decode())

    assert "Raw fish in the cucumber" in page
    assert "No breach in what was recorded" not in page


def test_an_impossible_finding_is_repeated_with_its_reason_on_the_plan(visitor: Visitor, hostel: Hostel) -> None:
    recipe = bring(visitor, SAME_BOARD)
    for key in finding_keys(visitor.get(f"/recipes/{recipe.pk}/steps/")):
        edit(visitor, recipe, what="accept", key=key, how="cannot", reason="two boards hang here")
    confirm(visitor, recipe)
    recipe.refresh_from_db()

    assert "two boards hang here" in plain(visitor.get(f"/lessons/{lesson_of(recipe).pk}/plan/"))


def test_what_another_kitchen_answered_is_not_taken_over(visitor: Visitor) -> None:
    recipe = kept_as_slip(visitor)
    given = visitor.client.get(f"/recipes/{recipe.pk}/recipe.json").content.decode()
    copied = bring(visitor, given)

    assert copied.pk != recipe.pk
    assert copied.confirmed_at is None
    assert copied.process.get("accepted", []) == []
    assert finding_keys(visitor.get(f"/recipes/{copied.pk}/steps/"))


def test_a_heat_that_another_kitchen_said_cooks_it_is_asked_about_anew(visitor: Visitor) -> None:
    recipe = bring(visitor, TURNED_WRAPS)
    [asked] = forms(visitor.get(f"/recipes/{recipe.pk}/steps/"), "cooked")[:1]
    edit(visitor, recipe, what="cooked", how="said", **asked)
    given = visitor.client.get(f"/recipes/{recipe.pk}/recipe.json").content.decode()
    copied = bring(visitor, given)

    assert copied.pk != recipe.pk
    assert "cooked through here?" in plain(visitor.get(f"/recipes/{copied.pk}/steps/"))


def test_saying_that_a_guess_is_right_leaves_the_heat_asked_about(visitor: Visitor) -> None:
    recipe = bring(visitor, TURNED_WRAPS)
    [asked] = forms(visitor.get(f"/recipes/{recipe.pk}/steps/"), "cooked")[:1]
    page = plain(edit(visitor, recipe, what="sure", step=asked["step"]))

    assert "cooked through here?" in page


def test_the_record_and_its_paper_say_what_nobody_had_answered(visitor: Visitor, hostel: Hostel) -> None:
    lesson = lesson_of(bring(visitor, TURNED_WRAPS))
    services.open_lesson(lesson=lesson)
    hostel.says("hands_washed", lesson.benches.get(), learner="SD", scrub_s=22)
    services.close_lesson(lesson=lesson)
    text = "Nobody has said where it is cooked through: lamb mince."

    assert text in plain(visitor.get(f"/lessons/{lesson.pk}/record/"))
    with patch("bulwark.jobs.papers.pdf_of", side_effect=lambda html, **_: html.encode()):
        paper = visitor.paper(f"/lessons/{lesson.pk}/record.pdf").decode()
    assert text in plain(paper)


# --- what has changed, in words ------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("fields", "told"),
    [
        ({"do": "rest"}, "the work was Heat, is Rest"),
        ({"title": "On the griddle"}, "the name was Put it on a hot griddle, is On the griddle"),
        ({"minutes": "9"}, "the minutes was nothing, is 9"),
        ({"core_c": "71"}, "the end point was nothing, is core 71 °C"),
        ({"tools": "griddle, tongs"}, "the kit was griddle, is griddle, tongs"),
    ],
)
def test_a_change_of_a_step_is_told_with_both_values_in_words(
    visitor: Visitor, fields: dict[str, str], told: str
) -> None:
    recipe = bring(visitor, TURNED_WRAPS)
    [asked] = forms(visitor.get(f"/recipes/{recipe.pk}/steps/"), "cooked")[:1]
    visitor.send(f"/recipes/{recipe.pk}/copy/")
    copied = Recipe.objects.latest("pk")
    step = next(row for row in copied.process["steps"] if row["id"] == asked["step"])
    form = {"do": step["do"], "title": step["title"], "foods": ", ".join(step["foods"]), "tools": "griddle"}
    edit(visitor, copied, what="change", step=step["id"], **{**form, **fields})
    page = plain(visitor.get(f"/recipes/{copied.pk}/changes/"))

    assert told.lower() in page.lower()


def test_that_a_heat_was_said_to_cook_through_is_a_difference(visitor: Visitor) -> None:
    recipe = bring(visitor, TURNED_WRAPS)
    [asked] = forms(visitor.get(f"/recipes/{recipe.pk}/steps/"), "cooked")[:1]
    visitor.send(f"/recipes/{recipe.pk}/copy/")
    copied = Recipe.objects.latest("pk")
    edit(visitor, copied, what="cooked", how="said", **asked)
    page = plain(visitor.get(f"/recipes/{copied.pk}/changes/"))

    assert "what was said of the heat was nothing, is that it cooks through" in page


@pytest.mark.parametrize(
    ("benches", "told"), [({"Gannet": ["SD"]}, "1 bench,"), ({"A": ["SD"], "B": ["RO"]}, "2 benches,")]
)
def test_one_bench_is_one_bench(visitor: Visitor, benches: dict[str, list[str]], told: str) -> None:
    lesson = services.create_lesson(
        recipe=bring(visitor, WRAPS),
        place="Skerry Point",
        starts_at=timezone.now(),
        length_min=75,
        benches=benches,
        profile_id="us-home",
    )

    assert told in plain(visitor.get(f"/lessons/{lesson.pk}/"))


def test_what_another_kitchen_answered_is_asked_here_again() -> None:
    step = {"id": "s1", "do": "mix", "foods": ["mince"], "tools": ["bowl", "spoon"], "guesses": ["tools"]}
    process = {"steps": [{**step, "settled": ["spoon"], "through": ["mince"]}], "accepted": [{"how": "cannot"}]}

    assert _unanswered(process) == {"steps": [step]}


# --- what was taken for talk -----------------------------------------------------------------------------------------


def test_work_in_the_talk_above_the_list_is_asked_about_and_marked_unread(visitor: Visitor) -> None:
    said = "Some of us would chop the raw chicken the night before."
    recipe = bring(
        visitor,
        f"Pie\n\nWe like it. {said}\n\n2 leeks\n300 g chicken breast\n\nMethod\nBake the leeks and chicken 40 min.",
    )
    page = plain(visitor.get(f"/recipes/{recipe.pk}/steps/"))

    assert f"We like it. {said} unread" in page
    assert f"“{said}”" in page


# --- what was guessed ------------------------------------------------------------------------------------------------


def test_a_guess_with_raw_food_in_it_is_asked_about_with_its_sentence_and_one_tap_says_it_is_right(
    visitor: Visitor,
) -> None:
    said = "Chicken straight from the walk-in into the pots - don't leave it standing about."
    recipe = bring(
        visitor,
        f"Pot\n\n2 leeks\n500 g chicken thighs\n\nMethod\nFry the leeks in the frying pan for 5 minutes. {said}"
        " Simmer for 40 minutes, until 75C. Serve.",
    )
    html = visitor.get(f"/recipes/{recipe.pk}/steps/")
    assert f"“{said}”" in plain(html)
    assert "guessed from a sentence that no rule reads" in plain(html)
    assert confirm(visitor, recipe)
    recipe.refresh_from_db()
    assert recipe.confirmed_at is None

    guessed = next(row["id"] for row in recipe.process["steps"] if "guess" in row.get("guesses", ()))
    assert {"step": guessed} in forms(html, "sure")
    html = edit(visitor, recipe, what="sure", step=guessed)
    assert f"“{said}”" not in plain(html)
