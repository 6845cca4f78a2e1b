from django.apps import AppConfig


class ConventionsConfig(AppConfig):
    name = "cambrel.conventions"
