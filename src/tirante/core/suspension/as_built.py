"""A kind of suspension while it is being built: what still moves beside its travel, what holds one motion twice.

An end is whole when its drivers hold all of it: an independent wheel rises and does nothing else, a beam rises and leans. What
is free beside that is followed and named (`still_moves`); what holds more than there is to hold is named by joint.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.end import End
from tirante.core.document.template import Template
from tirante.core.mechanism.model import Constraint, Coordinate, Mark, Mechanism, Turned
from tirante.core.mechanism.solve import freedom
from tirante.core.mechanism.system import System
from tirante.core.suspension.assemble import ROLL, STEER, TRAVEL, Assembled, assemble_end
from tirante.core.suspension.ride import as_it_stands
from tirante.core.suspension.still_moves import RACK, STEERING, FreeMotion, motions_of, parts_of, still

Array = NDArray[np.float64]
INVOLVED = 1e-6  # of a unit combination of equations: what takes part in it
DRIVERS = (TRAVEL, ROLL)
ROTATION = 0.01  # 1/mm, rows of angle and of length weigh alike


@dataclass(frozen=True, slots=True, kw_only=True)
class AsBuilt:
    """How far an end's kind is built."""

    assembled: Assembled
    beside: int  # ways to move beside its travel
    wanted: int  # ways that its travel is: one of a wheel, two of a beam
    free: int  # ways that the joints leave, the steering held
    rises: bool  # whether its wheels may rise without anything giving; of a beam that only leans, whether it may lean
    twice: tuple[str, ...]  # joints that together hold a motion which is held already
    yields: bool  # whether what is held twice has something that gives
    in_bushes: bool  # whether a bush of a given stiffness is among it: it rises as far as that lets it
    unjoined: tuple[str, ...]  # bodies that no joint holds
    motions: tuple[FreeMotion, ...]  # what is free beside its travel; of a whole one its travel
    frames: FreeMotion  # as it stands

    @property
    def whole(self) -> bool:
        """Whether it moves as a suspension does, and nothing else of it moves; a beam's lean may be what its links and bushes give."""
        return self.beside == 0 and (self.rises or self.in_bushes) and (not self.twice or self.yields)

    @property
    def says(self) -> str:
        """It in a sentence or two."""
        travel = _travel(self.assembled)
        if self.beside:
            ways = "one way" if self.beside == 1 else f"{self.beside} ways"
            what = "; ".join(motion.what for motion in self.motions)
            bare = " ".join(f"Nothing is joined to the {body.replace('_', ' ')} yet." for body in self.unjoined)
            return f"Still moves in {ways} beside {travel.noun}: {what}. {bare or 'Add what holds that.'}"
        twice = ", ".join(self.twice)
        if not self.rises and self.in_bushes and self.yields:
            return f"Nothing of it moves by itself; it {travel.does} as far as these give: {twice}."
        if not self.rises:
            verb = "lean" if travel.verb == "lean" else "rise and fall"
            return f"It is held fast: it cannot {verb}. Held more than once: {twice}. Leave one of them out, or move a joint."
        if self.twice and not self.yields:
            return f"It {travel.does}, but {twice} hold one motion twice and nothing among them gives. Leave one out, or give a bush among them its stiffness."
        if self.free < self.wanted:
            return f"It rises and falls, and nothing else of it moves. It leans only as far as these give: {twice}."
        if self.twice:
            return f"It {travel.does}, and nothing else of it moves. {twice} hold one motion twice: they share it by their stiffness, and bind as it moves."
        return f"It {travel.does}, and nothing else of it moves."


@dataclass(frozen=True, slots=True)
class _Travel:
    noun: str
    verb: str
    does: str


def _travel(assembled: Assembled) -> _Travel:
    if not assembled.beam:
        return _Travel("its travel", "rise and fall", "rises and falls")
    if not assembled.template.rises:
        return _Travel("its lean", "lean", "leans")
    return _Travel("its travel and lean", "rise, fall and lean", "rises, falls and leans")


def as_built(template: Template, end: End) -> AsBuilt:
    """How far an end's kind is built.

    Args:
        template: with its additions.
        end: as it stands in the car.

    Raises:
        InputError: the end itself is impossible: a point is missing, two are one, a line has no direction.
    """
    template, end = as_it_stands(template, end)
    assembled = assemble_end(template, end)
    parts = parts_of(assembled)
    held = [still(c) for part in parts if part.kind == "part" or part.name == STEERING for c in part.constraints]
    joined = {body for joint in template.joints for body in joint.bodies_tied}
    unjoined = tuple(body for body in template.bodies if body not in joined)
    rack = any(body == RACK for c in held for body in _bodies_of(c))
    bodies = tuple(dict.fromkeys((*assembled.mechanism.bodies, *((RACK,) if rack else ()))))
    driven = [still(c) for c in assembled.mechanism.constraints if _drives(c)]
    loose = 6 * len([body for body in unjoined if assembled.body_on(body, "left") not in bodies])
    whole = System(Mechanism(bodies=bodies, constraints=(*held, *driven)))
    left = freedom(whole)
    own = System(Mechanism(bodies=bodies, constraints=tuple(held))) if held else None
    free = freedom(own) if own else None
    # held at one height beside, it has one way less where it may rise
    risen = freedom(System(Mechanism(bodies=bodies, constraints=(*held, driven[0])))).degrees if free else 0
    motions: tuple[FreeMotion, ...] = ()
    if left.degrees:
        motions = motions_of(assembled, whole, left)
    elif own and free and not loose:
        motions = motions_of(assembled, own, free)
    twice, yields = _twice(whole)
    given = {name for name, bush in end.bushes.items() if bush.radial_n_per_mm or bush.axial_n_per_mm}
    return AsBuilt(
        assembled=assembled, beside=left.degrees + loose, wanted=len(driven), free=free.degrees if free else 6 * len(bodies),
        rises=free is None or risen < free.degrees, twice=twice, yields=yields, in_bushes=bool(given & set(twice)), unjoined=unjoined, motions=motions,
        frames=FreeMotion.at_rest(whole),
    )  # fmt: skip


def _drives(c: Constraint) -> bool:
    """Whether it moves the wheels up or down, or leans them."""
    return (isinstance(c, Coordinate | Turned)) and c.drive is not None and c.drive != STEER


def _bodies_of(c: Constraint) -> Iterator[str]:
    for name in ("a", "b", "mark", "through"):
        mark = getattr(c, name, None)
        if isinstance(mark, Mark):
            yield mark.body


def _twice(system: System) -> tuple[tuple[str, ...], bool]:
    """Joints that take part in holding a motion which is held already, and whether something among them gives."""
    jacobian = np.empty((system.mechanism.equations, system.mechanism.unknowns, 1))
    system.evaluate(system.reference(1), np.zeros((0, 1)), jacobian)
    rows = jacobian[:, :, 0] * np.tile([1.0, 1.0, 1.0, ROTATION, ROTATION, ROTATION], len(system.mechanism.bodies))
    left, values, _ = np.linalg.svd(rows)
    rank = int((values > 1e-8 * values.max(initial=1e-300)).sum())
    if rank == len(rows):
        return (), True
    involved = np.abs(left[:, rank:]).max(axis=1)
    names = [
        name.partition(",")[0] for name, first, count in system.rows
        if involved[first : first + count].max() > INVOLVED and name not in DRIVERS
    ]  # fmt: skip
    # what does not give must not be held twice by itself
    hard = rows[system.stiffness == 0]
    alone = np.linalg.svd(hard, compute_uv=False)
    gives = int((alone > 1e-8 * alone.max(initial=1e-300)).sum()) == len(hard)
    return tuple(dict.fromkeys(names)), gives
