"""The command line is a contract: other programs use it."""

import contextlib
import io
import json
import subprocess
import sys
from typing import Any
from unittest import mock

import pytest

from foodsafety.cli import main
from tests.builders import a_process


def answer(topic: str, data: object) -> tuple[int, Any]:
    """What a topic answers: read and written as in a process of its own, without the second that one takes to begin."""
    said = io.TextIOWrapper(io.BytesIO(json.dumps(data).encode()))
    with mock.patch("sys.stdin", said), contextlib.redirect_stdout(io.StringIO()) as out:
        code = main([topic])
    return code, json.loads(out.getvalue())


def run(topic: str, text: str) -> tuple[int, Any]:
    """The same by the command itself."""
    done = subprocess.run(
        [sys.executable, "-m", "foodsafety", topic], input=text, capture_output=True, text=True, timeout=60
    )
    return done.returncode, json.loads(done.stdout)


def test_lethality() -> None:
    data = {"readings": [[60, 70], [0, 70], [120, 70], [30, None]], "t_ref_c": 70, "d_ref_s": 20, "z_c": 7.5}

    code, out = run("lethality", json.dumps(data))

    assert code == 0
    assert out["log_reduction"] == pytest.approx(6.0)
    assert out["seconds_above_floor"] == 120


def test_store() -> None:
    data = {
        "category": "soup",
        "code": "uk",
        "made_at": "2026-06-13T14:00:00+01:00",
        "out_minutes": 60,
        "place": "fridge",
    }

    code, out = answer("store", data)

    assert (code, out["use_by"]) == (0, "2026-06-15T13:00:00+01:00")
    assert out["why"]


def test_analyse() -> None:
    process = a_process().food("turkey", "raw poultry").step("cut", "turkey", tools="board", hands="AK")
    process.step("cut", "mint", tools="board", hands="AK", id="chop").step("heat", "turkey", tools="pan").serve(
        "turkey", "mint"
    )

    code, out = answer("analyse", {**process.data, "code": "us-home"})

    assert code == 0
    [finding] = out["findings"]
    assert (finding["step"], finding["soil"], finding["food"]) == ("chop", "raw poultry", "mint")
    assert finding["path"][0] == "turkey"
    assert (out["washes"], out["best"]["washes"], out["best"]["proven"]) == (2, 0, True)
    assert sorted(out["best"]["order"]) == sorted(step["id"] for step in process.steps)


def test_analyse_says_what_a_later_step_ends_and_what_nothing_serves() -> None:
    process = a_process().food("turkey", "raw poultry").step("heat", "turkey", tools="pan", id="cook")

    _, out = answer("analyse", process.data)

    assert [finding["rule"] for finding in out["findings"]] == ["nothing-served"]
    assert out["cleared"] == [{"soil": "raw poultry", "food": "turkey", "step": "", "by": "cook", "path": ["turkey"]}]


def test_conduct() -> None:
    food = {"k": 0.5, "rho": 1000, "cp": 3600}
    data = {"shape": "slab", "size_m": [0.03], "food": food, "h": 10, "t0_c": 80, "ambient_c": [[0, 20], [60, 5]]}

    code, out = answer("conduct", {**data, "until_s": 86400, "until_centre_c": 21})

    assert code == 0
    assert out["centre_c"][-1] == pytest.approx(21, abs=0.01)
    assert out["reached_s"] == pytest.approx(out["times_s"][-1])
    assert len({len(out[name]) for name in ("times_s", "centre_c", "mean_c", "surface_c")}) == 1


def test_cooling() -> None:
    readings = [[0, 70], [3600, 40], [7000, 21], [7000, 20], [20000, 4], [9000, None]]

    code, out = answer("cooling", {"code": "us-foodservice", "readings": readings})

    assert (code, out["verdict"], out["failed_stage"]) == (0, "pass", None)
    assert set(out["crossings_s"]) == {"21", "5"}
    assert 3600 < out["crossings_s"]["21"] < out["crossings_s"]["5"] < 20000


@pytest.mark.parametrize(
    ("topic", "data", "field"),
    [
        ("lethality", {}, "readings"),
        ("lethality", {"readings": [[0, "hot"]], "t_ref_c": 70, "d_ref_s": 1, "z_c": 1}, "readings[0][1]"),
        ("lethality", {"readings": [], "t_ref_c": 70, "d_ref_s": 0, "z_c": 1}, "d_ref_s"),
        ("lethality", {"readings": [[0, 900], [9, 900]], "t_ref_c": 0, "d_ref_s": 1, "z_c": 0.5}, "readings"),
        ("store", {"code": "us-home", "category": "soup", "place": "shelf", "made_at": "2026-01-01"}, "place"),
        ("store", {"code": "us-home", "category": "soup", "place": "fridge", "made_at": "soon"}, "made_at"),
        ("store", {"code": "mars", "category": "soup", "place": "fridge", "made_at": "2026-01-01"}, "code"),
        ("store", {"code": "uk", "category": 3, "place": "fridge", "made_at": "2026-01-01"}, "category"),
        (
            "store",
            {"code": "uk", "category": "soup", "place": "fridge", "made_at": "2026-01-01", "out_minutes": -1},
            "out_minutes",
        ),
        ("store", {"code": "uk", "category": "soup", "place": "freezer", "made_at": "9999-12-31"}, "made_at"),
        ("analyse", {"steps": [{"id": "1", "do": "cut", "after": ["1"]}]}, "steps[0].after"),
        ("analyse", {"steps": [{"id": "1", "do": "cut"}], "house": {"boards": 7}}, "house.boards"),
        ("analyse", {"steps": []}, "steps"),
        ("analyse", {"steps": [{"id": "1", "do": "cut", "tools": ["axe"]}]}, "steps[0] (1).tools"),
        (
            "analyse",
            {
                "foods": {"egg": {"kind": "egg"}},
                "steps": [{"id": "1", "do": "cut", "foods": ["dip"]}, {"id": "2", "do": "mix", "makes": "dip"}],
            },
            "steps[0] (1).foods",
        ),
        ("analyse", [], "input"),
        ("conduct", {"shape": "cone", "size_m": [1]}, "shape"),
        ("conduct", {"shape": "slab", "size_m": [0], "h": 9}, "size_m[0]"),
        ("conduct", {"shape": "slab", "size_m": [0.1], "h": 9, "food": {"k": 1, "rho": -1, "cp": 1}}, "food.rho"),
        ("cooling", {"code": "uk"}, "readings"),
        ("cooling", {"code": "uk", "readings": [[0, 60], [1, "warm"]]}, "readings[1][1]"),
        ("dance", {}, "topic"),
    ],
)
def test_bad_input_names_its_field_and_exits_2(topic: str, data: object, field: str) -> None:
    code, out = answer(topic, data)

    assert (code, out["error"]["field"]) == (2, field)
    assert out["error"]["message"]


@pytest.mark.parametrize("text", ["", "{", "[" * 100_000, '{"readings": NaN}', "\x00"])
def test_what_is_not_json_is_one_error(text: str) -> None:
    code, out = run("lethality", text)

    assert (code, out["error"]["field"]) == (2, "input")
