from django.apps import AppConfig


class ShelfConfig(AppConfig):
    name = "cambrel.shelf"

    def ready(self):
        from cambrel.shelf.sections import register_all

        register_all()
