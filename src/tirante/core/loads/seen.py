"""What each link sees of the load cases that are carried through an end."""

from __future__ import annotations

from typing import TYPE_CHECKING

from tirante.core.document.parts.common import LoadCase, OfEnd
from tirante.core.document.parts.link import Link
from tirante.core.loads.envelope import envelope

if TYPE_CHECKING:
    from tirante.core.loads.end_loads import Carried


def sides_of(link: Link, template_name: str, names: list[str]) -> list[str]:
    """Which of an end's links, as its forces name them, a link of the job stands for."""
    stems = {name: name.removesuffix(", left").removesuffix(", right") for name in names}
    own = [name for name, stem in stems.items() if stem == template_name]
    if link.side == "left":
        return [name for name in own if not name.endswith(", right")]
    if link.side == "right":
        return [name for name in own if name.endswith(", right")]
    return own


def worked_cases(link: Link, carried: tuple[Carried, ...]) -> list[LoadCase]:
    """Of all cases those that can govern: most tension and most compression, and of those that strike the link every one that no other exceeds."""
    assert isinstance(link.between, OfEnd)
    every: list[LoadCase] = []
    for one in carried:
        if one.forces is None or one.fault:
            continue
        where = one.where
        for name in sides_of(link, link.between.link, list(one.forces.axial)):
            axial = one.forces.axial[name] + one.forces.bind.get(name, 0.0)
            right = (
                " (right)" if name.endswith(", right") and "right" not in one.name and "left" not in one.name else ""
            )
            label = f"{one.name}{right}"[:80]
            every.append(
                LoadCase(name=label, at=where, worked=True, axial_n=axial, strike_n=one.strikes.get(name, 0.0))
            )
    out: list[LoadCase] = []
    for group in ([case for case in every if not case.strike_n], [case for case in every if case.strike_n]):
        out += envelope(group)
    return [case for case in out if abs(case.axial_n) > 1e-9 or case.strike_n]
