from django.apps import AppConfig


class DesignConfig(AppConfig):
    name = "web.design"
    label = "design"
