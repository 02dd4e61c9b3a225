"""A bench that worked on paper: its card is typed in from the top down by somebody who reads what each row asks."""

from tests.walk.cook import CHILLED_C, DONE_C, FRIDGE_C
from tests.walk.tablet import typed
from tests.walk.visitor import Form, Page, Visitor, find, words_of


def type_in(educator: Visitor, bench_page: Page, clock: str) -> tuple[int, str]:
    """Every row of the card ticked at one time, readings as good food has them: the rows, and why it was refused."""
    link = next((row for row in bench_page.all("a") if (row.get("href") or "").endswith("/card/")), None)
    if link is None:
        return 0, "no card can be typed in"
    page = educator.get(link.get("href") or "")
    form = next((form for form in page.forms() if any(name.startswith("at-") for name, _ in form.values)), None)
    if form is None:
        return 0, "the card has no rows"
    answer = educator.send(form, **_filled(form, clock))
    rows = sum(name.startswith("at-") for name, _ in form.values)
    alerts = " / ".join(words_of(row) for row in answer.all() if row.get("role") == "alert")
    return rows, f"({answer.status}) {alerts}" if answer.url.endswith("/card/") else ""


def _filled(form: Form, clock: str) -> dict[str, object]:
    """What a person ticks and writes: everybody, everything done by the first who is named, each time."""
    said: dict[str, object] = {}
    unit = "F" if "°F" in words_of(form.element) else "C"
    for box in find(form.element, "input", type="checkbox"):
        said.setdefault(box.get("name") or "", [])
        said[box.get("name") or ""] += [box.get("value") or ""]  # type: ignore[operator]
    for field in find(form.element, "input"):
        name = field.get("name") or ""
        if name.startswith("at-"):
            said[name] = clock
        elif field.get("inputmode") == "decimal":
            core_c = FRIDGE_C if name.startswith("fridge") else CHILLED_C if name.startswith("cold") else DONE_C
            said[name] = typed(core_c, unit)
    for choice in find(form.element, "select"):
        options = [row.get("value") or words_of(row) for row in find(choice, "option")]
        said[choice.get("name") or ""] = next((value for value in options if value), "")
    return said
