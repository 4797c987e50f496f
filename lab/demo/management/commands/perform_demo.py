from pathlib import Path

from django.core.management.base import BaseCommand, CommandError
from django.db import transaction

from lab.demo.load import load_demo
from lab.demo.takes import FILE, Takes
from web.clinic import clock
from web.clinic.models import Clinic


class Command(BaseCommand):
    help = "Perform and measure the attempts of the demo into the file that is shipped."

    def add_arguments(self, parser):
        parser.add_argument("--only", nargs="*", default=(), metavar="NAME", help="these clients")
        parser.add_argument("--file", type=Path, default=FILE)
        parser.add_argument("--all", action="store_true", help="also what the file holds already")

    def handle(self, *, only, file, all, **options):
        if Clinic.objects.exists():
            raise CommandError("The demo is performed over an empty database.")
        takes = Takes({}) if all else Takes.shipped(file)
        with transaction.atomic():
            load_demo(clock.now(), takes, only=only)
            transaction.set_rollback(True)
        takes.write(file)
        self.stdout.write(f"{takes.anew} attempts performed, {file.stat().st_size / 1e6:.2f} MB")
