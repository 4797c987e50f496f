from django.apps import AppConfig


class RecordsConfig(AppConfig):
    name = "web.records"
    label = "records"
