"""The shelf under load: 2,000 parts in 12 stores."""

from __future__ import annotations

import datetime as dt
import uuid
from typing import Any

from django.utils import timezone

from bulwark.demo import hostel
from bulwark.lessons import services
from bulwark.lessons.models import Bench, Lesson
from bulwark.people import services as people
from bulwark.people.actors import Actor
from bulwark.people.models import User
from bulwark.recipes.models import Recipe
from bulwark.shelf.models import Shelved

PASSWORD = "nothing kept here yet"
LESSONS, BENCHES, PARTS, STORES = 25, 10, 8, 12


def educator() -> Actor:
    """The demo's educator."""
    user = User.objects.get(username=hostel.EDUCATOR)
    return Actor(kind="educator", user_id=user.pk, organisation_id=user.organisation_id)


def two_thousand_parts() -> str:
    """Lessons of the last days, each bench with its salad in eight parts, all over the stores; the store with most in
    it, as an address has it."""
    by = educator()
    recipe = Recipe.objects.filter(organisation_id=by.organisation_id, title__istartswith="Turkey koftas").first()
    assert recipe is not None
    for n in range(LESSONS):
        began = timezone.now() - dt.timedelta(hours=2 + n)
        names = {f"Bench {m}": ["AK"] for m in range(BENCHES)}
        lesson = services.create_lesson(
            recipe=recipe, place="", starts_at=began, length_min=75, benches=names, profile_id="us-home"
        )
        services.open_lesson(lesson=lesson)
        Lesson.objects.filter(pk=lesson.pk).update(opened_at=began)
        lesson.refresh_from_db()
        for m, bench in enumerate(lesson.benches.all()):
            bench.lesson = lesson
            _eight_parts(bench, by, began, n * BENCHES + m)
        Lesson.objects.filter(pk=lesson.pk).update(closed_at=began + dt.timedelta(minutes=75))
    return "fridge:Store 1"


def _eight_parts(bench: Bench, by: Actor, began: dt.datetime, at: int) -> None:
    def says(kind: str, minute: int, **data: Any) -> None:
        row = {"food": "salad", **data}
        when = began + dt.timedelta(minutes=minute)
        services.record_event(bench=bench, by=by, kind=kind, data=row, event_id=uuid.uuid4(), at=when)

    says("stored", 30, place="fridge")
    says("part_counted", 31, part="1", portions=40, store=f"Store {at % STORES + 1}")
    for n in range(2, PARTS + 1):
        says("part_split", 31 + n, part="1", portions=4)
        says("part_moved", 31 + n, part=str(n), place="fridge", store=f"Store {(at + n) % STORES + 1}")


def newcomer() -> str:
    """An educator of an organisation that keeps nothing."""
    username = "newcomer@skerrypoint.example"
    organisation = people.create_organisation(name="Tide House")
    people.create_educator(organisation=organisation, username=username, password=PASSWORD, role="owner")
    return username


def count() -> int:
    """How many parts the index has."""
    return Shelved.objects.filter(store__startswith="Store ").count()


def a_part() -> str:
    """The label of one of them."""
    row = Shelved.objects.filter(store="Store 1").first()
    assert row is not None
    return row.key
