"""The wall of a tube under the feet of a pair of plates: bent through by what pulls at them, or sheared through along them.

A foot is taken as stiff. A pull straight off the wall is carried by both feet; one along the feet, by its lever, pushes with one half of them
and pulls with the other; one along the bolt pulls at one plate and pushes at the other. What they use is added up.

Source:
    Round: AISC 360, chapter K, a plate along or across the tube (from memory). Box: the yield lines of a stiff patch in a face that its two
    sides hold, which is AISC's formula for a plate along the tube (derived), its sides yielding (chapter K, from memory). The share of
    moments: statics, each half of the feet by the same formula.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, radians, sin, sqrt
from typing import Literal

from tirante.core.errors import NotApplicable, require_range

MOST_ACROSS = 0.85  # of a face: a patch that is wider stands on its sides
MOST_ROUND = 0.95  # of a tube's diameter
SLENDER = {"round": 50.0, "box": 40.0}  # width over wall, that the formulas are given for
SHEAR_OF_ULTIMATE = 0.6


@dataclass(frozen=True, slots=True, kw_only=True)
class Wall:
    """A wall that feet stand on [mm, MPa]."""

    kind: Literal["round", "box"]
    width: float  # a tube's outside diameter; how wide the face is
    thickness: float
    yield_mpa: float
    uts_mpa: float | None = None

    def carries(self, along: float, across: float) -> float:
        """A pull straight off it, on a stiff patch [N].

        Args:
            along: of the patch, along the member [mm].
            across: of it, across the member [mm].
        """
        each = self.yield_mpa * self.thickness**2
        if self.kind == "round":
            lengthwise = 5.5 * each * (1.0 + 0.25 * along / self.width)
            crosswise = 5.5 * each / (1.0 - 0.81 * min(across / self.width, MOST_ROUND))
            return max(lengthwise, crosswise)  # a patch carries what a plate within it would
        share = min(across / self.width, MOST_ACROSS)
        face = each / (1.0 - share) * (2.0 * along / self.width + 4.0 * sqrt(1.0 - share))
        sides = 2.0 * self.yield_mpa * self.thickness * (5.0 * self.thickness + along)
        return min(face, sides)

    @property
    def slender(self) -> bool:
        """Whether it is thinner for its width than the formulas are given for."""
        return self.width / self.thickness > SLENDER[self.kind]


@dataclass(frozen=True, slots=True, kw_only=True)
class Feet:
    """A pair of feet, or one patch of the same outline; two that lie in one another are a single plate's [mm]."""

    width: float  # of a foot, along the plates
    gap: float  # between them
    plate: float
    angle: float  # between plates and member [rad]; π/2: across it

    @property
    def apart(self) -> float:
        """From the middle of one plate to that of the other."""
        return self.gap + self.plate

    @property
    def single(self) -> bool:
        """Whether it is one plate's."""
        return self.apart <= 0.0

    def patch(self, length: float, thick: float) -> tuple[float, float]:
        """Along and across the member, of what is so long along the plates and so thick along the bolt."""
        c, s = abs(cos(self.angle)), abs(sin(self.angle))
        return length * c + thick * s, length * s + thick * c


@dataclass(frozen=True, slots=True, kw_only=True)
class WallStrength:
    """What the wall carries of each, alone."""

    pull: float  # straight off it [N]
    tilt: float  # moment in the plates' plane [N·mm]
    rock: float  # moment along the bolt, one plate pulled and one pushed [N·mm]

    def use(self, pull: float, tilt: float, rock: float) -> float:
        """How much of it is used."""
        return abs(pull) / self.pull + abs(tilt) / self.tilt + abs(rock) / self.rock


def wall_strength(wall: Wall, feet: Feet) -> WallStrength:
    """The wall under a pair of plates.

    Args:
        wall: under them.
        feet: of both.

    Raises:
        InputError: a size that is none.
    """
    require_range("wall_mm", wall.thickness, 1e-6, wall.width / 2)
    require_range("foot_mm", feet.width, 1e-6, None)
    one = wall.carries(*feet.patch(feet.width, feet.plate))
    both = min(2 * one, wall.carries(*feet.patch(feet.width, feet.apart + feet.plate)))
    half_one = wall.carries(*feet.patch(feet.width / 2, feet.plate))
    half = min(2 * half_one, wall.carries(*feet.patch(feet.width / 2, feet.apart + feet.plate)))
    if feet.single:  # one half of its thickness pulls, the other pushes
        rock = wall.carries(*feet.patch(feet.width, feet.plate / 2)) * feet.plate / 2
        return WallStrength(pull=one, tilt=half_one * feet.width / 2, rock=rock)
    return WallStrength(pull=both, tilt=half * feet.width / 2, rock=one * feet.apart)


def patch_strength(wall: Wall, feet: Feet, beyond: float) -> WallStrength:
    """The wall under a spread plate: one stiff patch, reaching beyond the feet all round.

    Args:
        wall: under it.
        feet: on it.
        beyond: how far it reaches past them [mm].
    """
    length, thick = feet.width + 2 * beyond, feet.apart + feet.plate + 2 * beyond
    tilt = wall.carries(*feet.patch(length / 2, thick)) * length / 2
    rock = wall.carries(*feet.patch(length, thick / 2)) * thick / 2
    return WallStrength(pull=wall.carries(*feet.patch(length, thick)), tilt=tilt, rock=rock)


def spread_wall(wall: Wall, feet: Feet, beyond: float, thickness: float, yield_mpa: float, uts_mpa: float) -> Wall:
    """A spread plate as the wall that the feet stand on: held where it is welded, all round.

    Args:
        wall: under it.
        feet: on it.
        beyond: how far it reaches past them [mm].
        thickness: of it [mm].
        yield_mpa: of its metal.
        uts_mpa: of its metal.
    """
    across = feet.patch(feet.width + 2 * beyond, feet.apart + feet.plate + 2 * beyond)[1]
    width = wall.width + 2 * thickness if wall.kind == "round" else min(across, wall.width)
    return Wall(kind=wall.kind, width=width, thickness=thickness, yield_mpa=yield_mpa, uts_mpa=uts_mpa)


def line_force(feet: Feet, pull: float, tilt: float, rock: float) -> float:
    """The most that a foot pulls at its wall, of each millimetre of its length [N/mm].

    Args:
        feet: of both.
        pull: straight off the wall [N].
        tilt: in the plates' plane [N·mm].
        rock: along the bolt [N·mm].
    """
    w = feet.width
    if feet.single:  # along both of its faces, one pulled and one pushed by what rocks it
        return abs(pull) / w + abs(tilt) / (w**2 / 6) + 2 * abs(rock) / (feet.plate * w)
    return abs(pull) / (2 * w) + abs(tilt) / (2 * w**2 / 6) + abs(rock) / (feet.apart * w)


def sheared_at(wall: Wall) -> float:
    """What shears a plate's foot out of its wall, along both of its faces [N/mm].

    Args:
        wall: under it.

    Raises:
        NotApplicable: its ultimate strength is not known.
    """
    if wall.uts_mpa is None:
        raise NotApplicable("The ultimate strength of the wall is not known.", code="missing", fields=("uts_mpa",))
    return 2 * SHEAR_OF_ULTIMATE * wall.uts_mpa * wall.thickness


def feet_of_pair(width: float, gap: float, plate: float, angle_deg: float) -> Feet:
    """A pair's feet.

    Args:
        width: of a foot [mm].
        gap: between the plates [mm].
        plate: thickness of one [mm].
        angle_deg: between plates and member.
    """
    return Feet(width=width, gap=gap, plate=plate, angle=radians(angle_deg))


@dataclass(frozen=True, slots=True, kw_only=True)
class Spread:
    """A plate between feet and wall, welded all round."""

    thickness: float  # [mm]
    beyond: float  # the feet, all round [mm]
    yield_mpa: float
    uts_mpa: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Used:
    """What a wall is bent by."""

    use: float
    strength: WallStrength
    of: str  # what gives first, in words


def bent_through(wall: Wall, feet: Feet, spread: Spread | None, pull: float, tilt: float, rock: float) -> Used:
    """The wall under a pair of feet, or a spread plate and the wall under that, whichever gives first.

    Args:
        wall: under them.
        feet: of both.
        spread: between; None: there is none.
        pull: straight off the wall [N].
        tilt: in the plates' plane [N·mm].
        rock: along the bolt [N·mm].
    """
    if spread is None:
        own = wall_strength(wall, feet)
        return Used(use=own.use(pull, tilt, rock), strength=own, of="its wall")
    plate = spread_wall(wall, feet, spread.beyond, spread.thickness, spread.yield_mpa, spread.uts_mpa)
    tried = [(wall_strength(plate, feet), "the spread plate"), (patch_strength(wall, feet, spread.beyond), "the wall under the spread plate")]  # fmt: skip
    return max((Used(use=one.use(pull, tilt, rock), strength=one, of=of) for one, of in tried), key=lambda used: used.use)  # fmt: skip


def sheared_through(
    wall: Wall, feet: Feet, spread: Spread | None, pull: float, tilt: float, rock: float
) -> tuple[float, float, str]:
    """Line force on what is sheared first, what shears it [N/mm], and which that is.

    Args:
        wall: under the feet.
        feet: of both.
        spread: between; None: there is none.
        pull: straight off the wall [N].
        tilt: in the plates' plane [N·mm].
        rock: along the bolt [N·mm].
    """
    of_feet = line_force(feet, pull, tilt, rock)
    if spread is None:
        return of_feet, sheared_at(wall), "its wall"
    plate = spread_wall(wall, feet, spread.beyond, spread.thickness, spread.yield_mpa, spread.uts_mpa)
    a, b = feet.width + 2 * spread.beyond, feet.apart + feet.plate + 2 * spread.beyond
    # its edge as a line: length, and section moduli about either middle line
    edge = abs(pull) / (2 * (a + b)) + abs(tilt) / (a * b + a**2 / 3) + abs(rock) / (a * b + b**2 / 3)
    tried = [(of_feet, sheared_at(plate), "the spread plate"), (edge, sheared_at(wall) / 2, "the wall along the spread plate’s edge")]  # fmt: skip
    return max(tried, key=lambda one: one[0] / one[1])
