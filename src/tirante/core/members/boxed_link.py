"""A link of four plates that takes a bump stop along its span: bending, closed-cell torsion, plate buckling, seam welds.

Pinned at both ends; the stop pushes square to the top plate at a distance from one pin, and may stand off the middle line; a side force
along a pin is held by that pin's boss, or the other's, like a cantilever. Under a push the box is bowed its weaker way.
Not covered: the bosses at the pins, the pad's own weld, second order beyond the column amplifier.

Source:
    Bending and shear flow: Shigley, ch. 3; torsion of a closed cell: Bredt; plates: Timoshenko and Gere, ch. 9 (k 4 for a
    plate pressed evenly, 23.9 for one in pure bending, both together by σ_c/σ_c,cr + (σ_b/σ_b,cr)² = 1); slender plates: AISC 360-16
    Table B4.1a case 6; all from memory; seam welds AISC 360 J2 (from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import inf, pi

from tirante.core.errors import InputError
from tirante.core.members.insert_weld import THROAT_OF_LEG

SHEAR_OF_ELECTRODE = 0.6
POISSON = 0.3
K_PRESSED, K_BENT = 4.0, 23.9
SLENDER = 1.40  # √(E/Fy): walls of boxes in compression, AISC 360-16 Table B4.1a case 6, from memory


@dataclass(frozen=True, slots=True, kw_only=True)
class Box:
    """Outside height and width, and the plates' thickness [mm]; top and bottom lie between the sides' outer faces."""

    height: float
    width: float
    side: float
    top: float
    bottom: float

    def __post_init__(self) -> None:
        if self.top + self.bottom >= self.height:
            raise InputError("Top and bottom plates together are as thick as the box is high.", fields=("top_mm",))
        if 2 * self.side >= self.width:
            raise InputError("The side plates together are as thick as the box is wide.", fields=("side_mm",))

    @property
    def web(self) -> float:
        """Clear height of the sides [mm]."""
        return self.height - self.top - self.bottom

    @property
    def area(self) -> float:
        """[mm²]"""
        return self.width * (self.top + self.bottom) + 2 * self.side * self.web

    @property
    def centroid(self) -> float:
        """Above the underside [mm]."""
        moment = (
            self.width * self.bottom * self.bottom / 2
            + self.width * self.top * (self.height - self.top / 2)
            + 2 * self.side * self.web * (self.bottom + self.web / 2)
        )
        return moment / self.area

    @property
    def second_moment(self) -> float:
        """About the level axis [mm⁴]."""
        c = self.centroid
        parts = (
            (self.width * self.bottom, self.bottom, self.bottom / 2),
            (self.width * self.top, self.top, self.height - self.top / 2),
            (2 * self.side * self.web, self.web, self.bottom + self.web / 2),
        )
        return sum(area * depth**2 / 12 + area * (at - c) ** 2 for area, depth, at in parts)

    @property
    def second_moment_across(self) -> float:
        """About the upright axis [mm⁴]."""
        flanges = (self.top + self.bottom) * self.width**3 / 12
        webs = 2 * (self.web * self.side**3 / 12 + self.web * self.side * ((self.width - self.side) / 2) ** 2)
        return flanges + webs

    @property
    def radius_of_gyration(self) -> float:
        """The least of both axes [mm]."""
        return float((min(self.second_moment, self.second_moment_across) / self.area) ** 0.5)

    @property
    def thinnest_leg(self) -> float:
        """The largest fillet that every seam bears: its thinner plate [mm]."""
        return min(self.side, self.top, self.bottom)

    @property
    def slenderness(self) -> float:
        """Clear width over thickness of the most slender plate [-]."""
        clear = self.width - 2 * self.side
        return max(self.web / self.side, clear / min(self.top, self.bottom))

    @property
    def cell(self) -> float:
        """Area inside the plates' middle lines [mm²]."""
        return (self.width - self.side) * (self.height - (self.top + self.bottom) / 2)

    def first_moment(self, plate: str) -> float:
        """Of the top or bottom plate about the neutral axis [mm³]."""
        if plate == "top":
            return self.width * self.top * (self.height - self.top / 2 - self.centroid)
        return self.width * self.bottom * (self.centroid - self.bottom / 2)


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxStress:
    """Stresses and what they are held against [MPa, N/mm]."""

    moment: float  # [N·mm]
    torque: float  # [N·mm]
    shear_force: float  # [N]
    bending: float
    axial: float
    amplifier: float
    shear: float
    torsion: float
    von_mises: float
    top_buckling: float  # critical stress of the plate that is pressed
    side_buckling: float
    seam_flow: float  # [N/mm] of one seam
    seam_throat: float
    seam_nominal: float
    across: float = 0.0  # of a side force, about the upright axis
    bow: float = 0.0  # of a push on what is not quite straight
    plates: float = 0.0  # of what buckles the plate that gives first, the share used [-]


def slender_limit(yield_strength: float, elastic_modulus: float) -> float:
    """Clear width over thickness up to which a plate of a pressed box does not buckle before it yields.

    Args:
        yield_strength: [MPa]
        elastic_modulus: [MPa]

    Source:
        AISC 360-16, Table B4.1a case 6: 1.40 √(E/Fy) (from memory).
    """
    return float(SLENDER * (elastic_modulus / yield_strength) ** 0.5)


def boxed_link(
    box: Box, length: float, force: float, at: float, offset: float, axial: float, elastic_modulus: float, leg: float,
    electrode_uts: float, side_force: float = 0.0, bow: float = 0.0,
) -> BoxStress:  # fmt: skip
    """The box under its stop.

    Args:
        box: its plates.
        length: pin to pin [mm].
        force: of the stop, square to the top plate [N].
        at: of the pad from one pin [mm].
        offset: of the stop's line from the middle [mm]; its torque is all held at one end.
        axial: tension positive [N].
        elastic_modulus: [MPa]
        leg: of the seams' fillets, outside, four of them [mm].
        electrode_uts: [MPa]
        side_force: at a pin, along it [N]; held at one end.
        bow: out of straight at mid-span [mm]; it counts under a push.

    Raises:
        InputError: the pad does not stand between the pins; the axial push is past the column's load.
    """
    if not 0 < at < length:
        raise InputError(
            "The pad must stand between the pins.", code="out_of_range", fields=("at_mm",), value=at, limits=(0, length)
        )
    moment = force * at * (length - at) / length
    shear_force = force * max(at, length - at) / length
    torque = force * abs(offset)
    elastic = pi**2 * elastic_modulus * min(box.second_moment, box.second_moment_across) / length**2
    in_plane = pi**2 * elastic_modulus * box.second_moment / length**2
    push = max(0.0, -axial)
    if push >= elastic:
        raise InputError(
            f"The push of {push:.0f} N is past the link's own buckling load of {elastic:.0f} N. Take a larger box.",
            code="past_critical", fields=("axial_n",), value=axial,
        )  # fmt: skip
    amplifier = 1 / (1 - push / in_plane)
    far = max(box.centroid, box.height - box.centroid)
    bending = moment * amplifier * far / box.second_moment
    direct = abs(axial) / box.area
    upright = pi**2 * elastic_modulus * box.second_moment_across / length**2
    # the side force's moment grows from one pin to the boss that holds it: where the pad stands it has come as far as the longer way
    side_at_pad = side_force * max(at, length - at) / (1 - push / upright) * box.width / 2 / box.second_moment_across
    side_at_end = side_force * length * box.width / 2 / box.second_moment_across
    weaker_fibre = far / box.second_moment
    level = box.second_moment <= box.second_moment_across
    if not level:
        weaker_fibre = box.width / 2 / box.second_moment_across
    bowed = push * bow / (1 - push / elastic) * weaker_fibre
    # shear flow of bending at the neutral axis, and at the seams of either flange, each shared by two
    web_below = box.centroid - box.bottom
    half = box.first_moment("bottom") + 2 * box.side * max(0.0, web_below) ** 2 / 2
    shear = shear_force * half / (box.second_moment * 2 * box.side)
    flow = torque / (2 * box.cell)
    thinnest = min(box.side, box.top, box.bottom)
    torsion = flow / thinnest
    along = direct + max(bending + side_at_pad + bowed, side_at_end)
    fibre = (along**2 + 3 * torsion**2) ** 0.5
    neutral = (direct**2 + 3 * (shear + flow / box.side) ** 2) ** 0.5
    seam = max(
        shear_force * box.first_moment(plate) / (2 * box.second_moment) for plate in ("top", "bottom")
    ) + flow  # fmt: skip
    plate = pi**2 * elastic_modulus / (12 * (1 - POISSON**2))
    clear = box.width - 2 * box.side
    top_critical = K_PRESSED * plate * (box.top / clear) ** 2 if clear > 0 else inf
    bottom_critical = K_PRESSED * plate * (box.bottom / clear) ** 2 if clear > 0 else inf
    side_bent, side_pressed = (k * plate * (box.side / box.web) ** 2 for k in (K_BENT, K_PRESSED))
    even, sideways = push / box.area, max(side_at_pad, side_at_end)
    up_down, left_right = (bowed, 0.0) if level else (0.0, bowed)
    plates = max(
        (even + bending + up_down) / top_critical,
        (even + up_down) / bottom_critical,
        (even + sideways + left_right) / side_pressed + ((bending + up_down) / side_bent) ** 2,
    )
    return BoxStress(
        moment=moment, torque=torque, shear_force=shear_force, bending=bending, axial=direct, amplifier=amplifier, shear=shear,
        torsion=torsion, von_mises=max(fibre, neutral),
        top_buckling=top_critical, side_buckling=side_bent, across=max(side_at_pad, side_at_end), bow=bowed, plates=plates,
        seam_flow=seam, seam_throat=seam / (THROAT_OF_LEG * leg), seam_nominal=SHEAR_OF_ELECTRODE * electrode_uts,
    )  # fmt: skip
