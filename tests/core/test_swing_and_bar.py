"""A caster gauge's swing and a toe bar, as readings of a survey: against turning the wheel by a general library, and what they tell of a point."""

from __future__ import annotations

import uuid
from math import atan2, degrees, hypot, radians, sqrt, tan

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError
from scipy.optimize import brentq
from scipy.spatial.transform import Rotation

from tirante.core.document.fields import Coordinate
from tirante.core.document.survey import CasterSwing, Entry, OwnSd, SurveyMark, Taken, ToeBar
from tirante.core.job.surveyed import surveyed
from tirante.core.survey.readings import Heading, Swing, camber_turned

ANGLE = st.floats(-12, 12)


def kingpin(caster: float, inclination: float, side: int) -> np.ndarray:
    """Along the axis, up: caster leans its top back, inclination leans it to the middle [deg]."""
    return np.array([-tan(radians(caster)), -side * tan(radians(inclination)), 1.0])


def turned(axis: np.ndarray, spin: np.ndarray, side: int, out: float) -> float:
    """Camber [deg] once a wheel points so far out [deg]: rotated about its axis until it does."""

    def heading_out(angle: float) -> float:
        s = Rotation.from_rotvec(axis / np.linalg.norm(axis) * angle).apply(spin)
        ahead = np.array([s[1], -s[0]]) * side  # square to the spin axis, seen from above
        return degrees(atan2(side * ahead[1], ahead[0])) - out

    found = brentq(heading_out, -1.2, 1.2, xtol=1e-13)
    s = Rotation.from_rotvec(axis / np.linalg.norm(axis) * found).apply(spin)
    return -degrees(np.arcsin(s[2]))


@settings(max_examples=60, deadline=None)
@given(ANGLE, st.floats(-3, 16), st.floats(2, 40), st.sampled_from([1, -1]))
def test_a_swing_is_what_turning_the_wheel_about_its_axis_gives(
    caster: float, inclination: float, turn: float, side: int
) -> None:
    axis, spin = kingpin(caster, inclination, side), np.array([0.0, float(side), 0.0])
    low = np.array([3.0, side * 700.0, 180.0])
    value, slopes = Swing(lower="l", upper="u", turn=radians(turn)).at({"l": low, "u": low + 300 * axis})
    want = turned(axis, spin, side, turn) - turned(axis, spin, side, -turn)
    assert degrees(value) == pytest.approx(want, abs=1e-8)
    # caster of the side view is known by it far better than the inclination is
    assert np.allclose(slopes["u"], -slopes["l"])


@settings(max_examples=40, deadline=None)
@given(st.floats(2, 12), st.floats(5, 15), st.floats(-3, 1), st.floats(-0.5, 0.5), st.sampled_from([1, -1]))
def test_the_wheel_s_own_camber_and_toe_hardly_change_a_swing(
    caster: float, inclination: float, camber: float, toe: float, side: int
) -> None:
    axis = kingpin(caster, inclination, side)
    spin = Rotation.from_euler("xz", [-side * camber, -side * toe], degrees=True).apply([0.0, float(side), 0.0])
    assert -degrees(np.arcsin(spin[2])) == pytest.approx(camber, abs=1e-6)
    upright = degrees(camber_turned(axis, side > 0, radians(20)) - camber_turned(axis, side > 0, -radians(20)))
    real = turned(axis, spin, side, 20) - turned(axis, spin, side, -20)
    assert real == pytest.approx(upright, rel=0.02)


def test_twenty_degrees_each_way_is_the_rule_of_one_and_a_half() -> None:
    # common practice, no source: caster = 1.5 times the swing from 20° in to 20° out
    for caster in (2.0, 5.0, 8.0):
        axis = kingpin(caster, 8.0, 1)
        swing = degrees(camber_turned(axis, True, radians(20)) - camber_turned(axis, True, -radians(20)))
        assert 1.5 * swing == pytest.approx(caster, rel=0.04)


@given(st.floats(-3, 3), st.sampled_from([1, -1]))
def test_a_toe_bar_points_as_the_face_does(toe_in: float, side: int) -> None:
    ahead = np.array([np.cos(radians(toe_in)), -side * np.sin(radians(toe_in)), 0.0])  # toe in: towards the middle
    out = np.array([-ahead[1], ahead[0], 0.0]) * side
    middle = np.array([10.0, side * 700.0, 300.0])
    value, _ = Heading(face="f", out="o").at({"f": middle, "o": middle + 150 * out})
    marks = [middle + 180 * ahead, middle - 170 * ahead]
    bar = ToeBar(ahead=Coordinate(mm=marks[0][1]), behind=Coordinate(mm=marks[1][1]), apart=Coordinate(mm=marks[0][0] - marks[1][0]))  # fmt: skip
    assert degrees(value) == pytest.approx(-side * toe_in, abs=1e-9)
    assert bar.deg == pytest.approx(-side * toe_in, abs=1e-9)


def mark(name: str, near: tuple[float, float, float], *, fixed: bool) -> SurveyMark:
    return SurveyMark(id=str(uuid.uuid4()), mark=str(uuid.uuid4()), name=name, near=near, fixed=fixed)


def taken(kind: str, of: list[SurveyMark], **more: object) -> Taken:
    return Taken(id=str(uuid.uuid4()), kind=kind, of=tuple(f"mark:{one.mark}" for one in of), **more)  # type: ignore[arg-type]


def test_both_tell_of_points_and_one_read_the_other_way_round_is_named() -> None:
    caster, toe = 6.0, 0.4  # of a left wheel
    low = mark("lower", (0.0, 700.0, 180.0), fixed=True)
    up = mark("upper", (0.0, 650.0, 480.0), fixed=False)
    face, out = mark("face", (0.0, 720.0, 300.0), fixed=True), mark("out", (0.0, 870.0, 300.0), fixed=False)
    true_up = np.array([-300 * tan(radians(caster)), 654.0, 480.0])
    axis = true_up - np.array(low.near)
    swing = degrees(camber_turned(axis, True, radians(15)) - camber_turned(axis, True, -radians(15)))
    entries: list[Entry] = [low, up, face, out]
    entries += [taken("left", [up], read=Coordinate(mm=654.0)), taken("height", [up], read=Coordinate(mm=480.0))]
    entries += [taken("swing", [low, up], swing=CasterSwing(turned_out=-1.0 + swing, turned_in=-1.0, turn_deg=15), instrument="inclinometer")]  # fmt: skip
    entries += [taken("distance", [face, out], read=Coordinate(mm=150.0)), taken("height", [out], read=Coordinate(mm=300.0))]  # fmt: skip
    entries += [taken("bar", [face, out], bar=ToeBar(ahead=Coordinate(mm=720 - 300 * tan(radians(toe))), behind=Coordinate(mm=720.0), apart=Coordinate(mm=300.0)), instrument="string")]  # fmt: skip
    found = surveyed({}, entries).found
    assert found is not None
    at = found.points[f"mark:{up.mark}"]
    assert at == pytest.approx(true_up, abs=1e-3)
    ahead_of = found.points[f"mark:{out.mark}"][0]
    assert ahead_of == pytest.approx(150 * np.sin(radians(toe)), abs=1e-3)  # toe in: its outside comes forward
    # how surely: two figures of 0.2° each, over what a degree of caster moves the swing by; a string's 1.5 mm over the marks
    grown = Swing(lower="l", upper="u", turn=radians(15)).at({"l": np.array(low.near), "u": true_up})[1]["u"][0]
    assert found.sd(f"mark:{up.mark}")[0] == pytest.approx(radians(sqrt(2) * 0.2) / abs(grown), rel=0.02)
    assert found.sd(f"mark:{out.mark}")[0] == pytest.approx(150 * sqrt(2) * 1.5 / 300, rel=0.02)
    # checked by tapes, and the swing's two figures changed over
    for place in ((400.0, 0.0, 0.0), (-400.0, 0.0, 0.0), (-300.0, 0.0, 500.0)):
        base = mark("floor", place, fixed=True)
        entries += [base, taken("distance", [base, up], read=Coordinate(mm=float(np.linalg.norm(true_up - place))))]
    i = next(i for i, one in enumerate(entries) if isinstance(one, Taken) and one.swing)
    entries[i] = taken("swing", [low, up], swing=CasterSwing(turned_out=-1.0, turned_in=-1.0 + swing, turn_deg=15), instrument="inclinometer")  # fmt: skip
    wrong = next(one for one in surveyed({}, entries).readings if one.taken.id == entries[i].id)
    assert wrong.suspect is not None
    assert [one.what for one in wrong.slips] == ["turned in and turned out changed over"]
    assert hypot(degrees(wrong.suspect.expected) - swing, 0) < 0.3


def test_what_is_usual_for_somebody_counts_for_their_readings_that_say_nothing_else() -> None:
    mine = taken("height", [mark("a", (0.0, 0.0, 0.0), fixed=False)], read=Coordinate(mm=10.0), instrument="square", who="Ana")  # fmt: skip
    assert mine.deviation() == 1.5
    own = OwnSd(id=str(uuid.uuid4()), who="ANA", instrument="square", mm=0.4, deg=0.3)
    later = own.model_copy(update={"id": str(uuid.uuid4()), "mm": 0.6})
    base = mark("a", (0.0, 0.0, 0.0), fixed=False)

    def sd(*more: Entry, **changed: object) -> float:
        one = taken("height", [base], read=Coordinate(mm=10.0), instrument="square", who="Ana", **changed)
        other = [taken(kind, [base], read=Coordinate(mm=0.0)) for kind in ("left", "ahead")]
        found = surveyed({}, [base, one, *other, *more]).found
        assert found is not None
        return float(found.sd(f"mark:{base.mark}")[2])

    assert sd() == pytest.approx(1.5)
    assert sd(own) == pytest.approx(0.4)
    assert sd(own, later) == pytest.approx(0.6)  # the latest stands
    assert sd(own, sd=0.2) == pytest.approx(0.2)  # what the reading itself says goes before
    assert sd(own.model_copy(update={"who": "Bo"})) == pytest.approx(1.5)
    assert sd(own.model_copy(update={"instrument": "tape"})) == pytest.approx(1.5)


@pytest.mark.parametrize(
    ("kind", "more", "why"),
    [
        ("bar", {}, "bar: give what both marks read"), ("swing", {"deg": 3.0}, "swing: give the camber"), ("level", {"deg": 1.0, "swing": CasterSwing(turned_out=0.0, turned_in=1.0)}, "swing: belongs"),
        ("swing", {"deg": 3.0, "swing": CasterSwing(turned_out=0.0, turned_in=1.0)}, "deg: follows"), ("level", {}, "deg: give the angle"),
    ],
)  # fmt: skip
def test_what_is_not_whole_is_refused_by_its_field(kind: str, more: dict[str, object], why: str) -> None:
    with pytest.raises(ValidationError, match=why):
        taken(kind, [mark("a", (0.0, 1.0, 0.0), fixed=True), mark("b", (0.0, 2.0, 0.0), fixed=True)], **more)
    with pytest.raises(ValidationError, match="apart: the marks are some way"):
        ToeBar(ahead=Coordinate(mm=1.0), behind=Coordinate(mm=1.0), apart=Coordinate(mm=0.0))


def test_the_command_line_takes_both_in_degrees() -> None:
    from tirante.calc.survey_topics import SurveyInput, run_survey

    up = np.array([-30.0, 654.0, 480.0])
    axis = up - [0.0, 700.0, 180.0]
    swing = degrees(camber_turned(axis, True, radians(18)) - camber_turned(axis, True, -radians(18)))
    given_ = SurveyInput(
        datum={"lower": (0, 700, 180), "face": (0, 720, 300)}, approximate={"upper": (0, 650, 480), "out": (0, 870, 300)},
        offsets=[("upper", "y", 654, 1), ("upper", "z", 480, 1), ("out", "z", 300, 1)], distances=[("face", "out", 150, 1)],
        bars=[("face", "out", -0.5, 0.1)], swings=[("lower", "upper", 18, swing, 0.2)],
    )  # fmt: skip
    found, _ = run_survey(given_)
    assert found["points"]["upper"] == pytest.approx(up.tolist(), abs=1e-3)
    assert found["points"]["out"] == pytest.approx([150 * np.sin(radians(0.5)), 720 + 150 * np.cos(radians(0.5)), 300], abs=1e-3)  # fmt: skip
