from django.apps import AppConfig
from django.contrib.auth.signals import user_logged_in, user_logged_out, user_login_failed
from django.db.models.signals import post_migrate
from django.utils.translation import gettext_noop


class ClinicConfig(AppConfig):
    name = "web.clinic"
    label = "clinic"

    def ready(self) -> None:
        from web.clinic.grants import grant_application_role

        post_migrate.connect(grant_application_role, dispatch_uid="grants")
        user_logged_in.connect(
            _signed(gettext_noop("signed in")), weak=False, dispatch_uid="signed in"
        )
        user_logged_out.connect(
            _signed(gettext_noop("signed out")), weak=False, dispatch_uid="signed out"
        )
        user_login_failed.connect(_failed, dispatch_uid="sign-in failed")


def _signed(what: str):
    def noted(user=None, **_):
        from web.clinic import clock
        from web.clinic.usecases.staff import note_sign_in

        if user is not None:
            note_sign_in(user.email, what, now=clock.now())

    return noted


def _failed(credentials=None, **_):
    from web.clinic import clock
    from web.clinic.usecases.staff import note_sign_in

    said = credentials or {}
    email = said.get("email") or said.get("login") or said.get("username") or ""
    note_sign_in(str(email), gettext_noop("sign-in failed"), now=clock.now())
