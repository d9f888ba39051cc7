"""A plate on two webs that a bearing is bolted to by two bolts: what each is pulled with, and the plate bent beside them.

The bearing pulls where the bar's line is, over the plate: what acts along its bolts' line turns it over, and one bolt is pulled more. What presses
is taken as if it came down where the bolts are. Bolts stand between the webs, one behind the other, or either side of both webs; so the
plate is a beam across the webs, or stands out past one, as wide as a spread of 45° from the washer's edge, with no more than there is of it.
What pushes the bar along itself shears both bolts alike.
Not covered: what that turns over on its two bolts, prying of the bearing's own foot, the wall of what the webs stand on, fatigue.

Source:
    Statics (derived); beams on two supports: Shigley, ch. 3 (from memory); spread of 45°: common practice, no source. Shear with tension EN 1993-1-8
    Table 3.4 without its partial factor (from memory); bearing in the hole AISC 360 J7 (from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, hypot, radians, sin

from tirante.core.brackets.bolt import BoltClass, sheared_and_pulled
from tirante.core.brackets.strike_pad import PadOnWebs
from tirante.core.errors import InputError

BEARING = 1.8  # of yield, times diameter and thickness: AISC 360 J7, from memory
ALONG_DEG, ACROSS_DEG = 15.0, 75.0  # of the bolts' line to the webs, up to and from which it counts as along or across


@dataclass(frozen=True, slots=True, kw_only=True)
class PadBolts:
    """The bearing's two bolts [mm], either side of the pad's middle."""

    bolt: float  # diameter
    hole: float
    pitch: float
    turned_deg: float  # of their line from along the webs, 0 to 90
    high: float  # of the bar's line over the plate

    @property
    def at(self) -> tuple[float, float]:
        """Of either from the middle: along the webs, and across them [mm]."""
        turn = radians(self.turned_deg)
        return self.pitch / 2 * cos(turn), self.pitch / 2 * sin(turn)


@dataclass(frozen=True, slots=True, kw_only=True)
class OnBearing:
    """What the bar puts on its bearing [N]."""

    off: float  # straight off the plate; below 0: it presses
    over: float  # along its bolts' line
    along: float = 0.0  # along the bar


def bolt_pulls(bolts: PadBolts, acting: OnBearing) -> tuple[float, float]:
    """Of the two bolts [N], the one ahead of what acts first; below 0: pressed there.

    Args:
        bolts: where they are.
        acting: on the bearing.
    """
    turns = acting.over * bolts.high / bolts.pitch
    return acting.off / 2 - turns, acting.off / 2 + turns


def bolt_use(bolts: PadBolts, material: BoltClass, acting: OnBearing) -> float:
    """How far the worse bolt is used: sheared and pulled together, or pulled alone.

    Args:
        bolts: where they are.
        material: of them.
        acting: on the bearing, factored.
    """
    return sheared_and_pulled(
        bolts.bolt, material, hypot(acting.over, acting.along) / 2, max(0.0, *bolt_pulls(bolts, acting))
    )


def plate_stress(pad: PadOnWebs, bolts: PadBolts, acting: OnBearing) -> float:
    """Of the plate beside its bolts, or where it leaves a web [MPa].

    Args:
        pad: plate and webs; its footprint is the washer's radius.
        bolts: where they are.
        acting: on the bearing, factored.

    Raises:
        InputError: the plate beside a bolt is no wider than its hole.
    """
    x, y = bolts.at
    half, one, two = pad.apart / 2, *bolt_pulls(bolts, acting)
    end = pad.length / 2
    if bolts.turned_deg < ACROSS_DEG:  # one behind the other, each on a strip of its own
        reach = pad.footprint + half - y
        wide = min(reach, end - x) + min(reach, x)
        moment = max(abs(one), abs(two)) * (half - y) * (half + y) / pad.apart
        return 6 * moment / (_net(wide - pad.lost, bolts) * pad.plate**2)
    if y < half:  # both between the webs, on one strip
        wide = 2 * min(pad.footprint + half - y, end - x)
        up, down = ((one * (half + side) + two * (half - side)) / pad.apart for side in (y, -y))
        moment = max(abs(up), abs(down)) * (half - y)
        return 6 * moment / (_net(wide - pad.lost, bolts) * pad.plate**2)
    wide = 2 * min(pad.footprint + y - half, end - x) - pad.lost
    if wide <= 0:
        raise InputError("Its further holes leave nothing of the plate that carries a bolt. Take one of them out, or make it longer.", code="contradictory", fields=("extra",))  # fmt: skip
    return 6 * max(abs(one), abs(two)) * (y - half) / (wide * pad.plate**2)


def _net(wide: float, bolts: PadBolts) -> float:
    """What is left of a strip beside a bolt's hole [mm]."""
    if wide <= bolts.hole:
        raise InputError(f"The plate that carries a bolt is {wide:.1f} mm wide, no wider than its hole. Set the bolts further apart, and further from its ends.", code="contradictory", fields=("pitch_mm",))  # fmt: skip
    return wide - bolts.hole


def hole_use(pad: PadOnWebs, bolts: PadBolts, yield_strength: float, acting: OnBearing) -> float:
    """How far the plate is used by a bolt that presses in its hole.

    Args:
        pad: plate and webs.
        bolts: where they are.
        yield_strength: of the plate [MPa].
        acting: on the bearing, factored.
    """
    return hypot(acting.over, acting.along) / 2 / (BEARING * yield_strength * bolts.bolt * pad.plate)
