"""Somebody is hurt: a record of its own, that nobody else reads."""

import pytest
from django.test import Client

from bulwark.lessons.models import Event, Hurt
from bulwark.people.models import User
from tests.web.conftest import Hostel

pytestmark = pytest.mark.django_db
SAID = {"who": "AK", "what": "cut", "care": ["plaster", "glove"], "words": "on the peeler"}


def path(hostel: Hostel) -> str:
    return f"/lessons/{hostel.lesson.pk}/hurt/"


def as_role(hostel: Hostel, role: str) -> Client:
    client = hostel.colleague()
    User.objects.filter(pk=client.session["_auth_user_id"]).update(role=role)
    return client


def test_it_is_written_down_with_what_to_do_first_and_the_food_is_in_the_log_without_the_reason(
    hostel: Hostel,
) -> None:
    hostel.open()
    asked = {**SAID, "bench": hostel.puffin.pk, "thrown": "raita"}
    html = hostel.client().post(path(hostel), asked, follow=True).content.decode()
    assert "Press on it. Rinse, plaster, glove." in html
    assert "on the peeler" in html

    [row] = Hurt.objects.all()
    assert (row.who, row.what, row.care, row.thrown) == ("AK", "cut", ["plaster", "glove"], "raita")
    [gone] = Event.objects.filter(kind="gone")
    assert gone.data == {"food": "raita", "how": "discarded"}
    record = hostel.client().get(f"/lessons/{hostel.lesson.pk}/record/").content.decode()
    export = b"".join(hostel.client().get(f"/lessons/{hostel.lesson.pk}/record.csv")).decode()
    assert "peeler" not in record + export


@pytest.mark.parametrize(
    ("role", "may_write", "may_read"), [("educator", 200, True), ("assistant", 200, False), ("reader", 403, False)]
)
def test_who_helps_writes_and_only_educators_read(hostel: Hostel, role: str, may_write: int, *, may_read: bool) -> None:
    hostel.open()
    hostel.client().post(path(hostel), {**SAID, "bench": hostel.puffin.pk})
    client = as_role(hostel, role)
    answer = client.get(path(hostel))
    assert answer.status_code == may_write
    assert ("on the peeler" in answer.content.decode()) is may_read
    client.post(path(hostel), {**SAID, "bench": hostel.gannet.pk})
    assert Hurt.objects.count() == (2 if may_write == 200 else 1)


@pytest.mark.parametrize(
    ("change", "why"),
    [({"who": ""}, "required"), ({"what": "sulks"}, "Select a valid choice"), ({"thrown": "the cat"}, "thrown")],
)
def test_what_is_wrong_is_said_and_what_was_typed_stays(hostel: Hostel, change: dict[str, str], why: str) -> None:
    hostel.open()
    answer = hostel.client().post(path(hostel), {**SAID, "bench": hostel.puffin.pk, **change})
    assert answer.status_code == 422
    assert "on the peeler" in answer.content.decode()
    assert not Hurt.objects.exists()


def test_another_organisations_lesson_has_no_such_page(hostel: Hostel) -> None:
    hostel.open()
    other = Hostel("Gull Rock Hostel")
    assert other.client().get(path(hostel)).status_code == 404
    assert other.client().post(path(hostel), {**SAID, "bench": hostel.puffin.pk}).status_code == 404
    mixed = {**SAID, "bench": other.puffin.pk}
    assert hostel.client().post(path(hostel), mixed).status_code == 422, "a bench of another lesson is none"
