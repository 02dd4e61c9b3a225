"""After the lesson: a review, a round before and one after, the record signed for, and the whole lesson out as a file
and in again."""

from __future__ import annotations

import os
import re
import uuid
from collections.abc import Callable
from pathlib import Path

from tests.walk.visitor import Page, Visitor, words_of

# A round that has more puzzles than this is not what was asked for.
MOST = 12


class Practising:
    """What was practised and what was wrong with it; everything it presses stands on a page."""

    def __init__(self, visitor: Visitor, lesson: str, look: Callable[[Page, str], None]) -> None:
        self.visitor, self.lesson, self.look = visitor, lesson, look
        # Where the lesson's file is kept for another installation to read; nowhere where nobody asks for it.
        self.files = os.environ.get("WALK_FILES", "")
        self.puzzles = 0
        self.wrong: list[str] = []

    def practise(self) -> None:
        """All of it."""
        self._play(self._round("review"))
        before = self._round("before")
        self._play(before)
        page = self.visitor.get(before)
        form = page.form("/after/")
        if form is None:
            self.wrong.append("no round is offered after the one before")
            return
        after = self.visitor.send(form).url
        self._play(after)
        page = self.visitor.get(after)
        self.look(page, "gain")
        if not any("pr-gains" in (row.get("class") or "") for row in page.all("section")):
            self.wrong.append("nothing is said of what was learnt")
        self._file()

    def _round(self, kind: str) -> str:
        page = self.visitor.get(f"/practice/?lesson={self.lesson}&kind={kind}")
        form = next(form for form in page.forms() if form.has("kind"))
        page = self.visitor.send(form, lesson=self.lesson, kind=kind, count="3", level="2")
        self.look(page, f"{kind} round")
        if not re.search(r"/practice/\d+/$", page.url):
            self.wrong.append(f"no {kind} was made ({page.status})")
        return page.url

    def _play(self, url: str) -> None:
        """Each puzzle answered with the first of its answers, whatever it is; then it is explained."""
        for n in range(MOST):
            page = self.visitor.get(f"{url}play/?n={n}")
            counted = re.search(r"\b(\d+)/(\d+)\b", page.words)
            if counted is None or int(counted[1]) != n + 1:
                return
            self.puzzles += 1
            form = page.form("/answer/")
            choice = next(row.get("value") for row in page.all("button") if row.get("name") == "choice")
            if form is None or choice is None:
                self.wrong.append(f"puzzle {n + 1} cannot be answered")
                return
            told = self.visitor.send(form, choice=choice, uuid=str(uuid.uuid4()))
            self.look(told, "puzzle")
            why = [words_of(row) for row in told.all("p") if "pr-why" in (row.get("class") or "")]
            if not why or len(why[0]) < 10:
                self.wrong.append(f"puzzle {n + 1} is not explained: {page.words[:80]}")

    def _file(self) -> None:
        """The record signed for, the lesson as a file, and the file proven."""
        page = self.visitor.get(f"/lessons/{self.lesson}/record/")
        form = page.form("/sign/")
        if form is None:
            self.wrong.append("nobody can sign for the record")
        else:
            self.look(self.visitor.send(form, name="R. Odum", role="lead educator"), "signed")
        data = self.visitor.fetch(f"/lessons/{self.lesson}/record.zip")
        if self.files:
            (Path(self.files) / f"{self.lesson}.zip").write_bytes(data)
        page = self.visitor.upload("/records/", "file", "lesson.zip", data)
        self.look(page, "record from a file")
        if "heads hold" not in page.words and "head hold" not in page.words:
            self.wrong.append(f"its file does not hold: {page.words[:160]}")
