"""A welded frame of tubes in load cases: the stretches between its nodes and what goes along each, many sizes at once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Generic, TypeVar

import numpy as np
from numpy.typing import NDArray

from tirante.core.members.tube import Section

Array = NDArray[np.float64]


SHEAR_OF_E = 2.6  # E / G at Poisson's ratio 0.3


@dataclass(frozen=True, slots=True, kw_only=True)
class Material:
    """A tube and the stiffness of its metal."""

    section: Section
    elastic_modulus: float  # [MPa]


@dataclass(frozen=True, slots=True, kw_only=True)
class FrameCase:
    """A frame in one case, on one side of the car, with each of the tubes that were asked for (first axis of every array).

    A whole tube is cut into stretches where something stands on it: "front tube, stretch 2" is one of "front tube".
    """

    case: str
    where: str  # the position of the case, in words
    names: tuple[str, ...]  # of the stretches of tube
    axial: Array  # (tubes asked, stretches) [N]
    moment: Array  # larger of both ends [N·mm]
    torsion: Array
    shear: Array
    bent: Array  # moments at both ends about the stretch's own two axes across it (tubes asked, stretches, 2, 2), for ranges between cases [N·mm]
    twisted: Array  # torque with its sign [N·mm]
    lengths: dict[str, float]  # of whole tubes, joint centre to joint centre [mm]
    nodes: Array  # (nodes, 3) [mm]
    ends: tuple[tuple[int, int], ...]  # of the stretches, by node
    loads: Array  # (nodes, 6) [N, N·mm]
    residual: float


C = TypeVar("C", bound=FrameCase)


@dataclass(frozen=True, slots=True, kw_only=True)
class FrameCases(Generic[C]):
    """A frame in all the cases that load the same places of its tubes; arrays as of `FrameCase`, with one axis more at the end:
    the cases."""

    which: tuple[int, ...]  # of the cases that were asked for
    names: tuple[str, ...]
    axial: Array
    moment: Array
    torsion: Array
    shear: Array
    bent: Array
    lengths: dict[str, float]
    at: tuple[C, ...]  # each case by itself


def in_order(found: Sequence[FrameCases[C]]) -> list[C]:
    """Every case by itself, as they were asked for."""
    ordered = sorted(
        ((i, one) for group in found for i, one in zip(group.which, group.at, strict=True)), key=lambda p: p[0]
    )
    return [one for _, one in ordered]


def stem_of(stretch: str) -> str:
    """The whole tube that a stretch is of."""
    return stretch.split(",")[0]


def lengths_of(nodes: Array, ends: Sequence[tuple[int, int]], stretches: Sequence[str]) -> dict[str, float]:
    """Of whole tubes, by the name before the stretch [mm].

    Args:
        nodes: (n, 3) [mm].
        ends: of the stretches, by node.
        stretches: their names.
    """
    out: dict[str, float] = {}
    for (a, b), name in zip(ends, stretches, strict=True):
        out[stem_of(name)] = out.get(stem_of(name), 0.0) + float(np.linalg.norm(nodes[b] - nodes[a]))
    return out
