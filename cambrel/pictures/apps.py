from django.apps import AppConfig


class PicturesConfig(AppConfig):
    name = "cambrel.pictures"

    def ready(self) -> None:
        from cambrel.pictures.own_scenes import find
        from cambrel.scenes import FINDERS

        FINDERS.append(find)
