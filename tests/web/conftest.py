import json
import re
import uuid
from typing import Any

import pytest
from django.test import Client
from django.utils import timezone

from bulwark.lessons import selectors, services
from bulwark.lessons.models import Bench, Lesson
from bulwark.people import services as people
from bulwark.people.actors import Actor
from bulwark.recipes import services as recipes
from tests.builders import demo_recipe

PASSWORD = "four tides a day"


def paper_of(client: Client, path: str, **asked: str) -> bytes:
    """Asks for a paper and takes it, as the page of the work does it."""
    job = client.post(path, asked)
    assert job.status_code == 302, job.status_code
    return client.get(f"{job['Location']}file/").content


class Hostel:
    """An organisation with an educator, the demo recipe and a lesson of two benches."""

    def __init__(
        self,
        name: str = "Skerry Point Hostel",
        *,
        profile: str = "us-home",
        data: dict[str, Any] | None = None,
        eaters: dict[str, Any] | None = None,
    ) -> None:
        self.organisation = people.create_organisation(name=name)
        self.username = f"educator@{name.split()[0].lower()}.example"
        self.user = people.create_educator(
            organisation=self.organisation, username=self.username, password=PASSWORD, role="owner"
        )
        recipe = recipes.add_confirmed_recipe(organisation=self.organisation, data=data or demo_recipe())
        if eaters:
            recipes.set_eaters(recipe=recipe, eaters=eaters)
        self.lesson = services.create_lesson(
            recipe=recipe,
            place=name,
            starts_at=timezone.now(),
            length_min=75,
            benches={"Gannet": ["SD", "RO"], "Puffin": ["AK", "JT"]},
            profile_id=profile,
        )

    @property
    def gannet(self) -> Bench:
        return Bench.objects.select_related("lesson").get(lesson=self.lesson, name="Gannet")

    @property
    def puffin(self) -> Bench:
        return Bench.objects.select_related("lesson").get(lesson=self.lesson, name="Puffin")

    @property
    def actor(self) -> Actor:
        return Actor(kind="educator", user_id=self.user.pk, organisation_id=self.organisation.pk)

    def open(self) -> "Hostel":
        services.open_lesson(lesson=self.lesson)
        return self

    def close(self) -> "Hostel":
        services.close_lesson(lesson=self.lesson)
        return self

    def says(self, kind: str, bench: Bench | None = None, **data: Any) -> uuid.UUID:
        event_id = uuid.uuid4()
        bench = bench or self.puffin
        services.record_event(
            bench=bench, by=self.actor, kind=kind, data=data, event_id=event_id, at=selectors.lesson_now(bench.lesson)
        )
        return event_id

    def arrive(self) -> "Hostel":
        """Everybody of bench Puffin is ready and washed, and its fridge is read."""
        for name in ("AK", "JT"):
            self.says("ready", learner=name, checks=["apron", "hair", "jewellery", "cuts", "well"])
            self.says("hands_washed", learner=name, scrub_s=20)
        self.says("fridge_read", core_c=3.0)
        return self

    def colleague(self) -> Client:
        """Another educator of the same organisation, signed in."""
        user = people.create_educator(organisation=self.organisation, username="two@hostel.example", password=PASSWORD)
        client = Client()
        client.force_login(user, backend="django.contrib.auth.backends.ModelBackend")
        return client

    def client(self) -> Client:
        client = Client()
        client.force_login(self.user, backend="django.contrib.auth.backends.ModelBackend")
        return client

    def tablet(self, bench: Bench | None = None) -> Client:
        """A device that has joined a bench."""
        client = Client()
        client.post("/join/", {"code": (bench or self.puffin).join_code})
        return client


def post_entry(client: Client, kind: str, *, id: str | None = None, **body: Any) -> Any:
    data = body.pop("data", {})
    payload = {"id": id or str(uuid.uuid4()), "kind": kind, "data": data, **body}
    return client.post("/b/entries/", json.dumps(payload), content_type="application/json")


@pytest.fixture
def hostel(db: None) -> Hostel:
    return Hostel()


@pytest.fixture
def lesson(hostel: Hostel) -> Lesson:
    return hostel.lesson


def ways(hostel: Hostel, lesson: Lesson | None = None) -> str:
    """What would end a lesson sooner, as its page shows it in the end."""
    html, path = "", f"/lessons/{(lesson or hostel.lesson).pk}/board/ways/"
    while not html or "pb-more" in html:  # as a page goes on asking
        already = re.search(r'data-tried="(\d+)"', html)
        html = hostel.client().get(path, {"already": already[1]} if already else {}).content.decode()
    return " ".join(html.split())
