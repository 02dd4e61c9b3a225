"""A whole lesson in two browsers, as a new user would go through it."""

import re
from collections.abc import Callable
from typing import Any

import pytest
from django.core.management import call_command
from django.utils import timezone
from playwright.sync_api import APIResponse, BrowserContext, Page, Response, Route, expect

from bulwark.lessons.log import prove
from bulwark.lessons.models import Event
from tests.e2e.conftest import axe
from tests.web.conftest import PASSWORD, Hostel

pytestmark = [pytest.mark.e2e, pytest.mark.django_db(transaction=True)]
Opener = Callable[..., BrowserContext]


def sign_in(context: BrowserContext, address: str, hostel: Hostel) -> Page:
    page = context.new_page()
    page.goto(f"{address}/sign-in/")
    assert axe(page) == []
    page.fill("#id_username", hostel.username)
    page.fill("#id_password", PASSWORD)
    page.click("button:has-text('Sign in')")
    page.wait_for_url(f"{address}/")
    return page


def shown(page: Page, panel: str) -> None:
    expect(page.locator(f"#panel-{panel}")).to_be_visible()


def type_reading(page: Page, digits: str) -> None:
    for key in digits:
        page.click(f'#keypad [data-key="{key}"]')
    page.click("#keypad [data-enter]")


def wash(page: Page, learner: str, *, seconds: int = 48) -> None:
    """A whole wash, with the tablet's clock run ahead."""
    page.click(f'.person[data-wash="{learner}"]')
    page.clock.run_for(seconds * 1000)
    page.click("[data-wash-done]")
    expect(page.locator(f'.person[data-wash="{learner}"]')).to_contain_text("clean")


def done(page: Page, *steps: str) -> None:
    for step in steps:
        shown(page, f"step-{step}")
        page.clock.run_for(900)  # nobody finishes a step within a second of the last
        with page.expect_response("**/b/entries/") as answer:
            page.click(f"#panel-step-{step} .main-act button")
        if answer.value.status == 409:  # long before the time its recipe gives
            page.locator(".bw-question .bw-acts button").first.click()
        expect(page.locator(f"#panel-step-{step}")).to_be_hidden()


def get_ready(page: Page) -> None:
    for learner in ("AK", "JT"):
        form = page.locator(f'[data-ready-for="{learner}"]')
        for label in form.locator("label").all():
            label.click()
        form.locator("button.is-primary").click()
    shown(page, "fridge")


def bench_arrives(page: Page) -> None:
    get_ready(page)
    page.click("#panel-fridge [data-keypad]")
    type_reading(page, "38")
    shown(page, "arrive-wash")


def test_a_lesson_from_sign_in_to_record(address: str, open_context: Opener) -> None:
    hostel = Hostel()
    front = sign_in(open_context(), address, hostel)

    # Today, the safety plan under both profiles, the start.
    expect(front.locator(".td-plinth")).to_contain_text("Turkey koftas with cucumber raita")
    assert axe(front) == []
    front.click(".td-brick >> text=Safety plan")
    expect(front.locator(".bw-plan")).to_contain_text("73.9 °C (165 °F)")
    front.click(".bw-profiles >> text=uk")
    expect(front.locator(".bw-plan")).to_contain_text("70 °C for 2 min")
    assert axe(front) == []
    front.goto(f"{address}/lessons/{hostel.lesson.pk}/")
    front.click("text=Start the lesson")
    expect(front.locator(".bw-codes svg").first).to_be_visible()
    assert axe(front) == []

    # A tablet joins with the code; the wall stands at the front.
    tablet_context = open_context(1180, 820)
    tablet = tablet_context.new_page()
    tablet.clock.install()
    tablet.goto(f"{address}/join/")
    assert axe(tablet) == []
    tablet.fill("#code", hostel.puffin.join_code)
    tablet.click("text=Join >> nth=-1")
    expect(tablet.locator("#screen")).to_be_visible()
    assert axe(tablet) == []
    front.goto(f"{address}/lessons/{hostel.lesson.pk}/wall/")
    assert axe(front) == []
    bench_arrives(tablet)
    assert axe(tablet) == []

    # The network goes in the middle of a hand-wash and comes back: nothing is lost.
    wash(tablet, "JT")
    with tablet.expect_response("**/b/entries/"):  # on a busy machine the start is still on its way
        tablet.click('.person[data-wash="AK"]')
    tablet.clock.run_for(15_000)
    tablet_context.set_offline(True)
    tablet.clock.run_for(35_000)
    tablet.click("[data-wash-done]")
    expect(tablet.locator("#outbox")).to_contain_text("1 entry waits")
    before = Event.objects.filter(kind="hands_washed").count()
    tablet_context.set_offline(False)
    tablet.clock.run_for(4_000)
    expect(tablet.locator("#outbox")).to_be_hidden()
    shown(tablet, "step-grate")
    assert (before, Event.objects.filter(kind="hands_washed").count()) == (1, 2)
    assert Event.objects.filter(kind="hands_washed", data__learner="AK").get().data["scrub_s"] == 20

    # Through the raw work; the wall follows by itself.
    done(tablet, "grate", "stir", "chill", "mix", "shape")
    expect(tablet.locator(".person.is-raw")).to_have_count(1)
    doer = tablet.inner_text(".person.is-raw b")
    other = "JT" if doer == "AK" else "AK"
    expect(front.locator(".found", has_text="Puffin")).to_contain_text("raw turkey")

    # On to the cucumber with raw hands and the raw board: stopped, path named, ignored.
    done(tablet, "wash")
    shown(tablet, "step-wash-up")
    tablet.click("#panel-step-wash-up [data-open=steps]")
    assert axe(tablet) == []
    tablet.click('#steps [data-show="step-slice"]')
    lock = tablet.locator(f'#panel-step-slice [data-interlock="{doer}"]')
    expect(lock).to_contain_text("Raw turkey in the salad")
    expect(lock).to_contain_text(f"{doer}'s hands")
    expect(lock.locator(f"[data-wash={doer}]")).to_be_visible()
    assert axe(tablet) == []
    with tablet.expect_response("**/b/entries/"):  # the tap is taken, however soon it comes
        tablet.click("#panel-step-slice >> text=Go on anyway")
    expect(front.locator(".call.is-breach")).to_contain_text("Remake the salad")
    expect(front.locator("[aria-label='Salad, breach']")).to_be_visible()
    assert axe(front) == []

    # Put right: washed, cleaned, made again by clean hands.
    expect(tablet.locator(".bw-alarm")).to_contain_text("Raw turkey in the salad")
    assert axe(tablet) == []
    wash(tablet, doer)
    done(tablet, "wash-up")
    tablet.click(".bw-alarm >> text=Thrown away, make it again")
    expect(tablet.locator(".bw-alarm")).to_have_count(0)
    shown(tablet, "step-slice")
    tablet.click(f'#panel-step-slice .tok:has-text("{other}")')
    tablet.locator("#panel-step-slice .fixes button.is-primary").locator("visible=true").click()
    expect(tablet.locator("#panel-step-slice [data-interlock]:visible")).to_have_count(0)
    done(tablet, "slice", "griddle", "fresh-tongs")

    # Three pieces, one in the wrong unit, one too low at first, the last from the probe.
    shown(tablet, "step-probe")
    for digits in ("171", "74"):
        tablet.click("#panel-step-probe [data-keypad]")
        type_reading(tablet, digits)
    expect(tablet.locator(".bw-question")).to_contain_text("Which is it?")
    assert axe(tablet) == []
    tablet.click(".bw-question >> text=It is 74 °C")
    expect(tablet.locator("#panel-step-probe .verdict")).to_contain_text("1 more to probe")
    tablet.click("#panel-step-probe [data-keypad]")
    type_reading(tablet, "160")
    expect(tablet.locator("#panel-step-probe .verdict")).to_contain_text("Not yet: kofta 3 is 160 °F")
    assert axe(tablet) == []
    tablet.click("text=Probe cleaned and sanitized")
    tablet.click("#panel-step-probe [data-keypad]")
    tablet.click("#keypad [data-take]")
    expect(tablet.locator("[data-typed]")).to_contain_text(".")
    for _ in range(6):
        tablet.click('#keypad [data-key="back"]')
    type_reading(tablet, "168")
    expect(tablet.locator("#panel-step-probe .verdict")).to_contain_text("Reached: lowest is kofta 2, 165.2 °F")
    done(tablet, "probe", "plate")

    # A record that stays open follows by itself.
    record_page = front.context.new_page()
    record_page.goto(f"{address}/lessons/{hostel.lesson.pk}/record/")

    # The raita is read, lunch is served, the clock runs, the rest is kept and labelled.
    shown(tablet, "cold-raita")
    tablet.click("#panel-cold-raita [data-keypad]")
    type_reading(tablet, "39")
    done(tablet, "serve")
    shown(tablet, "leftovers")
    expect(tablet.locator("#panel-leftovers .doer")).to_contain_text(re.compile(r"Out for 1:5\d:\d\d"))
    assert axe(tablet) == []

    # What is kept gets a name that somebody else will understand.
    tablet.click("#panel-leftovers article:has-text('Koftas') >> text=Rename")
    assert axe(tablet) == []
    tablet.keyboard.type("turkey torpedoes")
    tablet.keyboard.press("Enter")
    tablet.click("#panel-leftovers article:has-text('Turkey torpedoes') >> text=Into the fridge")
    tablet.click("#panel-leftovers article:has-text('Raita') >> text=All eaten")
    shown(tablet, "finished")
    assert axe(tablet) == []
    tablet.goto(f"{address}/b/label/koftas/")
    expect(tablet.locator(".bw-label")).to_contain_text("Turkey torpedoes")
    expect(tablet.locator(".bw-label")).to_contain_text("Use by")
    assert axe(tablet) == []

    expect(record_page.locator("#record")).to_contain_text("Turkey torpedoes into the fridge")

    # The record has it all, and the chain holds.
    front.goto(f"{address}/lessons/{hostel.lesson.pk}/record/")
    record = front.locator("#record")
    expect(record).to_contain_text("Corrected: thrown away and made again.")
    expect(record).to_contain_text("Koftas is called “turkey torpedoes” here")
    expect(record).to_contain_text("Turkey torpedoes into the fridge")
    expect(record).to_contain_text("A teaching aid")
    assert axe(front) == []
    front.goto(f"{address}/benches/{hostel.puffin.pk}/")
    assert axe(front) == []
    proof = prove()
    assert proof.checked > 30
    assert (proof.broken, proof.old, proof.other_rules) == ([], [], [])


def test_two_tablets_a_double_tap_and_a_reload_lose_and_double_nothing(address: str, open_context: Opener) -> None:
    hostel = Hostel().open()
    pages = []
    for width, height in ((1180, 820), (390, 780)):
        page = open_context(width, height).new_page()
        page.clock.install()
        page.goto(f"{address}/j/{hostel.puffin.join_code}/")
        page.click("text=Join with this tablet")
        pages.append(page)
    one, two = pages

    bench_arrives(one)
    expect(two.locator("#panel-arrive-wash")).to_be_visible()
    assert axe(two) == []

    # A reload in the middle of a wash goes on where the clock says.
    two.click('.person[data-wash="AK"]')
    two.clock.run_for(12_000)
    two.reload()
    expect(two.locator("#wash")).to_be_visible()
    two.clock.run_for(40_000)
    two.click("[data-wash-done]")
    wash(one, "JT")
    shown(one, "step-grate")
    shown(two, "step-grate")
    scrubbed = {event.data["learner"]: event.data["scrub_s"] for event in Event.objects.filter(kind="hands_washed")}
    assert scrubbed == {"AK": 20, "JT": 20}

    # Both tablets say done, one of them twice.
    one.locator("#panel-step-grate .main-act button").dblclick()
    shown(two, "step-stir")
    done(two, "stir")
    shown(one, "step-chill")
    steps = list(Event.objects.filter(kind="step_done").values_list("data__step", flat=True))
    assert sorted(steps) == ["grate", "stir"]

    # The lesson ends under their hands: told so, and what was entered is kept.
    hostel.close()
    one.clock.run_for(900)
    one.click("#panel-step-chill .main-act button")
    expect(one.locator("#trouble")).to_contain_text("This lesson is over")


def test_the_wall_follows_by_polling_when_the_event_stream_fails(address: str, open_context: Opener) -> None:
    hostel = Hostel().open()
    context = open_context()
    context.route("**/live/", lambda route: route.abort())
    page = sign_in(context, address, hostel)
    page.goto(f"{address}/lessons/{hostel.lesson.pk}/wall/")
    expect(page.locator("[aria-label='Fridge, laid, 4 °C']")).to_have_count(0)

    hostel.says("fridge_read", core_c=4)

    expect(page.locator("[aria-label='Fridge, laid, 4 °C']")).to_be_visible(timeout=9_000)


@pytest.mark.parametrize("path", ["/nothing/", "/b/", "/j/ZZZZZZ/", "/sign-in/"])
def test_pages_that_refuse_are_as_readable_as_the_others(address: str, open_context: Opener, path: str) -> None:
    page = open_context(390, 780).new_page()

    page.goto(address + path)

    assert axe(page) == []
    expect(page.locator("h1")).to_be_visible()


def called_at(page: Page) -> list[float]:
    """Seconds since each call of the bench happened, as the log has it."""
    now = timezone.now()
    return [(now - row.happened_at).total_seconds() for row in Event.objects.filter(kind="called")]


def joined(address: str, open_context: Opener, hostel: Hostel, **more: Any) -> Page:
    page = open_context(1180, 820, **more).new_page()
    page.goto(f"{address}/j/{hostel.puffin.join_code}/")
    page.click("text=Join with this tablet")
    expect(page.locator("#screen")).to_be_visible()
    expect(page.locator("#bench[data-works]")).to_be_attached()
    return page


CALL = "document.querySelector('#screen form[data-entry] [value=called]').form.requestSubmit()"


def test_a_clock_that_jumps_while_entries_wait_moves_none(address: str, open_context: Opener) -> None:
    hostel = Hostel().open()
    page = joined(address, open_context, hostel)

    page.context.set_offline(True)
    page.evaluate(CALL)
    expect(page.locator("#outbox")).to_contain_text("1 entry waits")
    page.evaluate("(() => { const now = Date.now; Date.now = () => now() + 3_600_000; })()")
    page.context.set_offline(False)
    page.evaluate("dispatchEvent(new Event('online'))")

    expect(page.locator("#outbox")).to_be_hidden()
    [ago_s] = called_at(page)
    assert 0 <= ago_s < 60


def test_answers_that_come_late_double_nothing_and_take_no_step_back(address: str, open_context: Opener) -> None:
    hostel = Hostel().open()
    page = joined(address, open_context, hostel, service_workers="block")

    # The log has the entry, the page is loaded again before it hears so: it is sent again, and is one.
    late: list[Route] = []

    def taken_unheard(route: Route) -> None:
        if late:
            route.continue_()
        else:
            route.fetch()
            late.append(route)

    page.route("**/b/entries/", taken_unheard)
    page.evaluate(CALL)
    while not late:
        page.wait_for_timeout(50)
    assert Event.objects.filter(kind="called").count() == 1
    page.reload()
    expect(page.locator("#bench[data-works]")).to_be_attached()
    expect(page.locator("#outbox")).to_be_hidden(timeout=15_000)
    assert Event.objects.filter(kind="called").count() == 1

    # A screen asked for before an entry, and answered after it, is not put up.
    old: list[tuple[Route, APIResponse]] = []

    def drawn_before(route: Route) -> None:
        if old:
            route.continue_()
        else:
            old.append((route, route.fetch()))

    page.route("**/b/screen/**", drawn_before)
    page.evaluate("import('/static/bulwark/bench.js').then((it) => it.refresh())")
    while not old:
        page.wait_for_timeout(50)
    shown_before = old[0][1].text()
    with page.expect_response(lambda answer: answer.ok and "/b/entries/" in answer.url):
        page.evaluate(
            "import('/static/bulwark/bench.js').then((it) => it.outbox.add('fridge_read', {value: 3, unit: 'C'}))"
        )
    old[0][0].fulfill(response=old[0][1], body=f"{shown_before}<p id='stale'>Drawn before</p>")

    expect(page.locator("#outbox")).to_be_hidden()
    page.wait_for_timeout(500)
    assert page.locator("#stale").count() == 0
    assert Event.objects.filter(kind="fridge_read").count() == 1


def test_an_entry_that_is_never_taken_holds_nothing_up_and_is_seen(address: str, open_context: Opener) -> None:
    hostel = Hostel().open()
    # What keeps the page would ask past the route that breaks the answer.
    page = joined(address, open_context, hostel, service_workers="block")

    def broken(route: Route) -> None:
        if route.request.post_data_json["kind"] == "called":
            route.fulfill(status=500, content_type="text/html", body="<p>Something broke</p>")
        else:
            route.continue_()

    page.route("**/b/entries/", broken)

    def is_taken(answer: Response) -> bool:
        return answer.ok and "fridge_read" in (answer.request.post_data or "")

    with page.expect_response(is_taken):
        page.evaluate(CALL)
        page.evaluate(
            "import('/static/bulwark/bench.js').then((it) => it.outbox.add('fridge_read', {value: 3, unit: 'C'}))"
        )

    aside = page.locator("#aside")
    expect(aside).to_contain_text("1 entry was not taken. Show the educator.")
    expect(page.locator("#outbox")).to_be_hidden()
    assert list(Event.objects.values_list("kind", flat=True)) == ["fridge_read"]
    assert axe(page) == []
    aside.locator("summary").click()
    expect(aside).to_contain_text("called")
    aside.locator("button").click()
    expect(aside).to_be_hidden()


def test_a_tap_before_the_scripts_have_come_is_not_lost(address: str, open_context: Opener) -> None:
    hostel = Hostel().open()
    page = open_context(1180, 820).new_page()
    slow: list[Route] = []
    page.route("**/bench.js", lambda route: slow.append(route))
    page.goto(f"{address}/j/{hostel.puffin.join_code}/")
    page.click("text=Join with this tablet", no_wait_after=True)
    expect(page.locator("#screen")).to_be_visible()

    page.evaluate(CALL)
    page.click("[data-open=timer]")
    expect(page.locator("#timer")).to_be_hidden()
    [held] = slow
    with page.expect_response("**/b/entries/") as taken:
        held.continue_()

    assert taken.value.ok
    assert list(Event.objects.values_list("kind", flat=True)) == ["called"]
    expect(page.locator("#timer")).to_be_visible()


def test_a_screen_that_changes_under_a_finger_waits_for_it(address: str, open_context: Opener) -> None:
    hostel = Hostel().open()
    page = open_context(1180, 820).new_page()
    page.goto(f"{address}/j/{hostel.puffin.join_code}/")
    page.click("text=Join with this tablet")
    page.locator('[data-ready-for="AK"] label').last.hover()
    page.mouse.down()
    with page.expect_response("**/b/screen/"):
        page.evaluate("import('/static/bulwark/bench.js').then((it) => it.refresh())")
    page.evaluate("document.getElementById('screen').dataset.old = '1'")
    page.wait_for_timeout(200)
    assert page.locator("#screen[data-old]").count() == 1

    with page.expect_response("**/b/screen/"):
        page.mouse.up()

    expect(page.locator("#screen[data-old]")).to_have_count(0)
    assert page.locator('[data-ready-for="AK"] :checked').count() == 1


def test_what_happens_after_the_end_is_put_aside_in_view_and_goes_no_further(
    address: str, open_context: Opener
) -> None:
    hostel = Hostel().open()
    page = joined(address, open_context, hostel)
    hostel.close()
    page.evaluate(CALL)

    expect(page.locator("#aside")).to_contain_text("1 entry was not taken. Show the educator.")
    expect(page.locator("#trouble")).to_contain_text("This lesson is over")
    assert not Event.objects.exists()


def test_the_record_is_set_on_paper_while_one_waits(address: str, open_context: Opener, settings: Any) -> None:
    settings.TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend"}}
    hostel = Hostel().open()
    page = sign_in(open_context(1280, 800), address, hostel)
    page.goto(f"{address}/lessons/{hostel.lesson.pk}/record/")
    page.click("text=PDF")
    expect(page.locator("#job")).to_contain_text("It begins in a moment.")
    assert axe(page) == []

    with page.expect_download() as paper:
        call_command("keep", "--once")

    assert paper.value.suggested_filename.endswith(".pdf")
    expect(page.locator("#job")).to_contain_text("It is ready, and kept for a day.")


def test_the_plan_board_is_reached_from_a_lesson_and_says_what_would_end_it_sooner(
    address: str, open_context: Opener
) -> None:
    hostel = Hostel()
    page = sign_in(open_context(1280, 800), address, hostel)
    page.goto(f"{address}/lessons/{hostel.lesson.pk}/")
    page.click("text=Plan board")

    # All eating at once leaves one sink for the plates of two benches.
    expect(page.locator("h1")).to_contain_text("It does not fit")
    expect(page.locator("#ways h2")).to_have_count(3)
    page.fill("#eat", "0")
    page.click("text=Plan again")
    expect(page.locator("h1")).to_contain_text("It fits")
    page.fill("#show", "50")
    page.click("text=Plan again")
    expect(page.locator("h1")).to_contain_text("It does not fit")
    brick = page.locator('[data-brick="1.slice"]')
    begins = float(brick.get_attribute("data-x") or 0)
    box = brick.bounding_box()
    assert box
    page.mouse.move(box["x"] + 5, box["y"] + 8)
    page.mouse.down()
    page.mouse.move(box["x"] + 45, box["y"] + 8, steps=4)
    page.mouse.up()
    expect(page.locator("#picked")).to_contain_text("put here by hand")
    brick = page.locator('[data-brick="1.slice"]')
    assert float(brick.get_attribute("data-x") or 0) > begins
    at = int(page.input_value("#at"))
    brick.press("Alt+ArrowRight")
    expect(page.locator("#at")).to_have_value(str(at + 1))
    page.click("text=Take the last change back")
    page.locator('[data-brick="1.slice"]').click()
    expect(page.locator("#at")).to_have_value(str(at))
    page.locator("#picked button", has_text="RO").click()
    expect(page.locator("#picked button", has_text="RO")).to_contain_text("(kept)")
    page.locator("#ways button", has_text="Take it").first.click()
    expect(page.locator("h1")).to_be_visible()
    expect(page.locator("summary", has_text="What was changed")).to_be_visible()
    page.click("text=The same as a table")
    expect(page.locator(".pb-table tbody")).to_contain_text("after the end")
    assert axe(page) == []


def test_a_group_is_split_in_the_form_of_a_lesson(address: str, open_context: Opener) -> None:
    hostel = Hostel()
    page = sign_in(open_context(1280, 800), address, hostel)
    page.goto(f"{address}/recipes/{hostel.lesson.recipe_id}/")
    page.click("text=Plan a lesson with it")
    page.click("text=Split a group fairly")
    page.fill("[name=group]", "AK, 11\nJT, 9\nSD, 11\nRO, 9")
    page.fill("[name=rules]", "AK with JT")
    page.get_by_role("button", name="Split", exact=True).click()

    expect(page.locator("#bench-rows")).to_contain_text("Proven: no split is fairer.")
    expect(page.locator("#bench-lines")).to_have_value(re.compile(r"AK, JT"))
    assert axe(page) == []
    page.click("text=Make the lesson")
    expect(page.locator("h1")).to_contain_text("Safety plan")
