"""Static files as they are served: compressed, named by their content, also where one script imports another."""

from whitenoise.storage import CompressedManifestStaticFilesStorage


class StaticFiles(CompressedManifestStaticFilesStorage):  # type: ignore[misc]
    support_js_module_import_aggregation = True
