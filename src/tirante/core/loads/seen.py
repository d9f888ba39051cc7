"""What a link or the spring of an end sees of the car's load cases: of all that are carried, those that can govern."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import TYPE_CHECKING

import numpy as np

from tirante.core.document.parts.common import Side
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.loads.envelope import envelope
from tirante.core.members import fatigue

if TYPE_CHECKING:
    from tirante.core.loads.end_loads import Carried
    from tirante.core.suspension.statics import Forces


def sides_of(side: Side, template_name: str, names: Sequence[str]) -> list[str]:
    """Which of an end's links, as its forces name them, a link of the job stands for.

    Args:
        side: of the job's link.
        template_name: as the end's template calls it.
        names: of the end's forces.
    """
    stems = {name: name.removesuffix(", left").removesuffix(", right") for name in names}
    own = [name for name, stem in stems.items() if stem == template_name]
    if side == "left":
        return [name for name in own if not name.endswith(", right")]
    if side == "right":
        return [name for name in own if name.endswith(", right")]
    return own


def seen_by_link(side: Side, template_name: str, carried: Sequence[Carried]) -> tuple[CaseSeen, ...]:
    """Of all cases those that can govern: most tension and most compression, and of those that strike the link every one that no other exceeds.

    Args:
        side: of the job's link.
        template_name: as the end's template calls it.
        carried: every case of the end.
    """

    def along(forces: Forces) -> dict[str, float]:
        return {name: axial + forces.bind.get(name, 0.0) for name, axial in forces.axial.items()}

    return _seen(side, template_name, carried, along)


def seen_by_spring(
    side: Side, name: str, carried: Sequence[Carried], rated: bool
) -> tuple[tuple[CaseSeen, ...], tuple[str, ...]]:
    """What a spring of an end sees along itself, tension positive; and the cases of which that is not known.

    Args:
        side: of what holds it.
        name: of the spring.
        carried: every case of the end.
        rated: whether the spring's rate is known: without it a stop is taken to carry all, and the spring's share is not known.
    """
    known = [one for one in carried if rated or one.carrier == "spring"]
    unknown = [one.case.name for one in carried if not rated and one.carrier == "stop" and not one.fault]
    found = _seen(side, name, known, lambda forces: {name: -push for name, push in forces.springs.items()})
    return found, tuple(dict.fromkeys(unknown))


def seen_by_strap(side: Side, carried: Sequence[Carried]) -> tuple[CaseSeen, ...]:
    """What the droop strap of an end sees along itself, tension positive; nothing where it is slack.

    Args:
        side: of what holds it.
        carried: every case of the end.
    """
    return _seen(side, "strap", carried, lambda forces: dict(forces.straps))


def _seen(
    side: Side, stem: str, carried: Sequence[Carried], along: Callable[[Forces], dict[str, float]]
) -> tuple[CaseSeen, ...]:
    every: list[CaseSeen] = []
    known: dict[tuple[str, ...], list[str]] = {}  # cases name the same links, but for one or two
    for one in carried:
        if one.forces is None or one.fault:
            continue
        axial = along(one.forces)
        named = tuple(axial)
        if named not in known:
            known[named] = sides_of(side, stem, named)
        for name in known[named]:
            right = (
                " (right)" if name.endswith(", right") and "right" not in one.name and "left" not in one.name else ""
            )
            label = f"{one.name}{right}"[:80]
            force = axial[name]
            a, b = (
                abs(force) * sine if sine == sine else 0.0 for sine in one.sines.get(name, (0.0, 0.0))
            )  # NaN: not known
            seen = CaseSeen(
                name=label, at=one.where, worked=True, axial_n=force, strike_n=one.strikes.get(name, 0.0), bolt_a_n=a, bolt_b_n=b
            )  # fmt: skip
            every += _landed_on(seen, name, one.forces) if name in one.forces.across else [seen]
    out: list[CaseSeen] = []
    # a strike is never left out for a pull, nor one place of it for another
    groups: dict[tuple[bool, float | None], list[CaseSeen]] = {(False, None): [], (True, None): []}
    for case in every:
        groups.setdefault((bool(case.strike_n), case.strike_at), []).append(case)
    for group in groups.values():
        out += envelope(group)
    return tuple(case for case in out if abs(case.axial_n) > 1e-9 or case.strike_n)


def _landed_on(seen: CaseSeen, name: str, forces: Forces) -> list[CaseSeen]:
    """A case in which a bump stop lands on the link: across it and along it, its two stretches each where they differ."""
    a, b = forces.ends[name]
    length = float(np.linalg.norm(b - a))
    u = (b - a) / length
    one, two = forces.across[name]
    whole = one + two
    square = whole - float(whole @ u) * u
    force = float(np.linalg.norm(square))
    if force < 1e-9:
        return [seen]
    share = min(1.0, max(0.0, round(float(two @ square) / force**2, 6)))
    told = (
        f"{seen.at}; the bump stop lands on it {share * length:.0f} mm from end A with {force / 1000:.1f} kN "
        "(its pad’s weld, and what would roll the link, not judged)"
    )
    # what strikes it besides, at mid-span, goes to whichever is worse for it: bending at mid-span, its joints by the stop's share
    struck = replace(seen, at=told, strike_n=seen.strike_n + force, strike_at=share if not seen.strike_n else None)
    if seen.strike_n:
        struck = replace(struck, side_n=seen.side_n + (max(share, 1 - share) - 0.5) * force)
    stretches = {round(seen.axial_n + float(one @ u), 6), round(seen.axial_n - float(two @ u), 6)}
    return [replace(struck, axial_n=axial) for axial in sorted(stretches)]


def swings_of_link(side: Side, template_name: str, carried: Sequence[Carried]) -> tuple[fatigue.Swing, ...]:
    """Between any two of cases that follow one another, how far its axial force goes, and under what its balls turn; none when none was carried.

    Args:
        side: of the job's link.
        template_name: as the end's template calls it.
        carried: the everyday cases of the end.
    """
    good = [one.forces for one in carried if one.forces and not one.fault]
    if not good:
        return ()
    found: list[fatigue.Swing] = []
    for name in sides_of(side, template_name, list(good[0].axial)):
        found += fatigue.swings([one.axial[name] for one in good if name in one.axial])
    return fatigue.worst_swings(found)


def swing_of_link(side: Side, template_name: str, carried: Sequence[Carried]) -> float | None:
    """How far a link points from where it does at ride height, at most, where the cases apply [°]; None when none was carried.

    Args:
        side: of the job's link.
        template_name: as the end's template calls it.
        carried: every case of the end.
    """
    found = [
        one.turned[name] for one in carried if one.forces for name in sides_of(side, template_name, list(one.turned))
    ]  # fmt: skip
    return max(found, default=None)
