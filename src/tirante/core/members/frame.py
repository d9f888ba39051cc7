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

    Bar forces act on the bar at its ends in its own axes: along (a to b), two across, then moments; [N, N·mm]. Of many
    variants at once (`frames`) each array has one axis more, in front.
    """

    displacements: Array
    reactions: Array
    bars: Array
    lines: Array  # what holds a node along a line pushes it with, along the line's direction (lines, loads) [N]
    residual: float  # of equilibrium, relative to the load

    def axial(self) -> Array:
        """Tension of every bar (bars, loads) [N]."""
        return -self.bars[..., 0, 0, :]

    def shear(self) -> Array:
        """Largest shear at either end (bars, 2, loads) [N]."""
        return np.hypot(self.bars[..., 1, :], self.bars[..., 2, :])

    def bending(self) -> Array:
        """Bending moment at either end (bars, 2, loads) [N·mm]."""
        return np.hypot(self.bars[..., 4, :], self.bars[..., 5, :])

    def bent(self) -> Array:
        """Moments at either end about the bar's own two axes across it, signed (bars, 2, 2, loads) [N·mm]."""
        return self.bars[..., 4:6, :]

    def twisted(self) -> Array:
        """Torque of every bar, signed (bars, loads) [N·mm]."""
        return self.bars[..., 0, 3, :]

    def torsion(self) -> Array:
        """Torque of every bar (bars, loads) [N·mm]."""
        return np.abs(self.bars[..., 0, 3, :])


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
    stiffness = np.array([[stiffness_of(bar.section, bar.elastic_modulus, bar.shear_modulus) for bar in bars]])
    found = frames(nodes, [(bar.a, bar.b) for bar in bars], stiffness, held, loads, lines)
    return FrameForces(
        displacements=found.displacements[0], reactions=found.reactions[0], bars=found.bars[0], lines=found.lines[0],
        residual=found.residual,
    )  # fmt: skip


def stiffness_of(section: Section, elastic_modulus: float, shear_modulus: float) -> tuple[float, float, float]:
    """E A [N], E I [N·mm²] and G J [N·mm²] of a round tube (J = 2 I).

    Args:
        section: of the tube.
        elastic_modulus: [MPa]
        shear_modulus: [MPa]
    """
    second = section.second_moment
    return elastic_modulus * section.area, elastic_modulus * second, shear_modulus * 2 * second


def flat_stiffness(
    width: float, thickness: float, elastic_modulus: float, shear_modulus: float
) -> tuple[float, float, float]:
    """The same of a flat strut, about its weaker axis both ways (J = w t³/3).

    Args:
        width: [mm]
        thickness: [mm]
        elastic_modulus: [MPa]
        shear_modulus: [MPa]
    """
    second = width * thickness**3 / 12
    return elastic_modulus * width * thickness, elastic_modulus * second, shear_modulus * 4 * second


def frames(
    nodes: Array, ends: Sequence[tuple[int, int]], stiffness: Array, held: Array, loads: Array, lines: Sequence[tuple[int, Array]] = (),
) -> FrameForces:  # fmt: skip
    """One frame with its bars of many sizes, all solved at once.

    Args:
        held: coordinates that do not move.
        loads: on the nodes, by coordinate [N, N·mm].
        nodes: (n, 3) [mm].
        ends: of the bars, by node.
        stiffness: (variants, bars, 3) E A, E I and G J of every bar in every variant [N, N·mm²].
        lines: loads along bars, as of `frame`.

    Raises:
        InputError: as `frame`.
    """
    n, count, variants = len(nodes), loads.shape[2], len(stiffness)
    size = 6 * n
    whole = np.zeros((variants, size, size))
    parts, turns = _elements(nodes, ends)
    local = np.einsum("vek,ekij->veij", stiffness, parts)
    across = turns.swapaxes(1, 2) @ local @ turns
    where = np.array([[*range(6 * a, 6 * a + 6), *range(6 * b, 6 * b + 6)] for a, b in ends], dtype=np.intp)
    for i, own in enumerate(where):
        whole[:, own[:, None], own] += across[:, i]
    fixed = held.reshape(-1).astype(bool)
    free = ~fixed
    right = loads.reshape(size, count)
    rows = np.zeros((len(lines), size))
    for i, (node, direction) in enumerate(lines):
        rows[i, 6 * node : 6 * node + 3] = direction
    inner, c = whole[:, free][:, :, free], rows[:, free]
    scale = 1 / np.sqrt(np.maximum(np.abs(np.diagonal(inner, axis1=1, axis2=2)).mean(axis=0), 1e-30))
    # only motions that the lines allow: the complement of their directions
    basis = np.linalg.qr((c * scale).T, mode="complete")[0][:, len(lines) :] if len(lines) else np.eye(len(scale))
    basis = scale[:, None] * basis
    allowed = basis.T @ inner @ basis
    # what is loose is loose at every size
    values = np.linalg.eigvalsh(allowed[0]) if allowed.shape[1] else np.ones(1)
    if values[0] < 1e-11 * values[-1]:
        raise InputError(
            "The frame can move freely: too few pivots hold it, or a tube hangs loose. Hold another point.",
            code="not_held", fields=("pivots",),
        )  # fmt: skip
    moved = np.zeros((variants, size, count))
    for _ in range(2):  # once more on what is left, for the last digits
        moved[:, free] += basis @ np.linalg.solve(allowed, basis.T @ (right - whole @ moved)[:, free])
    reactions = whole @ moved - right
    pushes = np.linalg.pinv(c.T) @ reactions[:, free] if len(lines) else np.zeros((variants, 0, count))
    left = np.abs(reactions[:, free] - c.T @ pushes).max(initial=0.0) / max(np.abs(right).max(initial=0.0), 1e-12)
    reactions[:, free] = 0.0
    bars = (local @ (turns @ moved[:, where])).reshape(variants, len(ends), 2, 6, count)
    return FrameForces(
        displacements=moved.reshape(variants, n, 6, count), reactions=reactions.reshape(variants, n, 6, count), bars=bars,
        lines=pushes, residual=float(left),
    )  # fmt: skip


def _templates() -> tuple[Array, Array, Array, Array, Array]:
    """Stiffness of a bar in its own axes, for a length, E A, E I and G J of one: what goes with 1/L of stretch and twist, and with
    1/L³, 1/L² and 1/L of bending."""
    found = [np.zeros((12, 12)) for _ in range(5)]
    stretched, twisted, *bending = found
    for of, p, q in ((stretched, 0, 6), (twisted, 3, 9)):
        of[[p, q], [p, q]] = 1.0
        of[[p, q], [q, p]] = -1.0
    for v, r, sign in ((1, 5, 1.0), (2, 4, -1.0)):
        where = np.ix_([v, r, v + 6, r + 6], [v, r, v + 6, r + 6])
        sheared, both, bent = (of[where] for of in bending)
        sheared[np.ix_([0, 2], [0, 2])] = [[12, -12], [-12, 12]]
        both[0, 1] = both[1, 0] = both[0, 3] = both[3, 0] = 6 * sign
        both[1, 2] = both[2, 1] = both[2, 3] = both[3, 2] = -6 * sign
        bent[np.ix_([1, 3], [1, 3])] = [[4, 2], [2, 4]]
        for of, part in zip(bending, (sheared, both, bent), strict=True):
            of[where] = part
    return stretched, twisted, bending[0], bending[1], bending[2]


STRETCHED, TWISTED, SHEARED, BOTH, BENT = _templates()


def _elements(nodes: Array, ends: Sequence[tuple[int, int]]) -> tuple[Array, Array]:
    """Of every bar: stiffness in its own axes for E A, E I and G J of one (bars, 3, 12, 12), and the turn from the frame's axes to
    them (bars, 12, 12)."""
    a, b = (np.array([end[k] for end in ends], dtype=np.intp) for k in (0, 1))
    d = nodes[b] - nodes[a]
    length = np.sqrt((d * d).sum(axis=1))
    if (length < 1e-6).any():
        i = int(np.argmin(length))
        raise InputError(
            f"Tube {i + 1} has no length. Move one of its ends.", code="zero_length", fields=(f"tubes.{i}",)
        )
    x = d / length[:, None]
    # across it: square to the axis that it lies along least
    y = np.cross(np.eye(3)[np.abs(x).argmin(axis=1)], x)
    y /= np.sqrt((y * y).sum(axis=1))[:, None]
    axes = np.stack([x, y, np.cross(x, y)], axis=1)
    turns = np.zeros((len(ends), 12, 12))
    for i in range(0, 12, 3):
        turns[:, i : i + 3, i : i + 3] = axes
    k = np.empty((len(ends), 3, 12, 12))
    long = length[:, None, None]
    k[:, 0], k[:, 2] = STRETCHED / long, TWISTED / long
    k[:, 1] = SHEARED / long**3 + BOTH / long**2 + BENT / long
    return k, turns


def von_mises(section: Section, axial: float, bending: float, torsion: float, shear: float) -> float:
    """Worst stress in a round tube [MPa]: bending's fibre with torsion, or the neutral fibre with shear (2 V/A) and torsion.

    Args:
        section: of the tube.
        axial: force [N].
        bending: moment [N·mm].
        torsion: moment [N·mm].
        shear: [N]
    """
    forces = (np.array(value) for value in (axial, bending, torsion, shear))
    return float(von_mises_of(np.array(section.od), np.array(section.area), np.array(section.second_moment), *forces))


def von_mises_of(
    od: Array, area: Array, second: Array, axial: Array, bending: Array, torsion: Array, shear: Array
) -> Array:
    """`von_mises` of many tubes and forces at once.

    Args:
        od: outside diameters [mm].
        area: of the sections [mm²].
        second: moments of area [mm⁴].
        axial: forces [N].
        bending: moment [N·mm].
        torsion: moment [N·mm].
        shear: [N]
    """
    c = od / 2
    twist = torsion * c / (2 * second)
    fibre = np.sqrt((np.abs(axial) / area + bending * c / second) ** 2 + 3 * twist**2)
    neutral = np.sqrt((axial / area) ** 2 + 3 * (twist + 2 * shear / area) ** 2)
    return np.maximum(fibre, neutral)
