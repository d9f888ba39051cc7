"""Where a pair of plates goes on its member: the member from its side with the foot's middle set out from both ends, and cut across."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import cos, radians, sin

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.mounts import BoxMember, FlatMember, RoundMember
from tirante.core.document.parts.bracket import SaddleBase, TabPair
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.flat.contour import Contour, Curve
from tirante.core.parts.bracket.families.footing import Footing
from tirante.core.parts.bracket.families.tab_outline import TabOutline
from tirante.core.parts.joint import JointMade
from tirante.core.parts.stands import MIRROR, Stand, bolt_lines, facing, round_line

Array = NDArray[np.float64]
WIDTH, HEIGHT = 217.0, 160.0
STEP_DEG = 6.0  # of an arc as it is seen from its side
FACED = 0.97  # of a plate that is seen from its face
ONE = 1e-9  # mm from one plate's middle to the other's, under which they are one
SEEN = 60.0  # mm of a flat to either side of the feet


def contour_points(contour: Contour, step_deg: float = STEP_DEG) -> list[tuple[float, float]]:
    """A contour's corners, its arcs in steps: for a picture of it from another side.

    Args:
        contour: of a plate.
        step_deg: of an arc.
    """
    found: list[tuple[float, float]] = []
    for edge in contour.edges:
        found.append(edge.start)
        if isinstance(edge, Curve):
            first, last = (edge.start_deg, edge.end_deg) if not edge.back else (edge.end_deg, edge.start_deg)
            steps = max(2, int(abs(last - first) / step_deg))
            turns = [radians(first + (last - first) * i / steps) for i in range(1, steps)]
            if (
                np.hypot(
                    edge.cx + edge.r * cos(radians(first)) - edge.start[0],
                    edge.cy + edge.r * sin(radians(first)) - edge.start[1],
                )
                > 1e-6
            ):
                turns.reverse()
            found += [(edge.cx + edge.r * cos(t), edge.cy + edge.r * sin(t)) for t in turns]
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class PlacedPlate:
    """A plate of a pair where it stands in the car."""

    contour: Contour
    at: Array  # the foot's middle in the middle of its thickness (3)
    x: Array  # along the foot, as its contour has x (3)


def placed_plates(tab: TabPair, outlines: Sequence[TabOutline], gap: float, stand: Stand) -> tuple[PlacedPlate, ...]:
    """Both plates where they stand, the one the way of the bolt first; one where they lie in one another.

    Args:
        tab: as it is saved.
        outlines: of its plates, the one the way of the bolt first.
        gap: between them [mm].
        stand: where.
    """
    one, apart = stand.standing, gap + tab.plate.mm
    off = apart / 2 * one.bolt
    if apart <= ONE:
        return (PlacedPlate(contour=outlines[0].contour, at=one.foot, x=one.x),)
    # of a pair whose plates are one turned over, the second has its x the other way
    flip = -1.0 if len(outlines) == 1 and turned_over(tab) else 1.0
    return (
        PlacedPlate(contour=outlines[0].contour, at=one.foot + off, x=one.x),
        PlacedPlate(contour=outlines[-1].contour, at=one.foot - off, x=flip * one.x),
    )


def plates_in_space(
    tab: TabPair, outlines: Sequence[TabOutline], gap: float, stand: Stand
) -> list[tuple[Array, Array]]:
    """Both plates where they stand: the corners of the middle of each (n, 3), and its half thickness along the bolt (3).

    Args:
        tab: as it is saved.
        outlines: of its plates, the one the way of the bolt first.
        gap: between them [mm].
        stand: where.
    """
    one = stand.standing
    return [
        (
            np.array([plate.at + x * plate.x + y * one.y for x, y in contour_points(plate.contour)]),
            tab.plate.mm / 2 * one.bolt,
        )
        for plate in placed_plates(tab, outlines, gap, stand)
    ]


def turned_over(tab: TabPair) -> bool:
    """Whether the second plate of a pair whose plates are alike stands turned over.

    Args:
        tab: as it is saved.
    """
    return isinstance(tab.base, SaddleBase) and abs(tab.base.angle_deg - 90.0) > 1e-9


def place_sheet(
    tab: TabPair, outlines: Sequence[TabOutline], made: JointMade, stand: Stand, numbers: Numbers, footing: Footing | None = None
) -> Drawing:  # fmt: skip
    """The pair on its member, dimensioned from what can be touched.

    Args:
        tab: as it is saved.
        outlines: of its plates.
        made: the joint.
        stand: where.
        numbers: how lengths are written.
        footing: what a folded one lies on the member with; None of plates.
    """
    sheet = Sheet(name="place", title=f"{tab.name}, set out", width=WIDTH, height=HEIGHT, numbers=numbers)
    one = stand.standing
    plates = plates_in_space(tab, outlines, made.gap, stand)
    run = one.run if one.run is not None else one.x
    out = one.y - float(one.y @ run) * run
    if float(np.linalg.norm(out)) < 0.2:  # the tab lies along its member
        out = one.bolt - float(one.bolt @ run) * run
    out = out / np.linalg.norm(out)
    lies = footing_in_space(footing, made.gap, stand) if footing else []
    _along(sheet, tab, (plates, lies), (made, stand), run, out)
    _across(sheet, tab, (plates, lies), (made, stand), run, out)
    return sheet.done()


def footing_in_space(footing: Footing, gap: float, stand: Stand) -> list[tuple[Array, Array]]:
    """What a folded bracket lies on its member with, flat by flat, as its plates.

    Args:
        footing: of it.
        gap: between its ears [mm].
        stand: where.
    """
    return [
        (np.array([flat.at + x * flat.x + y * flat.y for x, y in flat.outline]), flat.thick / 2 * np.cross(flat.x, flat.y))
        for flat in footing.laid(gap, stand)
    ]  # fmt: skip


def _as_one(flats: Sequence[tuple[Array, Array]], u: Array, v: Array) -> list[list[tuple[float, float]]]:
    """Flats that lie on in one another, seen along the third axis: the outline of each that stands apart."""
    from shapely.geometry import Polygon
    from shapely.ops import unary_union

    seen = [Polygon(points).buffer(SEAM) for points in (_silhouette(*flat, u, v) for flat in flats) if len(points) > 2]
    found = unary_union(seen)
    return [list(one.exterior.coords)[:-1] for one in getattr(found, "geoms", [found]) if not one.is_empty]


SEAM = 0.01  # mm, that closes what flats leave open between them


def _silhouette(corners: Array, half: Array, u: Array, v: Array) -> list[tuple[float, float]]:
    """A plate seen along the third axis: its own outline where its face is seen, else the hull of both of its faces."""
    if abs(float(half @ np.cross(u, v))) > FACED * float(np.linalg.norm(half)):
        return [(float(one @ u), float(one @ v)) for one in corners]
    points = np.concatenate([corners + half, corners - half])
    return _hull(np.stack([points @ u, points @ v], axis=1))


def _hull(points: Array) -> list[tuple[float, float]]:
    from scipy.spatial import ConvexHull, QhullError

    try:
        hull = ConvexHull(points)
    except QhullError:  # seen on its edge: a line
        low, high = points.min(axis=0), points.max(axis=0)
        return [(float(low[0]), float(low[1])), (float(high[0]), float(high[1]))]
    return [(float(points[i, 0]), float(points[i, 1])) for i in hull.vertices]


def _along(
    sheet: Sheet,
    tab: TabPair,
    made_of: tuple[Sequence[tuple[Array, Array]], Sequence[tuple[Array, Array]]],
    of: tuple[JointMade, Stand],
    run: Array,
    out: Array,
) -> None:
    """The member from its side, the foot's middle set out from both of its ends."""
    (plates, lies), (made, stand) = made_of, of
    one, n = stand.standing, sheet.numbers
    shape = stand.mount.shape
    origin, length, reach = one.foot, 2 * SEEN + tab.base_width.mm, 0.0
    first = -length / 2
    if one.along is not None and one.length is not None:
        origin, length, first = one.foot - one.along * run, one.length, 0.0
    if isinstance(shape, RoundMember):
        reach = shape.od_mm
    elif isinstance(shape, BoxMember):
        reach = shape.height_mm if one.face in ("upper", "lower") else shape.width_mm
        if one.turned_deg is not None:  # seen past its corner: both walls
            top = (MIRROR if stand.mirrored else np.ones(3)) * np.array(shape.up)
            top = (top - float(top @ run) * run) / np.linalg.norm(top - float(top @ run) * run)
            reach = shape.height_mm * abs(float(top @ out)) + shape.width_mm * abs(float(np.cross(top, run) @ out))
    scale = min(112.0 / length, 40.0 / (one.height + tab.edge.mm + reach))
    frame = Frame(10.0 - first * scale, 96.0, scale)
    sheet.scale = scale
    sheet.text((6, 146), "Along the member", 3.8, bold=True)
    sheet.text((46, 146), f"{stand.mount.name}{f', its {one.where} up' if one.face else ''}", 2.9, tone="muted")
    foot_v = float((one.foot - origin) @ out) if one.along is not None else 0.0
    skin = foot_v
    sheet.box(frame.at(first, skin - reach), frame.at(first + length, skin), "steel", ref="field:mount")
    if isinstance(shape, RoundMember):
        sheet.line(
            frame.at(first - 4 / scale, skin - reach / 2),
            frame.at(first + length + 4 / scale, skin - reach / 2),
            "centre",
            "muted",
        )
    for points in _as_one([(corners - origin, half) for corners, half in lies], run, out):
        sheet.area([frame.at(x, y) for x, y in points], "pale", ref="field:plate")
    for corners, half in plates:
        points = _silhouette(corners - origin, half, run, out)
        sheet.area([frame.at(x, y) for x, y in points], "pale", ref="field:plate")
    at = stand.at.at - origin
    x, y = float(at @ run), float(at @ out)
    sheet.circle(frame.at(x, y), max(0.8, made.held.row.bore_mm / 2 * scale), "visible", "sheet", ref="joint")
    foot_x = float((one.foot - origin) @ run)
    sheet.line(frame.at(foot_x, skin - reach - 3 / scale), frame.at(foot_x, y + 4 / scale), "centre", "muted")
    if one.along is not None and one.length is not None:
        low = frame.at(0, skin - reach)[1]
        sheet.dimension(
            (frame.at(0, 0)[0], low),
            (frame.at(one.along, 0)[0], low),
            one.along,
            offset=-9.0,
            ref="dim:along",
            tone="blue",
        )
        sheet.dimension(
            (frame.at(one.along, 0)[0], low),
            (frame.at(one.length, 0)[0], low),
            one.length - one.along,
            offset=-18.0,
            ref="dim:along",
        )
        sheet.text((frame.at(0, 0)[0], low - 26), "first end", 2.7, tone="muted")
        sheet.text((frame.at(one.length, 0)[0], low - 26), "second end", 2.7, "end", tone="muted")
    lines = [(text.text, text.mm) for text in bolt_lines(stand)]
    for i, (text, mm) in enumerate(lines):
        sheet.text((10, 40 - 5.2 * i), text, 3.0)
        sheet.text((112, 40 - 5.2 * i), n.written(mm or 0.0), 3.2, "end", "blue", mono=True, bold=True)


def _across(
    sheet: Sheet,
    tab: TabPair,
    made_of: tuple[Sequence[tuple[Array, Array]], Sequence[tuple[Array, Array]]],
    of: tuple[JointMade, Stand],
    run: Array,
    out: Array,
) -> None:
    """The member cut across where the foot's middle is, seen from its first end toward its second."""
    (plates, lies), (made, stand) = made_of, of
    one, n, shape = stand.standing, sheet.numbers, stand.mount.shape
    up = np.array([0.0, 0.0, 1.0]) if abs(run[2]) < 0.9 else np.array([1.0, 0.0, 0.0])
    up = up - float(up @ run) * run
    up = up / np.linalg.norm(up)
    across = np.cross(up, run)  # to the right on the sheet, looking the way of the run
    sheet.text((132, 146), "Across it", 3.8, bold=True)
    sheet.text(
        (154, 146), f"seen toward {facing(run)}, {'up' if abs(run[2]) < 0.9 else 'ahead'} is up", 2.9, tone="muted"
    )
    origin = one.foot
    if isinstance(shape, RoundMember | BoxMember):
        way = MIRROR if stand.mirrored else np.ones(3)
        start = way * np.array(shape.a)
        origin = start + float((one.foot - start) @ run) * run
    every = [_silhouette(corners - origin, half, across, up) for corners, half in plates]
    every += _as_one([(corners - origin, half) for corners, half in lies], across, up)
    spread = max(abs(v) for points in every for p in points for v in p)
    size = (
        shape.od_mm / 2
        if isinstance(shape, RoundMember)
        else max(shape.width_mm, shape.height_mm) / 2
        if isinstance(shape, BoxMember)
        else SEEN
    )
    scale = min(34.0 / max(spread, size, 1.0), 1.5)
    frame = Frame(172.0, 96.0, scale)
    if isinstance(shape, RoundMember):
        sheet.circle(frame.at(0, 0), shape.od_mm / 2 * scale, "visible", "steel", ref="field:mount")
        if shape.wall_mm:
            sheet.circle(
                frame.at(0, 0), (shape.od_mm / 2 - shape.wall_mm) * scale, "visible", "sheet", ref="field:mount"
            )
    elif isinstance(shape, BoxMember):
        _box_section(sheet, frame, shape, stand, across, up)
    else:
        _flat_section(sheet, frame, stand, across, up)
    for points in every:
        sheet.area([frame.at(x, y) for x, y in points], "pale", ref="field:plate")
    at = stand.at.at - origin
    x, y = float(at @ across), float(at @ up)
    sheet.line(frame.at(0, -1.15 * size), frame.at(0, 1.15 * size), "centre", "muted")
    sheet.line(frame.at(-1.15 * size, 0), frame.at(1.15 * size, 0), "centre", "muted")
    sheet.circle(frame.at(x, y), 1.2, "visible", "sheet", ref="joint")
    bolt = one.bolt
    bx, by = float(bolt @ across), float(bolt @ up)
    reach = (made.gap / 2 + tab.plate.mm) * 1.25
    if np.hypot(bx, by) > 0.1:
        sheet.line(
            frame.at(x - bx * reach, y - by * reach),
            frame.at(x + bx * reach, y + by * reach),
            "centre",
            "blue",
            ref="joint",
        )
    lines: list[tuple[str, float | None]] = []
    if isinstance(shape, RoundMember) and one.round_deg is not None:
        found = round_line(stand, "it")
        lines.append((found.text, found.mm))
    elif one.turned_deg is not None:
        lines.append((f"on the {one.where}, its notch over the corner’s edge", None))
    elif one.face:
        lines.append((f"on the {one.face} face; foot over the face’s middle by", _off_middle(stand)))
    for i, (text, mm) in enumerate(lines):
        sheet.text((132, 40 - 9 * i), text, 2.8)
        if mm is not None:
            sheet.text((132, 35.4 - 9 * i), n.written(mm), 3.2, "start", "blue", mono=True, bold=True)


def _off_middle(stand: Stand) -> float:
    one = stand.standing
    assert one.across
    way, middle, _ = one.across
    return abs(float(one.foot @ way) - middle)


def _box_section(sheet: Sheet, frame: Frame, shape: BoxMember, stand: Stand, left: Array, up: Array) -> None:
    one = stand.standing
    assert one.run is not None
    way = MIRROR if stand.mirrored else np.ones(3)
    top = way * np.array(shape.up)
    top = top - float(top @ one.run) * one.run
    top = top / np.linalg.norm(top)
    side = np.cross(top, one.run)
    for w, fill in ((0.0, "steel"), (shape.wall_mm or 0.0, "sheet")):
        if w == 0.0 and fill == "sheet":
            continue
        corners = [
            sx * (shape.width_mm / 2 - w) * side + sy * (shape.height_mm / 2 - w) * top
            for sx, sy in ((-1, -1), (1, -1), (1, 1), (-1, 1))
        ]
        sheet.area([frame.at(float(c @ left), float(c @ up)) for c in corners], fill, ref="field:mount")  # type: ignore[arg-type]


def _flat_section(sheet: Sheet, frame: Frame, stand: Stand, left: Array, up: Array) -> None:
    shape = stand.mount.shape
    assert isinstance(shape, FlatMember)
    way = MIRROR if stand.mirrored else np.ones(3)
    normal = way * np.array(shape.normal)
    normal = normal / np.linalg.norm(normal)
    flat = np.array([float(normal @ left), float(normal @ up)])
    if np.linalg.norm(flat) < 1e-6:
        return
    flat = flat / np.linalg.norm(flat)
    along = np.array([-flat[1], flat[0]]) * SEEN
    deep = flat * (shape.wall_mm or 4.0)
    corners = [along, -along, -along - deep, along - deep]
    sheet.area([frame.at(float(c[0]), float(c[1])) for c in corners], "steel", ref="field:mount")
