"""A weld group must carry exactly what is put on it."""

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tirante.core.brackets.weld_group import weld_group
from tirante.core.errors import InputError, NotApplicable

coordinate = st.floats(-100, 100)
run = st.tuples(coordinate, coordinate, coordinate, coordinate).filter(lambda r: np.hypot(r[2] - r[0], r[3] - r[1]) > 5)
vector = st.tuples(*[st.floats(-20_000, 20_000)] * 3)


def elastic_line_solution(runs: list[tuple[float, ...]], force: tuple[float, ...], at: tuple[float, ...]) -> float:
    """Least-squares springs along the lines: distribute many points, solve the six equilibrium equations for a rigid motion."""
    t = (np.polynomial.legendre.leggauss(12)[0] + 1) / 2
    w = np.polynomial.legendre.leggauss(12)[1] / 2
    points, weights = [], []
    for x1, y1, x2, y2 in runs:
        length = np.hypot(x2 - x1, y2 - y1)
        points += [(x1 + s * (x2 - x1), y1 + s * (y2 - y1), 0.0) for s in t]
        weights += list(w * length)
    p, wt = np.array(points), np.array(weights)

    def motion(q: np.ndarray) -> np.ndarray:  # displacement of points for (translation, rotation)
        out = np.zeros((len(q), 3, 6))
        for i in range(3):
            out[:, i, i] = 1
        for j in range(3):
            axis = np.eye(3)[j]
            out[:, :, 3 + j] = np.cross(axis, q)
        return out

    a = motion(p)
    stiffness = np.einsum("nij,n,nik->jk", a, wt, a)
    load = np.concatenate([force, np.cross(at, force)])
    rigid, *_ = np.linalg.lstsq(stiffness, load, rcond=1e-12)
    ends = np.array([(x, y, 0.0) for x1, y1, x2, y2 in runs for x, y in ((x1, y1), (x2, y2))])
    return float(np.linalg.norm(motion(ends) @ rigid, axis=1).max())


@settings(max_examples=80, deadline=None)
@given(st.lists(run, min_size=2, max_size=5), vector, st.tuples(coordinate, coordinate, st.floats(0, 120)))
def test_worst_line_force_is_that_of_a_rigid_plate_on_springs(
    runs: list[tuple[float, ...]], force: tuple[float, ...], at: tuple[float, ...]
) -> None:
    try:
        found = weld_group(runs, force, at)  # type: ignore[arg-type]
    except NotApplicable:
        assume(False)
    expected = elastic_line_solution(runs, force, at)
    assert found.max_line_force == pytest.approx(expected, rel=1e-5, abs=1e-6)


def test_one_line_cannot_be_bent_about_itself_but_can_along_itself() -> None:
    line = [(-20.0, 0.0, 20.0, 0.0)]
    with pytest.raises(NotApplicable) as caught:
        weld_group(line, (0.0, 100.0, 0.0), (0.0, 0.0, 30.0))
    assert caught.value.fields == ("segments",)
    along = weld_group(line, (100.0, 0.0, 0.0), (0.0, 0.0, 30.0))
    assert along.max_line_force == pytest.approx(np.hypot(100 / 40, 100 * 30 / (40**2 / 6)), rel=1e-9)


def test_a_run_without_length_is_named() -> None:
    with pytest.raises(InputError) as caught:
        weld_group([(0, 0, 10, 0), (3, 3, 3, 3)], (1, 0, 0), (0, 0, 0))
    assert caught.value.fields == ("segments.1",)
