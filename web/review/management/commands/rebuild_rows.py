"""Works every caseload row out anew."""

from django.core.management.base import BaseCommand
from django.db import transaction

from web.clients.models import Client
from web.review.caseload.refresh import rebuilt
from web.review.usecases.session_results import keep_results


class Command(BaseCommand):
    help = "works every line of Rounds out anew from the record"

    def handle(self, *args, **options) -> None:
        count = 0
        for client in Client.objects.select_related("clinic").order_by("pk").iterator():
            with transaction.atomic():
                keep_results(client, every=True)
                rebuilt(client)
            count += 1
        self.stdout.write(f"{count} lines of Rounds worked out anew")
