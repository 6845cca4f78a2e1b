from django.apps import AppConfig


class FieldConfig(AppConfig):
    name = "cambrel.field"

    def ready(self) -> None:
        from cambrel.field.section import register_field

        register_field()
