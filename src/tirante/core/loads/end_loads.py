"""Every case of a load set carried through one end of a car.

A case becomes what acts at contact patches and points, at a position of travel, roll and steer; the mechanism is solved at all
positions at once and balanced at each, stops and straps carrying where they are met. Inertia of what is unsprung is not taken
off the wheel loads: on the safe side.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cache

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.car import Car
from tirante.core.document.end import End
from tirante.core.document.load_cases import CarCase
from tirante.core.errors import InputError
from tirante.core.geometry.vectors import cross
from tirante.core.loads.acting import Asked, acting
from tirante.core.loads.body_roll import EndRoll
from tirante.core.loads.travel import Swept
from tirante.core.suspension.cycle import Solved, SolvedSide, bolt_directions
from tirante.core.suspension.held import Carrier, twists
from tirante.core.suspension.statics import At, Case, Forces, Push, forces_at

Array = NDArray[np.float64]


STEERED = "steering arm, turn"  # of what holds: the steering
HELD = 1.0  # N, or N·mm: less than this on what stands for a spring is nothing
UNHELD = "no spring, stop or strap of this end carries it: what it puts where one stands is missing"


@dataclass(frozen=True, slots=True, kw_only=True)
class Carried:
    """One case, one way round, carried by one end."""

    case: CarCase
    name: str  # of the case and which way round
    position: tuple[float, float, float]  # travel, roll, steer
    pushes: tuple[Push, ...]
    met: Mapping[str, Carrier] = field(default_factory=dict)  # by side: the stop or strap that is met
    springs: Mapping[str, float] = field(default_factory=dict)  # what each carries by itself where one is met [N]
    strikes: Mapping[str, float] = field(default_factory=dict)  # by link: square to it at mid-span [N]
    notes: tuple[str, ...] = ()
    forces: Forces | None = None
    sines: Mapping[str, tuple[float, float]] = field(
        default_factory=dict
    )  # by link: of the tilt at either end; NaN where its bolt is not known
    turned: Mapping[str, float] = field(
        default_factory=dict
    )  # by link: how far it points from where it does at ride height [°]
    fault: str | None = None  # why it could not be carried
    refused: bool = False  # carried or not, nothing may be relied on: a stop, whatever depends on it

    @property
    def unheld(self) -> bool:
        """Whether it comes to rest on nothing that the end has: its way to the body is missing in every figure."""
        return UNHELD in self.notes

    @property
    def carrier(self) -> Carrier:
        """What takes what the springs do not."""
        if self.forces and self.forces.stops:
            return "stop"
        return "strap" if self.forces and self.forces.straps else "spring"

    @property
    def where(self) -> str:
        """The position that it applies at, in words."""
        travel, roll, steer = self.position
        found = f"at {travel:+.1f} mm" if travel else "at ride height"
        found += f", roll {roll:+.1f}°" if roll else ""
        return found + (f", steer {steer:+.1f}" if steer else "")


@dataclass(frozen=True, slots=True, kw_only=True)
class EndLoads:
    """All cases of one end."""

    solved: Solved | None
    cases: tuple[Carried, ...]
    bump_mm: float  # where the stop touches, or the damper closes
    droop_mm: float
    bump_by: str
    droop_by: str


def end_loads(
    swept: Swept, end: End, car: Car, cases: Sequence[CarCase], *, rolls: Mapping[str, EndRoll], lock: float = 0.0
) -> EndLoads:  # fmt: skip
    """Carry the cases that concern this end.

    Args:
        swept: the end moved through its travel.
        end: as it stands in its car.
        car: its masses.
        cases: of the load set.
        rolls: both ends of the car as the body leans on them, as far as the job has them.
        lock: furthest steer either way [mm or deg].

    Raises:
        InputError: by point, for what makes the mechanism impossible.
    """

    @cache
    def at_ride() -> Mapping[str, float]:
        return swept.springs_at_ride(car)

    asked = Asked(end=end, car=car, swept=swept, rolls=rolls, lock=lock, at_ride=at_ride)
    made: list[Carried] = []
    for case in cases:
        if case.end in ("both", end.end):
            made += _made(case, asked)
    both = swept.ends["both"]
    return EndLoads(
        solved=swept.solved, cases=tuple(_carry(made, asked)), bump_mm=both.bump, droop_mm=both.droop, bump_by=both.bump_by,
        droop_by=both.droop_by,
    )  # fmt: skip


def _made(case: CarCase, asked: Asked) -> list[Carried]:
    """The case, each way round, as what acts; faults stay with it."""
    try:
        return [
            Carried(
                case=case, name=f"{case.name}{one.way}", position=one.position, pushes=one.pushes, strikes=one.strikes,
                notes=one.notes, fault=one.refused, refused=one.refused is not None,
            )
            for one in acting(case, asked)
        ]  # fmt: skip
    except InputError as error:
        return [Carried(case=case, name=case.name, position=(0.0, 0.0, 0.0), pushes=(), fault=error.message)]


def _carry(made: list[Carried], asked: Asked) -> list[Carried]:
    """Balance every case at its position; those at one position share its solution."""
    swept = asked.swept
    places = sorted({one.position for one in made if one.fault is None})
    if not places:
        return made
    solved = swept.resolved(np.array(places).T)
    groups: dict[tuple[float, float, float], list[int]] = {}
    for i, one in enumerate(made):
        if one.fault is None:
            groups.setdefault(one.position, []).append(i)
    ready = list(made)
    met = swept.met(solved)
    sines, turned, twist = _sines(solved), _turned(solved, swept.ride), twists(solved)
    asked_at: list[At] = []
    told: list[tuple[tuple[str, ...], str | None]] = []
    for lane, place in enumerate(places):
        over = met[lane]
        notes: tuple[str, ...] = ()
        own: Mapping[str, float] = {}
        fault = None
        if over:
            try:
                own = swept.own_springs(solved, lane, asked.at_ride()) if asked.end.rated else {}
            except InputError as error:
                fault = error.message
            if not own:
                notes = ("no spring rate is known: what is met is taken to carry it all",)
        cases = tuple(Case(name=made[i].name, pushes=made[i].pushes) for i in groups[place])
        asked_at.append(At(lane=lane, cases=cases, met=over, springs=own))
        told.append((notes, fault))
    for at, (notes, fault), found in zip(asked_at, told, forces_at(solved, asked_at, twist), strict=True):
        tilts = {name: (float(a[at.lane]), float(b[at.lane])) for name, (a, b) in sines.items()}
        angles = {name: float(angle[at.lane]) for name, angle in turned.items()}
        for i, forces in zip(groups[places[at.lane]], found, strict=True):
            if isinstance(forces, InputError):
                ready[i] = replace(made[i], fault=forces.message)
                continue
            left = bool(at.met) and not (forces.stops or forces.straps) and not forces.fault
            # a steering arm is held by its box, which is no lack of a spring
            held = any(abs(force) > HELD for name, force in forces.holds.items() if not name.startswith(STEERED))
            said = (
                *made[i].notes,
                *notes,
                *(("the springs carry it without what is met",) if left else ()),
                *((UNHELD,) if held else ()),
            )
            ready[i] = replace(
                made[i], met=at.met, springs=at.springs, sines=tilts, turned=angles, notes=said, forces=forces,
                fault=fault or (forces.fault.message if forces.fault else None),
            )  # fmt: skip
    return ready


def _sines(solved: Solved) -> dict[str, tuple[Array, Array]]:
    """Of every link whose bolts are known at either end: the sine of its tilt to the plane square to the bolt, by position."""
    found: dict[str, tuple[Array, Array]] = {}
    for side, suffix in _sides(solved):
        for link in side.assembled.links:
            bolts = bolt_directions(side.assembled, side.solved, link)
            if not bolts:
                continue
            a, b = (side.solved.system.where(side.solved.poses, mark, side.solved.drives) for mark in (link.a, link.b))
            axis = (b - a) / np.linalg.norm(b - a, axis=0)
            unknown = np.full(axis.shape[1], np.nan)
            one, two = (
                np.abs((axis * bolts[end]).sum(axis=0)) * np.ones(axis.shape[1]) if end in bolts else unknown
                for end in ("a", "b")
            )
            found[f"{link.name}{suffix}"] = one, two
    return found


def _axes(solved: Solved) -> dict[str, Array]:
    """Of every link the direction from its end A to B (3, positions)."""
    found: dict[str, Array] = {}
    for side, suffix in _sides(solved):
        for link in side.assembled.links:
            a, b = (side.solved.system.where(side.solved.poses, mark, side.solved.drives) for mark in (link.a, link.b))
            found[f"{link.name}{suffix}"] = (b - a) / np.linalg.norm(b - a, axis=0)
    return found


def _turned(solved: Solved, ride: Solved) -> dict[str, Array]:
    """Of every link: the angle between where it points and where it does at ride height [°], by position."""
    still = _axes(ride)
    found = {}
    for name, axis in _axes(solved).items():
        before = still[name][:, :1]
        found[name] = np.degrees(np.arctan2(np.linalg.norm(cross(axis, before), axis=0), (axis * before).sum(axis=0)))
    return found


def _sides(solved: Solved) -> list[tuple[SolvedSide, str]]:
    """The mechanisms of an end, each with what its links' names end in: one of a beam, two of corners."""
    if solved.left.assembled.beam:
        return [(solved.left, "")]
    return [(solved.left, ""), (solved.right or solved.left, ", right")]
