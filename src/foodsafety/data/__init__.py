"""The core's own data files: limits and tables, each figure with its source beside it."""

from importlib.resources import files


def data_text(name: str) -> str:
    """The text of one of the core's own data files."""
    return (files(__name__) / name).read_text(encoding="utf-8")
