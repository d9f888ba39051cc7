"""What to watch for as an end moves: one list of quantities with a limit, whatever they are."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

import numpy as np

from tirante.core.document.end import End

if TYPE_CHECKING:
    from tirante.core.suspension.cycle import Cycle
from tirante.core.suspension.limits import Array

WARN_FROM = 0.8  # of a joint's limit


OVER_CENTRE_DEG = 30.0  # between drop link and arm: nearer to one line than this they are about to snap over; common practice, no source

Family = Literal["damper", "joint", "stop", "slider", "shaft", "bar", "clearance"]


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
        *_drop_links(found), *_gaps(found),
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
        return _other_dampers(found, end)
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
    return out + _other_dampers(found, end)


def _other_dampers(found: Cycle, end: End) -> list[Watch]:
    """Of every damper but the first."""
    out = []
    for name, columns in found.limits.items():
        damper = end.other_dampers.get(plain(name))
        if damper is None or "length_mm" not in columns:
            continue
        for limit, word, sign in ((damper.closed_mm, "closed", -1.0), (damper.open_mm, "open", 1.0)):
            if limit is not None:
                out.append(
                    Watch(
                        family="damper", kind="stop", what=f"the {name} is {word}", short=f"{name} {word}",
                        at_ride=f"the {name} is past {word} at ride height", excess=sign * (columns["length_mm"] - limit),
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


def _drop_links(found: Cycle) -> list[Watch]:
    """A drop link in one line with its arm: it snaps over, and the bar works the other way."""
    out = []
    for name, columns in found.bars.items():
        off = np.abs(columns["arb_link_angle_deg"] - 90.0)
        out += [
            Watch(family="bar", kind="attention", what=f"the drop link of the {name} comes near over-centre", short=f"{name} near over-centre",
                  at_ride=f"the drop link of the {name} stands near over-centre at ride height", excess=off - (90.0 - OVER_CENTRE_DEG)),
        ]  # fmt: skip
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
