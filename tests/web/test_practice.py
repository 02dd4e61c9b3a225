"""Practice from the front, on phones and on paper: every kind is worded, every answer is counted once."""

from __future__ import annotations

import datetime as dt
import io
import itertools
import math
import re
import uuid
from types import SimpleNamespace
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone
from openpyxl import load_workbook

from bulwark.groups.models import Group, Member
from bulwark.lessons import services as lessons
from bulwark.lessons.models import Lesson
from bulwark.practice import pages, selectors, services
from bulwark.practice.models import Answer, Round
from bulwark.presentation.phrases import degrees_apart
from bulwark.recipes.models import Recipe
from foodsafety.practice import KINDS
from foodsafety.quantities import CoreError
from tests.web.conftest import Hostel


def recipe_of(hostel: Hostel) -> Recipe:
    return (
        Recipe.objects.filter(organisation=hostel.organisation).exclude(confirmed_at=None).first()
        or hostel.lesson.recipe
    )


@pytest.fixture
def group(hostel: Hostel) -> Group:
    found = Group.objects.create(organisation=hostel.organisation, name="Tuesday crew")
    for n, name in enumerate(("AK", "JT", "NB")):
        Member.objects.create(group=found, initials=name, position=n)
    return found


def a_round(hostel: Hostel, group: Group | None = None, **more: Any) -> Round:
    asked: dict[str, Any] = {"kind": Round.PRACTICE, "count": 5, "level": 2, "seed": 7, **more}
    return services.make_round(by=hostel.actor, recipe=recipe_of(hostel), lesson=None, group=group, **asked)


def key_of(found: Round, number: int) -> str:
    return next(row["id"] for row in found.puzzles[number]["choices"] if row["right"])


def wrong_of(found: Round, number: int) -> str:
    return next(row["id"] for row in found.puzzles[number]["choices"] if not row["right"])


@pytest.mark.parametrize("kind", KINDS)
def test_every_kind_is_asked_and_explained_in_words(hostel: Hostel, kind: str) -> None:
    found = a_round(hostel, only=kind, count=4, level=3)
    for number, row in enumerate(found.puzzles):
        for unit in ("C", "F"):
            for choice in row["choices"]:
                page = pages.play_page(found, number, unit, tapped=choice["id"])
                said = [page["question"], page["told"]["why"], *(c["says"] for c in page["choices"])]
                assert all(said)
                assert not [text for text in said if re.search(r"%\(|None|\b[a-z]+_[a-z]+\b", text)], said
                assert page["right"] is choice["right"]
    html = hostel.client().get(reverse("round_play", args=[found.pk])).content.decode()
    assert found.puzzles[0]["choices"][0]["id"] in html
    assert hostel.client().get(reverse("round_play", args=[found.pk]) + "?n=0&tapped=x").status_code == 200


def test_from_the_form_to_the_screen_to_the_explanation(hostel: Hostel, group: Group) -> None:
    said = {"recipe": recipe_of(hostel).pk, "group": group.pk, "kind": "practice", "count": 4, "level": 1}
    response = hostel.client().post(reverse("practice"), said, follow=True)
    found = Round.objects.get()
    assert found.code in response.content.decode()
    path = reverse("round_play", args=[found.pk])
    assert "is-right" not in hostel.client().get(path).content.decode(), "the key is on no page that is not answered"
    asked = {"number": 0, "choice": wrong_of(found, 0), "uuid": str(uuid.uuid4())}
    html = hostel.client().post(reverse("round_answer", args=[found.pk]), asked, follow=True).content.decode()
    assert "pr-why" in html
    assert Answer.objects.get().right is False


def test_what_cannot_be_made_is_said_and_what_was_typed_stays(hostel: Hostel) -> None:
    said = {"kind": "practice", "count": 4, "level": 1}
    response = hostel.client().post(reverse("practice"), said)
    assert response.status_code == 422
    response = hostel.client().post(reverse("practice"), {**said, "recipe": recipe_of(hostel).pk, "count": 99})
    assert response.status_code == 422
    assert 'value="99"' in response.content.decode()


def test_nothing_is_asked_of_a_group_twice(hostel: Hostel, group: Group) -> None:
    rows = [a_round(hostel, group, seed=7), a_round(hostel, group, seed=7)]
    seen = [row["likeness"] for found in rows for row in found.puzzles]
    assert len(seen) == len(set(seen))


def test_an_answer_sent_twice_is_one_and_after_the_end_it_is_not_counted(hostel: Hostel, group: Group) -> None:
    found, sent = a_round(hostel, group), uuid.uuid4()
    for _ in range(2):
        services.answer(found=found, number=0, choice=key_of(found, 0), uuid=sent, learner="AK")
    assert Answer.objects.count() == 1
    services.end_round(found)
    found.refresh_from_db()
    with pytest.raises(CoreError) as over:
        services.answer(found=found, number=1, choice=key_of(found, 1), uuid=uuid.uuid4(), learner="AK")
    assert over.value.why == "round_is_over"
    again, new = services.answer(found=found, number=0, choice=key_of(found, 0), uuid=sent, learner="AK")
    assert (again.pk, new) == (Answer.objects.get().pk, False), "what was counted before the end still is"


def test_the_first_answer_of_a_learner_counts(hostel: Hostel, group: Group) -> None:
    found = a_round(hostel, group)
    services.answer(found=found, number=0, choice=wrong_of(found, 0), uuid=uuid.uuid4(), learner="AK")
    services.answer(found=found, number=0, choice=key_of(found, 0), uuid=uuid.uuid4(), learner="AK")
    row = selectors.counted(found)[0]
    assert (row.right, row.answers) == (0, 1)


def test_nobody_answers_as_somebody_of_another_group(hostel: Hostel, group: Group) -> None:
    found = a_round(hostel, group)
    with pytest.raises(CoreError) as nobody:
        services.answer(found=found, number=0, choice=key_of(found, 0), uuid=uuid.uuid4(), learner="ZZ")
    assert nobody.value.why == "nobody_of_that_name"


def test_a_phone_joins_with_the_code_says_who_it_is_and_answers(hostel: Hostel, group: Group) -> None:
    found, phone = a_round(hostel, group), Client()
    assert phone.get(reverse("practice_code", args=["WRONG1"])).status_code == 404
    path = reverse("practice_code", args=[found.code])
    assert "AK" in phone.get(path).content.decode()
    phone.post(path, {"who": "AK"})
    html = phone.get(path).content.decode()
    assert "pr-ask" in html
    assert "pr-hands" not in html, "hands are counted at the front"
    asked = {"number": 0, "choice": key_of(found, 0), "uuid": str(uuid.uuid4())}
    phone.post(reverse("practice_answer", args=[found.code]), asked)
    assert Answer.objects.get().learner == "AK"
    assert phone.get(reverse("round", args=[found.pk])).status_code == 302


def test_hands_are_counted_and_counted_once(hostel: Hostel, group: Group) -> None:
    found = a_round(hostel, group)
    hands = {"number": 0, "uuid": str(uuid.uuid4()), "hands-0": "3", "hands-1": "2", "hands-2": "many"}
    for _ in range(2):
        hostel.client().post(reverse("round_hands", args=[found.pk]), hands)
    assert selectors.counted(found)[0].answers == 5


def test_a_review_begins_with_what_was_missed(hostel: Hostel, group: Group) -> None:
    first = a_round(hostel, group, count=6)
    missed = first.puzzles[2]["rule"]
    for number in range(6):
        choice = wrong_of(first, number) if number == 2 else key_of(first, number)
        services.answer(found=first, number=number, choice=choice, uuid=uuid.uuid4(), count=10)
    review = a_round(hostel, group, kind=Round.REVIEW, seed=40)
    known = {row["rule"] for n, row in enumerate(first.puzzles) if n != 2}
    rules = [row["rule"] for row in review.puzzles]
    assert missed in rules
    assert missed in known or rules.index(missed) < len({*rules[: rules.index(missed) + 1]})


def test_before_and_after_match_and_the_gain_says_what_it_rests_on(hostel: Hostel, group: Group) -> None:
    before = a_round(hostel, group, kind=Round.BEFORE)
    after = services.make_matching(by=hostel.actor, before=before)
    shape = [(row["kind"], row["rule"], row["level"]) for row in before.puzzles]
    assert [(row["kind"], row["rule"], row["level"]) for row in after.puzzles] == shape
    same = {row["likeness"] for row in before.puzzles} & {row["likeness"] for row in after.puzzles}
    assert len(same) < len(before.puzzles) / 2, "the same is asked again only where the recipe has no other"
    assert selectors.gains(before, after)[0].gain is None, "nobody answered: nothing is said"
    for found, right in ((before, 1), (after, 3)):
        for n, name in enumerate(("AK", "JT", "NB")):
            choice = key_of(found, 0) if n < right else wrong_of(found, 0)
            services.answer(found=found, number=0, choice=choice, uuid=uuid.uuid4(), learner=name)
    gain = selectors.gains(before, after)[0].gain
    assert gain is not None
    assert (gain.pairs, round(gain.difference, 2)) == (3, 0.67)
    assert gain.low < 0.3 < gain.high, "three learners show little, and the interval says so"
    sheet = load_workbook(io.BytesIO(hostel.client().get(reverse("round_sheet", args=[after.pk])).content)).worksheets[
        0
    ]
    cells = [[cell.value for cell in row] for row in sheet.iter_rows()]
    assert ["all", 0.3333, 1] in [row[:3] for row in cells]
    assert not {"AK", "JT"} & {str(cell) for row in cells for cell in row}
    assert (
        "no difference is shown" in hostel.client().get(reverse("round", args=[after.pk])).content.decode()
        or gain.shown
    )


def test_another_organisation_sees_none_of_it(hostel: Hostel, group: Group) -> None:
    found, stranger = a_round(hostel, group), Hostel(name="Other Point").client()
    for name in ("round", "round_play"):
        assert stranger.get(reverse(name, args=[found.pk])).status_code == 404
    for name in ("round_answer", "round_hands", "round_end", "round_after", "round_paper"):
        assert stranger.post(reverse(name, args=[found.pk]), {}).status_code == 404


def test_what_broke_and_what_was_seen_wrong_is_practised_next(hostel: Hostel, group: Group) -> None:
    Lesson.objects.filter(pk=hostel.lesson.pk).update(group=group)
    hostel.open().arrive()
    hostel.says("watched", what="probe", learner="AK", seen="wrong")
    hostel.says("touched", learner="JT", what="cough")
    hostel.says("step_done", step="grate", by=["JT"])
    hostel.close()
    coming = lessons.create_lesson(
        recipe=hostel.lesson.recipe,
        place="Skerry",
        starts_at=timezone.now() + dt.timedelta(days=7),
        length_min=60,
        benches={"Tern": ["AK"]},
        profile_id="us-home",
    )
    Lesson.objects.filter(pk=coming.pk).update(group=group)
    coming.refresh_from_db()
    assert set(selectors.to_review(group, coming)) == {"core-temperature", "unwashed-hands"}
    found = services.make_round(
        by=hostel.actor, recipe=coming.recipe, lesson=coming, group=group, kind=Round.REVIEW, count=3, level=1, seed=4
    )
    assert {row["rule"] for row in found.puzzles[:2]} == {"core-temperature", "unwashed-hands"}


def test_a_phone_of_nobody_counts_once_and_where_there_are_names_it_says_its_own(hostel: Hostel, group: Group) -> None:
    named, nameless, phone = a_round(hostel, group), a_round(hostel, None), Client()
    for found in (named, nameless):
        path = reverse("practice_answer", args=[found.code])
        choices = [row["id"] for row in found.puzzles[0]["choices"]]
        for choice in choices[:2]:
            phone.post(path, {"number": 0, "choice": choice, "uuid": str(uuid.uuid4())})
    assert not named.answers.exists()
    assert [row.choice for row in nameless.answers.all()] == [nameless.puzzles[0]["choices"][0]["id"]]


def test_a_difference_is_no_temperature() -> None:
    assert [degrees_apart(0.5, unit) for unit in "CF"] == ["0.5 °C", "0.9 °F"]


def test_readings_are_shown_with_their_times_for_a_hold_is_judged_by_them(hostel: Hostel) -> None:
    found = a_round(hostel, only="done", count=8)
    assert found.puzzles
    for number, row in enumerate(found.puzzles):
        shown = pages.play_page(found, number, "C")
        assert sum(len(piece["cores"]) for piece in shown["readings"]) == len(row["asks"]["readings"])
        html = Client().get(f"{reverse('practice_code', args=[found.code])}?n={number}").content.decode()
        assert f"It is {shown['now']} now" in html
        assert all(f"at {read['at']}" in html for piece in shown["readings"] for read in piece["cores"])


def test_where_several_slips_were_made_the_first_is_asked_for_and_each_is_explained(hostel: Hostel) -> None:
    rounds = (a_round(hostel, only="find-slip", count=6, level=3, seed=seed) for seed in range(6))
    found, number = next((row, n) for row in rounds for n, puzzle in enumerate(row.puzzles) if puzzle["why"]["also"])
    later = found.puzzles[number]["why"]["also"][0]["finding"]["step"]
    shown = pages.play_page(found, number, "C", tapped=later)
    assert "At which step is harm first done?" in shown["question"]
    assert not shown["right"]
    at = next(row["number"] for row in shown["slip"]["rows"] if row["id"] == later)
    assert "Harm is done there too, but not first." in shown["told"]["why_not"]
    assert f"At {at} too: " in shown["told"]["why"]
    assert next(row for row in shown["slip"]["rows"] if row["id"] == later)["later"]


def test_what_must_be_colder_than_a_limit_is_never_shown_a_warmer_one(hostel: Hostel) -> None:
    found = a_round(hostel, only="cold-in-time", count=2)
    shown = pages.play_page(found, 0, "C", tapped=key_of(found, 0))
    limits = {value: unit for value, unit, _s in found.puzzles[0]["why"]["limits"]}
    assert limits[70] == "F"
    assert "21.1 °C (70 °F)" in shown["told"]["why"]


def test_the_questions_of_a_lesson_come_to_its_benches_own_tablets_and_go_with_their_end(hostel: Hostel) -> None:
    hostel.open()
    tablet = hostel.tablet()
    assert "answer them here" not in tablet.get(reverse("bench")).content.decode()
    asked = {"kind": Round.REVIEW, "count": 3, "level": 2, "seed": 7, "group": None}
    found = services.make_round(by=hostel.actor, recipe=hostel.lesson.recipe, lesson=hostel.lesson, **asked)

    path = reverse("practice_code", args=[found.code])
    assert path in tablet.get(reverse("bench_fragment")).content.decode(), "it comes to a page that is open already"
    html = tablet.get(path).content.decode()
    assert "AK" in html
    others = {
        row.initials for bench in hostel.lesson.benches.exclude(pk=hostel.puffin.pk) for row in bench.learners.all()
    }
    assert all(f'value="{name}"' not in html for name in others), "only who stands at this bench"

    tablet.post(path, {"who": "AK"})
    for number in range(len(found.puzzles)):
        sent = {"number": number, "choice": key_of(found, number), "uuid": str(uuid.uuid4())}
        html = tablet.post(reverse("practice_answer", args=[found.code]), sent, follow=True).content.decode()
    assert reverse("bench") in html, "and back to the cooking"
    assert found.answers.filter(learner="AK").count() == len(found.puzzles)
    assert "Who are you" in tablet.get(f"{path}?another=1").content.decode(), "one tablet, one after another"
    phone = Client()
    phone.post(path, {"who": "AK"})
    assert "Who are you" not in phone.get(f"{path}?another=1").content.decode(), "a phone is one learner's"

    services.end_round(found)
    assert "answer them here" not in tablet.get(reverse("bench")).content.decode()


def test_what_an_assistant_saw_go_wrong_is_practised_next(hostel: Hostel) -> None:
    hostel.open().arrive()
    hostel.says("touched", learner="AK", what="cough")
    hostel.says("watched", what="reheat", learner="AK", seen="wrong")
    hostel.close()

    missed = selectors._broken(hostel.lesson)
    assert "core-temperature" in missed, "seen to go wrong at the reheating"


def test_what_nobody_put_right_is_asked_before_what_was_mended_and_that_is_asked_too(
    hostel: Hostel, monkeypatch: pytest.MonkeyPatch
) -> None:
    def incident(rule: str, *, open: bool) -> Any:
        return SimpleNamespace(finding=SimpleNamespace(rule=rule), open=open)

    rows = [incident("time-out", open=False), incident("unwashed-hands", open=True)]
    state = SimpleNamespace(incidents=rows, watched={})
    monkeypatch.setattr(selectors.lessons, "bench_state", lambda _bench: (state, 0))

    assert selectors._broken(hostel.lesson) == ["unwashed-hands", "time-out"]


def test_no_place_for_a_tip_lies_over_another(hostel: Hostel) -> None:
    rounds = (a_round(hostel, only="tip", count=3, level=3, seed=seed) for seed in range(4))
    pieces = [pages.play_page(row, n, "C")["piece"] for row in rounds for n in range(len(row.puzzles))]
    for piece in pieces:
        starts = sorted(place.spot_x for place in piece.places)
        assert all(after - before >= piece.spot - 0.2 for before, after in itertools.pairwise(starts))
        assert piece.spot >= 60
    assert len(pieces) > 4


def test_around_the_hob_nothing_lies_over_another_or_beyond_the_drawing(hostel: Hostel) -> None:
    rounds = (a_round(hostel, only="hob", count=4, level=3, seed=seed) for seed in range(6))
    for shown in (pages.play_page(row, n, "C")["things"] for row in rounds for n in range(len(row.puzzles))):
        marks = [(thing.to_x or thing.x, thing.to_y or thing.y) for thing in shown]
        assert all(-16 <= x <= 976 and 16 <= y <= 304 for x, y in marks), marks
        assert min(math.dist(a, b) for a, b in itertools.combinations(marks, 2)) >= 34
