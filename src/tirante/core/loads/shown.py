"""Forces ready to show: the drawing of a case, the worst case of every part, and the pick-up points' loads as CSV."""

from __future__ import annotations

import csv
import io
from dataclasses import dataclass
from typing import Any

import numpy as np

from tirante.core.cells import safe_cell
from tirante.core.document.end import End
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers
from tirante.core.loads.end_loads import Carried, EndLoads
from tirante.core.loads.view import LinkForce, PointForce, load_sheet
from tirante.core.mechanism.model import GROUND
from tirante.core.suspension.cycle import resolved
from tirante.core.suspension.held import Array
from tirante.core.suspension.shown.posture import postures_of
from tirante.core.suspension.statics import Forces


@dataclass(frozen=True, slots=True, kw_only=True)
class Worst:
    """The hardest a part is pulled and pushed (a joint: loaded), and by which case [N]."""

    part: str
    pull: float
    pull_case: str
    push: float
    push_case: str


SAME = 1e-9  # of a force: left and right of a car are alike to this


def worst_of_parts(found: EndLoads) -> tuple[list[Worst], list[Worst]]:
    """Of every link, spring and stop; and of every joint, its largest force as `pull`."""
    links: dict[str, list[tuple[float, str]]] = {}
    joints: dict[str, list[tuple[float, str]]] = {}
    for one in found.cases:
        if one.forces is None or one.fault:
            continue
        for name, force in (
            one.forces.axial | one.forces.straps | {k: -v for k, v in (one.forces.springs | one.forces.stops).items()}
        ).items():
            links.setdefault(name, []).append((force + one.forces.bind.get(name, 0.0), one.name))
        for name, joint in one.forces.joints.items():
            joints.setdefault(name, []).append((float(np.linalg.norm(joint.force)), one.name))
    rows = []
    for name, forces in links.items():
        pull, push = _most(forces, 1.0), _most(forces, -1.0)
        rows.append(
            Worst(part=name, pull=max(pull[0], 0.0), pull_case=pull[1] if pull[0] > 0 else "", push=min(push[0], 0.0),
                  push_case=push[1] if push[0] < 0 else "")
        )  # fmt: skip
    rows.sort(key=lambda row: -max(row.pull, -row.push))
    most = []
    for name, forces in joints.items():
        force, case = _most(forces, 1.0)
        most.append(Worst(part=name, pull=force, pull_case=case, push=0.0, push_case=""))
    most.sort(key=lambda row: -row.pull)
    return rows, most


def _most(forces: list[tuple[float, str]], way: float) -> tuple[float, str]:
    """The largest (or least) and its case; of cases that are alike but for rounding the first."""
    top = max(way * force for force, _ in forces)
    return next(one for one in forces if way * one[0] >= top - SAME * abs(top))


def draw_case(name: str, found: EndLoads, case: Carried, numbers: Numbers) -> Drawing | None:
    """Three views with the forces of a case; None where it was not carried.

    Args:
        name: what the drawing is called, for those who pick in it.
        found: all cases of the end.
        case: which of them.
        numbers: how lengths are written.
    """
    if found.solved is None or case.forces is None or case.fault:
        return None
    rows = np.array([case.position, (0.0, 0.0, 0.0)]).T
    now, ride = postures_of(resolved(found.solved, rows))
    if now is None or ride is None:
        return None
    forces = case.forces
    links = tuple(
        LinkForce(name=link, a=_point(a), b=_point(b), force=forces.axial[link]) for link, (a, b) in forces.ends.items()
    )
    points = [
        PointForce(at=_point(at), force=_point(force), what=what, applied=True) for what, at, force in forces.applied
    ]
    points += [
        PointForce(at=_point(at), force=_point(force), what=what, applied=False) for what, at, force in on_frame(forces)
    ]
    points += [
        PointForce(at=_point(joint.at), force=_point(-joint.force), what=what, applied=False)  # as its second body feels it
        for what, joint in forces.joints.items() if GROUND not in (joint.body, joint.on)
    ]  # fmt: skip
    return load_sheet(f"{name}: {case.name}", now, ride, links, tuple(points), numbers)


def _point(v: Array) -> tuple[float, float, float]:
    x, y, z = v
    return float(x), float(y), float(z)


def on_frame(forces: Forces) -> list[tuple[str, Array, Array]]:
    """What every pick-up point puts on the car's frame: name, where [mm], force [N]; springs and stops are not among them."""
    out = []
    for name, (a, b) in forces.ends.items():
        along = (b - a) / np.linalg.norm(b - a)
        one, two = forces.bodies[name]
        at_a, at_b = forces.across.get(name, (0.0, 0.0))
        if one == GROUND:
            out.append((name, a, forces.axial[name] * along + at_a))
        if two == GROUND:
            out.append((name, b, -forces.axial[name] * along + at_b))
    for name, joint in forces.pivots.items():
        if GROUND in (joint.body, joint.on):
            out.append((name, joint.at, -joint.force if joint.on == GROUND else joint.force))
    return out


def pickups_csv(found: dict[str, EndLoads]) -> str:
    """Loads of the pick-up points on the car's frame, a row a point and case: for whoever analyses the frame."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(
        ["end", "case", "travel_mm", "roll_deg", "steer", "point", "x_mm", "y_mm", "z_mm", "fx_n", "fy_n", "fz_n"]
    )
    for end, loads in found.items():
        for one in loads.cases:
            if one.forces is None or one.fault:
                continue
            struts = [(name, *place) for name, place in _struts_on_frame(loads, one).items()]
            for name, at, force in (*on_frame(one.forces), *struts):
                writer.writerow(
                    [
                        safe_cell(end),
                        safe_cell(one.name),
                        *(f"{v:.6g}" for v in one.position),
                        safe_cell(name),
                        *(f"{round(float(v), 3) + 0.0:.3f}" for v in (*at, *force)),  # never −0.000
                    ]
                )
    return out.getvalue()


def _struts_on_frame(loads: EndLoads, one: Carried) -> dict[str, tuple[Array, Array]]:
    """Where springs, stops and straps stand on the frame, and their push on it."""
    solved = loads.solved
    if solved is None or one.forces is None:
        return {}
    moved = resolved(solved, np.array(one.position).reshape(3, 1))
    end, beam = solved.end, moved.left.assembled.beam
    places = {
        **{name: spring.places for name, spring in end.springs.items()},
        "bump stop": (end.bump_stop.tip, end.bump_stop.pad) if end.bump_stop else None,
        "strap": (end.strap.a, end.strap.b) if end.strap else None,
    }
    out = {}
    pushes = one.forces.springs | one.forces.stops | {name: -pull for name, pull in one.forces.straps.items()}
    for label, push in pushes.items():
        two = places[label.removesuffix(", left").removesuffix(", right")]
        if two is None:
            continue
        right = label.endswith(", right")
        side = moved.left if beam or not right else moved.right or moved.left
        near = "right" if beam and right else "left"
        flip = np.array([1.0, -1.0 if right and not beam else 1.0, 1.0])
        a, b = (side.assembled.place(place, near) for place in two)
        pa, pb = (side.solved.system.where(side.solved.poses, m, side.solved.drives)[:, 0] * flip for m in (a, b))
        acting = [act for acts in one.forces.on.values() for act in acts if act.what == label]
        for mark, here, there in ((a, pa, pb), (b, pb, pa)):
            if mark.body != GROUND or (
                mark is b and end.bump_stop and end.bump_stop.pad_link and label.startswith("bump")
            ):
                continue
            if label.startswith("bump stop"):  # along its own line, which does not go through the pad's middle
                out[label] = (here, -acting[0].force)
            else:
                out[label] = (here, push * (here - there) / np.linalg.norm(here - there))
    return out


def as_calc_input(end: End, one: Carried) -> dict[str, Any] | None:
    """The input of `calc loads` that repeats a case, with the stops and straps that are met and what the springs carry by themselves."""
    if one.forces is None or one.fault:
        return None
    travel, roll, steer = one.position
    forces, moments = [], []
    for push in one.pushes:
        if push.at is None:
            moments.append({"on": push.on, "m_nmm": list(push.moment)})
            continue
        placed: dict[str, Any] = {"at": push.at, "f_n": list(push.force)}
        if push.on:
            placed["on"] = push.on
        forces.append(placed)
        if push.rolling:  # a rolling wheel's missing moment, said as one
            side = "right" if push.at.endswith("_right") else "left"
            acting = next(a for acts in one.forces.on.values() for a in acts if a.what == push.at)
            moments.append({"on": f"wheel_{side}", "m_nmm": acting.moment.tolist()})
    left_out = None if end.other_dampers else {"other_dampers"}
    return {
        **end.model_dump(mode="json", exclude_none=True, exclude=left_out), "travel_mm": travel, "roll_deg": roll,
        ("steer_deg" if end.steering else "steer_mm"): steer, **({"met": dict(one.met)} if one.met else {}),
        **({"spring_n": dict(one.springs)} if one.springs else {}), "cases": [{"name": one.name[:80], "forces": forces, "moments": moments}],
    }  # fmt: skip
