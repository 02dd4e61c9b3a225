"""The step reader: scored on written texts, and its turns pinned one by one."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from foodsafety.quantities import CoreError
from foodsafety.recipes import minutes_in, orders, process_from, propose, read_ingredient, temperatures_in
from tests.builders import DEMOS, demo_recipe
from tests.core.reader_score import Score, score_demo, score_text, texts


def read(method: str, *lines: str) -> list[dict]:
    items = [read_ingredient(line, "en-GB") for line in lines]
    return propose(items, [method], from_list=False).process["steps"]


def test_actions_foods_times_and_temperatures_of_written_texts_are_read_right(score) -> None:
    total = Score()
    for text in texts():
        score_text(text, total)

    score("step reader, texts", total.right, total.of, total.wrong)
    enough = total.right >= 0.9 * total.of
    assert enough


@pytest.mark.parametrize("text", texts(), ids=lambda text: text.title)
def test_what_is_proposed_is_a_process(text) -> None:
    items = [read_ingredient(line, "en-GB") for line in text.lines]

    process = process_from(propose(items, text.instructions).process)

    assert process.serve


@pytest.mark.parametrize(
    ("text", "minutes"),
    [
        ("for 10 minutes", (10, 10)),
        ("for 8-10 mins", (8, 10)),
        ("1 hour 20 minutes", (80, 80)),
        ("for 1 1/2 hours", (90, 90)),
        ("an hour and a half", (90, 90)),
        ("for 4 minutes on each side", (8, 8)),
        ("overnight", (480, 480)),
        ("30 seconds", (0.5, 0.5)),
        ("until golden", (None, None)),
        ("1/0 minutes", (None, None)),
    ],
)
def test_times(text: str, minutes: tuple[float | None, float | None]) -> None:
    assert minutes_in(text) == minutes


@pytest.mark.parametrize(
    ("text", "oven_c", "core_c"),
    [
        ("200C/180C fan/gas 6", 200, None),
        ("gas mark 4", 176.67, None),
        ("gas mark 1/2", 121.11, None),
        ("at 350°F", 176.67, None),
        ("until the core reads 75°C", None, 75),
        ("an internal temperature of 165F", None, 73.89),
        ("bake at 180 °C until the middle reads 70 °C", 180, 70),
        ("9000C", None, None),
    ],
)
def test_temperatures(text: str, oven_c: float | None, core_c: float | None) -> None:
    oven, core, _ = temperatures_in(text)

    assert (oven, core) == (pytest.approx(oven_c, abs=0.01), pytest.approx(core_c, abs=0.01))


@pytest.mark.parametrize(
    ("sentence", "does"),
    [
        ("Wash your hands.", ["wash_hands"]),
        ("Wash the board and knife.", ["clean"]),
        ("Wash the leeks.", ["rinse"]),
        ("Put it in the fridge.", ["chill"]),
        ("Put it in the freezer.", ["freeze"]),
        ("Put it in the oven.", ["heat"]),
        ("Leave to cool.", ["rest"]),
        ("Leave to simmer.", ["heat"]),
        ("Preheat the oven to 200C.", ["none"]),
        ("Season with salt and pepper.", ["mix"]),
        ("Roll in the breadcrumbs.", ["coat"]),
        ("Roll out the pastry.", ["touch"]),
        ("Peel and grate the carrots.", ["peel", "grate"]),
        ("The oil should be hot.", []),
    ],
)
def test_what_an_order_means(sentence: str, does: list[str]) -> None:
    assert [order.do for order in orders(sentence)] == does


def test_a_food_is_what_it_went_into() -> None:
    steps = read("Mix the mince and egg. Fry the mince for 5 minutes.", "500 g beef mince", "1 egg")

    assert steps[1]["foods"] == [steps[0]["makes"]]


def test_half_a_food_leaves_the_rest_as_it_was() -> None:
    steps = read(
        "Grate half the cucumber into a bowl. Stir in the yoghurt. Slice the rest of the cucumber.",
        "1 cucumber",
        "200 g yoghurt",
    )

    assert steps[1]["foods"] == ["cucumber", "yoghurt"]
    assert steps[2]["foods"] == ["cucumber"]


def test_another_bowl_is_another_carrier() -> None:
    steps = read("Mix the mince in a bowl. In a clean bowl, mix the yoghurt.", "500 g mince", "200 g yoghurt")

    assert not set(steps[0]["tools"]) & set(steps[1]["tools"])


def test_an_unknown_food_is_marked_for_asking() -> None:
    proposal = propose([read_ingredient("2 tbsp moonrock", "en-GB")], ["Fry the moonrock."])

    assert proposal.process["foods"]["moonrock"] == {"soils": ["unknown"], "line": 0}


def test_sentences_without_an_order_are_given_back() -> None:
    proposal = propose([read_ingredient("1 egg", "en-GB")], ["Boil the egg. Granny liked it so."])

    assert proposal.unread == ("Granny liked it so.",)


def test_work_in_the_ingredient_list_is_proposed_too() -> None:
    steps = propose([read_ingredient("1 onion, peeled and finely chopped", "en-GB")], ["Fry the onion."]).process[
        "steps"
    ]

    assert [step["do"] for step in steps] == ["peel", "cut", "heat", "serve"]


def test_no_instructions_are_no_process() -> None:
    with pytest.raises(CoreError, match="empty process"):
        process_from(propose([], []).process)


def test_the_words_of_the_nine_demo_recipes_are_read_right(score) -> None:
    total = Score()
    demos = [demo_recipe(path.stem) for path in DEMOS]
    for recipe in demos:
        score_demo(recipe, total)

    score("step reader, demo recipes", total.right, total.of, total.wrong)
    assert len(demos) == 9
    enough = total.right >= 0.9 * total.of
    assert enough


LINES = [line for text in texts() for line in text.lines]


INSTRUCTIONS = [line for text in texts() for line in text.instructions]


@given(
    st.lists(st.sampled_from(LINES), max_size=9),
    st.lists(st.sampled_from(INSTRUCTIONS) | st.text(max_size=60), min_size=1, max_size=7),
)
def test_whatever_is_read_holds_together_or_is_nothing(lines: list[str], instructions: list[str]) -> None:
    process = propose([read_ingredient(line, "en-GB") for line in lines], instructions).process

    if process["steps"]:
        process_from(process)


@pytest.mark.parametrize(
    ("line", "unwashed"),
    [
        ("1 tin pineapple, drained", False), ("canned beetroot", False), ("a jar of beetroot", False),
        ("bottled lemon juice", False), ("1 pineapple", True), ("2 beetroot", True), ("3 cans of potatoes", False),
    ],
)  # fmt: skip
def test_what_comes_out_of_a_tin_or_a_jar_is_not_unwashed_produce(line: str, unwashed: bool) -> None:
    found = propose([read_ingredient(line, "en-GB")], ["Slice and serve."])
    [food] = process_from(found.process).foods.values()

    assert ("unwashed_produce" in food.soils) is unwashed
