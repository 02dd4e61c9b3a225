"""Who may see and do what: an educator their own, a bench itself while open, anyone else nothing."""

import pytest
from django.test import Client

from bulwark.lessons.models import Event
from tests.web.conftest import Hostel, post_entry

LESSON_PAGES = [
    "",
    "plan/",
    "wall/",
    "wall/fragment/",
    "record/",
    "record/fragment/",
    "record.csv",
    "live/",
]


def pages(hostel: Hostel) -> list[str]:
    own = [f"/lessons/{hostel.lesson.pk}/{page}" for page in LESSON_PAGES]
    return [*own, f"/benches/{hostel.puffin.pk}/", f"/shelf/{hostel.puffin.pk}/koftas/"]


def changes(hostel: Hostel) -> list[tuple[str, dict[str, str]]]:
    lesson = f"/lessons/{hostel.lesson.pk}"
    return [
        (f"{lesson}/open/", {}),
        (f"{lesson}/open/", {"rehearse": "1"}),
        (f"{lesson}/close/", {}),
        (f"{lesson}/record.pdf", {}),
        (f"{lesson}/plan/profile/", {"profile": "uk"}),
        (f"/benches/{hostel.puffin.pk}/entry/", {"kind": "waived", "control": "fridge", "reason": "x"}),
    ]


def test_another_organisation_finds_nothing(hostel: Hostel) -> None:
    hostel.open()
    stranger = Hostel("Other House").client()

    assert {path: stranger.get(path).status_code for path in pages(hostel)} == dict.fromkeys(pages(hostel), 404)
    assert {stranger.post(path, data).status_code for path, data in changes(hostel)} == {404}
    assert Event.objects.count() == 0


def test_nobody_signed_in_is_sent_to_sign_in(hostel: Hostel) -> None:
    hostel.open()
    client = Client()

    for path in pages(hostel):
        response = client.get(path)
        assert response.status_code in (302, 404), path
        assert response.status_code == 404 or response["Location"].startswith("/sign-in/")


def test_a_tablet_sees_no_educators_page(hostel: Hostel) -> None:
    tablet = hostel.open().tablet()

    assert tablet.get("/b/").status_code == 200
    assert {tablet.get(path).status_code for path in ["/", *pages(hostel)]} <= {302, 404}
    assert {tablet.post(path, data).status_code for path, data in changes(hostel)} == {302}
    assert Event.objects.count() == 0


def test_a_tablet_writes_only_to_its_own_bench(hostel: Hostel) -> None:
    hostel.open()

    assert post_entry(hostel.tablet(hostel.gannet), "called", bench=hostel.puffin.pk).status_code == 200
    assert Event.objects.get().bench == hostel.gannet


def test_a_forged_cookie_is_no_bench(hostel: Hostel) -> None:
    hostel.open()
    client = Client()
    client.cookies["bulwark_bench"] = '{"bench": 1}:forged'

    assert client.get("/b/").status_code == 403
    assert post_entry(client, "called").status_code == 403


def test_when_the_lesson_ends_the_tablet_is_told_so(hostel: Hostel) -> None:
    tablet = hostel.open().tablet()
    hostel.close()

    page, entry = tablet.get("/b/"), post_entry(tablet, "called")
    assert (page.status_code, entry.status_code) == (410, 410)
    assert b"This lesson is over" in page.content
    assert entry.json()["title"] == "This lesson is over"


def test_an_educators_entry_needs_a_reason_to_void_or_waive(hostel: Hostel) -> None:
    client = hostel.open().client()

    client.post(f"/benches/{hostel.puffin.pk}/entry/", {"kind": "waived", "control": "fridge", "reason": " "})
    assert Event.objects.count() == 0
    client.post(f"/benches/{hostel.puffin.pk}/entry/", {"kind": "waived", "control": "fridge", "reason": "no probe"})
    assert Event.objects.get().data == {"control": "fridge", "reason": "no probe"}


def test_posts_from_elsewhere_are_refused(hostel: Hostel) -> None:
    hostel.open()
    client = Client(enforce_csrf_checks=True)
    client.force_login(hostel.user, backend="django.contrib.auth.backends.ModelBackend")

    response = client.post(f"/lessons/{hostel.lesson.pk}/close/")
    assert response.status_code == 403
    assert b"open too long" in response.content


def test_headers_forbid_inline_script_and_framing(hostel: Hostel) -> None:
    response = hostel.client().get("/")
    policy = response["Content-Security-Policy"]

    assert "script-src 'self'" in policy
    assert "unsafe" not in policy
    assert "frame-ancestors 'none'" in policy
    assert response["X-Content-Type-Options"] == "nosniff"


def test_no_page_carries_inline_script_or_style(hostel: Hostel) -> None:
    tablet, client = hostel.open().tablet(), hostel.client()
    html = [client.get(path).content.decode() for path in ["/", *pages(hostel)[:5]]] + [
        tablet.get("/b/").content.decode()
    ]

    for page in html:
        assert " style=" not in page
        assert " onclick=" not in page
        assert "<script>" not in page


@pytest.mark.parametrize("tries", [5, 6])
def test_signing_in_is_throttled_after_six_wrong_tries(hostel: Hostel, tries: int) -> None:
    client = Client()
    for _ in range(tries):
        last = client.post("/sign-in/", {"username": hostel.username, "password": "wrong"})

    assert last.status_code == (429 if tries == 6 else 200)


def test_no_log_line_carries_a_learner(hostel: Hostel, caplog: pytest.LogCaptureFixture) -> None:
    tablet = hostel.open().tablet()
    post_entry(tablet, "hands_washed", data={"learner": "AK", "scrub_s": "x"})
    tablet.get("/b/nothing/")

    assert "AK" not in caplog.text
    assert str(hostel.puffin.learners.first()) != "AK"
