"""Tests: a fixed day, the real database and the real server, a cheap password hasher."""

from datetime import date

from web.config.settings.base import *  # noqa: F403

TODAY = date(2026, 6, 15)
WHITENOISE_USE_FINDERS = True
WHITENOISE_AUTOREFRESH = True
OFFER_SIMULATED_VOICE = True
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
EMAIL_FILE_PATH = "/tmp/still-reed-test-mail"
ACCOUNT_RATE_LIMITS = False
ALLOWED_HOSTS = ["127.0.0.1", "localhost", "testserver"]
WORK_BESIDE = "nothing"
# A test's database is dropped when it is done: no connection may wait there for whoever comes next. The tests of the
# servers themselves run with the demo's settings, and share connections.
del DATABASES["default"]["OPTIONS"]["pool"]  # noqa: F405
