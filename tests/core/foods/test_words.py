"""Regional names: one row, one fact."""

import pytest

from foodsafety.foods import food_kind, match_food

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
