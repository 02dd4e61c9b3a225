"""Who there is."""

from bulwark.people.models import Organisation, User


def demo_educator() -> User | None:
    """The educator of the demo organisation in use, or None before it is loaded."""
    return (
        User.objects.filter(organisation__isnull=False, organisation__retired_at=None, username__startswith="educator")
        .order_by("pk")
        .first()
    )


def organisation(pk: int) -> Organisation:
    """One organisation."""
    return Organisation.objects.get(pk=pk)
