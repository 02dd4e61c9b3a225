"""The core's own data files: limits and tables, each figure with its source beside it."""

from importlib.resources import files


def data_text(name: str) -> str:
    """The text of one of the core's own data files."""
    return (files(__name__) / name).read_text(encoding="utf-8")


def profile_folders() -> tuple[str, ...]:
    """The rule profiles there are, sorted: a folder each."""
    return tuple(sorted(entry.name for entry in (files(__name__) / "profiles").iterdir() if entry.is_dir()))


def profile_text(profile_id: str, name: str) -> str:
    """The text of a file of a profile's folder; empty where the folder has none of that name."""
    path = files(__name__) / "profiles" / profile_id / name
    return path.read_text(encoding="utf-8") if path.is_file() else ""
