from django.apps import AppConfig


class DesignConfig(AppConfig):
    name = "web.design"
    label = "design"

    def ready(self) -> None:
        from core.reason import speak
        from web.design.language import ReadersLanguage

        speak(ReadersLanguage())
