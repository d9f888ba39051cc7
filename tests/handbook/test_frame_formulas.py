"""Rigid frames by the formulas of the handbooks.

Kleinlogel, Rahmenformeln (Rigid Frame Formulas): single-bay portal, feet fixed or hinged, horizontal force at the beam's height,
k = (I beam / I column) h / L. From memory.
Roark, Formulas for Stress and Strain: beams, and a bar bent square in its plane under a force square to it (Castigliano). From
memory.
"""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tirante.core.members.frame import Bar, flat_stiffness, frame, frames, stiffness_of
from tirante.core.members.tube import Section

STIFF = 1e13  # N: what stretches nothing, as the formulas have it
E, G = 205_000.0, 79_000.0


def portal(height: float, width: float, columns: float, beam: float, force: float, *, fixed: bool) -> np.ndarray:
    """End moments of both columns and the beam (3, 2) of a portal pushed at the corner [N·mm]."""
    nodes = np.array([[0, 0, 0], [0, 0, height], [0, width, height], [0, width, 0]], float)
    ends = [(0, 1), (1, 2), (2, 3)]
    stiffness = np.array([[[STIFF, E * i, 1e15] for i in (columns, beam, columns)]])
    held = np.zeros((4, 6), bool)
    held[[0, 3], :3] = True
    held[[0, 3], 3:] = True if fixed else [False, True, True]  # a hinge turns about x alone, square to the frame
    held[1:3, [0, 4, 5]] = True  # all in one plane
    loads = np.zeros((4, 6, 1))
    loads[1, 1, 0] = force
    found = frames(nodes, ends, stiffness, held, loads)
    return found.bending()[0, :, :, 0]


@pytest.mark.parametrize(
    ("height", "width", "columns", "beam"), [(400, 600, 5e4, 5e4), (900, 300, 2e4, 9e4), (500, 500, 8e4, 1e4)]
)
def test_kleinlogel_a_fixed_portal_pushed_at_its_corner(
    height: float, width: float, columns: float, beam: float
) -> None:
    k = beam / columns * height / width
    force = 3000.0
    moments = portal(height, width, columns, beam, force, fixed=True)
    foot = force * height / 2 * (3 * k + 1) / (6 * k + 1)
    corner = force * height / 2 * 3 * k / (6 * k + 1)
    assert moments[0] == pytest.approx([foot, corner], rel=1e-5)
    assert moments[1] == pytest.approx([corner, corner], rel=1e-5)
    assert moments[2] == pytest.approx([corner, foot], rel=1e-5)


def test_kleinlogel_a_hinged_portal_shares_the_push_alike() -> None:
    moments = portal(700.0, 500.0, 5e4, 3e4, 2000.0, fixed=False)
    assert moments[0] == pytest.approx([0.0, 2000 * 700 / 2], abs=1.0)
    assert moments[2] == pytest.approx([2000 * 700 / 2, 0.0], abs=1.0)


def test_roark_a_bar_bent_square_gives_by_bending_and_twisting() -> None:
    section = Section(od=30.0, wall=3.0)
    a, b, force = 350.0, 220.0, 800.0
    nodes = np.array([[0, 0, 0], [a, 0, 0], [a, b, 0]])
    bars = [Bar(a=i, b=i + 1, section=section, elastic_modulus=E, shear_modulus=G) for i in (0, 1)]
    held = np.zeros((3, 6), bool)
    held[0] = True
    loads = np.zeros((3, 6, 1))
    loads[2, 2, 0] = -force
    found = frame(nodes, bars, held, loads)
    ei, gj = E * section.second_moment, G * 2 * section.second_moment
    given_way = force * (a**3 / 3 + b**3 / 3) / ei + force * b * b * a / gj
    assert -found.displacements[2, 2, 0] == pytest.approx(given_way, rel=1e-9)
    assert found.torsion()[0, 0] == pytest.approx(force * b)
    assert found.bending()[0, 0, 0] == pytest.approx(force * a)


@pytest.mark.parametrize("share", [0.5, 0.3])
def test_roark_a_beam_built_in_at_both_ends_with_a_load_along_it(share: float) -> None:
    length, force = 800.0, 1500.0
    a, b = share * length, (1 - share) * length
    section = Section(od=40.0, wall=2.0)
    nodes = np.array([[0, 0, 0], [a, 0, 0], [length, 0, 0]])
    bars = [Bar(a=i, b=i + 1, section=section, elastic_modulus=E, shear_modulus=G) for i in (0, 1)]
    held = np.zeros((3, 6), bool)
    held[[0, 2]] = True
    loads = np.zeros((3, 6, 1))
    loads[1, 2, 0] = -force
    found = frame(nodes, bars, held, loads)
    bending = found.bending()[:, :, 0]
    assert bending[0, 0] == pytest.approx(force * a * b * b / length**2, rel=1e-9)
    assert bending[1, 1] == pytest.approx(force * a * a * b / length**2, rel=1e-9)
    assert bending[0, 1] == pytest.approx(2 * force * a * a * b * b / length**3, rel=1e-9)
    assert found.reactions[0, 2, 0] == pytest.approx(force * b * b * (3 * a + b) / length**3, rel=1e-9)


def test_a_truss_carries_along_its_bars_alone() -> None:
    """Two bars that meet at 90° on hinges: the force splits along them, and thin bars bend next to nothing."""
    nodes = np.array([[0, 0, 0], [600, 0, 0], [300, 300, 0]], float)
    ends = [(0, 2), (1, 2)]
    stiffness = np.array([[[2e7, 1e3, 1e3]] * 2])
    held = np.zeros((3, 6), bool)
    held[:2, :3] = True
    held[2, 2] = True
    held[:, 3] = held[:, 4] = True
    loads = np.zeros((3, 6, 1))
    loads[2, :2, 0] = (500.0, -1000.0)
    found = frames(nodes, ends, stiffness, held, loads)
    # away from the first pivot and down: the second bar is pressed more
    expected = np.array([(500 - 1000) / 2**0.5, (-500 - 1000) / 2**0.5])
    assert found.axial()[0, :, 0] == pytest.approx(expected, rel=1e-4)
    assert found.bending().max() < 1.0


finite = st.floats(-400, 400)


@given(
    st.lists(st.tuples(finite, finite, finite), min_size=4, max_size=6, unique=True),
    st.lists(st.tuples(st.floats(18, 60), st.floats(1.5, 6)), min_size=2, max_size=4),
    st.tuples(finite, finite, finite),
)
@settings(max_examples=40, deadline=None)
def test_many_sizes_at_once_are_each_by_itself(
    points: list[tuple[float, float, float]], sizes: list[tuple[float, float]], push: tuple[float, float, float]
) -> None:
    nodes = np.array(points)
    ends = [(i, i + 1) for i in range(len(nodes) - 1)]
    if min(float(np.linalg.norm(nodes[b] - nodes[a])) for a, b in ends) < 20:
        return
    sections = [Section(od=od, wall=wall) for od, wall in sizes]
    held = np.zeros((len(nodes), 6), bool)
    held[0] = True
    loads = np.zeros((len(nodes), 6, 1))
    loads[-1, :3, 0] = push
    stiffness = np.array([[stiffness_of(s, E, G)] * len(ends) for s in sections])
    together = frames(nodes, ends, stiffness, held, loads)
    for i, section in enumerate(sections):
        bars = [Bar(a=a, b=b, section=section, elastic_modulus=E, shear_modulus=G) for a, b in ends]
        alone = frame(nodes, bars, held, loads)
        size = max(1.0, float(np.abs(alone.bars).max()))
        assert np.abs(together.bars[i] - alone.bars).max() < 1e-7 * size
        # a cantilever: what comes in at the tip is what the foot holds
        assert together.reactions[i, 0, :3, 0] == pytest.approx(
            -np.array(push), abs=1e-6 * max(1.0, np.abs(push).max())
        )
    assert together.residual < 1e-9


def test_a_flat_strut_is_weak_about_its_thin_side() -> None:
    ea, ei, gj = flat_stiffness(60.0, 4.0, E, G)
    assert ea == pytest.approx(E * 240)
    assert ei == pytest.approx(E * 60 * 64 / 12)
    assert gj == pytest.approx(G * 60 * 64 / 3)
