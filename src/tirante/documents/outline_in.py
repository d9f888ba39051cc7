"""A plate's outline read from a DXF of another program: closed loops of exact lines and arcs, in millimetres."""

from __future__ import annotations

import io
from dataclasses import replace
from math import atan2, degrees, isfinite
from typing import Literal

from tirante.core.errors import InputError
from tirante.core.flat.contour import Curve, Edge, Straight
from tirante.documents.cutting_table import LAYER, Stretch, is_whole, loops_of, stretches_of

INCH = 25.4
KINDS = ("LINE", "ARC", "CIRCLE", "LWPOLYLINE")
BESIDE = ("TEXT", "MTEXT", "DIMENSION", "POINT", "HATCH", "LEADER")  # what a drawing has that is not cut
MOST = 2000  # lines and arcs
FAR = 1e5  # in units of the file: nothing that is cut lies so far from its origin


def loops_in(text: str, unit: Literal["mm", "in"] | None) -> list[list[Edge]]:
    """Closed loops of a file: those of its layer CUT where it has one, else of all its layers.

    Args:
        text: the file.
        unit: of its lengths, where it does not say so itself.

    Raises:
        InputError: it is no such file, its outlines are open, or its unit is not known.
    """
    scale, found = _stretches(text, unit)
    if not all(
        isfinite(v) and abs(v) <= FAR for one in found for v in (*one.a, *one.b, *(one.centre or ()), one.radius)
    ):
        raise InputError(f"A figure in it is none, or further out than {FAR:g}.", code="out_of_range", fields=("text",))
    loops, faults = loops_of([_scaled(one, scale) for one in found])
    if faults:
        raise InputError(f"{faults[0][0].upper()}{faults[0][1:]}", code="invalid", fields=("text",))
    if not loops:
        raise InputError("There is no closed outline in it.", code="missing", fields=("text",))
    return [[_edge(one) for one in loop] for loop in loops]


def _stretches(text: str, unit: Literal["mm", "in"] | None) -> tuple[float, list[Stretch]]:
    """Millimetres of a unit of the file, and its lines and arcs."""
    try:
        return _read(text, unit)
    except InputError:
        raise
    except Exception as error:  # the library meets damage with whatever it meets first
        raise InputError("It is no DXF that can be read: it is damaged, or of another kind.", code="invalid", fields=("text",)) from error  # fmt: skip


def _read(text: str, unit: Literal["mm", "in"] | None) -> tuple[float, list[Stretch]]:
    from ezdxf import recover, units

    document, _ = recover.read(io.BytesIO(text.encode()))
    if not is_whole(text.encode()):
        raise InputError("The file is cut off before its end: a hole may be missing. Save it or send it again.", code="invalid", fields=("text",))  # fmt: skip
    said = {units.MM: 1.0, units.IN: INCH, units.CM: 10.0, units.M: 1000.0}.get(document.units)
    if said is None and unit is None:
        raise InputError("The file does not say what its lengths are. Say it: mm or in.", code="missing", fields=("unit",))  # fmt: skip
    scale = said if said is not None else INCH if unit == "in" else 1.0
    space = list(document.modelspace())
    layers = {entity.dxf.layer for entity in space}
    found: list[Stretch] = []
    for entity in space:
        kind = entity.dxftype()
        if (LAYER in layers and entity.dxf.layer != LAYER) or kind in BESIDE:
            continue
        if kind not in KINDS:
            raise InputError(f"There is a {kind} in it. Only lines, arcs, circles and polylines of these are read: turn it into those, or leave it out.", code="not_applicable", fields=("text",))  # fmt: skip
        found += stretches_of(entity, kind)
        if len(found) > MOST:
            raise InputError(f"There are more than {MOST} lines and arcs in it. A curve in short lines is no exact outline: draw it as arcs.", code="too_large", fields=("text",))  # fmt: skip
    return scale, found


def _scaled(one: Stretch, scale: float) -> Stretch:
    def by(p: tuple[float, float]) -> tuple[float, float]:
        return p[0] * scale, p[1] * scale

    return replace(one, a=by(one.a), b=by(one.b), centre=by(one.centre) if one.centre else None, radius=one.radius * scale)  # fmt: skip


def _edge(one: Stretch) -> Edge:
    if one.centre is None:
        return Straight(*one.a, *one.b)
    begin = one.a if one.left else one.b
    start = degrees(atan2(begin[1] - one.centre[1], begin[0] - one.centre[0]))
    return Curve(*one.centre, one.radius, start, start + degrees(one.turn), not one.left)
