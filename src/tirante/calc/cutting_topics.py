"""The topics of sticks cut to a list, and of plates laid out on sheets."""

from __future__ import annotations

from time import monotonic
from typing import Annotated, Any

from pydantic import Field, model_validator

from tirante.calc.fields import Input, Mm, MmOrZero
from tirante.calc.registry import Working, step, topic
from tirante.core.cutting.sheets import Shape, Sheet, Turns, angles_of, nest
from tirante.core.cutting.sticks import Saw, cut_sticks, set_ups
from tirante.core.flat.contour import Contour, straight_sides

Coordinate = Annotated[float, Field(ge=-100_000, le=100_000, allow_inf_nan=False)]
Many = Annotated[int, Field(ge=0, le=2000)]


class SticksInput(Input):
    stock_mm: Mm = Field(description="mm; length of a new stick")
    kerf_mm: MmOrZero = 0.0
    trim_start_mm: MmOrZero = Field(default=0.0, description="mm; cut off every stick's first end")
    trim_end_mm: MmOrZero = Field(default=0.0, description="mm; of its last end, that is not used")
    pieces: list[tuple[Mm, Many]] = Field(min_length=1, max_length=400, description="[length_mm, quantity]")
    offcuts: list[tuple[Mm, Many]] = Field(default=[], max_length=400, description="[length_mm, quantity], used first")


@topic(
    "sticks",
    SticksInput,
    outputs={
        "sticks": "new ones", "bound": "fewer new ones are not possible", "proven": "whether sticks is the bound", "set_ups": "how often the stop is set",
        "layout": "of each stick in the order of cutting, offcuts first: length_mm, new, pieces_mm, left_mm behind the last cut",
        "wishes": "what comes after the number: name, value, bound, proven",
    },
    example={"stock_mm": 6000, "kerf_mm": 3, "trim_start_mm": 10, "trim_end_mm": 30, "pieces": [[820, 4], [600, 6], [1450, 2]], "offcuts": [[1700, 1]]},
    sources=("geometry", "gilmore-gomory"),
)  # fmt: skip
def run_sticks(data: SticksInput) -> tuple[dict[str, Any], Working]:
    """The fewest new sticks for a list of pieces, offcuts first, with its proof or its bound."""
    saw = Saw(kerf=data.kerf_mm, trim_start=data.trim_start_mm, trim_end=data.trim_end_mm)
    found = cut_sticks(data.stock_mm, data.pieces, saw, data.offcuts)
    total = sum(length * count for length, count in data.pieces)
    out = {
        "sticks": found.new, "proven": found.proven, "bound": found.bound, "set_ups": set_ups(found.sticks),
        "layout": [{"length_mm": one.length, "new": one.new, "pieces_mm": list(one.pieces), "left_mm": one.left} for one in found.sticks],
        "wishes": [{"name": one.name, "value": one.value, "bound": one.bound, "proven": one.proven} for one in found.wishes],
    }  # fmt: skip
    return out, [
        step("a stick", "Σ L + (n − 1) kerf ≤ stock − trims", "geometry", room_mm=saw.room(data.stock_mm) - saw.kerf, pieces_mm=total),
        step("fewest new sticks", "the linear program over all patterns, rounded up; met by what is packed", "gilmore-gomory", sticks=found.new, bound=found.bound),
    ]  # fmt: skip


class NestPiece(Input):
    name: str = Field(default="", max_length=200)
    points_mm: list[tuple[Coordinate, Coordinate]] = Field(
        min_length=3, max_length=2000, description="[x, y] of its corners, in order; the last is joined to the first"
    )
    quantity: Annotated[int, Field(ge=1, le=2000)] = 1
    turns: Turns | None = Field(default=None, description="of this piece, where it differs")

    @model_validator(mode="after")
    def _an_area(self) -> NestPiece:
        from shapely.geometry import Polygon

        outline = Polygon(self.points_mm)
        if not outline.is_valid or outline.area < 1e-6:
            raise ValueError("points_mm: its outline crosses itself or holds no area; give its corners in order")
        return self


class NestInput(Input):
    sheet_mm: tuple[Mm, Mm] = Field(
        description="[length, width] of a new sheet, of which there are as many as needed; the grain runs along its length"
    )
    offcuts: list[tuple[Mm, Mm, Many]] = Field(
        default=[], max_length=100, description="[length_mm, width_mm, quantity], used first"
    )
    pieces: list[NestPiece] = Field(min_length=1, max_length=400)
    spacing_mm: MmOrZero = Field(default=3.0, description="mm; from metal to metal at least, kerf included")
    edge_mm: MmOrZero | None = Field(
        default=None, description="mm; from metal to a sheet's edge (default: as the spacing)"
    )
    turns: Turns = Field(
        default="quarter", description="quarter: by quarters; half: as drawn, along the grain; any: any way round"
    )
    time_s: Annotated[float, Field(ge=0, le=120)] = Field(
        default=10.0, description="s; that the search may take, about; 0: in rows alone"
    )
    seed: Annotated[int, Field(ge=0, le=2**31)] = Field(
        default=1, description="of the search, whose answers differ from run to run all the same"
    )


@topic(
    "nest",
    NestInput,
    outputs={
        "sheets": "new ones", "bound": "fewer new ones are not possible, by area", "proven": "whether sheets is the bound",
        "utilisation": "outlines' area over the area of what is used of the sheets, offcuts too",
        "layout": "of each sheet, offcuts first: length_mm, width_mm, new, used_mm along it, left_mm (of its whole width), utilisation, "
        "placed: piece (its number in the list, from 0), angle_deg about the piece's own origin, then x_mm and y_mm from the sheet's corner",
    },
    example={
        "sheet_mm": [1000, 600], "spacing_mm": 3, "time_s": 0,
        "pieces": [{"name": "gusset", "points_mm": [[0, 0], [100, 0], [0, 100]], "quantity": 12}, {"name": "pad", "points_mm": [[0, 0], [80, 0], [80, 60], [0, 60]], "quantity": 4}],
    },
    sources=("geometry",),
)  # fmt: skip
def run_nest(data: NestInput) -> tuple[dict[str, Any], Working]:
    """Plates of any outline on offcuts and as few new sheets as are found, with what no layout betters."""
    shapes = []
    for i, piece in enumerate(data.pieces):
        outline = Contour(edges=straight_sides(_counter_clockwise(piece.points_mm)))
        shapes.append(Shape(name=piece.name or f"piece {i}", outline=outline, count=piece.quantity, angles=angles_of(outline, piece.turns or data.turns)))  # fmt: skip
    new = Sheet(length=data.sheet_mm[0], width=data.sheet_mm[1], count=None)
    offcuts = [Sheet(length=length, width=width, count=count) for length, width, count in data.offcuts]
    found = nest(shapes, new, offcuts, spacing=data.spacing_mm, edge=data.edge_mm, clock=monotonic, seconds=data.time_s, seed=data.seed)  # fmt: skip
    layout = []
    for one in found.sheets:
        metal = sum(shapes[piece.shape].outline_area for piece in one.placed)
        layout.append({
            "length_mm": one.length, "width_mm": one.width, "new": one.new, "used_mm": one.used, "left_mm": one.left, "utilisation": metal / (one.used * one.width),
            "placed": [{"piece": piece.shape, "x_mm": piece.x, "y_mm": piece.y, "angle_deg": piece.angle_deg} for piece in one.placed],
        })  # fmt: skip
    out = {"sheets": found.new, "bound": found.bound, "proven": found.proven, "utilisation": found.utilisation, "layout": layout}  # fmt: skip
    return out, [
        step("fewest new sheets", "⌈(Σ areas grown by half the spacing − offcuts) / a sheet’s room grown by as much⌉", "geometry", sheets=found.new, bound=found.bound),
        step("utilisation", "Σ outlines / Σ used length × width", "geometry", utilisation=found.utilisation),
    ]  # fmt: skip


def _counter_clockwise(points: list[tuple[float, float]]) -> list[tuple[float, float]]:
    from shapely.geometry import LinearRing

    if points[0] == points[-1]:
        points = points[:-1]
    return points if LinearRing(points).is_ccw else points[::-1]
