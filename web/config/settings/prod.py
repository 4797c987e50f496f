"""A clinic's own server: HTTPS only, mail by SMTP. Passes `check --deploy`."""

import environ

from web.config import env
from web.config.settings.base import *  # noqa: F403

_mail = environ.Env.email_url_config(env.MAIL_URL or "smtp://localhost:25")
EMAIL_HOST = _mail["EMAIL_HOST"]
EMAIL_PORT = _mail["EMAIL_PORT"]
EMAIL_HOST_USER = _mail["EMAIL_HOST_USER"]
EMAIL_HOST_PASSWORD = _mail["EMAIL_HOST_PASSWORD"]
EMAIL_USE_TLS = _mail.get("EMAIL_USE_TLS", False)
EMAIL_TIMEOUT = 10
DELIVERY_BACKEND = "django.core.mail.backends.smtp.EmailBackend"

SECURE_SSL_REDIRECT = True
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
SECURE_HSTS_SECONDS = 31_536_000
SECURE_HSTS_INCLUDE_SUBDOMAINS = True
SECURE_HSTS_PRELOAD = True
SESSION_COOKIE_SECURE = True
CSRF_COOKIE_SECURE = True
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "web.design.storage.ModuleStorage"},
}
