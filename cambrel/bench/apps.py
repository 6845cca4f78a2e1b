from django.apps import AppConfig


class BenchConfig(AppConfig):
    name = "cambrel.bench"

    def ready(self) -> None:
        from cambrel.bench.section import register_comparisons

        register_comparisons()
