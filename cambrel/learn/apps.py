from django.apps import AppConfig


class LearnConfig(AppConfig):
    name = "cambrel.learn"

    def ready(self) -> None:
        from cambrel.learn.section import register_learn

        register_learn()
