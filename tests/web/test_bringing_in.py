"""Food that comes onto the shelf without a lesson: all of it right, or none of it taken."""

from __future__ import annotations

import io
import json
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.utils import timezone
from openpyxl import Workbook

from bulwark.lessons import selectors as lessons
from bulwark.lessons.models import Event
from bulwark.shelf import index
from tests.web.conftest import Hostel
from tests.web.test_stock import page

MADE = f"{timezone.localtime():%Y-%m-%dT00:00}"
HEAD = "food,category,made_at,place,store,portions,out_min,contains"


def bring(hostel: Hostel, *rows: str, **sent: Any) -> Any:
    return hostel.client().post("/shelf/brought-in/", {"rows": "\n".join([HEAD, *rows]), **sent})


def test_rows_stand_on_the_shelf_with_their_own_log_and_in_no_list_of_lessons(hostel: Hostel) -> None:
    before = lessons.lessons_for(hostel.actor).count()
    answer = bring(
        hostel,
        f"lentil soup,soup_stew,{MADE},fridge,Larder fridge,6,20,celery",
        f"minced beef,raw_ground,{MADE},fridge,Larder fridge,,0,none",
        f"lentil soup,soup_stew,{MADE},freezer,,,unknown,none",
    )
    assert answer.status_code == 302, answer.content.decode()
    found = {row.food: row for row in index.items_of(hostel.actor)}
    assert found.keys() == {"lentil soup", "minced beef", "lentil soup 2"}
    soup = found["lentil soup"]
    assert (soup.portions, soup.store, soup.contains, soup.row.out_s) == (6, "Larder fridge", ("celery",), 1200.0)
    assert found["minced beef"].raw
    assert (found["lentil soup 2"].standing, found["lentil soup 2"].until) == ("hole", None)
    assert lessons.lessons_for(hostel.actor).count() == before
    assert "Brought in" in page(hostel, item=soup.key)
    assert Event.objects.filter(bench=soup.bench).count() == 10
    hostel.client().post("/shelf/act/", {"key": soup.key, "do": "take", "how": "eaten"})
    assert "lentil soup" not in {row.food for row in index.items_of(hostel.actor)}
    assert list(index.items_of(Hostel("Elsewhere").actor)) == []


@pytest.mark.parametrize(
    ("row", "field"),
    [
        (f",soup_stew,{MADE},,,,0,none", "food"),
        (f"soup,broth-ish,{MADE},,,,0,none", "category"),
        ("soup,soup_stew,yesterday,,,,0,none", "made_at"),
        ("soup,soup_stew,2999-01-01T10:00,,,,0,none", "made_at"),
        (f"soup,soup_stew,{MADE},shelf,,,0,none", "place"),
        (f"soup,soup_stew,{MADE},,,-2,0,none", "portions"),
        (f"soup,soup_stew,{MADE},,,2.5,0,none", "portions"),
        (f"soup,soup_stew,{MADE},,,,,none", "out_min"),
        (f"soup,soup_stew,{MADE},,,,-5,none", "out_min"),
        (f"soup,soup_stew,{MADE},,,,0,", "contains"),
        (f"soup,soup_stew,{MADE},,,,0,moonrock", "contains"),
    ],
)
def test_a_row_that_is_wrong_is_named_and_nothing_is_taken(hostel: Hostel, row: str, field: str) -> None:
    answer = bring(hostel, f"stew,soup_stew,{MADE},,,,0,none", row)
    text = answer.content.decode()
    assert answer.status_code == 422
    assert f"Row 3, {field}: " in " ".join(text.split())
    assert "stew,soup_stew" in text, "what was typed is kept"
    assert not index.items_of(hostel.actor)


def test_a_workbook_and_json_lines_say_the_same(hostel: Hostel) -> None:
    book, out = Workbook(), io.BytesIO()
    assert book.active is not None
    for row in (HEAD.split(","), ["soup", "soup_stew", MADE, "fridge", "", 4, 0, "none"]):
        book.active.append(row)
    book.save(out)
    sheet = SimpleUploadedFile("stock.xlsx", out.getvalue())
    assert hostel.client().post("/shelf/brought-in/", {"file": sheet}).status_code == 302
    line = {"food": "stew", "category": "soup_stew", "made_at": MADE, "out_min": 0, "contains": ["milk"], "portions": 2}
    lines = SimpleUploadedFile("stock.jsonl", json.dumps(line).encode())
    assert hostel.client().post("/shelf/brought-in/", {"file": lines}).status_code == 302
    assert {row.food: row.portions for row in index.items_of(hostel.actor)} == {"soup": 4, "stew": 2}
    broken = SimpleUploadedFile("stock.xlsx", b"PK no workbook")
    refused = hostel.client().post("/shelf/brought-in/", {"file": broken})
    assert refused.status_code == 422
    assert "no workbook" in refused.content.decode()
    assert hostel.client().post("/shelf/brought-in/", {"rows": ""}).status_code == 422
