"""The educator's pages: Today, plan, wall, record, label, rehearsal, demo."""

import csv
import io
import re
from io import StringIO

import pytest
from django.core.management import CommandError, call_command
from django.test import Client
from django.utils import timezone

from bulwark.demo import hostel
from bulwark.lessons import rehearsal, services
from bulwark.lessons.models import Event, Lesson
from bulwark.people import services as people_services
from bulwark.people.models import User
from bulwark.presentation import phrases
from bulwark.recipes.models import Recipe
from foodsafety.quantities import Temperature, c_from_f
from tests.web.conftest import Hostel, paper_of, post_entry


def cooked(hostel: Hostel) -> Hostel:
    """A lesson in which Puffin slips once, mends it, cooks, serves and keeps the koftas."""
    services.open_lesson(lesson=hostel.lesson)
    lesson = Lesson.objects.get(pk=hostel.lesson.pk)
    for at_s, bench, event in rehearsal.script(lesson):
        del at_s
        rehearsal.write(lesson, bench, event)
    hostel.lesson = lesson
    return hostel


def test_today_shows_the_lesson_with_its_benches(hostel: Hostel) -> None:
    html = hostel.client().get("/").content.decode()

    assert "Turkey koftas with cucumber raita" in html
    assert "Gannet" in html
    assert "AK JT" in html


def test_the_plan_that_a_new_lesson_begins_with_leads_on_to_its_start(hostel: Hostel) -> None:
    html = hostel.client().get(f"/lessons/{hostel.lesson.pk}/plan/").content.decode()

    main = html.partition("<main")[2]
    assert f'href="/lessons/{hostel.lesson.pk}/"' in main


def test_today_without_lessons_says_what_to_do(hostel: Hostel) -> None:
    Lesson.objects.update(organisation=people_services.create_organisation(name="Elsewhere"))

    assert b"No lesson is planned" in hostel.client().get("/").content


@pytest.mark.parametrize(("profile", "limit"), [("us-home", "73.9 °C (165 °F)"), ("uk", "70 °C for 2 min")])
def test_the_plan_shows_the_limits_of_the_profile_asked_for(hostel: Hostel, profile: str, limit: str) -> None:
    html = hostel.client().get(f"/lessons/{hostel.lesson.pk}/plan/?profile={profile}").content.decode()

    assert limit in html
    assert html.count("<details") == 13
    assert phrases.caution() in html


def test_the_profile_can_be_chosen_until_the_lesson_begins(hostel: Hostel) -> None:
    client, path = hostel.client(), f"/lessons/{hostel.lesson.pk}/plan/profile/"

    client.post(path, {"profile": "uk"})
    hostel.lesson.refresh_from_db()
    assert hostel.lesson.profile == "uk"
    hostel.open()
    client.post(path, {"profile": "us-home"})
    hostel.lesson.refresh_from_db()
    assert hostel.lesson.profile == "uk"


def test_a_breach_shows_at_once_on_the_wall(hostel: Hostel) -> None:
    tablet, client = hostel.open().tablet(), hostel.client()
    for step in ("mix", "slice"):
        post_entry(tablet, "step_done", data={"step": step, "by": ["AK"]})

    html = client.get(f"/lessons/{hostel.lesson.pk}/wall/fragment/").content.decode()

    assert "Remake the salad" in html
    assert re.search(r'class="bw-brick is-breach[^>]*aria-label="Salad, breach"', html)


def test_an_unchanged_wall_sends_nothing(hostel: Hostel) -> None:
    client, path = hostel.open().client(), f"/lessons/{hostel.lesson.pk}/wall/fragment/"
    seen = re.search(r"\?seen=([^\"]+)", client.get(path).content.decode())

    assert seen
    assert client.get(f"{path}?seen={seen[1]}").status_code == 204
    hostel.says("called")
    assert client.get(f"{path}?seen={seen[1]}").status_code == 200


def test_a_wall_of_nine_benches_drops_its_words_and_keeps_its_shapes(hostel: Hostel) -> None:
    for i in range(7):
        hostel.lesson.benches.create(name=f"A bench with a long name {i}", position=i + 2, join_code=f"LONG{i}2")

    html = hostel.open().client().get(f"/lessons/{hostel.lesson.pk}/wall/").content.decode()

    assert "is-dense" in html
    assert html.count('role="img" aria-label="Fridge, due"') == 9


def test_the_record_holds_everything_in_order_with_its_breach_and_correction(hostel: Hostel) -> None:
    html = cooked(hostel).client().get(f"/lessons/{hostel.lesson.pk}/record/").content.decode()

    assert (
        html.index("Fridge reads")
        < html.index("Shape eight koftas")
        < html.index("koftas into the fridge".capitalize())
    )
    assert "us-home" in html
    assert phrases.caution() in html


def test_a_planted_slip_stands_in_the_record_with_its_corrective_action(hostel: Hostel, monkeypatch) -> None:
    monkeypatch.setattr(rehearsal, "SLIP_BENCH", 1)

    html = cooked(hostel).client().get(f"/lessons/{hostel.lesson.pk}/record/").content.decode()

    assert "Raw turkey in the salad" in html
    assert "Corrected: thrown away and made again." in html


def test_the_csv_names_the_profile_and_is_safe_for_spreadsheets(hostel: Hostel) -> None:
    hostel.open().says("waived", control="fridge", reason="=cmd|' /C calc'!A0")

    text = hostel.client().get(f"/lessons/{hostel.lesson.pk}/record.csv").content.decode()
    rows = list(csv.reader(io.StringIO(text)))

    assert rows[1][:2] == ["rule profile", "us-home"]
    assert rows[2] == ["caution", phrases.caution()]
    assert not any(cell.startswith(("=", "+", "@")) for row in rows for cell in row)


def test_the_pdf_is_a_pdf(hostel: Hostel) -> None:
    assert paper_of(cooked(hostel).client(), f"/lessons/{hostel.lesson.pk}/record.pdf").startswith(b"%PDF-")


def test_the_label_carries_the_date_and_how_it_was_worked_out(hostel: Hostel) -> None:
    html = cooked(hostel).client().get(f"/shelf/{hostel.puffin.pk}/koftas/").content.decode()

    assert "Use by" in html
    assert "the shorter counts" in html
    assert "<svg" in html.split("bw-qr")[1]


def test_food_with_an_open_breach_is_labelled_throw_away(hostel: Hostel) -> None:
    hostel.open()
    for kind, data in [
        ("step_done", {"step": "mix", "by": ["AK"]}),
        ("step_done", {"step": "griddle", "by": []}),
        ("step_done", {"step": "serve", "by": []}),
        ("stored", {"food": "koftas", "place": "fridge"}),
    ]:
        hostel.says(kind, **data)

    html = hostel.client().get(f"/shelf/{hostel.puffin.pk}/koftas/").content.decode()

    assert "It cannot be kept." in html
    assert "Use by" not in html


def test_the_bench_page_lets_the_educator_void_with_a_reason(hostel: Hostel) -> None:
    wrong = hostel.open().says("fridge_read", core_c=40)
    client, path = hostel.client(), f"/benches/{hostel.puffin.pk}/"

    client.post(f"{path}entry/", {"kind": "voided", "event": str(wrong), "reason": "typed twice"})

    html = client.get(path).content.decode()
    assert "voided: typed twice" in html
    assert "<s>Fridge reads 40 °C</s>" in html


def test_a_rehearsal_plays_in_a_copy_and_leaves_the_lesson_alone(hostel: Hostel) -> None:
    copy = rehearsal.copy_for_rehearsal(hostel.lesson)
    services.open_lesson(lesson=copy, rehearsal_pace=30)

    assert rehearsal.play(copy, wait=False) == Event.objects.filter(bench__lesson=copy).count() > 40
    hostel.lesson.refresh_from_db()
    assert (hostel.lesson.opened_at, copy.rehearsal) == (None, True)


@pytest.mark.parametrize(("profile", "word"), [("us-home", "Jewelry off"), ("uk", "Jewellery off")])
def test_a_bench_speaks_the_english_of_its_profile(db: None, profile: str, word: str) -> None:
    html = Hostel(profile=profile).open().tablet().get("/b/").content.decode()

    assert word in html


@pytest.mark.django_db
def test_the_demo_is_loaded_once_and_reset_keeps_the_old_log() -> None:
    hostel.load(password="first")
    lesson = hostel.demo_lesson()
    assert lesson
    services.open_lesson(lesson=lesson)
    hostel.load(password="first")
    assert hostel.demo_lesson() == lesson

    hostel.load(password="second", reset=True)

    fresh = hostel.demo_lesson()
    assert fresh
    assert (fresh.pk != lesson.pk, fresh.opened_at) == (True, None)
    assert Lesson.objects.filter(pk=lesson.pk).exists()
    educator = hostel.demo_educator()
    assert educator
    assert educator.check_password("second")
    hostel.load(password="third")
    educator.refresh_from_db()
    assert educator.check_password("second"), "a password that somebody has chosen is never set back"


@pytest.mark.django_db
@pytest.mark.parametrize("what", ["colleague", "lesson"])
def test_a_reset_of_the_demo_puts_nobodys_real_work_out_of_use(what: str) -> None:
    hostel.load(password="first")
    lesson, educator = hostel.demo_lesson(), hostel.demo_educator()
    assert lesson
    assert educator
    assert educator.organisation
    if what == "colleague":
        people_services.create_educator(organisation=educator.organisation, username="ro@skerry.example", password="x")
    else:
        other = Recipe.objects.exclude(pk=lesson.recipe_id).filter(confirmed_at__isnull=False)[0]
        own = services.create_lesson(
            recipe=other,
            place="",
            starts_at=timezone.now(),
            length_min=60,
            benches={"Tern": ["MO"]},
            profile_id="us-home",
        )
        services.open_lesson(lesson=own)

    hostel.load(password="second", reset=True)

    educator.refresh_from_db()
    assert (educator.is_active, educator.organisation.retired_at) == (True, None)
    assert Lesson.objects.filter(organisation=educator.organisation, title=hostel.DEMO_RECIPE).count() == 2


@pytest.mark.django_db
def test_the_demo_says_that_it_is_one_before_a_lesson_begins() -> None:
    hostel.load(password="first")
    lesson, educator = hostel.demo_lesson(), hostel.demo_educator()
    assert lesson
    assert educator
    client = Client()
    client.force_login(educator, backend="django.contrib.auth.backends.ModelBackend")

    assert b"This is the demo." in client.get(f"/lessons/{lesson.pk}/").content


@pytest.mark.django_db
def test_the_first_owner_comes_from_the_environment_once(monkeypatch: pytest.MonkeyPatch) -> None:
    said = {"EMAIL": "owner@skerry.example", "PASSWORD": "nine gulls on the slipway"}
    for key, value in said.items():
        monkeypatch.setenv(f"BULWARK_OWNER_{key}", value)
    for _ in range(2):
        call_command("owner", from_environment=True)

    owner = User.objects.get(username=said["EMAIL"])
    assert (owner.role, owner.check_password(said["PASSWORD"])) == ("owner", True)
    monkeypatch.setenv("BULWARK_OWNER_EMAIL", "second@skerry.example")
    monkeypatch.setenv("BULWARK_OWNER_PASSWORD", "short")
    with pytest.raises(CommandError, match="BULWARK_OWNER_PASSWORD"):
        call_command("owner", from_environment=True)


@pytest.mark.django_db
@pytest.mark.parametrize(("email", "name"), [("nobody", "Hostel"), ("a@skerry.example", " "), ("", "Hostel")])
def test_an_owner_that_is_none_is_refused(email: str, name: str) -> None:
    with pytest.raises(CommandError):
        call_command("owner", email=email, organisation=name)


@pytest.mark.django_db
def test_an_owner_is_made_by_a_link() -> None:
    out = StringIO()
    call_command("owner", email="a@skerry.example", organisation="Skerry", stdout=out)
    word = "nine gulls on the slipway"

    assert Client().post(out.getvalue().strip(), {"password": word, "again": word}).status_code == 302
    assert User.objects.get(username="a@skerry.example").role == "owner"


@pytest.mark.django_db
def test_an_owner_who_is_alone_and_has_forgotten_the_password_gets_in_again(hostel: Hostel) -> None:
    out = StringIO()
    call_command("owner", again=hostel.username.upper(), stdout=out)
    word = "nine gulls on the slipway"

    assert Client().post(out.getvalue().strip(), {"password": word, "again": word}).status_code == 302
    hostel.user.refresh_from_db()
    assert hostel.user.check_password(word)
    with pytest.raises(CommandError, match="nobody signs in"):
        call_command("owner", again="nobody@skerry.example")


@pytest.mark.parametrize(
    ("reading_c", "cold", "unit", "shown"),
    [
        (73.88, False, "C", "73.8 °C"),
        (73.99, False, "C", "73.9 °C"),
        (74.0, False, "C", "74 °C"),
        (4.41, True, "C", "4.5 °C"),
        (5.0, True, "C", "5 °C"),
        (c_from_f(165), False, "F", "165 °F"),
        (c_from_f(164.99), False, "F", "164.9 °F"),
    ],
)
def test_a_reading_is_never_rounded_towards_safe(reading_c: float, cold: bool, unit: str, shown: str) -> None:
    assert phrases.degrees(reading_c, unit, cold=cold) == shown


@pytest.mark.parametrize(
    ("limit", "at_most", "unit", "shown"),
    [
        (Temperature(value=165, unit="F"), False, "C", "73.9 °C (165 °F)"),
        (Temperature(value=145, unit="F"), False, "C", "62.8 °C (145 °F)"),
        (Temperature(value=40, unit="F"), True, "C", "4.4 °C (40 °F)"),
        (Temperature(value=70, unit="C"), False, "F", "158 °F (70 °C)"),
        (Temperature(value=5, unit="C"), True, "F", "41 °F (5 °C)"),
    ],
)
def test_a_limit_is_shown_on_its_strict_side(limit: Temperature, at_most: bool, unit: str, shown: str) -> None:
    assert phrases.limit_degrees(limit, unit, at_most=at_most) == shown


def test_rehearsing_from_the_lesson_page_leads_to_the_wall_of_the_copy(
    hostel: Hostel, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(rehearsal, "play", lambda lesson: 0)

    answer = hostel.client().post(f"/lessons/{hostel.lesson.pk}/open/", {"rehearse": "1"})

    copy = Lesson.objects.get(rehearsal=True)
    assert answer["Location"] == f"/lessons/{copy.pk}/wall/"


@pytest.mark.parametrize("path", ["/rules/", "/kitchen/", "/workbench/cook/", "/lessons/{}/plan/?profile=tidal-isles"])
def test_a_sixth_profile_shows_wherever_profiles_are_chosen(hostel: Hostel, sixth: str, path: str) -> None:
    html = hostel.client().get(path.format(hostel.lesson.pk)).content.decode()

    assert "Tidal isles" in html


def test_a_lesson_can_be_held_under_a_sixth_profile(hostel: Hostel, sixth: str) -> None:
    client = hostel.client()

    client.post(f"/lessons/{hostel.lesson.pk}/plan/profile/", {"profile": sixth})
    tablet = hostel.open().tablet()

    assert "77 °C" in client.get(f"/lessons/{hostel.lesson.pk}/plan/").content.decode()
    assert tablet.get("/b/").status_code == 200
