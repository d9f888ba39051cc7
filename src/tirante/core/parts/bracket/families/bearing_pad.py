"""Bearing pads as a kind of part: what a bar's bearing is bolted to, on a member of the car or on a flat.

The pad's face lies under the bearing's foot, square to the way that the bar lets it; its webs run along what it stands on, and its bolts either
one behind the other between them or side by side.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import acos, ceil, degrees, floor
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.bearing_pad import (
    ACROSS_DEG,
    ALONG_DEG,
    OnBearing,
    PadBolts,
    bolt_use,
    hole_use,
    plate_stress,
)
from tirante.core.brackets.bolt import bolt_class
from tirante.core.brackets.strike_pad import Blow
from tirante.core.brackets.tools import Hexagon, WayOut, drawn_out
from tirante.core.checks.kinds import Asked, asked
from tirante.core.checks.result import CheckResult, Reproduction
from tirante.core.checks.shown import Out
from tirante.core.document.joints import HeldJoint, PointOfBody
from tirante.core.document.parts.bearing_pad import BearingPad
from tirante.core.document.settings import Settings
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.flat.contour import Contour, Hole
from tirante.core.parts.around import Around
from tirante.core.parts.bearing import Bearing
from tirante.core.parts.bracket.families.pad import PadShape, pad_card, pad_outline, pad_sheet, web_checks
from tirante.core.parts.bracket.families.pad_holes import LiesOn, pad_hole_lines
from tirante.core.parts.bracket.families.pad_kind import SHORTEST, PadKind, PadMade, pad_fields
from tirante.core.parts.bracket.families.pad_under import Under, under_bearing, under_typed
from tirante.core.parts.part import Card, CardLine, Misfit, Part, across
from tirante.core.parts.stands import At
from tirante.core.parts.worst import worst_case

Array = NDArray[np.float64]
HOLE_OVER = 0.5  # mm over a bolt: enough to line a bearing up, and no more; common practice, no source
WASHER = 1.0  # of the bolt's diameter, a washer's radius; ISO 7089 M8 to M12 has 1.0, from memory
NUT = 0.9  # of it, half a nut across its corners; ISO 4032 M8: 14.4 mm, from memory
NUT_ROOM = 1.0  # mm, beside a nut; common practice, no source
BELOW = 1.5  # diameters that nut, washer and thread take below the plate; common practice, no source
FROM_EDGE = 1.25  # diameters from a hole's middle to the plate's edge at least; AISC J3.4, rolled edges, from memory
USUAL_EDGE = 2.0  # of a pad that is proposed; common practice, no source
ROW = 6.0  # diameters, of its length where the bolts stand side by side; common practice, no source
THICKER = 10.0  # mm of web that is left room for between the nuts; common practice, no source
FOOT = 1.5  # diameters of its bolts, of half of a bearing's foot; common practice, no source
FOOT_THICK = 1.0  # diameters of its bolts that a bearing's foot is thick; common practice, no source
BESIDE = 5.0  # mm of plate past either web of a pad that is proposed; common practice, no source
EVENLY = 0.7  # of the bolts’ line along the webs: beyond it they stand one behind the other
PAST = 2.0  # mm of a bolt's middle line past the plate, where a dimension stands over it
NOT_CHECKED = (
    "the bearing’s own foot, and what it pries",
    "the room round it, and for a spanner at its nuts (to be looked at under Room)", "its everyday life", "weld quality (assumed sound)", "corrosion",
)  # fmt: skip


class BearingPadOwn(Out):
    """What only a bearing pad has."""

    kind: Literal["bearing_pad"] = "bearing_pad"
    pull_n: float
    case: str
    stands_on: str


@dataclass(frozen=True, slots=True, kw_only=True)
class OnPad:
    """A pad in one case."""

    case: str
    where: str
    blow: Blow
    acting: OnBearing


@dataclass(frozen=True, slots=True, kw_only=True)
class BearingMade(PadMade):
    """A bearing pad with its core objects."""

    bearing: Bearing
    bolts: PadBolts
    line: Array  # the way from the middle to one of them, in the pad's own axes (3)

    @property
    def hexagons(self) -> tuple[tuple[str, Hexagon], ...]:
        """Both nuts, under the plate."""
        half = self.bolts.pitch / 2
        return tuple(("nuts under the pad", self.shape.nut_under(way * half * float(self.line[0]), way * half * float(self.line[1]), self.bolts.bolt, held=True)) for way in (1.0, -1.0))  # fmt: skip

    @property
    def ways(self) -> tuple[tuple[str, tuple[WayOut, ...]], ...]:
        """Both bolts: from over the plate, what lies on it not there yet, or from below."""
        along, across, face = self.shape.axes
        d, half, plate = self.bolts.bolt, self.bolts.pitch / 2, self.shape.pad.plate
        long = plate + (BELOW + FOOT_THICK) * d
        found = []
        for way in (1.0, -1.0):
            at = self.shape.middle + way * half * (float(self.line[0]) * along + float(self.line[1]) * across)
            found.append(
                ("the bearing’s bolts", (drawn_out(at, face, d, long), drawn_out(at - plate * face, -face, d, long)))
            )
        return tuple(found)


def bolts_on(shape: PadShape, bearing: Bearing) -> tuple[PadBolts, Array]:
    """Its bolts over the webs, and the way of their line in the pad's own axes (3).

    Args:
        shape: of the pad.
        bearing: on it, its sizes given.
    """
    assert bearing.bolt
    assert bearing.pitch
    assert bearing.high
    line = shape.axes @ np.cross(bearing.along, shape.axes[2])
    line = line / np.linalg.norm(line)
    turned = degrees(acos(min(1.0, abs(float(line[0])))))
    return PadBolts(bolt=bearing.bolt, hole=bearing.bolt + HOLE_OVER, pitch=bearing.pitch, turned_deg=turned, high=bearing.high), line  # fmt: skip


def misfit_of(shape: PadShape, bolts: PadBolts, line: Array) -> Misfit | None:
    """What keeps its bolts from going in; None: nothing.

    Args:
        shape: of the pad.
        bolts: of the bearing.
        line: the way from the middle to one of them, in the pad's own axes (3).
    """
    pad, d, (x, y) = shape.pad, bolts.bolt, bolts.at
    if ALONG_DEG < bolts.turned_deg < ACROSS_DEG:
        return Misfit(field="mount", message=f"What lies on it crosses what the pad stands on at {90 - bolts.turned_deg:.0f}°: a pad on two webs takes what runs across or along it, within {ALONG_DEG:g}°. Give it another mount.")  # fmt: skip
    nut, inner, outer = NUT * d + NUT_ROOM, (pad.apart - pad.web) / 2, (pad.apart + pad.web) / 2
    if y + nut > inner and y - nut < outer:
        if bolts.turned_deg <= ALONG_DEG:
            return Misfit(field="apart_mm", message=f"The nuts, {2 * NUT * d:.0f} mm over their corners, strike the webs. Set these {ceil(2 * (y + nut) + pad.web)} mm apart or more, middle to middle.")  # fmt: skip
        nearer = 2 * (y - nut) - pad.web
        near = f"{nearer:.0f} mm apart or less, or " if nearer > pad.web else ""
        return Misfit(field="apart_mm", message=f"A web stands where a nut goes. Set the webs {near}{ceil(2 * (y + nut) + pad.web)} mm apart or more, middle to middle.")  # fmt: skip
    need = FROM_EDGE * d
    if pad.length / 2 - x < need:
        return Misfit(field="length_mm", message=f"The bolts stand {pad.length / 2 - x:.1f} mm from the pad’s end and need {need:.1f}. Make it {ceil(2 * (x + need))} mm long or more.")  # fmt: skip
    if shape.wide / 2 - y < need:
        return Misfit(field="width_mm", message=f"The bolts stand {shape.wide / 2 - y:.1f} mm from the pad’s side and need {need:.1f}. Make it {ceil(2 * (y + need))} mm wide or more.")  # fmt: skip
    (across, over), half = line[:2], bolts.pitch / 2
    room = min(shape.below(way * half * across, way * half * over) for way in (1.0, -1.0))
    if room < BELOW * d:
        return Misfit(field="mount", message=f"Only {room:.1f} mm is left below the pad for the nuts, which take {BELOW * d:.0f}. Move what lies on it further off at Layout, or give it another mount.")  # fmt: skip
    return None


class BearingPadKind(PadKind[BearingPad]):
    """Bearing pads."""

    key = "bearing_pad"
    word = "bearing pad"
    saved = BearingPad
    own = BearingPadOwn
    fields = pad_fields(BearingPad)
    not_checked = NOT_CHECKED
    unloaded = "no case pushes at what lies on it: nothing of it was judged"
    no_case = "No case pushes at what lies on this pad, so nothing says what it must bear. Add one at Loads that rolls the car, or steers it."

    def begun(self, part_id: str, of: str, held: PointOfBody, owner: str) -> BearingPad:
        """Of a usual size; `fitted` proportions it to the bearing."""
        return BearingPad(id=part_id, name=f"{of[:62]}, bearing pad", end_id=held.end_id, bar=owner)

    def fitted(self, saved: BearingPad, around: Around) -> BearingPad:
        """The same as long, as wide and with its webs as far apart as its bolts ask, and as what it stands on lets them stand."""
        bearing, faced = self._bearing(saved, around), self.faced(saved, around)
        if isinstance(bearing, Misfit) or isinstance(faced, Misfit):
            return saved
        assert bearing.bolt
        assert bearing.pitch
        face, _, under, _ = faced
        way = under.along - face * float(under.along @ face)
        runs = abs(float(np.cross(bearing.along, face) @ way)) / float(np.linalg.norm(way))
        d, web = bearing.bolt, saved.web_mm
        reach, nut = bearing.pitch + 2 * USUAL_EDGE * d, NUT * d + NUT_ROOM
        if runs > EVENLY:  # its bolts one behind the other
            apart = float(ceil(2 * nut + web))
            sizes = {"length_mm": float(ceil(reach)), "apart_mm": apart, "width_mm": apart + web + 2 * BESIDE}
        else:
            between = bearing.pitch - 2 * nut - THICKER  # where webs as thick as may be tried stand between the nuts
            apart = float(floor(between) if between > 2 * web else ceil(bearing.pitch + 2 * nut + web))
            sizes = {"length_mm": float(ceil(max(ROW * d, SHORTEST))), "apart_mm": apart, "width_mm": float(ceil(max(reach, apart + web + 2 * BESIDE)))}  # fmt: skip
        return super().fitted(saved.model_copy(update=sizes), around)

    def _bearing(self, saved: BearingPad, around: Around) -> Bearing | Misfit:
        """What it is under."""
        for joint in around.held_by(saved.id):
            found = around.bearing_at(joint.held)
            if found is not None and found.part_id == saved.bar:
                return Misfit(field="bar", message=found.missing) if found.missing else found
        return Misfit(field="bar", message=saved.lost(around.ends) or "What lies on it is not at this place any more: it was taken out, or stands on something else. Take this one out and add one there.")  # fmt: skip

    def placed(
        self, saved: BearingPad, around: Around, at: At | None, joint: HeldJoint | None
    ) -> tuple[Array, float, Under, Array] | Misfit:
        """Under the bearing's foot, spread from its washers."""
        bearing = self._bearing(saved, around)
        if isinstance(bearing, Misfit):
            return bearing
        assert bearing.bolt
        assert bearing.high
        radius = WASHER * bearing.bolt
        mount = around.mount_of(joint) if joint else None
        if mount is not None and at is not None:
            found = under_bearing(mount, at, bearing.along, bearing.high, bearing.turns)
            return (
                found
                if isinstance(found, Misfit)
                else (found[0], radius, found[1], bearing.at - found[0] * bearing.high)
            )
        up = np.array([0.0, 0.0, 1.0])
        face = up - bearing.along * float(up @ bearing.along)
        size = float(np.linalg.norm(face))
        if size < 0.1:
            return Misfit(field="bar", message="The bar stands upright: its bearings are held by no pad that lies.")
        return face / size, radius, under_typed(saved, face / size), bearing.at - face / size * bearing.high

    def made(self, saved: BearingPad, around: Around) -> PadMade | Misfit:
        """Under what its bar puts on it."""
        bearing = self._bearing(saved, around)
        if isinstance(bearing, Misfit):
            return bearing
        shape = self.pad_shape(saved, around)
        if isinstance(shape, Misfit):
            return shape
        if not bearing.alike:
            return Misfit(field="side", message=f"The {bearing.turns} stands elsewhere on the right: only pads that are alike on both sides are made here. Pair its points at Layout, or cut the right one by hand.")  # fmt: skip
        bolts, line = bolts_on(shape, bearing)
        lacks = misfit_of(shape, bolts, line)
        if lacks is not None:
            return lacks
        seen = around.at_bearing(bearing)
        cases = []
        for one in seen.cases:
            force = shape.axes @ one.force
            blow = Blow(push=-float(force[2]), along=float(force[0]), across=float(force[1]), over=bolts.high)
            cases.append(OnPad(case=one.case, where=one.where, blow=blow, acting=OnBearing(off=float(force[2]), over=float(force @ line), along=float(force @ (shape.axes @ bearing.along)))))  # fmt: skip
        return BearingMade(
            shape=shape, cases=tuple(cases), left_out=seen.left_out, bearing=bearing, bolts=bolts, line=line
        )

    def judged(self, saved: BearingPad, made: PadMade, settings: Settings) -> list[CheckResult]:
        """Plate, bolts, their holes, webs and feet."""
        assert isinstance(made, BearingMade)
        cases = [one for one in made.cases if isinstance(one, OnPad)]
        return [
            *bolted_checks(saved, made, cases, settings),
            *web_checks(saved, made.shape, cases, settings),
        ]

    def outline(self, saved: BearingPad, made: PadMade) -> Contour:
        """With its two holes."""
        return pad_outline(saved, _holes(made) if isinstance(made, BearingMade) else ())

    def on_it(self, saved: BearingPad, made: PadMade) -> LiesOn:
        """The bearing's foot, from bolt to bolt."""
        assert isinstance(made, BearingMade)
        x, y = (float(v) * made.bolts.pitch / 2 for v in made.line[:2])
        return LiesOn(
            along=x,
            across=y,
            radius=FOOT * made.bolts.bolt,
            what=f"the bearing’s foot, taken as {2 * FOOT:g} of its bolts wide",
        )

    def card(self, saved: BearingPad, made: PadMade) -> Card:
        """With what is drilled, and how high the bar lies."""
        assert isinstance(made, BearingMade)
        bolts, bearing = made.bolts, made.bearing
        way = "along the webs, between them" if bolts.turned_deg <= ALONG_DEG else "across the webs"
        lines = (
            across(text=f"two holes, their line {way}", mm=bolts.hole),
            CardLine(text="hole to hole", mm=bolts.pitch, strong=True),
            CardLine(text=f"{bearing.turns}’s line over the pad’s face", mm=bolts.high, strong=True),
            CardLine(text=f"bolts of {bolts.bolt:g} mm, class {bearing.bolt_class}, washers under the nuts; long enough for the bearing’s foot, the plate and {BELOW * bolts.bolt:.0f} mm below it"),
        )  # fmt: skip
        return pad_card(saved, made.shape, (*lines, *pad_hole_lines(saved, made.shape)))

    def sheet(self, saved: BearingPad, made: PadMade, numbers: Numbers) -> Drawing:
        """With the bar over it, and its bolts."""
        assert isinstance(made, BearingMade)
        bolts, bar = made.bolts, made.bearing.bar or made.bolts.bolt
        sheet, side, end = pad_sheet(saved, made.shape, numbers, over=bolts.high + bar)
        across = bolts.turned_deg > ALONG_DEG
        drawn, other = (end, side) if across else (side, end)
        _drilled(sheet, drawn, saved, made, bar)
        x, y = bolts.at
        _bolt_line(sheet, other, made, x if across else y, saved.plate_mm + PAST)
        return sheet.done()

    def told(self, part: Part) -> BearingPadOwn | None:
        """The hardest pull, and what it stands on."""
        made = part.own
        if not isinstance(made, BearingMade):
            return None
        pull, case = max(((float(np.hypot(one.acting.off, one.acting.over)), one.case) for one in made.cases if isinstance(one, OnPad)), default=(0.0, ""))  # fmt: skip
        return BearingPadOwn(pull_n=pull, case=case, stands_on=made.shape.on)

    def unlooked(self, saved: BearingPad, around: Around) -> tuple[str, ...]:
        """With what no case has of what lies on it."""
        bearing = self._bearing(saved, around)
        return (*super().unlooked(saved, around), *(() if isinstance(bearing, Misfit) else bearing.unseen))

    def depends(self, saved: BearingPad, around: Around) -> str:
        """Where it stands, and its bar."""
        bar = around.saved(saved.bar)
        return f"{super().depends(saved, around)} {bar and bar.model_dump_json()}"


def bolted_checks(
    saved: BearingPad, made: BearingMade, cases: Sequence[OnPad], settings: Settings
) -> list[CheckResult]:
    """Plate beside the bolts, the bolts, and their holes.

    Args:
        saved: the pad.
        made: with its bearing.
        cases: at least one.
        settings: factors.
    """
    pad, bolts = made.shape.pad, made.bolts
    material = bolt_class(made.bearing.bolt_class, bolts.bolt)
    bent, pulled, pressed = (asked(key, part, settings.factors) for key, part in (
        ("pad_bolted", "plate"), ("pad_bolts", "bolts"), ("pad_hole", "plate"),
    ))  # fmt: skip
    data = {
        "plate_mm": pad.plate, "length_mm": pad.length, "web_mm": pad.web, "apart_mm": pad.apart, "height_mm": pad.height, "bolt_mm": bolts.bolt,
        "class": made.bearing.bolt_class, "hole_mm": bolts.hole, "washer_mm": 2 * pad.footprint, "pitch_mm": bolts.pitch, "turned_deg": bolts.turned_deg,
        "high_mm": bolts.high, "lost_mm": pad.lost, "yield_mpa": saved.yield_mpa,
    }  # fmt: skip

    def on(one: OnPad, kind: Asked) -> OnBearing:
        return OnBearing(
            off=one.acting.off * kind.factor, over=one.acting.over * kind.factor, along=one.acting.along * kind.factor
        )

    def again(acting: OnBearing, output: str) -> Reproduction:
        return Reproduction(topic="bearing-pad", input={**data, "off_n": acting.off, "over_n": acting.over, "along_n": acting.along}, output=output, figure="demand")  # fmt: skip

    return [
        worst_case(bent, cases, lambda one: (plate_stress(pad, bolts, on(one, bent)), again(on(one, bent), "plate_mpa"), saved.yield_mpa)),
        worst_case(pulled, cases, lambda one: (bolt_use(bolts, material, on(one, pulled)), again(on(one, pulled), "bolt_use"), 1.0)),
        worst_case(pressed, cases, lambda one: (hole_use(pad, bolts, saved.yield_mpa, on(one, pressed)), again(on(one, pressed), "hole_use"), 1.0)),
    ]  # fmt: skip


def _holes(made: BearingMade) -> tuple[Hole, ...]:
    _, line = bolts_on(made.shape, made.bearing)
    x, y = (float(v) * made.bolts.pitch / 2 for v in line[:2])
    return Hole(x, y, made.bolts.hole), Hole(-x, -y, made.bolts.hole)


def _drilled(sheet: Sheet, frame: Frame, saved: BearingPad, made: BearingMade, bar: float) -> None:
    """The bar seen end on, and both bolts."""
    face = made.shape.level - made.shape.skin + saved.plate_mm
    high = face + made.bolts.high
    sheet.circle(frame.at(0.0, high), bar / 2 * frame.scale, "visible", ref="dim:bar")
    for way in (1.0, -1.0):
        _bolt_line(sheet, frame, made, way * made.bolts.pitch / 2, saved.plate_mm + BELOW * made.bolts.bolt)
    top = frame.at(0.0, high + bar / 2)[1]
    sheet.dimension((frame.at(-made.bolts.pitch / 2, 0)[0], top), (frame.at(made.bolts.pitch / 2, 0)[0], top), made.bolts.pitch, offset=9.0, ref="dim:pitch", size=3.0)  # fmt: skip
    sheet.dimension(frame.at(0.0, face), frame.at(0.0, high), made.bolts.high, offset=-0.75 * made.bolts.pitch * frame.scale, ref="dim:high", size=3.0)  # fmt: skip


def _bolt_line(sheet: Sheet, frame: Frame, made: BearingMade, at: float, up: float) -> None:
    """A bolt's middle line, from so far over the plate's underside to below its nut."""
    under = made.shape.level - made.shape.skin
    sheet.line(frame.at(at, under - BELOW * made.bolts.bolt), frame.at(at, under + up), "centre", "muted")


BEARING_PAD = BearingPadKind()
