"""A whole lesson out and in: nothing is lost, nothing can be changed unseen, and what is none of ours is refused."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Callable
from dataclasses import replace

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from openpyxl import load_workbook

from bulwark.lessons import files
from bulwark.records import brought, services
from bulwark.records.models import BroughtRecord, SignOff
from foodsafety.quantities import CoreError
from tests.web.conftest import Hostel


@pytest.fixture
def taught(hostel: Hostel) -> Hostel:
    hostel.open().arrive()
    for step in ("grate", "stir", "chill", "mix"):
        hostel.says("step_done", step=step, by=["JT"])
    hostel.says("core_read", food="koftas", piece="1", core_c=71.25)
    return hostel.close()


def repacked(data: bytes, name: str, change: Callable[[str], str]) -> bytes:
    """The same zip with one part of it changed."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(out, "w") as new:
        for row in old.infolist():
            text = old.read(row).decode()
            new.writestr(row.filename, change(text) if row.filename == name else text)
    return out.getvalue()


def test_what_goes_out_comes_back_whole_and_proven(taught: Hostel) -> None:
    data = services.lesson_zip(taught.lesson)
    file = files.file_of(data)
    assert files.breaks_in(file) == []
    assert files.zip_of(file) == data == services.lesson_zip(taught.lesson)
    puffin = next(row for row in file.benches if row.name == "Puffin")
    assert [row["kind"] for row in puffin.entries][-1] == "core_read"
    assert puffin.learners == ("AK", "JT")


def test_a_second_empty_installation_reads_the_same_wall(taught: Hostel) -> None:
    data, other = services.lesson_zip(taught.lesson), Hostel("Other House")
    sent = SimpleUploadedFile("lesson.zip", data)
    response = other.client().post("/records/", {"file": sent}, follow=True)
    html = response.content.decode()
    assert "their heads hold" in html
    row = BroughtRecord.objects.get()
    page = brought.brought_page(row)
    ours = taught.client().get(f"/lessons/{taught.lesson.pk}/record/").content.decode()
    for bench in page["benches"]:
        assert bench["hash"][:32] in html
        for brick in bench["bricks"]:
            assert brick["name"] in ours
    assert taught.client().get(f"/records/{row.pk}/").status_code == 404


CHANGES = {
    "a reading": (lambda text: text.replace("71.25", "79.25"), "changed"),
    "who said it": (lambda text: text.replace("core_read", "cold_read"), "changed"),
    "an entry less": (
        lambda text: "".join(text.splitlines(keepends=True)[:2] + text.splitlines(keepends=True)[3:]),
        "missing",
    ),
    "a shorter end": (lambda text: "".join(text.splitlines(keepends=True)[:-1]), "head"),
}


@pytest.mark.parametrize("name", CHANGES)
def test_what_was_changed_is_found(taught: Hostel, name: str) -> None:
    change, why = CHANGES[name]
    data = repacked(services.lesson_zip(taught.lesson), f"benches/{taught.puffin.pk}.jsonl", change)
    found = files.breaks_in(files.file_of(data))
    assert why in [row[2] for row in found], found
    row, _new = services.bring(by=taught.actor, data=data)
    assert brought.brought_page(row)["broken"]


def test_another_limit_is_found(taught: Hostel) -> None:
    data = repacked(services.lesson_zip(taught.lesson), "lesson.json", lambda text: text.replace('"us-home"', '"uk"'))
    assert {row[2] for row in files.breaks_in(files.file_of(data))} == {"context"}


@pytest.mark.parametrize(
    ("data", "why"),
    [
        (b"", "no_lesson_file"),
        (b"PK\x03\x04 not a zip", "no_lesson_file"),
        (b"x" * (files.MOST_BYTES + 1), "too_long"),
    ],
)
def test_what_is_none_of_ours_is_refused_in_words(hostel: Hostel, data: bytes, why: str) -> None:
    with pytest.raises(CoreError) as refused:
        services.bring(by=hostel.actor, data=data)
    assert refused.value.why == why


def test_a_newer_one_and_a_damaged_one_are_refused(taught: Hostel) -> None:
    data = services.lesson_zip(taught.lesson)
    newer = repacked(data, "manifest.json", lambda text: text.replace('"version": 1', '"version": 2'))
    with pytest.raises(CoreError) as refused:
        files.file_of(newer)
    assert refused.value.why == "newer_lesson_file"
    response = taught.client().post("/records/", {"file": SimpleUploadedFile("a.zip", newer)})
    assert response.status_code == 422
    for part in ("lesson.json", f"benches/{taught.puffin.pk}.jsonl"):
        with pytest.raises(CoreError):
            services.bring(by=taught.actor, data=repacked(data, part, lambda _text: "{"))


def test_the_same_lesson_twice_is_one_record_and_never_goes_back(taught: Hostel) -> None:
    early = services.lesson_zip(taught.lesson)
    taught.says("called", bench=taught.puffin)
    later = services.lesson_zip(taught.lesson)
    for data, new in ((later, True), (early, False), (later, False)):
        assert services.bring(by=taught.actor, data=data)[1] is new
    assert bytes(BroughtRecord.objects.get().data) == later


def test_a_record_is_signed_for_as_it_stands_and_amended_only_on_top(taught: Hostel) -> None:
    path = f"/lessons/{taught.lesson.pk}/record/sign/"
    said = {"name": "R. Odum", "role": "lead educator"}
    taught.client().post(path, said)
    taught.client().post(path, said)
    assert SignOff.objects.count() == 1, "nothing new to answer for"
    taught.client().post(path, {**said, "words": "The fridge was read at 9:05, not 9:15."})
    assert SignOff.objects.count() == 2
    html = taught.client().get(f"/lessons/{taught.lesson.pk}/record/").content.decode()
    assert "The fridge was read at 9:05" in html
    assert "entries came after this" not in html
    taught.says("called", bench=taught.puffin)
    html = taught.client().get(f"/lessons/{taught.lesson.pk}/record/").content.decode()
    assert "entries came after this" in html
    assert len(files.file_of(services.lesson_zip(taught.lesson)).signed) == 2


def test_the_record_is_a_workbook_and_lines_too(taught: Hostel) -> None:
    path = f"/lessons/{taught.lesson.pk}/record"
    sheet = load_workbook(io.BytesIO(taught.client().get(f"{path}.xlsx").content)).worksheets[0]
    kinds = [row[4].value for row in sheet.iter_rows()]
    lines = [json.loads(line) for line in taught.client().get(f"{path}.jsonl").content.decode().splitlines()]
    assert "core_read" in [cell.value for row in sheet.iter_rows() for cell in row], kinds
    assert [row["kind"] for row in lines if row["bench"] == taught.puffin.pk][-1] == "core_read"
    assert Hostel("Other House").client().get(f"{path}.jsonl").status_code == 404


def test_nobody_signs_while_it_goes_on(hostel: Hostel) -> None:
    hostel.open()
    with pytest.raises(CoreError) as refused:
        services.sign_off(lesson=hostel.lesson, by=hostel.actor, name="A", role="b", words="")
    assert refused.value.why == "lesson_goes_on"


TEXTS = st.text(alphabet=st.characters(blacklist_categories=("Cs",)), max_size=40)
ENTRIES = st.fixed_dictionaries(
    {
        "seq": st.integers(1, 9),
        "uuid": TEXTS,
        "kind": TEXTS,
        "data": st.dictionaries(TEXTS, st.one_of(TEXTS, st.floats(allow_nan=False), st.none())).map(json.dumps),
        "happened_at": st.just("2026-03-02T09:30:00.000000"),
        "recorded_at": st.just("2026-03-02T09:30:01.000000"),
        "recorded_by": TEXTS,
        "previous_hash": TEXTS,
        "hash": TEXTS,
    }
)


@settings(max_examples=60, deadline=None)
@given(st.lists(ENTRIES, max_size=5), TEXTS, st.lists(TEXTS, max_size=3), st.integers(1, 10**9))
def test_out_and_in_loses_nothing(
    entries: list[dict[str, object]], name: str, learners: list[str], number: int
) -> None:
    bench = files.BenchFile(
        number=number,
        name=name,
        learners=tuple(learners),
        dishes=(name,),
        context=name,
        rules="",
        seq=len(entries),
        hash="",
        entries=tuple(entries),
    )
    file = files.LessonFile(number=number, lesson={"title": name}, benches=(bench,), seal={})
    assert files.file_of(files.zip_of(file)) == file
    assert files.zip_of(files.file_of(files.zip_of(file))) == files.zip_of(file)
    assert files.breaks_in(replace(file, benches=())) == []


ODD: list[object] = [None, 7, -1e400, "no", "\x00", [], [[]], {}, {"id": 3}, True]


def places(value: object, path: tuple[str | int, ...] = ()) -> list[tuple[str | int, ...]]:
    """Every place in a JSON value."""
    inner = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    return [path, *(found for key, row in inner for found in places(row, (*path, key)))]


def put(text: str, path: tuple[str | int, ...], value: object) -> str:
    """The same JSON with another value in one place."""
    if not path:
        return json.dumps(value)
    whole = json.loads(text)
    inner = whole
    for key in path[:-1]:
        inner = inner[key]
    inner[path[-1]] = value
    return json.dumps(whole)


@settings(max_examples=50, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(data=st.data())
def test_whatever_a_file_says_it_is_read_or_refused_and_never_breaks(taught: Hostel, data: st.DataObject) -> None:
    sent = services.lesson_zip(taught.lesson)
    part = data.draw(st.sampled_from(["manifest.json", "lesson.json", f"benches/{taught.puffin.pk}.jsonl"]))
    odd = data.draw(st.sampled_from(ODD))

    def change(text: str) -> str:
        lines = text.split("\n") if part.endswith("jsonl") else [text]
        n = data.draw(st.integers(0, len([line for line in lines if line]) - 1))
        path = data.draw(st.sampled_from(places(json.loads(lines[n]))))
        inner = json.loads(json.loads(lines[n])["data"]) if path == ("data",) else None
        if inner is not None:
            # What an entry says is a text of its own.
            within = data.draw(st.sampled_from(places(inner)))
            return "\n".join([*lines[:n], put(lines[n], path, put(json.dumps(inner), within, odd)), *lines[n + 1 :]])
        return "\n".join([*lines[:n], put(lines[n], path, odd), *lines[n + 1 :]])

    client = taught.client()
    answer = client.post("/records/", {"file": SimpleUploadedFile("lesson.zip", repacked(sent, part, change))})
    assert answer.status_code in {302, 422}
    if answer.status_code == 302:
        assert client.get(answer["Location"]).status_code == 200
