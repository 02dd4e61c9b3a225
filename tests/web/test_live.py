"""Notices from the log to the screens, and a start that names what is wrong."""

import asyncio
import os
import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor

import pytest
from django.core.management import call_command
from django.db import connection

from bulwark.lessons import event_stream
from bulwark.lessons.models import Event
from tests.web.conftest import Hostel


async def first_change(lesson_id: int, bench_id: int | None, act: object) -> bytes:
    """The first notice of a change after ``act``, or nothing within two seconds."""
    stream = event_stream._stream(lesson_id, bench_id)
    assert b"hello" in await anext(stream)
    await asyncio.sleep(0.5)  # until the listener listens
    await asyncio.to_thread(act)
    try:
        return await asyncio.wait_for(anext(stream), 2)
    except TimeoutError:
        return b""
    finally:
        await stream.aclose()


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("whose", ["whole lesson", "own bench", "other bench", "other lesson"])
def test_a_screen_hears_of_its_own_lesson_and_bench_only(whose: str) -> None:
    hostel = Hostel().open()
    bench = {"whole lesson": None, "other bench": hostel.gannet.pk}.get(whose, hostel.puffin.pk)
    lesson = hostel.lesson.pk + (1 if whose == "other lesson" else 0)

    def say() -> None:
        hostel.says("called")
        connection.close()

    with ThreadPoolExecutor(1) as thread:  # a browser test may have left a loop on this one
        heard = thread.submit(asyncio.run, first_change(lesson, bench, say)).result()

    told = f"event: changed\ndata: {hostel.puffin.pk}:1\n\n".encode()
    assert heard == (b"" if whose.startswith("other") else told)


@pytest.mark.django_db(transaction=True)
def test_the_logs_migration_can_be_taken_back_and_done_again() -> None:
    call_command("migrate", "lessons", "0002", verbosity=0)
    call_command("migrate", verbosity=0)  # all of it: other rooms stand on lessons

    Hostel().open().says("called")
    assert Event.objects.get().seq == 1


@pytest.mark.parametrize(
    ("change", "named"),
    [
        ({"BULWARK_DEBUG": "perhaps"}, "perhaps"),
        ({"DATABASE_URL": None}, "DATABASE_URL"),
    ],
    ids=["misspelt", "missing"],
)
def test_a_wrong_setting_stops_the_start_and_names_itself(change: dict[str, str | None], named: str) -> None:
    env = {**os.environ, "DJANGO_SETTINGS_MODULE": "bulwark.settings", "PYTHONPATH": "src", "BULWARK_SECRET_KEY": "x"}
    for key, value in change.items():
        env.pop(key, None)
        if value is not None:
            env[key] = value

    done = subprocess.run(
        [sys.executable, "-c", "import django; django.setup()"], env=env, capture_output=True, text=True, timeout=60
    )

    assert done.returncode != 0
    assert named in done.stderr
