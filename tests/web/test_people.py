"""Who works here: links that let somebody in, roles, passwords, and sessions that end."""

import datetime as dt
import re
from typing import Any
from unittest.mock import patch

import pytest
from django.conf import settings
from django.test import Client
from django.urls import URLPattern
from django.utils import timezone

from bulwark import urls
from bulwark.people import roles, services
from bulwark.people.models import Organisation, User, Welcome
from bulwark.presentation.patience import WAIT
from foodsafety.quantities import CoreError
from tests.web.conftest import PASSWORD, Hostel

NEW = "nine gulls on the slipway"
EMAIL = "mo@skerry.example"


def link_for(hostel: Hostel, role: str = "educator", email: str = EMAIL) -> str:
    page = hostel.client().post("/people/invite/", {"email": email, "role": role}).content.decode()
    return "/welcome/" + page.partition("/welcome/")[2].partition("/")[0] + "/"


def joins(hostel: Hostel, role: str, email: str = EMAIL) -> Client:
    """A colleague who has followed their link."""
    client = Client()
    assert client.post(link_for(hostel, role, email), {"password": NEW, "again": NEW}).status_code == 302
    return client


# --- mail ------------------------------------------------------------------------------------------------------------


@pytest.fixture
def mail(settings: Any) -> None:
    settings.SENDS_MAIL = True


@pytest.mark.usefixtures("mail")
def test_who_has_forgotten_a_password_is_sent_a_link_that_works(hostel: Hostel, mailoutbox: list[Any]) -> None:
    page = Client().post("/forgotten/", {"email": hostel.username.upper()}).content.decode()

    [letter] = mailoutbox
    assert letter.to == [hostel.username]
    assert "a link is on its way" in page
    link = re.search(r"http://testserver(/welcome/\S+/)", letter.body)[1]
    assert link not in page
    client = Client()
    assert client.post(link, {"password": NEW, "again": NEW}).status_code == 302
    assert client.get("/").status_code == 200


@pytest.mark.usefixtures("mail")
def test_nobody_learns_who_has_an_account_and_nobody_is_sent_two(hostel: Hostel, mailoutbox: list[Any]) -> None:
    def told(email: str) -> str:
        page = Client().post("/forgotten/", {"email": email}).content.decode()
        assert "is on its way" in page
        return page.partition('role="status"')[2].replace(email, "who")

    assert {told(hostel.username) for _ in range(3)} == {told("nobody@skerry.example")}
    assert len(mailoutbox) == 1
    User.objects.update(is_active=False)
    Welcome.objects.all().delete()
    Client().post("/forgotten/", {"email": hostel.username})
    assert len(mailoutbox) == 1, "an account that is not active gets none"


@pytest.mark.usefixtures("mail")
def test_an_invitation_is_sent_and_the_owner_told(hostel: Hostel, mailoutbox: list[Any]) -> None:
    page = hostel.client().post("/people/invite/", {"email": EMAIL, "role": "educator"}).content.decode()

    assert "was sent to mo@skerry.example as well" in page
    assert mailoutbox[0].to == [EMAIL]
    with patch("bulwark.people.tasks.send_mail", side_effect=ConnectionRefusedError):
        page = hostel.client().post("/people/invite/", {"email": "b" + EMAIL, "role": "educator"}).content.decode()
    assert "/welcome/" in page
    assert "was sent to" not in page


def test_where_no_mail_is_sent_it_says_who_helps(hostel: Hostel, mailoutbox: list[Any]) -> None:
    assert "sends no mail" in Client().get("/forgotten/").content.decode()
    Client().post("/forgotten/", {"email": hostel.username})
    hostel.client().post("/people/invite/", {"email": EMAIL, "role": "educator"})
    assert mailoutbox == []


# --- links -----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("role", roles.ROLES)
def test_a_colleague_chooses_a_password_and_is_in(hostel: Hostel, role: str) -> None:
    client = joins(hostel, role)

    assert client.get("/").status_code == 200
    user = User.objects.get(username=EMAIL)
    assert (user.role, user.organisation) == (role, hostel.organisation)
    signed = Client().post("/sign-in/", {"username": EMAIL, "password": NEW})
    assert signed.status_code == 302


def test_a_link_works_once_and_a_look_uses_nothing_up(hostel: Hostel) -> None:
    link = link_for(hostel)
    assert [Client().get(link).status_code for _ in range(2)] == [200, 200]
    Client().post(link, {"password": NEW, "again": NEW})

    assert Client().get(link).status_code == 404
    assert Client().post(link, {"password": "another " + NEW, "again": "another " + NEW}).status_code == 404
    assert User.objects.filter(username=EMAIL).count() == 1


@pytest.mark.parametrize("ago", [services.LINK_LASTS + dt.timedelta(minutes=1), dt.timedelta(days=90)])
def test_a_link_ends(hostel: Hostel, ago: dt.timedelta) -> None:
    link = link_for(hostel)
    Welcome.objects.update(ends_at=timezone.now() - ago + services.LINK_LASTS)

    assert Client().post(link, {"password": NEW, "again": NEW}).status_code == 404


def test_only_the_last_link_of_somebody_works_and_no_secret_is_kept(hostel: Hostel) -> None:
    first, second = link_for(hostel), link_for(hostel)

    assert [Client().get(link).status_code for link in (first, second)] == [404, 200]
    assert second.strip("/").partition("/")[2] not in Welcome.objects.get().token_hash


@pytest.mark.parametrize("token", ["x", "%00", "%ED%A0%80", "é" * 50, "a" * 4000])
def test_a_link_that_is_none_is_said_to_be_none(db: None, token: str) -> None:
    assert Client().get(f"/welcome/{token}/").status_code == 404


@pytest.mark.parametrize(
    ("password", "again", "why"),
    [
        ("short", "short", "too short"),
        ("1234567890123", "1234567890123", "entirely numeric"),
        ("password12", "password12", "too common"),
        ("mo@skerry.example", "mo@skerry.example", "too similar"),
        (NEW, NEW + "!", "not the same"),
        ("", "", "required"),
    ],
)
def test_a_weak_password_is_refused_with_the_reason(hostel: Hostel, password: str, again: str, why: str) -> None:
    answer = Client().post(link_for(hostel), {"password": password, "again": again})

    assert answer.status_code == 422
    assert why in answer.content.decode()
    assert not User.objects.filter(username=EMAIL).exists()


@pytest.mark.parametrize(
    ("email", "role"), [("nobody", "educator"), (EMAIL, "pirate"), ("", "reader"), ("\x00", "owner")]
)
def test_an_invitation_that_is_none_is_refused(hostel: Hostel, email: str, role: str) -> None:
    assert hostel.client().post("/people/invite/", {"email": email, "role": role}).status_code == 422
    assert not Welcome.objects.exists()


def test_nobody_is_invited_twice_or_from_another_organisation(hostel: Hostel) -> None:
    other = Hostel("Farside Bothy")
    answer = hostel.client().post("/people/invite/", {"email": other.username.upper(), "role": "educator"})

    assert answer.status_code == 422
    assert b"has an account already" in answer.content


# --- roles -----------------------------------------------------------------------------------------------------------


def pages() -> list[str]:
    return [row.name for row in urls.urlpatterns if isinstance(row, URLPattern) and row.name]


@pytest.mark.parametrize("page", pages())
def test_each_role_reaches_no_more_than_the_one_above(page: str) -> None:
    for changes in (False, True):
        reach = [roles.may(role, page, changes=changes) for role in roles.ROLES]
        assert reach == sorted(reach, reverse=True)


def test_every_page_that_a_role_names_is_there() -> None:
    named = roles._ANYBODY | roles._RECORDS | roles._LESSON | roles._PEOPLE | roles._OF_ONE
    assert named <= set(pages())


def test_what_is_new_is_open_to_nobody_by_chance() -> None:
    reach = [(role, roles.may(role, "a_page_of_tomorrow", changes=True)) for role in roles.ROLES]
    assert reach == [("owner", True), ("educator", True), ("assistant", False), ("reader", False)]
    assert not roles.may("reader", "a_page_of_tomorrow", changes=False)


def test_all_that_is_held_of_a_learner_is_for_whoever_teaches_them() -> None:
    assert [role for role in roles.ROLES if roles.may(role, "learner_held", changes=False)] == ["owner", "educator"]


@pytest.mark.parametrize(
    ("role", "looks", "closes", "prices", "invites"),
    [
        ("owner", 200, 302, 302, 422),
        ("educator", 200, 302, 302, 403),
        ("assistant", 200, 302, 403, 403),
        ("reader", 403, 403, 403, 403),
    ],
)
def test_a_role_reaches_what_is_its_own(
    hostel: Hostel, role: str, looks: int, closes: int, prices: int, invites: int
) -> None:
    hostel.open()
    client = joins(hostel, role)
    lesson = hostel.lesson.pk

    assert client.get(f"/lessons/{lesson}/record/").status_code == 200
    assert client.get("/recipes/").status_code == looks
    assert client.post(f"/lessons/{lesson}/close/").status_code == closes
    assert client.post("/kitchen/price/", {"next": "/kitchen/"}).status_code == prices
    assert client.post("/people/invite/", {}).status_code == invites
    assert client.get("/people/").status_code == (200 if role == "owner" else 403)
    assert client.get("/account/").status_code == 200


def test_a_reader_of_records_sees_no_code_that_lets_somebody_in(hostel: Hostel) -> None:
    hostel.open().says("called")
    client = joins(hostel, "reader")
    codes = [hostel.puffin.join_code, hostel.gannet.join_code]
    for path in (
        "/",
        f"/lessons/{hostel.lesson.pk}/",
        f"/lessons/{hostel.lesson.pk}/record/",
        f"/benches/{hostel.gannet.pk}/",
    ):
        page = client.get(path).content.decode()
        assert not any(code in page for code in codes)

    assert f"/lessons/{hostel.lesson.pk}/record/" in client.get("/").content.decode()


def test_a_role_that_ends_ends_at_once(hostel: Hostel) -> None:
    client = joins(hostel, "educator")
    person = User.objects.get(username=EMAIL)
    hostel.client().post(f"/people/{person.pk}/", {"what": "role", "role": "reader"})

    assert client.get("/recipes/").status_code == 403
    assert b"You are here as reader of records" in client.get("/recipes/").content


def test_another_organisations_people_are_nobodys_business(hostel: Hostel) -> None:
    other = Hostel("Farside Bothy")
    for what in ("link", "everywhere", "role", "away"):
        answer = hostel.client().post(f"/people/{other.user.pk}/", {"what": what, "role": "reader"})
        assert answer.status_code == 404
    other.user.refresh_from_db()
    assert (other.user.role, other.user.is_active, other.user.signed_out_at) == ("owner", True, None)


@pytest.mark.parametrize("fields", [{"what": "role", "role": "reader"}, {"what": "away"}])
def test_the_last_owner_stays(hostel: Hostel, fields: dict[str, str]) -> None:
    client = hostel.client()
    page = client.post(f"/people/{hostel.user.pk}/", fields, follow=True)

    assert b"Nobody else is an owner" in page.content
    hostel.user.refresh_from_db()
    assert (hostel.user.role, hostel.user.is_active) == ("owner", True)
    joins(hostel, "owner")
    client.post(f"/people/{hostel.user.pk}/", fields)
    hostel.user.refresh_from_db()
    assert (hostel.user.role, hostel.user.is_active) != ("owner", True)


def test_a_role_that_is_none_is_refused(hostel: Hostel) -> None:
    with pytest.raises(CoreError) as wrong:
        services.change_person(user=hostel.user, role="pirate")
    assert wrong.value.field == "role"


# --- sessions and passwords ------------------------------------------------------------------------------------------


@pytest.mark.parametrize("what", ["everywhere", "away"])
def test_an_owner_ends_the_sessions_of_a_colleague(hostel: Hostel, what: str) -> None:
    client = joins(hostel, "educator")
    person = User.objects.get(username=EMAIL)
    hostel.client().post(f"/people/{person.pk}/", {"what": what})

    assert client.get("/recipes/")["Location"].startswith("/sign-in/")
    again = Client().post("/sign-in/", {"username": EMAIL, "password": NEW})
    assert again.status_code == (302 if what == "everywhere" else 200)


def test_a_forgotten_password_is_chosen_anew_by_a_link_of_the_owner(hostel: Hostel) -> None:
    client = joins(hostel, "educator")
    person = User.objects.get(username=EMAIL)
    page = hostel.client().post(f"/people/{person.pk}/", {"what": "link"}).content.decode()
    link = "/welcome/" + page.partition("/welcome/")[2].partition("/")[0] + "/"
    other = "ten gulls on the slipway"
    Client().post(link, {"password": other, "again": other})

    assert client.get("/recipes/").status_code == 302
    tries = [Client().post("/sign-in/", {"username": EMAIL, "password": word}).status_code for word in (NEW, other)]
    assert tries == [200, 302]


def signed_in(hostel: Hostel) -> Client:
    client = Client()
    assert client.post("/sign-in/", {"username": hostel.username, "password": PASSWORD}).status_code == 302
    return client


def test_a_new_password_of_ones_own_ends_every_other_session(hostel: Hostel) -> None:
    here, elsewhere = signed_in(hostel), signed_in(hostel)
    wrong = here.post("/account/", {"old": "not mine", "password": NEW, "again": NEW})
    assert (wrong.status_code, b"not your password now" in wrong.content) == (422, True)

    assert here.post("/account/", {"old": PASSWORD, "password": NEW, "again": NEW}).status_code == 302
    assert [client.get("/recipes/").status_code for client in (here, elsewhere)] == [200, 302]


def test_every_other_browser_is_signed_out(hostel: Hostel) -> None:
    here, elsewhere = signed_in(hostel), signed_in(hostel)
    here.post("/account/everywhere/")

    assert [client.get("/recipes/").status_code for client in (here, elsewhere)] == [200, 302]


def test_a_browser_is_signed_in_for_as_long_as_the_organisation_says(hostel: Hostel) -> None:
    assert hostel.client().post("/people/", {"session_hours": "3"}).status_code == 302
    client = signed_in(hostel)

    assert client.session.get_expiry_age() == pytest.approx(3 * 3600, abs=5)
    assert client.cookies[settings.SESSION_COOKIE_NAME]["max-age"] == pytest.approx(3 * 3600, abs=5)


@pytest.mark.parametrize("hours", ["0", "-1", "337", "9" * 400, "", "a day"])
def test_a_length_no_session_has_is_refused(hostel: Hostel, hours: str) -> None:
    hostel.client().post("/people/", {"session_hours": hours})
    assert Organisation.objects.get(pk=hostel.organisation.pk).session_hours == 12


def test_one_password_tried_at_many_accounts_is_answered_later_and_later(hostel: Hostel) -> None:
    client = Client()

    def tried(n: int) -> Any:
        return client.post("/sign-in/", {"username": f"somebody{n}@skerry.example", "password": "summer2026"})

    waits = [float(tried(n).get(WAIT, 0)) for n in range(24)]
    assert waits[: services.FREE_SIGN_INS] == [0] * services.FREE_SIGN_INS
    assert waits[-1] == max(waits) == 8.0
    assert client.post("/sign-in/", {"username": hostel.username, "password": PASSWORD}).get(WAIT) is None
