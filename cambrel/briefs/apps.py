from django.apps import AppConfig


class BriefsConfig(AppConfig):
    name = "cambrel.briefs"

    def ready(self) -> None:
        from cambrel.briefs.section import register_briefs

        register_briefs()
