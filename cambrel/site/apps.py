from django.apps import AppConfig
from django.contrib.staticfiles.apps import StaticFilesConfig as DjangoStaticFilesConfig


class SiteConfig(AppConfig):
    name = "cambrel.site"


class StaticFilesConfig(DjangoStaticFilesConfig):
    """Without the scripts of packages that serve none of ours."""

    ignore_patterns = [*DjangoStaticFilesConfig.ignore_patterns, "django_htmx"]
