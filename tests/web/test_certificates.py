"""What a learner has shown, and certificates that say no more than was seen."""

from __future__ import annotations

import re

import pytest
from django.test import Client

from bulwark.groups.models import Group, Member
from bulwark.practice import competence
from bulwark.practice.models import Certificate
from tests.web.conftest import Hostel


@pytest.fixture
def member(hostel: Hostel) -> Member:
    group = Group.objects.create(organisation=hostel.organisation, name="Tuesday crew")
    hostel.lesson.group = group
    hostel.lesson.save()
    hostel.open().arrive()
    return Member.objects.create(group=group, initials="AK")


def test_what_was_seen_right_is_told_with_when_and_by_whom(hostel: Hostel, member: Member) -> None:
    hostel.says("watched", what="grip", learner="AK", seen="right")
    hostel.says("watched", what="spoon", learner="AK", seen="wrong")
    hostel.says("watched", what="grip", learner="JT", seen="right")
    rows = {row.what: row for row in competence.shown_by(member)}
    assert (rows["grip"].right, rows["grip"].by, rows["grip"].lesson) == (1, "educator", hostel.lesson.title)
    assert (rows["spoon"].right, rows["spoon"].wrong) == (0, 1)
    assert competence.washes_of(member) == 1
    html = hostel.client().get(f"/practice/learners/{member.pk}/").content.decode()
    assert "Knife grip" in html
    assert not re.search(r"\bJT\b", html), "nobody stands beside anybody, whatever letters a token has"


def test_what_was_taken_back_was_never_seen(hostel: Hostel, member: Member) -> None:
    seen = hostel.says("watched", what="grip", learner="AK", seen="right")
    hostel.says("taken_back", event=str(seen), what="grip", learner="AK")
    assert not {row.what for row in competence.shown_by(member) if row.right}


def test_a_certificate_says_what_was_seen_and_nothing_else(hostel: Hostel, member: Member) -> None:
    path = f"/practice/learners/{member.pk}/"
    hostel.client().post(path, {"title": "Bench skills", "what": ["grip"]})
    assert not Certificate.objects.exists(), "nothing was seen: nothing is certified"
    hostel.says("watched", what="grip", learner="AK", seen="right")
    hostel.client().post(path, {"title": "Bench skills", "what": ["grip", "hands"]})
    made = Certificate.objects.get()
    assert [item["what"] for item in made.items] == ["knife grip"]
    assert (made.initials, made.profile) == ("AK", "United States, home kitchens")
    html = Client().get(f"/c/{made.code.lower()}/").content.decode()
    assert "Knife grip" in html
    assert "Take it back" not in html
    hostel.says("watched", what="spoon", learner="AK", seen="right")
    assert "asting spoon" not in Client().get(f"/c/{made.code}/").content.decode(), "it stays as it was made"


def test_a_guessed_code_shows_nothing_and_is_slowed_down(hostel: Hostel) -> None:
    client = Client()
    for _ in range(7):
        response = client.get("/c/AAAAAA-BBBBBB/")
        assert response.status_code == 404
    assert float(response.headers["X-Bulwark-Wait"]) > 0
    assert "No certificate" in response.content.decode()


def test_one_that_was_taken_back_says_so(hostel: Hostel, member: Member) -> None:
    hostel.says("watched", what="grip", learner="AK", seen="right")
    hostel.client().post(f"/practice/learners/{member.pk}/", {"title": "Bench skills", "what": ["grip"]})
    made = Certificate.objects.get()
    assert Hostel("Other House").client().post(f"/practice/certificates/{made.pk}/back/").status_code == 404
    hostel.client().post(f"/practice/certificates/{made.pk}/back/")
    assert "says nothing any more" in Client().get(f"/c/{made.code}/").content.decode()


def test_another_organisation_knows_no_learner(hostel: Hostel, member: Member) -> None:
    stranger = Hostel("Other House").client()
    assert stranger.get(f"/practice/learners/{member.pk}/").status_code == 404
    assert stranger.post(f"/practice/learners/{member.pk}/", {"title": "x"}).status_code == 404
