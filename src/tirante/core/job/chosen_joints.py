"""How far the joints of an end's links may tilt: by the rod ends and spacers that are chosen for them, not by what was once typed."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING

from tirante.core.document.end import End, EndLink, LinkBend
from tirante.core.document.shape import Shape
from tirante.core.parts.joint import Allowed
from tirante.core.parts.registry import kind_of

if TYPE_CHECKING:
    from tirante.core.job.worked import Worked

Limits = Mapping[
    str, Mapping[str, float | None]
]  # by link of the template and end of it, "a" or "b"; null: not watched

Shapes = Mapping[str, Shape]  # by link of the template, or by body

Bends = Mapping[str, LinkBend | None]  # by link of the template; null: straight


def allowed(job: Worked, end_id: str) -> dict[str, dict[str, Allowed]]:
    """Of the links of an end that are parts of the job, what the joint at either end allows.

    A rod end that is chosen sets it, with what its spacers add; one that is not chosen leaves it unwatched, whatever was typed. Where two
    parts stand for one link, of the left and the right, the lesser counts. What is no rod end keeps what was typed.

    Args:
        job: worked out.
        end_id: of the end.
    """
    found: dict[str, dict[str, Allowed]] = {}
    for part in job.design.parts:
        if part.of_end != end_id or part.stands_for is None:
            continue
        kind = kind_of(part)
        for at in kind.ends(part):
            own = kind.allows(part, at, job)
            other = found.get(part.stands_for, {}).get(at)
            if own and (other is None or _less(own, other)):
                found.setdefault(part.stands_for, {})[at] = own
    return found


def _less(one: Allowed, other: Allowed) -> bool:
    """What is not known counts as the least."""
    if other.limit_deg is None:
        return False
    return one.limit_deg is None or one.limit_deg < other.limit_deg


def limits_of(job: Worked, end_id: str) -> Limits:
    """The same as plain figures.

    Args:
        job: worked out.
        end_id: of the end.
    """
    return {link: {at: one.limit_deg for at, one in ends.items()} for link, ends in allowed(job, end_id).items()}


def bends_of(job: Worked, end_id: str) -> Bends:
    """How the parts that stand for an end's links are bent; where two stand for one, of the left and the right, the one that is bent more.

    Args:
        job: worked out.
        end_id: of the end.
    """
    found: dict[str, LinkBend | None] = {}
    for part in job.design.parts:
        if part.of_end != end_id or part.stands_for is None:
            continue
        own, other = kind_of(part).bend(part), found.get(part.stands_for)
        found[part.stands_for] = own if other is None or (own and own.offset_mm > other.offset_mm) else other
    return found


def shapes_of(job: Worked, end_id: str) -> Shapes:
    """What an end's members look like as the parts are made that stand for them; where two stand for one, the stouter.

    Args:
        job: worked out.
        end_id: of the end.
    """
    found: dict[str, Shape] = {}
    for part in job.design.parts:
        if part.of_end != end_id or part.stands_for is None:
            continue
        own, other = kind_of(part).shape(part, job), found.get(part.stands_for)
        if own is not None and (other is None or own.od_mm > other.od_mm):
            found[part.stands_for] = own
    return found


def with_shapes(end: End, shapes: Shapes) -> End:
    """An end whose members are as thick as the parts that stand for them; where there is no part, as it was typed.

    Args:
        end: as it stands in the car.
        shapes: by link of the template, or by body.
    """
    links, bodies = dict(end.links), dict(end.member_od_mm)
    for name, shape in shapes.items():
        if shape.tubes:
            bodies[name] = shape.od_mm
        else:
            links[name] = links.get(name, EndLink()).model_copy(update={"od_mm": shape.od_mm})
    if links == end.links and bodies == end.member_od_mm:
        return end
    return end.model_copy(update={"links": links, "member_od_mm": bodies})


def with_bends(end: End, bends: Bends) -> End:
    """An end whose links are bent as the parts are that stand for them.

    Args:
        end: as it stands in the car.
        bends: by link; null: it is straight.
    """
    changed = dict(end.links)
    for name, bend in bends.items():
        known = changed.get(name, EndLink())
        if known.bend != bend:
            changed[name] = known.model_copy(update={"bend": bend})
    return end if changed == end.links else end.model_copy(update={"links": changed})


def with_limits(end: End, limits: Limits) -> End:
    """An end whose links' joints allow what is chosen for them; a hinge keeps what it gives.

    Args:
        end: as it stands in the car.
        limits: by link and end of it; null: not watched.
    """
    changed = dict(end.links)
    for name, ends in limits.items():
        known = changed.get(name)
        for at, limit in ends.items():
            joint = getattr(known, at, None)
            if known is not None and joint is not None and joint.kind == "spherical" and joint.limit_deg != limit:
                known = known.model_copy(update={at: joint.model_copy(update={"limit_deg": limit})})
                changed[name] = known
    return end if changed == end.links else end.model_copy(update={"links": changed})
