from django.apps import AppConfig


class ClientsConfig(AppConfig):
    name = "web.clients"
    label = "clients"
