"""Suspension templates and additions from their files; a new one is a new file."""

from __future__ import annotations

from pathlib import Path

from tirante.core.document.end import End
from tirante.core.document.template import Addition, Template

DATA = Path(__file__).resolve().parents[3] / "data"


def read_templates(folder: Path) -> dict[str, Template]:
    """Every template of a folder by its name."""
    found = [Template.model_validate_json(path.read_bytes()) for path in sorted(folder.glob("*.json"))]
    return {template.name: template for template in found}


def read_additions(folder: Path) -> dict[str, Addition]:
    """Every addition of a folder by its name."""
    found = [Addition.model_validate_json(path.read_bytes()) for path in sorted(folder.glob("*.json"))]
    return {addition.name: addition for addition in found}


def example_ends() -> dict[str, End]:
    """The example ends that ship, by the name of their file."""
    return {path.stem: End.model_validate_json(path.read_bytes()) for path in sorted((DATA / "ends").glob("*.json"))}
