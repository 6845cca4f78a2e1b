from django.apps import AppConfig


class AskConfig(AppConfig):
    name = "cambrel.ask"
