"""Fillet weld group treated as a line: force, bending and torsion on straight runs in one plane (Blodgett).

Not covered: weld quality, elastic support of the plate (a soft wall loads the ends of a run), fatigue.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot, sqrt

from tirante.core.errors import InputError, NotApplicable

Vector = tuple[float, float, float]
Run = tuple[float, float, float, float]  # x1, y1, x2, y2 [mm]


@dataclass(frozen=True, slots=True, kw_only=True)
class WeldGroupForce:
    """Line force of the group at its worst point."""

    length: float  # [mm]
    centroid: tuple[float, float]  # [mm]
    max_line_force: float  # [N/mm]
    at: tuple[float, float]  # [mm]


@dataclass(frozen=True, slots=True, kw_only=True)
class LineForces:
    """Line force at both ends of every run."""

    length: float  # [mm]
    centroid: tuple[float, float]  # [mm]
    at: tuple[tuple[float, float], ...]  # ends of the runs [mm]
    forces: tuple[Vector, ...]  # there [N/mm]


def line_forces(runs: Sequence[Run], force: Vector, at: Vector, moment: Vector = (0.0, 0.0, 0.0)) -> LineForces:
    """Force per length of weld at the ends of all runs, linear in the force.

    The group is rigid: the line force is the direct part F/L, plus torsion about the centroid shared by the polar
    second moment, plus out-of-plane bending shared by the second moments with their product.

    Args:
        runs: straight welds in their plane.
        force: on the attached part [N]
        at: where it acts, z off the weld plane [mm]
        moment: beside it [N·mm]

    Raises:
        InputError: no runs or a run of no length.
        NotApplicable: all runs in one line and a moment about it, which lines cannot carry.

    Source:
        Blodgett sect. 7.4 (from memory).
    """
    if not runs:
        raise InputError("A weld group needs at least one run.", fields=("segments",))
    lengths = [hypot(x2 - x1, y2 - y1) for x1, y1, x2, y2 in runs]
    for i, run_length in enumerate(lengths):
        if run_length <= 1e-9:
            raise InputError("This weld run has no length.", fields=(f"segments.{i}",), value=0.0)
    length = sum(lengths)
    cx = sum(ln * (x1 + x2) / 2 for ln, (x1, _, x2, _) in zip(lengths, runs, strict=True)) / length
    cy = sum(ln * (y1 + y2) / 2 for ln, (_, y1, _, y2) in zip(lengths, runs, strict=True)) / length
    shifted = [(x1 - cx, y1 - cy, x2 - cx, y2 - cy) for x1, y1, x2, y2 in runs]
    i_yy = sum(ln * (x1 * x1 + x1 * x2 + x2 * x2) / 3 for ln, (x1, _, x2, _) in zip(lengths, shifted, strict=True))
    i_xx = sum(ln * (y1 * y1 + y1 * y2 + y2 * y2) / 3 for ln, (_, y1, _, y2) in zip(lengths, shifted, strict=True))
    i_xy = sum(
        ln * (2 * x1 * y1 + 2 * x2 * y2 + x1 * y2 + x2 * y1) / 6
        for ln, (x1, y1, x2, y2) in zip(lengths, shifted, strict=True)
    )
    fx, fy, fz = force
    rx, ry, rz = at[0] - cx, at[1] - cy, at[2]
    turned = ry * fz - rz * fy, rz * fx - rx * fz, rx * fy - ry * fx
    mx, my, mz = (by_force + own for by_force, own in zip(turned, moment, strict=True))
    a, b = _bending(i_xx, i_yy, i_xy, mx, my)
    polar = i_xx + i_yy
    places, found = [], []
    for x1, y1, x2, y2 in shifted:
        for x, y in ((x1, y1), (x2, y2)):
            places.append((x + cx, y + cy))
            found.append((fx / length - mz * y / polar, fy / length + mz * x / polar, fz / length + a * x + b * y))
    return LineForces(length=length, centroid=(cx, cy), at=tuple(places), forces=tuple(found))


def weld_group(runs: Sequence[Run], force: Vector, at: Vector, moment: Vector = (0.0, 0.0, 0.0)) -> WeldGroupForce:
    """Largest force per length of weld under a force applied anywhere.

    Along a straight run the resultant's square is convex, so the worst point is an end of a run.

    Args:
        runs: straight welds in their plane.
        force: on the attached part [N]
        at: where it acts, z off the weld plane [mm]
        moment: beside it [N·mm]

    Returns:
        Length, centroid, and the worst point.

    Raises:
        InputError: no runs or a run of no length.
        NotApplicable: all runs in one line and a moment about it, which lines cannot carry.

    Source:
        Blodgett sect. 7.4 (from memory).
    """
    found = line_forces(runs, force, at, moment)
    best, where = -1.0, (0.0, 0.0)
    for place, (qx, qy, qz) in zip(found.at, found.forces, strict=True):
        resultant = sqrt(qx * qx + qy * qy + qz * qz)
        if resultant > best * (1 + 1e-12):
            best, where = resultant, place
    return WeldGroupForce(length=found.length, centroid=found.centroid, max_line_force=best, at=where)


def _bending(i_xx: float, i_yy: float, i_xy: float, mx: float, my: float) -> tuple[float, float]:
    """a, b of the out-of-plane line force a·x + b·y with ∫y q = mx and −∫x q = my."""
    determinant = i_xx * i_yy - i_xy * i_xy
    polar = i_xx + i_yy
    if determinant > 1e-12 * polar * polar:
        return (-my * i_xx - mx * i_xy) / determinant, (mx * i_yy + my * i_xy) / determinant
    # one line: (ux, uy) along it; only the moment square to it can be carried
    ux, uy = sqrt(i_yy / polar), sqrt(i_xx / polar)
    uy = -uy if i_xy < 0 else uy
    about_line, across = mx * ux + my * uy, mx * uy - my * ux
    if abs(about_line) > 1e-9 * (abs(mx) + abs(my)):
        raise NotApplicable(
            "All weld runs lie in one line and the force bends them about it; welds treated as lines cannot carry that. "
            "Add a run beside it or weld both sides as two runs.",
            code="weld_in_one_line",
            fields=("segments",),
        )
    return across * ux / polar, across * uy / polar
