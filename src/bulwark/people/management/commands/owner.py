"""The first owner of an organisation: from what was typed, or from the environment at a first start."""

import os
from typing import Any

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management import BaseCommand, CommandError
from django.core.validators import validate_email

from bulwark.people import services
from bulwark.people.models import Organisation, User


class Command(BaseCommand):
    """``manage.py owner --email E --organisation NAME`` prints the end of a link to choose a password;
    ``--again E`` does the same for somebody who has an account and has forgotten the password;
    ``--from-environment`` makes the account from BULWARK_OWNER_EMAIL, BULWARK_OWNER_PASSWORD and
    BULWARK_ORGANISATION where there is none, and does nothing where these are not set."""

    help = "Makes the first owner of an organisation."
    requires_system_checks = ()  # bin/test looks at the settings

    def add_arguments(self, parser: Any) -> None:
        parser.add_argument("--email", default="")
        parser.add_argument("--organisation", default="")
        parser.add_argument("--again", default="")
        parser.add_argument("--from-environment", action="store_true")

    def handle(self, **options: Any) -> None:
        if options["from_environment"]:
            self._from_environment()
            return
        if options["again"]:
            user = User.objects.filter(username__iexact=options["again"], is_active=True).first()
            if user is None:
                raise CommandError(f"nobody signs in as {options['again']}")
            self.stdout.write(f"/welcome/{services.password_link(user=user)}/")
            return
        email, name = _checked(options["email"], options["organisation"])
        organisation = services.create_organisation(name=name)
        token = services.invite(organisation=organisation, email=email, role="owner")
        self.stdout.write(f"/welcome/{token}/")

    def _from_environment(self) -> None:
        email = os.environ.get("BULWARK_OWNER_EMAIL", "")
        if not email or User.objects.filter(username__iexact=email).exists():
            return
        email, name = _checked(email, os.environ.get("BULWARK_ORGANISATION", "My kitchen"))
        password = os.environ.get("BULWARK_OWNER_PASSWORD", "")
        try:
            validate_password(password, User(username=email, email=email))
        except ValidationError as wrong:
            raise CommandError("BULWARK_OWNER_PASSWORD: " + " ".join(wrong.messages)) from wrong
        organisation = Organisation.objects.create(name=name)
        services.create_educator(organisation=organisation, username=email, password=password, role="owner")
        self.stdout.write(f"{email} is the owner of {name}")


def _checked(email: str, name: str) -> tuple[str, str]:
    try:
        validate_email(email)
    except ValidationError as wrong:
        raise CommandError(f"{email!r} is no email address") from wrong
    if not name.strip() or len(name) > 120:
        raise CommandError("an organisation needs a name of up to 120 letters")
    if User.objects.filter(username__iexact=email).exists():
        raise CommandError(f"{email} has an account already")
    return email, name.strip()
