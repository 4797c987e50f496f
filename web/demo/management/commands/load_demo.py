from django.conf import settings
from django.core.management.base import BaseCommand
from django.db import transaction

from web.clinic import clock
from web.clinic.models import Clinic
from web.demo.load import load_demo, sign_ins


class Command(BaseCommand):
    help = "Load the demo clinic once and print its sign-ins."

    def handle(self, **options):
        if not Clinic.objects.exists():
            with transaction.atomic():
                load_demo(clock.now())
        self.stdout.write(sign_ins(settings.CSRF_TRUSTED_ORIGINS[0]))
