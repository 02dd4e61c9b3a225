"""Long work: done in the second process, seen and stopped by whoever asked for it."""

import datetime as dt
from collections.abc import Callable
from typing import Any
from unittest.mock import patch

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import call_command
from django.test import Client
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from bulwark.devices.models import StoreReading
from bulwark.devices.services import add_instrument
from bulwark.jobs import services
from bulwark.jobs.models import Job
from bulwark.people import services as people
from bulwark.presentation.paper import pdf_of
from tests.web.conftest import PASSWORD, Hostel

pytestmark = pytest.mark.django_db


@pytest.fixture
def hostel() -> Hostel:
    return Hostel().open()


@pytest.fixture
def queued(settings: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    """Work waits for the second process, which here shares the test's own transaction."""
    monkeypatch.setattr("django_tasks_db.management.commands.db_worker.close_old_connections", lambda: None)
    settings.TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend"}}


def asked(hostel: Hostel) -> str:
    return str(hostel.client().post(f"/lessons/{hostel.lesson.pk}/record.pdf")["Location"])


def text_of(client: Client, path: str) -> str:
    return " ".join(client.get(path).content.decode().split())


@pytest.mark.usefixtures("queued")
def test_a_paper_waits_for_the_second_process_and_is_then_there(hostel: Hostel) -> None:
    client, page = hostel.client(), asked(hostel)
    assert "It begins in a moment." in text_of(client, page)
    assert client.get(f"{page}file/").status_code == 404

    call_command("keep", "--once")

    assert "Take the PDF" in text_of(client, page)
    part = client.get(page, headers={"HX-Request": "true", "HX-Target": "job"})
    assert f'href="{page}file/" data-take' in part.content.decode(), "who has waited is given it"
    assert client.get(f"{page}file/").content.startswith(b"%PDF-")
    assert bytes(Job.objects.get().taken) == b"", "what it was made from is not kept"


@pytest.mark.usefixtures("queued")
def test_what_nobody_wants_any_more_is_not_begun(hostel: Hostel) -> None:
    client, page = hostel.client(), asked(hostel)

    stopped = client.post(f"{page}stop/", follow=True).content.decode()
    call_command("keep", "--once")

    assert "Stopped." in stopped
    assert "Nothing was made." in stopped
    assert Job.objects.get().state == Job.STOPPED
    assert client.get(f"{page}file/").status_code == 404


def test_what_is_under_way_ends_at_the_next_page(hostel: Hostel, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(services, "NEWS_EVERY_S", 0.0)
    seen: list[int] = []

    def pages(html: str, *, sheet: str, progress: Callable[[int], None]) -> bytes:
        for n in range(1, 9):
            progress(n)
            seen.append(Job.objects.get().count)
            if n == 3:
                services.stop(Job.objects.get())
        return b"%PDF-"

    with patch("bulwark.jobs.papers.pdf_of", pages):
        page = asked(hostel)

    assert seen == [1, 2, 3]
    assert "Stopped." in text_of(hostel.client(), page)


def test_work_that_breaks_says_so_and_what_next(hostel: Hostel) -> None:
    with patch("bulwark.jobs.papers.pdf_of", side_effect=RuntimeError("no letters")):
        page = asked(hostel)

    text = text_of(hostel.client(), page)
    assert "It did not work." in text
    assert "Try again" in text
    assert "no letters" not in text


def test_only_who_asked_sees_it(hostel: Hostel) -> None:
    page = asked(hostel)
    people.create_educator(organisation=hostel.organisation, username="mate@skerry.example", password=PASSWORD)
    mate = Client()
    mate.post("/sign-in/", {"username": "mate@skerry.example", "password": PASSWORD})
    stranger = Hostel("Other House").client()

    assert mate.get("/recipes/").status_code == 200
    for client in (mate, stranger):
        assert [client.get(page).status_code, client.get(f"{page}file/").status_code] == [404, 404]
        assert client.post(f"{page}stop/").status_code == 404
    assert Client().get(page)["Location"].startswith("/sign-in/")


def test_a_reader_of_records_may_have_the_record_on_paper(hostel: Hostel) -> None:
    hostel.user.role = "reader"
    hostel.user.save()

    assert hostel.client().get(f"{asked(hostel)}file/").content.startswith(b"%PDF-")


@pytest.mark.usefixtures("queued")
def test_work_that_nobody_does_is_not_waited_for_in_silence(hostel: Hostel) -> None:
    page = asked(hostel)
    Job.objects.update(asked_at=timezone.now() - dt.timedelta(minutes=1))

    assert "Nothing has been heard of it" in text_of(hostel.client(), page)


@pytest.mark.usefixtures("queued")
def test_what_is_older_than_a_day_is_let_go(hostel: Hostel) -> None:
    asked(hostel)
    call_command("keep", "--once")
    assert Job.objects.filter(state=Job.DONE).exists()
    Job.objects.update(asked_at=timezone.now() - dt.timedelta(hours=25))
    DBTaskResult.objects.update(enqueued_at=timezone.now() - dt.timedelta(hours=25))

    call_command("keep", "--once")

    assert not Job.objects.exists()
    assert not DBTaskResult.objects.exists()


def test_a_paper_tells_each_page_that_is_set() -> None:
    told: list[int] = []
    three = "<p style='break-after: page'>one</p><p style='break-after: page'>two</p><p>three</p>"

    assert pdf_of(three, progress=told.append).startswith(b"%PDF-")
    assert sorted(set(told)) == [1, 2, 3]
    told.clear()
    assert pdf_of(three).startswith(b"%PDF-")
    assert told == [], "a paper tells nobody who has not asked"


# --- a logger's file ------------------------------------------------------------------------------------------------


def brought(hostel: Hostel, text: str) -> str:
    store, _ = add_instrument(organisation_id=hostel.organisation.pk, kind="fridge", name="Larder", simulated=False)
    file = SimpleUploadedFile("log.csv", text.encode())
    client = hostel.client()
    return text_of(client, client.post(f"/cold/{store.pk}/bring/", {"log": file})["Location"])


LINES = "time,temperature C\n" + "".join(f"2026-03-01T{h:02}:{m:02}:00,4.0\n" for h in range(24) for m in range(60))


def test_a_log_is_brought_and_what_is_left_out_is_counted(hostel: Hostel) -> None:
    text = brought(hostel, LINES + "2026-03-02T00:00:00,warm\n")

    assert "1440 readings are kept" in text
    assert "1 line without a time or a temperature that can be read was left out." in text
    assert StoreReading.objects.count() == 1440


def test_a_log_without_dates_is_refused_in_words(hostel: Hostel) -> None:
    text = brought(hostel, "minutes,temperature C\n0,4\n1,4\n")

    assert "It did not work." in text
    assert not StoreReading.objects.exists()


def test_a_log_that_is_stopped_says_what_stays(hostel: Hostel, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(services, "NEWS_EVERY_S", 0.0)
    monkeypatch.setattr("bulwark.devices.services.MOST_AT_ONCE", 500)
    keep = StoreReading.objects.bulk_create

    def keep_and_stop(rows: list[StoreReading], **options: Any) -> Any:
        services.stop(Job.objects.get())
        return keep(rows, **options)

    with patch.object(type(StoreReading.objects), "bulk_create", staticmethod(keep_and_stop)):
        text = brought(hostel, LINES)

    assert "Stopped." in text
    assert "500 readings are kept" in text
    assert StoreReading.objects.count() == 500
