"""Every form as a browser first sees it: fetched fresh, sent as it stands, with CSRF enforced."""

from dataclasses import dataclass, field
from html.parser import HTMLParser

import pytest
from django.test import Client

from bulwark.demo import instruments
from bulwark.recipes import services as recipes
from foodsafety.recipes import read_document
from tests.web.conftest import Hostel

SOUP = """Causeway soup
Serves 4

Ingredients
3 leeks, sliced
500 ml vegetable stock
2 tbsp moonrock

Method
Wash the leeks. Simmer the leeks in the stock for 20 minutes.
"""


@dataclass
class Form:
    action: str
    fields: dict[str, str] = field(default_factory=dict)


class Forms(HTMLParser):
    """The forms of a page that post, each with the fields it came with."""

    def __init__(self) -> None:
        super().__init__()
        self.found: list[Form] = []
        self.links: set[str] = set()
        self._open: Form | None = None

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        has = {name: value or "" for name, value in attrs}
        if tag == "a":
            self.links.add(has.get("href", "").partition("#")[0])
        elif tag == "form" and has.get("method", "").lower() == "post":
            self._open = Form(has.get("action", ""))
            self.found.append(self._open)
        elif tag in ("input", "button") and self._open and has.get("name"):
            self._open.fields.setdefault(has["name"], has.get("value", ""))

    def handle_endtag(self, tag: str) -> None:
        if tag == "form":
            self._open = None


def page_of(client: Client, path: str) -> Forms:
    parser = Forms()
    answer = client.get(path)
    if answer.get("Content-Type", "").startswith("text/html") and not answer.streaming:
        parser.feed(answer.content.decode())
    return parser


def visitor(hostel: Hostel) -> Client:
    client = Client(enforce_csrf_checks=True)
    client.force_login(hostel.user, backend="django.contrib.auth.backends.ModelBackend")
    return client


def forms_of(client: Client, start: str) -> dict[str, str]:
    """Every place that a form posts to, over all pages reached by links, with a page on which it stands."""
    seen: set[str] = set()
    waiting, places = [start], {}
    while waiting:
        path = waiting.pop()
        if path in seen or not path.startswith("/"):
            continue
        seen.add(path)
        page = page_of(client, path)
        places |= {form.action or path: path for form in page.found}
        waiting += sorted(page.links)
    return places


@pytest.fixture
def lived_in(hostel: Hostel) -> Hostel:
    """An organisation in which every educator's form has something to stand on."""
    hostel.open().says("called")
    recipes.add_recipe(by=hostel.actor, document=read_document(SOUP), locale="en-GB")
    ready = read_document("Leek pan\n\n2 leeks\n\nRinse the leeks.\nFry the leeks.\nServe the leeks.")
    recipes.add_recipe(by=hostel.actor, document=ready, locale="en-GB")
    instruments.load(hostel.user)
    return hostel


def refused(hostel: Hostel, places: dict[str, str], client_for) -> list[str]:
    wrong = []
    for action, path in places.items():
        client = client_for(hostel)
        for form in (form for form in page_of(client, path).found if (form.action or path) == action):
            if client.post(action, form.fields).status_code == 403:
                wrong.append(f"{action} on {path}")
    return wrong


def test_no_form_of_an_educator_is_refused_on_a_freshly_loaded_page(lived_in: Hostel) -> None:
    places = forms_of(visitor(lived_in), "/")

    assert refused(lived_in, places, visitor) == []
    assert len(places) > 40
    assert any(action.endswith("/confirm/") for action in places)


def test_no_form_of_a_bench_is_refused_on_a_freshly_loaded_page(lived_in: Hostel) -> None:
    def tablet(hostel: Hostel) -> Client:
        client = Client(enforce_csrf_checks=True)
        [form] = page_of(client, f"/j/{hostel.puffin.join_code}/").found
        client.post("/join/", form.fields)
        return client

    places = forms_of(tablet(lived_in), "/b/")

    assert refused(lived_in, places, tablet) == []
    assert {"/b/entries/", "/b/leave/"} <= set(places)


@pytest.mark.parametrize("path", ["/sign-in/", "/join/"])
def test_no_form_of_a_stranger_is_refused_on_a_freshly_loaded_page(db: None, path: str) -> None:
    client = Client(enforce_csrf_checks=True)

    [form] = page_of(client, path).found

    assert client.post(form.action or path, form.fields).status_code != 403
