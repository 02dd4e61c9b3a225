"""Recipe documents: each kind comes in whole, goes out whole, and bad ones say what is wrong and where."""

import contextlib
import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from foodsafety.quantities import CoreError
from foodsafety.recipes import Document, best_text, decoded_text, read_document, to_json_ld, to_markdown

PLAIN = """Causeway leek soup
Serves 6
A soup for the evening tide.

Ingredients
3 leeks
25 g butter
For the top:
a few chives

Method
1. Wash and slice the leeks.
2. Melt the butter and cook the leeks for 10 minutes.

Notes
Keeps three days.
"""


PAGE = """<html><head><title>x</title><script>alert("never")</script>
<script type="application/ld+json">{"@graph":[{"@type":["Recipe"],"name":"Soup &amp; toast",
"recipeYield":["4","4 bowls"],"author":{"name":"the crew"},
"recipeIngredient":["1 <b>onion</b>","<script>alert(1)<\\/script>2 carrots"],
"recipeInstructions":[{"@type":"HowToSection","name":"First",
"itemListElement":[
{"@type":"HowToStep","text":"Chop the onion."}]},"Boil it."]}]}
</script></head><body><h1>Other</h1></body></html>"""


def test_a_plain_text_is_read_by_its_headings() -> None:
    found = read_document(PLAIN)

    assert (found.title, found.serves, found.summary) == ("Causeway leek soup", 6, "A soup for the evening tide.")
    assert found.ingredients == ("3 leeks", "25 g butter", "For the top:", "a few chives")
    assert found.instructions == ("Wash and slice the leeks.", "Melt the butter and cook the leeks for 10 minutes.")
    assert found.notes == ("Keeps three days.",)


def test_a_text_without_headings_is_read_by_what_its_lines_look_like() -> None:
    found = read_document(
        "Toast\n2 slices of bread\n10 g butter\nToast the bread and spread with the butter.\nIt was windy."
    )

    assert found.ingredients == ("2 slices of bread", "10 g butter")
    assert found.instructions == ("Toast the bread and spread with the butter.", "It was windy.")


@pytest.mark.parametrize("text", [PLAIN, "Toast\n2 slices of bread\nwhat is this\n", "a\n\n\nb\n# c\n"])
def test_every_line_that_is_not_blank_is_taken_for_something(text: str) -> None:
    lines = read_document(text).lines

    assert [line.text for line in lines] == text.splitlines()
    assert all(bool(line.text.strip()) == (line.taken != "blank") for line in lines)


def test_a_saved_page_gives_its_recipe_data_cleaned() -> None:
    found = read_document(PAGE)

    assert found.title == "Soup & toast"
    assert found.ingredients == ("1 onion", "2 carrots")
    assert found.instructions == ("First:", "Chop the onion.", "Boil it.")
    assert found.extra == {"author": {"name": "the crew"}}


def test_a_page_without_recipe_data_is_read_as_text() -> None:
    found = read_document(
        "<h1>Toast</h1><h2>Ingredients</h2><ul><li>2 slices bread</li></ul>"
        "<h2>Method</h2><p>Toast it.</p><script>x()</script>"
    )

    assert (found.title, found.ingredients, found.instructions) == ("Toast", ("2 slices bread",), ("Toast it.",))


_WORDS = (
    st.text(alphabet="abcdefgh äé12½-", min_size=1, max_size=30).map(str.strip).filter(lambda t: t and t[0].isalpha())
)


_DOCUMENTS = st.builds(
    Document,
    title=_WORDS.filter(lambda t: not t.startswith("#")),
    summary=st.just("") | st.just("A note by the crew."),
    serves=st.just(6),
    servings_text=st.just("Serves 6"),
    ingredients=st.lists(st.integers(1, 900).map(lambda n: f"{n} g flour"), min_size=1, max_size=6).map(tuple),
    instructions=st.lists(
        st.sampled_from(["Mix it all.", "Bake for 10 minutes -- or more."]), min_size=1, max_size=5
    ).map(tuple),
    notes=st.lists(st.sampled_from(["Cool it.", "Good cold."]), max_size=3).map(tuple),
    extra=st.dictionaries(
        st.sampled_from(["author", "keywords"]), st.text(max_size=12) | st.lists(st.integers(), max_size=2), max_size=2
    ),
    extension=st.dictionaries(
        st.sampled_from(["process", "locale"]), st.text(max_size=20) | st.just({"a": "-- --> <b>"}), max_size=2
    ),
)


@given(_DOCUMENTS)
def test_out_as_json_ld_and_in_again_loses_nothing(document: Document) -> None:
    assert read_document(json.dumps(to_json_ld(document))).said == document.said


@given(_DOCUMENTS)
def test_out_as_markdown_and_in_again_loses_nothing(document: Document) -> None:
    assert read_document(to_markdown(document)).said == document.said


@pytest.mark.parametrize(
    ("data", "field"),
    [
        (b"x" * 2_000_000, "file"),
        (b"\x89PNG\r\n\x1a\n\x00\x00", "file"),
        (b"one\ntwo\nth\xe9ee\n", "line 3"),
    ],
    ids=["2 MB", "binary", "wrong encoding"],
)
def test_bytes_that_are_no_text_are_refused_with_the_place(data: bytes, field: str) -> None:
    with pytest.raises(CoreError) as wrong:
        decoded_text(data)

    assert wrong.value.field == field
    assert best_text(data)


@pytest.mark.parametrize(
    ("text", "field"),
    [
        ("  \n ", "text"),
        ("line\n" * 10_000, "line 2001"),
        ('{"@type": "Recipe",\n oops}', "line 2"),
        ('{"@type": "Person"}', "text"),
        ("a\nb\x07c", "line 2"),
        ("<script>alert(1)</script>", "text"),
        ("[" * 5000, "text"),
        ("T\nMethod\nok\n<!-- bulwark {broken -->", "bulwark comment"),
    ],
    ids=[
        "empty",
        "10,000 lines",
        "broken JSON",
        "no recipe",
        "control character",
        "only a script",
        "deep",
        "damaged comment",
    ],
)
def test_a_text_that_cannot_be_read_says_where(text: str, field: str) -> None:
    with pytest.raises(CoreError) as wrong:
        read_document(text)

    assert wrong.value.field == field


def test_utf_16_with_its_mark_is_read() -> None:
    assert decoded_text("Crème".encode("utf-16")) == "Crème"


@given(st.text(max_size=200))
def test_any_text_is_read_or_refused_with_a_field(text: str) -> None:
    with contextlib.suppress(CoreError):
        assert read_document(text).lines


def test_ingredients_parted_by_semicolons_are_a_line_each_and_none_is_lost() -> None:
    text = (
        "Mocha pots\n\nIngredients\n200 g dark chocolate, broken up; 4 large eggs; 150 ml cream.\n\nMethod\nMix it all."
    )
    assert read_document(text).ingredients == ("200 g dark chocolate, broken up", "4 large eggs", "150 ml cream")
    kept = "1 onion; the red sort is best"
    assert read_document(f"Stew\n\nIngredients\n{kept}\n\nMethod\nFry it.").ingredients == (kept,)


TABLE = """**Veg wraps** (Tues club)

*Kit:* 2 boards, 2 knives

| Ingredient | Amount |
|---|---|
| red pepper | 2 |
| halloumi | 250 g |
| wraps | 8 |

- [ ] Wash hands
- [ ] Fry the pepper for 6 minutes
"""


def test_a_table_of_ingredients_is_a_list() -> None:
    document = read_document(TABLE)
    assert document.title == "Veg wraps (Tues club)"
    assert document.ingredients == ("2 red pepper", "250 g halloumi", "8 wraps")
    assert document.instructions == ("Wash hands", "Fry the pepper for 6 minutes")


@pytest.mark.parametrize(
    ("row", "lines"),
    [
        ("3 onions  6 cloves garlic", ("3 onions", "6 cloves garlic")),
        ("soured cream, grated cheese, coriander", ("soured cream", "grated cheese", "coriander")),
        ("2 tsp smoked paprika, 1 tsp salt, 1 tsp cumin", ("2 tsp smoked paprika", "1 tsp salt", "1 tsp cumin")),
        (
            "350g linguine / 300g raw king prawns / 2 cloves garlic",
            ("350g linguine", "300g raw king prawns", "2 cloves garlic"),
        ),
        ("1 onion, finely chopped", ("1 onion, finely chopped",)),
        ("cod fillets    2 kg", ("cod fillets    2 kg",)),
    ],
)
def test_foods_in_one_row_are_a_line_each(row: str, lines: tuple[str, ...]) -> None:
    document = read_document(f"Stew\n\nIngredients\n500 g beef mince\n{row}\n\nMethod\nFry it all.")
    assert document.ingredients[1:] == lines


def test_tags_that_never_end_are_words_and_take_no_longer_each() -> None:
    """A tag without its end was looked for to the end of the page, from each of them."""
    found = read_document("<html><body><p>Fish pie</p><p>1 kg cod</p><p>Bake the cod.</p>" + "<a " * 12_000)

    assert "Fish pie" in found.title
    assert any("Bake the cod" in row for row in found.instructions)
