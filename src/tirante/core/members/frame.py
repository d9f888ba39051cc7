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


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxSection:
    """A hollow rectangle of plate of one thickness [mm]."""

    height: float
    width: float
    wall: float

    def __post_init__(self) -> None:
        if 2 * self.wall >= min(self.height, self.width):
            raise InputError("The walls of the box are as thick as it is wide. Give it thinner plate.", code="contradictory", fields=("wall_mm",), value=self.wall)  # fmt: skip

    def _inner(self) -> tuple[float, float]:
        return self.height - 2 * self.wall, self.width - 2 * self.wall

    @property
    def area(self) -> float:
        """[mm²]"""
        h, w = self._inner()
        return self.height * self.width - h * w

    @property
    def upright(self) -> float:
        """Second moment against bending up and down [mm⁴]."""
        h, w = self._inner()
        return (self.width * self.height**3 - w * h**3) / 12

    @property
    def sideways(self) -> float:
        """Second moment against bending sideways [mm⁴]."""
        h, w = self._inner()
        return (self.height * self.width**3 - h * w**3) / 12

    @property
    def cell(self) -> float:
        """Area within the middle of its walls [mm²]."""
        return (self.height - self.wall) * (self.width - self.wall)

    @property
    def torsion(self) -> float:
        """Torsion constant, Bredt [mm⁴]."""
        return 4 * self.cell**2 * self.wall / (2 * (self.height + self.width - 2 * self.wall))

    @property
    def radius_of_gyration(self) -> float:
        """The least [mm]."""
        return float(np.sqrt(min(self.upright, self.sideways) / self.area))

    @property
    def slenderness(self) -> float:
        """Of its widest wall, clear of the others."""
        return max(self._inner()) / self.wall

    def stiffness(self, elastic_modulus: float, shear_modulus: float) -> tuple[float, float, float, float]:
        """E A, E I up and down, G J and E I sideways.

        Args:
            elastic_modulus: [MPa]
            shear_modulus: [MPa]
        """
        e = elastic_modulus
        return e * self.area, e * self.upright, shear_modulus * self.torsion, e * self.sideways

    def stress(self, axial: Array, up: Array, side: Array, torsion: Array, shear: Array) -> Array:
        """Equivalent stress at its worst corner, or in its thinner pair of walls [MPa].

        Args:
            axial: force [N].
            up: moment that bends it up and down [N·mm].
            side: moment that bends it sideways [N·mm].
            torsion: torque [N·mm].
            shear: force across, all of it in the shorter pair of walls [N].
        """
        direct = np.abs(axial) / self.area
        fibre = direct + np.abs(up) * self.height / 2 / self.upright + np.abs(side) * self.width / 2 / self.sideways
        twist = np.abs(torsion) / (2 * self.cell * self.wall)
        web = 1.5 * np.abs(shear) / (2 * self.wall * min(self.height, self.width))
        found: Array = np.maximum(np.sqrt(fibre**2 + 3 * twist**2), np.sqrt(direct**2 + 3 * (twist + web) ** 2))
        return found


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
    ups: Array | None = None,
) -> FrameForces:  # fmt: skip
    """One frame with its bars of many sizes, all solved at once.

    Args:
        held: coordinates that do not move.
        loads: on the nodes, by coordinate [N, N·mm].
        nodes: (n, 3) [mm].
        ends: of the bars, by node.
        stiffness: (variants, bars, 3) E A, E I and G J of every bar in every variant [N, N·mm²]; or 4, the last E I against bending about the
            second of its own axes across it, where it is not alike both ways.
        ups: (bars, 3) the way that is up of every bar, for its own axes: the third is the one most that way; None: as it comes.
        lines: loads along bars, as of `frame`.

    Raises:
        InputError: as `frame`.
    """
    n, count, variants = len(nodes), loads.shape[2], len(stiffness)
    size = 6 * n
    whole = np.zeros((variants, size, size))
    parts, turns = _elements(nodes, ends, ups)
    four = stiffness if stiffness.shape[2] == 4 else np.concatenate([stiffness, stiffness[:, :, 1:2]], axis=2)
    local = np.einsum("vek,ekij->veij", four, parts)
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


def _templates() -> tuple[Array, Array, Array]:
    """Stiffness of a bar in its own axes, for a length, E A, E I and G J of one: what goes with 1/L of stretch and twist, and with
    1/L³, 1/L² and 1/L of bending in either plane (planes, 3, 12, 12)."""
    stretched, twisted = np.zeros((12, 12)), np.zeros((12, 12))
    planes = np.zeros((2, 3, 12, 12))
    for of, p, q in ((stretched, 0, 6), (twisted, 3, 9)):
        of[[p, q], [p, q]] = 1.0
        of[[p, q], [q, p]] = -1.0
    for bending, (v, r, sign) in zip(planes, ((2, 4, -1.0), (1, 5, 1.0)), strict=True):
        where = np.ix_([v, r, v + 6, r + 6], [v, r, v + 6, r + 6])
        sheared, both, bent = (of[where] for of in bending)
        sheared[np.ix_([0, 2], [0, 2])] = [[12, -12], [-12, 12]]
        both[0, 1] = both[1, 0] = both[0, 3] = both[3, 0] = 6 * sign
        both[1, 2] = both[2, 1] = both[2, 3] = both[3, 2] = -6 * sign
        bent[np.ix_([1, 3], [1, 3])] = [[4, 2], [2, 4]]
        for of, part in zip(bending, (sheared, both, bent), strict=True):
            of[where] = part
    return stretched, twisted, planes


STRETCHED, TWISTED, BENT_IN = _templates()


def _elements(nodes: Array, ends: Sequence[tuple[int, int]], ups: Array | None = None) -> tuple[Array, Array]:
    """Of every bar: stiffness in its own axes for E A, E I, G J and the other E I of one (bars, 4, 12, 12), and the turn from the frame's
    axes to them (bars, 12, 12)."""
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
    y = np.cross(np.eye(3)[np.abs(x).argmin(axis=1)] if ups is None else ups, x)
    y /= np.sqrt((y * y).sum(axis=1))[:, None]
    axes = np.stack([x, y, np.cross(x, y)], axis=1)
    turns = np.zeros((len(ends), 12, 12))
    for i in range(0, 12, 3):
        turns[:, i : i + 3, i : i + 3] = axes
    k = np.empty((len(ends), 4, 12, 12))
    long = length[:, None, None]
    k[:, 0], k[:, 2] = STRETCHED / long, TWISTED / long
    for which, (sheared, both, bent) in zip((1, 3), BENT_IN, strict=True):
        k[:, which] = sheared / long**3 + both / long**2 + bent / long
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
