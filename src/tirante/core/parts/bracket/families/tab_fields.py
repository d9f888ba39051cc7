"""What may be set of a pair of tabs however it is made, and which field a fault of its shape belongs to."""

from __future__ import annotations

from pydantic import BaseModel

from tirante.core.document.forms.table import Field, FieldGroup, number, special
from tirante.core.errors import TiranteError
from tirante.core.parts.part import Misfit

BOLT_FIELDS = FieldGroup(title="Bolt", note="of the joints that it holds: it belongs to neither plate nor link", fields=[
    special("spacer", "Spacer", table="spacers", optional=True),
    special("bolt", "Bolt", table="bolts"),
    special("shim_mm", "Shim each side", unit="mm"),
    special("thread_in_plane", "the bolt’s thread stands in the shear plane"),
])  # fmt: skip
_OF_METHODS = {"hole_mm": "hole", "pin_mm": "bolt", "edge_mm": "edge", "thickness_mm": "plate"}


def metal_fields(of: type[BaseModel]) -> list[Field]:
    """Its plate's metal.

    Args:
        of: the model of what is saved.
    """
    return [
        Field(path="grade_name", label="Grade", control="text"),
        number(of, "yield_mpa", "Yield", "MPa"),
        number(of, "uts_mpa", "Ultimate", "MPa"),
    ]


def shape_faults(error: TiranteError, **more: str) -> list[Misfit]:
    """A fault that a method found in its shape, at the fields of the page.

    Args:
        error: of the method.
        more: fields of methods that the family calls otherwise, by their names there.
    """
    known = _OF_METHODS | more
    return [Misfit(field=known.get(field, field), message=error.message) for field in error.fields or ("",)]
