"""A plate on two webs over what it stands on: its shape, its webs and their feet judged, its flats and its drawing.

The webs stand along the tube, their tops under the pad's face, so that they may be taller at one end or on one side.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import asin, degrees, floor, hypot, sqrt
from typing import Any, Protocol

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.strike_pad import Blow, PadOnWebs, web_push, web_stress
from tirante.core.brackets.tools import Fillet, Hexagon, hexagon_on, straight_fillet
from tirante.core.brackets.weld_group import weld_group
from tirante.core.checks.kinds import Asked, asked
from tirante.core.checks.result import CheckResult, Reproduction
from tirante.core.document.parts.pad import PadPart
from tirante.core.document.settings import Settings
from tirante.core.drawing.flat import draw_contour
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.flat.contour import Contour, Hole, straight_sides
from tirante.core.members.insert_weld import SHEAR_OF_ELECTRODE, THROAT_OF_LEG
from tirante.core.parts.bracket.families.pad_under import LEANS_MOST, Under
from tirante.core.parts.part import Card, CardLine, Figure, Misfit
from tirante.core.parts.plate_eye import MODULUS
from tirante.core.parts.rocker.shape import plate_outline
from tirante.core.parts.stands import CUT_TRUE
from tirante.core.parts.worst import worst_case

Array = NDArray[np.float64]
WELD_ROOM = (
    4.0  # mm of a tube that stands out past both webs, for the fillets at their feet; common practice, no source
)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Flat:
    """A plate as it stands in the car: its outline in x and y, half its thickness to either side."""

    outline: Array  # (corners, 2) [mm]
    at: Array  # where the outline's zero is (3)
    x: Array  # (3), length 1
    y: Array  # likewise, square to x
    thickness: float
    name: str = ""  # of several, in words


@dataclass(frozen=True, slots=True, kw_only=True)
class PadShape:
    """The pad over what it stands on: x along that, z up from it, y across."""

    axes: Array  # (3, 3) rows: along the webs, across, square to the face; in the car
    heights: tuple[tuple[float, float], tuple[float, float]]  # of either web, at its rear and at its front end [mm]
    pad: PadOnWebs
    on: str  # in words
    od: float | None  # of the tube below; None: a flat
    skin: float  # from the middle of that tube up to the webs' feet [mm]
    level: float  # from the middle of that tube, or from the flat, up to the plate's underside at its middle [mm]
    wide: float  # of the plate [mm]
    middle: Array  # of its face, in the car (3)
    stands: Array  # (3, 3) rows: along what it stands on, across, out from it; in the car
    foot: Array  # where the webs' feet stand, under the middle, in the car (3)
    falls: tuple[float, float]  # what of that a millimetre along the webs takes, and one across

    @property
    def flats(self) -> tuple[Flat, ...]:
        """Plate and webs as they stand in the car."""
        half, across, pad = self.pad.length / 2, self.wide / 2, self.pad
        plate = Flat(
            outline=np.array([(-half, -across), (half, -across), (half, across), (-half, across)]), at=self.middle - self.axes[2] * pad.plate / 2,
            x=self.axes[0], y=self.axes[1], thickness=pad.plate,
        )  # fmt: skip
        along, aside, out = self.stands
        webs = [
            Flat(
                outline=np.array([(-half, 0.0), (half, 0.0), (half, web[1]), (-half, web[0])]), at=self.foot + aside * side * pad.apart / 2, x=along, y=out, thickness=pad.web
            )
            for side, web in zip((1.0, -1.0), self.heights, strict=True)
        ]  # fmt: skip
        return plate, *webs

    def web_middle(self, web: int) -> float:
        """Of a place midway along a web that is as far from its foot as from its top: how far that is [mm].

        Args:
            web: which, 0 or 1.
        """
        rear, front = self.heights[web]
        slope = self.pad.length / hypot(self.pad.length, front - rear)
        return (rear + front) / 2 * slope / (1 + slope)

    @property
    def web_holes(self) -> tuple[tuple[Hole, ...], tuple[Hole, ...]]:
        """The lightening hole of either, in its outline; none where it has none."""
        if not self.pad.hole:
            return (), ()
        one, two = ((Hole(0.0, round(self.web_middle(web), 1), self.pad.hole),) for web in (0, 1))
        return one, two

    @property
    def fillets(self) -> tuple[Fillet, ...]:
        """Along the outer feet of both webs, on the tube or flat that they stand on."""
        (along, aside, out), half, found = self.stands, self.pad.length / 2, []
        for side in (1.0, -1.0):
            beside = side * (self.pad.apart + self.pad.web) / 2
            normal = out if self.od is None else (beside * aside + self.skin * out) / hypot(beside, self.skin)
            away = side * (aside - float(aside @ normal) * normal)
            root = self.foot + beside * aside
            found.append(straight_fillet("the outer feet of its webs", root - half * along, root + half * along, normal, away / np.linalg.norm(away)))  # fmt: skip
        return tuple(found)

    def nut_under(self, x: float, y: float, diameter: float, *, held: bool) -> Hexagon:
        """A nut on the plate's underside, of a bolt through it.

        Args:
            x: along the webs, from the middle [mm].
            y: across them [mm].
            diameter: of the bolt [mm].
            held: whether it is held while the bolt's head is turned.
        """
        along, across, face = self.axes
        return hexagon_on(
            self.middle + x * along + y * across - self.pad.plate * face, -face, diameter, nut=True, held=held
        )

    def below(self, x: float, y: float) -> float:
        """Room from the plate's underside down to what it stands on [mm]; far beside a tube there is nothing.

        Args:
            x: along the webs, from the middle [mm].
            y: across them [mm].
        """
        level = self.level - self.falls[0] * x - self.falls[1] * y
        if self.od is None:
            return level
        left = (self.od / 2) ** 2 - y * y
        return level - sqrt(left) if left > 0 else float("inf")


class PadCase(Protocol):
    """A pad in one case."""

    @property
    def case(self) -> str:
        """Its name."""

    @property
    def where(self) -> str:
        """Its position, in words."""

    @property
    def blow(self) -> Blow:
        """What acts on its face."""


def shaped(saved: PadPart, face: Array, footprint: float, under: Under, middle: Array) -> PadShape | Misfit:
    """The pad over what it stands on; or what stands in the way.

    Args:
        saved: as it is.
        face: the way it looks (3), length 1; either way round.
        footprint: radius that what presses on it is spread over [mm].
        under: what its webs stand on.
        middle: of its face, in the car (3).
    """
    along, out, od, off, told = under.along, under.out, under.od, under.off, under.told
    if face @ out < 0:
        face = -face
    across = np.cross(out, along)
    nx, ny, nz = float(face @ along), float(face @ across), float(face @ out)
    if nz < LEANS_MOST:
        return Misfit(field="end_id", message=f"The pad’s face leans {degrees(np.arccos(nz)):.0f}° from square to what it stands on. Turn it at Layout, or put it on another tube.")  # fmt: skip
    y = saved.apart_mm / 2
    if od is not None and y + saved.web_mm / 2 >= od / 2:
        return Misfit(field="apart_mm", message=f"The webs stand {saved.apart_mm:g} mm apart and pass beside a tube of {od:g} mm. Set them nearer, {floor(od - saved.web_mm - WELD_ROOM)} mm or less.")  # fmt: skip
    skin = sqrt((od / 2) ** 2 - y * y) if od is not None else 0.0
    level = off - saved.plate_mm / nz

    def high(x: float, side: float) -> float:
        return level - skin - (nx * x + ny * side * y) / nz

    half = saved.length_mm / 2
    if under.room is not None and (ends := min(under.room)) < half - CUT_TRUE:
        name = told.split(",")[0]
        message = (
            f"{name} ends {ends:.0f} mm from the pad’s middle, and half the pad is {half:g} mm. Make it shorter, or give it another mount."
            if ends > 0 else f"{name} ends {-ends:.0f} mm short of the pad’s middle. Give it another mount."
        )  # fmt: skip
        return Misfit(field="mount", message=message)
    webs = tuple((high(-half, side), high(half, side)) for side in (1.0, -1.0))
    least = min(min(web) for web in webs)
    if least < saved.web_mm:
        return Misfit(field="length_mm" if under.given else "height_mm", message=f"{f'Only {least:.1f} mm is' if least > 0 else 'Nothing is'} left for a web under the pad. Move the pad further off at Layout, or make it shorter or thinner.")  # fmt: skip
    pad = PadOnWebs(
        plate=saved.plate_mm, length=saved.length_mm, web=saved.web_mm, apart=saved.apart_mm, height=max(max(web) for web in webs),
        footprint=footprint,
    )  # fmt: skip
    first = along - face * float(along @ face)
    first /= np.linalg.norm(first)
    return PadShape(
        axes=np.array([first, np.cross(face, first), face]),
        heights=(webs[0], webs[1]),
        pad=pad,
        on=told,
        od=od,
        skin=skin,
        level=level,
        wide=saved.width_mm,
        middle=middle,
        stands=np.array([along, across, out]),
        foot=middle - out * (off - skin),
        falls=(nx / nz, ny / nz),
    )


def times(blow: Blow, factor: float) -> Blow:
    """What acts, factored.

    Args:
        blow: unfactored.
        factor: on its forces.
    """
    return replace(blow, **{name: getattr(blow, name) * factor for name in ("push", "along", "across", "rocks", "tilts", "twists")})  # fmt: skip


def pad_input(pad: PadOnWebs, blow: Blow, yield_mpa: float) -> dict[str, Any]:
    """A pad as `calc strike-pad` takes it.

    Args:
        pad: plate and webs.
        blow: on it, factored.
        yield_mpa: of its steel.
    """
    return {
        "plate_mm": pad.plate, "length_mm": pad.length, "web_mm": pad.web, "apart_mm": pad.apart, "height_mm": pad.height, "footprint_mm": pad.footprint,
        "push_n": blow.push, "along_n": blow.along, "across_n": blow.across, "off_along_mm": blow.off_along, "off_across_mm": blow.off_across,
        "over_mm": blow.over, "yield_mpa": yield_mpa,
        **({"rim": True} if pad.rim else {}), **({"lost_mm": pad.lost} if pad.lost else {}), **({"web_hole_mm": pad.hole} if pad.hole else {}), **{name: value for name, value in (("rocks_nmm", blow.rocks), ("tilts_nmm", blow.tilts), ("twists_nmm", blow.twists), ("clamped_n", blow.clamped)) if value},
    }  # fmt: skip


def web_checks(saved: PadPart, shape: PadShape, cases: Sequence[PadCase], settings: Settings) -> list[CheckResult]:
    """Its webs at their feet and as struts, and the weld at their feet; loads are factored before each.

    Args:
        saved: as it is.
        shape: of it.
        cases: at least one.
        settings: factors, electrode.
    """
    pad, factors = shape.pad, settings.factors
    web, pressed, welded = (
        asked(key, part, factors) for key, part in (("pad_web", "webs"), ("pad_column", "webs"), ("pad_weld", "feet"))
    )
    strong = pad.column.column(saved.yield_mpa, MODULUS)
    leg = min(saved.leg_mm, saved.web_mm)
    half, y = pad.length / 2, pad.apart / 2
    runs = [(-half, side * y, half, side * y) for side in (1.0, -1.0)]
    strength = SHEAR_OF_ELECTRODE * settings.electrode_uts_mpa

    def again(blow: Blow, output: str) -> Reproduction:
        return Reproduction(
            topic="strike-pad", input=pad_input(pad, blow, saved.yield_mpa), output=output, figure="demand"
        )

    def weld(one: PadCase) -> tuple[float, Reproduction, float]:
        blow = times(one.blow, welded.factor)
        force, at = (blow.along, blow.across, -blow.push), (blow.off_along, blow.off_across, pad.height + blow.over)
        turned = (blow.rocks, blow.tilts, blow.twists)
        data = {
            "segments": [list(run) for run in runs], "leg_mm": leg, "force_n": list(force), "at_mm": list(at), "electrode_uts_mpa": settings.electrode_uts_mpa,
            **({"moment_nmm": list(turned)} if any(turned) else {}),
        }  # fmt: skip
        stress = weld_group(runs, force, at, turned).max_line_force / (THROAT_OF_LEG * leg)
        return stress, Reproduction(topic="weld", input=data, output="throat_stress_max_mpa", figure="demand"), strength

    def at_foot(one: PadCase, kind: Asked) -> tuple[float, Reproduction, float]:
        blow = times(one.blow, kind.factor)
        return web_stress(pad, blow), again(blow, "web_mpa"), saved.yield_mpa

    def as_column(one: PadCase, kind: Asked) -> tuple[float, Reproduction, float]:
        blow = times(one.blow, kind.factor)
        return max(0.0, web_push(pad, blow)), again(blow, "web_n"), strong

    return [
        worst_case(web, cases, lambda one: at_foot(one, web)),
        worst_case(pressed, cases, lambda one: as_column(one, pressed)),
        worst_case(welded, cases, weld),
    ]


def pad_outline(saved: PadPart, holes: Sequence[Hole] = ()) -> Contour:
    """A rectangle, its middle at 0.

    Args:
        saved: the pad.
        holes: through it.
    """
    corners = ((-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0))
    c = saved.corner_mm
    at = [(x * (saved.length_mm / 2 - c), y * (saved.width_mm / 2 - c)) for x, y in corners]
    if c:
        return Contour(edges=plate_outline([(x, y, c) for x, y in at]), holes=tuple(holes))
    return replace(_polygon(at), holes=tuple(holes))


def web_outline(saved: PadPart, heights: tuple[float, float], holes: Sequence[Hole] = ()) -> Contour:
    """Its foot at 0, as high at either end as the pad's face asks.

    Args:
        saved: the pad.
        heights: at its rear and its front end [mm].
        holes: through it.
    """
    half = saved.length_mm / 2
    return replace(_polygon([(-half, 0.0), (half, 0.0), (half, heights[1]), (-half, heights[0])]), holes=tuple(holes))


def _polygon(corners: Sequence[tuple[float, float]]) -> Contour:
    return Contour(edges=straight_sides(corners))


def pad_card(saved: PadPart, shape: PadShape, more: Sequence[CardLine] = ()) -> Card:
    """What a person at the bench needs of it.

    Args:
        saved: the pad.
        shape: of it.
        more: lines of its kind.
    """
    one, two = shape.heights
    lines = [CardLine(text=f"pad {saved.width_mm:g} mm wide, of {saved.plate_name}", mm=saved.plate_mm)]
    if saved.corner_mm:
        lines.append(CardLine(text="its corners round, radius", mm=saved.corner_mm))
    for name, web in (("one web", one), ("other web", two)):
        lines.append(CardLine(text=f"{name}, at its rear end", mm=web[0]))
        lines.append(CardLine(text=f"{name}, at its front end", mm=web[1]))
    lines.append(CardLine(text="webs, middle to middle", mm=saved.apart_mm))
    if saved.spread_mm is not None:
        lines.append(
            CardLine(
                text=f"on a spread plate, welded all round first, {saved.beyond_mm:g} mm beyond the webs; thick",
                mm=saved.spread_mm,
                strong=True,
            )
        )
    return Card(
        figures=(Figure(label="pad and webs, long", mm=saved.length_mm, note=f"on {shape.on}"),), lines=(*lines, *more)
    )


def pad_sheet(saved: PadPart, shape: PadShape, numbers: Numbers, over: float = 0.0) -> tuple[Sheet, Frame, Frame]:
    """The pad from its side and seen along what it stands on.

    Args:
        saved: the pad.
        shape: of it.
        numbers: how figures are written.
        over: room to leave above its face, for what comes on it [mm].

    Returns:
        The sheet, and the frames of both: their middles on what the webs' feet stand on.
    """
    sheet = Sheet(name=saved.kind, title=saved.name, width=217.0, height=120.0, numbers=numbers)
    tall = max(max(web) for web in shape.heights) + over
    below = shape.skin + (shape.od or 8.0) / 2
    scale = min(70.0 / saved.length_mm, 54.0 / (tall + saved.plate_mm + below), 1.5)
    sheet.scale = scale
    side, end = (Frame(x, 22.0 + scale * below, scale) for x in (62.0, 160.0))
    sheet.text((6, 112), f"along what it stands on: {shape.on}", 2.9, tone="muted")
    sheet.text((130, 112), "seen along it", 2.9, tone="muted")
    _ground(sheet, side, end, saved, shape)
    half, web = saved.length_mm / 2, shape.heights[0]
    draw_contour(sheet, side, web_outline(saved, web, shape.web_holes[0]), "visible", ref="field:web_mm")
    run = hypot(saved.length_mm, web[1] - web[0])
    ux, uz = saved.length_mm / run * saved.plate_mm, (web[1] - web[0]) / run * saved.plate_mm
    _drawn(
        sheet,
        side,
        [(-half, web[0]), (half, web[1]), (half - uz, web[1] + ux), (-half - uz, web[0] + ux)],
        "field:plate_mm",
    )
    foot = side.at(0, -below)[1]
    at = side.at(-half, 0)[0], side.at(half, 0)[0]
    sheet.dimension((at[0], foot), (at[1], foot), saved.length_mm, offset=-5.0, ref="field:length_mm")
    sheet.dimension(side.at(-half, 0), side.at(-half, web[0]), web[0], offset=20.0, ref="dim:rear", size=3.0)
    sheet.dimension(side.at(half, 0), side.at(half, web[1]), web[1], offset=-6.0, ref="dim:front", size=3.0)
    y, t, w = saved.apart_mm / 2, saved.web_mm / 2, saved.width_mm / 2
    tops = [sum(one) / 2 for one in shape.heights]
    for middle, high in ((y, tops[0]), (-y, tops[1])):
        box = [(middle - t, 0.0), (middle + t, 0.0), (middle + t, high), (middle - t, high)]
        _drawn(sheet, end, box, "field:web_mm")
    rise, middle = (tops[0] - tops[1]) / saved.apart_mm * w, (tops[0] + tops[1]) / 2
    thick = saved.plate_mm
    plate = [(-w, middle - rise), (w, middle + rise), (w, middle + rise + thick), (-w, middle - rise + thick)]
    _drawn(sheet, end, plate, "field:plate_mm")
    sheet.dimension((end.at(-y, 0)[0], foot), (end.at(y, 0)[0], foot), saved.apart_mm, offset=-5.0, ref="field:apart_mm", note="webs’ middles")  # fmt: skip
    # over it stands what lies on it
    level, offset = (foot, -15.0) if over else (end.at(0, max(point[1] for point in plate))[1], 5.0)
    sheet.dimension((end.at(-w, 0)[0], level), (end.at(w, 0)[0], level), saved.width_mm, offset=offset, ref="field:width_mm", size=3.0)  # fmt: skip
    sheet.text((6, 6), f"pad {numbers.written(saved.plate_mm)}, webs {numbers.written(saved.web_mm)} {saved.plate_name}{f', on a spread plate {numbers.written(saved.spread_mm)}' if saved.spread_mm else ''}; fillet {numbers.written(min(saved.leg_mm, saved.web_mm))} outside", 2.9, tone="muted")  # fmt: skip
    return sheet, side, end


def _drawn(sheet: Sheet, frame: Frame, corners: Sequence[tuple[float, float]], ref: str) -> None:
    sheet.area([frame.at(*corner) for corner in corners], "sheet", ref=ref)


def _ground(sheet: Sheet, side: Frame, end: Frame, saved: PadPart, shape: PadShape) -> None:
    """What it stands on: a tube along and across, or a flat."""
    reach = 0.7 * saved.length_mm
    if shape.od is None:
        for frame, out in ((side, reach), (end, 0.7 * saved.width_mm)):
            box = [frame.at(x, z) for x, z in ((-out, 0.0), (out, 0.0), (out, -4.0), (-out, -4.0))]
            sheet.area(box, "pale", "thin", "muted")
        for frame, half in (
            ((side, saved.length_mm / 2), (end, (saved.apart_mm + saved.web_mm) / 2)) if saved.spread_mm else ()
        ):
            out = half + saved.beyond_mm
            corners = [(-out, 0.0), (out, 0.0), (out, -(saved.spread_mm or 0.0)), (-out, -(saved.spread_mm or 0.0))]
            sheet.area([frame.at(x, z) for x, z in corners], "steel", ref="field:spread_mm")
        return
    r, thick = shape.od / 2, saved.spread_mm or 0.0  # a spread plate lies on the tube, and the webs on that
    for z in (r - thick - shape.skin, -r + thick - shape.skin):
        sheet.line(side.at(-reach, z), side.at(reach, z), "thin", "muted")
    sheet.line(side.at(-reach, -shape.skin), side.at(reach, -shape.skin), "centre", "muted")
    middle = end.at(0.0, -shape.skin)
    sheet.circle(middle, (r - thick) * end.scale, "thin")
    if thick:
        half = degrees(asin(min(1.0, (saved.apart_mm + saved.web_mm) / shape.od)) + saved.beyond_mm / (r - thick / 2))
        sheet.arc(middle, r * end.scale, 90.0 - half, 90.0 + half, "visible", ref="field:spread_mm")
        long = saved.length_mm / 2 + saved.beyond_mm
        corners = [(-long, r - thick), (long, r - thick), (long, r), (-long, r)]
        sheet.area([side.at(x, z - shape.skin) for x, z in corners], "pale", "thin", "muted", ref="field:spread_mm")
