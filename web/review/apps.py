from django.apps import AppConfig


class ReviewConfig(AppConfig):
    name = "web.review"
    label = "review"

    def ready(self) -> None:
        from web.review import caseload  # noqa: F401  (connects the receiver)
