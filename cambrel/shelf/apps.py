from django.apps import AppConfig


class ShelfConfig(AppConfig):
    name = "cambrel.shelf"

    def ready(self) -> None:
        from cambrel.shelf.shelf_sections import register_all
        from cambrel.shelf.sizes import register_sizes

        register_all()
        register_sizes()
