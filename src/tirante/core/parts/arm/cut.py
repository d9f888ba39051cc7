"""The tubes of an arm as they are cut: sleeves or inserts at its pivots, its outer joint's cup, the front tube before the rear one, the brace last."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from math import ceil

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.catalogue import Tube
from tirante.core.document.parts.arm import Arm
from tirante.core.notch.meeting import round_at
from tirante.core.parts.arm.ends import ArmSide
from tirante.core.parts.arm.frame import BRACE, TUBES, ArmPlaces
from tirante.core.parts.welded.tube_ends import Cut, Meets, Run, cut_to_each_other

Array = NDArray[np.float64]


def cut_of(
    arm: Arm, tube: Tube, places: ArmPlaces, at: Mapping[str, tuple[float, float, float]], stud: tuple[float, float, float] | None,
    sides: Sequence[ArmSide], paper: float,
) -> tuple[Cut, ...]:  # fmt: skip
    """The arm's tubes in the order in which they are fitted.

    Args:
        arm: as it is saved.
        tube: the stock of its tubes.
        places: its joints in its end’s template.
        at: its points at ride height, as the left side has them.
        stud: the axis of its outer joint's cup, as the left side has it; None: square to the arm.
        sides: both, where its pivots are rod ends.
        paper: thickness of what its wraps are printed on [mm].
    """
    mirror = np.array([1.0, -1.0, 1.0]) if arm.side == "right" else np.ones(3)
    front, rear, outer = (np.array(at[name], float) * mirror for name in (*places.pivots, places.outer_point))
    up = np.cross(rear - front, outer - front)
    up = up / np.linalg.norm(up)
    up = up if up[2] >= 0 else -up
    names = [name.replace("_", " ") for name in (*places.pivots, places.outer_point)]
    axis = up if stud is None else np.array(stud, float) * mirror
    out = _outer(arm, names[2], outer, axis)
    runs: list[Run] = []
    for i, (name, pivot) in enumerate(zip(TUBES, (front, rear), strict=True)):
        if sides:
            inner = Meets(
                where=names[i], square=_length(pivot, outer) - arm.outer_face_mm - sides[i].stack.tube_cut, why=""
            )
        else:
            inner = Meets(
                where=names[i], before=arm.pivot_face_mm,
                rounds=(round_at(f"sleeve at {names[i]}", pivot, rear - front, arm.pivot_face_mm),) if arm.pivot_face_mm > 0 else (),
                why="its pivot’s face is not given",
            )  # fmt: skip
        # the rear tube comes to the cup when the front one stands there
        meets = Meets(
            where=out.where,
            rounds=(*out.rounds, *(one.from_end(outer) for one in runs)) if out.rounds else (),
            before=out.before,
            why=out.why,
        )
        runs.append(Run(name=name, a=pivot, b=outer, od=tube.od_mm, wall=tube.wall_mm, ends=(inner, meets)))
    if arm.brace_at is not None:
        ends = [pivot + arm.brace_at * (outer - pivot) for pivot in (front, rear)]
        meets_both = [Meets(where=f"on the {one.name}", rounds=(one.round(),)) for one in runs]
        runs.append(
            Run(name=BRACE, a=ends[0], b=ends[1], od=tube.od_mm, wall=tube.wall_mm, ends=(meets_both[0], meets_both[1]))
        )
    return cut_to_each_other(runs, up, paper)


def widest_that_stands(arm: Arm) -> float:
    """The widest tube that can be notched to what it stands on [mm]; infinite where nothing here limits it.

    Args:
        arm: as it is saved.
    """
    faces = [] if arm.pivots == "rod ends" else [arm.pivot_face_mm]
    faces += [] if arm.outer == "rod end" else [arm.outer_face_mm]
    return min((2 * face for face in faces if face > 0), default=float("inf"))


def standing(arm: Arm, od: float) -> tuple[Arm, str]:
    """An arm whose sleeves and cup are no narrower than the tubes that stand on them, and what was made wider.

    Args:
        arm: as it is saved.
        od: of its tubes [mm].
    """
    face = float(ceil(od / 2))
    wider = {}
    if arm.pivots != "rod ends" and 2 * arm.pivot_face_mm < od:
        wider["pivot_face_mm"] = face
    if arm.outer != "rod end" and 2 * arm.outer_face_mm < od:
        wider["outer_face_mm"] = face
    if not wider:
        return arm, ""
    what = " and ".join(
        {"pivot_face_mm": "what is at its pivots", "outer_face_mm": "its outer joint’s cup"}[name] for name in wider
    )
    return arm.model_copy(update=wider), f"Made ⌀{2 * face:g} mm, so that its tubes stand on it: {what}."


def _outer(arm: Arm, name: str, outer: Array, axis: Array) -> Meets:
    if arm.outer == "rod end":
        return Meets(
            where=name,
            before=arm.outer_face_mm,
            why="how both tubes come to the rod end’s insert is not worked out here",
        )
    if arm.outer_face_mm <= 0:
        return Meets(where=name, why="its outer joint’s face is not given")
    word = "ball joint’s socket" if arm.outer == "ball joint in a socket" else "cup"
    return Meets(
        where=name, before=arm.outer_face_mm, rounds=(round_at(f"{word} at {name}", outer, axis, arm.outer_face_mm),)
    )


def _length(a: Array, b: Array) -> float:
    return float(np.linalg.norm(b - a))
