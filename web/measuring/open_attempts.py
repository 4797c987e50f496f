"""Which steps are being held right now in this process, and how many streams there are."""

from collections.abc import Iterator
from contextlib import contextmanager

from django.conf import settings
from django.utils.translation import gettext as _

from web.measuring.ends import Refused

_open: dict[tuple[str, str], str] = {}
_idle: set[object] = set()
MOST_IDLE = 200
"""So many sockets may wait in this process without an attempt."""


@contextmanager
def idling(who: object) -> Iterator[None]:
    """While a socket waits for its attempt; Refused 4429 where too many do."""
    if len(_idle) >= MOST_IDLE:
        raise Refused(4429, 429, "full", _("The server is busy: the hold is measured afterwards."))
    _idle.add(who)
    try:
        yield
    finally:
        _idle.discard(who)


def claim(sitting: str, step_id: str, attempt_id: str) -> None:
    """Take a step for one attempt; Refused 4429 when full. The newest takes over: an older one may be a
    connection that is dead and does not know it."""
    if (sitting, step_id) not in _open and len(_open) >= settings.MOST_STREAMS:
        raise Refused(4429, 429, "full", _("The server is busy: the hold is measured afterwards."))
    _open[(sitting, step_id)] = attempt_id


def still_mine(sitting: str, step_id: str, attempt_id: str) -> None:
    """Refused 4409 once a newer attempt has taken the step over."""
    if _open.get((sitting, step_id)) != attempt_id:
        words = _("This step is open in another tab. This hold is kept and measured afterwards.")
        raise Refused(4409, 409, "open_elsewhere", words)


def release(sitting: str, step_id: str, attempt_id: str) -> None:
    """Give it back; only its own holder can."""
    if _open.get((sitting, step_id)) == attempt_id:
        del _open[(sitting, step_id)]
