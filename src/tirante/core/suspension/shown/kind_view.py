"""A kind of suspension as it is being built: three views with its points by name, one of its motions followed."""

from __future__ import annotations

from tirante.core.document.end import End
from tirante.core.document.template import Template
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers
from tirante.core.suspension.as_built import AsBuilt
from tirante.core.suspension.shown.end_view import WIDTH, views_sheet
from tirante.core.suspension.shown.posture import motion_posture


def kind_sheet(
    name: str, template: Template, end: End, built: AsBuilt, numbers: Numbers, motion: int = 0, phase: float = 0.0
) -> Drawing:
    """Three views of what is built, the points of the left side by name.

    Args:
        name: what the drawing is called.
        template: of the end, with its additions.
        end: as it stands in the car.
        built: how far it is built.
        numbers: how lengths are written.
        motion: which of its motions, of those that it has.
        phase: how far along it, −1 to 1.
    """
    followed = built.motions[min(motion, len(built.motions) - 1)] if built.motions else built.frames
    lanes, middle = followed.frames.poses.lanes, followed.ride
    lane = middle + round(phase * (lanes - 1 - middle if phase > 0 else middle))
    now, ride = (motion_posture(built.assembled, followed.frames, i) for i in (lane, middle))
    named = [(p.name.replace("_", " "), at) for p in template.points if (at := end.points.get(p.name)) is not None]
    return views_sheet(name, now, ride, None, numbers, WIDTH, named)
