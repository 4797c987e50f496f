"""What `tests/web/test_stop_mail.py` and others make and look at."""

import uuid

from tests.conftest import NOW
from web.practice.usecases.save_entry import SentEntry, save_entry


def stop(session, *, entry_id=None, now=NOW):
    _session, ticket = session
    said = SentEntry(
        entry_id=entry_id or str(uuid.uuid4()), kind="stop", step_id=None, value="pain"
    )
    return save_entry(ticket, said, now=now)
