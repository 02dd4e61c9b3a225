"""The files of a walk's lessons, brought to an installation that has never heard of them, and proven there."""

import sys
from pathlib import Path

from tests.walk.visitor import Visitor


def main() -> int:
    """Brings every file of a folder in, says of each whether it holds, and answers 1 unless all do."""
    address, username, password, folder = sys.argv[1:5]
    visitor = Visitor(address)
    visitor.send(visitor.get("/sign-in/").forms()[0], username=username, password=password)
    files, wrong = sorted(Path(folder).glob("*.zip")), 0
    for path in files:
        page = visitor.upload("/records/", "file", path.name, path.read_bytes())
        holds = "heads hold" in page.words or "head hold" in page.words
        wrong += not holds
        if not holds:
            print(f"{path.name}: {page.words[:200]}")
    print(f"{len(files)} files read elsewhere, {wrong} that do not hold")
    return 1 if wrong or not files else 0


if __name__ == "__main__":
    sys.exit(main())
