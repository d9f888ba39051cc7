"""Checks of the wall that a pair of plates stands on, where the member of the car, its wall and its metal are entered."""

from __future__ import annotations

from math import asin, cos, degrees, pi, radians, sin
from typing import Any

import numpy as np

from tirante.core.brackets.mount_wall import (
    Feet,
    Spread,
    Wall,
    bent_through,
    feet_of_pair,
    sheared_through,
)
from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Try, worst_of
from tirante.core.document.mounts import BoxMember, Mount, RoundMember
from tirante.core.document.parts.bracket import SaddleBase, TabPair
from tirante.core.document.settings import Settings
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.parts.bracket.families.tab_checks import angles_of_most, furthest_aside, slants, tallest
from tirante.core.parts.joint import JointMade
from tirante.core.parts.stands import Stand

STOCK = (3.0, 4.0, 5.0, 6.0, 8.0, 10.0)  # mm, of spread plates; common practice, no source
BEYOND = (10.0, 15.0, 20.0, 30.0, 40.0)  # mm past the feet; common practice, no source


def wall_of(tab: TabPair, stand: Stand) -> Wall | str:
    """The wall under a pair; or why it is not judged.

    Args:
        tab: as it is saved.
        stand: where, its spread plate under it.
    """
    mount = stand.mount
    if stand.standing.turned_deg is not None:
        return f"the walls of {mount.name} beside the corner that it straddles"
    spread = 2 * tab.spread.thickness.mm if tab.spread else 0.0
    across = stand.standing.across
    return wall_of_member(mount, 2 * across[2] if across else 0.0, spread)


def wall_of_member(mount: Mount, face: float, spread: float = 0.0) -> Wall | str:
    """The wall of a member of the car; or why it is not judged.

    Args:
        mount: the member.
        face: of a box, how wide the face is [mm].
        spread: what a spread plate on either side adds to it [mm].
    """
    shape = mount.shape
    if not isinstance(shape, RoundMember | BoxMember):
        return f"the wall of {mount.name}: how far from the feet its plate is held is not entered"
    lacks = [what for what, known in (("wall thickness", shape.wall_mm), ("yield strength", mount.yield_mpa), ("ultimate strength", mount.uts_mpa)) if known is None]  # fmt: skip
    if lacks:
        return f"the wall of {mount.name}: its {' and '.join(lacks)} {'is' if len(lacks) == 1 else 'are'} not entered"
    assert shape.wall_mm
    assert mount.yield_mpa
    if isinstance(shape, RoundMember):
        return Wall(kind="round", width=shape.od_mm - spread, thickness=shape.wall_mm, yield_mpa=mount.yield_mpa, uts_mpa=mount.uts_mpa)  # fmt: skip
    return Wall(kind="box", width=face - spread, thickness=shape.wall_mm, yield_mpa=mount.yield_mpa, uts_mpa=mount.uts_mpa)  # fmt: skip


def wall_input(wall: Wall, feet: Feet, angle_deg: float, spread: Spread | None = None) -> dict[str, Any]:
    """A wall with what stands on it as `calc mount-wall` takes it, but for what pulls.

    Args:
        wall: under the feet.
        feet: of both plates.
        angle_deg: between these and the member.
        spread: plate between; None: there is none.
    """
    under = (
        {
            "spread_mm": spread.thickness,
            "beyond_mm": spread.beyond,
            "spread_yield_mpa": spread.yield_mpa,
            "spread_uts_mpa": spread.uts_mpa,
        }
        if spread
        else {}
    )
    return {
        "kind": wall.kind, "width_mm": wall.width, "wall_mm": wall.thickness, "yield_mpa": wall.yield_mpa, "uts_mpa": wall.uts_mpa,
        "foot_mm": feet.width, "gap_mm": max(0.0, feet.gap), "plate_mm": feet.plate, "angle_deg": angle_deg, **({"plates": 1} if feet.single else {}), **under,
    }  # fmt: skip


def spread_of(tab: TabPair) -> Spread | None:
    """The plate between its feet and the wall."""
    if tab.spread is None:
        return None
    return Spread(thickness=tab.spread.thickness.mm, beyond=tab.spread.beyond_mm, yield_mpa=tab.yield_mpa, uts_mpa=tab.uts_mpa)  # fmt: skip


def angle_on(tab: TabPair, stand: Stand) -> float:
    """Between its plates and the member [°]; 90: across it."""
    one = stand.standing
    if one.tube_od is None and one.run is not None:
        return degrees(asin(min(1.0, abs(float(one.bolt @ one.run)))))
    return tab.base.angle_deg if isinstance(tab.base, SaddleBase) else 90.0


def feet_on(tab: TabPair, made: JointMade, stand: Stand) -> Feet:
    """Its feet on the member.

    Args:
        tab: as it is saved.
        made: the joint.
        stand: where.
    """
    return feet_of_pair(tab.base_width.mm, made.gap, tab.plate.mm, angle_on(tab, stand))


def wall_checks(tab: TabPair, made: JointMade, stand: Stand | None, settings: Settings) -> list[CheckResult]:
    """The wall bent through and sheared through; none where it is not known.

    Args:
        tab: as it is saved.
        made: the joint.
        stand: where; None: on nothing that is entered.
        settings: factors.
    """
    if stand is None or made.bolt is None:
        return []
    wall = wall_of(tab, stand)
    if isinstance(wall, str):
        return []
    feet, spread, height = feet_on(tab, made, stand), spread_of(tab), tallest(tab, made.gap)
    aside, (low, high) = furthest_aside(tab), slants(tab, made.held)
    bend, shear = asked("mount_wall", "mount", settings.factors), asked("mount_shear", "mount", settings.factors)
    data = wall_input(wall, feet, angle_on(tab, stand), spread)

    def parts(force: float, angle: float, side: float) -> tuple[float, float, float]:
        along, over = abs(cos(radians(angle))), abs(sin(radians(angle)))
        return force * along, force * (over * height + along * aside), side * height

    def worst(share: Any) -> float:
        """The angle of the pull at which most is used; where two may give first, every degree is tried too."""
        steps = np.linspace(low, high, max(2, round(high - low) + 1)) if spread else ()
        return float(max([*angles_of_most(low, high, share(0.0), share(90.0)), *steps], key=share))

    told = f"{wall.width / wall.thickness:.0f} times as wide as thick: more than the formula is given for" if wall.slender else ""  # fmt: skip

    def bent(case: CaseSeen) -> Try | None:
        force, side = abs(case.axial_n) * bend.factor, abs(case.across_n) * bend.factor
        if force == 0 and side == 0:
            return None
        angle = worst(lambda one: bent_through(wall, feet, spread, *parts(1.0, one, 0.0)).use)
        pull, tilt, rock = parts(force, angle, side)
        used = bent_through(wall, feet, spread, pull, tilt, rock)
        return Try(
            demand=used.use * used.strength.pull, capacity=used.strength.pull, topic="mount-wall",
            input={**data, "pull_n": pull, "tilt_nmm": tilt, "rock_nmm": rock}, output="equivalent_n", figure="demand",
            note="; ".join(one for one in (f"{used.of} gives first" if spread else "", told) if one),
        )  # fmt: skip

    def sheared(case: CaseSeen) -> Try | None:
        force, side = abs(case.axial_n) * shear.factor, abs(case.across_n) * shear.factor
        if force == 0 and side == 0:
            return None

        def share(one: float) -> float:
            line, least, _ = sheared_through(wall, feet, spread, *parts(1.0, one, 0.0))
            return line / least

        pull, tilt, rock = parts(force, worst(share), side)
        line, least, of = sheared_through(wall, feet, spread, pull, tilt, rock)
        return Try(
            demand=line, capacity=least, topic="mount-wall", input={**data, "pull_n": pull, "tilt_nmm": tilt, "rock_nmm": rock}, output="line_n_per_mm", figure="demand",
            note=f"{of} gives first" if spread else "",
        )  # fmt: skip

    return [worst_of(bend, made.held.cases, bent), worst_of(shear, made.held.cases, sheared)]


def fits_on(tab: TabPair, made: JointMade, stand: Stand) -> str:
    """Why its spread plate does not lie on its member; empty where it does, or where it has none.

    Args:
        tab: as it is saved.
        made: the joint.
        stand: where.
    """
    wall = wall_of(tab, stand)
    if tab.spread is None or isinstance(wall, str):
        return ""
    _, across = spread_size(tab, made, stand)
    if wall.kind == "box" and across > wall.width - 2 * wall.thickness:
        return f"Its spread plate is {across:.0f} mm wide, and the flat of {stand.mount.name} {wall.width - 2 * wall.thickness:.0f} mm. Make it reach less far beyond the feet, or the foot narrower."
    if wall.kind == "round" and across > pi / 2 * wall.width:
        return f"Its spread plate goes {across:.0f} mm round {stand.mount.name}, past half way. Make it reach less far beyond the feet."
    return ""


def spread_size(tab: TabPair, made: JointMade, stand: Stand) -> tuple[float, float]:
    """Along and across the member, of its spread plate cut flat; round a tube at the middle of its thickness [mm].

    Args:
        tab: as it is saved.
        made: the joint.
        stand: where.
    """
    assert tab.spread
    feet = feet_on(tab, made, stand)
    beyond = 2 * tab.spread.beyond_mm
    along, across = feet.patch(feet.width + beyond, feet.apart + feet.plate + beyond)
    one = stand.standing
    if one.tube_od is not None:  # the foot's chord, as it lies round the skin
        own = feet.patch(feet.width, feet.apart + feet.plate)[1]
        radius = one.tube_od / 2
        round_deg = asin(min(1.0, own / (2 * radius)))
        across = 2 * (radius - tab.spread.thickness.mm / 2) * round_deg + beyond
    return along, across
