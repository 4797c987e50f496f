from django.apps import AppConfig


class PapersConfig(AppConfig):
    name = "web.papers"
    label = "papers"
