"""Somebody comes late, leaves, or goes to another bench, said at the front."""

import pytest

from bulwark.groups.models import Group, Member
from bulwark.lessons import selectors
from bulwark.lessons.models import Event, Lesson
from tests.web.conftest import Hostel

pytestmark = pytest.mark.django_db


@pytest.fixture
def hostel() -> Hostel:
    return Hostel().open()


def people(hostel: Hostel, bench, who: str, to: object) -> str:
    answer = hostel.client().post(f"/benches/{bench.pk}/people/", {"who": who, "to": to}, follow=True)
    return answer.content.decode()


def present(bench) -> tuple[str, ...]:
    return selectors.bench_state(bench)[0].present


def test_a_late_joiner_takes_part_from_then_on(hostel: Hostel) -> None:
    html = people(hostel, hostel.puffin, "ZZ", "here")

    assert present(hostel.puffin)[-1] == "ZZ"
    assert "ZZ came to the bench: hands to be washed" in html
    hostel.says("hands_washed", learner="ZZ", scrub_s=21)
    assert selectors.bench_state(hostel.puffin)[0].person("ZZ").washed is not None


def test_nobody_stands_at_two_benches(hostel: Hostel) -> None:
    html = people(hostel, hostel.puffin, "SD", "here")

    assert "They stand at another bench of this lesson" in html
    assert "SD" not in present(hostel.puffin)


def test_a_move_takes_what_is_on_the_hands_along(hostel: Hostel) -> None:
    for step in ("mix", "shape"):
        hostel.says("step_done", step=step, by=["AK"])
    people(hostel, hostel.puffin, "AK", hostel.gannet.pk)

    assert "AK" not in present(hostel.puffin)
    assert "AK" in present(hostel.gannet)
    assert "raw_poultry" in selectors.bench_state(hostel.gannet)[0].surfaces["AK"]


def test_a_leaver_is_gone_and_one_who_is_not_there_cannot_go(hostel: Hostel) -> None:
    people(hostel, hostel.puffin, "JT", "away")
    assert present(hostel.puffin) == ("AK",)

    before = Event.objects.count()
    html = people(hostel, hostel.puffin, "QQ", hostel.gannet.pk)
    assert "is not at this bench" in html
    assert Event.objects.count() == before, "neither log has an entry"


def test_an_allergy_to_what_the_bench_cooks_is_said_at_once(hostel: Hostel) -> None:
    group = Group.objects.create(organisation=hostel.organisation, name="Tuesday")
    Member.objects.create(group=group, initials="ZZ", allergies=["milk"])
    Lesson.objects.filter(pk=hostel.lesson.pk).update(group=group)

    assert "ZZ is allergic to what Puffin cooks: milk." in people(hostel, hostel.puffin, "ZZ", "here")


@pytest.mark.parametrize("to", ["0", "x", "", "99999999999"])
def test_a_bench_that_is_none_is_not_there(hostel: Hostel, to: str) -> None:
    path = f"/benches/{hostel.puffin.pk}/people/"

    assert hostel.client().post(path, {"who": "AK", "to": to}).status_code == 404
    assert Hostel("Gull Rock Hostel").client().post(path, {"who": "AK", "to": "away"}).status_code == 404
