from django.apps import AppConfig
from django.db.models.signals import post_migrate


class ReviewConfig(AppConfig):
    name = "web.review"
    label = "review"

    def ready(self) -> None:
        from web.review.usecases import refresh_row as refresh

        post_migrate.connect(refresh.work_out_missing, sender=self, dispatch_uid="needs")
