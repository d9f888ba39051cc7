"""Which dimension of a car is off: errors put into the mechanism, against geometry by itself, and cars with a known error."""

from __future__ import annotations

import json
from collections import Counter
from math import atan2, cos, degrees, hypot, radians, sin, sqrt

import numpy as np
import pytest
from scipy.optimize import fsolve

from tirante.core.document.design import TravelBox
from tirante.core.document.end import End
from tirante.core.errors import InputError
from tirante.core.mechanism.model import Coincident, Distance
from tirante.core.suspension.error_words import at_the_bench, told
from tirante.core.suspension.one_error import AXES, HEIGHTS, Error, can_be_read, errors_of, nudged, with_errors
from tirante.core.suspension.which_error import Read, Reconciled, Sds, could_be_read, which_error
from tirante.core.tolerance.explain import ALIKE, Whitened
from tirante.shipped import the_shelf
from tirante.shipped.templates import DATA

NONE = np.zeros((3, 0))


def shipped(name: str) -> End:
    found = json.loads((DATA / "ends" / f"{name}.json").read_text())
    return End.model_validate({key: value for key, value in found.items() if key in End.model_fields})


def model(end: End, rows: np.ndarray, further: np.ndarray = NONE, *, right: bool = False) -> Reconciled:
    return Reconciled(the_shelf().template_of(end), end, rows, further, right=right)


def at(*travel: float) -> np.ndarray:
    return np.array([travel, [0.0] * len(travel), [0.0] * len(travel)])


def named(found: Reconciled, key: str) -> Error:
    return next(error for error in found.sought.errors if error.key == key)


KINDS = (
    "double-wishbone",
    "five-link",
    "three-links-panhard",
    "strut",
    "four-links-watts-axle",
    "radius-arms",
    "trailing-arm",
)


@pytest.mark.parametrize("kind", KINDS)
def test_each_error_is_put_in_and_nothing_else_of_the_car_changes(kind: str) -> None:
    """What is as long as before stays so; what moves does by as much as it is to."""
    found = model(shipped(kind), at(-30.0, 40.0))
    before = found.side
    system = before.solved.system
    lengths = {c.name: c for c in before.assembled.mechanism.constraints if isinstance(c, Distance)}
    for error in found.sought.errors:
        side = with_errors(before, {error: 3.0})
        assert side is not None
        now, solved = side.assembled, side.solved
        for c in now.mechanism.constraints:
            where = solved.system.where
            if isinstance(c, Distance) and c.name in lengths and not c.stiffness:
                apart = np.linalg.norm(
                    where(solved.poses, c.a, solved.drives) - where(solved.poses, c.b, solved.drives), axis=0
                )
                old = lengths[c.name]
                was = np.linalg.norm(np.subtract(old.a.at, old.b.at))
                grown = 3.0 if error.kind == "length" and error.name == c.name else 0.0
                assert apart == pytest.approx(was + grown, abs=1e-6), (error, c.name)
            if isinstance(c, Coincident):
                gap = where(solved.poses, c.a, solved.drives) - where(solved.poses, c.b, solved.drives)
                assert np.abs(gap).max() < 1e-6, (error, c.name)
        lifted = solved.drives[0] - before.solved.drives[0]
        assert lifted == pytest.approx([-3.0, -3.0] if error.kind == "heights" else [0.0, 0.0])
        moved = [
            np.subtract(mark.at, before.assembled.marks[name].at) for name, mark in now.marks.items()
            if mark.body == error.on and name == error.name and mark.body == before.assembled.marks[name].body
        ]  # fmt: skip
        for by in moved:
            assert by == pytest.approx([3.0 * (axis == error.axis) for axis in AXES])
    assert system is before.solved.system


@pytest.mark.parametrize("kind", ["double-wishbone", "three-links-panhard", "strut", "radius-arms"])
def test_one_step_of_newtons_gives_the_slopes_of_the_solved_mechanism(kind: str) -> None:
    rows = at(-30.0, 0.0, 40.0)
    found = model(shipped(kind), rows)
    small = 0.2
    for k, error in enumerate(found.sought.errors):
        low, high = (with_errors(found.side, {error: by}) for by in (-small, small))
        assert low is not None
        assert high is not None
        for name, value in can_be_read(high).items():
            slope = (value - can_be_read(low)[name]) / (2 * small)
            # where constraints share a load, what binds turning with the bodies is left out: under 0.001 of a degree a mm
            assert found._slopes[name][:, k] == pytest.approx(slope, abs=1e-3 if kind == "radius-arms" else 2e-5), (
                error,
                name,
            )
    assert nudged(found.side, [Error(kind="heights", name=HEIGHTS)], 0.0)[0] is not None


def test_all_that_may_be_off_is_looked_for_once() -> None:
    """Where an arm meets the car the place is the car's, at its outer joint its two sides tell; on the upright three ways each."""
    keys = [error.key for error in errors_of(model(shipped("double-wishbone"), at(0.0)).side.assembled).errors]
    pivots = ("upper_front", "upper_rear", "lower_front", "lower_rear", "tie_inner")
    balls = ("upper_outer", "lower_outer", "tie_outer")
    sides = [f"{arm}_{end} – {arm}_outer" for arm in ("upper", "lower") for end in ("front", "rear")]
    places = [
        f"{p} on {on} {axis}" for on, names in (("ground", pivots), ("upright", balls)) for p in names for axis in AXES
    ]
    assert sorted(keys) == sorted(["tie rod", *sides, *places, HEIGHTS])
    # a bush's place on the car is looked for too, though its point is followed on the arm
    assert any(e.key == "arm_chassis_left on ground z" for e in model(shipped("radius-arms"), at(0.0)).sought.errors)


def flat_front() -> End:
    """A double wishbone whose pivots run fore and aft: its front view is a four-bar in a plane, and nothing steers it in travel."""
    end = shipped("double-wishbone")
    low, up = (300.0, 180.0), (330.0, 390.0)  # y, z of the pivots' lines
    points = dict(end.points)
    x = points["wheel_centre"][0]
    for name, (y, z) in (("lower", low), ("upper", up)):
        points[f"{name}_front"], points[f"{name}_rear"] = (x + 150.0, y, z), (x - 150.0, y, z)
    points |= {"lower_outer": (x, 620.0, 170.0), "upper_outer": (x, 590.0, 400.0), "wheel_centre": (x, 700.0, 290.0)}
    # the tie rod as an arm's own line, ahead of it: no bump steer
    points |= {"tie_inner": (x + 120.0, *low), "tie_outer": (x + 120.0, 620.0, 170.0)}
    return end.model_copy(
        update={
            "points": points,
            "right_points": {},
            "wheel": end.wheel.model_copy(update={"camber_deg": 0.0, "toe_deg": 0.0}),
        }
    )


def four_bar(travel: float, *, lower: float = 0.0, pivot_z: float = 0.0, ball_y: float = 0.0) -> float:
    """Camber of `flat_front` [deg] by loops in the plane alone: arm angles and upright's turn such that balls meet and the wheel is so high."""
    low, up = np.array([300.0, 180.0 + pivot_z]), np.array([330.0, 390.0])
    balls, centre = (np.array([620.0, 170.0]), np.array([590.0, 400.0])), np.array([700.0, 290.0])
    r_low = hypot(320.0, 10.0) + lower
    r_up = hypot(260.0, 10.0)
    on_upright = [balls[0] + [ball_y, 0.0] - centre, balls[1] - centre]

    def missing(q: np.ndarray) -> np.ndarray:
        y, turn, a, b = q
        at_ = np.array([y, centre[1] + travel])
        spun = np.array([[cos(turn), -sin(turn)], [sin(turn), cos(turn)]])
        one = low + r_low * np.array([cos(a), sin(a)]) - at_ - spun @ on_upright[0]
        two = up + r_up * np.array([cos(b), sin(b)]) - at_ - spun @ on_upright[1]
        return np.concatenate([one, two])

    start = [700.0, 0.0, atan2(-10.0, 320.0), atan2(10.0, 260.0)]
    return degrees(-float(fsolve(missing, start, xtol=1e-13)[1]))


def test_camber_with_an_error_is_that_of_a_four_bar_in_its_plane() -> None:
    """An independent solution: loops in the front view (a textbook's four-bar), no part of the solver."""
    end = flat_front()
    found = model(end, at(-50.0, 0.0, 50.0))
    # an arm longer square to its pivots' line: both sides grow, each by its share
    half, reach = 150.0, hypot(320.0, 10.0)
    side = sqrt(half**2 + (reach + 4.0) ** 2) - sqrt(half**2 + reach**2)
    errors = [
        ({named(found, "lower_front – lower_outer"): side, named(found, "lower_rear – lower_outer"): side}, {"lower": 4.0}),
        ({named(found, "lower_front on ground z"): 5.0, named(found, "lower_rear on ground z"): 5.0, named(found, "tie_inner on ground z"): 5.0}, {"pivot_z": 5.0}),
        ({named(found, "lower_outer on upright y"): -3.0, named(found, "tie_outer on upright y"): -3.0}, {"ball_y": -3.0}),
    ]  # fmt: skip
    for by, planar in errors:
        done = with_errors(found.side, by)
        assert done is not None
        # the tie rod goes with the lower arm: where only that grew, toe follows and camber is read on the wheel's own plane
        wanted = [four_bar(travel, **planar) for travel in (-50.0, 0.0, 50.0)]
        assert can_be_read(done)["camber_deg"] == pytest.approx(wanted, abs=0.02 if "lower" in planar else 1e-4)
    assert found.base["camber_deg"] == pytest.approx([four_bar(travel) for travel in (-50.0, 0.0, 50.0)], abs=1e-6)


def test_heights_count_once_for_all_that_is_read_at_a_position_and_by_half_for_each_wheel_of_a_beam() -> None:
    found = model(shipped("double-wishbone"), at(-30.0, 30.0))
    readings = [(0, "camber_deg", 0.1), (0, "toe_deg", 0.1), (1, "camber_deg", 0.1)]
    still = Sds(height=0.0, place=0.0, length=0.0)
    alone = found.covariance(readings, still)
    assert alone == pytest.approx(0.01 * np.eye(3))
    by_height = found.covariance(readings, Sds(height=2.0, place=0.0, length=0.0)) - alone
    moved = found.side.solved
    up, down = (can_be_read(with_errors(found.side, {named(found, HEIGHTS): by})) for by in (-0.5, 0.5))  # type: ignore[arg-type]
    slope = np.array([up[m][p] - down[m][p] for p, m, _ in readings])
    wanted = np.outer(slope, slope) * 4.0
    wanted[:2, 2] = wanted[2, :2] = 0.0  # the other position has a height of its own
    assert by_height == pytest.approx(wanted, rel=2e-3, abs=1e-9)
    assert moved.poses.lanes == 2

    beam = model(shipped("three-links-panhard"), at(20.0))
    one = [(0, "pinion_change_deg", 0.1)]
    track = 2 * shipped("three-links-panhard").points["wheel_centre"][1]
    rows = [np.array([[20.0 + 0.5 * sign], [0.0], [0.0]]) for sign in (1, -1)]
    lifted = [model(shipped("three-links-panhard"), r).base["pinion_change_deg"][0] for r in rows]
    leaned = [
        model(shipped("three-links-panhard"), np.array([[20.0], [a], [0.0]])).base["pinion_change_deg"][0]
        for a in (0.5, -0.5)
    ]
    travel, roll = lifted[0] - lifted[1], (leaned[0] - leaned[1]) / radians(1.0)
    wanted_one = 2 * (travel / 2) ** 2 + 2 * (roll / track) ** 2
    got = beam.covariance(one, Sds(height=1.0, place=0.0, length=0.0)) - 0.01
    assert got[0, 0] == pytest.approx(wanted_one, rel=1e-3)


def test_the_surveys_own_deviations_stand_in_place_of_the_usual_one() -> None:
    found = model(shipped("double-wishbone"), at(0.0))
    reading = [(0, "camber_deg", 0.1)]
    error = named(found, "upper_outer on upright y")
    slope = found.slopes(reading)[0, found.sought.errors.index(error)]
    usual = found.covariance(reading, Sds())
    sure = found.covariance(reading, Sds(places={"upper_outer": (1.0, 3.0, 1.0)}))
    assert (sure - usual)[0, 0] == pytest.approx(8 * slope**2)
    beam = model(shipped("three-links-panhard"), at(0.0))
    pinion = [(0, "pinion_change_deg", 0.1)]
    both = [i for i, one in enumerate(beam.sought.errors) if one.name.startswith("lower_axle_") and one.axis == "z"]
    more = beam.covariance(pinion, Sds(places={"lower_axle": (1.0, 1.0, 2.0)})) - beam.covariance(pinion, Sds())
    assert len(both) == 2
    assert more[0, 0] == pytest.approx(3 * (beam.slopes(pinion)[0, both] ** 2).sum())
    longer = found.covariance(reading, Sds(length=1.5)) - usual
    arms = [i for i, one in enumerate(found.sought.errors) if one.kind == "length"]
    assert longer[0, 0] == pytest.approx(2.0 * (found.slopes(reading)[0, arms] ** 2).sum())


def test_the_right_wheel_is_its_own_corner_and_left_errors_are_not_named_for_it() -> None:
    end = shipped("double-wishbone")
    x, y, z = end.points["upper_outer"]
    apart = end.model_copy(update={"right_points": {"upper_outer": (x, -y + 5.0, z)}})
    left, right = (model(apart, at(0.0), right=right) for right in (False, True))
    assert left.base["camber_deg"] != pytest.approx(right.base["camber_deg"]) or left.base["kingpin_inclination_deg"] != pytest.approx(right.base["kingpin_inclination_deg"])  # fmt: skip
    assert left.base["kingpin_inclination_deg"] == pytest.approx(model(end, at(0.0)).base["kingpin_inclination_deg"])
    steered = np.array([[0.0], [0.0], [10.0]])
    assert model(end, steered, right=True).base["toe_deg"] == pytest.approx(model(end, -steered).base["toe_deg"])


def test_words_say_which_way() -> None:
    arm = Error(kind="length", name="upper link")
    assert told(arm, -3.26) == "upper link is 3.3 mm shorter than the model has it"
    assert at_the_bench(arm, -3.26).startswith("Turn it 3.3 mm longer")
    pivot = Error(kind="place", name="lower_front", on="ground", axis="x")
    assert "2.0 mm further forward on the car" in told(pivot, 2.0)
    assert "Move its bracket 2.0 mm back" in at_the_bench(pivot, 2.0)
    ball = Error(kind="place", name="lower_outer", on="upright", axis="y")
    assert "2.0 mm further to the right on the upright" in told(ball, -2.0)
    assert "2.0 mm to the left" in at_the_bench(ball, -2.0)
    assert "too large" in told(Error(kind="heights", name=HEIGHTS), 4.0)


# --- cars with a known error ------------------------------------------------------------------------------------------------------------

READ = {
    "double-wishbone": ("camber_deg", "toe_deg", "caster_deg", "kingpin_inclination_deg"), "five-link": ("camber_deg", "toe_deg", "caster_deg"),
    "three-links-panhard": ("camber_deg", "right camber_deg", "toe_deg", "axle_steer_deg", "pinion_change_deg"), "strut": ("camber_deg", "toe_deg", "caster_deg"),
}  # fmt: skip
SDS = Sds(height=1.0, place=1.0, length=1e-6)
CARS, ERRORS = 10, 5  # of each kind, and of each car: 200 in all


class Car:
    """A random car as it was surveyed and as it is, read to a tenth of a degree at three heights."""

    def __init__(self, kind: str, rng: np.random.Generator) -> None:
        end = shipped(kind)
        points = {name: tuple(np.array(p) + rng.uniform(-15, 15, 3)) for name, p in end.points.items()}
        self.end = End.model_validate(end.model_dump() | {"points": points})
        self.rows = at(-40.0, 0.0, 40.0)
        if the_shelf().template_of(end).axle == "beam":
            self.rows[1] = [0.0, 2.0, -2.0]
        self.rng, self.measures = rng, READ[kind]
        self.model = model(self.end, self.rows)
        self.taken = [(p, m, 0.1) for p in range(3) for m in self.measures]
        white = Whitened(np.zeros(len(self.taken)), self.model.covariance(self.taken, SDS))
        self.columns = white(self.model.slopes(self.taken))
        self.errors = self.model.sought.errors

    def shows(self, size: float, k: int) -> float:
        return abs(size) * float(np.linalg.norm(self.columns[:, k]))

    def an_error(self) -> tuple[int, float]:
        """One that shows above 3.3 deviations, of 2 to 10 mm."""
        while True:
            k = int(self.rng.integers(len(self.errors)))
            size = float(self.rng.uniform(2, 10) * self.rng.choice([-1, 1]))
            if self.errors[k].kind != "heights" and self.shows(size, k) > 3.3:
                return k, size

    def twins(self, k: int, size: float) -> list[int]:
        own = size * self.columns[:, k]
        found = []
        for i in range(len(self.errors)):
            other = self.columns[:, i]
            if i == k or not other.any():
                continue
            like = float(np.clip(own @ other / (other @ other), -25, 25))
            if float(((own - like * other) ** 2).sum()) < ALIKE:
                found.append(i)
        return found

    def real(self, by: dict[Error, float]) -> Reconciled:
        """The car with errors in it, and all that the survey and the heights are off by besides."""
        errors = {e: float(self.rng.normal()) for e in self.errors if e.kind == "place"}
        for error, size in by.items():
            errors[error] = errors.get(error, 0.0) + size
        rows = self.rows + np.vstack([self.rng.normal(size=3), np.zeros((2, 3))])
        if self.model.side.assembled.beam:
            left, right = self.rng.normal(size=(2, 3))
            track = 2 * self.end.points["wheel_centre"][1]
            rows = self.rows + np.vstack([(left + right) / 2, np.degrees((left - right) / track), np.zeros(3)])
        found = model(self.end, rows)
        side = with_errors(found.side, errors)
        assert side is not None
        found.side, found.base = side, can_be_read(side)
        return found

    def read(self, real: Reconciled) -> list[Read]:
        return [
            Read(position=p, measure=m, value=float(real.base[m][p] + self.rng.normal() * sd), sd=sd)
            for p, m, sd in self.taken
        ]


def test_one_error_in_a_random_car_is_named() -> None:
    """Of 200 errors of 2 to 10 mm above 3.3 deviations, in forty cars of four kinds, angles to 0.1°, heights and survey to 1 mm."""
    count: Counter[str] = Counter()
    sizes: dict[str, list[int]] = {kind: [] for kind in READ}
    for kind, of_kind in sizes.items():
        rng = np.random.default_rng(list(READ).index(kind) + 7)
        for _ in range(CARS):
            car = Car(kind, rng)
            for _ in range(ERRORS):
                k, size = car.an_error()
                found = which_error(car.model, car.read(car.real({car.errors[k]: size})), SDS)
                count["named"] += k in found.told.named
                of_kind.append(len(found.told.named))
                if not car.twins(k, size):
                    count["no twin"] += 1
                    count["first"] += found.told.ranked[0].index == k
    assert count["named"] >= 0.95 * len(READ) * CARS * ERRORS, count
    assert count["no twin"] >= 20, count
    assert count["first"] >= 0.8 * count["no twin"], count
    # three is the least where a length shows as its two ends do
    assert all(np.median(of_kind) <= 3 for of_kind in sizes.values()), sizes


def test_two_errors_at_once_are_mostly_told_as_not_one() -> None:
    rng = np.random.default_rng(5)
    said = []
    while len(said) < 12:
        car = Car("double-wishbone", rng)
        (i, a), (j, b) = ((k, s * 2.5) for k, s in (car.an_error(), car.an_error()))
        both = a * car.columns[:, i] + b * car.columns[:, j]
        left = min(float(((both - c * (both @ c) / (c @ c)) ** 2).sum()) for c in car.columns.T if c.any())
        if left > 40:  # no single one comes near their sum
            said.append(
                which_error(car.model, car.read(car.real({car.errors[i]: a, car.errors[j]: b})), SDS).told.verdict
            )
    assert said.count("not_one_error") >= 10, said


def test_the_further_reading_that_is_advised_tells_them_apart() -> None:
    """Advice taken literally, whichever it is: the reading is taken on the real car, and what it was to tell away is named no more."""
    end = shipped("double-wishbone")
    rows = at(-50.0, 0.0, 50.0)
    car = model(end, rows, could_be_read(rows, the_shelf().template_of(end), end))
    taken = [(p, m, 0.1) for p in range(3) for m in ("camber_deg", "toe_deg", "caster_deg")]
    for key, size in (("tie_inner on ground z", -8.0), ("upper_outer on upright x", 23.0)):
        error = named(car, key)
        real = with_errors(car.side, {error: size})
        assert real is not None
        shown = can_be_read(real)
        readings = [Read(position=p, measure=m, value=float(shown[m][p]), sd=sd) for p, m, sd in taken]
        found = which_error(car, readings, Sds())
        before = {car.sought.errors[i] for i in found.told.named}
        assert found.told.verdict == "cannot_tell"
        assert error in before
        best = found.further[0]
        p = int(np.flatnonzero((car.rows == np.array(best.position)[:, None]).all(axis=0))[0])
        value = float(shown[best.measure][p])
        # what it said it would read by each: of the true one it does
        assert abs(best.expected[error] - value) < best.sd
        assert not set(found.tape) & set(best.tells)
        assert set(found.tape) | set(best.tells) == before
        after = which_error(car, [*readings, Read(position=p, measure=best.measure, value=value, sd=0.1)], Sds())
        left = {car.sought.errors[i] for i in after.told.named}
        told_away = set(best.tells) if error not in best.tells else before - set(best.tells)
        assert error in left, key
        assert not told_away & left, key


def test_what_no_angle_tells_apart_is_to_be_taken_itself() -> None:
    end = shipped("double-wishbone")
    rows = at(-50.0, 0.0, 50.0)
    car = model(end, rows, could_be_read(rows, the_shelf().template_of(end), end))
    real = with_errors(car.side, {named(car, "tie rod"): 8.0})
    assert real is not None
    readings = [
        Read(position=p, measure=m, value=float(can_be_read(real)[m][p]), sd=0.1)
        for p in range(3) for m in ("camber_deg", "toe_deg", "caster_deg")
    ]  # fmt: skip
    found = which_error(car, readings, Sds())
    assert found.told.verdict == "cannot_tell"
    assert found.error(found.told.ranked[0]).name in (
        "tie rod",
        "tie_inner",
        "tie_outer",
    )
    assert named(car, "tie rod") in found.tape


def test_no_reading_is_advised_where_the_end_does_not_go() -> None:
    """Read near its bump stop: half as far again would be through it."""
    end = shipped("double-wishbone")
    template = the_shelf().template_of(end)
    box = TravelBox(bump_mm=60.0, droop_mm=50.0, roll_deg=3.0, steer_mm=12.0)
    travel, _, steer = could_be_read(at(-50.0, 60.0), template, end, box)
    assert (travel.min(), travel.max()) == (-30.0, 30.0)  # its ends are read already
    assert set(steer) == {-12.0, 0.0, 12.0}
    free, _, turned = could_be_read(at(-50.0, 60.0), template, end)
    assert (free.min(), free.max(), turned.max()) == (-90.0, 90.0, 25.0)


def test_what_this_end_has_not_is_refused_by_name() -> None:
    found = model(shipped("three-links-panhard"), at(0.0, 20.0))
    with pytest.raises(InputError, match="“caster_deg” is not read of this end"):
        which_error(found, [Read(position=0, measure="caster_deg", value=1.0, sd=0.1)] * 2, Sds())
    with pytest.raises(InputError, match="One reading tells nothing"):
        which_error(found, [Read(position=0, measure="camber_deg", value=1.0, sd=0.1)], Sds())
    with pytest.raises(InputError, match="position 2"):
        model(shipped("double-wishbone"), at(0.0, 900.0))
    assert "strut_low on upright" in errors_of(model(shipped("strut"), at(0.0)).side.assembled).left_out
