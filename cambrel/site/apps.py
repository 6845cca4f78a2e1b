from django.apps import AppConfig


class SiteConfig(AppConfig):
    name = "cambrel.site"
