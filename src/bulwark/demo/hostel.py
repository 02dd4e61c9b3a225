"""The demo: Skerry Point Hostel, its koftas, and a lesson for today. All of it made up."""

import json
from decimal import Decimal
from pathlib import Path
from typing import Any

from django.db import transaction
from django.utils import timezone

from bulwark.groups import services as groups
from bulwark.groups.rosters import read_roles, read_roster
from bulwark.kitchens import services as kitchens
from bulwark.lessons import services
from bulwark.lessons.models import Lesson
from bulwark.people import services as people_services
from bulwark.people.actors import Actor
from bulwark.people.models import Organisation, User
from bulwark.recipes import services as recipes
from bulwark.recipes.adapters import steps_version
from foodsafety.recipes import read_document

DEMO_RECIPE = "Turkey koftas with cucumber raita"
EDUCATOR = "educator@skerrypoint.example"
ORGANISATION = "Skerry Point Hostel"
BENCHES = {
    "Gannet": ["SD", "RO", "EL"],
    "Puffin": ["AK", "JT", "NB"],
    "Tern": ["MO", "VH", "CW"],
    "Plover": ["DF", "IG", "LS"],
}


EQUIPMENT = {
    "basin": 2, "sink": 3, "hob_ring": 8, "oven": 4, "griddle": 4,
    "board": 10, "knife": 12, "bowl": 20, "tray": 9, "tongs": 8, "probe": 4,
    "grater": 3, "plate": 24, "spoon": 20, "saucepan": 8, "frying_pan": 6, "peeler": 6, "colander": 4,
    "tray_full": 4, "tray_half": 8, "sheet": 4, "tub_2l": 6, "pot_10l": 2, "pot_6l": 3, "slow_cooker": 2,
}  # fmt: skip
# Who comes, as the warden keeps it: initials, age, allergies, what has been shown.
GROUP = """initials,age,allergies,shown
SD,13,,knife hob oven
RO,11,,knife hob
EL,9,,knife
AK,13,milk,knife hob oven
JT,11,,knife
NB,9,,
MO,12,,knife hob oven
VH,10,,knife
CW,11,sesame,knife hob
DF,14,,knife hob oven hot oil
IG,10,,knife
LS,9,,
"""
ROOM = {
    "benches": 4, "oven_shelves": [2, 2, 2, 2], "rings": {"small": 4, "large": 4}, "tap": "yes", "altitude_m": 40,
    "boards": {"raw meat": 4, "salad and fruit": 4, "bread": 2}, "fridge_l": 320, "freezer_l": 90,
}  # fmt: skip
PRICES = {
    "turkey_mince": ("7.20", "kg"), "onion": ("1.10", "kg"), "yoghurt": ("3.10", "kg"), "cucumber": ("0.85", "each"),
    "flatbread": ("0.32", "each"), "breadcrumbs": ("2.40", "kg"), "cumin": ("14.00", "kg"), "salt": ("0.90", "kg"),
    "oil": ("2.30", "l"), "milk": ("1.15", "l"), "egg": ("0.28", "each"), "flour": ("1.05", "kg"),
    "butter": ("8.40", "kg"),
    "lamb_neck": ("11.80", "kg"), "stewing_beef": ("10.90", "kg"), "mackerel": ("9.60", "kg"), "rice": ("2.20", "kg"),
}  # fmt: skip
_RECIPES = Path(__file__).resolve().parent / "recipes"
_MESSY = Path(__file__).resolve().parent / "messy"
# The one that somebody has read: the others are looked at as they came.
CONFIRMED = "bark-as-dictated"


def demo_recipes() -> dict[str, dict[str, Any]]:
    """The hostel's recipes as written in their files."""
    return {path.stem: json.loads(path.read_text(encoding="utf-8")) for path in sorted(_RECIPES.glob("*.json"))}


def messy_texts() -> dict[str, str]:
    """Recipes as somebody pasted them, read and put right by nobody."""
    return {path.stem: path.read_text(encoding="utf-8") for path in sorted(_MESSY.glob("*.txt"))}


def demo_educator() -> User | None:
    """The educator of the demo organisation in use, or None before it is loaded."""
    return (
        User.objects.filter(organisation__is_demo=True, organisation__retired_at=None, username=EDUCATOR)
        .order_by("pk")
        .first()
    )


def _furnish(educator: User) -> None:
    """The hostel's kitchen: rules, what there is, what things cost, and three recipes as they were pasted."""
    actor = Actor(kind="educator", user_id=educator.pk, organisation_id=educator.organisation_id)
    house = {"boards": "one_in_order", "eggs": "firm", "scrub_s": 0}
    kitchens.set_house_rules(by=actor, profile_id="us-home", locale="en-GB", house=house, currency="GBP")
    kitchens.set_room(kitchen=kitchens.main_kitchen(actor), name="Hostel kitchen", said=ROOM)
    kitchens.set_equipment(by=actor, counts=EQUIPMENT)
    groups.keep_group(
        by=actor,
        group=None,
        name="Skerry crew",
        roster=read_roster(GROUP),
        roles=read_roles("chef: tastes and decides\nsteward: washes up\ntimekeeper: watches the timers"),
        eaters={},
    )
    for kind, (amount, per) in PRICES.items():
        kitchens.set_price(by=actor, kind=kind, amount=Decimal(amount), per=per)
    for name, text in messy_texts().items():
        recipe = recipes.add_recipe(by=actor, document=read_document(text), locale="en-GB")
        if name == CONFIRMED:
            recipes.confirm(recipe=recipe, by=actor, version=steps_version(recipe))


def demo_lesson() -> Lesson | None:
    """The demo organisation's own lesson, not a rehearsal of it."""
    educator = demo_educator()
    if educator is None:
        return None
    return Lesson.objects.filter(organisation=educator.organisation, rehearsal=False).order_by("pk").first()


@transaction.atomic
def load(*, password: str, reset: bool = False) -> None:
    """Loads the demo where it is missing. ``reset`` takes the old one out of use, log and all,
    and puts a fresh one in its place; nothing in a log is ever deleted."""
    educator = demo_educator()
    if educator and educator.organisation and reset:
        if real_work(educator.organisation):  # somebody works here: nothing of theirs is put out of use
            _lesson_for_today(educator.organisation)
            return
        people_services.retire(organisation=educator.organisation)
        educator = None
    if educator:  # with the password it has by now: whoever changed it meant to
        return
    organisation = people_services.create_organisation(name=ORGANISATION, is_demo=True)
    educator = people_services.create_educator(
        organisation=organisation, username=EDUCATOR, password=password, role="owner"
    )
    made = {
        name: recipes.add_confirmed_recipe(organisation=organisation, data=data)
        for name, data in demo_recipes().items()
    }
    recipe = made["turkey-koftas"]
    _furnish(educator)
    _lesson_for_today(organisation, recipe)


def real_work(organisation: Organisation) -> bool:
    """True if somebody has begun to use the demo for lessons of their own: another account, or a lesson that is not
    the demo's."""
    lessons = Lesson.objects.filter(organisation=organisation, rehearsal=False, opened_at__isnull=False)
    own = lessons.exclude(recipe__title=DEMO_RECIPE).exists()
    return own or organisation.users.exclude(username=EDUCATOR).exists()


def _lesson_for_today(organisation: Organisation, recipe: Any = None) -> None:
    """The demo's lesson, ready to start."""
    today = timezone.localtime().replace(hour=10, minute=30, second=0, microsecond=0)
    before = demo_lesson()
    recipe = recipe or (before and before.recipe)
    services.create_lesson(
        recipe=recipe,
        place=ORGANISATION,
        starts_at=today,
        length_min=75,
        benches=BENCHES,
        profile_id="us-home",
    )
