from django.apps import AppConfig


class ProgramsConfig(AppConfig):
    name = "web.programs"
    label = "programs"
