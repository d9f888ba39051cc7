"""What a link is for: whether it steers, or alone keeps a wheel or axle where it is, so that nothing holds it when the link is gone."""

from __future__ import annotations

from typing import Literal

from tirante.core.suspension.assemble import STEER
from tirante.core.suspension.cycle import Solved

Duty = Literal["steers", "locates", ""]
SAID = {
    "steers": "it steers: nothing else holds the wheel when it goes",
    "locates": "it alone locates a wheel or axle: nothing else does when it goes",
}
_STEERING = ("tie rod", "track rod", "drag link")  # by the trade's names, of those that no rack moves


def duty_of(ride: Solved, link: str) -> Duty:
    """A link's duty at its end.

    Args:
        ride: the end, solved at ride height.
        link: as the template calls it.
    """
    assembled = ride.left.assembled
    marks = next((one for one in assembled.links if one.template_name == link), None)
    if marks is None:
        return ""
    if STEER in (marks.a.drive, marks.b.drive) or link in _STEERING:
        return "steers"
    if link in {bar.drop_link for bar in assembled.template.bars}:
        return ""
    return "" if ride.left.solved.bind is not None else "locates"  # more holds than is needed: none does alone
