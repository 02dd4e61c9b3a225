"""The demo: Skerry Point Hostel, its koftas, and a lesson for today. All of it made up."""

from django.db import transaction
from django.utils import timezone

from bulwark.lessons import services
from bulwark.lessons.models import Lesson
from bulwark.people import selectors as people
from bulwark.people import services as people_services
from bulwark.recipes import services as recipes
from bulwark.recipes.selectors import demo_recipe

EDUCATOR = "educator@skerrypoint.example"
ORGANISATION = "Skerry Point Hostel"
BENCHES = {
    "Gannet": ["SD", "RO", "EL"],
    "Puffin": ["AK", "JT", "NB"],
    "Tern": ["MO", "VH", "CW"],
    "Plover": ["DF", "IG", "LS"],
}


def demo_lesson() -> Lesson | None:
    """The demo organisation's own lesson, not a rehearsal of it."""
    educator = people.demo_educator()
    if educator is None:
        return None
    return Lesson.objects.filter(organisation=educator.organisation, rehearsal=False).order_by("pk").first()


@transaction.atomic
def load(*, password: str, reset: bool = False) -> None:
    """Loads the demo where it is missing. ``reset`` takes the old one out of use, log and all,
    and puts a fresh one in its place; nothing in a log is ever deleted."""
    educator = people.demo_educator()
    if educator and reset:
        people_services.retire(organisation=educator.organisation)
        educator = None
    if educator:
        people_services.set_password(user=educator, password=password)
        return
    organisation = people_services.create_organisation(name=ORGANISATION)
    people_services.create_educator(organisation=organisation, username=EDUCATOR, password=password)
    recipe = recipes.add_confirmed_recipe(organisation=organisation, data=demo_recipe("turkey-koftas"))
    today = timezone.localtime().replace(hour=10, minute=30, second=0, microsecond=0)
    services.create_lesson(
        recipe=recipe,
        place=ORGANISATION,
        starts_at=today,
        length_min=75,
        benches=BENCHES,
        profile_id="us-home",
    )
