"""The suspension templates that ship, read from their files once."""

from __future__ import annotations

from functools import cache
from pathlib import Path

from tirante.core.errors import InputError
from tirante.core.suspension.template import Template

FOLDER = Path(__file__).resolve().parents[3] / "data" / "templates"


def read_templates(folder: Path) -> dict[str, Template]:
    """Every template of a folder by its name; a new one is a new file."""
    found = [Template.model_validate_json(path.read_bytes()) for path in sorted(folder.glob("*.json"))]
    return {template.name: template for template in found}


@cache
def shipped_templates() -> dict[str, Template]:
    """The templates that ship."""
    return read_templates(FOLDER)


def template_named(name: str) -> Template:
    """A template by its name.

    Raises:
        InputError: there is none.
    """
    known = shipped_templates()
    if name not in known:
        raise InputError(
            f"There is no template “{name[:40]}”. Templates: {', '.join(known)}.",
            code="unknown_template",
            fields=("template",),
        )
    return known[name]
