from django.apps import AppConfig


class DemoConfig(AppConfig):
    name = "lab.demo"
    label = "demo"
