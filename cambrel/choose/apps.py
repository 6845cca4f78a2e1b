from django.apps import AppConfig


class ChooseConfig(AppConfig):
    name = "cambrel.choose"

    def ready(self) -> None:
        from cambrel.choose.section import register_decisions

        register_decisions()
