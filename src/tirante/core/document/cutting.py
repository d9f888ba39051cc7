"""A layout as it is kept, of one tube on sticks or of one plate on sheets: which rows of the rack it takes, what is cut from each, what is left."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Discriminator, Field, Tag, TypeAdapter

from tirante.core.document.fields import Document, Id, Name, NotNegative, Positive, Signed
from tirante.core.document.rack import Heat, RackRow, Sort
from tirante.core.flat.contour import Contour


class KeptPiece(Document):
    """A piece in its place."""

    length_mm: Positive
    what: Annotated[str, Field(max_length=600)]  # what it is for


class KeptStick(Document):
    """A stick, in the order of cutting."""

    row_id: Id | None  # of the rack; null: a new one
    length_mm: Positive
    pieces: Annotated[tuple[KeptPiece, ...], Field(min_length=1, max_length=2000, strict=False)]
    left_mm: NotNegative  # behind the last cut


class Remnant(Document):
    """What a confirmed layout put on the rack."""

    row_id: Id
    length_mm: Positive
    width_mm: Positive | None = None  # of a sheet
    heat: Heat = ""
    count: Annotated[int, Field(ge=1, le=2000)]


class OfPart(Document):
    """A part that something is cut for, with the fingerprint of its metal as it was laid out."""

    id: Id
    name: Name
    metal: Annotated[str, Field(max_length=40)]


class _Layout(Document):
    """What layouts of either sort keep."""

    job: Name  # as it was called
    revision: Annotated[str, Field(max_length=80)] = ""
    rows: Annotated[tuple[RackRow, ...], Field(max_length=400, strict=False)] = ()  # of the rack, as they were
    told: Annotated[str, Field(max_length=600)] = ""
    remnants: Annotated[tuple[Remnant, ...], Field(max_length=400, strict=False)] = ()  # once it is cut
    parts: Annotated[tuple[OfPart, ...], Field(max_length=2000, strict=False)] = ()
    new_heat: Heat = ""  # of what was bought for it, once it is cut

    def heat_of(self, row_id: str | None) -> str:
        """The heat of a stick or sheet; empty where the shop does not keep it.

        Args:
            row_id: of the rack; None: a new one.
        """
        if row_id is None:
            return self.new_heat
        return next((row.heat for row in self.rows if row.id == row_id), "")


class KeptCutting(_Layout):
    """One tube of a job laid out."""

    sort: Literal["sticks"] = "sticks"
    tube: Name
    grade: Name
    stock_mm: Positive
    kerf_mm: NotNegative
    trim_start_mm: NotNegative
    trim_end_mm: NotNegative
    sticks: Annotated[tuple[KeptStick, ...], Field(min_length=1, max_length=2000, strict=False)]

    @property
    def title(self) -> str:
        """What is cut."""
        return f"{self.tube}, {self.grade}"

    @property
    def taken(self) -> list[str | None]:
        """Of every stick the row that it comes from."""
        return [one.row_id for one in self.sticks]

    @property
    def lefts(self) -> list[tuple[float, float | None]]:
        """Of every stick the length that is left [mm]."""
        return [(one.left_mm, None) for one in self.sticks]

    @property
    def stock(self) -> tuple[Sort, str, str, float | None]:
        """What a remnant is on the rack: sort, stock, material, thickness [mm]."""
        return "tube", self.tube, self.grade, None


class KeptShape(Document):
    """A plate that is cut, as it is drawn."""

    part_id: Id
    what: Annotated[str, Field(max_length=600)]  # what it is, and for which part
    outline: Contour
    blank: bool = False  # whether it is the rectangle that something is made of whose outline is not worked out


class KeptPlace(Document):
    """Where a plate lies: turned about its own origin, then moved, from the sheet's corner."""

    shape: Annotated[int, Field(ge=0, le=2000)]
    x_mm: Signed
    y_mm: Signed
    angle_deg: Annotated[float, Field(ge=0, lt=360, allow_inf_nan=False)]


class KeptSheet(Document):
    """A sheet, in the order of cutting."""

    row_id: Id | None  # of the rack; null: a new one
    length_mm: Positive
    width_mm: Positive
    placed: Annotated[tuple[KeptPlace, ...], Field(min_length=1, max_length=2000, strict=False)]
    left_mm: NotNegative  # length of the whole rectangle behind what is cut


class KeptNest(_Layout):
    """Plates of one thickness and material laid out."""

    sort: Literal["sheets"] = "sheets"
    material: Name
    thickness_mm: Positive
    spacing_mm: NotNegative
    edge_mm: NotNegative
    shapes: Annotated[tuple[KeptShape, ...], Field(min_length=1, max_length=2000, strict=False)]
    sheets: Annotated[tuple[KeptSheet, ...], Field(min_length=1, max_length=2000, strict=False)]

    @property
    def title(self) -> str:
        """What is cut."""
        return f"{self.thickness_mm:g} mm {self.material}"

    @property
    def taken(self) -> list[str | None]:
        """Of every sheet the row that it comes from."""
        return [one.row_id for one in self.sheets]

    @property
    def lefts(self) -> list[tuple[float, float | None]]:
        """Of every sheet the rectangle that is left [mm]."""
        return [(one.left_mm, one.width_mm) for one in self.sheets]

    @property
    def stock(self) -> tuple[Sort, str, str, float | None]:
        """What a remnant is on the rack: sort, stock, material, thickness [mm]."""
        return "sheet", f"plate {self.thickness_mm:g} mm", self.material, self.thickness_mm


def _sort(of: Any) -> str:
    return str(
        of.get("sort", "sticks") if isinstance(of, dict) else of.sort
    )  # what was kept before sheets were has none


Kept = Annotated[Annotated[KeptCutting, Tag("sticks")] | Annotated[KeptNest, Tag("sheets")], Discriminator(_sort)]
KEPT: TypeAdapter[KeptCutting | KeptNest] = TypeAdapter(Kept)
