"""Members of the demo cars that brackets stand on: invented, and sound together with the ends of `make_demo`."""

from __future__ import annotations

from typing import Any

Place = tuple[float, float, float]
Entered = tuple[str, dict[str, Any], bool, tuple[str, str] | None]  # name, shape, both sides, end and body it is on


def box(a: Place, b: Place, width: float, height: float, wall: float) -> dict[str, Any]:
    return {"kind": "box", "a": a, "b": b, "width_mm": width, "height_mm": height, "wall_mm": wall}


def tube(a: Place, b: Place, od: float, wall: float) -> dict[str, Any]:
    return {"kind": "round", "a": a, "b": b, "od_mm": od, "wall_mm": wall}


def flat(through: Place, normal: Place, wall: float) -> dict[str, Any]:
    return {"kind": "flat", "through": through, "normal": normal, "wall_mm": wall}


MOUNTS: dict[str, list[Entered]] = {
    "Marram": [
        ("Front upper rail", tube((260, 255.5, 490), (-420, 265.96, 458.62), 57.15, 3.0), True, None),
        ("Front lower rail", tube((360, 190, 202), (-420, 202, 178), 57.15, 3.2), True, None),
        ("Rack cross box", box((118, 193, 176), (118, -193, 176), 50, 40, 3), False, None),
        ("Shock tower rail", tube((180, 396, 746), (-220, 396, 746), 50.8, 3.0), True, None),
        ("Rear rail", box((-900, 402, 545), (-2420, 402, 545), 80, 80, 4), True, None),
        ("Rear cross tube", tube((-1420, 362, 640), (-1420, -362, 640), 76.2, 3.2), False, None),
        ("Damper cross tube", tube((-2110, 560, 800), (-2110, -560, 800), 50.8, 3.0), False, None),
        ("Panhard post", box((-2190, 522, 585), (-2190, 522, 340), 50, 50, 3) | {"up": (1, 0, 0)}, False, None),
        ("Axle tube", tube((-2010, 660, 350), (-2010, -660, 350), 76.2, 6.35), False, ("Rear", "axle")),
        ("Panhard stub on the axle", box((-2044, -485, 312), (-2240, -485, 312), 80, 40, 4), False, ("Rear", "axle")),
    ],
    "Tern": [
        ("Damper rail", tube((-2620, 414, 722), (-2240, 414, 718), 50.0, 3.0), True, None),
        ("Toe rail", box((-2700, 168, 214), (-2556, 168, 214), 50, 50, 3), True, None),
        ("Upright, tie lug", flat((-2641, 716, 221), (0, -1, 0), 10), True, ("Rear", "upright")),
        ("Upright, damper face", flat((-2402, 652, 300), (0, -1, 0), 10), True, ("Rear", "upright")),
    ],
    "Quay": [
        ("Bed rail", box((-2900, 430, 698), (-1680, 430, 698), 70, 76, 4), True, None),
        ("Lower link post", box((-1720, 420, 660), (-1720, 420, 225), 100, 60, 5) | {"up": (1, 0, 0)}, True, None),
        ("Upper link post", box((-1845, 400, 660), (-1845, 400, 380), 60, 60, 4) | {"up": (1, 0, 0)}, True, None),
        ("Left Watts post", box((-2675, 500, 660), (-2675, 500, 335), 50, 60, 4) | {"up": (1, 0, 0)}, False, None),
        ("Right Watts post", box((-2675, -500, 660), (-2675, -500, 195), 50, 60, 4) | {"up": (1, 0, 0)}, False, None),
        ("Axle tube", tube((-2480, 640, 350), (-2480, -640, 350), 88.9, 8.0), False, ("Rear", "axle")),
        ("Watts carrier", box((-2675, -150, 170), (-2675, 150, 170), 90, 40, 4), False, ("Rear", "axle")),
        ("Spring carrier", box((-2575, -520, 352), (-2575, 520, 352), 50, 40, 4), False, ("Rear", "axle")),
    ],
    "Plover": [
        ("Frame rail", box((500, 330, 520), (-2900, 330, 520), 76, 100, 4), True, None),
        ("Panhard outrigger", box((30, 420, 490), (190, 420, 490), 60, 60, 4), False, None),
        ("Damper tower", box((-160, 415, 862), (80, 415, 862), 50, 50, 4), True, None),
        ("Arm outrigger", box((-1960, 330, 362), (-1960, 660, 362), 70, 50, 4), True, None),
        ("Rear lower centre box", box((-2740, 58, 215), (-2500, 58, 215), 50, 60, 4), True, None),
        ("Rear upper centre box", box((-2760, 78, 410), (-2520, 78, 410), 50, 60, 4), True, None),
        ("Rear damper cross box", box((-2720, 700, 705), (-2720, 300, 705), 60, 50, 4), True, None),
        ("Front axle tube", tube((0, 620, 330), (0, -620, 330), 76.2, 6.35), False, ("Front", "axle")),
        ("Panhard stub on the axle", box((20, -430, 350), (190, -430, 350), 60, 40, 4), False, ("Front", "axle")),
        ("Track arm", flat((-128, 648, 372), (-1, 0, 0), 12), True, ("Front", "knuckle")),
        ("Drag arm", flat((143, 650, 462), (1, 0, 0), 12), True, ("Front", "knuckle")),
    ],
    "Dunlin": [
        ("Front lower rail", tube((330, 212, 204), (-420, 218, 190), 50.8, 3.2), True, None),
        ("Front upper rail", tube((330, 258, 482), (-420, 262, 454), 50.8, 3.2), True, None),
        ("Rack cross box", box((118, 200, 174), (118, -200, 174), 50, 40, 3), False, None),
        ("Damper cross box", box((-12, 225, 500), (-12, -225, 500), 40, 40, 3), False, None),
        ("Bar outrigger", box((-380, 380, 258), (-220, 380, 258), 40, 40, 3), True, None),
        ("Steering arm", flat((112, 690, 262), (0, -1, 0), 10), True, ("Front", "upright")),
        ("Push rod plate", flat((-64, 590, 210), (0, 0, 1), 6), True, ("Front", "lower_arm")),
    ],
}  # fmt: skip
