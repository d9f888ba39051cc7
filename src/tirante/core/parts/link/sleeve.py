"""Sleeves at a link's ends: the tube notched to each, square across it, both clocked to each other; what is turned, and what does not go together.

Not covered: sleeves of bent and spliced links, and of bought ones, whose tubes are not notched here.
"""

from __future__ import annotations

from collections.abc import Sequence
from math import asin, cos, pi, radians, sin, sqrt

import numpy as np

from tirante.core.document.catalogue import Tube
from tirante.core.document.parts.link import FixedEnd, Link, Sleeve
from tirante.core.errors import InputError
from tirante.core.members.link_stack import LinkStack
from tirante.core.notch.meeting import round_at
from tirante.core.parts.part import CardLine, Misfit, Turned, TurnedPiece
from tirante.core.parts.turned import turned_piece
from tirante.core.parts.welded.housing import ring_of
from tirante.core.parts.welded.tube_ends import Cut, Meets, Run, cut_to_each_other

CLEAR = 0.5  # mm on the radius, of a ring over what goes in; common practice, no source
LEAST_OF_TUBE = 0.6  # of its width, that stands on the sleeve itself; common practice, no source


def face_of(sleeve: Sleeve, od: float) -> float:
    """From a sleeve's middle to the longest point of the tube that is notched to it [mm].

    Args:
        sleeve: as it is saved.
        od: of the tube [mm].
    """
    return sqrt(max(0.0, (sleeve.outside_mm / 2) ** 2 - (od / 2) ** 2))


def ring_long(sleeve: Sleeve, od: float) -> float:
    """How long either ring at its ends is; nothing where the tube is no wider than it is long, or it has none [mm].

    Args:
        sleeve: as it is saved.
        od: of the tube [mm].
    """
    return max(0.0, (od - sleeve.long_mm) / 2) if sleeve.rings else 0.0


def weld_share(sleeve: Sleeve, od: float) -> float:
    """What part of the way round the tube its weld lies on the sleeve itself: what lies on rings carries nothing.

    Args:
        sleeve: as it is saved.
        od: of the tube [mm].

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
    found = []
    if tube.od_mm > sleeve.outside_mm:
        found.append(Misfit(field=f"{at}outside_mm", message=f"The tube, ⌀{tube.od_mm:g} mm, is wider than its sleeve and does not stand on it: turn the sleeve {tube.od_mm:g} mm or more, or take a narrower tube."))  # fmt: skip
    if sleeve.long_mm < tube.od_mm and not sleeve.rings:
        found.append(Misfit(field=f"{at}long_mm", message=f"The sleeve is shorter than the tube is wide, and its weld does not go round: make it {tube.od_mm:g} mm long or more, or give it rings."))  # fmt: skip
    elif sleeve.long_mm < LEAST_OF_TUBE * tube.od_mm:
        found.append(Misfit(field=f"{at}long_mm", message=f"Too little of the tube stands on the sleeve itself: make it {LEAST_OF_TUBE * tube.od_mm:.1f} mm long or more (common practice)."))  # fmt: skip
    if end.eye is not None and ring_long(sleeve, tube.od_mm) > 0 and end.eye.ball_width_mm < tube.od_mm:
        found.append(Misfit(field=f"{name}.eye.ball_width_mm", message=f"With its rings it is {tube.od_mm:g} mm wide, and plates would clamp these: what goes in must be as wide, or wider."))  # fmt: skip
    try:
        ring_of(sleeve.outside_mm, sleeve.wall_mm, sleeve.long_mm)
    except InputError as error:
        found.append(Misfit(field=f"{at}wall_mm", message=error.message))
    how = "bent" if link.bent else "spliced" if link.splice else "bought" if link.bought else ""
    if how:
        found.append(Misfit(field=f"{at}outside_mm", message=f"The tube of a {how} link is not notched to a sleeve here. Leave the sleeve’s sizes out, and cut it by hand."))  # fmt: skip
    return found


def cut_of(link: Link, tube: Tube, stack: LinkStack, paper: float) -> Cut | None:
    """Its tube as it is notched to the sleeves at its ends, the line that both are counted from square to end A's bolt; None where it has none.

    Args:
        link: complete.
        tube: of it.
        stack: its lengths.
        paper: thickness of what the wrap is printed on [mm].
    """
    sleeves = [one.sleeve if isinstance(one, FixedEnd) else None for one in (link.end_a, link.end_b)]
    if not any(sleeves):
        return None
    turn = radians(link.clocking_deg)
    places = (np.zeros(3), np.array([stack.centre_to_centre, 0.0, 0.0]))
    bolts = (np.array([0.0, 1.0, 0.0]), np.array([0.0, cos(turn), sin(turn)]))
    ends = tuple(
        Meets(where=f"end {letter}", rounds=(round_at("its sleeve", at, bolt, sleeve.outside_mm / 2),))
        if sleeve else Meets(where=f"end {letter}", square=state.face_from_centre)
        for letter, sleeve, at, bolt, state in zip("AB", sleeves, places, bolts, stack.ends, strict=True)
    )  # fmt: skip
    run = Run(name="tube", a=places[0], b=places[1], od=tube.od_mm, wall=tube.wall_mm, ends=(ends[0], ends[1]))
    return cut_to_each_other([run], np.array([0.0, 0.0, 1.0]), paper)[0]


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
        CardLine(text=f"End {letter}: sleeve ⌀{sleeve.outside_mm:g} × {sleeve.long_mm:g} mm; its middle to the tube’s longest point", mm=cut.off(which), strong=True),
        *([CardLine(text="a ring at either end of the sleeve, long", mm=ring_long(sleeve, cut.run.od))] if ring_long(sleeve, cut.run.od) else []),
        *said, *(CardLine(text=f"NOT NOTCHED: {one}", strong=True) for one in cut.lacking if f"end {letter}" in one),
    )  # fmt: skip
