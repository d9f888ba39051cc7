"""Anti-roll bars as a kind of part."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import log, radians, tan
from typing import Any, Literal

import numpy as np

from tirante.core.checks.result import CheckResult, weakest_first
from tirante.core.checks.shown import Out
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.forms.table import Field, FieldGroup, choice, number
from tirante.core.document.joints import PointOfBody
from tirante.core.document.parts.anti_roll_bar import AntiRollBar, BarBearing, BarEye, FlatArms
from tirante.core.document.template import GROUND, Template
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import NotCarried
from tirante.core.members.torsion_bar import TorsionBar, bar_forces, rate_of
from tirante.core.parts.anti_roll_bar.judged import BarCase, at_bearing, bar_cases, bar_checks, life_of_bar
from tirante.core.parts.anti_roll_bar.view import bar_sheet, draw_bar
from tirante.core.parts.around import Around, not_carried
from tirante.core.parts.bearing import Bearing, BearingSeen
from tirante.core.parts.body import UNHELD_LIFE, seen_of
from tirante.core.parts.everyday import BY_USE
from tirante.core.parts.joint import plain_bolt
from tirante.core.parts.kind import Aim, Choice, Kind, MadeFrom, Sized, ViewAsked
from tirante.core.parts.part import (
    BoughtPiece,
    Card,
    CardLine,
    Figure,
    Misfit,
    Part,
    Piece,
    PlatePiece,
    TubePiece,
    View,
)
from tirante.core.suspension.moving import Moving
from tirante.core.units import STEEL_DENSITY

ROUNDS_MM = (
    8.0,
    9.53,
    10.0,
    11.11,
    12.0,
    12.7,
    14.0,
    14.29,
    15.0,
    15.88,
    16.0,
    17.46,
    18.0,
    19.05,
    20.0,
    20.64,
    22.0,
    22.23,
    24.0,
    25.0,
    25.4,
    26.0,
    28.0,
    28.58,
    30.0,
    31.75,
    32.0,
    35.0,
    36.0,
    38.1,
    40.0,
)  # usual round bar, metric and inch; common practice, no source
SOFTER = 0.95  # of its limit that a bar may use: the body leans a little more or less on it than it was carried

NOT_CHECKED = (
    "what holds its bearings, but a pad of this job (judged by itself)", "wear and fretting under its bearings", "springback of its bends",
    "heat treatment after bending or welding (taken as the steel’s)", "impact", "corrosion",
)  # fmt: skip


class AntiRollBarOwn(Out):
    """What only such a bar has."""

    kind: Literal["anti_roll_bar"] = "anti_roll_bar"
    rate_nm_per_deg: float
    saw_mm: float
    lever_mm: float
    torque_nmm: float
    torque_case: str


@dataclass(frozen=True, slots=True, kw_only=True)
class BarMade:
    """A bar with its core objects."""

    bar: TorsionBar
    cases: tuple[BarCase, ...]
    saw: float


class AntiRollBarKind(Kind[AntiRollBar]):
    """Anti-roll bars."""

    key = "anti_roll_bar"
    word = "anti-roll bar"
    saved = AntiRollBar
    own = AntiRollBarOwn
    searched = True
    of_tubes = False
    searches = "Every usual round bar, solid, is judged against all checks; the one nearest to the rate that is wanted is taken, its arms as they are."
    fields = (
        FieldGroup(title="Bar", note="its rate follows from its size, and is the end’s", fields=[
            number(AntiRollBar, "od_mm", "Outside diameter", "mm", optional=True, empty="not sized yet"),
            number(AntiRollBar, "wall_mm", "Wall", "mm", optional=True, empty="solid"),
            number(AntiRollBar, "wanted_nm_per_deg", "Rate wanted between its ends", "N·m/°", optional=True, empty="any"),
            number(AntiRollBar, "bearing_mm", "Bearing, inward of where the arm leaves it", "mm"),
            number(AntiRollBar, "bend_radius_mm", "Bend, at the bar’s middle", "mm", optional=True, empty="three diameters"),
            number(AntiRollBar, "eye_mm", "Bar past the drop link’s joint", "mm"),
        ]),
        FieldGroup(title="Steel", fields=[
            Field(path="steel_name", label="Steel", control="text"), number(AntiRollBar, "yield_mpa", "Yield", "MPa"),
            number(AntiRollBar, "uts_mpa", "Ultimate", "MPa"), choice("surface", "Surface", ["ground", "machined", "hot rolled"]),
        ]),
        FieldGroup(title="Eyes at its ends", of="eye", switch="sizes of eye and bolt given", note="the drop link’s ball stands beside it, its bolt along the bar", fields=[
            number(BarEye, "bolt_mm", "Bolt", "mm", at="eye/"), choice("eye/bolt_class", "Its class", ["8.8", "10.9", "12.9"]),
            number(BarEye, "between_mm", "Drop link’s ball, wide", "mm", at="eye/"), number(BarEye, "width_mm", "Eye of a bent bar, wide", "mm", at="eye/"),
            number(BarEye, "thickness_mm", "Eye of a bent bar, thick", "mm", at="eye/"),
        ]),
        FieldGroup(title="Bearings", of="bearings", switch="their rating and bolts given", note="two, split, each held by two bolts", fields=[
            number(BarBearing, "rating_n", "Rating of one (maker’s)", "N", at="bearings/", optional=True, empty="not given"),
            number(BarBearing, "bolt_mm", "Bolts", "mm", at="bearings/"), choice("bearings/bolt_class", "Their class", ["8.8", "10.9", "12.9"]),
            number(BarBearing, "pitch_mm", "Bolt to bolt, across the bar", "mm", at="bearings/", optional=True, empty="not given"),
            number(BarBearing, "high_mm", "Bar’s line over its foot", "mm", at="bearings/", optional=True, empty="not given"),
        ]),
        FieldGroup(title="Arms of flat bar", of="flats", switch="arms of flat bar, welded on", fields=[
            number(FlatArms, "height_mm", "High, on edge", "mm", at="flats/"), number(FlatArms, "thickness_mm", "Thick", "mm", at="flats/"),
            number(FlatArms, "leg_mm", "Fillet leg round the bar", "mm", at="flats/"),
        ]),
    )  # fmt: skip

    def begins(self, saved: AntiRollBar) -> dict[str, Any]:
        """Flats, eyes and bearings of a usual size."""
        del saved
        return {
            name: one.model_dump(mode="json")
            for name, one in (("flats", FlatArms()), ("eye", BarEye()), ("bearings", BarBearing()))
        }

    def work_out(self, saved: AntiRollBar, around: Around) -> Part:
        """The bar under every case."""
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_checked": (*_not_told(saved), *NOT_CHECKED), "not_carried": not_carried(saved.of_end, around),
            "made_of": (_stock(saved) if saved.od_mm else None, saved.steel_name),
        }  # fmt: skip
        lost = saved.lost(around.ends)
        if lost:
            return Part(**common, faults=(Misfit(field="end_id", message=lost),))
        try:
            bar = saved.bar(around.ends[saved.end_id])
            if bar is None:
                return Part(**common, faults=(Misfit(field="od_mm", message="Not sized yet: press Size it."),))
            _fits(saved, bar)
            cases = self._cases(saved, bar, around)
            if not cases:
                raise InputError(
                    "No case could be worked out, so nothing says what the bar sees.", code="missing", fields=("loads",)
                )
            checks = bar_checks(saved, bar, cases, around.settings)
        except InputError as error:
            return Part(**common, faults=(Misfit(field=(error.fields or ("",))[0], message=error.message),))
        lasts, days = self._life(saved, bar, around)
        common["not_carried"] += days
        saw = _saw(saved, bar)
        return Part(
            **common, pieces=_pieces(saved, bar, saw), checks=weakest_first([*checks, *lasts]), mass=_mass(saved, bar, saw),
            views=(View(name="drawing", title="in the plane of its arms"),), card=_card(saved, bar, saw), welding=tuple(_welding(saved)),
            notes=tuple(_notes(saved, bar)), own=BarMade(bar=bar, cases=tuple(cases), saw=saw),
        )  # fmt: skip

    def _cases(self, saved: AntiRollBar, bar: TorsionBar, around: Around) -> list[BarCase]:
        return bar_cases(saved, bar, around.ends[saved.end_id], seen_of(saved, saved.body, around).cases)

    def _life(
        self, saved: AntiRollBar, bar: TorsionBar, around: Around
    ) -> tuple[list[CheckResult], tuple[NotCarried, ...]]:
        days = seen_of(saved, saved.body, around, everyday=True)
        if days.not_known or days.left_out:
            return [], (days.not_known or UNHELD_LIFE,)
        target = around.settings.life_cycles or BY_USE[around.use]
        return life_of_bar(
            saved, bar, bar_cases(saved, bar, around.ends[saved.end_id], days.cases), around.settings, target
        ), ()

    def told(self, part: Part) -> AntiRollBarOwn | None:
        """Its rate, what is sawn, and the most that twists it."""
        made = part.own
        if not isinstance(made, BarMade):
            return None
        worst = max(made.cases, key=lambda one: abs(one.carried.torque))
        return AntiRollBarOwn(
            rate_nm_per_deg=rate_of(made.bar), saw_mm=made.saw, lever_mm=made.bar.lever, torque_nmm=abs(worst.carried.torque), torque_case=worst.case
        )  # fmt: skip

    def unfinished(self, saved: AntiRollBar, around: Around) -> str | None:
        """No diameter was ever chosen."""
        return "Not sized yet: press Size it." if saved.od_mm is None and saved.lost(around.ends) is None else None

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """Whole, in the plane of its arms."""
        made, saved = part.own, part.saved
        assert isinstance(saved, AntiRollBar)
        if asked.name != "drawing" or not isinstance(made, BarMade):
            return super().draw(part, asked, numbers)
        return bar_sheet(saved, made.bar, made.saw, rate_of(made.bar), numbers)

    def bearings(self, saved: AntiRollBar, around: Around) -> tuple[Bearing, ...]:
        """One on either side, inward of where its arms leave it, on what its end says that carries it."""
        end = around.ends.get(saved.end_id)
        if end is None or saved.lost(around.ends):
            return ()
        inner, outer = (np.array(end.points[point], float) for point in (saved.inner, saved.outer))
        half = float(np.linalg.norm(outer - inner))
        if half < 1.0:
            return ()
        along, own = (outer - inner) / half, saved.bearings
        addition = end.additions.get(saved.addition)
        held = PointOfBody(end_id=saved.end_id, body=addition.carrier if addition else GROUND, point=saved.outer)
        sizes = (
            {"bolt": own.bolt_mm, "bolt_class": own.bolt_class, "pitch": own.pitch_mm, "high": own.high_mm}
            if own
            else {}
        )
        alike = all(end.alike(point) for point in (saved.inner, saved.outer, saved.joint))
        return (
            Bearing(
                name="its bearings", part_id=saved.id, part_name=saved.name, held=held, at=outer - along * min(saved.bearing_mm, half), along=along,
                bar=saved.od_mm, alike=alike, **sizes,  # type: ignore[arg-type]
            ),
        )  # fmt: skip

    def at_bearings(self, saved: AntiRollBar, around: Around) -> BearingSeen:
        """What either half puts on its own."""
        end = around.ends[saved.end_id]
        bar = saved.bar(end)
        if bar is None:
            raise InputError(f"{saved.name} is not sized yet, so nothing says what its bearings see. Size it first.", code="not_complete", fields=("bar",))  # fmt: skip
        seen = seen_of(saved, saved.body, around)
        return BearingSeen(cases=at_bearing(saved, end, bar_cases(saved, bar, end, seen.cases)), left_out=seen.left_out)

    def holds(self, saved: AntiRollBar) -> tuple[str, ...]:
        """The drop links, at its arms' ends."""
        return (saved.joint,)

    def span(self, part: Part) -> float | None:
        """Between its drop links' joints, or its arms."""
        made = part.own
        return 2 * (made.bar.half + max(0.0, made.bar.beyond)) if isinstance(made, BarMade) else None

    def tall(self, part: Part) -> float:
        """Its arms."""
        made: BarMade = part.own
        return made.bar.lever + made.bar.od

    def strip(self, part: Part, sheet: Sheet, at: tuple[float, float], scale: float, ref: str) -> None:
        """In the plane of its arms."""
        made, saved = part.own, part.saved
        assert isinstance(saved, AntiRollBar)
        middle = at[0] + scale * (made.bar.half + max(0.0, made.bar.beyond))
        draw_bar(sheet, Frame(middle, at[1] + scale * made.bar.lever / 2, scale), saved, made.bar, ref)

    def size(self, saved: AntiRollBar, around: Around, shelf: Catalogue, aim: Aim) -> Sized:
        """The solid bar nearest to the rate that is wanted, of those that hold and last; the lightest where no rate is wanted."""
        del shelf
        if saved.lost(around.ends):
            raise InputError(
                "The suspension end of this bar is not there any more.", code="missing", fields=("end_id",)
            )
        addition = around.ends[saved.end_id].additions.get(saved.addition)
        if addition is None or not addition.rate_nm_per_deg:
            raise InputError(
                "The end has no rate for this bar yet, so no case twists it. Type a first one at Layout, then size it.", code="missing", fields=("wanted_nm_per_deg",)
            )  # fmt: skip
        found: list[tuple[float, float, Choice]] = []  # how far off the rate, mass
        for mm in ROUNDS_MM:
            one = saved.model_copy(update={"od_mm": mm, "wall_mm": None})
            try:
                bar = one.bar(around.ends[one.end_id])
                assert bar
                _fits(one, bar)
                # what it sees grows with its own rate; carried anew once it is chosen
                cases = self._cases(one, bar, around)
            except InputError:
                continue
            if not cases:
                raise InputError(
                    "No case could be worked out, so nothing says what the bar sees.", code="missing", fields=("loads",)
                )
            share = _stiffer(saved, bar, around)
            grown = [replace_force(c, bar, share) for c in cases]
            days = self._grown_life(one, bar, around, share)
            checks = weakest_first([*bar_checks(one, bar, grown, around.settings), *days])
            saw = _saw(one, bar)
            wanted = one.wanted_nm_per_deg
            off = abs(log(rate_of(bar) / wanted)) if wanted else 0.0
            found.append((off, _mass(one, bar, saw), Choice(
                parts=(one,), joints=(), tube=_stock(one), grade=one.steel_name, joint=None, stock=(_stock(one), one.steel_name), mass=_mass(one, bar, saw), worst=checks[0],
                worst_told=f"{rate_of(bar):.1f} N·m/°",
            )))  # fmt: skip
        told = f"Each was judged with what the end’s present rate twists, in proportion; what is chosen is worked out anew. Solid bars of {', '.join(f'{mm:g}' for mm in ROUNDS_MM)} mm were tried."
        if aim == "cost":
            told += " Bars have no price here: cost was not searched for."
        passed = sorted(
            (one for one in found if one[2].worst and (one[2].worst.utilisation or 0.0) <= SOFTER),
            key=lambda one: one[:2],
        )
        if passed:
            return Sized(
                considered=len(ROUNDS_MM),
                judged=len(found),
                winner=passed[0][2],
                runner_up=passed[1][2] if len(passed) > 1 else None,
                nearest=None,
                advice=told,
            )
        near = (
            min(found, key=lambda one: (one[2].worst.utilisation if one[2].worst else None) or 0.0)[2]
            if found
            else None
        )
        why = (
            f"No bar holds and lasts: {near.worst.name} is past its limit in the nearest. "
            if near and near.worst
            else "No bar can be bent so. "
        )
        cure = "Longer or shorter arms change its rate most; arms of flat bar bend less; a stronger steel holds more. "
        return Sized(
            considered=len(ROUNDS_MM),
            judged=len(found),
            winner=None,
            runner_up=None,
            nearest=near,
            advice=why + cure + told,
        )

    def _grown_life(self, one: AntiRollBar, bar: TorsionBar, around: Around, share: float) -> list[CheckResult]:
        days = seen_of(one, one.body, around, everyday=True)
        if days.not_known or days.left_out:
            return []
        target = around.settings.life_cycles or BY_USE[around.use]
        cases = [replace_force(c, bar, share) for c in bar_cases(one, bar, around.ends[one.end_id], days.cases)]
        return life_of_bar(one, bar, cases, around.settings, target)

    def may_be(self, template: Template, one: Moving) -> bool:
        """The half of an anti-roll bar."""
        return one.sort == "body" and any(bar.arm == one.name for bar in template.bars)

    def made_from(self, one: Moving, made: MadeFrom) -> AntiRollBar | None:
        """A bar between its end's points, wanted as stiff as the end has it."""
        bar = next(bar for bar in made.template.bars if bar.arm == one.name)
        hinge = next(joint for joint in made.template.joints if joint.name == bar.hinge)
        drop = next(joint for joint in made.template.joints if joint.name == bar.drop_link)
        inner, outer = (place.point for place in hinge.places)
        joint = next(place.point for place in drop.places if place.body == bar.arm)
        addition = made.end.additions.get(bar.addition or "")
        rate = addition.rate_nm_per_deg if addition else None
        return AntiRollBar(
            id=made.part_id, name=f"{made.end_name} {bar.name}"[:80], end_id=made.end_id, body=one.name, addition=bar.addition or "anti-roll-bar",
            inner=inner, outer=outer, joint=joint, wanted_nm_per_deg=rate,
        )  # fmt: skip


def replace_force(one: BarCase, bar: TorsionBar, share: float) -> BarCase:
    """A case as a bar that is so much stiffer sees it.

    Args:
        one: the case.
        bar: half of the bar.
        share: its rate over that of the bar that the case was carried with.
    """
    force = one.force[0] * share, one.force[1] * share, one.force[2] * share
    return BarCase(case=one.case, where=one.where, copy=one.copy, force=force, carried=bar_forces(bar, force))


def _stiffer(saved: AntiRollBar, bar: TorsionBar, around: Around) -> float:
    """Its rate over the one that the end is carried with, the body leaning as it does on that."""
    addition = around.ends[saved.end_id].additions.get(saved.addition)
    now = addition.rate_nm_per_deg if addition else None
    return rate_of(bar) / now if now else 1.0


def _fits(saved: AntiRollBar, bar: TorsionBar) -> None:
    """Whether its bends go in.

    Raises:
        InputError: they do not.
    """
    if saved.flats is not None:
        return
    tangent = bar.bend_radius * tan(radians(bar.corner_deg) / 2)
    if tangent > bar.bearing:
        raise InputError(
            f"The bend begins {tangent:.1f} mm inward of the corner, past the bearing. Put the bearing further in, or bend it tighter.",
            code="contradictory", fields=("bearing_mm",), value=saved.bearing_mm, limits=(tangent, None),
        )  # fmt: skip
    if tangent > bar.arm_length:
        raise InputError(
            "The bend is longer than the arm. Bend it tighter.", code="contradictory", fields=("bend_radius_mm",), value=bar.bend_radius
        )  # fmt: skip


def _not_told(saved: AntiRollBar) -> tuple[str, ...]:
    """What of its eyes and bearings is not given, and so not judged."""
    out = [] if saved.eye else ["the eyes at its arms’ ends and their bolts: their sizes are not given"]
    if saved.bearings is None:
        out.append("its bearings and their bolts: their sizes are not given")
    elif saved.bearings.rating_n is None:
        out.append("its bearings: no maker’s rating is given")
    return tuple(out)


def _stock(saved: AntiRollBar) -> str:
    return f"⌀{saved.od_mm:g} mm" + (f" × {saved.wall_mm:g} mm" if saved.wall_mm else " round bar")


def _saw(saved: AntiRollBar, bar: TorsionBar) -> float:
    """Of bar for a whole one [mm]."""
    if saved.flats is None:
        return bar.straight + 2 * saved.eye_mm
    return 2 * bar.half + saved.flats.thickness_mm  # through its arms, for a ring on either face


def _mass(saved: AntiRollBar, bar: TorsionBar, saw: float) -> float:
    flats = (
        2 * saved.flats.height_mm * saved.flats.thickness_mm * (bar.arm_length + saved.eye_mm) if saved.flats else 0.0
    )
    return (bar.section.area * saw + flats) * STEEL_DENSITY


def _pieces(saved: AntiRollBar, bar: TorsionBar, saw: float) -> tuple[Piece, ...]:
    key = f"round-{bar.od:g}" + (f"x{bar.wall:g}" if bar.wall else "")
    ends = ("eye", "eye") if saved.flats is None else ("square", "square")
    found: list[Piece] = [
        TubePiece(
            name="bar",
            tube=_stock(saved),
            tube_key=key,
            grade=saved.steel_name,
            grade_key=saved.steel_name,
            length=saw,
            ends=ends,
        )
    ]
    if saved.flats:
        found.append(PlatePiece(
            name="arm of the bar", material=saved.steel_name, thickness=saved.flats.thickness_mm, length=bar.arm_length + bar.od + 2 * saved.eye_mm,
            width=saved.flats.height_mm, told="bored for the bar, drilled for the drop link", count=2,
        ))  # fmt: skip
    found.append(BoughtPiece(sort="bearing", what=f"split bearing for a bar of ⌀{bar.od:g} mm", count=2))
    if saved.bearings:
        found.append(plain_bolt(saved.bearings.bolt_mm, saved.bearings.bolt_class, "for its bearings", count=4))
    if saved.eye:
        found.append(plain_bolt(saved.eye.bolt_mm, saved.eye.bolt_class, "for its drop links", count=2))
    return tuple(found)


def _card(saved: AntiRollBar, bar: TorsionBar, saw: float) -> Card:
    figures = [
        Figure(label="Saw", mm=saw, note=f"{_stock(saved)}, {saved.steel_name}"),
        Figure(label="between the arms", mm=2 * bar.half),
        Figure(label="drop link’s joint off the bar", mm=bar.lever),
    ]
    lines = [CardLine(text="bearings, between their middles", mm=2 * (bar.half - bar.bearing))]
    if saved.flats is None:
        turn = radians(bar.corner_deg)
        begins = saved.eye_mm + bar.arm_length - bar.bend_radius * tan(turn / 2)
        lines.insert(
            0,
            CardLine(
                text=f"each bend of {bar.corner_deg:.1f}° on R {bar.bend_radius:.1f} begins, from the bar’s end",
                mm=begins,
                strong=True,
            ),
        )
    lines.append(CardLine(text=f"joint to joint, {2 * (bar.half + bar.beyond):.1f} mm", mm=2 * (bar.half + bar.beyond)))
    return Card(figures=tuple(figures), lines=tuple(lines))


def _welding(saved: AntiRollBar) -> Sequence[str]:
    if saved.flats is None:
        return (
            "Bend it hot or cold as its steel asks, both arms in one plane, and temper it after; springback is the bender’s.",
        )
    return (
        "Preheat: these steels harden beside a weld. Fit both arms in one plane on a flat, weld both rings of each, opposite quarters in turn, cool slowly.",
        "Crack-test both welds.",
    )  # fmt: skip


def _notes(saved: AntiRollBar, bar: TorsionBar) -> list[str]:
    wanted = f" ({saved.wanted_nm_per_deg:.1f} wanted)" if saved.wanted_nm_per_deg else ""
    notes = [f"its rate, {rate_of(bar):.1f} N·m/°{wanted}, is the end’s: cornering is worked out with it"]
    if saved.flats is None and abs(bar.corner_deg - 90.0) > 20:
        notes.append(f"its arms leave it at {bar.corner_deg:.0f}°")
    if bar.wall and saved.flats is None:
        notes.append("the inner fibre of its bends is taken as of a solid bar")
    return notes


ANTI_ROLL_BAR = AntiRollBarKind()
