"""Plates of a part that have no sheet of their own: each flat at 1:1, and gussets cut to the sides of the tubes that they are let in between."""

from __future__ import annotations

import re
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from tirante.core.drawing.flat import cross_holes, draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Sheet
from tirante.core.flat.contour import Contour, Straight
from tirante.core.parts.part import Part, Piece, PlatePiece, View

Array = NDArray[np.float64]
LEAST_EDGE = 10.0  # mm: of less a gusset is none


def view_name(piece: PlatePiece) -> str:
    """Of a plate's own view.

    Args:
        piece: the plate.
    """
    return f"plate-{re.sub('[^a-z0-9]+', '-', piece.name.lower()).strip('-')}"


def plate_views(pieces: Sequence[Piece]) -> tuple[View, ...]:
    """A flat view of every plate whose outline is worked out.

    Args:
        pieces: of a part.
    """
    plates = [one for one in pieces if isinstance(one, PlatePiece) and one.outline is not None]
    return tuple(View(name=view_name(one), title=f"{one.name}, 1:1", cut=True, plate=one.name, told=_told(one)) for one in plates)  # fmt: skip


def _told(piece: PlatePiece) -> str:
    more = f": {piece.told}" if piece.told else ""
    return f"{piece.name[0].upper()}{piece.name[1:]}, {piece.thickness:g} mm {piece.material}{more}."


def plate_flat(part: Part, name: str) -> Drawing | None:
    """One of those views; None of another.

    Args:
        part: worked out.
        name: of the view.
    """
    for piece in part.pieces:
        if isinstance(piece, PlatePiece) and piece.outline is not None and view_name(piece) == name:
            return _flat(name, piece.name, piece.outline)
    return None


def _flat(name: str, title: str, contour: Contour) -> Drawing:
    left, low, right, high = contour.bounds
    sheet = Sheet(name=name, title=title, width=right - left, height=high - low)
    frame = Frame(-left, -low, 1.0)
    draw_contour(sheet, frame, contour, "cut")
    for mark in contour.marks:
        sheet.line(frame.at(*mark.start), frame.at(*mark.end), "mark")
    cross_holes(sheet, frame, contour)
    return sheet.done()


def gusset_piece(
    name: str, of: tuple[str, float], ends: tuple[Array, Array, Array], half: tuple[float, float] | None
) -> PlatePiece:  # fmt: skip
    """A gusset as it is cut; where its tubes' sides leave nothing, or are not known, the triangle between their middle lines, to be marked out by hand.

    Args:
        name: of it.
        of: its material, and its thickness [mm].
        ends: its corner, and the ends of its reach along both tubes.
        half: how far the sides of the tubes stand off their middle lines [mm]; None: not known.
    """
    material, thickness = of
    contour = gusset_between(*ends, half) if half is not None else None
    if contour is not None:
        left, low, right, high = contour.bounds
        return PlatePiece(
            name=name, material=material, thickness=thickness, length=right - left, width=high - low, outline=contour,
            told="a triangle, from the side of one tube to the side of the other: file a gap for the weld",
        )  # fmt: skip
    corner, one, two = ends
    across = float(np.linalg.norm(two - one))
    along = (two - one) / across
    off = corner - one - float((corner - one) @ along) * along
    return PlatePiece(
        name=name, material=material, thickness=thickness, length=across, width=float(np.linalg.norm(off)),
        told="a triangle, between the tubes’ centre lines: trim to their sides",
    )  # fmt: skip


def gusset_between(corner: Array, one: Array, two: Array, half: tuple[float, float]) -> Contour | None:
    """A gusset in the plane of two tubes, from the side of one to the side of the other; None where nothing is left of it.

    Args:
        corner: where the tubes' middle lines meet (2 or 3).
        one: the end of its reach along the first.
        two: along the second.
        half: how far the sides stand off the middle lines [mm].
    """
    u, v = (one - corner) / np.linalg.norm(one - corner), (two - corner) / np.linalg.norm(two - corner)
    cosine = float(u @ v)
    sine = float(np.sqrt(max(0.0, 1.0 - cosine**2)))
    if sine < 1e-6:
        return None
    a, b = float(np.linalg.norm(one - corner)), float(np.linalg.norm(two - corner))
    # in the plane: the first tube along x, the second turned toward +y
    far = np.array([b * cosine, b * sine])
    near = np.array([a, 0.0])
    # the inner corner: so far from either line
    inner = np.array([(half[1] + half[0] * cosine) / sine, half[0]])
    edge = far - near
    on_first = near + edge * (half[0] / far[1])  # where the third edge crosses the first side
    turned = np.array([-sine, cosine])  # square to the second tube, away from the first
    share = (-half[1] - float(near @ turned)) / float(edge @ turned)
    on_second = near + edge * share
    corners = [inner, on_first, on_second]
    sides = [corners[(i + 1) % 3] - corners[i] for i in range(3)]
    turn = float(sides[0][0] * sides[1][1] - sides[0][1] * sides[1][0])
    if (
        turn <= 0
        or min(float(np.linalg.norm(side)) for side in sides) < LEAST_EDGE
        or float((on_first - inner)[0]) <= 0
    ):
        return None
    # its third edge along x: as it lies on a sheet
    base = on_second - on_first
    along = base / np.linalg.norm(base)
    across = np.array([-along[1], along[0]])
    flat = [(float((p - on_first) @ along), float((p - on_first) @ across)) for p in (on_first, on_second, inner)]
    return Contour(edges=tuple(Straight(*p, *q) for p, q in zip(flat, (*flat[1:], flat[0]), strict=True)))
