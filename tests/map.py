"""The map of the code: which package imports which, as a Mermaid drawing in docs/ARCHITECTURE.md.

Made from the imports themselves, so that it cannot say what is not so. An arrow that others already
imply is left out. ``bin/map`` writes it, ``bin/map --check`` only says whether it is current.
"""

import sys
from collections.abc import Mapping
from pathlib import Path

import grimp

ROOT = Path(__file__).resolve().parent.parent
PAGE = ROOT / "docs/ARCHITECTURE.md"
BEGIN, END = "<!-- map: made by bin/map -->", "<!-- end of map -->"
HALVES = {"bulwark": "the web: one room an app", "foodsafety": "the core: no Django, no clock, no network"}
# Where a process starts: they import whatever there is.
ENTRANCES = frozenset({"bulwark.asgi", "bulwark.settings", "bulwark.urls", "foodsafety.__main__"})


def packages() -> dict[str, set[str]]:
    """Each package or top module of both halves, and those it imports."""
    graph = grimp.build_graph(*HALVES, cache_dir=None)
    found: dict[str, set[str]] = {}
    for module in graph.modules:
        own = _package(module)
        if own and own not in ENTRANCES:
            found.setdefault(own, set()).update(
                other
                for name in graph.find_modules_directly_imported_by(module)
                if (other := _package(name)) and other != own
            )
    return found


def _package(module: str) -> str | None:
    parts = module.split(".")
    return ".".join(parts[:2]) if len(parts) > 1 else None


def reaches(graph: Mapping[str, set[str]], start: str, goal: str) -> bool:
    """True if one package imports another, itself or by way of others."""
    seen: set[str] = set()
    waiting = [start]
    while waiting:
        for name in graph.get(waiting.pop(), ()):
            if name == goal:
                return True
            if name not in seen:
                seen.add(name)
                waiting.append(name)
    return False


def arrows(graph: Mapping[str, set[str]]) -> list[tuple[str, str]]:
    """The imports that no other import implies."""
    return sorted(
        (name, other)
        for name, others in graph.items()
        for other in others
        if not any(reaches(graph, between, other) for between in others - {other})
    )


def drawing() -> str:
    """The map as Mermaid text."""
    graph = packages()
    rows = ["```mermaid", "graph TD"]
    for half, words in HALVES.items():
        names = sorted(name for name in graph if name.startswith(f"{half}."))
        inside = [f"    {_node(name)}[{name.split('.')[1]}]" for name in names]
        rows += [f'  subgraph {half} ["{words}"]', *inside, "  end"]
    rows += [f"  {_node(name)} --> {_node(other)}" for name, other in arrows(graph)]
    return "\n".join([*rows, "```"])


def _node(name: str) -> str:
    return name.replace(".", "_")


def page_with(drawn: str) -> str:
    """The page with the drawing in its place. Raises ValueError where the page has no place for it."""
    text = PAGE.read_text(encoding="utf-8")
    head, rest = text.split(BEGIN, 1)
    _old, tail = rest.split(END, 1)
    return f"{head}{BEGIN}\n{drawn}\n{END}{tail}"


def main() -> int:
    """Writes the map, or with ``--check`` says whether it is current."""
    page = page_with(drawing())
    if page == PAGE.read_text(encoding="utf-8"):
        return 0
    if "--check" in sys.argv:
        print("docs/ARCHITECTURE.md does not show the imports as they are: run bin/map")
        return 1
    PAGE.write_text(page, encoding="utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
