from django.apps import AppConfig


class FormatsConfig(AppConfig):
    name = "cambrel.formats"
