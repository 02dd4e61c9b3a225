"""What ``bin/bench`` measures: each figure as a ratio to something bare in the same run.

Rounds of the thing measured and of what it is measured against take turns, so that a machine
that slows down slows both.
"""

import json
import socket
import statistics
import sys
import time
import uuid
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import quote

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

import django

django.setup()

# ruff: noqa: E402 - models can be imported only once Django is set up
import psycopg
from django.conf import settings
from django.db import connection
from playwright.sync_api import Page, sync_playwright

from bulwark.demo import hostel
from bulwark.lessons import selectors, services
from bulwark.recipes.models import Recipe
from foodsafety.contamination import analyse, find_contamination
from foodsafety.lesson import Event, fold, rehearse, safety_plan
from foodsafety.ordering import best_order
from foodsafety.recipes import process_from, propose, read_document, read_ingredient
from foodsafety.rules import House, rule_profile
from tests import bench_heat, bench_plan, bench_practice, bench_shelf
from tests.browser import launched
from tests.builders import LEARNERS, koftas
from tests.core.random_processes import crossed, crowded

ROUNDS = 150
ORDER_BOUND_MS = 3000.0
LINES = Path(__file__).resolve().parent / "data" / "ingredient_lines_dev.txt"


class Client:
    """One keep-alive connection with a cookie jar, on a bare socket: what is measured is the
    server, so the client parses no more than it needs."""

    def __init__(self, address: str) -> None:
        self.host = address.removeprefix("http://")
        self.cookies: dict[str, str] = {}
        self.connect()

    def connect(self) -> None:
        name, port = self.host.split(":")
        self.socket = socket.create_connection((name, int(port)), timeout=30)
        self.socket.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)

    def send(
        self, method: str, path: str, body: str = "", kind: str = "application/x-www-form-urlencoded"
    ) -> tuple[int, bytes]:
        cookies = "; ".join(f"{k}={v}" for k, v in self.cookies.items())
        head = (
            f"{method} {path} HTTP/1.1\r\nHost: {self.host}\r\nCookie: {cookies}\r\nContent-Type: {kind}\r\n"
            f"X-CSRFToken: {self.cookies.get('csrftoken', '')}\r\nReferer: http://{self.host}/\r\n"
            f"Content-Length: {len(body)}\r\n\r\n"
        )
        try:
            self.socket.sendall(head.encode() + body.encode())
            return self.receive()
        except (ConnectionError, EOFError):  # idle too long between two measurements
            self.connect()
            self.socket.sendall(head.encode() + body.encode())
            return self.receive()

    def more(self) -> bytes:
        data = self.socket.recv(262_144)
        if not data:
            raise EOFError
        return data

    def receive(self) -> tuple[int, bytes]:
        data = self.more()
        while b"\r\n\r\n" not in data:
            data += self.more()
        head, _, content = data.partition(b"\r\n\r\n")
        lines = head.decode("latin-1").split("\r\n")
        length = None
        for line in lines[1:]:
            name, _, value = line.partition(": ")
            if name.lower() == "content-length":
                length = int(value)
            elif name.lower() == "set-cookie":
                key, _, rest = value.partition("=")
                self.cookies[key] = rest.split(";")[0]
        status = int(lines[0].split()[1])
        if length is None and status not in (204, 304):  # sent in chunks
            while not content.endswith(b"0\r\n\r\n"):
                content += self.more()
        while length is not None and len(content) < length:
            content += self.more()
        return status, content


def seconds(run: Callable[[], object]) -> float:
    start = time.perf_counter()
    run()
    return time.perf_counter() - start


@dataclass(frozen=True)
class Measured:
    """Two medians [ms] and the 10th and 90th percentile of their ratio."""

    name: str
    ms: float
    base: str
    base_ms: float
    target: float | None

    @property
    def ratio(self) -> float:
        return self.ms / self.base_ms


def in_turns(
    name: str,
    run: Callable[[], object],
    base: str,
    bare: Callable[[], object],
    target: float | None,
    rounds: int = ROUNDS,
) -> Measured:
    for _ in range(10):
        run()
        bare()
    pairs = [(seconds(run), seconds(bare)) for _ in range(rounds)]
    ms, base_ms = (statistics.median(column) * 1000 for column in zip(*pairs, strict=True))
    return Measured(name, ms, base, base_ms, target)


def bare_insert() -> Callable[[], object]:
    """One committed INSERT of a row as wide as an entry, on a connection that stays open."""
    row = connection.settings_dict
    bare = psycopg.connect(
        host=row["HOST"],
        port=row["PORT"],
        dbname=row["NAME"],
        user=row["USER"],
        password=row["PASSWORD"],
        autocommit=True,
    )
    bare.execute(
        "CREATE TABLE IF NOT EXISTS bare (id bigserial PRIMARY KEY, uuid uuid UNIQUE, data jsonb, at timestamptz)"
    )
    data = json.dumps({"step": "mix", "by": ["AK"]})
    return lambda: bare.execute("INSERT INTO bare (uuid, data, at) VALUES (%s, %s, now())", [uuid.uuid4(), data])


def open_lesson() -> tuple[int, str]:
    lesson = hostel.demo_lesson()
    assert lesson is not None
    services.open_lesson(lesson=lesson)
    return lesson.pk, lesson.benches.first().join_code


def educator(address: str, password: str, username: str = hostel.EDUCATOR) -> Client:
    client = Client(address)
    client.send("GET", "/sign-in/")
    status, _ = client.send("POST", "/sign-in/", f"username={quote(username)}&password={password}")
    assert status == 302, status
    return client


def joined(address: str, code: str) -> Client:
    """A tablet at a bench."""
    tablet = Client(address)
    tablet.send("GET", f"/j/{code}/")
    token = tablet.cookies.get("csrftoken", "")
    status, _ = tablet.send("POST", "/join/", f"code={code}&csrfmiddlewaretoken={token}")
    assert status == 302, status
    tablet.send("GET", "/b/")
    return tablet


def event_post(address: str, code: str) -> Callable[[], object]:
    tablets = [joined(address, code) for _ in range(4)]  # one alone would be slowed down

    def post() -> None:
        tablet = tablets[0]
        tablets.append(tablets.pop(0))
        body = {"id": str(uuid.uuid4()), "kind": "wash_started", "data": {"learner": "SD"}}
        now = time.time() * 1000
        status, content = tablet.send(
            "POST", "/b/entries/", json.dumps({**body, "happened_at": now, "sent_at": now}), "application/json"
        )
        assert status == 200, content

    return post


def wall_poll(client: Client, lesson: int) -> Callable[[], object]:
    """A poll that names what the screen has: mostly nothing to send, now and then a redraw."""
    path = f"/lessons/{lesson}/wall/fragment/"
    seen = {"tag": ""}

    def poll() -> None:
        status, content = client.send("GET", f"{path}?seen={seen['tag']}")
        if status == 200:
            seen["tag"] = content.decode().split("?seen=")[1].split('"')[0]

    return poll


def thousand_events() -> float:
    """Milliseconds to fold 1,000 entries of rehearsed lessons, the best of five."""
    plan = koftas()
    events: list[Event] = []
    while len(events) < 1000:
        offset = len(events) * 100.0
        for row in rehearse(plan, LEARNERS, seed=len(events), slip="unwashed_hands"):
            events.append(Event(id=str(len(events)), kind=row.kind, at_s=row.at_s + offset, data=row.data))
    return min(seconds(lambda: fold(plan, LEARNERS, events[:1000])) for _ in range(5)) * 1000


def recipe_of_60_lines() -> float:
    """Milliseconds to read and analyse a recipe of 60 lines in the core, the best of five."""
    lines = [line.split(" | ")[1] for line in LINES.read_text(encoding="utf-8").splitlines() if " | " in line][1:31]
    method = [f"Chop the {read_ingredient(line, 'en-GB').food}." for line in lines[:26]]
    method += ["Mix everything in a large bowl.", "Bake for 40 minutes.", "Wash your hands.", "Serve hot."]
    text = "\n".join(["Sixty", "Ingredients", *lines, "Method", *method])

    def run() -> None:
        document = read_document(text)
        items = [read_ingredient(line, "en-GB") for line in document.ingredients]
        process = process_from(propose(items, document.instructions).process)
        find_contamination(process, House())
        safety_plan(process, rule_profile("us-home"))

    run()
    return min(seconds(run) for _ in range(5)) * 1000


def forty_steps_analysed() -> float:
    """Milliseconds to analyse 40 steps, 25 carriers and 8 soils: the best of five, of the slowest of ten."""
    house = House(boards="separate", gloves="gloves")
    made = [crowded(seed) for seed in range(10)]
    return max(min(seconds(lambda p=process: analyse(p, house)) for _ in range(5)) for process in made) * 1000


def twenty_five_steps_ordered() -> float:
    """Milliseconds to prove the best order of 25 steps, the slowest of 30 processes; an unproven
    one counts as twice the bound."""
    worst = 0.0
    for seed in range(30):
        process = crossed(seed, 25, soils=3 + seed % 6, waits=seed % 7, people=1 + seed % 3)
        proven: list[bool] = []
        took = seconds(lambda p=process, out=proven: out.append(best_order(p).proven))
        worst = max(worst, took * 1000 if proven[0] else 2 * ORDER_BOUND_MS)
    return worst


def flow_map_ms(client: Client) -> float:
    """Milliseconds for the page of a flow map of 13 steps over HTTP, the median of 30."""
    recipe = Recipe.objects.filter(organisation=hostel.demo_lesson().organisation, title__startswith="Turkey").first()
    get = fetch(client, f"/recipes/{recipe.pk}/flow/")
    get()
    return statistics.median(seconds(get) for _ in range(30)) * 1000


def chill_answer_ms(client: Client) -> float:
    """Milliseconds for a new answer of the chill planner over HTTP, readings and all, the median of 30."""
    query = "food=vegetable+soup&texture=thick&box=pot_10l&where=fridge&around=4&code=us-foodservice"
    readings = "readings=0+60%0A20+57%0A40+54.5%0A50+53"
    amounts = iter(range(40, 400))

    def get() -> None:
        status, _ = client.send("GET", f"/workbench/chill/?{query}&{readings}&litres={next(amounts) / 10}")
        assert status == 200

    get()
    return statistics.median(seconds(get) for _ in range(30)) * 1000


def two_thousand_recipes() -> None:
    """Copies of the demo's recipes until the organisation has 2,000."""
    rows = list(Recipe.objects.filter(organisation=hostel.demo_lesson().organisation))
    while Recipe.objects.filter(organisation=rows[0].organisation).count() < 2000:
        batch = []
        for i in range(500):
            row = rows[i % len(rows)]
            copy = Recipe(
                organisation=row.organisation, title=f"{row.title} {uuid.uuid4().hex[:6]}", summary=row.summary
            )
            copy.process, copy.ingredients, copy.search = row.process, row.ingredients, row.search
            batch.append(copy)
        Recipe.objects.bulk_create(batch)
    with connection.cursor() as cursor:
        cursor.execute("ANALYZE recipes_recipe")


def fetch(client: Client, path: str, status: int = 200) -> Callable[[], object]:
    def get() -> None:
        got, _ = client.send("GET", path)
        assert got == status, (path, got)

    return get


def failure_ms(client: Client) -> float:
    """A store of 166 parts that failed, judged."""
    get = fetch(client, "/shelf/failure/?place=fridge&store=Store+1&hours=1&known=on")
    return statistics.median(seconds(get) for _ in range(5)) * 1000


def labels_ms(client: Client) -> float:
    """Labels of one part, as many as it has portions, from the press of the button to the PDF."""
    part = bench_shelf.a_part()

    def post() -> None:
        body = f"key={quote(part)}&sheet=a4-24&copies=24"
        status, got = client.send("POST", "/shelf/labels/", body)
        assert status == 200, (status, got[:200])

    return statistics.median(seconds(post) for _ in range(5)) * 1000


def paint(address: str, password: str) -> Measured:
    """From pressing Sign in to the first paint of Today, against going to a bare static drawing."""
    script = "() => performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? 0"
    with sync_playwright() as playwright:
        browser = launched(playwright)
        signed, bare = [], []
        for _ in range(7):
            page = browser.new_context().new_page()

            def until_painted(go: Callable[[], object], end: str, page: Page = page) -> float:
                start = time.perf_counter()
                go()
                page.wait_for_url(end)
                while not page.evaluate(script):
                    time.sleep(0.005)
                return (time.perf_counter() - start) * 1000

            drawing = f"{address}/static/bulwark/mark.svg"
            bare.append(until_painted(lambda page=page, drawing=drawing: page.goto(drawing), drawing))
            page.goto(f"{address}/sign-in/")
            page.fill("#id_username", hostel.EDUCATOR)
            page.fill("#id_password", password)
            signed.append(until_painted(lambda page=page: page.click("button.is-primary"), f"{address}/"))
        browser.close()
    return Measured("sign-in to first paint", statistics.median(signed), "bare drawing", statistics.median(bare), None)


def main(address: str, password: str) -> int:
    lesson, code = open_lesson()
    client = educator(address, password)
    empty = fetch(client, "/empty/", 204)
    rows = [
        in_turns("bench entry over HTTP", event_post(address, code), "bare committed INSERT", bare_insert(), 5.0),
        in_turns("unchanged wall poll", wall_poll(client, lesson), "empty signed-in view", empty, 1.25),
        paint(address, password),
    ]
    two_thousand_recipes()
    for name, path in (
        ("list of 2,000 recipes", "/recipes/"),
        ("its 50th page", "/recipes/?page=50"),
        ("search for ground turkey", "/recipes/?q=ground+turkey"),
        ("search for a slip, turky", "/recipes/?q=turky"),
    ):
        rows.append(in_turns(name, fetch(client, path), "empty signed-in view", empty, 3.0, 60))
    store = bench_shelf.two_thousand_parts()
    nothing = fetch(educator(address, bench_shelf.PASSWORD, bench_shelf.newcomer()), "/shelf/")
    fetch(client, "/shelf/")()
    assert bench_shelf.count() >= 2000, bench_shelf.count()
    for name, path in (
        ("shelf of 2,000 parts", "/shelf/"),
        ("one store of twelve", f"/shelf/?store={quote(store)}"),
        ("search in 2,000 parts", "/shelf/?q=salad"),
    ):
        rows.append(in_turns(name, fetch(client, path), "empty shelf", nothing, 3.0, 60))
    selectors._snapshots.clear()
    (cooled, plain_cooled), (frozen, plain_frozen) = bench_heat.cooling(), bench_heat.freezing()
    for name, mine, plain in (("6 h cooling", cooled, plain_cooled), ("freezing", frozen, plain_frozen)):
        name = f"{name}, {mine.error_c:.3f} C"
        rows.append(Measured(name, mine.ms, f"solve_ivp, {plain.error_c:.3f} C", plain.ms, 0.2))
    first_ms, gap = bench_plan.eight_benches()
    bounds = [
        ("8 x 25 planned: first plan", first_ms, 1000.0),
        ("8 x 25 planned: gap %, 3 s", gap, 3.0),
        ("8 x 25: a step is dragged", bench_plan.dragged_ms(), 500.0),
        ("1 x 25 planned and proven", bench_plan.one_bench_ms(), 300.0),
        ("fold of 1,000 entries", thousand_events(), 30.0),
        ("recipe of 60 lines", recipe_of_60_lines(), 100.0),
        ("40 steps, 25 carriers", forty_steps_analysed(), 30.0),
        ("25 steps in best order", twenty_five_steps_ordered(), ORDER_BOUND_MS),
        ("flow map over HTTP", flow_map_ms(client), 100.0),
        ("cooling curve of 6 h", cooled.ms, 15.0),
        ("freezing a slab", frozen.ms, 60.0),
        ("cooling solved backwards", bench_heat.backward_ms(), 300.0),
        ("chill answer over HTTP", chill_answer_ms(client), 150.0),
        ("failure judged for a store", failure_ms(client), 2000.0),
        ("24 labels as a PDF", labels_ms(client), 1000.0),
        ("slowest of 16,000 puzzles", bench_practice.light_ms(), 100.0),
        ("slowest chill, order, next", bench_practice.heavy_ms(), 500.0),
        ("a whole lesson as a file", bench_practice.zip_ms(), 5000.0),
    ]
    print(f"{'what':<28}{'ms':>9}   {'against':<26}{'ms':>9}{'ratio':>8}{'target':>9}")
    for row in rows:
        target = f"<= {row.target:g}" if row.target else "-"
        print(f"{row.name:<28}{row.ms:>9.2f}   {row.base:<26}{row.base_ms:>9.2f}{row.ratio:>8.2f}{target:>9}")
    for name, ms, bound in bounds:
        print(f"{name:<28}{ms:>9.2f}   {'known bound':<26}{bound:>9.2f}{ms / bound:>8.2f}{'< 1':>9}")
    out = {
        row.name: {
            "ms": round(row.ms, 3),
            "against": row.base,
            "against_ms": round(row.base_ms, 3),
            "ratio": round(row.ratio, 3),
            "target": row.target,
        }
        for row in rows
    }
    for name, ms, bound in bounds:
        out[name] = {"ms": round(ms, 3), "against": f"{bound:g} ms", "ratio": round(ms / bound, 3), "target": 1.0}
    print(json.dumps({"debug": settings.DEBUG, "rounds": ROUNDS, "figures": out}, indent=2))
    return 0


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1], sys.argv[2]))
