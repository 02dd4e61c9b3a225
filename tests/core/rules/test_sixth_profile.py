"""Adding a rule profile is adding a folder."""

from foodsafety.contamination import rule_source
from foodsafety.cooking import kill_targets
from foodsafety.foods import allergens_for
from foodsafety.lesson import safety_plan
from foodsafety.quantities import Temperature
from foodsafety.recipes import process_from
from foodsafety.rules import profile_ids, ranked_profiles, rule_profile, usual_retention
from tests.builders import demo_recipe


def test_its_limits_judge_a_recipe(sixth: str) -> None:
    plan = safety_plan(process_from(demo_recipe()["process"]), rule_profile(sixth))

    [core] = [control for control in plan.controls if control.rule == "core-temperature"]
    assert core.limit == Temperature(value=77, unit="C")


def test_it_stands_beside_the_others_in_its_place(sixth: str) -> None:
    assert [profile.id for profile in ranked_profiles()][-1] == sixth


def test_its_sources_its_kill_targets_and_its_allergens_are_its_own(sixth: str) -> None:
    assert rule_source("unwashed-hands", sixth) == "Isles ordinance 7"
    assert {target.id: target.asked for target in kill_targets(sixth)}["listeria"] == 5.0
    assert sixth in allergens_for(profile_id=sixth).profiles


def test_names_are_kept_as_long_as_it_says_and_by_the_projects_own_figure_where_none_does(sixth: str) -> None:
    own = usual_retention(sixth)
    others = {usual_retention(name).source for name in profile_ids() if name != sixth}

    assert (own.months["lessons"], own.source) == (6, "Isles ordinance 9")
    assert own.months == {**usual_retention("uk").months, "lessons": 6}
    assert others == {""}
