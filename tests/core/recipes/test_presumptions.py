"""What the reader takes for granted, and what becomes of it when somebody says how it is."""

from itertools import pairwise
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from foodsafety.contamination import Finding, analyse, presumed_contact
from foodsafety.quantities import CoreError
from foodsafety.recipes import (
    Reading,
    add_step_after,
    change_step,
    doubts_of,
    is_presumed,
    merge_steps,
    open_questions,
    place_food,
    process_from,
    read_recipe,
    remove_step,
    rename_food,
    say_cooked,
    say_way,
    set_food,
    trust_step,
    weak_heats,
)
from foodsafety.rules import House
from tests.builders import TURNED_WRAPS, WRAPS
from tests.core.wild import wild_texts


def way(data: Any, step: str, carrier: str, how: str) -> Any:
    return say_way(data, step, carrier, how, lambda sort: [f"clean {sort}", f"another clean {sort}"])


def read(text: str = WRAPS) -> Reading:
    return read_recipe(text, "en-GB")


def findings(data: Any) -> tuple[Finding, ...]:
    return analyse(process_from(data), House()).findings


def by_id(data: Any) -> dict[str, Any]:
    return {str(step["id"]): step for step in data["steps"]}


def contact(data: Any, found: Finding) -> Any:
    return presumed_contact(process_from(data), by_id(data), found)


def hands_step(data: Any) -> Any:
    return next(step for step in data["steps"] if "hands" in step.get("guesses", ()))


# --- what is presumed ----------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("method", "carrier", "presumed"),
    [
        ("Slice the cucumber.", "board", True),
        ("Slice the cucumber on the board.", "board", False),
        ("Slice the cucumber on the board.", "knife", True),
        ("Slice the cucumber.", "cook", False),  # the other hand holds it
        ("Lay the cucumber on a plate.", "plate", False),
        ("Lay the cucumber on a plate.", "cook", True),
        ("Lay the cucumber on a plate with your hands.", "cook", False),
        ("Lay the cucumber on a plate with tongs.", "cook", False),
        ("Slice the cucumber.", "the moon", False),
    ],
)
def test_what_nobody_said_is_presumed(method: str, carrier: str, presumed: bool) -> None:
    found = read(f"Salad\n\nIngredients\n1 cucumber\n1 lemon\n\nMethod\n{method}")
    assert found.process is not None
    step = found.data["steps"][0]

    assert is_presumed(found.process, step, carrier) is presumed


def test_kit_and_hands_that_were_presumed_are_no_doubts_by_themselves() -> None:
    assert doubts_of({"guesses": ["tools", "vessel", "hands"]}) == []
    assert doubts_of({"guesses": ["tools", "foods", "time"]}) == ["foods", "time"]
    assert doubts_of({}) == []


def test_raw_food_that_is_mixed_with_nothing_named_is_touched_by_hand_and_that_is_presumed() -> None:
    step = read().data["steps"][0]

    assert step["hands"] == ["cook"]
    assert "hands" in step["guesses"]


# --- what a finding rests on ---------------------------------------------------------------------------------------


def test_a_finding_says_which_of_its_contacts_nobody_said() -> None:
    data = read().data
    soiled = next(row for row in findings(data) if "cook" in row.path)
    found = contact(data, soiled)

    assert found.by_hand
    assert found.carrier == "cook"
    assert is_presumed(process_from(data), by_id(data)[found.step], "cook")


def test_a_finding_whose_contacts_are_all_said_rests_on_nothing() -> None:
    data = read(
        WRAPS.replace("Mix the lamb with", "With your hands mix the lamb with").replace(
            "Lay the lettuce on", "With your hands lay the lettuce on"
        )
    ).data
    soiled = [row for row in findings(data) if "cook" in row.path and row.soil == "raw_meat"]

    assert soiled
    assert all(contact(data, row) is None for row in soiled)


def test_raw_food_that_is_never_heated_rests_on_no_contact() -> None:
    data = read(WRAPS.replace("Fry it for 9 minutes, to 71C in the middle.\n", "")).data
    raw = next(row for row in findings(data) if row.rule == "no-kill-step")

    assert contact(data, raw) is None


# --- answering -----------------------------------------------------------------------------------------------------


def test_hands_that_were_right_stay_and_are_asked_about_no_more() -> None:
    data = read().data
    step = hands_step(data)
    changed = way(data, step["id"], "cook", "said")

    assert by_id(changed)[step["id"]]["hands"] == ["cook"]
    assert "hands" not in by_id(changed)[step["id"]]["guesses"]
    assert {row.key for row in findings(changed)} == {row.key for row in findings(data)}


def test_clean_tongs_instead_of_hands_take_the_finding_away() -> None:
    data = read().data
    soiled = next(row for row in findings(data) if "cook" in row.path)
    while soiled is not None:
        asked = contact(data, soiled)
        assert asked is not None, "every contact of it was presumed"
        data = way(data, asked.step, asked.carrier, "another")
        soiled = next((row for row in findings(data) if "cook" in row.path and row.soil == "raw_meat"), None)

    assert not any(row.soil == "raw_meat" for row in findings(data))
    assert any(name.startswith("clean ") for name in data["tools"])


def test_another_board_is_a_new_tool_of_the_same_kind() -> None:
    found = read(
        "Salad\n\nIngredients\n400 g chicken breast\n1 cucumber\n\nMethod\n"
        "Slice the chicken. Slice the cucumber. Serve the cucumber."
    )
    data = found.data
    cut = [step for step in data["steps"] if step["do"] == "cut"][-1]
    changed = way(data, cut["id"], "board", "another")
    new = next(name for name in by_id(changed)[cut["id"]]["tools"] if name not in data["tools"])

    assert changed["tools"][new]["kind"] == "board"
    assert "board" not in by_id(changed)[cut["id"]]["tools"]
    assert by_id(changed)[data["steps"][0]["id"]] == data["steps"][0], "the chicken's board is still the chicken's"


def test_food_stays_in_the_other_bowl_until_somebody_says_that_it_leaves_it() -> None:
    found = read(
        "Slaw\n\nIngredients\n1 cabbage\n150 g yoghurt\n1 lemon\n\nMethod\n"
        "Toss the cabbage with the yoghurt. Stir in the lemon. Serve."
    )
    data = found.data
    tossed = next(step for step in data["steps"] if "cabbage" in step["foods"])
    old = next(name for name in tossed["tools"] if "bowl" in name)
    changed = way(data, tossed["id"], old, "another")

    assert not any(old in step["tools"] for step in changed["steps"])


def test_two_clean_boards_have_two_names() -> None:
    found = read(
        "Salad\n\nIngredients\n1 cucumber\n1 lemon\n1 apple\n\nMethod\nSlice the cucumber. Slice the lemon. Serve."
    )
    data = found.data
    first, second = (step["id"] for step in data["steps"] if step["do"] == "cut")
    once = way(data, first, "board", "another")
    twice = way(once, second, "board", "another")

    assert len(set(twice["tools"])) == len(set(data["tools"])) + 2


@pytest.mark.parametrize(
    ("step", "carrier", "how", "why"),
    [
        ("s1", "cook", "maybe", "not_one_of"),
        ("s99", "cook", "said", "nothing_presumed"),
        ("s1", "the moon", "another", "nothing_presumed"),
    ],
)
def test_another_answer_is_refused(step: str, carrier: str, how: str, why: str) -> None:
    with pytest.raises(CoreError) as wrong:
        way(read().data, step, carrier, how)

    assert wrong.value.why == why


def test_an_answer_is_given_once() -> None:
    data = read().data
    step = hands_step(data)
    changed = way(data, step["id"], "cook", "said")
    with pytest.raises(CoreError) as wrong:
        way(changed, step["id"], "cook", "said")

    assert wrong.value.why == "nothing_presumed"


# --- which heat makes it safe --------------------------------------------------------------------------------------


def asked_heat(found: Reading) -> list[str]:
    return [str(row.step) for row in found.questions if row.why == "which-heat"]


@pytest.mark.parametrize(
    ("words", "asked"),
    [
        ("Put it on a hot griddle and turn it over.", True),
        ("Warm it through.", True),
        ("Fry it for 9 minutes.", False),
        ("Fry it until no pink is left.", False),
        ("Fry it to 71C in the middle.", False),
    ],
)
def test_a_heat_without_time_or_end_is_asked_about(words: str, asked: bool) -> None:
    found = read(WRAPS.replace("Fry it for 9 minutes, to 71C in the middle.", words))

    assert bool(asked_heat(found)) is asked
    assert not (asked and found.may_confirm)


def test_the_question_holds_and_the_heat_is_worst() -> None:
    found = read(TURNED_WRAPS)
    question = next(row for row in found.questions if row.why == "which-heat")

    assert question.holds
    assert question.harm == 3
    assert not found.may_confirm


def test_one_heat_that_has_a_time_is_enough() -> None:
    found = read(WRAPS.replace("to 71C in the middle.", "to 71C in the middle. Chill it. Warm it through."))

    assert asked_heat(found) == []


def test_vegetables_are_not_asked_about() -> None:
    found = read("Leeks\n\nIngredients\n4 leeks\n\nMethod\nRinse the leeks. Warm them through. Serve.")

    assert asked_heat(found) == []


def test_a_heat_that_cooks_through_stays_one() -> None:
    found = read(TURNED_WRAPS)
    [step] = asked_heat(found)
    changed = say_cooked(found.data, step, through=True)

    assert by_id(changed)[step]["do"] == "heat"
    assert not any(row.why == "which-heat" for row in open_questions(found.items, changed, process_from(changed)))


def test_a_heat_that_only_warms_leaves_the_food_raw() -> None:
    found = read(TURNED_WRAPS)
    [step] = asked_heat(found)
    changed = say_cooked(found.data, step, through=False)

    assert by_id(changed)[step]["do"] == "part_cook"
    assert any(row.rule == "no-kill-step" and row.soil == "raw_meat" for row in findings(changed))


def test_a_heat_nobody_asks_about_is_not_answered_for() -> None:
    with pytest.raises(CoreError) as wrong:
        say_cooked(read().data, "s2", through=True)

    assert wrong.value.why == "nothing_presumed"


# --- any recipe ----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("wild", wild_texts(), ids=lambda wild: wild.name)
def test_every_presumed_contact_can_be_answered_either_way(wild: Any) -> None:
    found = read_recipe(wild.text, wild.locale)
    if found.process is None:
        return
    for row in findings(found.data):
        asked = contact(found.data, row)
        if asked is None:
            continue
        for how in ("said", "another"):
            changed = way(found.data, asked.step, asked.carrier, how)
            again = by_id(changed)[asked.step]
            assert not is_presumed(process_from(changed), again, asked.carrier)
            assert set(changed["foods"]) == set(found.data["foods"]), "no food is lost by an answer"


@settings(max_examples=60, deadline=None)
@given(st.data())
def test_answers_in_any_order_keep_a_process_and_end(data: st.DataObject) -> None:
    wild = data.draw(st.sampled_from(wild_texts()))
    found = read_recipe(wild.text, wild.locale)
    now = found.data
    for _ in range(6):
        asked = [at for row in findings(now) if (at := contact(now, row))] if found.process else []
        if not asked:
            return
        at = data.draw(st.sampled_from(asked))
        now = way(now, at.step, at.carrier, data.draw(st.sampled_from(["said", "another"])))
        assert sum(len(doubts_of(step)) for step in now["steps"]) <= sum(
            len(doubts_of(step)) for step in found.data["steps"]
        )


# --- a question stays open whatever else is edited -------------------------------------------------------------------


def open_heats(data: Any) -> list[str]:
    return list(weak_heats(data, process_from(data)))


def test_saying_that_another_guess_is_right_does_not_say_that_it_cooks_through() -> None:
    data = read(TURNED_WRAPS).data
    [step] = open_heats(data)

    assert open_heats(trust_step(data, step)) == [step]


@pytest.mark.parametrize("fields", [{"title": "Griddle"}, {"detail": "On the griddle"}, {"minutes": 0}, {"cue": ""}])
def test_a_step_that_is_edited_without_an_end_is_still_asked_about(fields: dict[str, Any]) -> None:
    data = read(TURNED_WRAPS).data
    [step] = open_heats(data)

    assert open_heats(change_step(data, step, fields)) == [step]


@pytest.mark.parametrize("fields", [{"minutes": 9}, {"core_c": 71}, {"cue": "no pink is left"}, {"do": "part_cook"}])
def test_a_time_a_temperature_or_an_end_answers_it(fields: dict[str, Any]) -> None:
    data = read(TURNED_WRAPS).data
    [step] = open_heats(data)

    assert open_heats(change_step(data, step, fields)) == []


def test_a_heat_that_is_joined_with_another_step_is_still_asked_about() -> None:
    data = read(TURNED_WRAPS).data
    [step] = open_heats(data)
    before = next(row["id"] for row, later in pairwise(data["steps"]) if later["id"] == step)

    assert open_heats(merge_steps(data, before))


def test_without_the_step_that_had_the_time_the_other_is_asked_about() -> None:
    data = read(WRAPS.replace("to 71C in the middle.", "to 71C in the middle. Chill it. Warm it through.")).data
    timed = next(row["id"] for row in data["steps"] if row.get("minutes"))

    assert open_heats(data) == []
    assert len(open_heats(remove_step(data, timed))) == 1


def test_steps_that_a_person_adds_are_asked_about_like_those_that_were_read() -> None:
    data = read(WRAPS.replace("Fry it for 9 minutes, to 71C in the middle.\n", "")).data
    mixed = next(row["makes"] for row in data["steps"] if row.get("makes"))
    heat = {"do": "heat", "foods": [mixed], "tools": [], "hands": [], "title": "Heat"}

    assert len(open_heats(add_step_after(data, data["steps"][0]["id"], heat))) == 1


def test_guesses_of_both_steps_are_kept_where_they_are_joined() -> None:
    data = read().data
    first, second = data["steps"][:2]
    guessed = {**data, "steps": [
        {**first, "guesses": ["foods"]}, {**second, "guesses": ["time"]}, *data["steps"][2:],
    ]}  # fmt: skip

    assert set(merge_steps(guessed, first["id"])["steps"][0]["guesses"]) == {"foods", "time"}


def test_flour_and_vegetables_are_not_asked_about() -> None:
    found = read("Roux\n\nIngredients\n50 g butter\n50 g flour\n2 leeks\n\nMethod\nWarm the butter and flour. Serve.")

    assert open_heats(found.data) == []


@pytest.mark.parametrize("wild", wild_texts()[::3], ids=lambda wild: wild.name)
def test_each_heat_that_is_asked_about_can_be_answered_both_ways(wild: Any) -> None:
    found = read_recipe(wild.text, wild.locale)
    if found.process is None:
        return
    for step in open_heats(found.data):
        yes = say_cooked(found.data, step, through=True)
        no = say_cooked(found.data, step, through=False)
        assert step not in open_heats(yes)
        assert by_id(no)[step]["do"] == "part_cook"
        assert len(findings(no)) >= len(findings(yes)), "what is not cooked through is never safer"


# --- an answer is of the foods it was given for ----------------------------------------------------------------------


def answered() -> tuple[Any, str]:
    data = read(TURNED_WRAPS.replace("1 lettuce", "1 lettuce\n2 eggs")).data
    [step] = open_heats(data)
    return say_cooked(data, step, through=True), step


def test_raw_food_that_is_put_into_a_heat_later_is_asked_about_anew() -> None:
    data, step = answered()
    more = place_food(data, "eggs", step)

    assert open_heats(data) == []
    assert weak_heats(more, process_from(more)) == {step: ["eggs"]}


def test_an_answer_for_one_food_takes_none_back_that_was_given_for_another() -> None:
    data, step = answered()
    both = say_cooked(place_food(data, "eggs", step), step, through=True)

    assert open_heats(both) == []
    assert by_id(both)[step]["through"] == ["lamb mince", "eggs"]


def test_food_that_turns_out_to_be_raw_is_asked_about() -> None:
    data, step = answered()
    cumin = set_food(data, "ground cumin", "chicken", (), ())

    assert weak_heats(cumin, process_from(cumin)) == {step: ["ground cumin"]}


def test_an_answer_follows_its_food_to_another_name() -> None:
    data, _ = answered()

    assert open_heats(rename_food(data, "lamb mince", "hogget mince")) == []


def test_an_answer_stays_where_its_step_is_joined_with_another() -> None:
    data, step = answered()
    before = next(row["id"] for row, later in pairwise(data["steps"]) if later["id"] == step)

    assert open_heats(merge_steps(data, before)) == []


@pytest.mark.parametrize("said", [True, 5, {"lamb mince": 1}, [["lamb mince"]], [None]])
def test_an_answer_that_is_none_is_no_process(said: Any) -> None:
    data = read(TURNED_WRAPS).data
    with pytest.raises(CoreError) as wrong:
        process_from({**data, "steps": [{**data["steps"][0], "through": said}, *data["steps"][1:]]})

    assert "through" in wrong.value.field


def test_an_answer_of_other_foods_answers_nothing() -> None:
    data = read(TURNED_WRAPS).data
    [step] = open_heats(data)
    steps = [{**row, "through": ["lettuce"]} if row["id"] == step else row for row in data["steps"]]

    assert open_heats({**data, "steps": steps}) == [step]
