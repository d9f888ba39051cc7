"""Two lengths of tube joined by a sleeve: what the sleeve and its welds bear.

At the joint nothing but the sleeve carries: its net section in pull and push, its whole section in bending, with the
as-welded yield. Each half of it is held by plug welds and a ring.
Not covered: fatigue of the ring, which is where spliced links break; weld quality.

Source:
    AISC 360 D2, J2 (from memory); bending Shigley, ch. 3 (from memory).
"""

from __future__ import annotations

from dataclasses import dataclass

from tirante.core.errors import InputError
from tirante.core.members.insert_weld import insert_weld
from tirante.core.members.tube import Holes, Section, net_section


@dataclass(frozen=True, slots=True, kw_only=True)
class SpliceStrength:
    """Nominal strengths [N], and the stress of the sleeve under what it sees [MPa]."""

    sleeve: Section
    net: float  # the lower of both that follow
    gross_yield: float
    rupture: float
    weld: float
    stress: float
    overlap: float  # of the sleeve in either tube, in diameters of the tube


def sleeve_section(tube: Section, wall: float, *, inside: bool) -> Section:
    """The sleeve's section: a slip fit in the tube's bore, or over it.

    Args:
        tube: that is joined.
        wall: of the sleeve [mm].
        inside: whether it goes into the bore.

    Raises:
        InputError: the sleeve has no bore left.
    """
    od = tube.bore if inside else tube.od + 2 * wall
    if od <= 2 * wall:
        raise InputError(
            f"A sleeve of {wall:g} mm wall does not go into a bore of {tube.bore:g} mm. Take a thinner one, or one outside.",
            code="out_of_range", fields=("wall_mm",), value=wall, limits=(0.0, od / 2),
        )  # fmt: skip
    return Section(od=od, wall=wall)


def splice_strength(
    tube: Section, sleeve: Section, length: float, *, plugs: int, plugs_in_section: int, plug: float, leg: float, yield_strength: float,
    welded_yield: float, ultimate: float, electrode_ultimate: float, axial: float, moment: float,
) -> SpliceStrength:  # fmt: skip
    """Strength of a sleeved joint.

    Args:
        tube: the two lengths that meet.
        sleeve: by `sleeve_section`.
        length: of the sleeve, half of it in either tube [mm].
        plugs: plug welds on either side.
        plugs_in_section: of them in one cross-section.
        plug: their diameter [mm].
        leg: of the ring [mm].
        yield_strength: of the sleeve, as delivered [MPa].
        welded_yield: of the sleeve beside the welds [MPa].
        ultimate: of the sleeve, beside its welds [MPa].
        electrode_ultimate: [MPa].
        axial: of either sign [N].
        moment: at the joint [N·mm].
    """
    holes = [Holes(diameter=plug, count=plugs_in_section)] if plugs and plugs_in_section and plug > 0 else []
    net = net_section(sleeve, holes, yield_strength, ultimate, welded_yield)
    weld = insert_weld(tube.od, leg, plug, plugs, electrode_ultimate, ultimate)
    stress = abs(axial) / sleeve.area + abs(moment) * sleeve.od / 2 / sleeve.second_moment
    return SpliceStrength(
        sleeve=sleeve, net=net.capacity, gross_yield=net.yield_force, rupture=net.rupture_force, weld=weld.capacity, stress=stress, overlap=length / 2 / tube.od
    )  # fmt: skip
