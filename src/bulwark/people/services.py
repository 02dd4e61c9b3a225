"""Changes to organisations and accounts."""

import datetime as dt
import hashlib
import secrets

from django.db import transaction
from django.utils import timezone

from bulwark.people.models import Organisation, User, Welcome
from bulwark.people.roles import ROLES
from foodsafety.quantities import CoreError

# A link to choose a password works for so long.
LINK_LASTS = dt.timedelta(days=3)
# No second one is sent to the same person within so long.
LINK_AGAIN = dt.timedelta(minutes=10)
# So many wrong passwords from one address are a class that has come back from its holidays.
FREE_SIGN_INS = 12


@transaction.atomic
def create_organisation(*, name: str, is_demo: bool = False) -> Organisation:
    """A new organisation with nobody in it."""
    return Organisation.objects.create(name=name, is_demo=is_demo)


@transaction.atomic
def create_educator(*, organisation: Organisation, username: str, password: str, role: str = "educator") -> User:
    """Somebody who can sign in."""
    user = User(organisation=organisation, username=username, email=username, role=role)
    user.set_password(password)
    user.save()
    return user


def _hashed(token: str) -> str:
    return hashlib.sha256(token.encode("utf-8", "replace")).hexdigest()


def home_of(user: User) -> Organisation:
    """Where somebody works. Raises LookupError for an account that belongs nowhere."""
    if user.organisation is None:
        raise LookupError("this account belongs to no organisation")
    return user.organisation


@transaction.atomic
def invite(*, organisation: Organisation, email: str, role: str) -> str:
    """A link's secret for a new colleague: they choose their own password. Raises CoreError for a role that is none,
    and for somebody who has an account."""
    if role not in ROLES:
        raise CoreError("role", "not_one_of", value=role[:60], allowed=ROLES)
    if User.objects.filter(username__iexact=email).exists():
        raise CoreError("email", "has_account", email=email)
    return _welcome(organisation, email=email, role=role, user=None)


@transaction.atomic
def password_link(*, user: User) -> str:
    """A link's secret for somebody who has forgotten their password. The old one works until a new one is chosen."""
    return _welcome(home_of(user), email=user.username, role=user.role, user=user)


def link_is_fresh(*, user: User) -> bool:
    """True where a link that still works was made for an account a moment ago: nobody is sent one after the other."""
    since = timezone.now() - LINK_AGAIN
    return Welcome.objects.filter(user=user, used_at=None, made_at__gt=since).exists()


def _welcome(organisation: Organisation, *, email: str, role: str, user: User | None) -> str:
    token, now = secrets.token_urlsafe(24), timezone.now()
    Welcome.objects.filter(organisation=organisation, email__iexact=email, used_at=None).delete()
    Welcome.objects.create(
        organisation=organisation,
        user=user,
        email=email,
        role=role,
        token_hash=_hashed(token),
        made_at=now,
        ends_at=now + LINK_LASTS,
    )
    return token


def welcome_with(token: str) -> Welcome | None:
    """The link with this secret, while it works."""
    found = Welcome.objects.select_related("organisation", "user").filter(token_hash=_hashed(token), used_at=None)
    return found.filter(ends_at__gt=timezone.now(), organisation__retired_at=None).first()


@transaction.atomic
def accept(*, welcome: Welcome, password: str) -> User:
    """The password is chosen: the account is there, or has a new password and no open session. The link is used up.
    Raises CoreError if it was used a moment ago."""
    now = timezone.now()
    if not Welcome.objects.filter(pk=welcome.pk, used_at=None, ends_at__gt=now).update(used_at=now):
        raise CoreError("link", "link_used")
    if welcome.user is not None:
        choose_password(user=welcome.user, password=password)
        return welcome.user
    return create_educator(
        organisation=welcome.organisation, username=welcome.email, password=password, role=welcome.role
    )


@transaction.atomic
def choose_password(*, user: User, password: str) -> None:
    """A new password; every session but one that is renewed is over."""
    user.set_password(password)
    user.signed_out_at = timezone.now()
    user.save(update_fields=["password", "signed_out_at"])


@transaction.atomic
def sign_out_everywhere(*, user: User) -> None:
    """Ends every session of an account."""
    user.signed_out_at = timezone.now()
    user.save(update_fields=["signed_out_at"])


@transaction.atomic
def change_person(*, user: User, role: str | None = None, is_active: bool | None = None) -> None:
    """Another role, or no longer active. Raises CoreError for a role that is none, and where nobody would be left who
    may change it back."""
    if role is not None and role not in ROLES:
        raise CoreError("role", "not_one_of", value=role[:60], allowed=ROLES)
    home = Organisation.objects.select_for_update().get(pk=home_of(user).pk)
    stays_owner = (role or user.role) == "owner" and (user.is_active if is_active is None else is_active)
    others = User.objects.filter(organisation=home, role="owner", is_active=True).exclude(pk=user.pk)
    if user.role == "owner" and not stays_owner and not others.exists():
        raise CoreError("role", "last_owner")
    user.role = role or user.role
    user.is_active = user.is_active if is_active is None else is_active
    user.save(update_fields=["role", "is_active"])


def set_session_hours(*, organisation: Organisation, hours: int) -> None:
    """How long a browser stays signed in [h]."""
    organisation.session_hours = hours
    organisation.save(update_fields=["session_hours"])


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
