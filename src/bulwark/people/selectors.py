"""Who there is."""

from bulwark.people.models import User


def demo_educator() -> User | None:
    """The educator of the demo organisation in use, or None before it is loaded."""
    return (
        User.objects.filter(organisation__isnull=False, organisation__retired_at=None, username__startswith="educator")
        .order_by("pk")
        .first()
    )
