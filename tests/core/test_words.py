"""Tables of words: regional names, units, orders, cautions. One row, one fact."""

import pytest

from foodsafety.foods import LOCALES, convert_amount, food_kind, kitchen_units, locale_from, match_food, unit_g, unit_ml
from foodsafety.quantities import CoreError
from foodsafety.recipes import gas_mark_c, orders, read_ingredient
from foodsafety.review import caution_rules, find_cautions
from tests.builders import a_process

SAME_FOOD = [
    ("mince", "ground beef"),
    ("prawns", "shrimp"),
    ("courgette", "zucchini"),
    ("fresh coriander", "cilantro"),
    ("capsicum", "bell pepper"),
    ("aubergine", "eggplant"),
    ("rocket", "arugula"),
    ("spring onions", "scallions"),
    ("swede", "rutabaga"),
    ("beetroot", "beets"),
    ("cornflour", "cornstarch"),
    ("bicarbonate of soda", "baking soda"),
    ("icing sugar", "confectioners' sugar"),
    ("caster sugar", "superfine sugar"),
    ("double cream", "heavy cream"),
    ("soured cream", "sour cream"),
    ("yoghurt", "yogurt"),
    ("plain flour", "all-purpose flour"),
    ("self-raising flour", "self-rising flour"),
    ("wholemeal flour", "whole wheat flour"),
    ("tomato purée", "tomato paste"),
    ("mangetout", "snow peas"),
    ("sultanas", "golden raisins"),
    ("stock", "broth"),
    ("pak choi", "bok choy"),
    ("broad bean", "fava beans"),
    ("chickpeas", "garbanzo beans"),
    ("sweet potato", "kumara"),
    ("squid", "calamari"),
    ("gelatine", "gelatin"),
    ("soya milk", "soymilk"),
    ("sea bass", "barramundi"),
    ("desiccated coconut", "shredded coconut"),
    ("treacle", "molasses"),
    ("pumpkin", "butternut squash"),
    ("filo pastry", "phyllo dough"),
    ("chilli", "chile pepper"),
    ("celeriac", "celery root"),
    ("spaghetti", "penne"),
    ("streaky bacon", "pancetta"),
]
OTHER_FOOD = [
    ("ground coriander", "fresh coriander"),
    ("peanut butter", "butter"),
    ("coconut milk", "milk"),
    ("soya milk", "milk"),
    ("cooked chicken", "chicken"),
    ("cooked prawns", "raw prawns"),
    ("egg noodles", "egg"),
    ("smoked salmon", "salmon"),
    ("smoked haddock", "smoked salmon"),
    ("tinned tuna", "tuna steak"),
    ("raw milk", "milk"),
    ("brie", "cheddar"),
    ("fish sauce", "fish"),
    ("lemon juice", "lemon"),
    ("garlic powder", "garlic"),
    ("chicken stock", "chicken"),
    ("dried kidney beans", "kidney beans"),
    ("kidney beans", "lamb kidney"),
    ("turkey crown", "turkey mince"),
    ("vegan mayonnaise", "mayonnaise"),
]


@pytest.mark.parametrize(("one", "other"), SAME_FOOD)
def test_regional_names_are_one_food(one: str, other: str) -> None:
    assert food_kind(one).id == food_kind(other).id


@pytest.mark.parametrize(("one", "other"), OTHER_FOOD)
def test_names_that_share_a_word_are_not_one_food(one: str, other: str) -> None:
    assert food_kind(one).id != food_kind(other).id


@pytest.mark.parametrize(
    ("words", "kind", "sure"),
    [
        ("boneless chicken thighs", "chicken_thigh", True),
        ("best organic carrots", "carrot", True),
        ("broccoli florets", "broccoli", True),
        ("chicken moonrock", "chicken", False),
        ("moonrock", None, False),
        ("", None, False),
    ],
)
def test_a_food_is_found_in_words_and_doubt_is_said(words: str, kind: str | None, sure: bool) -> None:
    found = match_food(words)

    assert (found.kind.id if found else None, bool(found and found.sure)) == (kind, sure)


# published figure of one unit, by locale: NIST HB 44 app. C; UK W&M Act 1985; AS 1325
ML = {
    "tsp": (4.929, 5, 5, 5),
    "tbsp": (14.787, 15, 20, 15),
    "cup": (236.588, 250, 250, 250),
    "fl_oz": (29.574, 28.413, 28.413, 28.413),
    "pint": (473.176, 568.261, 568.261, 568.261),
    "quart": (946.353, 1136.523, 1136.523, 1136.523),
    "gallon": (3785.412, 4546.09, 4546.09, 4546.09),
    "dl": (100, 100, 100, 100),
    "l": (1000, 1000, 1000, 1000),
}
G = {"g": 1, "kg": 1000, "oz": 28.3495, "lb": 453.592}


@pytest.mark.parametrize("unit", ML)
def test_a_volume_is_what_the_place_says(unit: str) -> None:
    assert [unit_ml(unit, place) for place in ("en-US", "en-GB", "en-AU", "en-CA")] == pytest.approx(ML[unit], abs=6e-4)


@pytest.mark.parametrize("unit", G)
def test_a_mass_is_the_same_everywhere(unit: str) -> None:
    assert [unit_g(unit, place) for place in LOCALES] == pytest.approx([G[unit]] * len(LOCALES), rel=2e-5)


def test_a_unit_is_of_mass_or_of_volume_and_never_both() -> None:
    for row in kitchen_units().values():
        assert bool(row.g) != bool(row.ml)


def test_a_locale_we_do_not_measure_in_is_named() -> None:
    with pytest.raises(CoreError, match="xx-XX"):
        locale_from("xx-XX")


@pytest.mark.parametrize("unit", ["parsec", "clove", ""])
def test_what_is_no_unit_is_not_converted(unit: str) -> None:
    with pytest.raises(CoreError, match="not a unit"):
        convert_amount(1, unit, "g", "en-GB")


@pytest.mark.parametrize(
    ("mark", "celsius"), [(0.25, 107.2), (0.5, 121.1), (1, 135), (4, 176.7), (6, 204.4), (9, 246.1)]
)
def test_gas_marks(mark: float, celsius: float) -> None:
    assert gas_mark_c(mark) == pytest.approx(celsius, abs=0.05)


@pytest.mark.parametrize(
    ("line", "low", "high", "unit"),
    [
        ("2 eggs", 2, 2, None),
        ("2-3 eggs", 2, 3, None),
        ("2 to 3 eggs", 2, 3, None),
        ("two or three eggs", 2, 3, None),
        ("½ cup milk", 0.5, 0.5, "cup"),
        ("1½ cups milk", 1.5, 1.5, "cup"),
        ("1 1/2 cups milk", 1.5, 1.5, "cup"),
        ("1-1/2 cups milk", 1.5, 1.5, "cup"),
        ("1 and 1/2 cups milk", 1.5, 1.5, "cup"),
        ("1,5 l milk", 1.5, 1.5, "l"),
        ("1,500 ml milk", 1500, 1500, "ml"),
        (".5 l milk", 0.5, 0.5, "l"),
        ("half a litre milk", 0.5, 0.5, "l"),
        ("a pint of milk", 1, 1, "pint"),
        ("about 200 g flour", 200, 200, "g"),
        ("200g flour", 200, 200, "g"),
        ("200 grams flour", 200, 200, "g"),
        ("1 T. oil", 1, 1, "tbsp"),
        ("1 t. oil", 1, 1, "tsp"),
        ("1 Tbsp. oil", 1, 1, "tbsp"),
        ("2 tablespoonfuls oil", 2, 2, None),
        ("3 fl. oz. cream", 3, 3, "fl_oz"),
        ("3 fluid ounces cream", 3, 3, "fl_oz"),
        ("1 qt stock", 1, 1, "quart"),
        ("8 oz. butter", 8, 8, "oz"),
        ("2lb 8oz potatoes", 2.5, 2.5, "lb"),
        ("a handful of mint", 1, 1, "handful"),
        ("a pinch salt", 1, 1, "pinch"),
        ("a few sprigs of mint", None, None, "sprig"),
        ("salt", None, None, None),
        ("oil, for frying", None, None, None),
        ("half a dozen eggs", 6, 6, None),
        ("2 dozen eggs", 24, 24, None),
    ],
)
def test_amounts_as_people_write_them(line: str, low: float | None, high: float | None, unit: str | None) -> None:
    item = read_ingredient(line, "en-GB")

    assert (item.low, item.high) == (low, high)
    assert unit is None or item.unit == unit


@pytest.mark.parametrize(
    ("line", "amount", "unit"),
    [
        ("2 x 400 g tins tomatoes", 400, "g"),
        ("1 (14.5 oz) can tomatoes", 14.5, "oz"),
        ("400g tin tomatoes", 400, "g"),
        ("2 (6-ounce) salmon fillets", 6, "oz"),
        ("1 can (540 mL) chickpeas", 540, "ml"),
        ("1 8-ounce package cream cheese", 8, "oz"),
        ("1 x 1.5 kg whole chicken", 1.5, "kg"),
        ("2 tins tomatoes", None, None),
    ],
)
def test_the_size_of_one_is_kept(line: str, amount: float | None, unit: str | None) -> None:
    item = read_ingredient(line, "en-GB")

    assert (item.each_amount, item.each_unit) == (amount, unit)


@pytest.mark.parametrize(
    ("line", "food", "alternatives"),
    [
        ("2 tbsp butter or oil", "butter", ("oil",)),
        ("1 onion or 2 shallots", "onion", ("2 shallots",)),
        ("1 l beef or chicken stock", "beef stock", ("chicken stock",)),
        ("1 cup sugar, or to taste", "sugar", ()),
    ],
)
def test_alternatives_are_kept_beside_the_first(line: str, food: str, alternatives: tuple[str, ...]) -> None:
    item = read_ingredient(line, "en-GB")

    assert (item.food, item.alternatives) == (food, alternatives)


@pytest.mark.parametrize(
    ("sentence", "does"),
    [
        ("Chop the onion.", ["cut"]),
        ("Wash and slice the leeks.", ["rinse", "cut"]),
        ("Mash the potatoes.", ["mix"]),
        ("Crack the eggs into a bowl.", ["mix"]),
        ("Break the eggs into a bowl.", ["mix"]),
        ("Break the bark into pieces.", ["cut"]),
        ("Toss the chicken in the flour.", ["coat"]),
        ("Toss the salad.", ["mix"]),
        ("Rub the butter into the flour.", ["mix"]),
        ("Rub the meat with oil.", ["coat"]),
        ("Marinate for an hour.", ["marinate"]),
        ("Leave to marinate overnight.", ["marinate"]),
        ("Drain the pasta.", ["pour"]),
        ("Brush with egg.", ["brush"]),
        ("Grease the tin.", ["brush"]),
        ("Bring to the boil.", ["heat"]),
        ("Bring together into a dough.", ["mix"]),
        ("Turn the heat down.", ["none"]),
        ("Turn the koftas with the tongs.", ["heat"]),
        ("Turn out onto a rack.", ["transfer"]),
        ("Heat the oven to 200C.", ["none"]),
        ("Heat a large pan.", ["none"]),
        ("Heat the oil in a pan.", ["heat"]),
        ("Refrigerate for 2 hours.", ["chill"]),
        ("Leave to cool in the fridge.", ["chill"]),
        ("Put in the freezer.", ["freeze"]),
        ("Scatter over the herbs.", ["garnish"]),
        ("Check the core temperature.", ["probe"]),
        ("Check the seasoning.", ["none"]),
        ("Knead for 10 minutes.", ["touch"]),
        ("Wipe the board.", ["wipe"]),
        ("Sanitise the counter.", ["clean"]),
        ("Rinse out the tin.", ["none"]),
        ("Remove from the heat.", ["none"]),
        ("Meanwhile, peel the carrots.", ["peel"]),
        ("When golden, lift onto a plate.", ["transfer"]),
        ("Serve hot.", ["serve"]),
        ("Cover and simmer.", ["none", "heat"]),
        ("Salt and pepper.", []),
        ("The onion and butter should be soft.", []),
    ],
)
def test_what_is_ordered(sentence: str, does: list[str]) -> None:
    assert [order.do for order in orders(sentence)] == does


# One step for each rule that must say it, and one that must not.
SAID = {
    "steam": ("heat", "soup", "pot", "Simmer"),
    "hot-oil": ("heat", "oil", "frying_pan", "Heat the oil"),
    "deep-oil": ("heat", "fish", "pot", "Deep-fry the fish"),
    "knife-claw": ("cut", "carrot", "knife", "Slice"),
    "knife-bridge": ("cut", "tomato", "knife", "Quarter the tomatoes"),
    "grater": ("grate", "carrot", "grater", "Grate"),
    "peeler": ("peel", "carrot", "peeler", "Peel"),
    "blades-in-suds": ("clean", "", "food_processor", "Wash up"),
    "blender-hot": ("mix", "soup", "blender", "Blend the hot soup"),
    "blender": ("mix", "soup", "blender", "Blend"),
    "foil-in-microwave": ("heat", "soup", "microwave", "Warm"),
    "waxed-paper-in-oven": ("heat", "biscuit", "oven", "Bake on a lined tray"),
    "oven-hot": ("heat", "pie", "oven", "Bake"),
    "hidden-picks": ("touch", "beef", "", "Thread onto skewers"),
    "dry-chilli-hot-pan": ("heat", "chilli_powder", "frying_pan", "Toast the chilli"),
    "chilli-on-skin": ("cut", "chilli", "knife", "Slice the chilli"),
    "pan-handle": ("heat", "fish", "saucepan", "Poach"),
    "towel-near-flame": ("heat", "fish", "griddle", "Griddle"),
    "open-fire": ("heat", "fish", "barbecue", "Grill"),
    "fire-on-shore": ("heat", "fish", "grill", "Grill over the fire"),
    "kidney-bean-boil": ("heat", "kidney_beans_dry", "pot", "Boil"),
    "raw-poultry-splash": ("rinse", "chicken", "sink", "Rinse the chicken"),
    "sugar-burn": ("heat", "sugar", "saucepan", "Boil the syrup"),
    "lid-lift": ("heat", "stew", "slow_cooker", "Cook on low"),
    "heavy-hot-pot": ("pour", "pasta", "pot", "Drain the hot pasta"),
}


def _cautions_at(do: str, food: str, tool: str, text: str) -> set[str]:
    process = a_process()
    if food and match_food(food.replace("_", " ")):
        process.food(food, kind=food)
    process.step(do, food, tools=tool)
    built = process.build()
    return {caution.id for caution in find_cautions(built, {step.id: text for step in built.steps})}


def test_every_caution_has_a_step_here_that_must_say_it() -> None:
    assert set(SAID) == set(caution_rules())


@pytest.mark.parametrize("rule", SAID)
def test_a_caution_is_said_where_it_belongs(rule: str) -> None:
    assert rule in _cautions_at(*SAID[rule])


@pytest.mark.parametrize("rule", SAID)
def test_and_not_at_a_step_that_has_nothing_of_it(rule: str) -> None:
    assert rule not in _cautions_at("rest", "bread", "counter", "Leave it alone")
