"""Forces through a suspension: against equilibrium written by hand, virtual work, and a general frame library."""

from __future__ import annotations

import json
from typing import Any

import numpy as np
import pytest
from numpy.typing import NDArray
from Pynite import FEModel3D

from tests.core.test_whole_suspension import changed, example
from tests.jobs import template_of
from tirante.calc.registry import calculate
from tirante.core.document.end import End
from tirante.core.errors import InputError
from tirante.core.mechanism.model import GROUND
from tirante.core.suspension.cycle import Solved, measured, solved_cycle, watched_measures
from tirante.core.suspension.statics import At, Case, Forces, Push, forces, forces_at
from tirante.shipped.templates import DATA

Array = NDArray[np.float64]
ENDS = sorted(path.stem for path in (DATA / "ends").glob("*.json"))
BEAMS = {"centre-pivot-beam"}
IN_BUSHES = {"trailing-arm-three-links"}
HIT = Push(at="contact_left", force=(-1500.0, -2200.0, 4100.0))


def sprung(name: str) -> End:
    """An example with a damper, one put on where it has none."""
    end = example(name)
    if end.damper or name in BEAMS:
        return end
    template = template_of(end)
    x, y, z = end.points[template.roles.wheel_centre]
    body = template.axle_body
    return changed(
        end, points={"damper_top": [x - 30, y * 0.75, z + 330], "damper_low": [x - 10, y * 0.8, z - 60]},
        damper={"a": {"body": "ground", "point": "damper_top"}, "b": {"body": body, "point": "damper_low"}},
    )  # fmt: skip


def solved(end: End, travel: float = 0.0, roll: float = 0.0, steer: float = 0.0) -> Solved:
    return solved_cycle(template_of(end), end, np.array([[travel], [roll], [steer]]))


def carried(end: End, *pushes: Push, at: tuple[float, float, float] = (0.0, 0.0, 0.0)) -> Forces:
    found = forces(solved(end, *at), 0, [Case(name="case", pushes=pushes)])[0]
    assert found.fault is None, found.fault
    return found


def supports(found: Forces) -> list[tuple[Array, Array, Array]]:
    """What the car's body puts on the suspension: point, force, moment, of links, joints and springs that end on it."""
    out = []
    for name, (a, b) in found.ends.items():
        pull = found.axial[name] * (b - a) / np.linalg.norm(b - a)  # on a's body, towards b
        for body, at, force in ((found.bodies[name][0], a, -pull), (found.bodies[name][1], b, pull)):
            if body == GROUND:
                out.append((at, force, np.zeros(3)))  # on the body's end of the link, turned round: on the link
    for joint in found.joints.values():
        if GROUND in (joint.body, joint.on):
            sign = 1.0 if joint.on == GROUND else -1.0
            out.append((joint.at, sign * joint.force, sign * joint.moment))
    return out


@pytest.mark.parametrize("name", ENDS)
@pytest.mark.parametrize("at", [(0.0, 0.0, 0.0), (25.0, 1.0, 0.0)])
def test_every_layout_stands_in_equilibrium_as_a_whole(name: str, at: tuple[float, float, float]) -> None:
    end = sprung(name)
    if name == "centre-pivot-beam" and at[0]:
        at = (0.0, 2.0, 0.0)
    found = carried(end, HIT, at=at)
    assert found.residual < 1e-9
    assert found.holds or any(abs(force) > 1 for force in found.springs.values())
    # all supports and the load: no force, no moment is left over; a spring on the body is one of the supports
    parts = supports(found) + [(p, f, np.zeros(3)) for _, p, f in found.applied]
    done = solved(end, *at)
    for side in done.sides:
        assembled = side.assembled
        for label, force in found.springs.items():
            mirrored = np.array([1.0, -1.0 if label.endswith(", right") and not assembled.beam else 1.0, 1.0])
            near = "right" if label.endswith("right") and assembled.beam else "left"
            if not assembled.beam and (label.endswith(", right")) != (side is done.right) and len(done.sides) > 1:
                continue
            a, b = (assembled.place(place, near) for place in end.springs[label.partition(",")[0]].places)
            pa, pb = (
                side.solved.system.where(side.solved.poses, m, side.solved.drives)[:, 0] * mirrored for m in (a, b)
            )
            for mark, p, other in ((a, pa, pb), (b, pb, pa)):
                if mark.body == GROUND:
                    parts.append((p, force * (other - p) / np.linalg.norm(other - p), np.zeros(3)))
    if name in BEAMS:  # leans freely: its lean is held by a moment about x, the drive's own axis
        held = found.holds["roll, held"]
        parts.append((np.zeros(3), np.zeros(3), np.array([-held, 0.0, 0.0])))
    total = np.sum([f for _, f, _ in parts], axis=0)
    turning = np.sum([np.cross(p, f) + m for p, f, m in parts], axis=0)
    assert np.abs(total).max() < 1e-6
    if name not in BEAMS or at[1] == 0:  # leaning, the hold turns about the beam's own line
        assert np.abs(turning).max() < 1e-3


@pytest.mark.parametrize("name", [n for n in ENDS if n not in BEAMS | {"radius-arms"}])
def test_a_spring_carries_a_lifted_wheel_by_its_motion_ratio(name: str) -> None:
    """Virtual work: a force straight up at the wheel's centre does F dz, the spring P dl; nothing else moves."""
    end = sprung(name)
    done = solved(end, 12.0)
    found = measured(done)
    ratios = [float(columns["motion_ratio"][0]) for columns in (found.columns, found.right)]
    one = Push(at="wheel_centre_left", force=(0.0, 0.0, 3000.0))
    pushes = [one]
    if template_of(end).axle == "beam":
        pushes.append(Push(at="wheel_centre_right", force=(0.0, 0.0, 3000.0)))
    springs = forces(done, 0, [Case(name="up", pushes=tuple(pushes))])[0].springs
    (spring,) = end.springs
    if len(pushes) == 2:  # lifted level, both springs work
        assert springs[f"{spring}, left"] * ratios[0] + springs[f"{spring}, right"] * ratios[1] == pytest.approx(
            6000.0, rel=1e-6
        )
    else:  # where a bush gives, it does a little of the work
        assert springs[spring] * ratios[0] == pytest.approx(3000.0, rel=1e-6 if name in IN_BUSHES else 1e-9)


def test_a_double_wishbone_against_equilibrium_of_its_parts_written_out() -> None:
    """Upright: six equations; each arm: no moment about its hinge. Unknown: two ball joints, tie rod, spring."""
    end = example("double-wishbone")
    p = {name: np.array(at) for name, at in end.points.items()}
    force = np.array(HIT.force)
    found = carried(end, HIT)
    contact = next(at for what, at, _ in found.applied if what == "contact_left")
    tie = (p["tie_inner"] - p["tie_outer"]) / np.linalg.norm(p["tie_inner"] - p["tie_outer"])
    spring = (p["damper_low"] - p["damper_top"]) / np.linalg.norm(p["damper_low"] - p["damper_top"])  # pushes the arm
    a, b = np.zeros((8, 8)), np.zeros(8)
    # columns: force of the upper joint on the upright (3), of the lower (3), tie rod's tension, spring's compression
    for column in range(3):
        e = np.eye(3)[column]
        for start, point in ((0, "upper_outer"), (3, "lower_outer")):
            a[0:3, start + column] = e
            a[3:6, start + column] = np.cross(p[point], e)
    a[0:3, 6], a[3:6, 6] = tie, np.cross(p["tie_outer"], tie)
    b[0:3], b[3:6] = -force, -np.cross(contact, force)
    for row, (arm, start) in enumerate((("upper", 0), ("lower", 3))):
        one, two = p[f"{arm}_front"], p[f"{arm}_rear"]
        axis = (two - one) / np.linalg.norm(two - one)
        for column in range(3):  # on the arm it is the other way round
            a[6 + row, start + column] = -axis @ np.cross(p[f"{arm}_outer"] - one, np.eye(3)[column])
        if arm == "lower":
            a[6 + row, 7] = axis @ np.cross(p["damper_low"] - one, spring)
    answer = np.linalg.solve(a, b)
    assert found.axial["tie rod"] == pytest.approx(answer[6], rel=1e-9)
    assert found.springs["spring"] == pytest.approx(answer[7], rel=1e-9)
    # the joint's force on the arm is against that on the upright
    assert found.joints["upper outer joint"].force == pytest.approx(-answer[0:3], rel=1e-8, abs=1e-6)
    assert found.joints["lower outer joint"].force == pytest.approx(-answer[3:6], rel=1e-8, abs=1e-6)
    # a hinge's two ends together are the hinge
    whole = found.pivots["lower_front"].force + found.pivots["lower_rear"].force
    assert whole == pytest.approx(found.joints["lower arm pivots"].force, abs=1e-9)


E, STIFF_AREA, STIFF_I = 205_000.0, 1e5, 1e9


def frame_forces(end: End, stiffness: float) -> tuple[dict[str, float], Forces]:
    """The same layout in a general frame library: links as bars, bodies as stiff stars, joints as pinned nodes."""
    done = solved(end)
    assembled = done.left.assembled
    model = FEModel3D()
    model.add_material("steel", E, E / 2.6, 0.3, 7.85e-6)
    model.add_section("stiff", STIFF_AREA, STIFF_I, STIFF_I, STIFF_I)
    nodes: dict[tuple[float, ...], str] = {}
    stars: dict[str, set[str]] = {}

    def node(at: tuple[float, ...], body: str) -> str:
        key = tuple(round(v, 6) for v in at)
        if key not in nodes:
            nodes[key] = f"n{len(nodes)}"
            model.add_node(nodes[key], *map(float, at))
            model.def_support(nodes[key], False, False, False, True, True, True)
        if body == GROUND:
            model.def_support(nodes[key], True, True, True, True, True, True)
        else:
            stars.setdefault(body, set()).add(nodes[key])
        return nodes[key]

    bars = {}
    for link in assembled.links:
        bars[link.name] = (node(link.a.at, link.a.body), node(link.b.at, link.b.body), link.length, stiffness)
    for joint in assembled.template.joints:
        if joint.kind == "link":
            continue
        for point in joint.points if joint.kind == "hinge" else (joint.places[0].point,):
            for body in joint.bodies_tied:
                node(assembled.role(point).at, assembled.body_on(body, "left"))
    beam = assembled.beam
    for side in ("left", "right") if beam else ("left",):
        a, b = (assembled.place(place, side) for place in end.damper.places)  # type: ignore[union-attr]
        label = f"spring, {side}" if beam else "spring"
        bars[label] = (node(a.at, a.body), node(b.at, b.body), float(np.linalg.norm(np.subtract(a.at, b.at))), 1e6)
    found = carried(end, HIT)
    contact = next(at for what, at, _ in found.applied if what == "contact_left")
    hit = node(tuple(contact), assembled.wheel_centre.body)
    for name, (a, b, length, k) in bars.items():
        model.add_section(f"s {name}", k * length / E, 1.0, 1.0, 1.0)
        model.add_member(name, a, b, "steel", f"s {name}")
        model.def_releases(name, Ryi=True, Rzi=True, Ryj=True, Rzj=True, Rxi=True)
    for body, ends in stars.items():
        middle = f"c {body}"
        at = [[model.nodes[n].X, model.nodes[n].Y, model.nodes[n].Z] for n in ends]
        place = np.mean(at, axis=0) + np.array([3.1, 2.3, 1.7])
        model.add_node(middle, *map(float, place))
        for n in ends:
            model.add_member(f"{body} {n}", middle, n, "steel", "stiff")
            model.def_releases(f"{body} {n}", Rxj=True, Ryj=True, Rzj=True)
    for direction, value in zip(("FX", "FY", "FZ"), HIT.force, strict=True):
        model.add_node_load(hit, direction, value)
    model.analyze_linear()
    # the library counts compression positive
    return {name: -float(model.members[name].max_axial()) for name in bars}, found


@pytest.mark.parametrize(
    ("name", "redundant"),
    [("double-wishbone", False), ("five-link", False), ("triangulated-four-links", False), ("three-links-panhard", False),
     ("four-links-panhard", True)],
)  # fmt: skip
def test_link_forces_agree_with_a_general_frame_library(name: str, redundant: bool) -> None:
    end = changed(sprung(name), links={})  # every link yields alike
    theirs, ours = frame_forces(end, 50_000.0)
    largest = max(abs(force) for force in theirs.values())
    within = (
        1e-3 if redundant else 2e-5
    )  # stiff stars still yield a little, which shares redundant forces a little otherwise
    for link, force in ours.axial.items():
        if link in theirs:
            assert force == pytest.approx(theirs[link], abs=within * largest), link
    for spring, force in ours.springs.items():
        if spring in theirs:
            assert -force == pytest.approx(theirs[spring], abs=within * largest), spring


def test_without_a_damper_the_wheel_is_held_upright_and_that_is_said() -> None:
    whole = example("double-wishbone")
    points = {name: at for name, at in whole.points.items() if not name.startswith("damper")}
    end = whole.model_copy(update={"points": points, "damper": None})
    found = carried(end, Push(at="wheel_centre_left", force=(0.0, 0.0, 3000.0)))
    assert found.springs == {}
    assert found.holds["travel, held"] == pytest.approx(3000.0, rel=1e-12)
    assert found.axial["tie rod"] == pytest.approx(0.0, abs=1e-9)


def test_the_right_corner_is_the_mirror_image_of_the_left() -> None:
    end = example("double-wishbone-pushrod")
    left = carried(end, HIT)
    x, y, z = HIT.force
    right = carried(end, Push(at="contact_right", force=(x, -y, z)))
    for name, force in left.axial.items():
        if not name.endswith(", right"):
            assert right.axial[f"{name}, right"] == pytest.approx(force, abs=1e-9)
    for name, joint in left.joints.items():
        if not name.endswith(", right"):
            assert right.joints[f"{name}, right"].force * [1, -1, 1] == pytest.approx(joint.force, abs=1e-9)
            assert right.joints[f"{name}, right"].moment * [-1, 1, -1] == pytest.approx(joint.moment, abs=1e-6)


def test_a_rolling_wheel_passes_nothing_on_about_its_axle() -> None:
    end = changed(example("double-wishbone"), wheel={"loaded_radius_mm": 310.0})
    rolling = carried(end, Push(at="contact_left", force=(-2000.0, 0.0, 0.0), rolling=True))
    at_centre = carried(end, Push(at="wheel_centre_left", force=(-2000.0, 0.0, 0.0)))
    braked = carried(end, Push(at="contact_left", force=(-2000.0, 0.0, 0.0)))
    for name, force in at_centre.axial.items():
        assert rolling.axial[name] == pytest.approx(force, abs=1e-8)
    assert abs(braked.axial["tie rod"] - rolling.axial["tie rod"]) > 1.0


def test_an_anti_roll_bar_carries_by_its_rate_and_the_spring_the_rest() -> None:
    plain = changed(example("double-wishbone-anti-roll-bar"), links={})
    name = next(iter(plain.additions))
    barred = changed(plain, additions={name: {**plain.additions[name].model_dump(), "rate_nm_per_deg": 40.0}})
    up = Push(at="wheel_centre_left", force=(0.0, 0.0, 3000.0))
    level = carried(barred, up)
    assert all(abs(torque) < 1e-6 for torque in level.bars.values())
    assert level.springs["spring"] == pytest.approx(carried(plain, up).springs["spring"], rel=1e-12)
    leaning = (0.0, -2.0, 0.0)  # the left wheel bumps
    without, bar = carried(plain, up, at=leaning), carried(barred, up, at=leaning)
    twist = bar.bars["anti-roll bar"]
    # virtual work of the left corner alone: F dz = P dl + T dθ, both slopes by finite difference of the cycle
    h = 1e-3
    y = float(measured(solved(barred)).columns["contact_y_mm"][0])
    z = -y * np.tan(np.radians(-2.0))
    near = [measured(solved(barred, z + d)) for d in (-h, h)]
    slope = np.radians(np.diff([float(m.bars["anti-roll bar"]["arb_arm_turn_deg"][0]) for m in near])[0]) / (2 * h)
    ratio = -np.diff([float(m.columns["damper_length_mm"][0]) for m in near])[0] / (2 * h)
    assert bar.springs["spring"] * ratio - twist * slope == pytest.approx(3000.0, rel=1e-5)
    assert abs(bar.springs["spring"] - without.springs["spring"]) > 10.0
    other = bar.bars["anti-roll bar, right"]
    assert other == pytest.approx(-twist)  # the one end's twist is the other's, the other way round


def test_what_nothing_carries_is_named_and_the_other_cases_stand() -> None:
    # a spring between two points of the car's frame holds no wheel up; what does no work on its rise is carried all the same
    place = {"body": "ground"}
    end = changed(
        example("double-wishbone"),
        damper={"a": {**place, "point": "damper_top"}, "b": {**place, "point": "damper_low"}},
    )
    cases = [
        Case(name="up", pushes=(Push(at="wheel_centre_left", force=(0.0, 0.0, 500.0)),)),
        Case(name="none", pushes=()),
    ]
    up, none = forces(solved(end), 0, cases)
    assert up.fault is not None
    assert up.fault.code == "not_carried"
    assert "upright" in up.fault.fields
    assert up.axial == {}
    assert none.fault is None
    assert none.axial["tie rod"] == pytest.approx(0.0, abs=1e-9)
    with pytest.raises(InputError, match="no place"):
        forces(solved(end), 0, [Case(name="x", pushes=(Push(at="nowhere", force=(1.0, 0.0, 0.0)),))])
    with pytest.raises(InputError, match="no body"):
        forces(solved(end), 0, [Case(name="x", pushes=(Push(on="engine", moment=(1.0, 0.0, 0.0)),))])


def payload(name: str, **more: Any) -> dict[str, Any]:
    return {**json.loads((DATA / "ends" / f"{name}.json").read_text()), **more}


def test_the_command_answers_per_case() -> None:
    cases = [{"name": "one", "forces": [{"at": "contact_left", "f_n": [0, 0, 3000]}]},
             {"name": "two", "moments": [{"on": "upright", "m_nmm": [0, 0, 1e5]}]}]  # fmt: skip
    found = calculate("loads", payload("double-wishbone", cases=cases))["cases"]
    assert [case["name"] for case in found] == ["one", "two"]
    both = calculate(
        "loads",
        payload("double-wishbone", cases=[{"name": "b", **{k: v for c in cases for k, v in c.items() if k != "name"}}]),
    )
    assert both["cases"][0]["axial_n"]["tie rod"] == pytest.approx(
        sum(c["axial_n"]["tie rod"] for c in found), rel=1e-9
    )
    with pytest.raises(InputError, match="one position"):
        calculate("loads", payload("double-wishbone", cases=cases, travel_mm=[0, 10]))


@pytest.mark.parametrize(
    "name", ["double-wishbone", "double-wishbone-pushrod", "three-links-panhard", "link-on-arm", "radius-arms"]
)
def test_all_that_acts_on_every_body_is_in_balance(name: str) -> None:
    found = carried(sprung(name), HIT, at=(15.0, 0.5, 0.0))
    assert found.on
    for body, acting in found.on.items():
        force = np.sum([one.force for one in acting], axis=0)
        moment = np.sum([np.cross(one.at, one.force) + one.moment for one in acting], axis=0)
        assert np.abs(force).max() < 1e-6, body
        assert np.abs(moment).max() < 1e-3, body


@pytest.mark.parametrize("name", ENDS)
def test_many_positions_at_once_carry_what_each_carries_alone(name: str) -> None:
    end = sprung(name)
    template = template_of(end)
    rise = 12.0 if template.rises else 0.0
    rows = np.array([[0.0, rise, -rise, 0.0, 900.0], [0.0, 0.0, 0.7, -0.7, 0.0], [0.0] * 5])
    done = solved_cycle(template, end, rows)
    cases = (Case(name="hit", pushes=(HIT,)), Case(name="nowhere", pushes=(Push(at="no such place"),)))
    together = forces_at(done, [At(lane=lane, cases=cases) for lane in (3, 0, 4, 2, 1)])
    for lane, found in zip((3, 0, 4, 2, 1), together, strict=True):
        assert isinstance(found[1], InputError)
        if done.status[lane] != 0:
            assert isinstance(found[0], InputError)
            continue
        alone = forces(solved_cycle(template, end, rows[:, [lane]]), 0, cases[:1])[0]
        one = found[0]
        assert isinstance(one, Forces)
        assert (one.fault is None) == (alone.fault is None)
        if alone.fault is None:
            assert one.axial == pytest.approx(alone.axial, abs=1e-4)
            assert one.springs == pytest.approx(alone.springs, abs=1e-4)
            for joint, force in alone.joints.items():
                assert one.joints[joint].force == pytest.approx(force.force, abs=1e-4)
                assert one.joints[joint].moment == pytest.approx(force.moment, abs=1e-2)


@pytest.mark.parametrize("name", ENDS)
def test_what_is_watched_alone_is_what_is_measured_and_the_right_is_its_own_though_taken_from_the_left(
    name: str,
) -> None:
    end = example(name)
    template = template_of(end)
    rise, steer = (20.0 if template.rises else 0.0), (6.0 if template.steered else 0.0)
    both_ways = np.array(
        [[0.0, rise, rise, 0.0, 0.0], [0.0, 1.0, -1.0, 0.5, -0.5], [0.0, steer, -steer, -steer, steer]]
    )
    watched = watched_measures(solved_cycle(template, end, both_ways))
    for i in range(5):  # one position alone has no mirror image beside it
        alone = measured(solved_cycle(template, end, both_ways[:, [i]]))
        for kind in ("links", "balls", "shafts", "bars", "clearances", "limits"):
            told, own = getattr(watched, kind), getattr(alone, kind)
            for part, columns in own.items():
                for key, column in columns.items():
                    np.testing.assert_allclose(told[part][key][i], column[0], atol=1e-7, err_msg=f"{part} {key}")
        if "damper_length_mm" in alone.columns:
            assert watched.columns["damper_length_mm"][i] == pytest.approx(alone.columns["damper_length_mm"][0])
            assert watched.right["damper_length_mm"][i] == pytest.approx(alone.right["damper_length_mm"][0])
