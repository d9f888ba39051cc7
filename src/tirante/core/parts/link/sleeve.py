"""Sleeves at a link's ends: the tube notched to each, both clocked to each other; what is turned, and what does not go together.

A straight tube comes square to its sleeves; the outer pieces of a bent one lean along them where the bend does not lie square to their bolts. Not
covered: sleeves of bought links, whose tubes are cut at one end alone.
"""

from __future__ import annotations

from collections.abc import Sequence
from math import asin, atan2, ceil, cos, degrees, hypot, pi, radians, sin, sqrt

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.catalogue import Grade, Tube
from tirante.core.document.parts.common import Welding
from tirante.core.document.parts.link import FixedEnd, Link, Reducer, Sleeve
from tirante.core.errors import InputError
from tirante.core.members.link_stack import LinkStack
from tirante.core.notch.meeting import LEAST_ANGLE, round_at
from tirante.core.parts.link.plug import ROOM, SLIP
from tirante.core.parts.part import CardLine, Misfit, Turned, TurnedPiece
from tirante.core.parts.turned import turned_piece
from tirante.core.parts.welded.housing import ring_of
from tirante.core.parts.welded.tube_ends import Cut, Meets, Run, cut_to_each_other
from tirante.core.quantities import or_more

Array = NDArray[np.float64]
SQUARE = 89.9  # °, from which on a tube stands square on its sleeve
SPIGOT = 1.0  # of the bore, that it goes in at least; common practice, no source
SOLID = 0.999  # of a solid neck's radius, that is looked at as its wall
CLEAR = 0.5  # mm on the radius, of a ring over what goes in; common practice, no source
LEAST_OF_TUBE = 0.6  # of its width, that stands on the sleeve itself; common practice, no source


def stands_od(sleeve: Sleeve, tube: Tube) -> float:
    """Outside of what stands on a sleeve: its reducer's neck, or the tube itself [mm].

    Args:
        sleeve: as it is saved.
        tube: of the link.
    """
    return sleeve.reducer.neck_mm if sleeve.reducer else tube.od_mm


def tube_face(sleeve: Sleeve, tube: Tube, angle_deg: float = 90.0) -> float:
    """From a sleeve's middle to the tube: to the longest point of its notch, or to its square end on the collar of a reducer [mm].

    Args:
        sleeve: as it is saved.
        tube: of the link.
        angle_deg: acute, between tube and sleeve.
    """
    face, one = face_of(sleeve, stands_od(sleeve, tube), angle_deg), sleeve.reducer
    return face + one.neck_long_mm + one.collar_mm if one else face


def reducer_metal(sleeve: Sleeve, tube: Tube) -> float:
    """Of its reducer, solid; nothing where there is none [mm³].

    Args:
        sleeve: as it is saved.
        tube: of the link.
    """
    one = sleeve.reducer
    if one is None:
        return 0.0
    return pi / 4 * sum(d * d * long for d, long in _steps(one, tube))


def _steps(one: Reducer, tube: Tube) -> tuple[tuple[float, float], ...]:
    """Spigot, collar and neck: diameter and length."""
    return (tube.od_mm - 2 * tube.wall_mm - SLIP, one.spigot_mm), (tube.od_mm, one.collar_mm), (one.neck_mm, one.neck_long_mm)  # fmt: skip


def reducer_piece(sleeve: Sleeve, letter: str, tube: Tube, grade: Grade, depth: float) -> TurnedPiece:
    """A reducer as it is turned.

    Args:
        sleeve: as it is saved, with one.
        letter: of the end.
        tube: of the link.
        grade: of the tube, whose strength its checks take.
        depth: of the notch in its neck [mm].
    """
    assert sleeve.reducer
    steps = _steps(sleeve.reducer, tube)
    of = Turned(
        material=grade.label, outside=tube.od_mm, length=sum(long for _, long in steps), bore=0.0, fit="", steps=steps,
        notes=(f"The neck’s end notched across to a round of {sleeve.outside_mm:g} mm, {depth:.1f} mm deep, on a mill or to its wrap: its length is to the longest points.",
               f"From bar: heavy bar of the tube’s alloy may be weaker. Its checks take the tube’s strength, so its certificate shows {grade.yield_mpa:g} MPa of yield or more."),
    )  # fmt: skip
    return turned_piece(f"end {letter} reducer", "reducer, its neck on the sleeve", of)


def face_of(sleeve: Sleeve, od: float, angle_deg: float = 90.0) -> float:
    """From a sleeve's middle to the longest point of what is notched to it [mm].

    Args:
        sleeve: as it is saved.
        od: of what stands on it [mm].
        angle_deg: acute, between that and the sleeve.
    """
    # of lines round the tube the least of (√(R² − r² sin² φ) + r cos φ cos α)/sin α: √(R² − r²) whatever the angle, unless it lies past φ = 180°
    radius, own, angle = sleeve.outside_mm / 2, od / 2, radians(angle_deg)
    square = sqrt(max(0.0, radius**2 - own**2))
    return square if square * cos(angle) <= own * sin(angle) else (radius - own * cos(angle)) / sin(angle)


def outer_pieces(link: Link) -> tuple[Array, Array]:
    """The ways that its tube leaves either pivot (3), x from A to B, y along end A's bolt, z on its upper side.

    Args:
        link: as it is saved.
    """
    x = np.array([1.0, 0.0, 0.0])
    if link.bent is None:
        return x, -x
    along = link.bent.from_ends.mm if link.bent.from_ends else link.between.mm / 2
    lean, off = atan2(link.bent.offset.mm, along), bends_toward(link)
    return cos(lean) * x + sin(lean) * off, -cos(lean) * x + sin(lean) * off


def bends_toward(link: Link) -> Array:
    """The way that its bend points (3), in the same axes; z of a straight one.

    Args:
        link: as it is saved.
    """
    turn = radians(link.bent.plane_deg) if link.bent else 0.0
    return np.array([0.0, -sin(turn), cos(turn)])


def bolts_of(link: Link) -> tuple[Array, Array]:
    """The bolts at both its ends (3), in the same axes.

    Args:
        link: as it is saved.
    """
    turn = radians(link.clocking_deg)
    return np.array([0.0, 1.0, 0.0]), np.array([0.0, cos(turn), sin(turn)])


def meets_at(link: Link, which: int) -> float:
    """Between its tube and its bolt at an end, acute [°].

    Args:
        link: as it is saved.
        which: of its ends.
    """
    return 90.0 - degrees(asin(min(1.0, abs(float(outer_pieces(link)[which] @ bolts_of(link)[which])))))


def foot_on(sleeve: Sleeve, od: float, angle_deg: float) -> float:
    """How far from a sleeve's middle the foot of the tube reaches along it [mm].

    Args:
        sleeve: as it is saved.
        od: of the tube [mm].
        angle_deg: between them.
    """
    turn = radians(angle_deg)
    return (sleeve.outside_mm / 2 * cos(turn) + od / 2) / sin(turn)


def ring_long(sleeve: Sleeve, od: float) -> float:
    """How long either ring at its ends is; nothing where the tube is no wider than it is long, or it has none [mm].

    Args:
        sleeve: as it is saved.
        od: of what stands on it [mm].
    """
    return max(0.0, (od - sleeve.long_mm) / 2) if sleeve.rings else 0.0


def weld_share(sleeve: Sleeve, od: float) -> float:
    """What part of the way round what stands on it its weld lies on the sleeve itself: what lies on rings carries nothing.

    Args:
        sleeve: as it is saved.
        od: of that [mm].

    Source:
        Circle between two lines (derived).
    """
    return 1.0 if sleeve.long_mm >= od else 2 * asin(sleeve.long_mm / od) / pi


def ring_piece(sleeve: Sleeve, letter: str, od: float, metal: str) -> TurnedPiece:
    """Its two rings as they are turned.

    Args:
        sleeve: as it is saved.
        letter: of the end.
        od: of the tube [mm].
        metal: what they are turned from.
    """
    bore = sleeve.outside_mm - 2 * sleeve.wall_mm + 2 * CLEAR
    notes = (
        "One at each end of the sleeve, tacked square to it before the tube is fitted; what goes in passes it freely.",
    )
    of = Turned(
        material=metal, outside=sleeve.outside_mm, length=ring_long(sleeve, od), bore=bore, fit="clear", notes=notes
    )
    return turned_piece(f"end {letter} ring", "ring, out to the tube’s width", of, count=2)


def sleeve_fits(link: Link, end: FixedEnd, tube: Tube, name: str) -> list[Misfit]:
    """What does not go together at a sleeve; nothing where it is none.

    Args:
        link: as it is saved.
        end: of it.
        tube: of the link.
        name: of the end's field.
    """
    sleeve, at = end.sleeve, f"{name}.sleeve."
    if sleeve is None:
        return []
    found, od = [], stands_od(sleeve, tube)
    angle = meets_at(link, 0 if name == "end_a" else 1)
    if angle < LEAST_ANGLE:
        found.append(Misfit(field="bent.plane_deg", message=f"The bend lays the tube along its sleeve’s bolt, at {angle:.0f}° to it: no notch is cut below {LEAST_ANGLE:g}°. Turn the bend, or bend it less."))  # fmt: skip
    elif angle < SQUARE and (needs := 2 * foot_on(sleeve, od, angle)) > sleeve.long_mm + 1e-6:
        found.append(Misfit(field=f"{at}long_mm", message=f"The bend leans the tube {90 - angle:.1f}° along its sleeve, and its foot reaches past that: make it {or_more(needs)} mm long or more, or turn the bend square to its bolt."))  # fmt: skip
    what = "reducer’s neck" if sleeve.reducer else "tube"
    if od > sleeve.outside_mm:
        cure = "turn the neck down to that, or the sleeve larger" if sleeve.reducer else f"turn the sleeve {od:g} mm or more, take a narrower tube, or give the tube a reducer"  # fmt: skip
        found.append(Misfit(field=f"{at}reducer.neck_mm" if sleeve.reducer else f"{at}outside_mm", message=f"The {what}, ⌀{od:g} mm, is wider than its sleeve, ⌀{sleeve.outside_mm:g} mm, and does not stand on it: {cure}."))  # fmt: skip
    if sleeve.long_mm < od and not sleeve.rings:
        found.append(Misfit(field=f"{at}long_mm", message=f"The sleeve is shorter than the {what} is wide, and its weld does not go round: make it {od:g} mm long or more, or give it rings."))  # fmt: skip
    elif sleeve.long_mm < LEAST_OF_TUBE * od:
        found.append(Misfit(field=f"{at}long_mm", message=f"Too little of the {what} stands on the sleeve itself: make it {or_more(LEAST_OF_TUBE * od)} mm long or more (common practice)."))  # fmt: skip
    if end.eye is not None and ring_long(sleeve, od) > 0 and end.eye.ball_width_mm < od:
        found.append(Misfit(field=f"{name}.eye.ball_width_mm", message=f"With its rings it is {od:g} mm wide, and plates would clamp these: what goes in must be as wide, or wider."))  # fmt: skip
    found += _reducer_fits(sleeve, tube, link.welding, at)
    try:
        ring_of(sleeve.outside_mm, sleeve.wall_mm, sleeve.long_mm)
    except InputError as error:
        found.append(Misfit(field=f"{at}wall_mm", message=error.message))
    if link.bought:
        found.append(Misfit(field=f"{at}outside_mm", message="A bought link is shortened at one end alone, and its tube is not notched to a sleeve here. Leave the sleeve’s sizes out, and cut it by hand."))  # fmt: skip
    return found


def _reducer_fits(sleeve: Sleeve, tube: Tube, welding: Welding, at: str) -> list[Misfit]:
    """What of a reducer does not go together; nothing where there is none."""
    one, found = sleeve.reducer, []
    if one is None:
        return []
    if one.neck_mm >= tube.od_mm:
        found.append(Misfit(field=f"{at}reducer.neck_mm", message=f"A reducer’s neck is narrower than its tube, ⌀{tube.od_mm:g} mm: turn it down, or leave the reducer out."))  # fmt: skip
    least = max(SPIGOT * (tube.od_mm - 2 * tube.wall_mm), ROOM * welding.plug_mm if welding.plugs else 0.0)
    if one.spigot_mm < least - 1e-9:
        found.append(Misfit(field=f"{at}reducer.spigot_mm", message=f"Its spigot goes {one.spigot_mm:g} mm into the tube: {ceil(least)} mm or more hold it straight, and its plug welds (common practice)."))  # fmt: skip
    if one.collar_mm < tube.wall_mm - 1e-9:
        found.append(Misfit(field=f"{at}reducer.collar_mm", message=f"Its collar is thinner than the tube’s wall, and the weld round it burns it away: make it {tube.wall_mm:g} mm or more."))  # fmt: skip
    return found


def cuts_of(link: Link, tube: Tube, stack: LinkStack, paper: float) -> tuple[Cut, ...]:
    """Its tube as it is notched to the sleeves at its ends, and its reducers' necks; none where it has none.

    A straight one is one cut, or two where it is spliced, counted from the line square to end A's bolt. Of a bent one each outer piece with a sleeve
    is one, counted from the line along the flat of its bends.

    Args:
        link: complete.
        tube: of it.
        stack: its lengths.
        paper: thickness of what the wraps are printed on [mm].
    """
    sleeves = [one.sleeve if isinstance(one, FixedEnd) else None for one in (link.end_a, link.end_b)]
    if not any(sleeves):
        return ()
    ways, bolts, up = outer_pieces(link), bolts_of(link), np.array([0.0, 0.0, 1.0])
    span = link.between.mm if link.bent else stack.centre_to_centre
    places = (np.zeros(3), np.array([span, 0.0, 0.0]))
    ends = tuple(
        Meets(where=f"end {letter}", rounds=(round_at("its sleeve", at, bolt, sleeve.outside_mm / 2),))
        if sleeve and not sleeve.reducer else Meets(where=f"end {letter}", square=state.face_from_centre)
        for letter, sleeve, at, bolt, state in zip("AB", sleeves, places, bolts, stack.ends, strict=True)
    )  # fmt: skip

    def run(name: str, a: Array, b: Array, one: Meets, two: Meets, sawn: float | None = None) -> Run:
        return Run(name=name, a=a, b=b, od=tube.od_mm, wall=tube.wall_mm, ends=(one, two), sawn=sawn)

    if link.bent:
        corner = hypot(link.bent.offset.mm, link.bent.from_ends.mm if link.bent.from_ends else span / 2)
        bends = Meets(where="the bend", square=0.0)
        runs = []
        if ends[0].rounds:
            runs.append(run("bent tube at A", places[0], places[0] + corner * ways[0], ends[0], bends, stack.tube_cut))
        if ends[1].rounds:
            runs.append(run("bent tube at B", places[1] + corner * ways[1], places[1], bends, ends[1], stack.tube_cut))
        up = np.cross(bends_toward(link), places[1] / span)
    elif link.splice:
        joint, meets = np.array([link.splice.at.mm, 0.0, 0.0]), Meets(where="the splice", square=0.0)
        runs = [run("to A", places[0], joint, ends[0], meets), run("to B", joint, places[1], meets, ends[1])]
    else:
        runs = [run("tube", places[0], places[1], ends[0], ends[1])]
    runs += _necks(link, sleeves, tube, places)
    return cut_to_each_other([one for one in runs if any(end.rounds for end in one.ends)], up, paper)


def _necks(link: Link, sleeves: Sequence[Sleeve | None], tube: Tube, places: tuple[Array, Array]) -> list[Run]:
    """The necks of its reducers, to the ends of their spigots, as what is notched to the sleeves: solid."""
    found, ways, bolts = [], outer_pieces(link), bolts_of(link)
    for which, (letter, sleeve) in enumerate(zip("AB", sleeves, strict=True)):
        if sleeve is None or sleeve.reducer is None:
            continue
        one = sleeve.reducer
        meets = Meets(where=f"end {letter}", rounds=(round_at("its sleeve", places[which], bolts[which], sleeve.outside_mm / 2),))  # fmt: skip
        back, far = Meets(where="its spigot", square=0.0), places[which] + (face_of(sleeve, one.neck_mm, meets_at(link, which)) + sum(long for _, long in _steps(one, tube))) * ways[which]  # fmt: skip
        a, b, ends = (places[0], far, (meets, back)) if which == 0 else (far, places[1], (back, meets))
        found.append(
            Run(name=f"reducer at {letter}", a=a, b=b, od=one.neck_mm, wall=one.neck_mm / 2 * SOLID, ends=ends)
        )
    return found


def notch_at(cuts: Sequence[Cut], which: int) -> Cut | None:
    """Of these that which has an end's notch, the tube or its reducer; None where it has none.

    Args:
        cuts: of the link.
        which: of its ends.
    """
    return next((cut for cut in cuts if cut.run.ends[which].rounds), None)


def tube_notch_at(link: Link, cuts: Sequence[Cut], which: int) -> Cut | None:
    """The same, of the tube itself alone.

    Args:
        link: as it is saved.
        cuts: of it.
        which: of its ends.
    """
    end = (link.end_a, link.end_b)[which]
    own = isinstance(end, FixedEnd) and end.sleeve is not None and end.sleeve.reducer is None
    return notch_at(cuts, which) if own else None


def card_lines(sleeve: Sleeve, cut: Cut, which: int, clocking: float, *, both_hands: bool) -> Sequence[CardLine]:
    """What the bench needs at one end.

    Args:
        sleeve: as it is saved.
        cut: the tube.
        which: of its ends.
        clocking: of end B's bolt against A's [°].
        both_hands: whether a right one is made too, which is no left one.
    """
    letter = "AB"[which]
    said = [line for line in cut.lines() if f"end {letter}:" in line.text]
    return (
        *([CardLine(text=f"the sleeve of end B turned {clocking:g}° against A, clockwise as seen from A{'; of the right one counter-clockwise' if both_hands else ''}", strong=True)] if which and clocking else []),
        CardLine(text=f"End {letter}: sleeve ⌀{sleeve.outside_mm:g} × {sleeve.long_mm:g} mm; its middle to the {'neck' if sleeve.reducer else 'tube'}’s longest point", mm=cut.off(which), strong=True),
        *([CardLine(text="a ring at either end of the sleeve, long", mm=ring_long(sleeve, cut.run.od))] if ring_long(sleeve, cut.run.od) else []),
        *([CardLine(text=f"End {letter}: reducer, its collar against the tube’s end, welded round it; from the sleeve’s middle to the tube", mm=cut.off(which) + one.neck_long_mm + one.collar_mm, strong=True)] if (one := sleeve.reducer) else []),
        *([CardLine(text=f"End {letter}: its wrap’s “top” along the flat of the bend: on the left, seen from A with the bend up; notched after bending")] if cut.run.sawn is not None else []),
        *said, *(CardLine(text=f"NOT NOTCHED: {one}", strong=True) for one in cut.lacking if f"end {letter}" in one),
    )  # fmt: skip
