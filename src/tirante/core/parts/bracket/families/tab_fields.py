"""What may be set of a pair of tabs however it is made, and which field a fault of its shape belongs to."""

from __future__ import annotations

from pydantic import BaseModel

from tirante.core.brackets.foot_weld import NOT_REACHED
from tirante.core.document.forms.table import Field, FieldGroup, number, special, switch
from tirante.core.document.parts.bracket import FlatBase, SaddleBase, TabPair
from tirante.core.errors import TiranteError
from tirante.core.parts.part import CardLine, Misfit

BOLT_FIELDS = FieldGroup(title="Bolt", note="of the joints that it holds: it belongs to neither plate nor link", fields=[
    special("spacer", "Spacer", table="spacers", optional=True),
    special("bolt", "Bolt", table="bolts"),
    special("shim_mm", "Shim each side", unit="mm"),
    special("thread_in_plane", "the bolt’s thread stands in the shear plane"),
])  # fmt: skip
STANDS_FIELDS = [
    Field(path="base/tube_od", label="Tube outside", control="length", only="base/kind=saddle"),
    number(SaddleBase, "angle_deg", "Plate to tube axis", "°", at="base/", only="base/kind=saddle"),
    number(SaddleBase, "lean_deg", "Leans from square to its skin", "°", at="base/", only="base/kind=saddle"),
]  # of plates on their edge, what they stand on
MOUNT_FIELDS = [
    number(FlatBase, "lean_deg", "Leans from square", "°", at="base/", only="base/kind=flat"),
    number(SaddleBase, "wall_mm", "Wall it is welded to", "mm", at="base/", optional=True, empty="not known"),
    special("mount", "On which mount"),
    special("bolt_axis", "Bolt’s direction"),
    special("stands_on"),
]  # fmt: skip - and on which member, its bolt which way
PLATE_FIELDS = [
    Field(path="head_radius", label="Head radius", control="length"), Field(path="edge", label="Hole to free end", control="length"),
    Field(path="base_width", label="Foot width", control="length"), Field(path="height", label="Foot to hole", control="length"),
    switch("height_fixed", "its height is given: sizing keeps it"),
]  # fmt: skip
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


def ream_fields(of: type[BaseModel]) -> list[Field]:
    """How its hole is made.

    Args:
        of: the model of what is saved.
    """
    return [number(of, "ream_mm", "Cut under size by, and reamed in line after welding; 0: cut to size", "mm")]


def ream_faults(hole: float, under: float) -> list[Misfit]:
    """What a hole cannot be cut under by.

    Args:
        hole: as it is to be [mm].
        under: what is left for the reamer [mm].
    """
    if under <= 0 or hole - under >= 0.5 * hole:
        return []
    return [Misfit(field="ream_mm", message=f"A hole of {hole:g} mm cut under by {under:g} mm is less than half of it. Leave the reamer less, {0.5 * hole:g} mm at most.")]  # fmt: skip


def hole_lines_cut(hole: float, under: float, what: str) -> list[CardLine]:
    """The hole on the card: as it is cut, and as it is reamed. In words, since a diameter is no length that a tape reads.

    Args:
        hole: as it is to be [mm].
        under: what is left for the reamer [mm].
        what: how it is placed.
    """
    if under <= 0:
        return [CardLine(text=f"hole ⌀{round(hole, 2):g} mm, {what}")]
    return [
        CardLine(text=f"hole ⌀{round(hole - under, 2):g} mm, {what}, cut under size"),
        CardLine(text=f"reamed in line through both plates after welding, to ⌀{round(hole, 2):g} mm", strong=True),
    ]


def shape_faults(error: TiranteError, **more: str) -> list[Misfit]:
    """A fault that a method found in its shape, at the fields of the page.

    Args:
        error: of the method.
        more: fields of methods that the family calls otherwise, by their names there.
    """
    known = _OF_METHODS | more
    return [Misfit(field=known.get(field, field), message=error.message) for field in error.fields or ("",)]


def bevel_faults(tab: TabPair) -> list[Misfit]:
    """What a foot cannot be bevelled by."""
    if tab.bevel_mm <= 0:
        return []
    square = isinstance(tab.base, FlatBase) and tab.base.lean_deg == 0
    if not square:
        return [Misfit(field="bevel_mm", message="The bevel’s throat is known of plates square to a flat alone. Take it off, or stand them square on a flat.")]  # fmt: skip
    if tab.bevel_mm > tab.plate.mm:
        return [
            Misfit(
                field="bevel_mm", message=f"The bevel is deeper than the plate is thick: {tab.plate.mm:g} mm at most."
            )
        ]
    if tab.bevel_mm <= NOT_REACHED:
        return [
            Misfit(
                field="bevel_mm",
                message=f"The arc does not reach the last {NOT_REACHED:g} mm of a bevel of 45°: cut it deeper, or not at all.",
            )
        ]
    return []


def corner_faults(tab: TabPair) -> list[Misfit]:
    """What a pair that straddles a corner cannot have.

    Args:
        tab: as it is saved.
    """
    found = []
    if tab.corner is not None and tab.spread is not None:
        found.append(Misfit(field="spread", message="A spread plate is flat, and these feet straddle a corner. Take it off, or stand the pair on a face."))  # fmt: skip
    if tab.corner is not None and tab.holes is not None:
        found.append(Misfit(field="holes", message="A plate on a corner has one hole. Take the others off, or stand the pair on a face."))  # fmt: skip
    return found
