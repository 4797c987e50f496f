"""All fitters by name, as registered by the `fit_` modules of this package."""

import importlib
import pkgutil
from collections.abc import Mapping
from functools import cache

import core.fitting
from core.fitting.fitted import Fitter, registered


@cache
def fitters() -> Mapping[str, Fitter]:
    for module in pkgutil.iter_modules(core.fitting.__path__):
        if module.name.startswith("fit_"):
            importlib.import_module(f"core.fitting.{module.name}")
    return registered()
