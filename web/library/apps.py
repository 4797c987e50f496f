from django.apps import AppConfig


class LibraryConfig(AppConfig):
    name = "web.library"
    label = "library"
