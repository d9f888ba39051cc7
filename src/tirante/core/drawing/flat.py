"""Flat contours on a sheet: exact lines and arcs, holes with their middles marked."""

from __future__ import annotations

from tirante.core.drawing.model import Style
from tirante.core.drawing.sheet import Frame, Sheet
from tirante.core.flat.contour import Contour, Curve, Straight

CROSS = 3.0  # mm, of a hole's mark past its edge


def draw_contour(sheet: Sheet, frame: Frame, contour: Contour, style: Style, ref: str | None = None) -> None:
    """The contour and its holes, exact lines and arcs.

    Args:
        sheet: to draw on.
        frame: where and to what scale.
        contour: what.
        style: of its lines.
        ref: what it shows; the holes show their own.
    """
    for edges, of in ((contour.edges, ref), *((opening, "dim:hole" if ref else None) for opening in contour.openings)):
        for edge in edges:
            if isinstance(edge, Straight):
                sheet.line(frame.at(edge.x1, edge.y1), frame.at(edge.x2, edge.y2), style, ref=of)
            elif isinstance(edge, Curve):
                sheet.arc(frame.at(edge.cx, edge.cy), edge.r * frame.scale, edge.start_deg, edge.end_deg, style, of)
    for hole in contour.holes:
        sheet.circle(frame.at(hole.x, hole.y), hole.diameter / 2 * frame.scale, style, ref="dim:hole" if ref else None)


def cross_holes(sheet: Sheet, frame: Frame, contour: Contour) -> None:
    """Each hole's middle, as it is centre-punched.

    Args:
        sheet: to draw on.
        frame: where and to what scale.
        contour: whose holes.
    """
    for hole in contour.holes:
        reach = hole.diameter / 2 + CROSS
        sheet.line(frame.at(hole.x - reach, hole.y), frame.at(hole.x + reach, hole.y), "mark")
        sheet.line(frame.at(hole.x, hole.y - reach), frame.at(hole.x, hole.y + reach), "mark")
