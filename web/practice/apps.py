from django.apps import AppConfig


class PracticeConfig(AppConfig):
    name = "web.practice"
    label = "practice"
