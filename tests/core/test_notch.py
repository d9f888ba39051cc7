"""Notches against marching along the wall until the surface is met, against closed forms, and turned and mirrored in space."""

from math import cos, degrees, hypot, pi, radians, sin, sqrt

import numpy as np
import pytest
from scipy.optimize import brentq
from scipy.spatial.transform import Rotation

from tirante.core.errors import InputError, NotApplicable
from tirante.core.notch.hole_saw import MOST, nearest_saw, saw_cut, told
from tirante.core.notch.meeting import Block, Branch, Fitted, Round, arc_of, fit, on_one, weld_angle_range

CASES = [
    (32.0, 3.0, 50.0, 60.0, 5.0),
    (38.1, 3.05, 38.1, 90.0, 0.0),
    (25.4, 2.1, 60.0, 31.0, -14.0),
    (20.0, 2.0, 100.0, 75.0, 39.9),
]


def closed_form(radius: float, main_radius: float, angle: float, offset: float, phi: float) -> float:
    """docs/methods.md, *Notches*: phi 0 on the obtuse side, a quarter turn along the common normal, away from the main tube's axis."""
    return (sqrt(main_radius**2 - (offset + radius * sin(phi)) ** 2) - radius * cos(phi) * cos(angle)) / sin(angle)


def marched(found: Fitted, phi: float, radius: float) -> float:
    """Where a line of the wall comes out of the last surface: far out, then inward until some surface is reached, and the root there."""
    b = np.array(found.branch.along) / np.linalg.norm(found.branch.along)
    u = np.array(found.branch.aside) - (np.array(found.branch.aside) @ b) * b
    u /= np.linalg.norm(u)
    start = np.array(found.branch.foot) + radius * (cos(phi) * u + sin(phi) * np.cross(b, u))

    def clear(s: float) -> float:
        place = start + s * b
        away = []
        for one in found.rounds:
            if isinstance(one, Block):
                m = np.array(one.along) / np.linalg.norm(one.along)
                top = np.array(one.up) - (np.array(one.up) @ m) * m
                top /= np.linalg.norm(top)
                gap = place - np.array(one.at)
                away.append(
                    max(abs(float(gap @ top)) - one.height / 2, abs(float(gap @ np.cross(m, top))) - one.width / 2)
                )
                continue
            m = np.array(one.along) / np.linalg.norm(one.along)
            gap = place - np.array(one.at)
            side = float(np.linalg.norm(np.cross(gap, m))) - one.radius
            away.append(max(side, -float(gap @ m)) if one.begins else side)
        return min(away)

    far = 400.0
    while (free := clear(far)) > 0:
        far -= max(0.5, free - 0.5)  # nothing is nearer than that, and the last step is a short one
    return float(brentq(clear, far, far + 0.5, xtol=1e-12))


@pytest.mark.parametrize("case", CASES)
def test_the_wall_begins_where_marching_along_it_meets_the_surface(case: tuple[float, ...]) -> None:
    od, wall, _, _, _ = case
    found = on_one(*case)
    for i in range(24):
        phi = 2 * pi * i / 24 + 0.01
        for radius in (od / 2, od / 2 - wall):
            assert float(found.at(np.array([phi]), radius)[0]) == pytest.approx(marched(found, phi, radius), abs=1e-6)


@pytest.mark.parametrize("case", CASES)
def test_it_is_the_closed_form_with_phi_counted_as_it_counts(case: tuple[float, ...]) -> None:
    od, _, main, angle, offset = case
    phi = np.linspace(0, 2 * pi, 37)
    want = [closed_form(od / 2, main / 2, radians(angle), offset, float(one)) for one in phi]
    assert on_one(*case).at(phi, od / 2) == pytest.approx(want, abs=1e-9)


def test_equal_tubes_at_a_right_angle_meet_as_deep_as_half_a_tube() -> None:
    found = on_one(40.0, 3.0, 40.0, 90.0, 0.0)
    assert (found.long, found.short, found.depth) == pytest.approx((0.0, 20.0, 20.0), abs=1e-9)
    other = on_one(30.0, 3.0, 40.0, 90.0, 0.0)
    assert other.depth == pytest.approx(20 - sqrt(400 - 225), abs=1e-9)


def test_the_longest_and_the_shortest_points_are_found_between_the_steps() -> None:
    found = on_one(25.4, 2.1, 60.0, 31.0, -14.0)
    fine = found.at(np.linspace(0, 2 * pi, 400_001), 12.7)
    assert found.long == pytest.approx(fine.min(), abs=1e-7)
    assert found.short == pytest.approx(fine.max(), abs=1e-7)


def test_a_joint_turned_and_moved_in_space_is_the_same_notch_and_its_mirror_image_runs_the_other_way_round() -> None:
    plain = on_one(32.0, 3.0, 50.0, 60.0, 5.0)
    turn = Rotation.from_rotvec([0.3, -1.1, 0.7]).as_matrix()
    flip = np.diag([1.0, -1.0, 1.0])

    def moved(by: np.ndarray) -> Fitted:
        def put(of: tuple[float, float, float], shift: float = 0.0) -> tuple[float, float, float]:
            x, y, z = by @ np.array(of) + shift
            return float(x), float(y), float(z)

        one = plain.rounds[0]
        branch = Branch(
            foot=put(plain.branch.foot, 117.0),
            along=put(plain.branch.along),
            aside=put(plain.branch.aside),
            od=32.0,
            wall=3.0,
        )
        return fit(branch, [Round(name="main", at=put(one.at, 117.0), along=put(one.along), radius=25.0)])

    phi = np.linspace(0, 2 * pi, 25)
    assert moved(turn).at(phi, 16.0) == pytest.approx(plain.at(phi, 16.0), abs=1e-9)
    assert moved(flip).at(-phi, 16.0) == pytest.approx(plain.at(phi, 16.0), abs=1e-9)
    assert (
        np.abs(moved(flip).at(phi, 16.0) - plain.at(phi, 16.0)).max() > 1.0
    )  # an offset joint is no mirror image of itself


def test_a_tube_that_meets_two_is_clear_of_both_and_touches_one_of_them_all_round() -> None:
    cup = Round(name="cup", at=(0.0, 0.0, 0.0), along=(0.0, 0.0, 1.0), radius=30.0)
    first = Round(name="first tube", at=(0.0, 0.0, 0.0), along=(1.0, 0.55, 0.0), radius=16.0)
    branch = Branch(foot=(0.0, 0.0, 0.0), along=(1.0, -0.1, 0.0), aside=(0.0, 0.0, 1.0), od=32.0, wall=2.5)
    both, alone = fit(branch, [cup, first]), fit(branch, [cup])
    phi = np.linspace(0, 2 * pi, 73)
    at = both.at(phi, 16.0)
    assert at == pytest.approx([marched(both, float(one), 16.0) for one in phi], abs=1e-6)
    assert (at >= alone.at(phi, 16.0) - 1e-9).all()
    assert at.max() > alone.at(phi, 16.0).max() + 5.0
    # the other way round the first tube is not cut: it stood there before
    assert fit(branch, [cup]).at(phi, 16.0).max() < 36.0


@pytest.mark.parametrize("angle", [20.0, 70.0, 95.0, 140.0, 172.0])
def test_a_tube_that_ends_there_takes_nothing_off_one_that_leaves_the_other_way(angle: float) -> None:
    """Nearly in line beyond the cup, a tube without an end would split the next one open far out."""
    a = radians(angle)
    cup = Round(name="cup", at=(0.0, 0.0, 0.0), along=(0.0, 0.0, 1.0), radius=26.0)
    first = Round(name="first tube", at=(0.0, 0.0, 0.0), along=(1.0, 0.0, 0.0), radius=16.0, begins=True)
    branch = Branch(foot=(0.0, 0.0, 0.0), along=(cos(a), sin(a), 0.02), aside=(0.0, 0.0, 1.0), od=32.0, wall=2.5)
    both, alone = fit(branch, [cup, first]), fit(branch, [cup])
    phi = np.linspace(0.01, 2 * pi, 73)
    at = both.at(phi, 16.0)
    assert at == pytest.approx([marched(both, float(one), 16.0) for one in phi], abs=1e-6)
    if angle > 90:
        assert at == pytest.approx(alone.at(phi, 16.0))
    elif angle < 60:
        assert at.max() > alone.at(phi, 16.0).max() + 5.0


def test_a_square_cut_leaves_no_gap_at_one_line_and_sits_undressed_at_the_other_through_the_whole_wall() -> None:
    found = on_one(32.0, 4.0, 50.0, 50.0, 3.0)
    phi = np.linspace(0, 2 * pi, 49)
    tight, free = found.at_square(phi)
    every = np.stack([found.at(phi, 12.0 + 4.0 * i / 400) for i in range(401)])
    assert tight == pytest.approx(every.min(axis=0), abs=1e-9)  # least at an edge: the surface is round outward
    assert free == pytest.approx(every.max(axis=0), abs=0.02)
    assert (free - tight).max() > 2.0


@pytest.mark.parametrize(
    ("case", "code"),
    [
        ((40.1, 3.0, 40.0, 90.0, 0.0), "wider"),
        ((30.0, 3.0, 40.0, 90.0, 5.1), "hangs_over"),
        ((30.0, 3.0, 40.0, 14.0, 0.0), "along"),
    ],
)
def test_what_cannot_stand_there_is_refused_with_its_cure(case: tuple[float, ...], code: str) -> None:
    with pytest.raises(NotApplicable) as caught:
        on_one(*case)
    assert caught.value.code == code
    assert caught.value.limits is not None
    with pytest.raises(InputError, match="wall") as walled:
        on_one(30.0, 15.0, 40.0, 90.0, 0.0)
    assert walled.value.fields == ("branch_wall_mm",)


def test_just_within_the_side_it_stands() -> None:
    assert on_one(30.0, 3.0, 40.0, 90.0, 5.0).depth > 0


def test_a_saw_as_wide_as_the_main_tube_leaves_no_gap_and_another_leaves_what_two_circles_leave() -> None:
    found = on_one(30.0, 3.0, 50.0, 90.0, 0.0)
    assert saw_cut(found, 50.0).gap == pytest.approx(0.0, abs=1e-9)
    wide = saw_cut(found, 60.0)  # touches in the middle and stands off at the sides
    assert wide.gap == pytest.approx(hypot(15.0, sqrt(30.0**2 - 15.0**2) - 30.0 + 25.0) - 25.0, abs=1e-9)
    assert degrees(wide.gap_at) % 180 == pytest.approx(90.0)
    narrow = saw_cut(found, 40.0)  # touches at the sides and stands off in the middle
    lift = sqrt(25.0**2 - 15.0**2) - sqrt(20.0**2 - 15.0**2)
    assert narrow.gap == pytest.approx(20.0 + lift - 25.0, abs=1e-9)
    assert degrees(narrow.gap_at) % 180 == pytest.approx(0.0)
    with pytest.raises(NotApplicable, match="narrower"):
        saw_cut(found, 29.0)


def test_of_the_shop_s_saws_that_with_the_least_gap_is_taken_and_said_how_it_is_welded() -> None:
    found = on_one(38.1, 3.0, 50.8, 63.0, 0.0)
    best = nearest_saw(found, (44.0, 51.0, 60.0, 70.0))
    assert best
    assert best.saw == 51.0
    assert degrees(best.off_square) == pytest.approx(27.0)
    assert "27.0° off square" in told(best)
    assert "larger by it" in told(saw_cut(found, 44.0))
    far = saw_cut(on_one(38.1, 3.0, 38.1, 90.0, 0.0), 200.0)
    assert far.gap > MOST
    assert "wrap template" in told(far)
    assert nearest_saw(found, (20.0, 30.0)) is None


def test_faces_meet_at_the_angle_between_their_tangents() -> None:
    """Equal tubes square to each other: a right angle at the crotch, the wall running on smoothly at the sides."""
    low, high = weld_angle_range(on_one(40.0, 3.0, 40.0, 90.0, 0.0))
    assert degrees(low) == pytest.approx(90.0)
    assert degrees(high) == pytest.approx(180.0)
    low, high = weld_angle_range(
        on_one(10.0, 1.0, 400.0, 60.0, 0.0)
    )  # nearly a flat: the angle of lean, and its supplement
    assert degrees(low) == pytest.approx(60.0, abs=0.1)
    assert degrees(high) == pytest.approx(120.0, abs=0.1)


def test_paper_is_as_long_as_its_middle_is_round() -> None:
    assert arc_of(40.0, 360.0) == pytest.approx(40 * pi)
    assert arc_of(40.0, 360.0, 0.1) == pytest.approx(40.1 * pi)


BOX = Block(name="box", at=(4.0, -3.0, 2.0), along=(0.1, 1.0, 0.05), up=(0.3, 0.0, 1.0), height=110.0, width=70.0)


@pytest.mark.parametrize("along", [(1.0, 0.2, 0.1), (0.2, 0.3, 1.0), (1.0, -0.1, 1.4), (-1.0, 0.6, 0.3)])
def test_a_tube_on_a_box_begins_where_marching_meets_it(along: tuple[float, float, float]) -> None:
    """On its faces and over its corner, outside and inside of the wall; another tube that stands there takes more off it."""
    branch = Branch(foot=(4.0, -3.0, 2.0), along=along, aside=(0.0, 1.0, 0.3), od=50.0, wall=3.0)
    other = Round(name="tube", at=(4.0, -3.0, 2.0), along=(0.9, 0.1, 0.5), radius=20.0, begins=True)
    for rounds in ((BOX,), (BOX, other)):
        found = fit(branch, rounds) if len(rounds) == 1 else Fitted(branch, rounds)
        for radius in (25.0, 22.0):
            for phi in np.linspace(0.0, 2 * pi, 23):
                assert float(found.at(np.array([phi]), radius)[0]) == pytest.approx(
                    marched(found, float(phi), radius), abs=1e-6
                )


def test_on_one_face_of_a_box_the_cut_is_a_plain_mitre() -> None:
    """By closed form: as deep as the tube is wide over the tangent of its angle to the face, and told as the saw is set."""
    box = Block(name="box", at=(0.0, 0.0, 0.0), along=(0.0, 1.0, 0.0), up=(0.0, 0.0, 1.0), height=100.0, width=80.0)
    for tilt in (0.0, 12.0, 30.0):
        way = (cos(radians(tilt)), sin(radians(tilt)), 0.0)
        found = fit(Branch(foot=(0.0, 0.0, 0.0), along=way, aside=(0.0, 0.0, 1.0), od=40.0, wall=3.0), [box])
        assert found.one_face
        assert degrees(found.angle_to(box)) == pytest.approx(90.0 - tilt)
        assert found.depth == pytest.approx(40.0 * abs(sin(radians(tilt)) / cos(radians(tilt))), abs=1e-6)
        assert found.long == pytest.approx(40.0 / cos(radians(tilt)) - found.depth / 2, abs=1e-6)
        assert nearest_saw(found) is None  # no hole saw cuts it
    # over a corner it is no plain cut
    over = fit(Branch(foot=(0.0, 0.0, 0.0), along=(1.0, 0.0, 1.1), aside=(0.0, 1.0, 0.0), od=40.0, wall=3.0), [box])
    assert not over.one_face
    assert len(over.corners()) == 2


def test_a_tube_that_hangs_over_a_box_or_runs_along_it_is_refused() -> None:
    box = Block(name="box", at=(0.0, 0.0, 0.0), along=(0.0, 1.0, 0.0), up=(0.0, 0.0, 1.0), height=60.0, width=80.0)
    for foot, way, code in (
        ((0.0, 0.0, 15.0), (1.0, 0.0, 0.0), "hangs_over"),
        ((0.0, 0.0, 0.0), (0.05, 1.0, 0.0), "along"),
        ((0.0, 0.0, 0.0), (0.0, 1.0, 0.0), "along"),
    ):
        with pytest.raises(NotApplicable) as caught:
            fit(Branch(foot=foot, along=way, aside=(1.0, 0.0, 1.0), od=40.0, wall=3.0), [box])
        assert caught.value.code == code
