from django.apps import AppConfig
from django.db.models.signals import post_migrate


class ClinicConfig(AppConfig):
    name = "web.clinic"
    label = "clinic"

    def ready(self) -> None:
        from web.clinic.grants import grant_application_role

        post_migrate.connect(grant_application_role, dispatch_uid="grants")
