"""A sixth rule profile as somebody would add it: one folder of data, and nothing else."""

import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest

import foodsafety.data
from foodsafety.contamination import findings
from foodsafety.cooking import kill_targets
from foodsafety.foods import allergen_sets
from foodsafety.rules import profile_ids, ranked_profiles, rule_profile

SIXTH = "tidal-isles"
_CACHED = (profile_ids, ranked_profiles, rule_profile, allergen_sets, kill_targets, findings._sources)


def _forget() -> None:
    for cached in _CACHED:
        cached.cache_clear()


@pytest.fixture
def sixth(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[str]:
    """The data files with one folder more: Canada's limits, one of them and the name changed."""
    data = tmp_path / "data"
    shutil.copytree(Path(foodsafety.data.__file__).parent, data)
    folder = data / "profiles" / SIXTH
    shutil.copytree(data / "profiles" / "canada", folder)
    limits = (folder / "limits.toml").read_text(encoding="utf-8")
    (folder / "limits.toml").write_text(
        limits.replace('name = "Canada"', 'name = "Tidal isles"')
        .replace("rank = 4", "rank = 6")
        .replace("[cook.poultry]\ntemperature = 74", "[cook.poultry]\ntemperature = 77"),
        encoding="utf-8",
    )
    (folder / "contact_sources.toml").write_text('unwashed-hands = "Isles ordinance 7"\n', encoding="utf-8")
    (folder / "lethality.toml").write_text("listeria = 5.0\n", encoding="utf-8")
    (folder / "retention.toml").write_text('source = "Isles ordinance 9"\n[months]\nlessons = 6\n', encoding="utf-8")
    monkeypatch.setattr("foodsafety.data.files", lambda _name: data)
    _forget()
    yield SIXTH
    monkeypatch.undo()
    _forget()
