"""The door: HTTP to Django, the live socket to measuring, each attempt to the use-case it ends in."""

import gc
import importlib
import os
import threading

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "web.config.settings.prod")

from django.core.asgi import get_asgi_application

gc.disable()  # while everything is loaded nothing becomes garbage
_http = get_asgi_application()

from channels.routing import ProtocolTypeRouter, URLRouter  # noqa: E402
from channels.security.websocket import AllowedHostsOriginValidator  # noqa: E402
from django.conf import settings  # noqa: E402
from django.urls import path  # noqa: E402

from web.clinic.background import run_periodically  # noqa: E402
from web.clinic.usecases.outbox import WRITTEN, deliver  # noqa: E402
from web.config.attempt_sinks import ENDS  # noqa: E402
from web.measuring.live import LiveSocket  # noqa: E402
from web.measuring.usecases.open_attempts import PULSE_S, this_process  # noqa: E402
from web.practice.usecases.recordings import erase_past_sounds  # noqa: E402
from web.review.usecases.refresh_row import work_out_stale  # noqa: E402
from web.review.usecases.remind_of_contacts import remind_of_contacts  # noqa: E402

websocket_urlpatterns = [path("live/", LiveSocket(ENDS))]  # type: ignore[arg-type]
application = ProtocolTypeRouter(
    {
        "http": _http,
        "websocket": AllowedHostsOriginValidator(URLRouter(websocket_urlpatterns)),
    }
)

# Little work, which waits for others: it may be done beside every server. What takes the processor for a while
# would hold up the streams, and is done by `work_beside` where that runs.
if settings.WORK_BESIDE != "nothing":
    run_periodically([deliver, erase_past_sounds, remind_of_contacts], woken=WRITTEN)
    run_periodically([this_process.pulse], every_s=PULSE_S)
if settings.WORK_BESIDE == "all":
    run_periodically([work_out_stale])


def _settle() -> None:
    """What is loaded stays for good: looking through it again and again made one answer in twenty twice as slow."""
    gc.collect()
    gc.freeze()
    gc.enable()


def _load_the_rest() -> None:
    """What takes seconds to load and is asked for later: nobody waits for it, neither now nor then."""
    for name in ("scipy.stats", "web.papers.print.typesetter", "icalendar"):
        importlib.import_module(name)
    _settle()


_settle()
if settings.WORK_BESIDE != "nothing":
    threading.Thread(target=_load_the_rest, name="load the rest", daemon=True).start()
