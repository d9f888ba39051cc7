"""Leaf perches as a kind of part: a leaf's seat on two webs along the axle, two U-bolts round the axle, a plate over the leaf."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from math import asin, ceil, cos, floor, pi, sin, tan
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.bolt import bolt_class, tightening_known, tightening_told
from tirante.core.brackets.leaf_perch import (
    OnSeat,
    Perch,
    clamp_needed,
    clamp_of,
    head_use,
    leg_pull,
    leg_use,
    tie_use,
    top_stress,
)
from tirante.core.brackets.strike_pad import Blow
from tirante.core.brackets.tools import Hexagon, WayOut, hexagon_on
from tirante.core.checks.kinds import Asked, asked
from tirante.core.checks.result import CheckResult, Reproduction
from tirante.core.checks.shown import Out
from tirante.core.document.forms.table import FieldGroup, choice, number
from tirante.core.document.joints import HeldJoint, PointOfBody
from tirante.core.document.parts.leaf_perch import LeafPerch
from tirante.core.document.settings import Settings
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.flat.contour import Contour, Hole
from tirante.core.loads.on_body import BodyCase
from tirante.core.parts.around import Around
from tirante.core.parts.body import body_places, seen_of
from tirante.core.parts.bracket.families.pad import (
    WELD_ROOM,
    Flat,
    PadShape,
    pad_card,
    pad_outline,
    pad_sheet,
    web_checks,
)
from tirante.core.parts.bracket.families.pad_holes import LiesOn, pad_hole_lines
from tirante.core.parts.bracket.families.pad_kind import PadKind, PadMade, pad_fields
from tirante.core.parts.bracket.families.pad_under import Under, under_member, under_typed
from tirante.core.parts.part import BoughtPiece, Card, CardLine, Misfit, Part, Piece, PlatePiece, View, across
from tirante.core.parts.stands import At
from tirante.core.parts.unmade import Unmade
from tirante.core.parts.worst import worst_case
from tirante.core.suspension.duty import Duty

Array = NDArray[np.float64]
HOLE_OVER = (
    1.0  # mm over a U-bolt's leg: these are bent, and stand where the bend leaves them; common practice, no source
)
NUT = 2.0  # diameters that washer, nut and two threads take over the plate; ISO 7089, ISO 4032, from memory
STEP = 5.0  # mm that U-bolts are ordered by; common practice, no source
ACROSS = 1.5  # of the axle’s diameter, a seat that is proposed, along the leaf; common practice, no source
RIM = 1.5  # diameters of metal that a seat has at least beside the tie bolt’s head, half of it on either side; common practice, no source
NEAR = 0.6  # of the axle’s diameter, the webs of a seat that is proposed, middle to middle; common practice, no source
TOP, TOP_FLAT = "plate over the leaf", "top"
NOT_CHECKED = (
    "the leaf, its shackle, and its other half behind the axle", "the axle squeezed between seat and U-bolts as these are tightened", "the seat bent beside its webs: the leaves are taken as far stiffer", "the room round seat, webs, the plate over the leaf and its nuts, and for a spanner there (to be looked at under Room); round the bends of its U-bolts nothing looks",
    "its everyday life", "what the clamp loses as paint and leaves settle: torque again after the first outing", "weld quality (assumed sound)", "corrosion",
)  # fmt: skip


BENDS = "its U-bolts"
SLICES = 12  # of a U-bolt's bend, that the room is looked at by
UNDER = 0.5  # mm under the axle, from where a U-bolt is drawn off it


class LeafPerchOwn(Out):
    """What only a leaf perch has."""

    kind: Literal["leaf_perch"] = "leaf_perch"
    leg_n: float
    clamp_n: float
    u_bolt_mm: float
    case: str
    stands_on: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Seated:
    """A perch in one case."""

    case: str
    where: str
    blow: Blow
    acting: OnSeat


@dataclass(frozen=True, slots=True, kw_only=True)
class PerchMade(PadMade):
    """A perch with its core objects."""

    perch: Perch
    clamp: float  # of one leg [N]
    stack: float  # of the leaves [mm]
    reaches: float  # of a U-bolt, from inside its bend to its ends [mm]

    @property
    def flats(self) -> tuple[Flat, ...]:
        """With the plate over the leaf, and the room that nuts and threads take on it: both pairs, each from leg to leg along the axle."""
        (along, across, face), perch = self.shape.axes, self.perch
        (half, wide), (x, y), d = (size / 2 for size in perch.top_size), perch.legs, perch.bolt
        top = self.shape.middle + face * (self.stack + perch.top / 2)
        nuts = top + face * (perch.top / 2 + NUT * d / 2)
        return (
            *self.shape.flats, Flat(outline=_oblong(half, wide), at=top, x=along, y=across, thickness=perch.top),
            *(Flat(outline=_oblong(x + d, d), at=nuts + across * way * y, x=along, y=across, thickness=NUT * d) for way in (1.0, -1.0)),
            *self._u_bolts(),
        )  # fmt: skip

    def _u_bolts(self) -> list[Flat]:
        """Legs and bends of both, as square bars as thick as they are."""
        along, aside, out = self.shape.stands
        (x, y), d, found = self.perch.legs, self.perch.bolt, []
        axle = self.shape.foot - self.shape.skin * out
        # upright at its legs, which stand square to the seat: taken along the way out from the axle, as far as the nuts
        high = float((self.shape.middle + self.shape.axes[2] * (self.stack + self.perch.top) - axle) @ out)
        for side in (1.0, -1.0):
            at = axle + side * x * along
            for way in (1.0, -1.0):
                found.append(Flat(outline=_oblong(d / 2, high / 2), at=at + way * y * aside + high / 2 * out, x=aside, y=out, thickness=d, name=BENDS))  # fmt: skip
            outer, step = self.perch.od / 2 + d, pi / SLICES
            deep = outer - self.perch.od / 2 * cos(step / 2)  # as far in as the round between two chords
            for i in range(SLICES):
                turn = pi + (i + 0.5) * step
                radial, tangent = cos(turn) * aside + sin(turn) * out, -sin(turn) * aside + cos(turn) * out
                found.append(Flat(outline=_oblong(outer * tan(step / 2), deep / 2), at=at + (outer - deep / 2) * radial, x=tangent, y=radial, thickness=d, name=BENDS))  # fmt: skip
        return found

    @property
    def ways(self) -> tuple[tuple[str, tuple[WayOut, ...]], ...]:
        """Both U-bolts, put over the axle from its other side: all of them, as far as their ends are from there."""
        along, aside, out = self.shape.stands
        (x, y), d = self.perch.legs, self.perch.bolt
        below = self.shape.foot - (self.shape.skin + self.perch.od / 2 + UNDER) * out
        long = d + self.reaches - UNDER
        return tuple(("its U-bolts", (WayOut(face=below + side * x * along, out=-out, long=long, wide=aside, halves=(y + d / 2, d / 2)),)) for side in (1.0, -1.0))  # fmt: skip

    @property
    def hexagons(self) -> tuple[tuple[str, Hexagon], ...]:
        """All four nuts, on the plate over the leaf."""
        (along, across, face), (x, y) = self.shape.axes, self.perch.legs
        over = self.shape.middle + face * (self.stack + self.perch.top)
        return tuple(("nuts of its U-bolts", hexagon_on(over + a * x * along + b * y * across, face, self.perch.bolt, nut=True)) for a in (1.0, -1.0) for b in (1.0, -1.0))  # fmt: skip


def perch_of(saved: LeafPerch, od: float) -> Perch:
    """Seat, leaf and U-bolts.

    Args:
        saved: as it is.
        od: of the axle [mm].
    """
    return Perch(
        od=od, leaf=saved.leaf_mm, long=saved.length_mm, wide=saved.width_mm, plate=saved.plate_mm, bolt=saved.u_bolt_mm, tie=saved.tie_mm,
        head=saved.head_mm, top=saved.top_mm,
    )  # fmt: skip


def seated(shape: PadShape, one: Unmade, cases: Sequence[BodyCase], clamp: float) -> list[Seated]:
    """What the leaf puts on its seat, case by case.

    Args:
        shape: of the pad.
        one: the leaf's joint.
        cases: that load what it is on.
        clamp: of all legs [N].
    """
    found = []
    for case in cases:
        acts = [act for act in case.acting if act.place == one.point and act.what == one.joint]
        if not acts:
            continue
        force = sum((shape.axes @ act.force for act in acts), np.zeros(3))
        moment = sum((shape.axes @ (act.moment + np.cross(act.at - shape.middle, act.force)) for act in acts), np.zeros(3))  # fmt: skip
        (x, y, z), (mx, my, mz) = (tuple(float(v) for v in way) for way in (force, moment))
        found.append(
            Seated(
                case=case.case, where=case.where, blow=Blow(push=-z, along=x, across=y, rocks=mx, tilts=my, twists=mz, clamped=clamp),
                acting=OnSeat(off=z, along=x, across=y, about_axle=mx, about_leaf=my, twists=mz),
            )
        )  # fmt: skip
    return found


class LeafPerchKind(PadKind[LeafPerch]):
    """Leaf perches."""

    key = "leaf_perch"
    word = "leaf perch"
    duty: Duty = "locates"
    saved = LeafPerch
    own = LeafPerchOwn
    fields = (
        FieldGroup(title="The leaf", note="as it is bought; its line is where its eye and its bend are, at Layout", fields=[
            number(LeafPerch, "leaf_mm", "Wide", "mm"), number(LeafPerch, "stack_mm", "All leaves at the seat, thick", "mm"),
            number(LeafPerch, "line_mm", "Seat to the main leaf’s middle", "mm"),
            number(LeafPerch, "tie_mm", "Its tie bolt", "mm"), choice("tie_class", "Class of the tie bolt", ["8.8", "10.9", "12.9"]),
            number(LeafPerch, "head_mm", "Hole for its head in the seat", "mm"),
        ]),
        FieldGroup(title="U-bolts", note="two, round the axle, one on either side of the leaf", fields=[
            number(LeafPerch, "u_bolt_mm", "Thread", "mm"), choice("u_class", "Their class", ["8.8", "10.9"]),
            number(LeafPerch, "top_mm", "Plate over the leaf, thick", "mm"),
        ]),
        *pad_fields(LeafPerch, "Long, along the axle"),
    )  # fmt: skip
    not_checked = NOT_CHECKED
    unloaded = "no case puts anything on this seat: nothing of it was judged"
    no_case = "No case puts anything on this seat, so nothing says what it must bear. Add one at Loads that brakes or corners."

    def begun(self, part_id: str, of: str, held: PointOfBody, owner: str) -> LeafPerch:
        """Of a usual leaf; `fitted` proportions it to the axle."""
        del owner
        return LeafPerch(id=part_id, name=f"{of[:66]}, perch", end_id=held.end_id, length_mm=60.0, width_mm=100.0, apart_mm=40.0, yield_mpa=355.0)  # fmt: skip

    def fitted(self, saved: LeafPerch, around: Around) -> LeafPerch:
        """As long as the leaf is wide, and as wide and with its webs as far apart as the axle asks."""
        faced = self.faced(saved, around)
        if isinstance(faced, Misfit) or faced[2].od is None:
            return saved
        od = faced[2].od
        apart = float(min(ceil(NEAR * od), floor(od - saved.web_mm - WELD_ROOM)))
        wide = float(ceil(max(ACROSS * od, apart + saved.web_mm, saved.head_mm + RIM * saved.tie_mm)))
        sizes = {"length_mm": saved.leaf_mm, "apart_mm": apart, "width_mm": wide}
        return super().fitted(saved.model_copy(update=sizes), around)

    def _joint(self, saved: LeafPerch, around: Around) -> Unmade | Misfit:
        """The leaf that it seats."""
        for joint in around.held_by(saved.id):
            found = around.unmade_at(joint.held) if isinstance(joint.held, PointOfBody) else None
            if found is not None and found.seat:
                return found
        return Misfit(field="end_id", message=saved.lost(around.ends) or "The leaf that it seats is not at this place any more. Take it out and add one there.")  # fmt: skip

    def placed(
        self, saved: LeafPerch, around: Around, at: At | None, joint: HeldJoint | None
    ) -> tuple[Array, float, Under, Array] | Misfit:
        """Under the leaf's line where that passes the axle, square to both."""
        one = self._joint(saved, around)
        if isinstance(one, Misfit):
            return one
        end = around.ends[one.of_end]
        bend = np.array(end.points[one.point], float)
        eye = next((np.array(place.at, float) for place in body_places(one, one.body, around) if place.jointed and place.point != one.point), None)  # fmt: skip
        if eye is None:
            return Misfit(field="end_id", message="The leaf has no eye yet: nothing says which way it runs. Give it at Layout.")  # fmt: skip
        line = (bend - eye) / np.linalg.norm(bend - eye)
        mount = around.mount_of(joint) if joint else None
        centre = np.array(end.points[around.template(one.of_end).roles.wheel_centre], float)
        axle, on_axle = _axle(mount, centre)
        across = np.cross(line, axle)
        size = float(np.linalg.norm(across))
        if size < 0.5:
            return Misfit(field="mount", message="The leaf runs along what its seat would stand on. Give it another mount.")  # fmt: skip
        face = across / size
        # where the two lines pass each other
        passes = bend + line * float(np.cross(on_axle - bend, axle) @ across) / size**2
        face = face if float((passes - on_axle) @ face) > 0 else -face
        off = float((passes - on_axle) @ face)
        round_it = getattr(mount.shape if mount else None, "od_mm", saved.tube_od_mm) or 0.0
        if off - saved.line_mm <= round_it / 2:
            what = mount.name if mount else "the axle"
            return Misfit(field="line_mm", message=f"The leaf’s line passes {off:.0f} mm from the middle of {what}; its seat, {saved.line_mm:g} mm nearer, would lie inside. Move the leaf away at Layout, or give what there is between seat and main leaf.")  # fmt: skip
        middle = passes - face * saved.line_mm
        if mount is None or at is None:
            return face, saved.leaf_mm / 2, under_typed(saved, face, axle), middle
        under = under_member(mount, replace(at, at=middle), face)
        return under if isinstance(under, Misfit) else (face, saved.leaf_mm / 2, under, middle)

    def made(self, saved: LeafPerch, around: Around) -> PadMade | Misfit:
        """Under what its leaf puts on it."""
        one = self._joint(saved, around)
        if isinstance(one, Misfit):
            return one
        shape = self.pad_shape(saved, around)
        if isinstance(shape, Misfit):
            return shape
        if shape.od is None:
            return Misfit(field="mount", message="Its U-bolts go round a round axle tube: on a box or a flat no perch is made here. Give it another mount, or clamp it otherwise.")  # fmt: skip
        if not all(around.ends[one.of_end].alike(place.point) for place in body_places(one, one.body, around)):
            return Misfit(field="side", message="The leaf stands elsewhere on the right: only perches that are alike on both sides are made here. Pair its points at Layout, or cut the right one by hand.")  # fmt: skip
        if saved.width_mm < (least := saved.head_mm + RIM * saved.tie_mm):
            return Misfit(field="width_mm", message=f"Beside the tie bolt’s head the seat has too little metal. Make it {ceil(least)} mm wide or more.")  # fmt: skip
        if saved.length_mm < least:
            return Misfit(field="length_mm", message=f"Beside the tie bolt’s head the seat has too little metal. Make it {ceil(least)} mm long or more.")  # fmt: skip
        if saved.head_mm > (between := saved.apart_mm - saved.web_mm):
            return Misfit(field="apart_mm", message=f"The hole for the tie bolt’s head runs into the webs, {between:g} mm between them. Set these {ceil(saved.head_mm + saved.web_mm)} mm apart or more, middle to middle.")  # fmt: skip
        perch = perch_of(saved, shape.od - 2 * (saved.spread_mm or 0.0))  # its U-bolts go round the bare tube
        lies = _under_legs(saved, shape, perch)
        if lies:
            return lies
        clamp = clamp_of(saved.u_bolt_mm, bolt_class(saved.u_class, saved.u_bolt_mm))
        seen = seen_of(one, one.holder, around, either_side=True) if around.has_loads() else None
        cases = seated(shape, one, seen.cases, 4 * clamp) if seen else []
        over = perch.od / 2 + shape.level + saved.plate_mm + saved.stack_mm + saved.top_mm + NUT * saved.u_bolt_mm
        return PerchMade(shape=shape, cases=tuple(cases), left_out=seen.left_out if seen else (), perch=perch, clamp=clamp, stack=saved.stack_mm, reaches=ceil(over / STEP) * STEP)  # fmt: skip

    def judged(self, saved: LeafPerch, made: PadMade, settings: Settings) -> list[CheckResult]:
        """U-bolts, their clamp, tie bolt, plate over the leaf, webs and feet."""
        assert isinstance(made, PerchMade)
        cases = [one for one in made.cases if isinstance(one, Seated)]
        return [*perch_checks(saved, made, cases, settings), *web_checks(saved, made.shape, cases, settings)]

    def outline(self, saved: LeafPerch, made: PadMade) -> Contour:
        """With the hole for the tie bolt's head."""
        del made
        return pad_outline(saved, (Hole(0.0, 0.0, saved.head_mm),))

    def on_it(self, saved: LeafPerch, made: PadMade) -> LiesOn:
        """The leaf, on all of it."""
        del made
        return LiesOn(radius=saved.length_mm + saved.width_mm, what="the leaf, which lies on all of its seat")

    def goes_with(self, saved: LeafPerch, made: PadMade) -> tuple[tuple[Piece, ...], tuple[BoughtPiece, ...]]:
        """The plate over the leaf; U-bolts and nuts."""
        assert isinstance(made, PerchMade)
        outline = top_outline(made.perch, saved.tie_mm)
        long, wide = made.perch.top_size
        d = saved.u_bolt_mm
        return (
            (PlatePiece(name=TOP, material=saved.plate_name, thickness=saved.top_mm, length=wide, width=long, outline=outline),),
            (
                BoughtPiece(sort="U-bolt", what=f"U-bolt M{d:g}, class {saved.u_class}, round a tube of {made.perch.od:g} mm, {made.reaches:g} mm from inside the bend to its ends", count=2, torque_nm=tightening_known(d, saved.u_class)),
                BoughtPiece(sort="nut", what=f"locking nut M{d:g}, for the U-bolts", count=4), BoughtPiece(sort="washer", what=f"hardened washer for M{d:g}, for the U-bolts", count=4),
            ),
        )  # fmt: skip

    def more_views(self, saved: LeafPerch) -> dict[str, tuple[View, Callable[[PadMade], Contour]]]:
        """The plate over the leaf."""
        view = View(name=TOP_FLAT, title="plate over the leaf, 1:1", cut=True, plate=TOP)
        return {TOP_FLAT: (view, lambda made: top_outline(made.perch, saved.tie_mm))}

    def card(self, saved: LeafPerch, made: PadMade) -> Card:
        """With what is drilled, and how its nuts are done up."""
        assert isinstance(made, PerchMade)
        x, y = made.perch.legs
        lines = (
            across(text="hole in the seat’s middle, for the head of the tie bolt", mm=saved.head_mm),
            CardLine(text=f"plate over the leaf {saved.top_mm:g} mm, four holes; along the axle, middle to middle", mm=2 * x),
            CardLine(text="along the leaf, middle to middle", mm=2 * y), across(text="their diameter", mm=saved.u_bolt_mm + HOLE_OVER),
            CardLine(text=f"U-bolts of {saved.u_bolt_mm:g} mm, class {saved.u_class}, two, from inside the bend to their ends", mm=made.reaches, strong=True),
            CardLine(text=f"their nuts, crosswise, the car on its wheels, and again after the first outing: {tightening_told(saved.u_bolt_mm, saved.u_class)}"),
        )  # fmt: skip
        return pad_card(saved, made.shape, (*lines, *pad_hole_lines(saved, made.shape)))

    def sheet(self, saved: LeafPerch, made: PadMade, numbers: Numbers) -> Drawing:
        """With the leaf on it, clamped."""
        assert isinstance(made, PerchMade)
        over = saved.stack_mm + saved.top_mm + NUT * saved.u_bolt_mm
        sheet, along, end = pad_sheet(saved, made.shape, numbers, over=over)
        x, y = made.perch.legs
        long, wide = made.perch.top_size
        below = made.perch.od / 2 + saved.u_bolt_mm  # as far as the bends reach
        _clamped(sheet, along, saved, made, (saved.leaf_mm / 2, x, long / 2), below)
        _clamped(sheet, end, saved, made, (0.75 * saved.width_mm, y, wide / 2), 0.0)
        middle = end.at(0.0, -made.shape.skin)
        sheet.arc(middle, below * end.scale, 180.0, 360.0, "thin", ref="field:u_bolt_mm")
        top = along.at(0.0, made.shape.level - made.shape.skin + saved.plate_mm + over)[1]
        for frame, half in ((along, x), (end, y)):
            sheet.dimension((frame.at(-half, 0)[0], top), (frame.at(half, 0)[0], top), 2 * half, offset=5.0, ref="dim:legs", size=3.0)  # fmt: skip
        return sheet.done()

    def told(self, part: Part) -> LeafPerchOwn | None:
        """The hardest pull of a leg, and what it stands on."""
        made, saved = part.own, part.saved
        if not isinstance(made, PerchMade) or not isinstance(saved, LeafPerch):
            return None
        pulls = ((leg_pull(made.perch, one.acting), one.case) for one in made.cases if isinstance(one, Seated))
        leg, case = max(pulls, default=(0.0, ""))
        return LeafPerchOwn(leg_n=leg, clamp_n=made.clamp, u_bolt_mm=saved.u_bolt_mm, case=case, stands_on=made.shape.on)  # fmt: skip


def _under_legs(saved: LeafPerch, shape: PadShape, perch: Perch) -> Misfit | None:
    """A spread plate that lies where the U-bolts go; None where none does: it ends before them along the axle, or above where they leave the tube."""
    if saved.spread_mm is None or shape.od is None:
        return None
    along = perch.legs[0] - perch.bolt / 2 - saved.length_mm / 2
    round_it = asin(min(1.0, (saved.apart_mm + saved.web_mm) / shape.od)) + saved.beyond_mm / ((perch.od + saved.spread_mm) / 2)  # fmt: skip
    if saved.beyond_mm <= along or (round_it < pi / 2 and shape.od / 2 * sin(round_it) <= perch.od / 2):
        return None
    return Misfit(field="spread_mm", message="The spread plate lies where the U-bolts go round the axle. Take it off, or make seat and spread plate smaller.")  # fmt: skip


def _oblong(half: float, wide: float) -> Array:
    return np.array([(-half, -wide), (half, -wide), (half, wide), (-half, wide)])


def _axle(mount: object, centre: Array) -> tuple[Array, Array]:
    """The way that the axle runs (3), length 1, and a place on it: of the member that is given, else across the car through the wheel's middle."""
    shape = getattr(mount, "shape", None)
    a, b = (getattr(shape, name, None) for name in ("a", "b"))
    if a is None or b is None:
        return np.array([0.0, 1.0, 0.0]), centre
    one, two = np.array(a, float), np.array(b, float)
    return (two - one) / float(np.linalg.norm(two - one)), one


def perch_checks(saved: LeafPerch, made: PerchMade, cases: Sequence[Seated], settings: Settings) -> list[CheckResult]:
    """Of all that is clamped: U-bolts, their clamp, the tie bolt and its head, the plate over the leaf.

    Args:
        saved: as it is.
        made: with its U-bolts.
        cases: at least one.
        settings: factors.
    """
    perch = made.perch
    legs, clamp, tie, head, top = (asked(key, part, settings.factors) for key, part in (
        ("perch_legs", "U-bolts"), ("perch_clamp", "U-bolts"), ("perch_tie", "tie bolt"), ("perch_head", "seat"), ("perch_top", "plate over the leaf"),
    ))  # fmt: skip
    data = {
        "od_mm": perch.od, "leaf_mm": perch.leaf, "length_mm": perch.long, "width_mm": perch.wide, "plate_mm": perch.plate, "u_bolt_mm": perch.bolt, "class": saved.u_class,
        "tie_mm": perch.tie, "tie_class": saved.tie_class, "head_mm": perch.head, "top_mm": perch.top, "yield_mpa": saved.yield_mpa,
    }  # fmt: skip
    names = {"off": "off_n", "along": "along_n", "across": "across_n", "about_axle": "about_axle_nmm", "about_leaf": "about_leaf_nmm", "twists": "twists_nmm"}  # fmt: skip
    u_bolts, tied = bolt_class(saved.u_class, perch.bolt), bolt_class(saved.tie_class, perch.tie)

    def worst(kind: Asked, output: str, capacity: float, figure: Callable[[OnSeat], float]) -> CheckResult:
        def tried(one: Seated) -> tuple[float, Reproduction, float]:
            on = one.acting.times(kind.factor)
            acts = {name: getattr(on, own) for own, name in names.items()}
            return figure(on), Reproduction(topic="leaf-perch", input=data | acts, output=output, figure="demand"), capacity  # fmt: skip

        return worst_case(kind, cases, tried)

    return [
        worst(legs, "leg_use", 1.0, lambda on: leg_use(perch, u_bolts, on)),
        worst(clamp, "needed_n", 4 * made.clamp, lambda on: clamp_needed(perch, on)),
        worst(tie, "tie_use", 1.0, lambda on: tie_use(perch, tied, on)),
        worst(head, "head_use", 1.0, lambda on: head_use(perch, saved.yield_mpa, on)),
        worst(top, "top_mpa", saved.yield_mpa, lambda on: top_stress(perch, made.clamp, on)),
    ]


def top_outline(perch: Perch, tie: float) -> Contour:
    """The plate over the leaf, its middle at 0, along the axle first: four holes for the legs, one that clears the tie bolt's nut.

    Args:
        perch: leaf and U-bolts.
        tie: the tie bolt's diameter [mm].
    """
    long, wide = perch.top_size
    x, y = perch.legs
    holes = tuple(Hole(a * x, b * y, perch.bolt + HOLE_OVER) for a in (-1.0, 1.0) for b in (-1.0, 1.0))
    blank = LeafPerch.model_construct(length_mm=long, width_mm=wide)
    return pad_outline(blank, (*holes, Hole(0.0, 0.0, NUT * tie)))


def _clamped(
    sheet: Sheet, frame: Frame, saved: LeafPerch, made: PerchMade, sizes: tuple[float, float, float], below: float
) -> None:
    """Leaf, the plate over it, and two legs with their nuts, down to `below` the axle's middle; `sizes`: halves of the leaf as it is seen, of the
    legs' and of the plate's."""
    leaf, leg, plate = sizes
    face = made.shape.level - made.shape.skin + saved.plate_mm
    over, d = face + saved.stack_mm, saved.u_bolt_mm
    sheet.box(frame.at(-leaf, face), frame.at(leaf, over), "pale", ref="field:stack_mm")
    sheet.box(frame.at(-plate, over), frame.at(plate, over + saved.top_mm), "sheet", ref="field:top_mm")
    for way in (-1.0, 1.0):
        at, up = way * leg, over + saved.top_mm
        for side in (-d / 2, d / 2):
            sheet.line(
                frame.at(at + side, -made.shape.skin - below), frame.at(at + side, over), "thin", ref="field:u_bolt_mm"
            )
        sheet.box(frame.at(at - 0.9 * d, up), frame.at(at + 0.9 * d, up + d), "steel", ref="field:u_bolt_mm")


LEAF_PERCH = LeafPerchKind()
