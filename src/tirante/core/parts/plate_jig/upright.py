"""What a jig takes hold of on an upright, knuckle or spindle: its joints' bosses and the wheel's own axis, as the end has them at ride height.

An upright is no part of a job, so that the sizes of its bosses are typed at its jig. Not covered: its plates and tubes, of which nothing is known.
"""

from __future__ import annotations

from math import atan2, degrees

import numpy as np

from tirante.core.document.end import End
from tirante.core.document.parts.plate_jig import UprightOf
from tirante.core.document.template import Template
from tirante.core.jigs.features import Features, Held, triple
from tirante.core.parts.body import unlike_at
from tirante.core.suspension.measures import spin_axis
from tirante.core.suspension.on_body import OnBody, places_on


def stands_twice(template: Template) -> bool:
    """Whether what carries a wheel is there on either side: not where both wheels stand on one axle.

    Args:
        template: of the end.
    """
    return template.axle != "beam" or template.roles.axle_body is not None


def upright_features(of: UprightOf, template: Template, end: End) -> Features | str:
    """An upright as a jig has it, the left one.

    Args:
        of: which, and its sizes.
        template: of the end, with its additions.
        end: as it stands in the car.
    """
    if of.body not in template.bodies:
        return f"The end has no “{of.body.replace('_', ' ')}” any more. Take the jig out, or undo."
    if not stands_twice(template):
        return "An axle stands once in the car, over both its sides: a bracket bar sets its brackets out, and its hubs have stands."
    places = [place for place in places_on(template, end, of.body) if place.jointed]
    if off := unlike_at(template, end, of.body):
        return f"Left and right differ at {', '.join(off)}, and this jig is laid out for mirror images: hold such uprights by their own ordinates, as Layout has them."
    held = tuple(_held(place, of, end) for place in places)
    if len(held) < 2:
        return "Fewer than two of its joints are known: there is nothing to hold it by."
    return Features(held=held, not_held=("its plates and tubes, which are no part of this job: prop them by hand",))


def _held(place: OnBody, of: UprightOf, end: End) -> Held:
    if place.sort == "wheel":
        return Held(
            name=place.words, at=place.at, axis=spin_axis(end.wheel.camber_deg, end.wheel.toe_deg, 1.0), directed=True, bore=of.wheel_bore_mm,
            wide=of.wheel_wide_mm, outside=of.wheel_outside_mm, what="the wheel’s axis: a bar in the bearings’ seats", way="outboard",
        )  # fmt: skip
    ball = end.balls.get(place.what)
    known = place.bolt or (ball.stud_axis if ball else None)
    way = np.array(known or (0.0, 0.0, 1.0), float)
    return Held(
        name=place.words, at=place.at, axis=triple(way / np.linalg.norm(way)), directed=ball is not None and place.bolt is None, bore=of.bore_mm,
        wide=of.wide_mm, outside=of.outside_mm, what=f"boss for the {place.sort}", guessed=known is None,
    )  # fmt: skip


def kingpin_told(of: UprightOf, template: Template, end: End) -> str:
    """Kingpin inclination and caster that its ordinates carry, of one that turns on two balls; empty of others.

    Args:
        of: which.
        template: of the end.
        end: as it stands in the car.
    """
    balls = sorted(
        (place.at for place in places_on(template, end, of.body) if place.sort == "ball"), key=lambda at: at[2]
    )
    if len(balls) != 2:
        return ""
    low, top = (np.array(at) for at in balls)
    x, y, z = (float(v) for v in top - low)
    inward, back = degrees(atan2(-y, z)), degrees(atan2(-x, z))
    return f"In these ordinates the kingpin leans {abs(inward):.2f}° {'inward' if inward >= 0 else 'outward'} and {abs(back):.2f}° {'back' if back >= 0 else 'forward'} at its top, the wheel stands at {end.wheel.camber_deg:g}° camber and {end.wheel.toe_deg:g}° toe."
