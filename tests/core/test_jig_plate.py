"""Where everything of a jig stands, by the physical facts: bolts go through their posts, tubes lie in their vees, a torch gets at the beads."""

from __future__ import annotations

from dataclasses import replace
from itertools import combinations
from math import atan2, hypot, radians, tan

import numpy as np
import pytest
from numpy.typing import NDArray

from tests.core.test_jig_hands import ARM, held
from tirante.core.errors import InputError
from tirante.core.jigs.features import Bar, Features, Sheet
from tirante.core.jigs.plane import candidates, cost_of, through
from tirante.core.jigs.plate import PlateJig, best_plane, crowded, laid_out, narrower, spacer_along
from tirante.core.jigs.posts import Post, Sizes
from tirante.core.jigs.shrink import set_off

Array = NDArray[np.float64]
UP = np.array([0.0, 0.0, 1.0])


def arm(*, lean: float = 0.0) -> Features:
    """An arm of two tubes and a brace; the rear pivot's bore leans by so much [rad]."""
    front, rear, ball = ARM
    rear = replace(rear, axis=(float(np.cos(lean)), 0.0, float(np.sin(lean))), at=(-180.0, 300.0, 190.0))
    b = [tuple(p + 0.4 * (o - p) for p, o in zip(one.at, ball.at, strict=True)) for one in (front, rear)]
    return Features(
        held=(front, rear, ball),
        bars=(
            Bar(name="front tube", a=front.at, b=ball.at, od=32.0, a_seam=20.0, b_seam=20.0, to=("front", "ball")),
            Bar(name="rear tube", a=rear.at, b=ball.at, od=32.0, a_seam=20.0, b_seam=20.0, to=("rear", "ball")),
            Bar(name="brace", a=b[0], b=b[1], od=32.0, a_seam=16.0, b_seam=16.0),  # type: ignore[arg-type]
        ),
    )  # fmt: skip


def jig_of(features: Features, *, shrink: float = 0.0, datum: str = "", sizes: Sizes | None = None) -> PlateJig:
    sizes = sizes or Sizes()
    return laid_out(
        features, sizes, best_plane(features, sizes, datum=datum, shrink=shrink), datum=datum, shrink=shrink
    )


def back(jig: PlateJig, features: Features, at: tuple[float, float, float]) -> Array:
    """A place of the jig in the car, by the datum's own place there."""
    base = next(one for one in features.held if one.name == jig.datum)
    first = next(one for one in jig.joints if one.held.name == jig.datum)
    d = np.array(at) - np.array(first.at)
    return base.p + d[0] * jig.plane.u + d[1] * jig.plane.v + d[2] * jig.plane.n


@pytest.mark.parametrize("datum", ["", "rear", "ball"])
@pytest.mark.parametrize("lean", [0.0, 0.12, 0.6])
def test_the_jig_brought_back_to_the_car_gives_the_pivots_and_their_bores(datum: str, lean: float) -> None:
    features = arm(lean=lean)
    jig = jig_of(features, datum=datum)
    turn = np.array([jig.plane.u, jig.plane.v, jig.plane.n])
    assert np.linalg.det(turn) == pytest.approx(1.0, abs=1e-12)
    assert turn @ turn.T == pytest.approx(np.eye(3), abs=1e-12)
    for one, joint in zip(features.held, jig.joints, strict=True):
        assert back(jig, features, joint.at) == pytest.approx(one.p, abs=1e-6)
        bar = back(jig, features, joint.bar) - one.p
        assert float(np.linalg.norm(np.cross(bar, one.a))) == pytest.approx(0.0, abs=1e-6)
        assert float(np.linalg.norm(bar)) == pytest.approx(100.0)
        assert not one.directed or float(bar @ one.a) > 0  # a stud's bar is the way that it points
    assert jig.joints[[one.name for one in features.held].index(jig.datum)].at[:2] == pytest.approx(
        (0.0, 0.0), abs=1e-9
    )


def test_the_jig_of_the_mirror_image_is_the_mirror_image_of_the_jig() -> None:
    features, sizes = arm(lean=0.12), Sizes()
    n, told = best_plane(features, sizes)
    jig = laid_out(features, sizes, (n, told), shrink=0.4)
    other = laid_out(features.mirrored(), sizes, (n * [1, -1, 1], told), shrink=0.4)
    mine = jig.mirrored()
    for one, two in zip(mine.joints, other.joints, strict=True):
        assert one.at == pytest.approx(two.at, abs=1e-9)
        assert one.bar == pytest.approx(two.bar, abs=1e-9)
    for a, b in zip(mine.posts, other.posts, strict=True):
        assert (a.name[:12], a.u, a.v, a.work, a.top) == (
            b.name[:12],
            *(pytest.approx(x, abs=1e-9) for x in (b.u, b.v, b.work, b.top)),
        )
        assert np.cos(2 * a.turn) == pytest.approx(np.cos(2 * b.turn), abs=1e-9)
        assert np.sin(2 * a.turn) == pytest.approx(np.sin(2 * b.turn), abs=1e-9)
    assert (mine.low, mine.high) == (pytest.approx(other.low), pytest.approx(other.high))
    assert mine.mirrored() == jig


@pytest.mark.parametrize("lean", [0.0, 0.12, 0.6])
def test_a_straight_bolt_goes_through_both_posts_and_the_joint_between_them(lean: float) -> None:
    jig = jig_of(arm(lean=lean))
    lying = [one for one in jig.joints if not one.pinned]
    assert len(lying) == 2
    for joint in lying:
        posts = [post for post in jig.posts if post.name.startswith(f"{joint.held.name}, post")]
        holes = np.array([(post.u, post.v, post.work) for post in posts])
        at, way = np.array(joint.at), (np.array(joint.bar) - joint.at) / 100.0
        for hole in holes:
            assert float(np.linalg.norm(np.cross(hole - at, way))) == pytest.approx(0.0, abs=1e-9)
        assert (holes[0] + holes[1]) / 2 == pytest.approx(at, abs=1e-9)
        for post in posts:  # its face is square to the bolt as seen from above, metal is round the hole
            assert abs(np.cos(post.turn) * way[0] + np.sin(post.turn) * way[1]) == pytest.approx(hypot(way[0], way[1]))
            assert post.top - post.work >= 12.0 + post.bore / 2 - 1e-9
            assert post.work >= 12.0 + post.bore / 2 - 1e-9
        # between the faces of the posts there is room for the joint, leaning as it does, and its spacers fill the rest
        gap = float(np.linalg.norm(holes[0] - holes[1])) - posts[0].thick / np.cos(radians(joint.lean_deg))
        assert gap == pytest.approx(joint.held.wide + 2 * spacer_along(joint), abs=1e-9)
        assert spacer_along(joint) >= joint.held.outside / 2 * tan(radians(joint.lean_deg)) - 1e-9


def test_a_pin_stands_on_its_post_along_the_bore() -> None:
    jig = jig_of(arm())
    joint = next(one for one in jig.joints if one.pinned)
    post = next(one for one in jig.posts if one.sort == "pin")
    top = np.array([post.u, post.v, post.top])
    way = (np.array(joint.at) - top) / np.linalg.norm(np.array(joint.at) - top)
    bar = (np.array(joint.bar) - joint.at) / 100.0
    assert way == pytest.approx(bar, abs=1e-9)
    assert float(np.linalg.norm(np.array(joint.at) - top)) == pytest.approx(joint.held.wide / 2 + joint.spacer)
    assert np.degrees(np.arccos(way[2])) == pytest.approx(post.lean_deg, abs=1e-6)
    assert post.lean_deg == pytest.approx(joint.lean_deg, abs=1e-6)
    if post.lean_deg > 0.1:  # the way that its top looks down to is away from where the pin leans
        assert (np.cos(post.turn), np.sin(post.turn)) == pytest.approx(
            tuple(-way[:2] / np.linalg.norm(way[:2])), abs=1e-6
        )


@pytest.mark.parametrize(("clearance", "governs"), [(1.0, "pin"), (30.0, "part"), (80.0, "part")])
def test_the_part_lies_as_low_as_its_clearance_and_its_shortest_post_let_it(clearance: float, governs: str) -> None:
    """One of three keeps it up: the clearance under it, the least post under its pin, the metal under the lower hole of a leaning bolt."""
    jig = jig_of(arm(lean=0.12), sizes=Sizes(clearance=clearance))
    low = [min(one.a[2], one.b[2]) - one.bar.od / 2 for one in jig.bars]
    for one in jig.joints:
        way = (np.array(one.bar) - one.at) / 100.0
        rise = abs(way[2])
        low.append(one.at[2] - one.held.wide / 2 * rise - one.held.outside / 2 * np.sqrt(1 - rise**2))
    (pin,) = [post for post in jig.posts if post.sort == "pin"]
    least = 42.0 if pin.lean_deg > 1.2 else 25.0
    holes = min(post.work - post.bore / 2 - 12.0 for post in jig.posts if post.sort == "cheek")
    spare = {"part": min(low) - clearance, "pin": pin.top - least, "hole": holes}
    assert min(spare, key=lambda one: spare[one]) == governs
    assert spare[governs] == pytest.approx(0.0, abs=1e-9)


@pytest.mark.parametrize("lean", [0.0, 0.12])
def test_a_tube_touches_both_sides_of_its_vee(lean: float) -> None:
    """The vee's sides are planes along the tube as seen from above, 45° steep: the tube's middle line is its radius off each, found by search."""
    jig = jig_of(arm(lean=lean))
    for laid in jig.bars:
        rest = next(one for one in jig.posts if one.name == f"rest under {laid.bar.name}")
        a, way = np.array(laid.a), np.subtract(laid.b, laid.a)
        flat = way[:2] / np.linalg.norm(way[:2])
        assert abs(np.cos(rest.turn) * flat[0] + np.sin(rest.turn) * flat[1]) == pytest.approx(1.0)
        # the section of the tube by the rest's own plane, point for point; each must lie on or above the vee, one touching it
        unit = way / np.linalg.norm(way)
        across = np.array([-flat[1], flat[0], 0.0])
        other = np.cross(unit, across)
        over = []
        for t in np.linspace(0, 2 * np.pi, 7201):
            p = a + laid.bar.od / 2 * (np.cos(t) * across + np.sin(t) * other)
            s = ((np.array([rest.u, rest.v]) - p[:2]) @ flat) / (unit[:2] @ flat)
            q = p + s * unit
            side = float((q - np.array([rest.u, rest.v, 0.0])) @ across)
            over.append(q[2] - rest.work - abs(side))
        assert min(over) == pytest.approx(0.0, abs=2e-4)


def test_a_torch_gets_at_every_bead_or_it_is_said_where_it_does_not() -> None:
    features = arm()
    jig = jig_of(features)
    assert not jig.in_the_way
    for room in (15.0, 30.0):
        jig = jig_of(features, sizes=Sizes(room=room))
        told = " ".join(jig.in_the_way)
        for laid in jig.bars:
            for share, to in ((0, laid.bar.to[0]), (1, laid.bar.to[1])):
                ends = (np.array(laid.a), np.array(laid.b))
                way = (ends[1 - share] - ends[share]) / np.linalg.norm(ends[1 - share] - ends[share])
                seam = ends[share] + (laid.bar.a_seam, laid.bar.b_seam)[share] * way  # type: ignore[operator]
                for post in jig.posts:
                    if post.sort in ("cheek", "pin") and _apart(post, seam) < laid.bar.od / 2 + room - 1e-6:
                        assert f"bead of {laid.bar.name}" in told, (post.name, laid.bar.name, to)


def _apart(post: Post, at: Array) -> float:
    """From a post, filled with points, to a place."""
    if post.sort == "pin":
        r, t = np.meshgrid(np.linspace(0, post.wide / 2, 12), np.linspace(0, 2 * np.pi, 48))
        foot = np.array([post.u + r * np.cos(t), post.v + r * np.sin(t)]).reshape(2, -1).T
    else:
        i, j = np.meshgrid(
            np.linspace(-post.thick / 2, post.thick / 2, 9), np.linspace(-post.wide / 2, post.wide / 2, 41)
        )
        e, f = np.array([np.cos(post.turn), np.sin(post.turn)]), np.array([-np.sin(post.turn), np.cos(post.turn)])
        foot = np.array([post.u, post.v]) + i.reshape(-1, 1) * e + j.reshape(-1, 1) * f
    z = np.clip(at[2], 0.0, post.top)
    return float(np.min(np.hypot(np.linalg.norm(foot - at[:2], axis=1), at[2] - z)))


def test_a_post_moved_in_by_less_than_its_spacer_would_stand_in_a_bead() -> None:
    """Its spacers are as long as the beads ask, to a whole millimetre, and no longer."""
    joint = next(one for one in jig_of(arm()).joints if one.held.name == "front")
    # the tube's middle line leaves the bore at 81°, 20 mm out: its bead reaches half the tube to either side along the bolt
    way = np.subtract(ARM[2].at, ARM[0].at)
    along = abs(float(20.0 * (way / np.linalg.norm(way)) @ ARM[0].a))
    assert joint.spacer == np.ceil(along + 16.0 + 15.0 - 20.0)


def test_shrink_makes_every_tube_longer_by_its_beads_and_moves_nothing_else() -> None:
    features = arm()
    moved = set_off(features, 0.6)
    names = [one.name for one in features.held]
    for bar in features.bars[:2]:
        i, j = names.index(bar.to[0]), names.index(bar.to[1])
        cold = features.held[j].p - features.held[i].p
        warm = cold + moved[j] - moved[i]
        assert float(np.linalg.norm(warm)) - float(np.linalg.norm(cold)) == pytest.approx(1.2, abs=2e-3)
    assert moved.sum(axis=0) == pytest.approx(np.zeros(3), abs=1e-12)  # not moved as a whole
    turn = sum(np.cross(one.p, d) for one, d in zip(features.held, moved, strict=True))
    assert turn == pytest.approx(np.zeros(3), abs=1e-9)  # nor turned
    assert not set_off(features, 0.0).any()
    jig = jig_of(features, shrink=0.6)
    assert {(one.one, one.other): one.mm for one in jig.distances} == {
        (a.name, b.name): pytest.approx(float(np.linalg.norm(a.p - b.p))) for a, b in combinations(features.held, 2)
    }  # checked cold
    assert all(one.moved > 0.1 for one in jig.joints)


def test_the_plane_chosen_asks_no_more_of_posts_than_any_that_leaves_as_much_free() -> None:
    features, sizes = arm(), Sizes()
    n, told = best_plane(features, sizes)
    mine = laid_out(features, sizes, (n, told))
    assert not mine.in_the_way
    for other, _ in candidates(features):
        jig = laid_out(features, sizes, (other, ""))
        if len(jig.in_the_way) + len(jig.by_hand) <= len(mine.in_the_way) + len(mine.by_hand):
            assert cost_of(features, n) <= cost_of(features, other) + 1e-6


def test_a_flat_arm_with_a_bore_square_to_it_lies_on_the_same_posts_for_either_hand() -> None:
    flat = Features(held=(ARM[0], ARM[1], held("ball", (20.0, 640.0, 200.0), (0.0, 0.0, 1.0), directed=True)))
    assert jig_of(flat).both_hands
    assert not jig_of(arm()).both_hands  # its stud leans


def test_every_foot_and_hole_is_on_the_plate_with_its_margin() -> None:
    jig = jig_of(arm(), sizes=Sizes(margin=25.0))
    for post in jig.posts:
        r = post.wide / 2
        foot = (
            post.corners()
            if post.sort != "pin"
            else [(post.u + i * r, post.v + j * r) for i, j in ((1, 0), (0, 1), (-1, 0), (0, -1))]
        )
        for u, v in (*foot, *post.holes()):
            assert jig.low[0] + 25.0 - 1e-6 <= u <= jig.high[0] - 25.0 + 1e-6
            assert jig.low[1] + 25.0 - 1e-6 <= v <= jig.high[1] - 25.0 + 1e-6
        if post.sort != "pin":
            (a, b), (c, d) = post.holes()
            assert hypot(a - c, b - d) == pytest.approx(post.wide / 2)
            assert atan2(d - b, c - a) % np.pi == pytest.approx((post.turn + np.pi / 2) % np.pi, abs=1e-9)


def test_a_gusset_has_a_stop_under_its_face_where_no_bead_is_near() -> None:
    corners = ((20.0, 640.0, 190.0), (80.0, 400.0, 197.0), (-110.0, 400.0, 192.0))
    jig = jig_of(replace(arm(), sheets=(Sheet(name="gusset", corners=corners, thickness=4.0),)))
    stop = next(one for one in jig.posts if one.sort == "stop")
    middle = np.mean(corners, axis=0)
    placed = back(jig, arm(), (stop.u, stop.v, stop.top))
    normal = np.cross(np.subtract(corners[1], corners[0]), np.subtract(corners[2], corners[0]))
    off = abs(float((placed - middle) @ normal / np.linalg.norm(normal)))
    assert off == pytest.approx(2.0, abs=1e-6)  # half its thickness under its middle plane
    assert (placed - middle) @ jig.plane.n < 0


@pytest.mark.parametrize(
    ("names", "says"),
    [
        (["front", "rear"], "Name three"),
        (["front", "rear", "wheel"], "no joint “wheel”"),
        (["front", "rear", "front"], "one line"),
    ],
)
def test_a_plane_through_what_is_no_plane_is_refused_by_name(names: list[str], says: str) -> None:
    with pytest.raises(InputError, match=says) as found:
        through(arm(), names)
    assert found.value.fields == ("through",)


def test_the_plane_through_three_joints_has_them_at_one_height_and_turns_over_with_their_order() -> None:
    features = arm(lean=0.1)
    jig = laid_out(features, Sizes(), through(features, ["Front", "rear", "ball"]))
    assert len({round(one.at[2], 9) for one in jig.joints}) == 1
    other = laid_out(features, Sizes(), through(features, ["rear", "front", "ball"]))
    assert other.plane.n == pytest.approx(-jig.plane.n)


def test_one_joint_alone_and_a_datum_that_is_not_there_are_refused() -> None:
    with pytest.raises(InputError, match="at least two joints"):
        laid_out(Features(held=ARM[:1]), Sizes(), (UP, ""))
    with pytest.raises(InputError, match="no joint “wheel” to begin at"):
        laid_out(arm(), Sizes(), (UP, ""), datum="wheel")


def test_a_thick_tube_between_thin_joints_lifts_the_part_by_its_own_radius() -> None:
    """Two upright pins 10 mm long and a ⌀100 tube between them: its underside stands on the clearance, by hand."""
    ends = (
        held("a", (0.0, 0.0, 0.0), (0.0, 0.0, 1.0), wide=10.0),
        held("b", (500.0, 0.0, 0.0), (0.0, 0.0, 1.0), wide=10.0),
    )
    tube = Bar(name="tube", a=ends[0].at, b=ends[1].at, od=100.0, a_seam=None, b_seam=None, to=("a", "b"))
    jig = laid_out(Features(held=ends, bars=(tube,)), Sizes(clearance=30.0), (UP, ""))
    assert {one.at[2] for one in jig.joints} == {80.0}


def test_posts_whose_feet_lie_on_one_another_are_told_and_the_width_that_clears_them_is_tried() -> None:
    """Two bolts 45 mm apart, side by side along the plate: posts 50 mm wide lie on one another, those of 40 mm stand clear."""
    near = Features(
        held=(
            held("a", (0.0, 0.0, 0.0), (0.0, 1.0, 0.0)),
            held("b", (45.0, 0.0, 0.0), (0.0, 1.0, 0.0)),
            held("c", (300.0, 0.0, 0.0), (0.0, 1.0, 0.0)),
        )
    )
    jig = laid_out(near, Sizes(), (UP, ""))
    assert crowded(jig)
    assert any("stand on one another" in told for told in jig.in_the_way)
    assert narrower(near, Sizes(), (UP, "")) == 40.0
    assert not crowded(laid_out(near, Sizes(post_wide=40.0), (UP, "")))
    on_top = Features(held=(*near.held[:1], held("b", (5.0, 0.0, 0.0), (0.0, 1.0, 0.0)), near.held[2]))
    assert narrower(on_top, Sizes(), (UP, "")) is None


def slanted(angle_deg: float) -> Features:
    """Two bolts along one hinge line, a tube from the first that leaves it at so sharp an angle."""
    t = radians(angle_deg)
    far = (float(400 * np.cos(t)), float(400 * np.sin(t)), 0.0)
    ends = (
        held("front", (0.0, 0.0, 0.0), (1.0, 0.0, 0.0)),
        held("rear", (-300.0, 0.0, 0.0), (1.0, 0.0, 0.0)),
        held("ball", far, (0.0, 0.0, 1.0)),
    )
    tube = Bar(name="front tube", a=ends[0].at, b=far, od=32.0, a_seam=20.0, b_seam=20.0, to=("front", "ball"))
    return Features(held=ends, bars=(tube,))


@pytest.mark.parametrize(("angle", "stands"), [(25.0, True), (35.0, True), (75.0, False), (90.0, False)])
def test_a_post_that_would_stand_in_a_slanted_tube_is_told(angle: float, stands: bool) -> None:
    """By hand: the post's near face is half the joint, its spacer and so on out along the bolt; there the tube's middle is that times the
    tangent of its angle off the bolt, and lies within half the post and half the tube of it where it is slanted."""
    jig = laid_out(slanted(angle), Sizes(), (UP, ""))
    told = [one for one in jig.in_the_way if "stands in front tube" in one]
    joint = jig.joints[0]
    faces = (joint.held.wide / 2 + joint.spacer, joint.held.wide / 2 + joint.spacer + 10.0)
    t = radians(angle)
    # the post's far edge, 25 mm beside the bolt, against the tube's near side there
    by_hand = any(abs(x * np.sin(t) - 25.0 * np.cos(t)) < 15.5 or x * np.sin(t) < 15.5 for x in faces) and angle < 89
    assert bool(told) is stands
    assert by_hand is stands
    free = laid_out(slanted(90.0), Sizes(), (UP, ""))
    assert not [one for one in free.in_the_way if "stands in" in one]


def test_a_post_that_would_stand_in_the_boss_of_a_neighbour_is_told() -> None:
    near = Features(
        held=(
            held("a", (0.0, 0.0, 0.0), (0.0, 1.0, 0.0)),
            held("b", (5.0, 45.0, 0.0), (0.0, 0.0, 1.0)),
            held("c", (300.0, 0.0, 0.0), (0.0, 1.0, 0.0)),
        )
    )
    told = laid_out(near, Sizes(), (UP, "")).in_the_way
    assert any(one.startswith("A, post") and one.endswith("stands in b.") for one in told), told
    assert not any("stands in a." in one for one in told)  # a joint's own posts hold it


def test_an_end_of_a_dummy_under_a_bead_is_told_and_the_part_comes_straight_up() -> None:
    features = arm()
    jig = jig_of(features)
    assert jig.covered == ()
    assert jig.comes_out.endswith("Lift the part straight up.")
    assert all(one.name in jig.comes_out for one in features.held)
    up = (
        held("a", (0.0, 0.0, 0.0), (0.0, 0.0, 1.0), wide=10.0),
        held("b", (500.0, 0.0, 0.0), (0.0, 0.0, 1.0), wide=10.0),
    )
    fat = Bar(name="tube", a=up[0].at, b=up[1].at, od=100.0, a_seam=20.0, b_seam=None, to=("a", "b"))
    assert laid_out(Features(held=up, bars=(fat,)), Sizes(), (UP, "")).covered == ("a",)
