"""Changes to organisations and accounts."""

from django.db import transaction
from django.utils import timezone

from bulwark.people.models import Organisation, User


@transaction.atomic
def create_organisation(*, name: str) -> Organisation:
    """A new organisation with nobody in it."""
    return Organisation.objects.create(name=name)


@transaction.atomic
def create_educator(*, organisation: Organisation, username: str, password: str) -> User:
    """An educator who can sign in."""
    user = User(organisation=organisation, username=username, email=username)
    user.set_password(password)
    user.save()
    return user


@transaction.atomic
def set_password(*, user: User, password: str) -> None:
    """Makes this the user's password if it is not already."""
    if not user.check_password(password):
        user.set_password(password)
        user.save(update_fields=["password"])


@transaction.atomic
def set_unit(*, user_id: int, unit: str) -> None:
    """The temperature unit this person reads."""
    User.objects.filter(pk=user_id).update(unit=unit)


@transaction.atomic
def retire(*, organisation: Organisation) -> None:
    """Takes an organisation out of use. Its log stays: logs are never deleted."""
    organisation.retired_at = timezone.now()
    organisation.save(update_fields=["retired_at"])
    for user in organisation.users.all():
        user.is_active = False
        user.username = f"retired-{user.pk}-{user.username}"[:150]
        user.save(update_fields=["is_active", "username"])
