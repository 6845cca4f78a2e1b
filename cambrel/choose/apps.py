from django.apps import AppConfig


class ChooseConfig(AppConfig):
    name = "cambrel.choose"
