"""What moves at an end, by name: links, arms, rockers, shafts, bars, the rack, and what carries the wheel."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from tirante.core.document.end import End
from tirante.core.document.template import RACK, LinkJoint, Template
from tirante.core.suspension.assemble import STEERING_ARM

Sort = Literal["link", "body", "carrier", "bought", "shaft", "rack"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Moving:
    """Something that moves. `name` is the template's, which a part that stands for it is known by."""

    name: str
    sort: Sort

    @property
    def words(self) -> str:
        """As a person says it."""
        return self.name.replace("_", " ")


def moving(template: Template, end: End) -> tuple[Moving, ...]:
    """Everything that moves at an end, but dampers, springs, stops and straps, which are bought whole.

    Args:
        template: with the additions put on.
        end: for the shafts it has.
    """
    links = [joint for joint in template.joints if isinstance(joint, LinkJoint)]
    found = [Moving(name=joint.name, sort="shaft" if joint.shaft else "link") for joint in links]
    for body in template.bodies:
        sort: Sort = "carrier" if template.carries(body) else "bought" if body in template.bought else "body"
        found.append(Moving(name=body, sort=sort))
    found += [Moving(name=name, sort="shaft") for name in end.shafts]
    if any(place.body == RACK for joint in links for place in joint.places) and not end.steering:
        found.append(Moving(name=RACK, sort="rack"))
    if end.steering:
        found.append(Moving(name=STEERING_ARM, sort="carrier"))
    return tuple(found)
