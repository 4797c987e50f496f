"""Static files with hashed names, also inside JavaScript module imports."""

from whitenoise.storage import CompressedManifestStaticFilesStorage


class ModuleStorage(CompressedManifestStaticFilesStorage):
    support_js_module_import_aggregation = True
