"""Every joint's tilt and misalignment over the whole travel, roll and steer, as far as nothing ends the travel."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.mechanism.solve import CONVERGED
from tirante.core.suspension.shown.bind_view import Cells
from tirante.core.suspension.watches import WARN_FROM, plain
from tirante.core.suspension.whole_box import Box

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
    link: str | None = None  # of the end's links, with its side, and which end of it; None: a ball joint
    which: str = ""

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


def bind_map(box: Box) -> BindMap:
    """Look at every joint over the whole box.

    Args:
        box: the end moved through it.
    """
    end, done, found = box.end, box.done, box.found
    out: list[JointBind] = []
    for name, columns in found.links.items():
        known = end.links.get(plain(name))
        for which, word in (("a", "inner"), ("b", "outer")):
            joint = getattr(known, which, None)
            angles = columns.get(f"misalignment_{which}_deg", columns.get(f"tilt_{which}_deg"))
            if joint is not None and angles is not None and np.isfinite(box.reach.worst(angles).value):
                row = _row(f"{name}, {word} end", joint.kind == "hinged", angles, box, joint.limit_deg)
                out.append(replace(row, link=name, which=which))
    for name, columns in found.balls.items():
        angles = columns["misalignment_deg"]
        if np.isfinite(box.reach.worst(angles).value):
            out.append(_row(name, False, angles, box, end.balls[plain(name)].limit_deg))
    out.sort(key=lambda row: -(row.share if row.share is not None else row.worst / 1000))
    unwatched = {plain(name) for name in found.links} - {n for n, known in end.links.items() if known.a or known.b}
    return BindMap(
        travel=box.travel, roll=box.roll, steer=box.steer, joints=tuple(out), unwatched=tuple(sorted(unwatched)),
        unreached=int((done.status != CONVERGED).sum()),
    )  # fmt: skip


def _row(name: str, hinged: bool, angles: Array, box: Box, limit: float | None) -> JointBind:
    worst = box.reach.worst(angles)
    return JointBind(
        name=name, hinged=hinged, worst=worst.value, travel=worst.travel, roll=worst.roll, steer=worst.steer, limit=limit,
        angles=np.where(box.reach.reached.reshape(-1), angles, np.nan),
    )  # fmt: skip
