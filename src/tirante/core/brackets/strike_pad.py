"""A plate on two webs, struck square to its face somewhere near its middle: the plate between its webs, the webs at their feet.

The blow is spread over its footprint, the plate is a beam across the webs as long as footprint and webs' distance together, no longer
than itself. What stands on the footprint's edge alone, as a coil does, bends it more past the webs. A web bears half and what tips the pad across; along itself it bends like a wall, across it as one leg of a portal. What twists the pad on
its webs bends one along itself forward, the other back.
Not covered: the wall of what it stands on, dents, fatigue.

Source:
    Beams on two supports, P/A + 6 M/(b h²), portal frames: Shigley, ch. 3 and 4; Roark (from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import acos, pi, sin

from tirante.core.brackets.tab_bending import OPENING
from tirante.core.members.plate_link import FlatLink


@dataclass(frozen=True, slots=True, kw_only=True)
class PadOnWebs:
    """The pad [mm]."""

    plate: float
    length: float
    web: float
    apart: float  # between the webs' middles
    height: float  # of the taller web
    footprint: float  # radius of what strikes it
    rim: bool = False  # whether it stands on the edge of that alone, as a coil does
    lost: float = 0.0  # of the plate's width to further holes, all of them taken off what carries
    hole: float = 0.0  # diameter of a round one in either web, midway along it; 0: none

    @property
    def column(self) -> FlatLink:
        """One web as a strut, no wider than beside its hole."""
        return FlatLink(length=self.height, width=self.length - self.hole, thickness=self.web)

    @property
    def carries(self) -> float:
        """Of the plate, along the webs."""
        return min(self.length, 2 * self.footprint + self.apart) - self.lost


@dataclass(frozen=True, slots=True, kw_only=True)
class Blow:
    """What strikes the pad [N], below 0 what pulls it off, and where off its middle [mm]: `along` the webs, `across` them."""

    push: float
    along: float = 0.0
    across: float = 0.0
    off_along: float = 0.0
    off_across: float = 0.0
    over: float = 0.0  # of its face, where what acts along and across does
    rocks: float = 0.0  # about a line along the webs, beside all that [N·mm]
    tilts: float = 0.0  # about one across them
    twists: float = 0.0  # about what is square to the face
    clamped: float = 0.0  # that it is pressed with at all times, which no factor is put on [N]


def plate_bending(pad: PadOnWebs, blow: Blow) -> float:
    """Stress of the plate across its webs [MPa].

    Args:
        pad: it.
        blow: on it.
    """
    r, g = pad.footprint, pad.apart
    if pad.rim:
        return 6 * (abs(blow.push) * _on_rim(r, g) + blow.push * abs(blow.off_across) / 2) / (pad.carries * pad.plate**2)  # fmt: skip
    line = blow.push / (2 * r)  # spread over the footprint
    between = abs(blow.push * (g - r) / 4)
    beyond = line * max(0.0, r - g / 2) ** 2 / 2
    moment = max(between, beyond) + blow.push * abs(blow.off_across) / 2
    return 6 * moment / (pad.carries * pad.plate**2)


def _on_rim(r: float, g: float) -> float:
    """Of a push of 1 on a circle's line, the most that bends the plate: at a web by what stands out past it, or between them."""
    out = 0.0
    if r > g / 2:
        half = acos(g / (2 * r))  # of the arc that stands out past a web
        out = half / pi * (r * sin(half) / half - g / 2)
    return max(out, abs(g / 4 - r / pi))


def web_push(pad: PadOnWebs, blow: Blow) -> float:
    """What the worse web is pressed with [N]: half, and what tips the pad across; below 0: both are pulled.

    Args:
        pad: it.
        blow: on it.
    """
    return (blow.push + blow.clamped) / 2 + tips(pad, blow) / pad.apart


def web_stress(pad: PadOnWebs, blow: Blow) -> float:
    """Of the worse web at its foot, or beside its hole as if that were there [MPa].

    Beside the hole each leg is also bent by what shears along the web, over 0.45 of the hole's diameter (AISC Design Guide 2, from memory).

    Args:
        pad: it.
        blow: on it.
    """
    leans = tilt(pad, blow) / 2 + abs(blow.twists) / pad.apart * pad.height
    sways = abs(blow.across) * pad.height / 4
    long, hole, leg = pad.length, pad.hole, (pad.length - pad.hole) / 2
    area = (long - hole) * pad.web
    shears = abs(blow.along) / 2 + abs(blow.twists) / pad.apart
    return (
        ((abs(blow.push) + blow.clamped) / 2 + tips(pad, blow) / pad.apart) / area
        + 6 * leans * long / (pad.web * (long**3 - hole**3))
        + 6 * sways / (area * pad.web)
        + 6 * shears / 2 * OPENING * hole / (pad.web * leg**2)
    )


def tips(pad: PadOnWebs, blow: Blow) -> float:
    """What tips the pad across, at its feet [N·mm].

    Args:
        pad: it.
        blow: on it.
    """
    return abs(blow.push * blow.off_across) + abs(blow.across) * (pad.height + blow.over) + abs(blow.rocks)


def tilt(pad: PadOnWebs, blow: Blow) -> float:
    """What tilts it along its webs, at their feet [N·mm].

    Args:
        pad: it.
        blow: on it.
    """
    return abs(blow.push * blow.off_along) + abs(blow.along) * (pad.height + blow.over) + abs(blow.tilts)
