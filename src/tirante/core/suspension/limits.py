"""What limits travel beside the damper and the joints: bump stop with its pad, strap, slider ends; and what to watch for."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot
from typing import TYPE_CHECKING, Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.mechanism.model import Vector
from tirante.core.mechanism.solve import Positions
from tirante.core.suspension.assemble import SIDES, Assembled
from tirante.core.suspension.end import BumpStop, End
from tirante.core.suspension.measures import quotient
from tirante.core.suspension.template import SliderJoint

if TYPE_CHECKING:
    from tirante.core.suspension.cycle import Cycle

Array = NDArray[np.float64]
WARN_FROM = 0.8  # of a joint's limit
Family = Literal["damper", "joint", "stop", "slider", "shaft", "clearance"]


def limit_measures(assembled: Assembled, solved: Positions, rest: Positions) -> dict[str, dict[str, Array]]:
    """Of every stop, strap and slider, on either side of a beam: where it stands [mm]."""
    end = assembled.end
    found: dict[str, dict[str, Array]] = {}
    for side in SIDES if assembled.beam else ("left",):
        suffix = f", {side}" if assembled.beam else ""
        if end.bump_stop:
            found[f"bump stop{suffix}"] = _stop(assembled, solved, end.bump_stop, side)
        if end.strap:
            a, b = (
                solved.system.where(solved.poses, assembled.place(place, side), solved.drives)
                for place in (end.strap.a, end.strap.b)
            )
            found[f"strap{suffix}"] = {"slack_mm": end.strap.length_mm - np.linalg.norm(a - b, axis=0)}
    for joint in assembled.template.joints:
        if not isinstance(joint, SliderJoint):
            continue
        for side in SIDES if assembled.beam and joint.pair else ("left",):
            label = f"{joint.name}, {side}" if assembled.beam and joint.pair else joint.name
            run = _run(assembled, solved, joint, side) - _run(assembled, rest, joint, side)
            found[label] = {"slider_mm": np.broadcast_to(run, (solved.poses.lanes,)).copy()}
    return found


def _facing(direction: Vector, side: str, assembled: Assembled) -> Vector:
    x, y, z = (v / hypot(*direction) for v in direction)
    return x, -y if assembled.beam and side == "right" else y, z


def _stop(assembled: Assembled, solved: Positions, stop: BumpStop, side: str) -> dict[str, Array]:
    """The gap along the stop's own line to its pad's face, and how far from the pad's middle it strikes."""
    system, poses = solved.system, solved.poses
    tip_mark, pad_mark = assembled.place(stop.tip, side), assembled.place(stop.pad, side)
    tip, pad = (system.where(poses, mark, solved.drives) for mark in (tip_mark, pad_mark))
    line = system.direction(poses, tip_mark.body, _facing(stop.axis, side, assembled))
    face = system.direction(poses, pad_mark.body, _facing(stop.face, side, assembled))
    gap = quotient(((pad - tip) * face).sum(axis=0), (line * face).sum(axis=0))
    strike = tip + line * gap
    lanes = (solved.poses.lanes,)
    return {
        "gap_mm": np.broadcast_to(gap, lanes).copy(),
        "off_pad_mm": np.broadcast_to(np.linalg.norm(strike - pad, axis=0), lanes).copy(),
    }


def _run(assembled: Assembled, solved: Positions, joint: SliderJoint, side: str) -> Array:
    """Where a slider's point stands along its line."""
    one, two = (assembled.role(point, side) for point in joint.line)
    mark = assembled.role(joint.place.point, side)
    p, a, b = (solved.system.where(solved.poses, m, solved.drives) for m in (mark, one, two))
    d = b - a
    found: Array = ((p - a) * d).sum(axis=0) / np.linalg.norm(d, axis=0)
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class Watch:
    """A quantity with a limit: `excess` over it at every position, positive past it."""

    family: Family
    kind: Literal["stop", "attention"]
    what: str  # "the damper is closed"
    at_ride: str  # the same, when it is so at ride height already
    short: str
    excess: Array
    harder: Array | None = None  # past this a stop says it, so the attention need not


def watches(found: Cycle, end: End) -> list[Watch]:
    """Everything that may stop the end or wants attention, over the positions of a cycle."""
    every = [
        *_dampers(found, end), *_joints(found, end), *_stops(found, end), *_sliders(found, end), *_shafts(found, end),
        *_gaps(found),
    ]  # fmt: skip
    known = {watch.what: watch for watch in every}

    def said_already(watch: Watch) -> bool:
        """The right side does as the left: one of them is enough."""
        other = known.get(watch.what.replace(", right", "")) if ", right" in watch.what else None
        return other is not None and bool(np.allclose(watch.excess, other.excess, equal_nan=True))

    return [watch for watch in every if not said_already(watch)]


def _dampers(found: Cycle, end: End) -> list[Watch]:
    damper = end.damper
    if damper is None:
        return []
    sides: list[tuple[str, Array]] = []
    if "damper_length_mm" in found.columns:
        left, right = found.columns["damper_length_mm"], found.right["damper_length_mm"]
        alike = np.allclose(left, right, equal_nan=True)
        sides = [("damper", left)] if alike else [("left damper", left), ("right damper", right)]
    out = []
    for which, length in sides:
        for limit, word, sign in ((damper.closed_mm, "closed", -1.0), (damper.open_mm, "open", 1.0)):
            if limit is not None:
                out.append(
                    Watch(
                        family="damper", kind="stop", what=f"the {which} is {word}", short=f"{which} {word}",
                        at_ride=f"the {which} is past {word} at ride height", excess=sign * (length - limit),
                    )
                )  # fmt: skip
    return out


def _joints(found: Cycle, end: End) -> list[Watch]:
    out = []
    for name, columns in found.links.items():
        known = end.links.get(plain(name))
        if known is None:
            continue
        for which, side in (("a", "inner"), ("b", "outer")):
            joint = getattr(known, which)
            angle = columns.get(f"misalignment_{which}_deg", columns.get(f"tilt_{which}_deg"))
            if joint is not None and joint.limit_deg is not None and angle is not None:
                out += _joint(f"{name}’s {side} joint", angle, joint.limit_deg, joint.kind == "hinged")
    for name, columns in found.balls.items():
        ball = end.balls.get(plain(name))
        if ball is not None and ball.limit_deg is not None:
            called = name if plain(name).endswith(("joint", "bush")) else f"{name} joint"
            out += _joint(called, columns["misalignment_deg"], ball.limit_deg, False)
    return out


def plain(name: str) -> str:
    """A part's name without the side that stands behind it."""
    for side in (", left", ", right"):
        name = name.removesuffix(side)
    return name


def _joint(joint: str, angle: Array, limit: float, hinged: bool) -> list[Watch]:
    """The stop at a joint's limit, and the warning before it."""
    kinds: tuple[tuple[float, Literal["stop", "attention"], str], ...] = (
        (1.0, "stop", "its limit"), (WARN_FROM, "attention", f"{100 * WARN_FROM:.0f} % of its limit"),
    )  # fmt: skip
    if hinged:
        joint = joint.replace("joint", "hinge")
    out = []
    for share, kind, words in kinds:
        excess = angle - share * limit
        verb = "is bent to" if hinged else "reaches"
        out.append(
            Watch(
                family="joint", kind=kind, what=f"the {joint} {verb} {words}, {limit:g}°", excess=excess,
                at_ride=f"the {joint} is past {words} at ride height, {limit:g}°",
                short=f"{joint.replace('’s', '')} {share * limit:.0f}°", harder=angle - limit if kind == "attention" else None,
            )
        )  # fmt: skip
    return out


def _stops(found: Cycle, end: End) -> list[Watch]:
    out = []
    for name, columns in found.limits.items():
        if "gap_mm" in columns and end.bump_stop:
            gap, off = columns["gap_mm"], columns["off_pad_mm"]
            crush, pad = end.bump_stop.crush_mm, end.bump_stop.pad_radius_mm
            out += [
                Watch(family="stop", kind="attention", what=f"the {name} touches", short=f"{name} touches",
                      at_ride=f"the {name} touches at ride height", excess=-gap),
                Watch(family="stop", kind="stop", what=f"the {name} is solid", short=f"{name} solid",
                      at_ride=f"the {name} is solid at ride height", excess=-gap - crush),
                Watch(family="stop", kind="attention", what=f"the {name} strikes beside its pad", short=f"{name} off pad",
                      at_ride=f"the {name} strikes beside its pad at ride height", excess=np.minimum(-gap, off - pad)),
            ]  # fmt: skip
        if "slack_mm" in columns:
            out.append(
                Watch(family="stop", kind="stop", what=f"the {name} is taut", short=f"{name} taut",
                      at_ride=f"the {name} is too short at ride height", excess=-columns["slack_mm"])
            )  # fmt: skip
    return out


def _sliders(found: Cycle, end: End) -> list[Watch]:
    out = []
    for name, columns in found.limits.items():
        ends = end.sliders.get(plain(name))
        if "slider_mm" not in columns or ends is None:
            continue
        for word, excess in (
            ("runs out of its guide", columns["slider_mm"] - ends.along_mm),
            ("bottoms", -columns["slider_mm"] - ends.back_mm),
        ):
            out.append(
                Watch(family="slider", kind="stop", what=f"the {name} {word}", short=f"{name} {word.split()[0]}",
                      at_ride=f"the {name} {word} at ride height", excess=excess)
            )  # fmt: skip
    return out


def _shafts(found: Cycle, end: End) -> list[Watch]:
    out = []
    for name, columns in found.shafts.items():
        shaft = end.shafts.get(plain(name))
        if shaft is None:
            continue
        plunge, angle = columns["shaft_plunge_mm"], columns["shaft_angle_deg"]
        for limit, word, excess in (
            (shaft.plunge_in_mm, "bottoms in its joint", -plunge - (shaft.plunge_in_mm or 0.0)),
            (shaft.plunge_out_mm, "pulls out of its joint", plunge - (shaft.plunge_out_mm or 0.0)),
            (shaft.angle_limit_deg, "reaches its joint’s angle", angle - (shaft.angle_limit_deg or 0.0)),
        ):
            if limit is not None:
                out.append(
                    Watch(family="shaft", kind="stop", what=f"the {name} {word}", short=f"{name} {word.split()[0]}",
                          at_ride=f"the {name} {word} at ride height", excess=excess)
                )  # fmt: skip
    return out


def _gaps(found: Cycle) -> list[Watch]:
    out = []
    for name, columns in found.clearances.items():
        gap, wanted = columns["clearance_mm"], columns["wanted_mm"]
        one, _, two = name.partition(" to ")
        hits = f"the {one} hits {two}" if two else f"the {one} is hit"
        near = (
            f"the {one} comes within {wanted.max():g} mm of {two}"
            if two
            else f"the {one} has less than {wanted.max():g} mm"
        )
        out += [
            Watch(family="clearance", kind="stop", what=hits, at_ride=f"{hits} at ride height", short=f"{one} hits", excess=-gap),
            Watch(family="clearance", kind="attention", what=near, at_ride=f"{near} at ride height", short=f"{one} near",
                  excess=wanted - gap, harder=-gap),
        ]  # fmt: skip
    return out
