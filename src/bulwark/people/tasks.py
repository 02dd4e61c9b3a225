"""Mail, where this installation sends any. A link for a new password goes from the second process: a page neither
waits for it nor shows by how long it takes whether there is such an account. Its secret stands in no queue."""

from django.conf import settings
from django.core.mail import send_mail
from django.template.loader import render_to_string
from django.urls import reverse
from django.utils import translation
from django.utils.translation import gettext as _
from django_tasks import task

from bulwark.people import services
from bulwark.people.models import User


def mail_link(*, email: str, address: str) -> None:
    """A link to choose a new password goes to this account, if there is one and mail is sent here. ``address`` is
    where Bulwark was reached."""
    if settings.SENDS_MAIL:
        send_link.enqueue(email, address)


def mail_invitation(*, email: str, link: str) -> bool:
    """Sends a new colleague the link that is shown to their owner as well; whether it left."""
    if not settings.SENDS_MAIL:
        return False
    try:
        return bool(_send(email, _("Welcome to Bulwark"), link, new=True))
    except OSError:  # every fault of smtplib and of the network is one
        return False


@task
def send_link(email: str, address: str) -> None:
    """Makes the link and sends it, unless one was asked for a moment ago."""
    user = User.objects.select_related("organisation").filter(username__iexact=email, is_active=True).first()
    if user is None or user.organisation is None or services.link_is_fresh(user=user):
        return
    link = address + reverse("welcome", args=[services.password_link(user=user)])
    with translation.override(user.language):
        _send(user.username, _("A new password for Bulwark"), link, new=False)


def _send(email: str, subject: str, link: str, *, new: bool) -> int:
    text = render_to_string("people/mail.txt", {"link": link, "new": new})
    return send_mail(subject, text, None, [email])
