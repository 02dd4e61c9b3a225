"""The pictures of docs/screenshots, from the demo data: run by ``bin/shots``."""

import datetime as dt
import os
import sys
import uuid
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[2]))
os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"

import django

django.setup()

# ruff: noqa: E402 - models can be imported only once Django is set up
from django.utils import timezone
from playwright.sync_api import Browser, Page, sync_playwright

from bulwark.demo import hostel
from bulwark.lessons import rehearsal, selectors, services
from bulwark.lessons.models import Bench, Lesson
from bulwark.pad import services as pads
from bulwark.people.actors import Actor, bench_actor
from bulwark.people.models import User
from bulwark.practice import services as practice
from bulwark.recipes.models import Recipe
from foodsafety.lesson import READY_CHECKS, rehearse
from tests.browser import launched

LANDSCAPE, PORTRAIT, PHONE = (1180, 820), (820, 1180), (390, 844)


def lesson_under_way(minutes: float) -> Lesson:
    """The demo lesson as it stands so many minutes in, with one slip at bench Tern."""
    lesson = hostel.demo_lesson()
    assert lesson is not None
    copy = rehearsal.copy_for_rehearsal(lesson)
    services.open_lesson(lesson=copy)
    copy.opened_at = timezone.now() - dt.timedelta(minutes=minutes)
    copy.save()
    for at_s, bench, event in rehearsal.script(copy):
        late = minutes - {"Plover": 11, "Puffin": 3, "Gannet": -7, "Tern": 0}[bench.name]
        if at_s <= late * 60:
            rehearsal.write(copy, bench, event)
    return copy


def slip_minutes() -> float:
    """A minute after the planted slip: the wall has something to call out."""
    lesson = hostel.demo_lesson()
    assert lesson is not None
    slips = [at_s for at_s, bench, event in rehearsal.script(lesson) if bench.name == "Tern" and event.kind == "remade"]
    return (slips[0] - 120) / 60


class Camera:
    """Takes pictures in a browser of its own for each device."""

    def __init__(self, browser: Browser, address: str, folder: Path) -> None:
        self.browser, self.address, self.folder = browser, address, folder

    def page(self, size: tuple[int, int]) -> Page:
        context = self.browser.new_context(viewport={"width": size[0], "height": size[1]})
        page = context.new_page()
        page.clock.install()
        return page

    def take(self, page: Page, name: str, path: str | None = None, *, full: bool = False) -> None:
        if path is not None:
            page.goto(self.address + path)
        page.wait_for_timeout(400)
        page.screenshot(path=self.folder / f"{name}.png", full_page=full)
        print(f"{name}.png")

    def bench(self, bench: Bench, size: tuple[int, int]) -> Page:
        page = self.page(size)
        page.goto(f"{self.address}/j/{bench.join_code}/")
        page.click("main button")
        page.wait_for_selector("#screen")
        return page


def educator_pages(camera: Camera, password: str, lesson: Lesson, early: Lesson, over: Lesson) -> None:
    page = camera.page((1280, 800))
    page.goto(f"{camera.address}/sign-in/")
    page.fill("#id_username", hostel.EDUCATOR)
    page.fill("#id_password", password)
    page.click("button.is-primary")
    page.wait_for_url(f"{camera.address}/")
    camera.take(page, "today", "/")
    page.goto(f"{camera.address}/lessons/{early.pk}/plan/")
    page.locator(".bw-plan-brick summary", has_text="Core").click()
    page.locator(".bw-plan-brick summary", has_text="Clean tongs").click()
    camera.take(page, "safety-plan", full=True)
    camera.take(page, "wall", f"/lessons/{lesson.pk}/wall/")
    camera.take(page, "record", f"/lessons/{lesson.pk}/record/")
    camera.take(page, "debrief", f"/lessons/{over.pk}/debrief/")
    planning_pages(camera, page)
    recipe_pages(camera, page)
    shelf_page(camera, page)
    practice_pages(camera, page, lesson)


def practice_pages(camera: Camera, page: Page, lesson: Lesson) -> None:
    """A slip that somebody has just found."""
    organisation = lesson.organisation
    user = User.objects.get(username=hostel.EDUCATOR)
    found = practice.make_round(
        by=Actor(kind="educator", user_id=user.pk, organisation_id=organisation.pk),
        recipe=lesson.recipe,
        lesson=None,
        group=None,
        kind="practice",
        count=1,
        level=3,
        seed=3,
        only="find-slip",
    )
    page.goto(f"{camera.address}/practice/{found.pk}/play/")
    page.locator("button.pr-row").first.click()
    page.wait_for_selector(".pr-why")
    camera.take(page, "puzzle")


def shelf_page(camera: Camera, page: Page) -> None:
    """What lessons of other days have kept: one that cools is open, one is over, one nobody has measured; then its
    labels come off the printer."""
    days = {"koftas": (1.7, "fridge"), "pie": (22, "fridge"), "salad": (66, "fridge"), "broth": (90, "freezer")}
    measured = ("koftas", "pie")
    kept = {
        word: kept_of(word, hours, place, "us-foodservice" if word in measured else "")
        for word, (hours, place) in days.items()
    }
    opened = kept["koftas"].pk
    camera.take(page, "shelf", f"/shelf/?item={opened}-1-koftas")
    for label in (f"{kept['pie'].pk}-1-fish pie", f"{opened}-1-raita", f"{opened}-1-koftas"):
        page.goto(f"{camera.address}/shelf/?item={label}")
        page.click("summary:has-text('Labels and note')")
        page.locator("form:has([name=printer]) [name=copies]").fill("1")
        page.click("text=On Pantry printer")
        page.wait_for_selector(".sf-tray img")
    page.wait_for_load_state("networkidle")
    camera.take(page, "labels")


def kept_of(word: str, hours: float, place: str, profile: str = "") -> Bench:
    """A lesson some hours ago on the recipe with this word, and what its bench has put away."""
    coming = hostel.demo_lesson()
    recipe = Recipe.objects.filter(organisation=coming.organisation, title__icontains=word, confirmed_at__isnull=False)
    began = timezone.now() - dt.timedelta(hours=hours)
    lesson = services.create_lesson(
        recipe=recipe.first(),
        place=coming.place,
        starts_at=began,
        length_min=90,
        benches={"Gannet": ["SD", "RO"]},
        profile_id=profile or coming.profile,
    )
    services.open_lesson(lesson=lesson)
    Lesson.objects.filter(pk=lesson.pk).update(opened_at=began)
    bench = Bench.objects.select_related("lesson").get(lesson=lesson)
    script = [
        row for row in rehearse(selectors.plan_at(bench), ("SD", "RO"), seed=5) if row.kind not in ("gone", "stored")
    ]
    last_s = max(row.at_s for row in script) + 120
    rows = [(row.kind, dict(row.data), row.at_s) for row in script]
    store = "Larder fridge" if place == "fridge" else "Chest freezer"
    for n, food in enumerate(selectors.plan_at(bench).process.serve):
        rows.append(("stored", {"food": food, "place": place}, last_s + n))
        rows.append(("part_counted", {"food": food, "part": "1", "portions": 4 + 2 * n, "store": store}, last_s + n))
    if word == "koftas":
        rows.append(("part_warm", {"food": "raita", "part": "1", "warm_s": 3000, "known": False}, last_s + 60))
        box = {"container": "tray_half", "count": 3, "litres": 1.5, "wrap": "open"}
        rows.append(("part_boxed", {"food": "koftas", "part": "1", **box}, last_s + 61))
    front = Actor(kind="educator", user_id=1, organisation_id=coming.organisation_id)
    for kind, data, at_s in rows:
        at = began + dt.timedelta(seconds=at_s)
        services.record_event(bench=bench, by=front, kind=kind, data=data, event_id=uuid.uuid4(), at=at)
    Lesson.objects.filter(pk=lesson.pk).update(closed_at=began + dt.timedelta(seconds=last_s + 90))
    return bench


def planning_pages(camera: Camera, page: Page) -> None:
    coming = hostel.demo_lesson()
    page.goto(f"{camera.address}/lessons/{coming.pk}/board/")
    page.fill("#show", "28")
    page.click("text=Plan again")
    page.wait_for_selector(".pb-way")
    camera.take(page, "plan-board")
    camera.take(page, "pack", f"/lessons/{coming.pk}/pack/?way=45")


def recipe_pages(camera: Camera, page: Page) -> None:
    own = Recipe.objects.filter(organisation=hostel.demo_lesson().organisation)
    koftas = own.get(title__startswith="Turkey k")
    typed = own.get(title__startswith="TURKEY")
    camera.take(page, "read-through", f"/recipes/{koftas.pk}/", full=True)
    camera.take(page, "reading", f"/recipes/{typed.pk}/steps/")
    late = [step["id"] for step in koftas.process["steps"] if step["id"] != "slice"]
    late.insert(late.index("wash"), "slice")
    page.goto(f"{camera.address}/recipes/{koftas.pk}/flow/?order={','.join(late)}")
    page.wait_for_selector(".fl-way")
    camera.take(page, "flow")
    camera.take(page, "rules", "/rules/?food=mackerel")


def bench_pages(camera: Camera, lesson: Lesson, early: Lesson, raw: Bench, hot: Bench) -> None:
    page = camera.bench(early.benches.get(name="Gannet"), LANDSCAPE)
    page.click('.person[data-wash="SD"]')
    page.clock.run_for(18_000)
    camera.take(page, "bench-wash")
    page = camera.bench(raw, LANDSCAPE)
    page.click("[data-open=steps] >> visible=true")
    page.click("[data-show=step-slice]")  # the salad, with raw still on somebody's hands
    camera.take(page, "bench-interlock")
    camera.take(camera.bench(hot, PORTRAIT), "bench-probe-portrait")


def pad_page(camera: Camera, lesson: Lesson) -> None:
    """An assistant's phone: one seen right, one seen wrong."""
    one = pads.let_in(lesson=lesson, benches=list(lesson.benches.filter(name__in=("Puffin", "Plover"))))
    page = camera.page(PHONE)
    page.goto(f"{camera.address}/pad/join/?code={one.code}")
    page.click("main button")
    page.wait_for_selector(".pd-people")
    for n, seen in ((0, "right"), (1, "wrong")):
        page.click(f".pd-one >> nth={n} >> .is-{seen}")
    camera.take(page, "pad")


def carried_to(
    lesson: Lesson, name: str, steps: str, *, washed_back: bool = False, probed: tuple[float, ...] = ()
) -> Bench:
    """A bench whose first learner has done these steps, all hands washed before, and after raw or not."""
    bench = lesson.benches.get(name=name)
    bench.lesson = lesson
    learners = [learner.initials for learner in bench.learners.all()]
    rows: list[tuple[str, dict[str, object]]] = [("fridge_read", {"core_c": 3.5})]
    for who in learners:
        rows.append(("ready", {"learner": who, "checks": list(READY_CHECKS)}))
        rows.append(("hands_washed", {"learner": who, "scrub_s": 22}))
    for step in steps.split():
        if step == "wash" and washed_back:
            rows.append(("hands_washed", {"learner": learners[0], "scrub_s": 24}))
        rows.append(("step_done", {"step": step, "by": learners[:1]}))
    rows += [("core_read", {"food": "koftas", "piece": str(i), "core_c": c}) for i, c in enumerate(probed, start=1)]
    for kind, data in rows:
        services.record_event(
            bench=bench, by=bench_actor(bench.pk), kind=kind, data=data, event_id=uuid.uuid4(), at=timezone.now()
        )
    return bench


def main(address: str, password: str, folder: Path) -> int:
    folder.mkdir(parents=True, exist_ok=True)
    early, lesson, over = lesson_under_way(1), lesson_under_way(slip_minutes()), lesson_under_way(95)
    raw = carried_to(early, "Puffin", "grate stir chill mix shape wash wash-up")
    most = "grate stir chill mix shape wash wash-up slice griddle fresh-tongs"
    hot = carried_to(early, "Plover", most, washed_back=True, probed=(77.4, 71.2))
    with sync_playwright() as playwright:
        browser = launched(playwright)
        camera = Camera(browser, address, folder)
        bench_pages(camera, lesson, early, raw, hot)
        pad_page(camera, lesson)
        services.close_lesson(lesson=early)
        services.close_lesson(lesson=over)
        educator_pages(camera, password, lesson, early, over)
        browser.close()
    return 0


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1], sys.argv[2], Path(sys.argv[3])))
