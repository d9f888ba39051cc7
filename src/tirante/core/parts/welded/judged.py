"""Tubes of a welded frame under every case: at their welds, and as columns that bend.

Where tubes are welded, the as-welded yield holds. Not covered: second order beyond the column check of each tube.

Source:
    Stress by von Mises; column Shigley and AISC E3, the lower, and bending by linear interaction (docs/methods.md, Arms as frames).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.catalogue import Grade, Tube
from tirante.core.document.settings import DesignFactors
from tirante.core.members.column import column_strength
from tirante.core.members.frame import BoxSection, von_mises_of
from tirante.core.members.tube import Section
from tirante.core.parts.welded.cases import C, FrameCases, Material, stem_of

Array = NDArray[np.float64]


PLATE_MODULUS = 205_000.0  # MPa, steel plate; common value


@dataclass(frozen=True, slots=True, kw_only=True)
class Boxed:
    """Those of a frame's members that are boxes of steel plate, by whole tube."""

    sections: Mapping[str, BoxSection]
    yield_strength: float  # [MPa]


@dataclass(frozen=True, slots=True, kw_only=True)
class TubeForces:
    """A stretch of tube in a case [N, N·mm, MPa]."""

    name: str
    case: str
    axial: float
    moment: float
    torsion: float
    shear: float
    stress: float
    weld_use: float  # factored stress at its welded ends over the as-welded yield
    column_use: float  # factored push over the column's, and bending over yield, together

    @property
    def use(self) -> float:
        """The larger."""
        return max(self.weld_use, self.column_use)


def material_of(tube: Tube, grade: Grade) -> Material:
    """A tube of the catalogue in its metal."""
    return Material(section=Section(od=tube.od_mm, wall=tube.wall_mm), elastic_modulus=grade.e_mpa)


def worst_of_tubes(
    found: Sequence[FrameCases[C]],
    every: Sequence[C],
    section: Section,
    grade: Grade,
    factors: DesignFactors,
    boxed: Boxed | None = None,
) -> tuple[tuple[TubeForces, ...], tuple[TubeForces, ...], tuple[TubeForces, ...]]:
    """Of each stretch the worst case; of each whole tube the one that asks most of its welds, and the one that asks most of it as
    a column. Of cases that ask alike the first.

    Args:
        found: the cases, those of one layout together.
        every: each by itself.
        section: of the tubes.
        grade: their metal.
        factors: the design’s.
        boxed: those that are boxes of plate instead.
    """
    rows: dict[str, list[tuple[int, int, float, float, float]]] = {}  # by stretch: case, which, weld, column, stress
    for group in found:
        weld, column, stress = (of[0] for of in uses(group, [section], np.array([0]), grade, factors, boxed))
        for i, name in enumerate(group.names):
            for use in (np.maximum(weld[i], column[i]), weld[i], column[i]):
                k = int(np.argmax(use))
                rows.setdefault(name, []).append(
                    (group.which[k], i, float(weld[i, k]), float(column[i, k]), float(stress[i, k]))
                )
    worst: dict[str, TubeForces] = {}
    welds: dict[str, TubeForces] = {}
    columns: dict[str, TubeForces] = {}
    for name, row in sorted(((name, row) for name, own in rows.items() for row in own), key=lambda pair: pair[1][:2]):
        case, i, weld_use, column_use, stress_mpa = row
        one = every[case]
        stretch = TubeForces(
            name=name, case=one.case, axial=float(one.axial[0, i]), moment=float(one.moment[0, i]), torsion=float(one.torsion[0, i]),
            shear=float(one.shear[0, i]), stress=stress_mpa, weld_use=weld_use, column_use=column_use,
        )  # fmt: skip
        stem = stem_of(name)
        if name not in worst or stretch.use > worst[name].use:
            worst[name] = stretch
        if stem not in welds or stretch.weld_use > welds[stem].weld_use:
            welds[stem] = stretch
        if stretch.column_use > (columns[stem].column_use if stem in columns else 0.0):
            columns[stem] = stretch
    names = [name for group in sorted(found, key=lambda group: group.which) for name in group.names]
    return tuple(worst[name] for name in dict.fromkeys(names)), tuple(welds.values()), tuple(columns.values())


def uses(
    one: FrameCases[C],
    sections: Sequence[Section],
    which: NDArray[np.intp],
    grade: Grade,
    factors: DesignFactors,
    boxed: Boxed | None = None,
) -> tuple[Array, Array, Array]:
    """Of each of these tubes and every stretch: use at the weld, use as a column, stress (tubes, stretches, cases).

    Args:
        one: cases of one layout.
        sections: of the tubes.
        which: row of each in the cases’ arrays.
        grade: their metal.
        factors: the design’s.
        boxed: those that are boxes of plate instead.
    """
    od = np.array([s.od for s in sections])[:, None, None]
    area = np.array([s.area for s in sections])[:, None, None]
    second = np.array([s.second_moment for s in sections])[:, None, None]
    axial, moment = one.axial[which], one.moment[which]
    stress = von_mises_of(od, area, second, axial, moment, one.torsion[which], one.shear[which])
    stems = [stem_of(name) for name in one.names]
    # what a stretch buckles over is the whole tube that it is part of, on the safe side
    strong = np.array([_columns(s, grade, stems, one.lengths) for s in sections])[:, :, None]
    push = np.maximum(0.0, -axial) * factors.column / strong
    bent = moment * factors.yielding * (od / 2) / second / grade.yield_mpa
    weld, column = stress * factors.yielding / grade.welded_yield_mpa, np.where(push > 0, push + bent, 0.0)
    for i, stem in enumerate(stems):
        box = boxed.sections.get(stem) if boxed else None
        if boxed and box:
            of_box = _box_uses(one, i, which, box, boxed.yield_strength, factors)
            weld[:, i], column[:, i], stress[:, i] = of_box
    return weld, column, stress


def _box_uses(
    one: FrameCases[C], i: int, which: NDArray[np.intp], box: BoxSection, strength: float, factors: DesignFactors
) -> tuple[Array, Array, Array]:
    """A stretch that is a box: use at its weld, as a column, and stress (tubes, cases)."""
    axial, twist, shear = (of[which][:, i] for of in (one.axial, one.torsion, one.shear))
    up, side = (one.bent[which][:, i, :, axis] for axis in (0, 1))  # (tubes, ends, cases)
    stress = np.max([box.stress(axial, up[:, end], side[:, end], twist, shear) for end in (0, 1)], axis=0)
    found = column_strength(box, one.lengths[stem_of(one.names[i])], strength, PLATE_MODULUS)
    push = np.maximum(0.0, -axial) * factors.column / min(found.critical, found.aisc_e3)
    fibre = np.abs(up) * box.height / 2 / box.upright + np.abs(side) * box.width / 2 / box.sideways
    bent = fibre.max(axis=1) * factors.yielding / strength
    return stress * factors.yielding / strength, np.where(push > 0, push + bent, 0.0), stress


def _columns(section: Section, grade: Grade, stems: Sequence[str], lengths: dict[str, float]) -> list[float]:
    # an arm is as long in one case as in another, to the rounding of its position
    return [_column(section, round(lengths[stem], 6), grade.yield_mpa, grade.e_mpa) for stem in stems]


@lru_cache(maxsize=8192)
def _column(section: Section, length: float, yield_strength: float, elastic_modulus: float) -> float:
    found = column_strength(section, length, yield_strength, elastic_modulus)
    return min(found.critical, found.aisc_e3)
