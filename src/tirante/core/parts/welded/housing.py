"""A sleeve or cup that tubes are welded to: as it is turned, and judged as an eye as thick as it is long, as wide as it is outside.

The whole force of what goes in is taken, whichever way it points. Not covered: a ring drawn oval, the bush or ball beyond its maker's rating.

Source:
    Eyes AISC 360 D5 and J7, slanted pulls Melcon and Hoblit (from memory), as of a rocker (docs/methods.md).
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import Generic, TypeVar

from tirante.core.brackets import lug
from tirante.core.checks.kinds import Asked
from tirante.core.checks.result import CheckResult, Reproduction
from tirante.core.errors import InputError
from tirante.core.parts.part import Turned
from tirante.core.parts.worst import Case, worst_case

C = TypeVar("C", bound=Case)
ANGLES = (0.0, 45.0, 90.0)  # degrees off its way out, at which an eye is tried


@dataclass(frozen=True, slots=True, kw_only=True)
class Metal:
    """Of what is welded to the tubes."""

    yield_mpa: float
    uts_mpa: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Pulled(Generic[C]):
    """The cases that pull at an eye, and its force in each [N]."""

    cases: Sequence[C]
    force: Callable[[C], float]


def ring_of(outside: float, wall: float, long: float, field: str = "wall_mm") -> lug.Lug:
    """A sleeve or cup as an eye.

    Args:
        outside: its diameter [mm].
        wall: of it [mm].
        long: along its bore [mm].
        field: of its wall, for what is told.

    Raises:
        InputError: its wall leaves no bore.
    """
    bore = outside - 2 * wall
    if bore <= 0:
        raise InputError(
            "Its wall leaves no hole for what goes in. Give it less.", code="contradictory", fields=(field,)
        )
    return lug.Lug(thickness=long, width=outside, hole=bore, pin=bore, edge=outside / 2, plates=1)


def turned_ring(outside: float, wall: float, long: float, metal: str) -> Turned:
    """A sleeve or cup as it is turned, its bore finished once it is welded.

    Args:
        outside: its diameter [mm].
        wall: of it [mm].
        long: along its bore [mm].
        metal: what it is turned from.
    """
    return Turned(
        material=metal, outside=outside, length=long, bore=outside - 2 * wall, fit="H7", after=True,
        notes=("What the maker of what goes in says of its seat goes before H7.",),
    )  # fmt: skip


def eye_checks(plates: lug.Lug, pulled: Pulled[C], metal: Metal, of: Callable[[str], Asked]) -> Iterator[CheckResult]:
    """What presses in an eye, and what tears it.

    Args:
        plates: the eye.
        pulled: under every case, one at least.
        metal: of it.
        of: what is asked, by the kind of check.
    """
    strength, slant = (
        lug.lug_strength(plates, metal.yield_mpa, metal.uts_mpa),
        lug.slanted(plates, metal.yield_mpa, metal.uts_mpa),
    )
    angle = min(ANGLES, key=slant.at)
    data = {
        "thickness_mm": plates.thickness, "plates": plates.plates, "width_mm": plates.width, "hole_mm": plates.hole, "pin_mm": plates.pin,
        "edge_mm": plates.edge, "yield_mpa": metal.yield_mpa, "uts_mpa": metal.uts_mpa,
    }  # fmt: skip
    bearing, torn = of("eye_bearing"), of("eye_torn")
    yield worst_case(
        bearing, pulled.cases,
        lambda one: (pulled.force(one) * bearing.factor, Reproduction(topic="lug", input=data, output="bearing_n", figure="capacity"), strength.bearing),
    )  # fmt: skip
    yield worst_case(
        torn, pulled.cases,
        lambda one: (pulled.force(one) * torn.factor, Reproduction(topic="lug", input={**data, "angle_deg": angle}, output="slanted_n", figure="capacity"), slant.at(angle)),
    )  # fmt: skip
