"""A kind of suspension of a job's own: begun from nothing or from one that ships, taken away as a file and read again."""

from __future__ import annotations

import re

from pydantic import ValidationError

from tirante.core.document.end import End, Wheel
from tirante.core.document.template import RESERVED, WHEEL_CENTRE, LinkJoint, Roles, Template, TemplatePoint
from tirante.core.errors import InputError
from tirante.core.problems import validation_issues

WHEEL_AT = (0.0, 720.0, 315.0)  # of a kind begun from nothing: a middling car's, to be moved
RADIUS = 315.0
OWN = "own"


def begun(axle: str) -> End:
    """An end of a kind of its own with nothing in it but a wheel on what carries it.

    Args:
        axle: independent or beam.
    """
    carrier = "axle" if axle == "beam" else "upright"
    kind = Template(
        name=OWN, title="Kind of its own", axle="beam" if axle == "beam" else "independent",
        points=(
            TemplatePoint(
                name=WHEEL_CENTRE, what="centre of the wheel, on its spin axis in the wheel plane",
                measure="hub face offset and height of the axle above the floor",
            ),
        ),
        bodies=(carrier,), joints=(), roles=Roles(wheel_body=carrier, wheel_centre=WHEEL_CENTRE), carriers=(carrier,),
    )  # fmt: skip
    return End(template=kind.name, kind=kind, points={WHEEL_CENTRE: WHEEL_AT}, wheel=Wheel(loaded_radius_mm=RADIUS))


def own(template: Template, end: End) -> End:
    """An end with its kind as its own, to be changed: its points, parts and joints stay what they are.

    Args:
        template: of the end's kind, without its additions.
        end: the end.
    """
    if end.kind is not None:
        return end
    carriers = tuple(body for body in template.bodies if template.carries(body))
    name = template.name if template.name.startswith(OWN) else f"{OWN}-{template.name}"[:80]
    joints = tuple(j.model_copy(update={"struck": j.low}) if isinstance(j, LinkJoint) else j for j in template.joints)
    change = {"name": name, "title": f"{template.title}, changed"[:80], "carriers": carriers, "joints": joints}
    kind = template.model_copy(update=change)
    return end.model_copy(update={"template": name, "kind": kind})


def kind_file(template: Template, end: End) -> str:
    """A kind as a file by itself, each point where this end has it: what another job begins from.

    Args:
        template: the end's kind, without its additions.
        end: whose points are taken.
    """
    points = tuple(p.model_copy(update={"at": end.points.get(p.name)}) for p in template.points)
    return template.model_copy(update={"points": points}).model_dump_json(indent=1, exclude_none=True) + "\n"


def read_kind(text: str) -> Template:
    """A kind from a file.

    Args:
        text: of the file, JSON.

    Raises:
        InputError: it is no such file, or does not hold together; by field of the file.
    """
    try:
        return Template.model_validate_json(text)
    except ValidationError as error:
        first = validation_issues(error)[0]
        told = f"{first['path']}: {first['message']}" if first["path"] else first["message"]
        raise InputError(
            f"This file holds no kind of suspension: {told}", code="unreadable", fields=("file",)
        ) from error


def end_of_kind(kind: Template, known: End | None = None) -> End:
    """An end of a kind read from a file, its points where the file has them.

    Args:
        kind: from the file.
        known: an example end of the same kind, for points that the file does not place.

    Raises:
        InputError: points that nothing places.
    """
    given = dict(known.points) if known else {}
    given |= {p.name: p.at for p in kind.points if p.at is not None}
    wanted = {p.name for p in kind.points} | {kind.roles.wheel_centre}
    lost = sorted(wanted - set(given))
    if lost:
        raise InputError(
            f"The file does not say where these points stand: {', '.join(lost)}. Give each an “at” of x, y and z in mm.",
            code="missing", fields=("file",),
        )  # fmt: skip
    bare = kind.model_copy(update={"points": tuple(p.model_copy(update={"at": None}) for p in kind.points)})
    if known is not None:
        return known.model_copy(update={"template": kind.name, "kind": bare, "vehicle": None, "points": given})
    return End(
        template=kind.name, kind=bare, points={name: given[name] for name in sorted(wanted)}, wheel=Wheel(loaded_radius_mm=max(50.0, given[kind.roles.wheel_centre][2]))
    )  # fmt: skip


def with_point(end: End, what: str) -> End:
    """An end of its own kind with one more point, inboard of the wheel's centre.

    Args:
        end: of its own kind.
        what: what the point is, as a person says it.
    """
    assert end.kind
    x, y, z = end.points.get(WHEEL_CENTRE, WHEEL_AT)
    name = _named_anew(what, (*(p.name for p in end.kind.points), *end.points, *end.kind.bodies), "point")
    kind = end.kind.model_copy(update={"points": (*end.kind.points, TemplatePoint(name=name, what=what))})
    return end.model_copy(update={"kind": kind, "points": {**end.points, name: (x, round(y / 2, 1), z)}})


def with_body(end: End, what: str) -> End:
    """An end of its own kind with one more body, which nothing holds yet.

    Args:
        end: of its own kind.
        what: what it is called.
    """
    assert end.kind
    name = _named_anew(what, (*end.kind.bodies, *RESERVED), "body")
    return end.model_copy(update={"kind": end.kind.model_copy(update={"bodies": (*end.kind.bodies, name)})})


def _named_anew(text: str, taken: tuple[str, ...], usual: str) -> str:
    """What a point or body is called in a file: small letters, figures and underscores, unlike the others."""
    plain = re.sub(r"[^a-z0-9]+", "_", text.lower()).strip("_")
    plain = re.sub(r"^[0-9_]+", "", plain)[:34] or usual
    name, count = plain, 2
    while name in taken:
        name, count = f"{plain}_{count}", count + 1
    return name
