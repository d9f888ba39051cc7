"""A whole bracket from the command line: its family and sizes, what it holds and the loads on it; its checks and its flat."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError

from tirante.calc.fields import Designation, Input, Mm, MmOrZero, Mpa, Newton
from tirante.calc.registry import Working, step, topic
from tirante.core.checks.result import CheckResult, weakest_first
from tirante.core.document.catalogue import Bolt, Spacer
from tirante.core.document.end import DamperEye
from tirante.core.document.fields import Length
from tirante.core.document.joints import HeldJoint, PointOfBody
from tirante.core.document.parts.angle_bracket import AngleBracket
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.folded_u import FoldedU
from tirante.core.document.parts.lapped_plate import LappedPlate
from tirante.core.document.parts.rail_sleeve import RailSleeve
from tirante.core.document.parts.saved import SavedPart
from tirante.core.document.parts.single_tab import SingleTab
from tirante.core.document.parts.split_clamp import SplitClamp
from tirante.core.document.parts.strap_tab import StrapTab
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.flat.contour import Contour, Curve, Edge
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.parts.bracket.families.angle_bracket import ANGLES, angle_checks, shim_outline
from tirante.core.parts.bracket.families.angle_bracket import flat_of as flat_of_angle
from tirante.core.parts.bracket.families.folded_u import FOLDED_U, flat_of, root_pair, welds
from tirante.core.parts.bracket.families.hole_pattern import holes_of
from tirante.core.parts.bracket.families.lapped import LAPPED_PLATE
from tirante.core.parts.bracket.families.lapped import flat_of as flat_of_lapped
from tirante.core.parts.bracket.families.rail_sleeve import leg_lacks, sleeve_checks
from tirante.core.parts.bracket.families.single_tab import SINGLE_TAB, in_fork, outline_of
from tirante.core.parts.bracket.families.split_clamp import SPLIT_CLAMP, eared_as_cut, other_as_cut
from tirante.core.parts.bracket.families.strap import fills_it, strap_checks
from tirante.core.parts.bracket.families.strap import flat_of as flat_of_strap
from tirante.core.parts.bracket.families.tab_checks import tab_checks
from tirante.core.parts.bracket.families.tab_sizing import outlines_of, pair_checks
from tirante.core.parts.joint import Fork, HeldEnd, JointMade, misfits

_ID = "00000000-0000-4000-8000-000000000000"
_OWN = {"id": _ID, "name": "bracket"}
LONGEST = 100_000.0  # [mm]
AnyBracket = TabPair | FoldedU | AngleBracket | LappedPlate | StrapTab | RailSleeve | SplitClamp | SingleTab
FAMILIES: dict[str, type[SavedPart]] = {"tab_pair": TabPair, "folded_u": FoldedU, "angle_bracket": AngleBracket, "lapped_plate": LappedPlate, "strap_tab": StrapTab, "rail_sleeve": RailSleeve, "split_clamp": SplitClamp, "single_tab": SingleTab}  # fmt: skip
UNDER_LAPPED = "the wall of what it lies on is not judged here: mount-wall does"
UNDER_SLEEVE = "the walls of the box are not judged here: rail-sleeve does"
UNDER_CLAMP = "the tube that it squeezes is not judged here: split-clamp does"
UNDER_SINGLE = "the wall that it stands on is not judged here: mount-wall does"
UNDER_STRAP = "the wall of the tube that it goes over is not judged"


class EyeInput(Input):
    bore_mm: Mm
    ball_width_mm: Mm = Field(description="mm; over ball or sleeve, between the plates")
    housing_width_mm: Mm
    head_diameter_mm: Mm


class ClevisInput(Input):
    bore_mm: Mm = Field(description="mm; of its ears, for its bolt")
    gap_mm: Mm = Field(description="mm; between its ears")
    ear_mm: Mm = Field(description="mm; thickness of one")
    width_mm: Mm = Field(description="mm; of the ears, across the hole")
    edge_mm: Mm = Field(description="mm; hole's centre to the ears' free end")
    floor_mm: Mm = Field(description="mm; hole's centre to the bottom of the fork")


class BoltInput(Input):
    designation: Designation
    diameter_mm: Mm
    strength_class: str = Field(max_length=20, description="8.8, 10.9, 12.9, grade 5, grade 8")


class LoadInput(Input):
    name: str = Field(max_length=80)
    axial_n: Newton = Field(default=0.0, description="N; pull (+) or push in the plates' plane")
    side_n: Newton = Field(default=0.0, description="N; along the bolt")


class BracketInput(Input):
    family: Literal[
        "tab_pair", "folded_u", "angle_bracket", "lapped_plate", "strap_tab", "rail_sleeve", "split_clamp", "single_tab"
    ] = "tab_pair"
    parameters: dict[str, Any] = Field(
        description="its sizes by their names in the design's schema; a length as number in mm under its name with _mm"
    )
    holds: EyeInput | None = Field(default=None, description="of every family but single_tab")
    clevis: ClevisInput | None = Field(default=None, description="of single_tab, that goes between its ears")
    bolt: BoltInput
    spacer_mm: MmOrZero = Field(default=0.0, description="mm; high, beside the ball, each side")
    shim_mm: MmOrZero = 0.0
    thread_in_plane: bool = False
    swing_deg: (
        Annotated[
            float,
            Field(
                ge=0,
                le=90,
                description="deg; how far the pull turns from load_angle_deg; absent: 20",
                allow_inf_nan=False,
            ),
        ]
        | None
    ) = None
    electrode_uts_mpa: Mpa | None = None
    cases: list[LoadInput] = Field(min_length=1, max_length=60)


@topic(
    "bracket",
    BracketInput,
    outputs={
        "checks": "weakest first: key, name, demand, capacity, unit, utilisation with its factor, case, source",
        "flats": "of each plate that is cut otherwise: area_mm2, count, edges as lines and arcs in order, holes, bend lines",
        "gap_mm": "between its plates or ears, or those of the clevis that it goes into", "passed": "whether every check holds", "notes": "what is to be known of the shape",
    },
    example={
        "family": "tab_pair",
        "parameters": {"plate_mm": 6, "hole_mm": 16.3, "head_radius_mm": 24, "edge_mm": 30, "base_width_mm": 60, "height_mm": 50,
                       "base": {"kind": "saddle", "tube_od_mm": 76.2, "angle_deg": 70}, "load_angle_deg": 20},
        "holds": {"bore_mm": 15.9, "ball_width_mm": 19, "housing_width_mm": 15, "head_diameter_mm": 38},
        "bolt": {"designation": "5/8-18 UNF", "diameter_mm": 15.875, "strength_class": "grade 8"},
        "cases": [{"name": "brake", "axial_n": 9000, "side_n": 300}],
    },
    sources=("geometry", "aisc-d5", "blodgett", "en-1993-1-8"),
)  # fmt: skip
def run_bracket(data: BracketInput) -> tuple[dict[str, Any], Working]:
    """A bracket of a family under loads: all its checks, and its flat pattern."""
    saved = _saved(data)
    eye, fork = _held(data)
    cases = tuple(CaseSeen(name=one.name, axial_n=one.axial_n, side_n=abs(one.side_n)) for one in data.cases)
    joint = HeldJoint(
        id=_ID, held=PointOfBody(end_id=_ID, body="ground", point="joint"), shim_mm=data.shim_mm, thread_in_plane=data.thread_in_plane
    )  # fmt: skip
    made = JointMade(
        joint=joint, held=HeldEnd(name="joint", of_end=None, row=eye, fork=fork, cases=cases, swing_deg=data.swing_deg), bolt=_bolt(data), spacer=_spacer(data),
    )  # fmt: skip
    notes: list[str] = []
    settings = Settings() if data.electrode_uts_mpa is None else Settings(electrode_uts_mpa=data.electrode_uts_mpa)
    faults = misfits(made, saved.bore_mm if isinstance(saved, RailSleeve) else saved.hole.mm)
    faults += leg_lacks(saved) if isinstance(saved, RailSleeve) else ()
    if faults:
        raise InputError(faults[0].message, code="contradictory", fields=(faults[0].field,))
    if isinstance(saved, FoldedU):
        flat = flat_of(saved, made.gap)
        checks = weakest_first([
            *tab_checks(root_pair(saved, made.gap), made, settings, welds(saved, made.gap)), *FOLDED_U.holed_checks(saved, made, settings),
        ])  # fmt: skip
        flats = [_flat(flat.contour.under(saved.ream_mm, 2), 1)]
    elif isinstance(saved, AngleBracket):
        checks = weakest_first(angle_checks(saved, made, settings))
        flats = [_flat(flat_of_angle(saved).contour, ANGLES)]
        if saved.shim_mm > 0:
            flats.append(_flat(shim_outline(saved), ANGLES))
    elif isinstance(saved, LappedPlate):
        checks = weakest_first(LAPPED_PLATE.checks_at(saved, made, None, settings))
        flats, notes = [_flat(flat_of_lapped(saved).contour, 1)], [UNDER_LAPPED]
    elif isinstance(saved, StrapTab):
        lacks = fills_it(saved, made)
        if lacks:
            raise InputError(lacks.message, code="contradictory", fields=(lacks.field,))
        checks = weakest_first(strap_checks(saved, made, settings))
        flats, notes = [_flat(flat_of_strap(saved).contour.under(saved.ream_mm, 2), 1)], [UNDER_STRAP]
    elif isinstance(saved, RailSleeve):
        checks, flats, notes = weakest_first(sleeve_checks(saved, made, None, settings)), [], [UNDER_SLEEVE]
    elif isinstance(saved, SingleTab):
        made = in_fork(made, saved.plate.mm)
        checks, notes = SINGLE_TAB.judged(saved, (made,), settings, ()), [UNDER_SINGLE]
        flats = [_flat(outline_of(saved).contour.under(saved.ream_mm, 1), 1)]
    elif isinstance(saved, SplitClamp):
        checks, notes = SPLIT_CLAMP.judged(saved, (made,), settings, ()), [UNDER_CLAMP]
        flats = [_flat(half(saved), 2) for half in (eared_as_cut, other_as_cut)]
    else:
        outlines = outlines_of(saved, made.gap)
        checks = weakest_first(pair_checks(saved, made, settings))
        flats = [_flat(one.contour.under(saved.ream_mm, len(holes_of(saved))), 2 // len(outlines)) for one in outlines]
        notes = list(dict.fromkeys(told for one in outlines for told in one.warnings))
    out = {
        "checks": [_told(one) for one in checks], "flats": flats, "gap_mm": made.gap if fork is None else fork.gap, "passed": all(one.passed for one in checks), "notes": notes,
    }  # fmt: skip
    return out, [
        step(one.name, one.formula, one.source, demand=one.demand, capacity=one.capacity, utilisation=one.utilisation, case=one.case) for one in checks
    ]  # fmt: skip


def _held(data: BracketInput) -> tuple[DamperEye, Fork | None]:
    """What it holds: an eye, or a clevis."""
    one, single = data.clevis, data.family == "single_tab"
    if single and one is None:
        raise InputError("A single tab goes between the ears of a clevis. Give these.", code="missing", fields=("clevis",))  # fmt: skip
    if not single and data.holds is None:
        raise InputError(f"A {data.family} holds an eye. Give its sizes.", code="missing", fields=("holds",))
    if single and one is not None:
        fork = Fork(gap=one.gap_mm, ear=one.ear_mm, width=one.width_mm, edge=one.edge_mm, floor=one.floor_mm)
        across = max(one.width_mm, 2 * one.edge_mm)
        if across <= one.bore_mm:
            raise InputError("No metal is left round the hole of its ears. Make them wider.", code="contradictory", fields=("clevis.width_mm",))  # fmt: skip
        return DamperEye(bore_mm=one.bore_mm, ball_width_mm=fork.outer, housing_width_mm=fork.outer, head_diameter_mm=across), fork  # fmt: skip
    eye = data.holds
    assert eye
    return DamperEye(
        bore_mm=eye.bore_mm, ball_width_mm=eye.ball_width_mm, housing_width_mm=eye.housing_width_mm, head_diameter_mm=eye.head_diameter_mm
    ), None  # fmt: skip


def _saved(data: BracketInput) -> AnyBracket:
    """The family's own model of what was given; faults by the names that were used."""
    model = FAMILIES[data.family]
    taken = _lengths(data.parameters, model)
    for own in _OWN.keys() & taken.keys():
        raise InputError(f"parameters.{own} is not a size.", code="unknown_field", fields=(f"parameters.{own}",))
    try:
        found = model.model_validate({**_OWN, **taken})
    except ValidationError as error:
        first = min(error.errors(), key=lambda one: one["type"] != "extra_forbidden")
        path = ".".join(str(part) for part in first["loc"] if part not in ("flat", "saddle", "row", "arc", "grid"))
        told = (
            first["msg"]
            if first["type"] != "extra_forbidden"
            else f"not a size of this family; a {data.family} has {_names(model)}."
        )
        raise InputError(f"parameters.{path}: {told}", code=first["type"], fields=(f"parameters.{path}",)) from error
    assert isinstance(found, AnyBracket)
    return found


def _names(model: type[SavedPart]) -> str:
    return ", ".join(
        f"{name}_mm" if field.annotation is Length else name
        for name, field in model.model_fields.items()
        if name not in {*_OWN, "kind"}
    )


def _lengths(given: dict[str, Any], model: type[SavedPart]) -> dict[str, Any]:
    """Lengths given as plain millimetres under their names with _mm, as the design keeps them."""
    plain = {name for name, field in model.model_fields.items() if field.annotation is Length} | {"tube_od"}
    out: dict[str, Any] = {}
    for key, value in given.items():
        stem = key.removesuffix("_mm")
        if key.endswith("_mm") and stem in plain:
            if not isinstance(value, int | float) or isinstance(value, bool) or not 0 < value <= LONGEST:
                told = f"parameters.{key} is a length in mm, a number above 0 and up to {LONGEST:g}."
                raise InputError(told, code="out_of_range", fields=(f"parameters.{key}",))
            out[stem] = Length(mm=float(value))
        elif isinstance(value, dict):
            out[key] = _lengths(value, model)
        else:
            out[key] = (
                float(value)
                if isinstance(value, int)
                and not isinstance(value, bool)
                and key not in ("count", "columns", "rows", "in_hole")
                else value
            )
    return out


def _bolt(data: BracketInput) -> Bolt:
    try:
        return Bolt(
            key="bolt", label=f"bolt {data.bolt.designation}, {data.bolt.strength_class}", source="trade", designation=data.bolt.designation,
            diameter_mm=data.bolt.diameter_mm, strength_class=data.bolt.strength_class,
        )  # fmt: skip
    except ValidationError as error:
        first = error.errors()[0]
        raise InputError(str(first["msg"]).removeprefix("Value error, "), code="invalid", fields=("bolt",)) from error


def _spacer(data: BracketInput) -> Spacer | None:
    if not data.spacer_mm:
        return None
    return Spacer(
        key="spacer", label="spacer", source="trade", ball_bore_mm=_held(data)[0].bore_mm, bolt_mm=data.bolt.diameter_mm, height_mm=data.spacer_mm,
        outside_mm=data.bolt.diameter_mm * 1.6, tilt_gain_deg=0.0,
    )  # fmt: skip


def _told(one: CheckResult) -> dict[str, Any]:
    return {
        "key": one.key, "name": one.name, "demand": one.demand, "capacity": one.capacity, "unit": one.unit, "utilisation": one.utilisation,
        "factor": one.factor, "passed": one.passed, "case": one.case, "source": one.source, "note": one.note,
    }  # fmt: skip


def _edges(edges: Sequence[Edge]) -> list[dict[str, Any]]:
    return [
        {"x1": e.start[0], "y1": e.start[1], "x2": e.end[0], "y2": e.end[1], **({"cx": e.cx, "cy": e.cy, "r": e.r, "way": "clockwise" if e.back else "counter-clockwise"} if isinstance(e, Curve) else {})}
        for e in edges
    ]  # fmt: skip


def _flat(contour: Contour, count: int) -> dict[str, Any]:
    return {
        "count": count, "area_mm2": contour.area, "edges": _edges(contour.edges), "openings": [_edges(one) for one in contour.openings], "holes": [{"x": h.x, "y": h.y, "diameter_mm": h.diameter} for h in contour.holes],
        "bends": [{"x1": b.line.x1, "y1": b.line.y1, "x2": b.line.x2, "y2": b.line.y2, "angle_deg": b.angle_deg, "radius_mm": b.radius} for b in contour.bends],
    }  # fmt: skip
