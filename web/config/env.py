"""The only reader of the environment. A missing setting fails at start with its name."""

from datetime import date

import environ
from django.core.exceptions import ImproperlyConfigured

_env = environ.Env()

DATABASE = _env.db("REED_DATABASE_URL")
STANDBY = _env.str("REED_DATABASE_STANDBY", default="")
if STANDBY:
    _host, _, _port = STANDBY.rpartition(":")
    DATABASE["HOST"] = f"{DATABASE['HOST']},{_host}"
    DATABASE["PORT"] = f"{DATABASE['PORT'] or 5432},{_port}"
    DATABASE["OPTIONS"] = {"target_session_attrs": "read-write", "connect_timeout": 3}
CONNECTIONS = _env.int("REED_DATABASE_CONNECTIONS", default=12)
SECRET_KEY = _env.str("REED_SECRET_KEY")
ALLOWED_HOSTS = _env.list("REED_ALLOWED_HOSTS", default=["127.0.0.1", "localhost"])
ORIGIN = _env.str("REED_ORIGIN", default="http://127.0.0.1:8010")
MAIL_FOLDER = _env.str("REED_MAIL_FOLDER", default="/tmp/still-reed-mail")
MAIL_URL = _env.str("REED_MAIL_URL", default="")
MAIL_FROM = _env.str("REED_MAIL_FROM", default="clinic@harrow-quay.example")
ALARM_TO = _env.list("REED_ALARM_TO", default=[])
APPLICATION_ROLE = _env.str("REED_APPLICATION_ROLE", default="reed_app")
WORK_BESIDE = _env.str("REED_WORK_BESIDE", default="all")
if WORK_BESIDE not in ("all", "light"):
    raise ImproperlyConfigured("REED_WORK_BESIDE is 'all' or 'light' (where `work_beside` runs)")
MOST_STREAMS = _env.int("REED_MOST_STREAMS", default=60)

_today = _env.str("REED_TODAY", default="")
TODAY = date.fromisoformat(_today) if _today else None
