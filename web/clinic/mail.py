"""The demo's stand-in for a mail server: mails as files that nobody else on the machine reads."""

from pathlib import Path

from django.core.mail.backends.filebased import EmailBackend


class PrivateFiles(EmailBackend):
    """Into a folder of its own, closed to others before the first mail lies in it."""

    def __init__(self, *args, **kwargs):
        super().__init__(*args, **kwargs)
        Path(self.file_path).chmod(0o700)
