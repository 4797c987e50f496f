"""Make the demo's clinic a large one, for the benchmark of the pages."""

from django.core.management.base import BaseCommand, CommandError

from lab.demo.grow import grow


class Command(BaseCommand):
    help = "Copy the demo's clients until there are so many, with so many attempts."

    def add_arguments(self, parser):
        parser.add_argument("--clients", type=int, default=2_900)
        parser.add_argument("--attempts", type=int, default=1_000_000)

    def handle(self, *, clients: int, attempts: int, **options):
        try:
            people, held = grow(clients=clients, attempts=attempts)
        except ValueError as error:
            raise CommandError(str(error)) from error
        self.stdout.write(f"{people} clients, {held} attempts")
