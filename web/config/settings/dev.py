"""The demo on this machine: `./reed start`."""

from web.config import env
from web.config.settings.base import *  # noqa: F403

WHITENOISE_USE_FINDERS = True
WHITENOISE_AUTOREFRESH = True
OFFER_SIMULATED_VOICE = True
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = env.ORIGIN.startswith("https://")
