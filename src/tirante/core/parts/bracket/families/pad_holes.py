"""Further holes in a pad's plate, and a lightening hole in either web: where they may be, and what they take.

The rule: round each as much metal is left as round a lightening hole, to every edge and hole; clear of the webs by their fillet, or by the plate's
thickness, and of what lies or strikes on the plate (common practice, no source). All further holes are taken off the width of plate that carries, wherever
they are (on the safe side).
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import floor, hypot

from tirante.core.document.parts.pad import PadPart
from tirante.core.errors import InputError
from tirante.core.flat.contour import Contour, Hole, polygon
from tirante.core.parts.bracket.families.lightened import HALF, LEAST
from tirante.core.parts.bracket.families.pad import PadShape
from tirante.core.parts.bracket.families.tab_rims import rim_of
from tirante.core.parts.part import CardLine, across


@dataclass(frozen=True, slots=True, kw_only=True)
class LiesOn:
    """What lies or strikes on a plate: all that is nearer to a line from its middle to either side than a radius [mm]."""

    along: float = 0.0  # where that line ends, from the plate's middle; the other end as far the other way
    across: float = 0.0
    radius: float
    what: str

    def from_it(self, x: float, y: float) -> float:
        """Of a place on the plate from its edge [mm]; less than nothing under it.

        Args:
            x: along the webs.
            y: across them.
        """
        size = hypot(self.along, self.across)
        at = max(-size, min(size, (x * self.along + y * self.across) / size)) if size else 0.0
        nearest = (at * self.along / size, at * self.across / size) if size else (0.0, 0.0)
        return hypot(x - nearest[0], y - nearest[1]) - self.radius


def with_holes(saved: PadPart, shape: PadShape, outline: Contour, on: LiesOn) -> PadShape:
    """The pad with what its further holes and its webs' hole take.

    Args:
        saved: as it is.
        shape: of it, without.
        outline: of its plate, with its own holes.
        on: what lies or strikes on it.

    Raises:
        InputError: one may not be where it is, with how much is left and the least.
    """
    _placed(saved, outline, on)
    lost = sum(one.diameter_mm for one in saved.extra)
    hole = web_hole(saved, shape)
    pad = replace(shape.pad, lost=lost, hole=hole)
    if pad.carries <= 0:
        raise InputError("Its further holes leave nothing of the plate that carries. Take one of them out, or make it longer.", code="contradictory", fields=("extra",))  # fmt: skip
    return replace(shape, pad=pad)


def _placed(saved: PadPart, outline: Contour, on: LiesOn) -> None:
    from shapely.geometry import Point

    rim, beside = rim_of(saved.plate_mm), max(saved.leg_mm, saved.plate_mm)
    plate = polygon(outline)
    for i, one in enumerate(saved.extra):
        field, x, y, d = f"extra.{i}", one.along_mm, one.across_mm, one.diameter_mm
        at = Point(x, y)
        room = float(plate.boundary.distance(at)) * (1.0 if plate.contains(at) else -1.0) - d / 2
        if room < rim - 1e-9:
            raise InputError(f"Round hole {i + 1} {max(room, 0.0):.1f} mm of metal are left, and {rim:g} mm are asked: {_most(2 * (room + d / 2 - rim))}. Move it, or make the plate larger.", code="out_of_range", fields=(f"{field}.diameter_mm",), value=d, limits=(None, 2 * (room + d / 2 - rim)))  # fmt: skip
        clear = on.from_it(x, y) - d / 2
        if clear < -1e-9:
            raise InputError(f"Hole {i + 1} reaches {-clear:.1f} mm under {on.what}. Move it so far, or make the plate larger.", code="out_of_range", fields=(f"{field}.along_mm",), value=x)  # fmt: skip
        web = abs(abs(y) - saved.apart_mm / 2) - saved.web_mm / 2 - d / 2
        if web < beside - 1e-9:
            raise InputError(f"Hole {i + 1} stands {max(web, 0.0):.1f} mm beside a web, where its weld is, and {beside:g} mm are asked: {_most(2 * (web + d / 2 - beside))}. Move it across, or set the webs elsewhere.", code="out_of_range", fields=(f"{field}.across_mm",), value=y)  # fmt: skip
        for j, two in enumerate(saved.extra[:i]):
            between = hypot(x - two.along_mm, y - two.across_mm) - (d + two.diameter_mm) / 2
            if between < rim - 1e-9:
                raise InputError(f"Between holes {j + 1} and {i + 1} {max(between, 0.0):.1f} mm of metal are left, and {rim:g} mm are asked. Set them further apart.", code="out_of_range", fields=(f"{field}.along_mm",), value=between, limits=(rim, None))  # fmt: skip


def _most(diameter: float) -> str:
    return f"at most {int(2 * diameter + 1e-6) / 2:g} mm across there" if diameter >= 3.0 else "not there"


def extra_in_plate(saved: PadPart) -> tuple[Hole, ...]:
    """Its further holes.

    Args:
        saved: as it is.
    """
    return tuple(Hole(one.along_mm, one.across_mm, one.diameter_mm) for one in saved.extra)


def web_hole(saved: PadPart, shape: PadShape) -> float:
    """Diameter of the hole in either web, alike in both: as large as the rule lets it be, or as given [mm]; 0 where there is none.

    Args:
        saved: as it is.
        shape: of it.

    Raises:
        InputError: there is no room for it, or for one so large.
    """
    if saved.lighten is None:
        return 0.0
    rim = rim_of(saved.web_mm)
    radius = min(min(map(shape.web_middle, (0, 1))) - rim, saved.length_mm / 2 - rim, HALF * saved.length_mm / 2)
    most = floor(4 * radius) / 2
    if most < LEAST:
        raise InputError(f"There is no room for a lightening hole in a web: {rim:g} mm of metal are left round it. Make the pad longer or stand it higher, or leave the hole out.", code="contradictory", fields=("lighten",))  # fmt: skip
    wanted = saved.lighten.diameter_mm
    if wanted is not None and wanted > most:
        raise InputError(f"A web’s lightening hole is {most:g} mm at most here: {rim:g} mm of metal are left round it, and half the web’s length.", code="out_of_range", fields=("lighten.diameter_mm",), value=wanted, limits=(LEAST, most))  # fmt: skip
    return wanted or most


def pad_hole_lines(saved: PadPart, shape: PadShape) -> tuple[CardLine, ...]:
    """What is said of them on the card.

    Args:
        saved: as it is.
        shape: of it.
    """
    lines = []
    for one in saved.extra:
        what = f" for {one.what}" if one.what else ""
        lines.append(CardLine(text=f"hole ⌀{one.diameter_mm:g} mm{what} in the plate, {abs(one.across_mm):g} mm across its middle line; from its middle, along the webs", mm=one.along_mm))  # fmt: skip
    if shape.pad.hole:
        ups = [hole.y for (hole,) in shape.web_holes]
        lines.append(across(text="lightening hole midway along either web", mm=shape.pad.hole))
        lines += [CardLine(text=f"{name}, its hole’s middle over its foot", mm=up) for name, up in zip(("one web", "other web"), ups, strict=True)]  # fmt: skip
    return tuple(lines)
