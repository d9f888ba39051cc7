"""The saved model of each kind of part, one file a kind; all of them are read here, so that a design knows every kind."""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules

for _module in iter_modules(__path__):
    import_module(f"{__name__}.{_module.name}")
