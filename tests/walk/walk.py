"""One recipe text, one educator, a bench with a tablet and one on paper: from paste to record through the running
program. Or a menu of two of them: three benches with tablets, one on paper, and an assistant with a pad."""

import csv
import io
import re
import time
from collections import Counter
from collections.abc import Callable, Iterator
from contextlib import AbstractContextManager, contextmanager
from dataclasses import dataclass, field
from xml.etree.ElementTree import Element

from tests.walk import paper
from tests.walk.cook import Cook, Cooked, Slips
from tests.walk.practise import Practising
from tests.walk.shelf import Emptying
from tests.walk.tablet import SentTablet, Tablet
from tests.walk.texts import Text
from tests.walk.visitor import Page, Visitor, find, words_of

MACHINE_MADE = re.compile(
    r"\bmixture \d+\b(?!:)|\d\.\d{4,}|\bNone\b|\bnan\b|\b[a-z]+_[a-z]+\b|\b(?:steps|foods|serve)\[|\bTraceback\b|[{}]"
    r"|\b1 benches\b|\bs\d{1,2}\b|\u2026"
)
# More questions than this about one recipe are not being answered.
MOST_QUESTIONS = 20
GROUP = "Skerry crew"
TABLETS = {"Gannet": "SD, RO"}
MENU_TABLETS = {**TABLETS, "Puffin": "AK, JT", "Plover": "DF, IG"}
PAPER_BENCH, PAPER_LEARNERS = "Tern", "MO, VH"
# A pack is printed within a minute.
MOST_POLLS = 120
Joins = Callable[[str, str], AbstractContextManager[Tablet]]


@dataclass(slots=True)
class Walked:
    """What came of one text."""

    name: str
    title: str = ""
    questions: int = 0
    taps_to_start: int = 0
    # Ways out that were taken, and whether none was offered where the lesson does not fit.
    ways: int = 0
    no_way: bool = False
    stopped: str = ""
    # What came of all benches with tablets, and what each of them has entered.
    cooked: Cooked = field(default_factory=Cooked)
    did: dict[str, Counter[str]] = field(default_factory=dict)
    # What an assistant has seen, and what the pad would not take.
    seen: int = 0
    pad: list[str] = field(default_factory=list)
    never_laid: list[str] = field(default_factory=list)
    unproven: list[str] = field(default_factory=list)
    lost: str = ""
    # What was wrong with the card of the bench on paper, its rows, and which of its bricks stay open all the same.
    paper: list[str] = field(default_factory=list)
    card_rows: int = 0
    paper_open: list[str] = field(default_factory=list)
    words: list[str] = field(default_factory=list)
    # Parts that were kept and are gone at the end, and what their labels, pages and dates did not agree on.
    kept: int = 0
    shelf: list[str] = field(default_factory=list)
    # Puzzles that were played afterwards, and what was wrong with them or with the lesson's file.
    puzzles: int = 0
    practice: list[str] = field(default_factory=list)

    @property
    def right(self) -> bool:
        """True if nothing of it has to be mended."""
        cooked = self.cooked
        return not (
            self.stopped
            or cooked.stuck
            or cooked.refused
            or cooked.uncalled
            or self.lost
            or self.unproven
            or self.pad
            or self.paper
            or self.shelf
            or self.practice
            or self.words
        )


@contextmanager
def over_http(address: str, code: str) -> Iterator[Tablet]:
    """A tablet that joins by its code, without a browser."""
    visitor = Visitor(address)
    form = visitor.get(f"/j/{code}/").form("/join/")
    assert form is not None
    visitor.send(form)
    yield SentTablet(visitor)


class Walk:
    """Takes one text through the program. Everything it presses or types stands on a page."""

    tablets = TABLETS

    def __init__(
        self, address: str, sign_in: tuple[str, str], text: Text, *, joins: Joins = over_http, slips: bool = False
    ) -> None:
        self.educator, self.address = Visitor(address), address
        self.sign_in, self.text, self.joins, self.slips = sign_in, text, joins, slips
        self.walked = Walked(text.name)

    def walk(self) -> Walked:
        """All of it; what stops it is said."""
        try:
            self._sign_in()
            for part in self.parts():
                part()
                if self.walked.stopped:
                    break
        except Exception as wrong:  # a walk that falls over is a result
            self.walked.stopped = f"{type(wrong).__name__}: {wrong}"
        return self.walked

    def parts(self) -> tuple[Callable[[], None], ...]:
        """What is done, in this order."""
        return (self.bring, self.answer, self.confirm, self._plan, self._cook, self._record, self._keep, self._practise)

    def _sign_in(self) -> None:
        page = self.educator.get("/sign-in/")
        name, password = self.sign_in
        self.educator.send(page.forms()[0], username=name, password=password)
        self.educator.taps = 0

    # --- paste, questions, confirm, lesson ------------------------------------------------------------------

    def bring(self) -> None:
        """The text, pasted."""
        page = self.educator.get("/recipes/bring/")
        form = next(form for form in page.forms() if form.has("text"))
        page = self.educator.send(form, text=self.text.text, locale=self.text.locale)
        found = re.search(r"/recipes/(\d+)/", page.url)
        if found is None:
            return self._stop(page, "the text was not taken")
        self.recipe = found[1]
        if page.url.endswith("/write/"):
            return self._write(page)
        return None

    def _write(self, page: Page) -> None:
        """Where no list or no method was found: what is offered, or what the annotation says."""
        self.walked.questions += 1
        form = next(form for form in page.forms() if form.has("instructions"))
        lines = self.text.list_of_ingredients
        said = {"ingredients": lines} if lines else {}
        page = self.educator.send(form, **said, title=form.value("title") or self.text.name)
        if page.status >= 400:
            self._stop(page, "the words were not taken")

    def answer(self) -> None:
        """Every question of the reading screen, worst first: its first offer, or what the annotation says."""
        page = self.educator.get(f"/recipes/{self.recipe}/steps/")
        for _ in range(MOST_QUESTIONS):
            card = next((row for row in page.all("details", cls="rd-q-card") if not self._mild(row)), None)
            if card is None:
                return None
            self.walked.questions += 1
            before = words_of(card)
            page = self._say_kind(card, page) if self._is_food(card) else self.educator.send(page.forms(card)[0])
            if page.status >= 400 or any(words_of(row) == before for row in page.all("details", cls="rd-q-card")):
                return self._stop(page, f"no answer was taken for: {before[:100]}")
        return self._stop(page, "more questions than anybody answers")

    def _mild(self, card: Element) -> bool:
        """True for a question that holds nothing back; a food that is taken for another is always looked at."""
        return "is-mild" in (card.get("class") or "") and not self._is_food(card)

    def _is_food(self, card: Element) -> bool:
        return next(find(card, "form", cls="is-kind"), None) is not None

    def _say_kind(self, card: Element, page: Page) -> Page:
        """What a food is: as offered, else no ingredient, or the first kind of the annotation that is taken."""
        forms = page.forms(card)
        words = words_of(next(find(card, "p", cls="rd-quote"))).strip("“”")
        if forms[0].value("kind") or not self.text.is_ingredient(words):
            return self.educator.send(forms[0])
        kinds = [row.get("value") or "" for row in page.all("option") if row.get("value")]
        ask = next(form for form in forms if form.has("remember"))
        for kind in self.text.kinds_for(words, ask.value("food"), kinds):
            answered = self.educator.send(ask, kind=kind)
            if answered.status < 400 and words not in [
                words_of(row).strip("“”") for row in answered.all("p", cls="rd-quote")
            ]:
                return answered
        return page

    def confirm(self) -> None:
        """What is found is put right as offered, and the steps are confirmed."""
        address = f"/recipes/{self.recipe}/steps/"
        page = self._findings(self.educator.get(address))
        form = page.form(f"/recipes/{self.recipe}/confirm/")
        if form is None:
            return self._stop(page, "there is nothing to confirm")
        page = self.educator.send(form)
        if page.url.endswith("/steps/"):
            self._stop(page, "confirming was refused")
        return None

    def _findings(self, page: Page) -> Page:
        """What is still found is put right as offered; what stays is kept as a slip to be taught."""
        if page.form("/flow/apply/") is not None:
            self.walked.questions += 1
            page = self.educator.send(page.form("/flow/apply/"), way="first")  # type: ignore[arg-type]
        for _ in range(MOST_QUESTIONS):
            card = next(iter(page.all("details", cls="rd-breach-card")), None)
            if card is None:
                break
            self.walked.questions += 1
            page = self.educator.send(next(form for form in page.forms(card) if form.has("key")), how="slip")
        return page

    def _plan(self) -> None:
        page = self.educator.get(f"/recipes/{self.recipe}/")
        self.walked.title = next((words_of(row) for row in page.all("h1")), "")
        form = page.form(f"/recipes/{self.recipe}/lesson/")
        if form is None:
            return self._stop(page, "no lesson can be made")
        group = next((row.get("value") or "" for row in page.all("option") if words_of(row) == GROUP), "")
        benches = {**self.tablets, PAPER_BENCH: PAPER_LEARNERS}
        rows = "\n".join(f"{bench}: {learners}" for bench, learners in benches.items())
        page = self.educator.send(form, benches=rows, group_id=group)
        found = re.search(r"/lessons/(\d+)/", page.url)
        if found is None:
            return self._stop(page, "the lesson was not made")
        self.lesson = found[1]
        self._look(self.educator.get(f"/lessons/{self.lesson}/plan/"), "plan")
        board = self.educator.get(f"/lessons/{self.lesson}/board/")
        self._look(board, "plan board")
        if "fit" not in _headline(board):
            return self._stop(board, "no plan was made")
        if "does not fit" in _headline(board):
            self._take_a_way()
        self._print()
        if self.walked.stopped:
            return None
        page = self.educator.get(f"/lessons/{self.lesson}/")
        form = page.form(f"/lessons/{self.lesson}/open/")
        if form is None:
            return self._stop(page, "the lesson cannot be opened")
        self.educator.send(form)
        self.walked.taps_to_start = self.educator.taps
        return None

    def _take_a_way(self) -> None:
        """The first way out, where the lesson does not fit; it must do what it says."""
        ways = self.educator.get(f"/lessons/{self.lesson}/board/ways/")
        while more := next(ways.all("div", cls="pb-more"), None):
            ways = self.educator.get(f"/lessons/{self.lesson}/board/ways/?already={more.get('data-tried')}")
        self._look(ways, "ways out")
        form = next(iter(ways.forms()), None)
        if form is None:
            self.walked.no_way = True
            return
        wanted = words_of(next(ways.all("b", cls="pb-at")))
        button = next(find(form.element, "button"))
        board = self.educator.send(form, do=button.get("value") or "")
        self.walked.ways += 1
        self._look(board, "plan board after a way out")
        if wanted not in board.words and "fit" not in _headline(board):
            self._stop(board, f"a way out does not end at {wanted}")

    def _print(self) -> None:
        """The whole pack, as one PDF."""
        pack = self.educator.get(f"/lessons/{self.lesson}/pack/")
        self._look(pack, "pack")
        form = pack.form("/pack/all.pdf")
        if form is None:
            return self._stop(pack, "nothing can be printed")
        job = self.educator.send(form)
        for _ in range(MOST_POLLS):
            if "/file/" in job.text:
                break
            time.sleep(0.5)
            job = self.educator.get(job.url)
        paper = self.educator.get(f"{job.url}file/")
        if not paper.text.startswith("%PDF"):
            self._stop(job, "the pack was not printed")
        return None

    # --- cook, end, record --------------------------------------------------------------------------------------

    def _cook(self) -> None:
        page = self.educator.get(f"/lessons/{self.lesson}/")
        shown = [words_of(row) for row in page.all(cls="bw-code-text")]
        codes = [found[0] for row in shown if (found := re.match(r"[A-Z0-9]{6}", row))]
        if len(codes) < len(self.tablets):
            return self._stop(page, "no code to join with")
        for bench, code in zip(self.tablets, codes, strict=False):
            self._cook_at(bench, code)
            self._look_on()
        self._paper()
        self._look(self.educator.get(f"/lessons/{self.lesson}/wall/"), "wall")
        form = self.educator.get(f"/lessons/{self.lesson}/").form(f"/lessons/{self.lesson}/close/")
        if form is None:
            return self._stop(page, "the lesson cannot be ended")
        page = self.educator.send(form)
        again = page.form(f"/lessons/{self.lesson}/close/")
        if again is not None and again.has("sure"):  # a tablet went silent: the warning is read, and it ends
            self.educator.send(again)
        return None

    def _cook_at(self, bench: str, code: str) -> None:
        """One bench with a tablet, from joining to its last screen."""
        slips = Slips(self.text.name + bench, self._calls) if self.slips else None
        with self.joins(self.address, code) as tablet:
            cooked = Cook(tablet, slips=slips).cook()
        for where, words in cooked.words:
            self.walked.words += [f"{where}: {found}" for found in machine_made(words)]
        self.walked.did[bench] = cooked.did
        self.walked.cooked.add(cooked)

    def _look_on(self) -> None:
        """Nobody looks on where there is one bench."""

    def _paper(self) -> None:
        """The card of the bench on paper, typed in before the lesson ends."""
        page = self.educator.get(f"/lessons/{self.lesson}/")
        link = next(
            (
                row.get("href")
                for row in page.all("a")
                if "/benches/" in (row.get("href") or "") and PAPER_BENCH in words_of(row)
            ),
            None,
        )
        if link is None:
            self.walked.paper.append("the bench on paper is not on the lesson's page")
            return
        clock = time.strftime("%H:%M:%S", time.localtime(time.time() - 1))
        self.walked.card_rows, wrong = paper.type_in(self.educator, self.educator.get(link), clock)
        self.walked.paper += [wrong] if wrong else []

    def _calls(self) -> int:
        """What anybody has been told so far, as the record has it."""
        page = self.educator.get(f"/lessons/{self.lesson}/record/")
        lists = [*page.all("ul", cls="bw-record-breaches"), *page.all("ul", cls="bw-record-notes")]
        return sum(len(list(find(rows, "li"))) for rows in lists)

    def _record(self) -> None:
        page = self.educator.get(f"/lessons/{self.lesson}/record/")
        self._look(page, "record")
        open_ones = [row for bench in self.tablets for row in _open_bricks(page, bench)]
        self.walked.never_laid = [words_of(row) for row in open_ones]
        self.walked.unproven = [words_of(row) for row in open_ones if self._unproven(row, page)]
        on_paper = _open_bricks(page, PAPER_BENCH)
        self.walked.paper_open = [words_of(row) for row in on_paper]
        if on_paper:
            self.walked.paper_open += [f"told: {words_of(row)}" for row in _breaches(page, PAPER_BENCH)]
        self.walked.paper += [f"unproven: {words_of(row)}" for row in on_paper if self._unproven(row, page)]
        rows = list(csv.DictReader(_body(self.educator.get(f"/lessons/{self.lesson}/record.csv").text)))
        written = Counter((row["bench"], row["kind"]) for row in rows)
        did = {(bench, kind): n for bench, kinds in self.walked.did.items() for kind, n in kinds.items()}
        self.walked.lost = ", ".join(
            f"{bench}, {kind}: {n} done, {written[bench, kind]} in the record"
            for (bench, kind), n in did.items()
            if written[bench, kind] != n
        )
        seen = sum(n for (_bench, kind), n in written.items() if kind == "watched")
        if seen != self.walked.seen:
            self.walked.pad.append(f"{self.walked.seen} seen on the pad, {seen} in the record")

    def _keep(self) -> None:
        """What was put away, until nothing of it is left."""
        page = self.educator.get(f"/lessons/{self.lesson}/")
        links = [re.search(r"/benches/(\d+)/", row.get("href") or "") for row in page.all("a")]
        shelf = Emptying(self.educator, frozenset(found[1] for found in links if found))
        shelf.empty()
        self.walked.kept, self.walked.shelf = shelf.gone, shelf.wrong

    def _practise(self) -> None:
        """A review, a round before and one after, and the lesson's file."""
        after = Practising(self.educator, self.lesson, self._look)
        after.practise()
        self.walked.puzzles, self.walked.practice = after.puzzles, after.wrong

    def _unproven(self, brick: Element, page: Page) -> bool:
        """True for a proof by temperature that is missing, of food that was neither thrown away nor
        stands in the record as a breach."""
        if "core" not in (brick.get("data-rule") or ""):
            return False
        told = [words_of(row).lower() for rows in page.all("ul", cls="bw-record-breaches") for row in find(rows, "li")]
        gone = [words_of(row).lower() for row in page.all("td") if "thrown away" in words_of(row)]
        foods = (brick.get("data-foods") or "").split("|")
        return not any(food.lower() in row for food in foods for row in (*told, *gone))

    def _look(self, page: Page, where: str) -> None:
        self.walked.words += [f"{where}: {found}" for found in machine_made(page.words)]

    def _stop(self, page: Page, why: str) -> None:
        said = [
            words_of(row) for row in page.all() if row.get("role") == "alert" or "is-error" in (row.get("class") or "")
        ]
        self.walked.stopped = f"{why} ({page.status}): {' / '.join(said)[:300]}"


class MenuWalk(Walk):
    """Two texts as one menu, at three benches with tablets and one on paper; an assistant looks on with a pad."""

    tablets = MENU_TABLETS

    def __init__(
        self,
        address: str,
        sign_in: tuple[str, str],
        text: Text,
        other: Text,
        *,
        joins: Joins = over_http,
        slips: bool = False,
    ) -> None:
        super().__init__(address, sign_in, text, joins=joins, slips=slips)
        self.other = Walk(address, sign_in, other, joins=joins)
        self.other.educator = self.educator
        self.walked.name = f"{text.name}+{other.name}"
        self.assistant: Visitor | None = None

    def parts(self) -> tuple[Callable[[], None], ...]:
        """Both texts, then the menu, which is read and confirmed as one."""
        rest = (self._plan, self._cook, self._record, self._keep)
        return (self._bring_other, self.bring, self.answer, self.confirm, self._menu, self.answer, self.confirm, *rest)

    def _bring_other(self) -> None:
        for part in (self.other.bring, self.other.answer, self.other.confirm):
            part()
            if self.other.walked.stopped:
                self.walked.stopped = f"the other text: {self.other.walked.stopped}"
                return

    def _menu(self) -> None:
        page = self.educator.get(f"/recipes/{self.recipe}/")
        form = page.form(f"/recipes/{self.recipe}/menu/")
        if form is None:
            return self._stop(page, "no menu can be made")
        page = self.educator.send(form, **{"with": self.other.recipe})
        found = re.search(r"/recipes/(\d+)/", page.url)
        if found is None or found[1] == self.recipe:
            return self._stop(page, "the menu was not made")
        self.recipe = found[1]
        return None

    def _look_on(self) -> None:
        """What the pad asks of everybody at every bench is seen right, one tap each."""
        if self.assistant is None:
            page = self.educator.get(f"/lessons/{self.lesson}/pads/")
            form = next(form for form in page.forms() if list(find(form.element, "input", name="benches")))
            boxes = [row.get("value") or "" for row in find(form.element, "input", name="benches")]
            page = self.educator.send(form, benches=boxes)
            self.assistant = Visitor(self.address)
            join = self.assistant.get("/pad/join/").forms()[0]
            self.assistant.send(join, code=words_of(next(page.all(cls="bw-code-text"))))
        page = self.assistant.get("/pad/")
        self._look(page, "pad")
        for bench in page.all("section", cls="pd-bench"):
            for one in find(bench, cls="pd-one"):
                seen = {
                    "bench": bench.get("data-bench"),
                    "what": bench.get("data-what"),
                    "learner": one.get("data-who"),
                }
                status, body = self.assistant.entry("watched", {**seen, "seen": "right"}, path="/pad/entries/")
                self.walked.seen += status == 200
                self.walked.pad += [] if status == 200 else [f"{seen}: {status} {body}"]


def _open_bricks(page: Page, bench: str) -> list[Element]:
    """The bricks of a bench in the record that are neither laid nor mended."""
    rows = [row for row in _items(page, bench) if row.get("data-rule")]
    return [row for row in rows if (row.get("class") or "") not in ("is-laid", "is-mended")]


def _breaches(page: Page, bench: str) -> list[Element]:
    """What the record tells of a bench that went wrong and is open still."""
    return [row for row in _items(page, bench) if row.get("class") == "is-breach" and not row.get("data-rule")]


def _items(page: Page, bench: str) -> list[Element]:
    """All rows of a bench's part of the record."""
    sections = page.all("section", cls="bw-record-bench")
    own = next((part for part in sections if words_of(next(find(part, "h2"))).startswith(bench)), None)
    return [] if own is None else list(find(own, "li"))


def _headline(page: Page) -> str:
    return next((words_of(row) for row in page.all("h1")), "") if page.status == 200 else ""


def _body(text: str) -> io.StringIO:
    """The rows below the head of a record's CSV."""
    return io.StringIO(text[text.index("bench,place_in_log") :])


def machine_made(text: str) -> list[str]:
    """Words that no person would write, with what stands around them."""
    return list(dict.fromkeys(text[max(0, m.start() - 25) : m.end() + 15] for m in MACHINE_MADE.finditer(text)))
