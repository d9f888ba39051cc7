"""Frames of straight round tubes in space: displacements, reactions and the forces along every tube.

Elements bend, twist and stretch (Euler–Bernoulli, no shear flexibility); joints are rigid as welded. Loads stand at nodes.
Not covered: second order (the tubes' own columns are checked apart), loads along a tube.

Source:
    Direct stiffness method (derived from the beam's own equation; tests compare a general frame library).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from tirante.core.errors import InputError
from tirante.core.members.tube import Section

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class Bar:
    """A tube between two nodes."""

    a: int
    b: int
    section: Section
    elastic_modulus: float  # [MPa]
    shear_modulus: float  # [MPa]


@dataclass(frozen=True, slots=True, kw_only=True)
class FrameForces:
    """Of every load: displacements (nodes, 6, loads), reactions alike, and bar forces (bars, 2 ends, 6, loads).

    Bar forces act on the bar at its ends in its own axes: along (a to b), two across, then moments; [N, N·mm].
    """

    displacements: Array
    reactions: Array
    bars: Array
    lines: Array  # what holds a node along a line pushes it with, along the line's direction (lines, loads) [N]
    residual: float  # of equilibrium, relative to the load

    def axial(self) -> Array:
        """Tension of every bar (bars, loads) [N]."""
        return -self.bars[:, 0, 0, :]

    def shear(self) -> Array:
        """Largest shear at either end (bars, 2, loads) [N]."""
        return np.hypot(self.bars[:, :, 1, :], self.bars[:, :, 2, :])

    def bending(self) -> Array:
        """Bending moment at either end (bars, 2, loads) [N·mm]."""
        return np.hypot(self.bars[:, :, 4, :], self.bars[:, :, 5, :])

    def torsion(self) -> Array:
        """Torque of every bar (bars, loads) [N·mm]."""
        return np.abs(self.bars[:, 0, 3, :])


def frame(
    nodes: Array, bars: Sequence[Bar], held: Array, loads: Array, lines: Sequence[tuple[int, Array]] = ()
) -> FrameForces:  # fmt: skip
    """Solve a frame.

    Args:
        nodes: (n, 3) [mm].
        bars: the tubes.
        held: (n, 6) whether a displacement or rotation is held.
        loads: (n, 6, loads) forces and moments at the nodes [N, N·mm].
        lines: nodes that do not move along a direction (a spring, a stop), unit vectors.

    Raises:
        InputError: a bar has no length; the frame can move freely.
    """
    n, count = len(nodes), loads.shape[2]
    whole = np.zeros((6 * n, 6 * n))
    kept = []
    for i, bar in enumerate(bars):
        local, turn = _element(nodes[bar.a], nodes[bar.b], bar, i)
        where = np.r_[6 * bar.a : 6 * bar.a + 6, 6 * bar.b : 6 * bar.b + 6]
        whole[np.ix_(where, where)] += turn.T @ local @ turn
        kept.append((local, turn, where))
    fixed = held.reshape(-1).astype(bool)
    free = ~fixed
    right = loads.reshape(6 * n, count)
    rows = np.zeros((len(lines), 6 * n))
    for i, (node, direction) in enumerate(lines):
        rows[i, 6 * node : 6 * node + 3] = direction
    inner, c = whole[np.ix_(free, free)], rows[:, free]
    scale = 1 / np.sqrt(np.maximum(np.abs(np.diag(inner)), 1e-30))
    # only motions that the lines allow: the complement of their directions
    basis = np.linalg.qr((c * scale).T, mode="complete")[0][:, len(lines) :] if len(lines) else np.eye(len(scale))
    basis = scale[:, None] * basis
    allowed = basis.T @ inner @ basis
    values = np.linalg.eigvalsh(allowed) if len(allowed) else np.ones(1)
    if values[0] < 1e-11 * values[-1]:
        raise InputError(
            "The frame can move freely: too few pivots hold it, or a tube hangs loose. Hold another point.",
            code="not_held", fields=("pivots",),
        )  # fmt: skip
    moved = np.zeros((6 * n, count))
    for _ in range(2):  # once more on what is left, for the last digits
        moved[free] += basis @ np.linalg.solve(allowed, basis.T @ (right - whole @ moved)[free])
    reactions = whole @ moved - right
    pushes = np.linalg.lstsq(c.T, reactions[free], rcond=None)[0] if len(lines) else np.zeros((0, count))
    left = np.abs(reactions[free] - c.T @ pushes).max(initial=0.0) / max(np.abs(right).max(initial=0.0), 1e-12)
    reactions[free] = 0.0
    ends = np.array([(local @ turn @ moved[where]).reshape(2, 6, count) for local, turn, where in kept])
    return FrameForces(
        displacements=moved.reshape(n, 6, count), reactions=reactions.reshape(n, 6, count), bars=ends, lines=pushes,
        residual=float(left),
    )  # fmt: skip


def _element(a: Array, b: Array, bar: Bar, index: int) -> tuple[Array, Array]:
    """Stiffness in the bar's own axes (12 × 12), and the turn from the frame's axes to them."""
    d = b - a
    length = float(np.linalg.norm(d))
    if length < 1e-6:
        raise InputError(
            f"Tube {index + 1} has no length. Move one of its ends.", code="zero_length", fields=(f"tubes.{index}",)
        )
    x = d / length
    seed = np.eye(3)[int(np.argmin(np.abs(x)))]
    y = np.cross(seed, x)
    y /= np.linalg.norm(y)
    axes = np.array([x, y, np.cross(x, y)])
    turn = np.kron(np.eye(4), axes)
    e, g, area, i = bar.elastic_modulus, bar.shear_modulus, bar.section.area, bar.section.second_moment
    k = np.zeros((12, 12))

    def pair(p: int, q: int, stiffness: float) -> None:
        k[p, p] += stiffness
        k[q, q] += stiffness
        k[p, q] -= stiffness
        k[q, p] -= stiffness

    pair(0, 6, e * area / length)
    pair(3, 9, g * 2 * i / length)
    for v, r, sign in ((1, 5, 1.0), (2, 4, -1.0)):
        block = e * i / length**3 * np.array(
            [[12, 6 * length * sign, -12, 6 * length * sign],
             [6 * length * sign, 4 * length**2, -6 * length * sign, 2 * length**2],
             [-12, -6 * length * sign, 12, -6 * length * sign],
             [6 * length * sign, 2 * length**2, -6 * length * sign, 4 * length**2]]
        )  # fmt: skip
        where = [v, r, v + 6, r + 6]
        k[np.ix_(where, where)] += block
    return k, turn


def von_mises(section: Section, axial: float, bending: float, torsion: float, shear: float) -> float:
    """Worst stress in a round tube [MPa]: bending's fibre with torsion, or the neutral fibre with shear (2 V/A) and torsion."""
    c, i = section.od / 2, section.second_moment
    twist = torsion * c / (2 * i)
    fibre = ((abs(axial) / section.area + bending * c / i) ** 2 + 3 * twist**2) ** 0.5
    neutral = ((axial / section.area) ** 2 + 3 * (twist + 2 * shear / section.area) ** 2) ** 0.5
    return float(max(fibre, neutral))
