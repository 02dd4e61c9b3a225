"""The flow map on the web: what it shows, what it changes, and for whom."""

import asyncio
import json
import re
from collections.abc import Coroutine
from concurrent.futures import ThreadPoolExecutor
from typing import Any
from xml.etree import ElementTree

import pytest
from django.template.loader import render_to_string
from django.test import Client
from weasyprint import HTML

from bulwark.flow import pages, selectors
from bulwark.presentation import long_work
from bulwark.recipes.models import Recipe
from foodsafety.ordering.reordering import raw_stands_s
from tests.web.conftest import Hostel, paper_of

LATE = "grate,stir,chill,mix,shape,slice,wash,wash-up,griddle,fresh-tongs,probe,plate,serve"


@pytest.fixture
def client(hostel: Hostel) -> Client:
    return hostel.client()


@pytest.fixture
def koftas(hostel: Hostel) -> Recipe:
    return Recipe.objects.get(organisation=hostel.organisation)


def flow(recipe: Recipe, path: str = "", **query: str) -> str:
    asked = "&".join(f"{key}={value}" for key, value in query.items())
    return f"/recipes/{recipe.pk}/flow/{path}?{asked}"


def ids(recipe: Recipe) -> list[str]:
    recipe.refresh_from_db()
    return [step["id"] for step in recipe.process["steps"]]


def apply(client: Client, recipe: Recipe, way: str, **fields: str) -> Any:
    return client.post(f"/recipes/{recipe.pk}/flow/apply/", {"way": way, **fields}, follow=True)


def test_the_recipe_as_written_is_clean_and_says_what_ends_what(client: Client, koftas: Recipe) -> None:
    page = client.get(flow(koftas)).content.decode()

    assert "Nothing raw reaches a plate" in page
    assert "Turkey, raw poultry: cleared by step 9" in page
    assert page.count('class="fl-head"') == 13


def test_an_order_tried_shows_its_finding_with_its_path_and_what_is_too_late(client: Client, koftas: Recipe) -> None:
    page = client.get(flow(koftas, order=LATE)).content.decode()

    assert "Raw poultry in the salad" in page
    assert "Turkey gets on the hands" in page
    assert "Washing at step 7 is too late." in page
    assert "Washing hands before step 6 would still end it." in page
    assert "FSIS" in page
    assert ids(koftas) != LATE.split(",")


@pytest.mark.parametrize("order", ["serve,grate", "grate,stir,mint", "chill,grate,stir", "%00,"])
def test_an_order_that_cannot_be_is_refused_and_the_written_one_shown(
    client: Client, koftas: Recipe, order: str
) -> None:
    answer = client.get(flow(koftas, order=order))

    assert answer.status_code == 200
    assert "The order as written is shown." in answer.content.decode()


@pytest.mark.parametrize("query", ["finding=99", "at=9999", "soil=gravel", "carrier=moon", "at=-1", "finding=x"])
def test_a_query_that_makes_no_sense_shows_the_map(client: Client, koftas: Recipe, query: str) -> None:
    assert client.get(f"/recipes/{koftas.pk}/flow/?{query}").status_code == 200


def test_every_contact_has_a_sentence_and_the_table_says_the_same(client: Client, koftas: Recipe) -> None:
    page = client.get(flow(koftas)).content.decode()

    said = re.findall(r'class="fl-ring[^>]*aria-label="([^"]+)"', page)
    assert len(said) > 20
    assert all(text.startswith("Step ") and text.endswith(".") for text in said)
    assert page.count('<th scope="row">') == 13


def test_filters_dim_what_is_not_asked_for(client: Client, koftas: Recipe) -> None:
    whole, filtered = (client.get(url).content.decode() for url in (flow(koftas), flow(koftas, carrier="tongs")))

    assert "is-dim" not in whole
    assert "is-dim" in filtered


def test_stepping_through_shows_no_more_than_has_happened(client: Client, koftas: Recipe) -> None:
    page = client.get(flow(koftas, at="4")).content.decode()

    for later, step in re.findall(r'class="fl-(?:ring|head)[^"]*?( is-later)?" data-step="(\d+)"', page):
        assert bool(later) == (int(step) > 4)


def test_the_ways_to_repair_are_counted_and_priced(client: Client, koftas: Recipe) -> None:
    page = client.get(flow(koftas, "ways/", order=LATE)).content.decode()

    assert "Wash hands before “Slice the rest of the cucumber”" in page
    assert "s of work" in page
    assert "l of water" in page


def test_a_repair_is_put_in_place_unconfirmed_and_can_be_undone(client: Client, koftas: Recipe) -> None:
    client.post(f"/recipes/{koftas.pk}/steps/edit/", {"what": "order", "ids": LATE})
    answer = apply(client, koftas, "wash")

    assert "Nothing raw reaches a plate" in answer.content.decode()
    assert koftas.process != Recipe.objects.get(pk=koftas.pk).process
    koftas.refresh_from_db()
    assert koftas.confirmed_at is None
    assert [step["title"] for step in koftas.process["steps"]].count("Wash hands") == 1
    client.post(f"/recipes/{koftas.pk}/steps/edit/", {"what": "undo"})
    assert ids(koftas) == LATE.split(",")


def test_the_best_order_is_put_in_place_with_one_click(client: Client, koftas: Recipe) -> None:
    client.post(f"/recipes/{koftas.pk}/steps/edit/", {"what": "order", "ids": LATE})
    page = apply(client, koftas, "order").content.decode()

    assert "Nothing raw reaches a plate" in page
    order = ids(koftas)
    assert order.index("slice") < order.index("mix")
    koftas.refresh_from_db()
    assert all(set(step["after"]) <= set(order[:i]) for i, step in enumerate(koftas.process["steps"]))


def step(name: str, do: str, foods: list[str], tools: list[str], minutes: float, **more: Any) -> dict[str, Any]:
    hands = [] if do == "heat" else ["cook"]
    return {
        "id": name,
        "do": do,
        "title": name,
        "foods": foods,
        "tools": tools,
        "hands": hands,
        "minutes": minutes,
        **more,
    }


# The bread is cut while the beef stews; to cut it first would save washes and cost half an hour.
STEW = {
    "foods": {"beef": {"kind": "beef"}, "fish": {"soils": ["raw_fish"]}, "bread": {"kind": "bread"}},
    "tools": {"board": {"kind": "board"}, "pot": {"kind": "pot"}, "pan": {"kind": "pan"}},
    "people": ["cook"],
    "steps": [
        step("beef", "cut", ["beef"], ["board"], 5),
        step("stew", "heat", ["beef"], ["pot"], 60, waiting_min=60),
        step("wash", "wash_hands", [], [], 1),
        step("clean", "clean", [], ["board"], 2),
        step("slice", "cut", ["bread"], ["board"], 20),
        step("fish", "cut", ["fish"], ["board"], 3),
        step("fry", "heat", ["fish"], ["pan"], 8),
        step("wash again", "wash_hands", [], [], 1),
        step("clean again", "clean", [], ["board"], 2),
    ],
    "serve": ["beef", "fish", "bread"],
}


def test_an_order_that_takes_longer_comes_with_one_that_does_not(
    hostel: Hostel, client: Client, koftas: Recipe
) -> None:
    Recipe.objects.filter(pk=koftas.pk).update(process=STEW)
    sheet = selectors.Sheet(Recipe.objects.get(pk=koftas.pk), hostel.actor, selectors.FlowQuery())
    ways = pages.ways_page(sheet)

    assert (ways["needed"], ways["best"]["washes"]) == (4, 2)
    assert ways["best"]["minutes"] > ways["minutes"]
    assert (ways["quick"]["washes"], ways["quick"]["minutes"]) == (2, ways["minutes"])
    assert "in no more time" in client.get(flow(koftas, "ways/")).content.decode()
    apply(client, koftas, "in-time")
    assert ids(koftas)[0] == "beef"


def test_no_order_that_is_offered_leaves_raw_fish_standing(hostel: Hostel, koftas: Recipe) -> None:
    slow = {**STEW, "steps": [{**row, "minutes": 40} if row["id"] == "slice" else row for row in STEW["steps"]]}
    Recipe.objects.filter(pk=koftas.pk).update(process=slow)
    sheet = selectors.Sheet(Recipe.objects.get(pk=koftas.pk), hostel.actor, selectors.FlowQuery())
    ways = pages.ways_page(sheet)

    offered = [row["repair"].process for row in (ways["best"], ways["quick"]) if row]
    assert offered
    assert all(raw_stands_s(process)["fish"] <= 1800 for process in offered)


def test_an_order_tried_out_can_be_kept(client: Client, koftas: Recipe) -> None:
    apply(client, koftas, "tried", order=LATE)

    assert ids(koftas) == LATE.split(",")


@pytest.mark.parametrize("way", ["mend-everything", "tool", ""])
def test_a_way_that_does_not_apply_changes_nothing(client: Client, koftas: Recipe, way: str) -> None:
    before = ids(koftas)
    answer = apply(client, koftas, way)

    assert "no longer applies" in answer.content.decode()
    assert ids(koftas) == before


@pytest.mark.parametrize(
    "plan",
    [
        "{",
        json.dumps({"order": ["grate"], "wash_before": []}),
        json.dumps({"order": LATE.split(",")[::-1], "wash_before": []}),
        json.dumps({"order": LATE.split(","), "wash_before": [["mix", ["turkey"]]]}),
        json.dumps({"order": LATE.split(","), "wash_before": [["nowhere", ["board"]]]}),
    ],
)
def test_a_forged_order_from_a_long_look_is_refused(client: Client, koftas: Recipe, plan: str) -> None:
    before = ids(koftas)
    apply(client, koftas, "order", plan=plan)

    assert ids(koftas) == before


def test_an_order_from_a_long_look_is_taken(client: Client, koftas: Recipe) -> None:
    best = [name for name in ids(koftas) if name != "slice"]
    best.insert(2, "slice")
    apply(client, koftas, "order", plan=json.dumps({"order": best, "wash_before": [["plate", ["tongs"]]]}))

    assert ids(koftas).index("slice") == 2


def served_apart(recipe: Recipe) -> None:
    """The koftas on a plate of their own."""
    *steps, serve = recipe.process["steps"]
    others = [name for name in serve["foods"] if name != "koftas"]
    steps += [{**serve, "foods": ["koftas"]}, {**serve, "id": "serve-rest", "foods": others, "after": []}]
    Recipe.objects.filter(pk=recipe.pk).update(process={**recipe.process, "steps": steps})


def test_one_portion_is_kept_free_of_an_allergen_and_watched(client: Client, koftas: Recipe) -> None:
    served_apart(koftas)
    page = client.get(flow(koftas, "allergens/", portion="koftas", allergen="milk")).content.decode()
    assert "The koftas can be kept free of milk." in page

    apply(client, koftas, "allergen", portion="koftas", allergen="milk")
    koftas.refresh_from_db()
    assert koftas.process["free_of"] == {"koftas": ["milk"]}


def test_dishes_served_on_one_plate_cannot_be_kept_apart(client: Client, koftas: Recipe) -> None:
    page = client.get(flow(koftas, "allergens/", portion="koftas", allergen="milk")).content.decode()

    assert "Cannot with these tools" in page
    assert "Raita touches the koftas" in page


def test_an_allergen_inside_a_portion_is_a_plain_cannot(client: Client, koftas: Recipe) -> None:
    page = client.get(flow(koftas, "allergens/", portion="raita", allergen="milk")).content.decode()

    assert "Cannot with these tools: raita free of milk." in page
    assert "free_of" not in Recipe.objects.get(pk=koftas.pk).process
    assert "cannot be kept free" in apply(client, koftas, "allergen", portion="raita", allergen="milk").content.decode()


@pytest.mark.parametrize(("portion", "allergen"), [("moon", "milk"), ("raita", "gravel")])
def test_a_portion_or_an_allergen_nobody_has_is_named(
    client: Client, koftas: Recipe, portion: str, allergen: str
) -> None:
    answer = client.get(flow(koftas, "allergens/", portion=portion, allergen=allergen))

    assert answer.status_code == 422
    assert (portion if portion == "moon" else allergen) in answer.content.decode()


def test_the_drawing_downloads_as_one_svg_that_stands_by_itself(client: Client, koftas: Recipe) -> None:
    answer = client.get(f"/recipes/{koftas.pk}/flow.svg?order={LATE}")
    drawing = ElementTree.fromstring(answer.content)  # noqa: S314 - our own drawing, nobody else's

    assert answer["Content-Type"] == "image/svg+xml"
    assert drawing.tag == "{http://www.w3.org/2000/svg}svg"
    assert b"var(--" not in answer.content
    used = set(re.findall(rb"url\(#([^)]+)\)", answer.content))
    assert used <= set(re.findall(rb'id="([^"]+)"', answer.content))


@pytest.mark.parametrize("paper", ["A4", "letter"])
def test_the_print_is_one_page(hostel: Hostel, koftas: Recipe, paper: str) -> None:
    sheet = selectors.Sheet(koftas, hostel.actor, selectors.FlowQuery(order=tuple(LATE.split(","))))
    page = render_to_string("flow/print.html", {**pages.map_page(sheet), "paper": paper})

    assert len(HTML(string=page).render().pages) == 1
    assert paper_of(hostel.client(), f"/recipes/{koftas.pk}/flow.pdf?paper={paper}").startswith(b"%PDF")


def test_the_map_asks_the_database_little(client: Client, koftas: Recipe, django_assert_max_num_queries: Any) -> None:
    client.get(flow(koftas))
    with django_assert_max_num_queries(8):
        client.get(flow(koftas))


@pytest.mark.parametrize("path", ["flow/", "flow/ways/", "flow/allergens/", "flow.svg"])
def test_another_organisation_finds_no_flow(koftas: Recipe, path: str) -> None:
    other = Hostel("Gull Rock Hostel")

    assert other.client().get(f"/recipes/{koftas.pk}/{path}").status_code == 404
    assert other.client().post(f"/recipes/{koftas.pk}/flow/apply/", {"way": "order"}).status_code == 404
    assert other.client().post(f"/recipes/{koftas.pk}/flow.pdf").status_code == 404


def test_a_stranger_and_a_tablet_see_no_recipe_flow(hostel: Hostel, koftas: Recipe) -> None:
    hostel.open()

    assert Client().get(flow(koftas)).status_code == 302
    assert hostel.tablet().get(flow(koftas)).status_code in (302, 404)


# --- a bench, from its log -----------------------------------------------------------------------


def crossing(hostel: Hostel) -> Hostel:
    """Puffin mixes raw turkey and slices the salad with the same hands, then washes them."""
    hostel.open()
    for name in ("AK", "JT"):
        hostel.says("hands_washed", learner=name, scrub_s=22)
    hostel.says("step_done", step="mix", by=["AK"])
    hostel.says("step_done", step="slice", by=["AK"])
    hostel.says("hands_washed", learner="AK", scrub_s=21)
    hostel.says("step_done", step="serve", by=["JT"])
    return hostel


def test_a_benchs_flow_is_drawn_from_its_log(hostel: Hostel) -> None:
    crossing(hostel)
    page = hostel.client().get(f"/benches/{hostel.puffin.pk}/flow/").content.decode()

    assert "Raw poultry in the salad" in page
    assert "Turkey gets on AK&#x27;s hands" in page
    assert "Washing at step 5 is too late." in page
    assert "AK washes" in page


def test_a_bench_without_a_breach_is_not_called_safe_while_nothing_is_proven(hostel: Hostel) -> None:
    hostel.open()
    hostel.says("hands_washed", learner="AK", scrub_s=22)
    hostel.says("step_done", step="grate", by=["AK"])
    page = hostel.client().get(f"/benches/{hostel.puffin.pk}/flow/").content.decode()

    assert "Not proven cooked: Koftas." in page
    assert "Nothing proves it safe" in page
    assert "Nothing raw reaches a plate" not in page


def test_raw_food_on_its_way_is_no_breach_and_a_contact_on_its_way_is(hostel: Hostel) -> None:
    hostel.open()
    hostel.says("hands_washed", learner="AK", scrub_s=22)
    hostel.says("step_done", step="mix", by=["AK"])
    url = f"/benches/{hostel.puffin.pk}/flow/"
    page = hostel.client().get(url).content.decode()
    assert "Breach" not in page
    assert "Not proven cooked: Koftas." in page

    hostel.says("step_done", step="slice", by=["AK"])
    page = hostel.client().get(url).content.decode()
    assert "Raw poultry in the salad" in page
    assert "Not on a plate yet, as far as is recorded: salad" in page
    assert "Onto the plate" not in page


def test_raw_food_that_was_served_is_a_breach(hostel: Hostel) -> None:
    crossing(hostel)
    page = hostel.client().get(f"/benches/{hostel.puffin.pk}/flow/").content.decode()

    assert "Koftas is eaten with raw poultry" in page


def test_a_bench_that_has_done_nothing_says_so(hostel: Hostel) -> None:
    answer = hostel.open().client().get(f"/benches/{hostel.gannet.pk}/flow/", follow=True)

    assert "Nothing has been done at this bench yet." in answer.content.decode()


def test_a_benchs_flow_is_its_organisations_alone(hostel: Hostel) -> None:
    crossing(hostel)
    other = Hostel("Gull Rock Hostel").client()

    assert other.post(f"/benches/{hostel.puffin.pk}/flow.pdf").status_code == 404
    assert paper_of(hostel.client(), f"/benches/{hostel.puffin.pk}/flow.pdf").startswith(b"%PDF")
    for path in ("flow/", "flow.svg"):
        assert other.get(f"/benches/{hostel.puffin.pk}/{path}").status_code == 404
        assert hostel.client().get(f"/benches/{hostel.puffin.pk}/{path}").status_code == 200


# --- the long look --------------------------------------------------------------------------------


def in_a_loop_of_its_own(work: Coroutine[Any, Any, Any]) -> Any:
    """The browser's tests leave a loop running in this thread."""
    with ThreadPoolExecutor(1) as pool:
        return pool.submit(asyncio.run, work).result()


def test_a_long_look_tells_its_bound_and_ends_with_what_it_found() -> None:
    def work(progress: Any, cancelled: Any) -> str:
        progress(4)
        return "<p>found</p>"

    async def heard() -> list[bytes]:
        return [part async for part in long_work.stream_response(work).streaming_content]

    parts = in_a_loop_of_its_own(heard())

    assert parts[0].startswith(b"event: begun")
    assert b"event: bound\ndata: 4" in parts[1]
    assert parts[-1] == b'event: found\ndata: "<p>found</p>"\n\n'


def test_closing_a_long_look_stops_the_work() -> None:
    stopped: list[bool] = []

    def work(progress: Any, cancelled: Any) -> str:
        progress(1)
        while not cancelled():
            pass
        stopped.append(True)
        return ""

    async def leave_early() -> None:
        stream = long_work._stream(work)
        await anext(stream)
        await stream.aclose()
        await asyncio.sleep(0.3)

    in_a_loop_of_its_own(leave_early())

    assert stopped == [True]


def test_two_recipes_side_by_side_share_a_board(hostel: Hostel, client: Client, koftas: Recipe) -> None:
    koftas.pk, koftas.title = None, "Koftas of the second bench"
    koftas.save()
    first = Recipe.objects.exclude(pk=koftas.pk).get(organisation=hostel.organisation)
    answer = client.get(f"/recipes/{first.pk}/flow/?beside={koftas.pk}", follow=True)

    assert "beside <b>Koftas of the second bench</b>" in answer.content.decode()
    assert client.get(f"/recipes/{first.pk}/flow/beside/{koftas.pk}/drawing.svg").status_code == 200
    assert paper_of(client, f"/recipes/{first.pk}/flow/beside/{koftas.pk}/drawing.pdf").startswith(b"%PDF")
    other = Hostel("Gull Rock Hostel").client()
    assert other.get(f"/recipes/{first.pk}/flow/beside/{koftas.pk}/").status_code == 404
