from django.apps import AppConfig


class BriefsConfig(AppConfig):
    name = "cambrel.briefs"
