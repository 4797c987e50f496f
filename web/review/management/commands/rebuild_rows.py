"""Works every caseload row out anew."""

from django.core.management.base import BaseCommand

from web.clients.models import Client
from web.review.usecases.refresh_row import rebuild_row


class Command(BaseCommand):
    help = "works every line of Rounds out anew from the record"

    def handle(self, *args, **options) -> None:
        clients = list(Client.objects.select_related("clinic").order_by("pk"))
        for client in clients:
            rebuild_row(client)
        self.stdout.write(f"{len(clients)} lines of Rounds worked out anew")
