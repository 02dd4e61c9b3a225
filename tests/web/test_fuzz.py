"""A small dose of what bin/fuzz throws."""

import asyncio
import io
import os
import random
import uuid

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import transaction
from django.test import AsyncClient

from bulwark.bench import express, limits
from tests.core.lesson.test_events import RIGHT
from tests.fuzz import hostile
from tests.fuzz.throw import Thrower, quoted
from tests.web.conftest import Hostel
from tests.web.test_express import request_of
from tests.web.test_forms import lived_in

__all__ = ["lived_in"]


def test_nothing_that_is_sent_breaks_it(lived_in: Hostel) -> None:
    thrown = Thrower(lived_in, int(os.environ.get("FUZZ_SEED", "1"))).run(int(os.environ.get("FUZZ_COUNT", "300")))

    told = "\n".join(f"{n} x {what}" for what, n in thrown.broke.most_common())
    print(f"{thrown.count} sent: {dict(sorted(thrown.statuses.items()))}\nslow: {dict(thrown.slow)}\n{told}")
    assert thrown.broke == {}, told
    assert thrown.statuses[200] > 0


@pytest.mark.django_db(transaction=True)
def test_what_tells_how_far_it_is_takes_anything_too() -> None:
    hostel = Hostel()
    draw = random.Random(int(os.environ.get("FUZZ_SEED", "1")))
    address = f"/recipes/{hostel.lesson.recipe_id}/flow/live/"
    client = AsyncClient(raise_request_exception=False)
    client.force_login(hostel.user, backend="django.contrib.auth.backends.ModelBackend")

    async def sent() -> tuple[int, bytes]:
        def anything() -> str:
            return hostile.text(draw)

        if draw.random() < 0.5:
            asked = [name for name in ("order", "finding", "at", "wash", "effort") if draw.random() < 0.5]
            answer = await client.get(f"{address}?{'&'.join(f'{name}={quoted(anything())}' for name in asked)}")
        else:
            lines = [draw.choice(["time,temperature C", anything()])]
            lines += [f"{anything()},{anything()}" for _ in range(draw.randrange(9))]
            log = SimpleUploadedFile("log.csv", "\n".join(lines).encode("utf-8", "surrogatepass"))
            fields = {"kind": anything(), "code": draw.choice(["us-home", anything()])}
            fields = {name: value.encode("utf-8", "replace").decode() for name, value in fields.items()}
            answer = await client.post("/workbench/log/live/", {"log": log, **fields})
        parts = b""
        if answer.streaming:
            async for part in answer.streaming_content:
                parts += part
                if b"event: found" in part or draw.random() < 0.2:  # somebody closes the page
                    break
            await answer.streaming_content.aclose()
        return answer.status_code, parts

    async def all_sent() -> list[tuple[int, bytes]]:
        return [await sent() for _ in range(int(os.environ.get("FUZZ_COUNT", "300")) // 50)]

    answers = asyncio.run(all_sent())

    assert {status for status, _ in answers if status >= 500} == set()
    assert any(b"event: found" in parts for _, parts in answers)


def test_the_short_way_of_entries_takes_anything_too(lived_in: Hostel) -> None:
    draw, tablet = random.Random(int(os.environ.get("FUZZ_SEED", "1"))), lived_in.tablet()
    taken = 0
    for _ in range(int(os.environ.get("FUZZ_COUNT", "300"))):
        kind = draw.choice(sorted(RIGHT))
        body = {"id": str(uuid.uuid4()), "kind": kind, "data": dict(RIGHT[kind]), "happened_at": 1.0, "sent_at": 2.0}
        sent = hostile.as_json(hostile.changed(body, draw), draw)
        said = {
            name: hostile.text(draw) for name in ("HTTP_HOST", "HTTP_ORIGIN", "HTTP_COOKIE") if draw.random() < 0.05
        }
        with transaction.atomic():
            limits._left.clear()
            asked = {**request_of(tablet), "wsgi.input": io.BytesIO(sent), "CONTENT_LENGTH": str(len(sent)), **said}
            taken += express.at_once(asked) is not None
            transaction.set_rollback(True)

    assert taken > 0
