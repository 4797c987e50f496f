from django.conf import settings
from django.core.management.base import BaseCommand
from django.db import transaction

from lab.demo.load import load_demo, sign_ins
from lab.demo.takes import Takes
from web.clinic import clock
from web.clinic.models import Clinic


class Command(BaseCommand):
    help = "Load the demo clinic once and print its sign-ins."

    def add_arguments(self, parser):
        parser.add_argument(
            "--only", action="append", default=[], help="just these clients, by name"
        )

    def handle(self, *, only, **options):
        if not Clinic.objects.exists():
            takes = Takes.shipped()
            with transaction.atomic():
                load_demo(clock.now(), takes, only=only)
            if takes.anew:
                self.stdout.write(f"{takes.anew} attempts were performed anew.")
        self.stdout.write(sign_ins(settings.CSRF_TRUSTED_ORIGINS[0]))
