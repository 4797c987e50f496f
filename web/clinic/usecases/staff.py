"""Every write of this app, each in one transaction."""

from django.core import signing
from django.core.mail import send_mail
from django.db import transaction
from django.urls import reverse
from django.utils.translation import gettext as _

from web.clinic.models import AccessEvent, Clinic, Invitation, Membership, User
from web.clinic.refusal import UsecaseRefused

INVITATION_SALT = "invitation"
INVITATION_DAYS = 7


@transaction.atomic
def open_clinic(*, name: str, lead_email: str, lead_name: str, password: str, **fields) -> Clinic:
    """A new clinic with its lead."""
    clinic = Clinic.objects.create(name=name, **fields)
    user = User.objects.create_user(lead_email, password, name=lead_name)
    Membership.objects.create(clinic=clinic, user=user, role="lead")
    return clinic


@transaction.atomic
def invite(clinic: Clinic, *, email: str, role: str, by: User, now, address: str) -> Invitation:
    """Write an invitation and its mail. Refused for an address that has an account."""
    email = email.lower()
    if User.objects.filter(email=email).exists():
        raise UsecaseRefused(_("This address has an account already."))
    invitation = Invitation.objects.create(
        clinic=clinic, email=email, role=role, invited_by=by, invited_at=now
    )
    token = signing.dumps(str(invitation.pk), salt=INVITATION_SALT)
    link = address + reverse("clinic:accept_invitation", args=[token])
    send_mail(
        _("Invitation to Still Reed"),
        _("You are invited to %(clinic)s. Open within 7 days:\n%(link)s\n")
        % {"clinic": clinic.name, "link": link},
        None,
        [email],
    )
    return invitation


def find_invitation(token: str) -> Invitation:
    """The open invitation of a token; refused when stale, used or made up."""
    try:
        pk = signing.loads(token, salt=INVITATION_SALT, max_age=INVITATION_DAYS * 86400)
        return Invitation.objects.select_related("clinic").get(pk=pk, accepted_at=None)
    except (signing.BadSignature, Invitation.DoesNotExist) as error:
        raise UsecaseRefused(
            _("This invitation is no longer valid. Ask the clinic lead for a new one.")
        ) from error


@transaction.atomic
def accept_invitation(invitation: Invitation, *, name: str, password: str, now) -> User:
    """Make the account of an invited person; an invitation serves once."""
    held = Invitation.objects.select_for_update().get(pk=invitation.pk)
    if held.accepted_at is not None:
        raise UsecaseRefused(_("This invitation was used already. Sign in instead."))
    user = User.objects.create_user(held.email, password, name=name)
    Membership.objects.create(clinic_id=held.clinic_id, user=user, role=held.role)
    held.accepted_at = now
    held.save(update_fields=["accepted_at"])
    return user


@transaction.atomic
def set_staff(membership: Membership, *, active: bool, role: str, by: User) -> None:
    """Change a member; nobody locks themself out."""
    if membership.user_id == by.pk:
        raise UsecaseRefused(_("You cannot change your own role or access."))
    membership.active, membership.role = active, role
    membership.save(update_fields=["active", "role"])


@transaction.atomic
def set_deputy(membership: Membership, *, deputy_id: str) -> None:
    """Who stands in for a member; "" = nobody. UsecaseRefused for who does not work at the clinic, or
    the member themself."""
    others = Membership.objects.filter(clinic_id=membership.clinic_id, active=True)
    known = {str(one.user_id): one.user_id for one in others.exclude(pk=membership.pk)}
    if deputy_id and deputy_id not in known:
        raise UsecaseRefused(_("Choose a colleague who works at the clinic; nothing was changed."))
    membership.deputy_id = known.get(deputy_id)
    membership.save(update_fields=["deputy"])


def note_sign_in(email: str, what: str, *, now) -> None:
    """Of somebody who works or worked at a clinic; who is known nowhere is noted nowhere."""
    member = Membership.objects.filter(user__email=email.strip().lower()).select_related(
        "clinic", "user"
    )
    for one in member:
        note_access(one.clinic, user=one.user, what=what, now=now)


def note_access(
    clinic: Clinic, *, user: User | None, what: str, subject_id=None, now, where="", words=""
) -> None:
    """Record that somebody read, changed, exported or erased something; where: the name of the page, words: a
    reason that was stated."""
    AccessEvent.objects.create(
        clinic=clinic,
        user=user,
        what=what,
        where=where,
        words=words,
        subject_id=subject_id,
        at=now,
    )
