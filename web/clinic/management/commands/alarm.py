"""A word to whoever runs the site: by mail to `REED_ALARM_TO`, or to the leads of its clinics."""

import uuid

from django.conf import settings
from django.core.management.base import BaseCommand
from django.utils.translation import gettext as _

from web.clinic.models import Membership, Role
from web.clinic.usecases.outbox import deliver, write


class Command(BaseCommand):
    help = "Mail WORDS to whoever runs the site."

    def add_arguments(self, parser):
        parser.add_argument("words")

    def handle(self, *, words: str, **options):
        leads = Membership.objects.filter(role=Role.LEAD, active=True, user__is_active=True)
        to = settings.ALARM_TO or leads.values_list("user__email", flat=True)
        body = _("Still Reed says of its database:\n\n%(words)s\n\nWhat to do: docs/running.md.")
        write(to, _("Still Reed: the database"), body % {"words": words}, about=uuid.uuid4())
        deliver()
