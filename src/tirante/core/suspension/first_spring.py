"""What a new end stands on until somebody says what it really has: a damper over the wheel, its lengths, and no rate.

Common practice, no source: a place to start from, drawn and to be moved. A spring's rate is never taken for granted, since parts
would be judged by it before anybody had seen it.
"""

from __future__ import annotations

from math import dist

from tirante.core.document.end import Damper, End, PlaceIn
from tirante.core.document.template import Template

INBOARD, LEAN, TALL = 130.0, 60.0, 380.0  # [mm] from the wheel's centre, of the lower eye; of the upper from the lower
STROKE = 70.0  # [mm] each way from where it stands


def with_damper(template: Template, end: End) -> End:
    """An end that has nothing to stand on, with a damper between the chassis and what carries its wheel; any other as it is.

    Args:
        template: of the end.
        end: of its kind's example.
    """
    if end.dampers or not template.rises:
        return end
    centre = end.points[template.roles.wheel_centre]
    body = template.axle_body if template.axle == "beam" else template.roles.wheel_body
    low = (centre[0], centre[1] - INBOARD, centre[2])
    top = (centre[0], low[1] - LEAN, centre[2] + TALL)
    standing = dist(low, top)
    damper = Damper(
        a=PlaceIn(body="ground", point="damper_top"), b=PlaceIn(body=body, point="damper_low"),
        closed_mm=float(round(standing - STROKE)), open_mm=float(round(standing + STROKE)),
    )  # fmt: skip
    return end.model_copy(update={"damper": damper, "points": {**end.points, "damper_top": top, "damper_low": low}})
