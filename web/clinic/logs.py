"""What a log may hold: ids, never what lets somebody in."""

import logging
import re

_SECRET = re.compile(r"(/c/|/invitation/)[^/\s\"']+")


class WithoutLinks(logging.Filter):
    """Takes private links and invitations out of every line, also out of its arguments and traceback."""

    def filter(self, record: logging.LogRecord) -> bool:
        record.msg, record.args = _SECRET.sub(r"\1…", record.getMessage()), ()
        if record.exc_info and not record.exc_text:
            record.exc_text = logging.Formatter().formatException(record.exc_info)
        if record.exc_text:
            record.exc_text = _SECRET.sub(r"\1…", record.exc_text)
        return True
