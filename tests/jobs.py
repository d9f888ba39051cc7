"""Designs worked out in tests: a part put into its job, and what it comes to."""

from __future__ import annotations

from typing import Any

from tirante.core.checks.result import CheckResult
from tirante.core.document.design import Design
from tirante.core.document.joints import HeldJoint
from tirante.core.document.parts.arm import Arm
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.link import Link
from tirante.core.document.parts.saved import SavedPart
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers
from tirante.core.job.evaluate import part_out
from tirante.core.job.memory import Memory
from tirante.core.job.results import PartOut
from tirante.core.job.worked import Worked
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.link.built import Built
from tirante.core.parts.part import Misfit, Part
from tirante.core.parts.registry import kind_of
from tirante.shipped import the_shelf

MEMORY = Memory()


def template_of(end: Any) -> Any:
    return the_shelf().template_of(end)


def work(design: Design, memory: Memory = MEMORY) -> Worked:
    return Worked(design, the_shelf(), memory)


def links(design: Design) -> tuple[Link, ...]:
    return design.of_kind(Link)


def arms(design: Design) -> tuple[Arm, ...]:
    return design.of_kind(Arm)


def bare(design: Design) -> Design:
    """The job with nothing that holds anything: what is said of its joints stays."""
    parts = tuple(part for part in design.parts if part.kind not in ("tab_pair", "strike_pad", "bearing_pad"))
    joints = tuple(
        one.model_copy(update={"by": None, "bolt": None, "mount": None, "shim_mm": 0.0}) for one in design.joints
    )
    return design.model_copy(update={"parts": parts, "joints": joints})


def with_part(design: Design, *parts: SavedPart) -> Design:
    """The design with these in the place of those with their ids, or added."""
    every = {part.id: part for part in (*design.parts, *parts)}
    return design.model_copy(update={"parts": tuple(every.values())})


def with_links(design: Design, *new: Link) -> Design:
    """The design with these links and no other; everything else stays."""
    rest = tuple(part for part in design.parts if not isinstance(part, Link))
    return design.model_copy(update={"parts": (*new, *rest)})


def with_joint(design: Design, joint: HeldJoint, **change: Any) -> Design:
    changed = joint.model_copy(update=change)
    return design.model_copy(update={"joints": tuple(changed if j.id == joint.id else j for j in design.joints)})


def part_of(part: SavedPart, design: Design) -> Part:
    found = work(with_part(design, part)).part(part.id)
    assert found
    return found


def shown(part: SavedPart, design: Design) -> PartOut:
    job = work(with_part(design, part))
    found = job.part(part.id)
    assert found
    return part_out(found, job)


def built(link: Link, design: Design) -> Built:
    found = part_of(link, design)
    assert found.complete, found.faults
    made: Built = found.own[0]
    return made


def faults(part: SavedPart, design: Design) -> list[Misfit]:
    return list(part_of(part, design).faults)


def tabs_of(link: SavedPart, design: Design) -> TabPair | None:
    """The tab pair that holds a link."""
    by = next((joint.by for joint in design.joints_of(link.id) if joint.by), None)
    found = design.part(by) if by else None
    return found if isinstance(found, TabPair) else None


def checks_of(part: SavedPart, design: Design) -> dict[str, CheckResult]:
    """Its own checks, and those of the bracket that holds it."""
    whole = with_part(design, part)
    own = part_of(part, design)
    assert own.complete, own.faults
    found = {check.key: check for check in own.checks}
    tab = tabs_of(part, whole)
    if tab:
        bracket = part_of(tab, whole)
        assert bracket.complete, bracket.faults
        found |= {check.key: check for check in bracket.checks}
    return found


def draw(part: SavedPart, design: Design, view: str, numbers: Numbers, *, end: int = 1, turns: float = 0.0) -> Drawing:
    found = part_of(part, design)
    assert found.view(view), (view, found.faults)
    return kind_of(part).draw(found, ViewAsked(name=view, end=end, turns=turns), numbers)
