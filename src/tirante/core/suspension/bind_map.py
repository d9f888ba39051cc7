"""Every joint's tilt and misalignment over the whole travel, roll and steer, and what would give it more room.

A turned bracket is the bolt axis, fixed to its own body, whose largest tilt over all positions is least: minimise
max |b · u| over the link's directions u seen from that body, as a sequence of linear programmes (derived). Re-clocking is
tried degree by degree.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import degrees, radians
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import linprog

from tirante.core.document.end import End, JointEnd
from tirante.core.mechanism.model import GROUND
from tirante.core.mechanism.solve import CONVERGED, Positions
from tirante.core.suspension import joints
from tirante.core.suspension.assemble import LinkMarks
from tirante.core.suspension.cycle import Solved, SolvedSide, bolt_directions, measured, positions, solved_cycle
from tirante.core.suspension.measures import unit
from tirante.core.suspension.shown.bind_view import Cells
from tirante.core.suspension.template import Template
from tirante.core.suspension.watches import WARN_FROM, plain

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class JointBind:
    """One joint over the whole box. Angles in degrees."""

    name: str
    hinged: bool
    worst: float
    travel: float  # where it is worst [mm]
    roll: float  # [deg]
    steer: float  # [mm, deg]
    limit: float | None
    angles: Array  # at every position, NaN where it was not reached
    advice: tuple[str, ...]

    @property
    def share(self) -> float | None:
        """Of its limit."""
        return self.worst / self.limit if self.limit else None

    def over_travel(self, whole: BindMap) -> Cells:
        """The largest angle over roll at each travel and steer; over steer at each travel and roll where nothing steers."""
        cube = self.angles.reshape(len(whole.travel), len(whole.roll), len(whole.steer))
        steers = len(whole.steer) > 1
        across = whole.steer if steers else whole.roll
        with np.errstate(all="ignore"):
            flat = np.where(np.isfinite(cube), cube, -np.inf).max(axis=1 if steers else 2)
        values = tuple(tuple(float(v) if np.isfinite(v) else None for v in row) for row in flat)
        return Cells(
            travel=tuple(float(t) for t in whole.travel), across=tuple(float(a) for a in across), steers=steers, values=values,
            limit=self.limit,
        )  # fmt: skip


def state_of(joint: JointBind) -> Literal["ok", "attention", "stop", "not asked"]:
    """Whether it is past its limit, or near it."""
    if joint.share is None:
        return "not asked"
    return "stop" if joint.share > 1 else "attention" if joint.share >= WARN_FROM else "ok"


@dataclass(frozen=True, slots=True, kw_only=True)
class BindMap:
    """All joints, the worst against its limit first."""

    travel: Array  # each axis of the box
    roll: Array
    steer: Array
    joints: tuple[JointBind, ...]
    unwatched: tuple[str, ...]  # links of which no bolt is known
    unreached: int  # positions that could not be put together


def bind_map(
    template: Template, end: End, *, bump: float, droop: float, roll: float, steer: float, steps: tuple[int, int, int] = (17, 5, 5)
) -> BindMap:  # fmt: skip
    """Move the end through its whole box and look at every joint.

    Args:
        template: with its additions.
        end: with the bolts of its joints.
        bump: furthest travel up [mm].
        droop: furthest travel down, positive [mm].
        roll: of the body, each way [deg].
        steer: each way [mm of the rack, or deg of the arm].
        steps: positions along travel, roll and steer.

    Raises:
        InputError: as `cycle`.
    """
    along = np.unique(np.append(np.linspace(-droop, bump, steps[0]), 0.0)) if template.rises else np.zeros(1)
    lean = np.linspace(-roll, roll, steps[1]) if roll else np.zeros(1)
    turn = np.linspace(-steer, steer, steps[2]) if steer and template.steered else np.zeros(1)
    rows = positions(along, lean, turn)
    done = solved_cycle(template, end, rows)
    found = measured(done)
    out: list[JointBind] = []
    for name, columns in found.links.items():
        known = end.links.get(plain(name))
        for which, word in (("a", "inner"), ("b", "outer")):
            joint = getattr(known, which, None)
            angles = columns.get(f"misalignment_{which}_deg", columns.get(f"tilt_{which}_deg"))
            if joint is not None and angles is not None and np.isfinite(angles).any():
                side, link = _where(done, name)
                advice = _advice(done, side, link, which, joint, float(np.nanmax(angles)))
                out.append(_row(f"{name}, {word} end", joint.kind == "hinged", angles, rows, joint.limit_deg, advice))
    for name, columns in found.balls.items():
        angles = columns["misalignment_deg"]
        if np.isfinite(angles).any():
            out.append(_row(name, False, angles, rows, end.balls[plain(name)].limit_deg, ()))
    out.sort(key=lambda row: -(row.share if row.share is not None else row.worst / 1000))
    unwatched = {plain(name) for name in found.links} - {n for n, known in end.links.items() if known.a or known.b}
    return BindMap(
        travel=along, roll=lean, steer=turn, joints=tuple(out), unwatched=tuple(sorted(unwatched)),
        unreached=int((done.status != CONVERGED).sum()),
    )  # fmt: skip


def _row(
    name: str, hinged: bool, angles: Array, rows: Array, limit: float | None, advice: tuple[str, ...]
) -> JointBind:
    worst = int(np.nanargmax(angles))
    travel, roll, steer = (float(v) for v in rows[:, worst])
    return JointBind(
        name=name, hinged=hinged, worst=float(angles[worst]), travel=travel, roll=roll, steer=steer, limit=limit,
        angles=angles, advice=advice,
    )  # fmt: skip


def _where(done: Solved, name: str) -> tuple[SolvedSide, LinkMarks]:
    """The side that a link's name belongs to, and its marks there."""
    for side in done.sides:
        suffix = ", right" if side is done.right else ""
        for link in side.assembled.links:
            if f"{link.name}{suffix}" == name:
                return side, link
    raise KeyError(name)


def _advice(
    done: Solved, side: SolvedSide, link: LinkMarks, which: str, joint: JointEnd, worst: float
) -> tuple[str, ...]:
    """What a spacer, a turned bracket or another clocking would give; nothing where there is room enough."""
    limit = joint.limit_deg
    if limit is None or worst <= WARN_FROM * limit:
        return ()
    out = []
    if joint.kind == "spherical":
        wide = joint.limit_with_spacers_deg
        if wide is not None:
            enough = "enough" if worst <= wide else "not enough alone"
            out.append(f"misalignment spacers give {wide:g}°: {enough}")
        else:
            out.append("enter what this joint allows with misalignment spacers to see whether they would do")
    solved = side.solved
    good = np.flatnonzero(solved.status == CONVERGED)
    turn, tilt = turned_bracket(solved, link, which, joint.bolt_axis, good)
    if np.isfinite(tilt) and turn > 0.5:
        out.append(f"its bracket turned by {turn:.0f}° leaves a tilt of {tilt:.1f}° at worst")
    out += _clocking(side, link, which, good, worst)
    if joint.kind == "hinged":
        out.append("it is hinged: one way only. A spherical end there would take what it is bent by")
    return tuple(out)


def turned_bracket(
    solved: Positions, link: LinkMarks, which: str, bolt: tuple[float, float, float], good: NDArray[np.intp]
) -> tuple[float, float]:
    """By how much a bolt is best turned, and the largest tilt that then is left [deg].

    Args:
        solved: its positions.
        link: with the marks of its two ends.
        which: end of the link, "a" or "b".
        bolt: direction of its bolt as it is.
        good: positions that were reached.
    """
    system = solved.system
    a, b = (system.where(solved.poses, mark, solved.drives)[:, good] for mark in (link.a, link.b))
    axis = unit(b - a)
    body = (link.a if which == "a" else link.b).body
    if body != GROUND:  # as the body sees it
        axis = np.einsum("jik,jk->ik", solved.poses.R[system.index[body]][..., good], axis)
    now = np.array([bolt[0], -bolt[1] if link.side == "right" else bolt[1], bolt[2]], float)
    now /= np.linalg.norm(now)
    best, least = now, float(np.abs(now @ axis).max())
    spread = np.linalg.eigh(axis @ axis.T)[1][:, 0]
    for start in (now, spread):
        found, tilt = _least_tilt(axis, start)
        if tilt < least - 1e-9:
            best, least = found, tilt
    angle = float(np.arccos(np.clip(abs(best @ now), 0, 1)))
    return degrees(angle), degrees(float(np.arcsin(np.clip(least, 0, 1))))


def _least_tilt(axis: Array, start: Array) -> tuple[Array, float]:
    """A direction near `start` whose largest |b · u| is least."""
    b = start
    for _ in range(12):
        # b + δ with δ square to b, at most 0.5 long; minimise t with |(b + δ) · u| ≤ t
        _, _, basis = np.linalg.svd(b[None, :])
        across = basis[1:]
        rows = (across @ axis).T
        level = b @ axis
        ones = np.ones((len(level), 1))
        answer = linprog(
            [0.0, 0.0, 1.0], A_ub=np.vstack([np.hstack([rows, -ones]), np.hstack([-rows, -ones])]),
            b_ub=np.concatenate([-level, level]), bounds=[(-0.5, 0.5), (-0.5, 0.5), (0.0, None)], method="highs",
        )  # fmt: skip
        if answer.status != 0:
            break
        step = answer.x[:2] @ across
        b = (b + step) / np.linalg.norm(b + step)
        if np.linalg.norm(step) < 1e-9:
            break
    return b, float(np.abs(b @ axis).max())


def _clocking(side: SolvedSide, link: LinkMarks, which: str, good: NDArray[np.intp], worst: float) -> list[str]:
    """Whether turning one end against the other would bring this one below what it is now by a degree or more."""
    known = side.assembled.end.links[link.template_name]
    if known.a is None or known.b is None:
        return []
    solved = side.solved
    bolts = {
        name: np.broadcast_to(v, (3, solved.poses.lanes))[:, good]
        for name, v in bolt_directions(side.assembled, solved, link).items()
    }
    a, b = (solved.system.where(solved.poses, mark, solved.drives)[:, good] for mark in (link.a, link.b))
    axis = unit(b - a)
    hinged = known.a.kind == "hinged", known.b.kind == "hinged"
    tried = []
    for turn in range(-90, 90):
        pair = joints.misalignment(axis, bolts["a"], bolts["b"], radians(turn), hinged)
        tried.append((max(float(np.degrees(angle).max()) for angle in pair), turn, pair))
    _, turn, pair = min(tried, key=lambda one: one[0])
    left = float(np.degrees(pair[0 if which == "a" else 1]).max())
    if left > worst - 1.0:
        return []
    return [
        f"its ends clocked {turn:+d}° to each other (now {known.clocking_deg:+.0f}°) ask {left:.1f}° of it at worst"
    ]
