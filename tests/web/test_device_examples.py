"""The examples of docs/DEVICES.md do what the page says."""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any

import pytest
from django.test import Client

from bulwark.devices import services as devices
from bulwark.devices.models import StoreReading
from bulwark.shelf.models import PrintedLabel
from tests.web.conftest import Hostel
from tests.web.test_stock import kept

__all__ = ["kept"]
PAGE = (Path(__file__).parents[2] / "docs" / "DEVICES.md").read_text(encoding="utf-8")
# What is sent, and what comes back, by address.
EXAMPLES = {
    path: (sent, answer)
    for path, sent, answer in re.findall(
        r"    POST (\S+)\n    Authorization: Device KEY\n    (\{.*\})\n\n    (\{.*\})\n", PAGE
    )
}


def sent(path: str, serial: str, key: str, **more: Any) -> Any:
    body = {**json.loads(EXAMPLES[path][0]), "device": serial, **more}
    headers = {"Authorization": f"Device {key}"}
    return Client().post(path, json.dumps(body), "application/json", headers=headers)


def test_a_logger_s_example_is_kept(hostel: Hostel) -> None:
    row, key = devices.add_instrument(
        organisation_id=hostel.organisation.pk, kind="fridge", name="Larder fridge", simulated=False
    )
    answer = sent("/devices/readings/", str(row.serial), key)
    assert answer.json() == json.loads(EXAMPLES["/devices/readings/"][1])
    assert StoreReading.objects.get().celsius == 3.9


def test_a_printer_s_example_is_given_what_waits_until_it_is_printed(kept: Hostel) -> None:
    row, key = devices.add_instrument(
        organisation_id=kept.organisation.pk, kind="printer", name="Pantry printer", simulated=False
    )
    said = {"key": f"{kept.puffin.pk}-1-koftas", "printer": str(row.pk), "copies": "6"}
    kept.client().post("/shelf/labels/", said)
    answer = sent("/devices/labels/", str(row.serial), key)
    [label] = answer.json()["labels"]
    [told] = json.loads(EXAMPLES["/devices/labels/"][1])["labels"]
    assert label.keys() == told.keys()
    assert (label["copies"], label["name"]) == (told["copies"], told["name"])
    assert label["pdf"].startswith("JVBERi0")
    assert "waits for the printer" in kept.client().get(f"/shelf/printers/{row.pk}/").content.decode()
    assert sent("/devices/labels/", str(row.serial), key, printed=[label["id"]]).json() == {"labels": []}
    assert PrintedLabel.objects.get().printed_at is not None
    refused = kept.client().post("/shelf/labels/", {**said, "copies": "38"}, follow=True)
    assert "The printer has 37 labels left" in refused.content.decode()


@pytest.mark.parametrize(
    ("more", "status"), [({"paper": "many"}, 422), ({"printed": ["x"]}, 422), ({"printed": 7}, 400), ({}, 403)]
)
def test_a_printer_that_says_nonsense_is_told_so(hostel: Hostel, more: dict[str, Any], status: int) -> None:
    row, key = devices.add_instrument(
        organisation_id=hostel.organisation.pk, kind="printer", name="Pantry printer", simulated=False
    )
    key = "another" if status == 403 else key
    assert sent("/devices/labels/", str(row.serial), key, **more).status_code == status
    assert Client().post("/devices/labels/", "{", "application/json").status_code == 400
