"""Rounds, Client and Results of a large clinic: what they cost, as a table; fails over a limit."""

import gc

from django.core.management.base import BaseCommand, CommandError
from django.urls import reverse

from lab.demo.grow import two_years
from lab.demo.page_times import MOST_KB, MOST_MS, MOST_QUERIES, PageTimes, page_times, save_ms
from lab.demo.stored import bytes_an_attempt
from web.clients.models import Client
from web.review.caseload.rounds import WINDOW


class Command(BaseCommand):
    help = "Time the pages of the clinic's lead; exit 1 where a limit is broken."

    def add_arguments(self, parser):
        parser.add_argument("--pages", type=int, default=60, help="of each kind")

    def handle(self, *, pages: int, **options):
        treated = Client.objects.values_list("clinician", flat=True)
        lead = max(set(treated), key=list(treated).count)
        mine = Client.objects.filter(clinician=lead).select_related("clinician", "clinic")
        user, count = mine[0].clinician, mine.count()
        gc.freeze()  # as web/config/asgi.py does
        step = max(1, count // pages)
        sample = list(mine.filter(caseload_row__active_since__isnull=False).order_by("name"))[
            ::step
        ]
        rounds = reverse("review:rounds")
        windows = [f"{rounds}?page={1 + n % -(-count // WINDOW)}" for n in range(pages)]
        found = [
            page_times("Rounds", windows, user=user),
            page_times("Rounds, clinic", [f"{one}&whose=all" for one in windows], user=user),
            page_times("Rounds, find", [f"{rounds}?find={p.name[:4]}" for p in sample], user=user),
            page_times("Client", [_page("client", one) for one in sample], user=user),
            page_times("Results", [_page("results", one) for one in sample], user=user),
        ]
        long = next(one for one in sample if one.caseload_row.rung_s)
        month = [_page("client", long)] * 20, [_page("results", long)] * 20
        before = [page_times("Client, month", month[0], user=user)]
        before.append(page_times("Results, month", month[1], user=user))
        kept = save_ms(long)
        sessions = two_years(long)
        found += before
        found.append(page_times("Client, 2 years", month[0], user=user))
        found.append(page_times("Results, 2 years", month[1], user=user))
        self._table(found)
        self.stdout.write(
            f"kept: {kept:.0f} ms before, {save_ms(long):.0f} ms with {sessions} home sessions"
        )
        stored = bytes_an_attempt()
        parts = ", ".join(f"{name} {size:.0f}" for name, size in stored.items())
        self.stdout.write(f"stored: {sum(stored.values()):.0f} bytes an attempt ({parts})")
        if broken := [one.name for one in found if not one.within]:
            raise CommandError(
                f"over a limit ({MOST_MS:g} ms, {MOST_QUERIES} questions, {MOST_KB:g} kB): "
                + ", ".join(broken)
            )

    def _table(self, found: list[PageTimes]) -> None:
        self.stdout.write(
            f"{'page':18} {'count':>5} {'median':>9} {'p95':>9} {'queries':>7} {'kB':>6}"
        )
        for one in found:
            self.stdout.write(
                f"{one.name:18} {one.count:5} {one.median_ms:6.0f} ms {one.p95_ms:6.0f} ms "
                f"{one.queries:7} {one.kb:6.0f}"
            )


def _page(name: str, client: Client) -> str:
    return reverse(f"review:{name}", args=[client.pk])
