"""Drive shafts as a kind of part: bought whole, judged as a column and by their joints' angles and plunge, and by nothing else."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.checks.kinds import Asked, asked
from tirante.core.checks.result import CheckResult, weakest_first
from tirante.core.checks.shown import Out
from tirante.core.document.end import Shaft
from tirante.core.document.forms.table import FieldGroup, number
from tirante.core.document.parts.drive_shaft import DriveShaft
from tirante.core.document.template import LinkJoint, Template
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.errors import InputError
from tirante.core.loads.end_loads import Carried
from tirante.core.members.column import column_strength
from tirante.core.members.tube import Section
from tirante.core.parts.around import Around, not_carried
from tirante.core.parts.body import side_of
from tirante.core.parts.kind import Kind, MadeFrom, ViewAsked
from tirante.core.parts.part import BoughtPiece, Card, CardLine, Figure, Misfit, Part, View
from tirante.core.suspension.measures import spin_axis
from tirante.core.suspension.moving import Moving
from tirante.core.units import STEEL_DENSITY

Array = NDArray[np.float64]
MODULUS = 205_000.0  # MPa, steel; common value
NOT_CHECKED = (
    "torque through its joints, splines and tube", "its speed (whirling)", "life of its joints", "its tube beyond its own column", "impact", "wear and corrosion",
)  # fmt: skip
ACROSS = (0.0, 1.0, 0.0)


class DriveShaftOwn(Out):
    """What only a shaft has."""

    kind: Literal["drive_shaft"] = "drive_shaft"
    length_mm: float
    inner_deg: float
    outer_deg: float
    case: str
    plunge_in_mm: float
    plunge_out_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ShaftCase:
    """A shaft in one case, on one side."""

    case: str
    where: str
    length: float  # [mm]
    angles: tuple[float, float]  # of its joints, inner and outer [°]
    axial: float  # tension positive [N]; 0 of one that plunges


@dataclass(frozen=True, slots=True, kw_only=True)
class ShaftMade:
    """A shaft with its core objects."""

    length: float
    cases: tuple[ShaftCase, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class _Between:
    """What a shaft runs between: body, point and flange's direction at either end."""

    bodies: tuple[str, str]
    points: tuple[str, str]
    axes: tuple[tuple[float, float, float], tuple[float, float, float]]
    link: str | None


class DriveShaftKind(Kind[DriveShaft]):
    """Drive shafts."""

    key = "drive_shaft"
    word = "drive shaft"
    saved = DriveShaft
    own = DriveShaftOwn
    bought = True
    of_tubes = False
    fields = (
        FieldGroup(title="As it is bought", note="judged as a column and by its joints’ angles and plunge alone", fields=[
            number(DriveShaft, "od_mm", "Outside diameter", "mm"), number(DriveShaft, "wall_mm", "Wall", "mm", optional=True, empty="solid"),
            number(DriveShaft, "yield_mpa", "Yield", "MPa"),
            number(DriveShaft, "angle_limit_deg", "Its joints turn (maker’s)", "°", optional=True, empty="the end’s"),
        ]),
    )  # fmt: skip

    def work_out(self, saved: DriveShaft, around: Around) -> Part:
        """Its length, its angles and plunge where the cases apply."""
        section = Section(od=saved.od_mm, wall=saved.wall_mm)
        stock = f"⌀{saved.od_mm:g} mm" + (f" × {saved.wall_mm:g} mm" if saved.wall_mm else ", solid")
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_checked": NOT_CHECKED, "not_carried": not_carried(saved.of_end, around), "made_of": (stock, "bought whole"),
        }  # fmt: skip
        lost = saved.lost(around.ends)
        if lost:
            return Part(**common, faults=(Misfit(field="end_id", message=lost),))
        try:
            between = self._between(saved, around)
            length, cases = self._cases(saved, between, around)
        except InputError as error:
            return Part(**common, faults=(Misfit(field=(error.fields or ("member",))[0], message=error.message),))
        checks = list(self._checks(saved, section, between, length, cases, around))
        limit = self._limit(saved, around)
        notes = () if limit else ("its joints’ angles are not judged: give how far they turn, the maker’s",)
        told = f"drive shaft, joint to joint {length:.1f} mm, {stock}"
        return Part(
            **common, pieces=(BoughtPiece(sort="drive shaft", what=told),), checks=weakest_first(checks), mass=section.area * length * STEEL_DENSITY,
            views=(View(name="drawing", title="joint to joint"),), card=_card(length, cases), notes=notes, own=ShaftMade(length=length, cases=tuple(cases)),
        )  # fmt: skip

    def _between(self, saved: DriveShaft, around: Around) -> _Between:
        """
        Raises:
            InputError: its end has no such shaft any more.
        """
        template, end = around.template(saved.end_id), around.ends[saved.end_id]
        wheel = spin_axis(end.wheel.camber_deg, end.wheel.toe_deg, 1.0)
        shaft = end.shafts.get(saved.member)
        if shaft:
            outer = shaft.outer_axis or wheel
            return _Between(
                bodies=(shaft.inner.body, shaft.outer.body),
                points=(shaft.inner.point, shaft.outer.point),
                axes=(shaft.inner_axis, outer),
                link=None,
            )
        joint = next((j for j in template.joints if isinstance(j, LinkJoint) and j.name == saved.member), None)
        if joint is None:
            raise InputError(
                f"The end has no drive shaft “{saved.member}” any more. Take it out, or undo.",
                code="missing",
                fields=("member",),
            )
        return _Between(
            bodies=(joint.a.body, joint.b.body),
            points=(joint.a.point, joint.b.point),
            axes=(ACROSS, ACROSS),
            link=joint.name,
        )

    def _cases(self, saved: DriveShaft, between: _Between, around: Around) -> tuple[float, list[ShaftCase]]:
        end = around.ends[saved.end_id]
        a, b = (np.array(end.points[point], float) for point in between.points)
        length = float(np.linalg.norm(b - a))
        found: list[ShaftCase] = []
        for one in around.carried(saved.end_id).cases:
            if one.forces is not None and not one.fault:
                found += _seen(one, between, (a, b), end.right_points, saved)
        return length, found

    def _limit(self, saved: DriveShaft, around: Around) -> float | None:
        end = around.ends[saved.end_id]
        shaft: Shaft | None = end.shafts.get(saved.member)
        return saved.angle_limit_deg or (shaft.angle_limit_deg if shaft else None)

    def _checks(
        self, saved: DriveShaft, section: Section, between: _Between, length: float, cases: Sequence[ShaftCase], around: Around
    ) -> list[CheckResult]:  # fmt: skip
        factors, out = around.settings.factors, []
        if between.link is not None and cases:
            kind = asked("shaft_column", "shaft", factors)
            strong = column_strength(section, length, saved.yield_mpa, MODULUS)
            worst = max(cases, key=lambda one: -one.axial)
            out.append(_result(kind, max(0.0, -worst.axial) * kind.factor, min(strong.critical, strong.aisc_e3), worst))
        limit = self._limit(saved, around)
        if limit and cases:
            worst = max(cases, key=lambda one: max(one.angles))
            out.append(_result(asked("shaft_angle", "joints", factors), max(worst.angles), limit, worst))
        shaft = around.ends[saved.end_id].shafts.get(saved.member)
        if shaft and cases:
            for room, way, word in ((shaft.plunge_in_mm, -1.0, "inward"), (shaft.plunge_out_mm, 1.0, "outward")):
                if room:
                    kind = asked("shaft_plunge", "joints", factors, of=word, name=f"Its plunge {word}")
                    worst = max(cases, key=lambda one: way * (one.length - length))
                    out.append(_result(kind, max(0.0, way * (worst.length - length)), room, worst))
        return out

    def told(self, part: Part) -> DriveShaftOwn | None:
        """Its length, angles and plunge."""
        made = part.own
        if not isinstance(made, ShaftMade):
            return None
        inner, outer = (max((one.angles[i] for one in made.cases), default=0.0) for i in (0, 1))
        lengths = [one.length - made.length for one in made.cases] or [0.0]
        worst = max(made.cases, key=lambda one: max(one.angles), default=None)
        return DriveShaftOwn(
            length_mm=made.length, inner_deg=inner, outer_deg=outer, case=worst.case if worst else "", plunge_in_mm=max(0.0, -min(lengths)), plunge_out_mm=max(0.0, max(lengths))
        )  # fmt: skip

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """Joint to joint, with what its joints are asked for."""
        made, shaft = part.own, part.saved
        assert isinstance(shaft, DriveShaft)
        if asked.name != "drawing" or not isinstance(made, ShaftMade):
            return super().draw(part, asked, numbers)
        sheet = Sheet(name="shaft", title=part.name, width=217.0, height=100.0, numbers=numbers)
        scale = min(170.0 / made.length, 0.6)
        frame = Frame((217 - scale * made.length) / 2, 62.0, scale)
        _drawn(sheet, frame, made.length, shaft.od_mm, None)
        low = frame.at(0, -shaft.od_mm)[1] - 4
        sheet.dimension(
            (frame.at(0, 0)[0], low),
            (frame.at(made.length, 0)[0], low),
            made.length,
            offset=-6.0,
            ref="dim:length",
            note="joint to joint, at ride height",
        )
        own = self.told(part)
        assert own
        sheet.text(
            (10, 14),
            f"inner joint turns {own.inner_deg:.1f}°, outer {own.outer_deg:.1f}° where the cases apply",
            3.0,
            ref="check:shaft_angle",
        )
        sheet.text(
            (10, 8),
            f"plunges {numbers.main(own.plunge_in_mm)} in, {numbers.main(own.plunge_out_mm)} out",
            3.0,
            ref="check:shaft_plunge",
        )
        return sheet.done()

    def span(self, part: Part) -> float | None:
        """Joint to joint."""
        return part.own.length if isinstance(part.own, ShaftMade) else None

    def tall(self, part: Part) -> float:
        """Its joints."""
        return 2.4 * part.saved.od_mm  # type: ignore[attr-defined, no-any-return]

    def strip(self, part: Part, sheet: Sheet, at: tuple[float, float], scale: float, ref: str) -> None:
        """Joint to joint."""
        _drawn(sheet, Frame(*at, scale), part.own.length, part.saved.od_mm, ref)  # type: ignore[attr-defined]

    def may_be(self, template: Template, one: Moving) -> bool:
        """What drives a wheel."""
        return one.sort == "shaft"

    def made_from(self, one: Moving, made: MadeFrom) -> DriveShaft:
        """The shaft as the end has it."""
        shaft = made.end.shafts.get(one.name)
        joint = next((j for j in made.template.joints if j.name == one.name), None)
        side = side_of(made.template, "")
        if made.template.axle == "beam":
            paired = shaft.pair if shaft else bool(joint and getattr(joint, "pair", False))
            side = "pair" if paired else "centre"
        return DriveShaft(
            id=made.part_id, name=f"{made.end_name} {one.words}"[:80], side=side, end_id=made.end_id, member=one.name, od_mm=(shaft.od_mm if shaft else None) or 28.0
        )  # fmt: skip


def _seen(one: Carried, between: _Between, at: tuple[Array, Array], right: Any, saved: DriveShaft) -> list[ShaftCase]:
    """A shaft on every side that a case loads."""
    forces = one.forces
    assert forces
    found = []
    for suffix in ("", ", right", "_left", "_right"):
        corner = suffix == ", right"
        keys = [
            body if body in ("ground", "rack") else f"{body}{suffix}" if f"{body}{suffix}" in forces.poses else body
            for body in between.bodies
        ]
        moving = [key for key in keys if key not in ("ground", "rack")]
        if any(key not in forces.poses for key in moving) or (
            suffix and not any(key.endswith(suffix) for key in moving)
        ):
            continue
        copy = -1.0 if suffix == "_right" else 1.0
        places, ways = [], []
        for key, place, point, axis in zip(keys, at, between.points, between.axes, strict=True):
            own = right.get(point) if (corner or suffix == "_right") else None
            local = np.array([own[0], -own[1], own[2]]) if own is not None else place
            mirror = np.array([1.0, copy, 1.0])
            if key in ("ground", "rack"):
                car = np.array([1.0, -1.0, 1.0]) if corner else np.ones(3)
                places.append(local * mirror * car)
                ways.append(np.array(axis) * mirror * car)
            else:
                pose = forces.poses[key]
                car = np.array([1.0, pose.corner, 1.0])
                places.append((pose.turn @ (local * mirror) + pose.origin) * car)
                ways.append(pose.turn @ (np.array(axis) * mirror) * car)
        run = places[1] - places[0]
        length = float(np.linalg.norm(run))
        one_way, two_way = (
            float(np.degrees(np.arccos(min(1.0, abs(float(run @ way)) / (length * float(np.linalg.norm(way)))))))
            for way in ways
        )
        label = {"": "", ", right": ", right", "_left": ", left", "_right": ", right"}[suffix]
        axial = forces.axial.get(f"{between.link}{label}", 0.0) if between.link else 0.0
        found.append(
            ShaftCase(case=f"{one.name}{label}", where=one.where, length=length, angles=(one_way, two_way), axial=axial)
        )
    return found


def _result(kind: Asked, demand: float, capacity: float, worst: ShaftCase) -> CheckResult:
    share = demand / capacity
    return CheckResult(
        key=kind.key, name=kind.name, part=kind.part, demand=demand, capacity=capacity, unit=kind.unit, utilisation=share, passed=share <= 1.0, case=worst.case,
        factor=kind.factor, factor_name=kind.factor_name, formula=kind.formula, source=kind.source, reproduce=None, at=worst.where,
    )  # fmt: skip


def _drawn(sheet: Sheet, frame: Frame, length: float, od: float, ref: str | None) -> None:
    """A shaft with a joint at either end."""
    half = od / 2
    sheet.box(frame.at(0, -half), frame.at(length, half), "steel", ref=ref or "field:od_mm")
    for x in (0.0, length):
        sheet.circle(
            frame.at(x, 0), max(1.2, 1.2 * od * frame.scale), "visible", "pale", ref=ref or "check:shaft_angle"
        )
        sheet.circle(frame.at(x, 0), 0.5, "thin", "solid", ref=ref)


def _card(length: float, cases: Sequence[ShaftCase]) -> Card:
    lines = []
    if cases:
        shortest, longest = min(one.length for one in cases), max(one.length for one in cases)
        lines = [CardLine(text="shortest where the cases apply", mm=shortest), CardLine(text="longest", mm=longest)]
    return Card(
        figures=(Figure(label="joint to joint, at ride height", mm=length, note="bought whole"),), lines=tuple(lines)
    )


DRIVE_SHAFT = DriveShaftKind()
