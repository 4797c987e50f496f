"""What a log may hold: ids, never what lets somebody in."""

import logging
import re

_SECRET = re.compile(r"(/c/|/invitation/|/reset/key/|/confirm-email/)[^/\s\"']+")


class WithoutLinks(logging.Filter):
    """Takes private links, invitations and reset keys out of every line, also out of its arguments and traceback."""

    def filter(self, record: logging.LogRecord) -> bool:
        record.msg, record.args = _SECRET.sub(r"\1…", record.getMessage()), ()
        if record.exc_info and not record.exc_text:
            record.exc_text = logging.Formatter().formatException(record.exc_info)
        if record.exc_text:
            record.exc_text = _SECRET.sub(r"\1…", record.exc_text)
        return True
