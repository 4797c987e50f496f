"""The worker of a site: what takes the processor for a while, away from the servers that watch streams."""

import os
import signal
import threading

from django.core.management.base import BaseCommand

from web.clinic.background import run_periodically
from web.review.usecases.refresh_row import work_out_stale

NICE = 5
"""Lower the priority of this process: clients practicing come first."""


class Command(BaseCommand):
    help = "Work out what waits to be worked out, until it is ended. One for a site; several share the work."

    def handle(self, **options):
        os.nice(NICE)
        ended = threading.Event()
        signal.signal(signal.SIGTERM, lambda *_: ended.set())
        run_periodically([work_out_stale])
        ended.wait()
