"""A rail jig for a link: two dummy bolts at the set length, stops at the tube's faces, rests, the check length.

Ordinates along the rail from the datum, the dummy bolt of end A. Not covered: arms, brackets in the jig.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import degrees

from tirante.core.document.settings import Settings
from tirante.core.members.bend_line import face_of
from tirante.core.members.link_stack import LinkStack
from tirante.core.notch.meeting import Fitted
from tirante.core.parts.link.assembly import Assembly, LinkEndParts, PlainEnd, ThreadedEnd
from tirante.core.parts.link.sleeve import cuts_of, tube_notch_at
from tirante.core.parts.part import JigStation
from tirante.core.parts.welded.tube_ends import Cut


@dataclass(frozen=True, slots=True, kw_only=True)
class LinkJig:
    """The jig of one link [mm]."""

    stations: tuple[JigStation, ...]
    set_length: float  # between the dummy bolts while welding: check length plus allowance for shrink
    check_length: float  # pivot to pivot, cold
    tolerance: float
    axis_height: float  # link axis above the rail
    rail_length: float
    clocking_deg: float
    steps: tuple[str, ...]


def link_jig(assembly: Assembly, stack: LinkStack, settings: Settings) -> LinkJig:
    """Lay out the jig.

    The dummy bolts stand at centre to centre plus the shop's shrink allowance for each weld across the tube, which is sawn longer
    by as much; the axis is high enough for eye and tube with 10 mm to reach under.

    Args:
        assembly: the link with its rows.
        stack: its lengths and threads.
        settings: factors, schools and allowances of the shop.

    Source:
        Geometry (derived); shrink allowance 0.3–0.8 mm a fillet, common practice, default 0.
    """
    shrink = settings.weld_shrink_mm * assembly.shrinking
    length = stack.centre_to_centre
    set_length = length + shrink
    face_a = stack.ends[0].face_from_centre
    face_b = stack.ends[1].face_from_centre
    radii = [assembly.tube.od_mm / 2]
    radii += [end.joint.head_diameter_mm / 2 for end in assembly.threaded]
    bores = [
        f"⌀{end.joint.bore_mm:g} dummy bolt, {end.hand}" if isinstance(end, ThreadedEnd) else f"pin for the {end.what}"
        for end in assembly.ends
    ]
    line = assembly.bend
    # a bent link lies in the jig with its bends upward: its ends' faces lean, and stand nearer to their pivots along the rail
    near, far = (
        (face_of(line, face_a)[0], set_length - face_of(line, face_b)[0]) if line else (face_a, set_length - face_b)
    )
    lean = f", leaning {degrees(line.lean):.1f}°, its middle {{:.1f}} mm up" if line else ""
    at = near + (far - near) * 0.22, near + (far - near) * 0.78
    rests = [f"vee rest, {line.height(x):.1f} mm up" if line else "vee rest" for x in at]
    stops = [_stop(end, letter, lean.format(face_of(line, face)[1]) if line else "") for end, letter, face in zip(assembly.ends, "AB", (face_a, face_b), strict=True)]  # fmt: skip
    # on a sleeve the tube lies on the bottom of its notch, where no stop can stand: that far from its middle
    cuts = cuts_of(assembly.link, assembly.tube, stack, 0.0)
    bottoms = [_bottom(tube_notch_at(assembly.link, cuts, which), which) for which in (0, 1)]
    if line:
        bottoms = [None if one is None else face_of(line, one)[0] for one in bottoms]
    near = near if bottoms[0] is None else bottoms[0]
    far = far if bottoms[1] is None else set_length - bottoms[1]
    stations = (
        JigStation(name="A", ordinate=0.0, what=f"datum: {bores[0]}"),
        JigStation(name="1", ordinate=near, what=stops[0]),
        JigStation(name="2", ordinate=at[0], what=rests[0]),
        JigStation(name="3", ordinate=at[1], what=rests[1]),
        JigStation(name="4", ordinate=far, what=stops[1]),
        JigStation(name="B", ordinate=set_length, what=bores[1]),
    )
    clock = (
        "both eyes flat, bolts parallel"
        if assembly.link.clocking_deg == 0
        else f"turn the bolt of end B by {assembly.link.clocking_deg:g}° against A, clockwise as seen from A{', of the right one counter-clockwise' if assembly.handed and assembly.link.side == 'pair' else ''}"
    )
    return LinkJig(
        stations=stations, set_length=set_length, check_length=length, tolerance=settings.check_tolerance_mm,
        axis_height=max(radii) + 10.0, rail_length=set_length + 80.0, clocking_deg=assembly.link.clocking_deg,
        steps=_steps(assembly, clock),
    )  # fmt: skip


def _bottom(cut: Cut | None, which: int) -> float | None:
    """From a sleeve's middle to the bottom of the notch on it, along the tube [mm]; None where there is none."""
    end = cut.ends[which] if cut else None
    return end.short if isinstance(end, Fitted) else None


def _stop(end: LinkEndParts, letter: str, lean: str) -> str:
    """What the tube comes to at one end of the jig."""
    if isinstance(end, PlainEnd) and end.notched:
        return f"no stop: the tube’s notch on its sleeve, end {letter}, its bottom here"
    if isinstance(end, PlainEnd) and end.squashed:
        return f"stop: the squashed tube’s end, end {letter}"
    if isinstance(end, PlainEnd) and end.plug:
        return f"stop: the plugged tube’s end, end {letter}"
    return f"stop: tube face, end {letter}{lean}"


def _fixed_first(end: PlainEnd) -> str:
    """How an end that does not adjust goes into the jig."""
    if end.squashed:
        return f"Squash and drill the {end.what} before: it goes on its pin as it is."
    if end.plug:
        return f"Weld the {end.what} in and bore it across before: it goes on its pin as it is."
    if end.flat:
        return f"Put the {end.what} on its pin, its plates in the slots of the tube."
    if end.machined:
        return f"Put the {end.what} on its pin, its spigot in the tube up to its shoulder."
    return f"Put the {end.what} on its pin with its bush or ball out: heat ends rubber and liner."


def _steps(assembly: Assembly, clock: str) -> tuple[str, ...]:
    """The order of the work, by what is at either end."""
    inserts = [end for end in assembly.threaded if not end.tapped]
    fixed = [end for end in assembly.ends if isinstance(end, PlainEnd)]
    tapped = [end for end in assembly.threaded if end.tapped]
    if fixed and all(end.runs_past for end in fixed) and not inserts and assembly.welded and not assembly.link.splice:
        return (
            "Weld the plugs in and let them cool; squash what is squashed. Bore one end across, lay the tube on the jig with that hole on its pin, and mark the other hole through its bush."
            if len(fixed) == 2 else "Weld the plug in and let it cool. Screw the joint of the tapped end in to the showing length, nut run up, lay the tube on the jig on it, and mark the plugged end’s hole through its bush.",
            f"Bore it there, {clock}; check the length.",
        )  # fmt: skip
    if fixed and not assembly.welded:
        return (
            "Nothing is welded: squash and drill one end, lay the tube on the jig with that hole on its pin, and mark the other hole through its bush."
            if len(fixed) == 2 else "Nothing is welded: screw the joint in to the showing length, nut run up, and mark the squashed end’s hole on its pin.",
            f"Drill it there, {clock}; check the length.",
        )  # fmt: skip
    if len(tapped) == 2:
        return (
            "Nothing is welded at its ends: screw both joints in to the showing length, nuts run up.",
            f"Pin A and B to the dummy bolts, {clock}; check the length and lock the nuts.",
        )
    first = []
    if inserts:
        each = "each insert" if len(inserts) == 2 else "the insert"
        first.append(
            f"Screw an old joint into {each} to the showing length, nut run up: a stud stays in while welding."
        )
    if tapped:
        first.append("Screw the joint of the tapped end in to the showing length, nut run up.")
    first += [_fixed_first(end) for end in fixed]
    plugs = any(end.plugs(assembly.link.welding) for end in inserts)
    last = ["Cold: check the length pin to pin."]
    if inserts:
        last.append("Then take the old joints out, chase each thread with the tap of its hand, fit the new ones.")
    if any(end.flat is None and end.plug is None for end in fixed):
        last.append(
            "Gauge each bore that was welded round, and ream or hone it before anything is pressed in: the ring draws it oval."
        )
    return (
        *first,
        f"Pin A and B to the dummy bolts, {clock}; {'tube against both stops' if not any(isinstance(end, PlainEnd) and end.notched for end in assembly.ends) else 'its notches on the sleeves'}, gaps alike.",
        "Tack each end in four places, opposite pairs. Check the length.",
        f"{_welds(assembly, plugs=plugs)} No arc on a ball or a thread.",
        " ".join(last),
    )


def _welds(assembly: Assembly, *, plugs: bool) -> str:
    """In which order what is welded is."""
    flats = [end for end in assembly.ends if isinstance(end, PlainEnd) and end.flat and not end.squashed]
    along = "Fillets along the plates, either face in turn." if flats else ""
    rings = len([end for end in assembly.ends if not (isinstance(end, PlainEnd) and (end.flat or end.plug))])
    ring = (
        f"{'Plug welds first, then the' if plugs else 'The'} ring in four runs, opposite quarters, ends in turn."
        if rings
        else ""
    )
    return " ".join(one for one in (ring, along) if one)
