"""Settings shared by every way of running."""

from pathlib import Path

from csp.constants import NONE, SELF
from django.utils.translation import gettext_lazy as _

from web.config import access, env

BASE_DIR = Path(__file__).resolve().parents[3]
SECRET_KEY = env.SECRET_KEY
DEBUG = False
ALLOWED_HOSTS = env.ALLOWED_HOSTS
CSRF_TRUSTED_ORIGINS = [env.ORIGIN]

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.messages",
    "django.contrib.staticfiles",
    "django.contrib.humanize",
    "web.design",
    "allauth",
    "allauth.account",
    "allauth.mfa",
    "pgtrigger",
    "pghistory",
    "web.clinic",
    "web.measuring",
    "web.clients",
    "web.library",
    "web.programs",
    "web.practice",
    "web.review",
    "web.papers",
    "web.records",
    "lab.demo",
]

MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "csp.middleware.CSPMiddleware",
    "web.config.former_addresses.FormerAddresses",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "pghistory.middleware.HistoryMiddleware",
    "allauth.account.middleware.AccountMiddleware",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "web.clinic.middleware.NeverStored",
    "web.clinic.middleware.ClinicScope",
    "web.clinic.held_forms.HeldForms",
    "web.clients.middleware.RecordScope",
]

ROOT_URLCONF = "web.config.urls"
ASGI_APPLICATION = "web.config.asgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
                "django.contrib.messages.context_processors.messages",
                "web.clinic.context.clinic",
            ],
            "builtins": ["web.design.templatetags.reed"],
        },
    }
]

DATABASES = {
    "default": {
        **env.DATABASE,
        "CONN_MAX_AGE": 0,
        "CONN_HEALTH_CHECKS": True,
        "ATOMIC_REQUESTS": False,
        "OPTIONS": {
            **env.DATABASE.get("OPTIONS", {}),
            # a new connection costs 15 ms of processor; what waits longer than `timeout` is told 503 and sent again
            "pool": {
                "min_size": 1,
                "max_size": env.CONNECTIONS,
                "timeout": 5,
                "reconnect_timeout": 2,
            },
        },
    }
}
DATA_UPLOAD_MAX_NUMBER_FIELDS = 6000
"""A practice sheet of four weeks has so many cells."""
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
APPLICATION_ROLE = env.APPLICATION_ROLE

CACHES = {
    "default": {
        "BACKEND": "django.core.cache.backends.db.DatabaseCache",
        "LOCATION": "clinic_shared_cache",
    }
}
"""Throttles of signing in: in the database, so that neither a restart nor a second process forgets them."""

AUTH_USER_MODEL = "clinic.User"
AUTHENTICATION_BACKENDS = ["web.clinic.backend.MemberBackend"]
PASSWORD_HASHERS = [
    "django.contrib.auth.hashers.ScryptPasswordHasher",
    "django.contrib.auth.hashers.PBKDF2PasswordHasher",
]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": f"django.contrib.auth.password_validation.{name}"}
    for name in (
        "UserAttributeSimilarityValidator",
        "MinimumLengthValidator",
        "CommonPasswordValidator",
        "NumericPasswordValidator",
    )
]
LOGIN_URL = "account_login"
LOGIN_REDIRECT_URL = "review:rounds"
ACCOUNT_ADAPTER = "web.clinic.adapter.ClosedAdapter"
ACCOUNT_LOGIN_METHODS = {"email"}
ACCOUNT_SIGNUP_FIELDS = ["email*", "password1*", "password2*"]
ACCOUNT_USER_MODEL_USERNAME_FIELD = None
ACCOUNT_EMAIL_VERIFICATION = "none"
ACCOUNT_LOGOUT_ON_GET = False
ACCOUNT_SESSION_REMEMBER = False
MFA_SUPPORTED_TYPES = ["totp", "recovery_codes"]
MFA_TOTP_ISSUER = "Still Reed"

SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_AGE = 12 * 3600
CSRF_COOKIE_SAMESITE = "Lax"
CSRF_FAILURE_VIEW = "web.clinic.held_forms.csrf_failure"
X_FRAME_OPTIONS = "DENY"
SECURE_REFERRER_POLICY = "same-origin"
SECURE_CONTENT_TYPE_NOSNIFF = True
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [NONE],
        "script-src": [SELF],
        "style-src": [SELF],
        "font-src": [SELF],
        "img-src": [SELF, "data:"],
        "connect-src": [SELF],
        "media-src": ["blob:"],
        "worker-src": [SELF],
        "manifest-src": [SELF],
        "form-action": [SELF],
        "base-uri": [NONE],
        "frame-ancestors": [NONE],
    }
}

EMAIL_BACKEND = "web.clinic.usecases.outbox.OutboxBackend"
DELIVERY_BACKEND = "web.clinic.mail.PrivateFiles"
EMAIL_FILE_PATH = env.MAIL_FOLDER
DEFAULT_FROM_EMAIL = env.MAIL_FROM
ALARM_TO = env.ALARM_TO

LANGUAGE_CODE = "en"
LANGUAGES = [("en", _("English (American)")), ("en-gb", _("English (British)"))]
FORMAT_MODULE_PATH = ["web.design.formats"]
LOCALE_PATHS = [str(BASE_DIR / "web" / "locale")]
USE_I18N = True
USE_TZ = True
TIME_ZONE = "UTC"

STATIC_URL = "/static/"
STATIC_ROOT = BASE_DIR / ".run" / "static"
DATA_UPLOAD_MAX_MEMORY_SIZE = 26 * 1024 * 1024

PUBLIC_VIEWS = access.PUBLIC_VIEWS
CLIENT_VIEWS = access.CLIENT_VIEWS
TICKET_VIEWS = access.TICKET_VIEWS
LEAD_VIEWS = access.LEAD_VIEWS

TODAY = env.TODAY
MOST_STREAMS = env.MOST_STREAMS
OFFER_SIMULATED_VOICE = False
STAND_IN = "lab.stand_in"
"""Module with the simulated voice and level meter, loaded on first use."""
WORK_BESIDE = env.WORK_BESIDE

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"ids": {"format": "{asctime} {levelname} {name} {message}", "style": "{"}},
    "filters": {"without_links": {"()": "web.clinic.logs.WithoutLinks"}},
    "handlers": {
        "console": {
            "class": "logging.StreamHandler",
            "formatter": "ids",
            "filters": ["without_links"],
        }
    },
    "root": {"handlers": ["console"], "level": "WARNING"},
    "loggers": {
        # the server's own log of every address that was asked for: off, whatever its command line says
        "uvicorn.access": {"handlers": [], "level": "CRITICAL", "propagate": False},
        # what it says of sockets names their addresses
        "uvicorn.error": {"handlers": ["console"], "level": "INFO", "propagate": False},
    },
}
