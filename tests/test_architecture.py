"""How the code is housed: sizes, contracts, the map, and that adding a tool is adding a folder."""

import ast
import shutil
import statistics
import subprocess
import sys
import tomllib
from collections.abc import Iterator
from pathlib import Path

import pytest

from bulwark.workbench import tools
from tests import map as code_map

ROOT = Path(__file__).resolve().parent.parent
SRC = ROOT / "src"
LONGEST_FILE, LONGEST_FUNCTION, USUAL_FUNCTION = 500, 50, 6
LONG_FUNCTION, MOST_LONG = 20, 0.1  # nine in ten are shorter
# Rebuilt by an issue of their own: the step reader and the line reader.
READERS = {"amounts", "ingredient_words", "ingredients", "instructions", "mentions"}
READERS |= {"preparations", "proposed_steps", "proposer", "reader", "short_notes", "times_and_heats", "vessels"}


def _function_lines(path: Path) -> Iterator[tuple[str, int]]:
    """Every function of a file and the lines of its body, its docstring aside."""
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef):
            body = node.body[1:] if ast.get_docstring(node) is not None else node.body
            yield f"{path.relative_to(SRC)} {node.name}", (body[-1].end_lineno or 0) - body[0].lineno + 1 if body else 0


def _packages() -> dict[str, list[Path]]:
    """The Python files of every package of both halves."""
    found: dict[str, list[Path]] = {}
    for path in sorted(SRC.rglob("*.py")):
        if "migrations" not in path.parts:
            found.setdefault("/".join(path.relative_to(SRC).parts[:2]), []).append(path)
    return found


def test_no_file_is_longer_than_500_lines() -> None:
    kinds = ("py", "html", "svg", "css", "js", "toml", "csv", "json")
    own = [path for kind in kinds for path in SRC.rglob(f"*.{kind}") if "vendor" not in path.parts]
    sizes = {str(path.relative_to(SRC)): len(path.read_text(encoding="utf-8").splitlines()) for path in own}
    assert {name: size for name, size in sizes.items() if size > LONGEST_FILE} == {}


def test_no_function_is_longer_than_50_lines() -> None:
    rows = [row for paths in _packages().values() for path in paths for row in _function_lines(path)]
    assert [row for row in rows if row[1] > LONGEST_FUNCTION] == []


@pytest.mark.parametrize("package", _packages())
def test_the_usual_function_has_6_lines_and_nine_in_ten_under_20(package: str) -> None:
    readers = package == "foodsafety/recipes"
    paths = [path for path in _packages()[package] if not (readers and path.stem in READERS)]
    sizes = [size for path in paths for _, size in _function_lines(path)]
    if sizes:
        assert statistics.median(sizes) <= USUAL_FUNCTION
        assert sum(size >= LONG_FUNCTION for size in sizes) <= MOST_LONG * len(sizes)


def test_a_module_in_no_contract_is_refused(tmp_path: Path) -> None:
    strays = ("foodsafety.stray", "foodsafety.ordering.stray", "bulwark.stray", "bulwark.shelf.stray")
    shutil.copytree(SRC, tmp_path / "src", ignore=shutil.ignore_patterns("static", "templates", "__pycache__"))
    shutil.copy(ROOT / "pyproject.toml", tmp_path)
    for name in strays:
        (tmp_path / "src" / Path(*name.split("."))).with_suffix(".py").write_text('"""A module nobody placed."""\n')
    lint = Path(sys.executable).parent / "lint-imports"
    done = subprocess.run(
        [lint, "--no-cache"], cwd=tmp_path, env={"PYTHONPATH": "src"}, capture_output=True, text=True, check=False
    )
    assert done.returncode != 0
    assert [name for name in strays if name not in done.stdout] == []


def test_the_map_leaves_out_an_arrow_that_others_imply_and_no_other() -> None:
    graph = {"a": {"b", "c"}, "b": {"c"}, "c": set[str]()}
    assert code_map.arrows(graph) == [("a", "b"), ("b", "c")]


def test_no_package_is_in_a_circle() -> None:
    graph = code_map.packages()
    assert [name for name in graph if code_map.reaches(graph, name, name)] == []


def test_a_workbench_tool_is_one_folder(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    folder = shutil.copytree(Path(tools.__path__[0]) / "basins", tmp_path / "second_basins")
    text = (folder / "__init__.py").read_text().replace('slug="basins"', 'slug="second-basins"')
    (folder / "__init__.py").write_text(text)
    monkeypatch.setattr(tools, "__path__", [*tools.__path__, str(tmp_path)])
    monkeypatch.setitem(sys.modules, "bulwark.workbench.tools.second_basins", None)
    monkeypatch.delitem(sys.modules, "bulwark.workbench.tools.second_basins")

    assert set(tools.find_tools()) == {*tools.TOOLS, "second-basins"}


def test_every_package_of_the_core_is_without_a_clock() -> None:
    contracts = tomllib.loads((ROOT / "pyproject.toml").read_text())["tool"]["importlinter"]["contracts"]
    [clockless] = [row for row in contracts if "no clock" in row["name"]]
    rooms = {path.parent.name for path in (SRC / "foodsafety").glob("*/__init__.py")} | {"quantities"}

    assert set(clockless["source_modules"]) == {f"foodsafety.{name}" for name in rooms - {"cli"}}
