from django.apps import AppConfig


class MeasuringConfig(AppConfig):
    name = "web.measuring"
    label = "measuring"
