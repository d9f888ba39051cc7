"""What a jig takes hold of on a link: both its ends, its bolts at the design's angle, its tube, straight, bent or spliced. x runs from A to B."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.parts.link import FixedEnd, Link
from tirante.core.jigs.features import DUMMY, Bar, Features, Held, triple
from tirante.core.parts.link.assembly import LinkEndParts, PlainEnd, ThreadedEnd
from tirante.core.parts.link.built import Built
from tirante.core.parts.link.sleeve import bends_toward, bolts_of

Array = NDArray[np.float64]


def features_of(link: Link, built: Built) -> Features | str:
    """A link as a jig has it; or what must be given first.

    Args:
        link: complete.
        built: with its rows.
    """
    assembly, stack = built.assembly, built.stack
    length = stack.centre_to_centre
    held = []
    for which, (end, letter, bolt) in enumerate(zip(assembly.ends, "AB", bolts_of(link), strict=True)):
        saved = (link.end_a, link.end_b)[which]
        found = _held(
            end,
            saved if isinstance(saved, FixedEnd) else None,
            f"end {letter}",
            length * which,
            bolt,
            assembly.tube.od_mm,
        )
        if found is None:
            return f"A jig’s dummies go in its bores. Give first what is made at end {letter}, with its sizes, at station 5."
        held.append(found)
    od, line = assembly.tube.od_mm, assembly.bend
    off = bends_toward(link)
    faces = [state.face_from_centre for state in stack.ends]
    welded = [not _loose(end) for end in assembly.ends]
    if line is None:
        splice = [link.splice.at.mm] if link.splice else []
        corners = [np.array([x, 0.0, 0.0]) for x in (0.0, *splice, length)]
    else:
        along = [line.along] if line.from_ends is None else [line.along, length - line.along]
        corners = [np.zeros(3), *(np.array([x, 0.0, 0.0]) + line.offset * off for x in along), np.array([length, 0.0, 0.0])]  # fmt: skip
    bars = []
    for i, (a, b) in enumerate(pairwise(corners)):
        first, last = i == 0, i == len(corners) - 2
        inner = 0.0 if line is None else None  # a splice is a bead round the tube, a bend is none
        way = (b - a) / np.linalg.norm(b - a)
        # the tube begins at its face, and its bead lies there
        start = a + faces[0] * way if first else a
        stop = b - faces[1] * way if last else b
        bars.append(Bar(
            name="tube" if len(corners) == 2 else f"tube, piece {i + 1}", a=triple(start), b=triple(stop), od=od,
            a_seam=(0.0 if welded[0] else None) if first else inner, b_seam=(0.0 if welded[1] else None) if last else inner,
            to=("end A" if first else "", "end B" if last else ""),
        ))  # fmt: skip
    return Features(held=tuple(held), bars=tuple(bars))


def _loose(end: LinkEndParts) -> bool:
    """Whether nothing is welded there."""
    return end.tapped if isinstance(end, ThreadedEnd) else end.squashed


def _held(end: LinkEndParts, saved: FixedEnd | None, name: str, x: float, bolt: Array, od: float) -> Held | None:
    at, axis = (x, 0.0, 0.0), triple(bolt)
    if isinstance(end, ThreadedEnd):
        joint = end.joint
        return Held(name=name, at=at, axis=axis, directed=False, bore=joint.bore_mm, wide=joint.ball_width_mm, outside=joint.head_diameter_mm, what=f"old rod end, {end.hand}, screwed in to the showing length")  # fmt: skip
    return _plain(end, saved, name, at, axis, od)


def _plain(
    end: PlainEnd, saved: FixedEnd | None, name: str, at: tuple[float, float, float], axis: tuple[float, float, float], od: float
) -> Held | None:  # fmt: skip
    """An end that does not adjust; None where its sizes are not given."""
    if end.sleeve:
        one = end.sleeve
        bore = saved.eye.bore_mm if saved and saved.eye else DUMMY
        return Held(name=name, at=at, axis=axis, directed=False, bore=bore, wide=one.long_mm, outside=one.outside_mm, what=f"{end.what}, what goes in it out", seat=one.outside_mm - 2 * one.wall_mm)  # fmt: skip
    if end.machined:
        m = end.machined
        wide = m.thickness_mm if m.form == "eye" else m.gap_mm + 2 * m.thickness_mm
        return Held(name=name, at=at, axis=axis, directed=False, bore=m.pin_mm, wide=wide, outside=m.width_mm, what=_forked(f"machined {m.form}", m.gap_mm if m.form == "clevis" else 0.0))  # fmt: skip
    if end.flat:
        f = end.flat
        wide = f.gap_mm + 2 * f.thickness_mm if f.form == "clevis let in" else f.thickness_mm
        return Held(name=name, at=at, axis=axis, directed=False, bore=f.pin_mm, wide=wide, outside=2 * f.edge_mm, what=_forked(f.form, f.gap_mm if f.form == "clevis let in" else 0.0))  # fmt: skip
    if end.plug:
        return Held(name=name, at=at, axis=axis, directed=False, bore=end.plug.pin_mm, wide=od, outside=2 * end.plug.edge_mm, what="plugged end, bored across")  # fmt: skip
    return None


def _forked(word: str, gap: float) -> str:
    return f"{word}, a spacer {gap:g} mm long between its ears" if gap else word
