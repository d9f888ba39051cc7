"""Measuring in a photograph: by a pinhole camera at any pose, in pictures that were drawn, with what clicks, lens and parallax add as it comes out."""

from __future__ import annotations

from itertools import combinations
from math import hypot

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from PIL import Image, ImageDraw
from scipy.spatial.transform import Rotation

from tirante.core.errors import InputError
from tirante.core.survey.photograph import Photograph, measured_in

SIZE = (3000.0, 2250.0)
WIDE, HIGH = 300.0, 200.0
CORNERS = np.array([[0.0, 0.0], [WIDE, 0.0], [WIDE, HIGH], [0.0, HIGH]])
PLACES = {"a": (40.0, 30.0), "b": (250.0, 60.0), "c": (160.0, 170.0), "d": (-60.0, 120.0)}
FOCAL = 2600.0  # px


def seen(flat: np.ndarray, turned: tuple[float, float, float], away: float, off: float = 0.0) -> np.ndarray:
    """Places of the plane in the picture of a pinhole camera, turned so [deg] and so far away [mm]; it looks at the rectangle's middle."""
    middle = CORNERS.mean(axis=0)
    at = np.column_stack([flat - middle, np.full(len(flat), -off)])
    in_camera = Rotation.from_euler("xyz", turned, degrees=True).apply(at) + np.array([0.0, 0.0, away])
    assert (in_camera[:, 2] > 0).all()
    return FOCAL * in_camera[:, :2] / in_camera[:, 2:] + np.array(SIZE) / 2


def photograph(marks: np.ndarray, dots: np.ndarray, **more: float) -> Photograph:
    return Photograph(
        size=SIZE, marks=[tuple(one) for one in marks], sides=(WIDE, HIGH), places=dict(zip(PLACES, map(tuple, dots), strict=True)), **more,  # type: ignore[arg-type]
    )  # fmt: skip


FLAT = np.array(list(PLACES.values()))
TILT = st.floats(-35, 35)


@settings(max_examples=60, deadline=None)
@given(TILT, TILT, st.floats(-180, 180), st.floats(500, 2000))
def test_whatever_the_camera_s_pose_places_come_out_where_they_are(x: float, y: float, z: float, away: float) -> None:
    marks, dots = seen(CORNERS, (x, y, z), away), seen(FLAT, (x, y, z), away)
    assume(min(hypot(*(a - b)) for a, b in combinations(marks, 2)) > 40)
    found = measured_in(photograph(marks, dots))
    assert found.perspective
    assert np.array([found.at[name] for name in PLACES]) == pytest.approx(FLAT, abs=1e-6)
    for (a, b), (long, _) in found.distances.items():
        assert long == pytest.approx(hypot(*(np.array(PLACES[a]) - PLACES[b])), abs=1e-6)


def drawn(turned: tuple[float, float, float], away: float) -> Image.Image:
    """A picture of dots on a sheet, drawn by a general library: the sheet ray by ray as a camera sees it."""
    scale, rim = 8.0, 120.0  # px of the sheet to a millimetre; round the rectangle [mm]
    sheet = Image.new("L", (int((WIDE + 2 * rim) * scale), int((HIGH + 2 * rim) * scale)), 255)
    pen = ImageDraw.Draw(sheet)
    for x, y in [*CORNERS, *FLAT]:
        u, v, r = (x + rim) * scale, (y + rim) * scale, 1.5 * scale
        pen.ellipse((u - r, v - r, u + r, v + r), fill=0)
    outer = np.array([[-rim, -rim], [WIDE + rim, -rim], [WIDE + rim, HIGH + rim], [-rim, HIGH + rim]])
    picture = seen(outer, turned, away)
    corners = (outer + rim) * scale
    rows, right = [], []
    for (x, y), (u, v) in zip(
        picture, corners, strict=True
    ):  # from the picture's dots to the sheet's, as the library asks it
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        right += [u, v]
    way = np.linalg.lstsq(np.array(rows), np.array(right), rcond=None)[0]
    return sheet.transform((int(SIZE[0]), int(SIZE[1])), Image.Transform.PERSPECTIVE, tuple(way), Image.Resampling.BICUBIC, fillcolor=255)  # fmt: skip


def dot_at(picture: Image.Image, near: np.ndarray) -> np.ndarray:
    """The middle of a dark dot, by its weight."""
    r = 40
    x0, y0 = (int(v) - r for v in near)
    dark = 255.0 - np.asarray(picture.crop((x0, y0, x0 + 2 * r, y0 + 2 * r)), dtype=float)
    ys, xs = np.mgrid[0 : 2 * r, 0 : 2 * r] + 0.5
    return np.array([x0 + (dark * xs).sum() / dark.sum(), y0 + (dark * ys).sum() / dark.sum()])


@pytest.mark.parametrize(("turned", "away"), [((0, 0, 0), 700), ((25, 0, 4), 750), ((-18, 22, 35), 800), ((5, -30, -100), 780)])  # fmt: skip
def test_in_a_drawn_picture_lengths_come_out_to_a_thousandth(turned: tuple[float, float, float], away: float) -> None:
    picture = drawn(turned, away)
    marks = np.array([dot_at(picture, one) for one in seen(CORNERS, turned, away)])
    dots = np.array([dot_at(picture, one) for one in seen(FLAT, turned, away)])
    for (a, b), (long, _) in measured_in(photograph(marks, dots)).distances.items():
        true = hypot(*(np.array(PLACES[a]) - PLACES[b]))
        assert long == pytest.approx(true, rel=1e-3), (a, b)


def shaken(what: str) -> tuple[np.ndarray, np.ndarray]:
    """Deviation of places and of distances over many photographs, each with what is uncertain drawn anew; and what is told of one."""
    rng, pose, away = (
        np.random.default_rng(20261202),
        (15.0, -10.0, 8.0) if what != "parallax" else (0.0, 0.0, 0.0),
        900.0,
    )
    marks, flat = seen(CORNERS, pose, away), seen(FLAT, pose, away)
    sds = {"click": 0.0, "side_sd": 0.0, "lens": 0.0, "off_plane": 0.0, "camera": away}
    sds[{"clicks": "click", "sides": "side_sd", "lens": "lens", "parallax": "off_plane"}[what]] = {"clicks": 1.5, "sides": 0.7, "lens": 0.006, "parallax": 3.0}[what]  # fmt: skip
    at, long = [], []
    middle, half = np.array(SIZE) / 2, hypot(*SIZE) / 2
    for _ in range(400):
        m, d, sides = marks.copy(), flat.copy(), (WIDE, HIGH)
        if what == "clicks":
            m, d = m + rng.normal(0, 1.5, m.shape), d + rng.normal(0, 1.5, d.shape)
        elif what == "sides":
            sides = (WIDE + rng.normal(0, 0.7), HIGH + rng.normal(0, 0.7))
        elif what == "lens":
            bent = rng.normal(0, 0.006)
            m, d = (middle + (one - middle) * (1 + bent * ((one - middle) ** 2).sum(axis=1, keepdims=True) / half**2) for one in (m, d))  # fmt: skip
        else:
            d = np.vstack(
                [seen(FLAT[i : i + 1], pose, away, off) for i, off in enumerate(rng.normal(0, 3.0, len(FLAT)))]
            )
        found = measured_in(Photograph(size=SIZE, marks=[tuple(one) for one in m], sides=sides, places=dict(zip(PLACES, map(tuple, d), strict=True))))  # type: ignore[arg-type] # fmt: skip
        at.append([found.at[name] for name in PLACES])
        long.append([one[0] for one in found.distances.values()])
    told = measured_in(photograph(marks, flat, **sds))
    real = np.concatenate([np.std(at, axis=0).ravel(), np.std(long, axis=0)])
    said = np.concatenate([np.array([told.sd[name] for name in PLACES]).ravel(), [one[1] for one in told.distances.values()]])  # fmt: skip
    return real, said


@pytest.mark.parametrize("what", ["clicks", "sides", "lens", "parallax"])
def test_what_is_said_to_be_uncertain_is_how_far_it_comes_out_off(what: str) -> None:
    real, said = shaken(what)
    assert said.max() > 0.02
    assert said == pytest.approx(real, rel=0.14, abs=0.01)


def test_a_ruler_gives_scale_alone_and_says_so() -> None:
    # two marks of 300 mm, the camera square over the plane: lengths come out, and where it leans they do not
    for pose, right in (((0.0, 0.0, 20.0), True), ((30.0, 0.0, 20.0), False)):
        marks, dots = seen(CORNERS[:2], pose, 900.0), seen(FLAT, pose, 900.0)
        found = measured_in(Photograph(size=SIZE, marks=[tuple(one) for one in marks], sides=(WIDE, WIDE), places=dict(zip(PLACES, map(tuple, dots), strict=True)), side_sd=0.3))  # type: ignore[arg-type] # fmt: skip
        assert not found.perspective
        off = [abs(long - hypot(*(np.array(PLACES[a]) - PLACES[b]))) for (a, b), (long, _) in found.distances.items()]
        assert (max(off) < 1e-6) == right
    # its length is one figure: in error by a thousandth, all lengths are
    sure = measured_in(Photograph(size=SIZE, marks=[tuple(one) for one in marks], sides=(WIDE, WIDE), places=dict(zip(PLACES, map(tuple, dots), strict=True)), side_sd=0.3, click=0.0, lens=0.0))  # type: ignore[arg-type] # fmt: skip
    for long, sd in sure.distances.values():
        assert sd / long == pytest.approx(0.3 / WIDE, rel=1e-6)


@pytest.mark.parametrize(
    ("marks", "sides", "why"),
    [
        ([(0, 0), (900, 0), (0, 700), (900, 700)], (300, 200), "order round it"), ([(0, 0), (900, 0), (1800, 4), (0, 700)], (300, 200), "order round it"), ([(0, 0), (900, 0), (300, 200), (0, 700)], (300, 200), "order round it"),
        ([(0, 0), (900, 0), (900, 700)], (300, 200), "two or four"), ([(0, 0), (900, 0), (905, 3), (0, 700)], (300, 200), "on one another"), ([(0, 0), (900, 0), (900, 700), (0, 700)], (300, 0), "more than nothing"),
    ],
)  # fmt: skip
def test_marks_that_are_none_are_refused(marks: list[tuple[float, float]], sides: tuple[float, float], why: str) -> None:  # fmt: skip
    with pytest.raises(InputError, match=why):
        measured_in(Photograph(size=SIZE, marks=marks, sides=sides, places={"a": (10.0, 10.0), "b": (100.0, 90.0)}))


def test_a_place_beyond_the_plane_s_horizon_is_refused() -> None:
    marks = [
        (1000.0, 2000.0),
        (2000.0, 2000.0),
        (1600.0, 1500.0),
        (1400.0, 1500.0),
    ]  # a floor that vanishes at about 1375
    with pytest.raises(InputError, match="far lies beyond"):
        measured_in(Photograph(size=SIZE, marks=marks, sides=(300, 600), places={"far": (1500.0, 1000.0), "b": (1500.0, 1700.0)}))  # fmt: skip
