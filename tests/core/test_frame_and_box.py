"""Frames against a general frame library and closed forms; the boxed link against strips; the fatigue screen; size all."""

from __future__ import annotations

import itertools
from math import pi

import numpy as np
import pytest
from Pynite import FEModel3D

from tests.conftest import ROOT
from tests.jobs import links, work
from tirante.calc.registry import calculate
from tirante.core.document.catalogue import KINDS, Catalogue, read_csv
from tirante.core.document.parts.link import Link
from tirante.core.document.upgrades import load_design
from tirante.core.errors import InputError
from tirante.core.job.size_all import fewest_stocks, size_all
from tirante.core.job.worked import Worked
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.members.boxed_link import Box, boxed_link
from tirante.core.members.fatigue import screen
from tirante.core.members.frame import Bar, frame, von_mises
from tirante.core.members.tube import Section
from tirante.core.parts.around import seen_between
from tirante.core.parts.link.assembly import Everyday, stack_of
from tirante.core.parts.link.kind import LINK, duty
from tirante.core.parts.link.life import COVERED, everyday_of
from tirante.core.parts.link.prudent import prudent_for
from tirante.core.parts.link.sizing import candidates, judge, size

E, G = 205_000.0, 205_000.0 / 2.6
TUBE = Section(od=25.4, wall=3.05)


def shelf(series: str = "metric") -> Catalogue:
    rows = {kind: tuple(read_csv(kind, (ROOT / f"data/catalogue/{kind}.csv").read_text())) for kind in KINDS}
    rows["tubes"] = tuple(row for row in rows["tubes"] if row.series == series)  # type: ignore[attr-defined]
    return Catalogue(**rows)  # type: ignore[arg-type]


# --- frames ---------------------------------------------------------------------------------------------------------------


def test_a_cantilever_bends_twists_and_stretches_as_the_formulas_say() -> None:
    length = 400.0
    direction = np.array([0.6, 0.48, 0.64])
    side = np.cross(direction, [0, 0, 1.0])
    side /= np.linalg.norm(side)
    loads = np.zeros((2, 6, 3))
    loads[1, :3, 0] = 700 * side
    loads[1, :3, 1] = 900 * direction
    loads[1, 3:, 2] = 5e4 * direction
    held = np.array([[True] * 6, [False] * 6])
    found = frame(
        np.array([[0, 0, 0], direction * length]),
        [Bar(a=0, b=1, section=TUBE, elastic_modulus=E, shear_modulus=G)],
        held,
        loads,
    )
    i = TUBE.second_moment
    assert found.displacements[1, :3, 0] @ side == pytest.approx(700 * length**3 / (3 * E * i), rel=1e-9)
    assert found.displacements[1, :3, 1] @ direction == pytest.approx(900 * length / (E * TUBE.area), rel=1e-9)
    assert found.displacements[1, 3:, 2] @ direction == pytest.approx(5e4 * length / (G * 2 * i), rel=1e-9)
    assert found.bending()[0, :, 0] == pytest.approx([700 * length, 0.0], abs=1e-6)
    assert found.axial()[0, 1] == pytest.approx(900.0)
    assert found.torsion()[0, 2] == pytest.approx(5e4)


def arm() -> tuple[dict[str, list[float]], list[tuple[str, str]]]:
    nodes = {
        "front": [200.0, 0, 0],
        "rear": [-180.0, 10, -12],
        "outer": [15.0, 350, -20],
        "mount": [60.0, 190, 25],
        "brace": [-60.0, 200, -15],
    }
    return nodes, [("front", "mount"), ("mount", "outer"), ("rear", "brace"), ("brace", "outer"), ("mount", "brace")]


def test_an_arm_agrees_with_a_general_frame_library() -> None:
    nodes, tubes = arm()
    load, along = [-3000.0, 4200.0, 900.0], np.array([0.1, -0.35, 0.93])
    along = along / np.linalg.norm(along)
    ours = calculate("arm", {
        "nodes": nodes, "tubes": [{"a": a, "b": b, "od_mm": 25.4, "wall_mm": 3.05, "yield_mpa": 435} for a, b in tubes],
        "pivots": ["front", "rear"], "held": [{"at": "mount", "along": along.tolist()}], "loads": [{"at": "outer", "f_n": load}],
    })  # fmt: skip
    model = FEModel3D()
    model.add_material("s", E, G, 0.3, 7.85e-6)
    model.add_section("t", TUBE.area, TUBE.second_moment, TUBE.second_moment, 2 * TUBE.second_moment)
    model.add_section("stiff", 1e4, 1.0, 1.0, 1.0)
    for name, at in nodes.items():
        model.add_node(name, *at)
    model.add_node("ground", *(np.array(nodes["mount"]) + 100 * along))
    model.def_support("ground", True, True, True, True, True, True)
    for pivot in ("front", "rear"):
        model.def_support(pivot, True, True, True, False, False, False)
    for a, b in tubes:
        model.add_member(f"{a}-{b}", a, b, "s", "t")
    model.add_member("spring", "mount", "ground", "s", "stiff")
    model.def_releases("spring", Rxi=True, Ryi=True, Rzi=True, Ryj=True, Rzj=True)
    for direction, value in zip(("FX", "FY", "FZ"), load, strict=True):
        model.add_node_load("outer", direction, value)
    model.analyze_linear()
    assert ours["residual"] < 1e-9
    for tube in ours["tubes"]:
        member = model.members[f"{tube['a']}-{tube['b']}"]
        assert tube["axial_n"] == pytest.approx(-float(member.max_axial()), rel=1e-3, abs=2.0)
        theirs = [float(np.hypot(member.moment("My", x), member.moment("Mz", x))) for x in (0.0, member.L())]
        assert tube["moment_nmm"] == pytest.approx(theirs, rel=2e-3, abs=30.0)
        assert tube["torsion_nmm"] == pytest.approx(abs(float(member.torque(0.0))), rel=5e-3, abs=30.0)
    moved = ours["displacements_mm"]["outer"]
    node = model.nodes["outer"]
    assert moved == pytest.approx([float(d["Combo 1"]) for d in (node.DX, node.DY, node.DZ)], rel=2e-3, abs=1e-5)
    # all supports against the load
    total = np.sum(list(ours["reactions_n"].values()), axis=0) + load
    assert np.abs(total).max() < 1e-6


def test_a_frame_that_is_loose_is_refused_and_names_that_it_is() -> None:
    nodes, tubes = arm()
    data = {"nodes": nodes, "tubes": [{"a": a, "b": b, "od_mm": 25.4, "wall_mm": 3.05, "yield_mpa": 435} for a, b in tubes],
            "pivots": ["front", "rear"], "loads": [{"at": "outer", "f_n": [0, 0, 1]}]}  # fmt: skip
    with pytest.raises(InputError, match="move freely"):
        calculate("arm", data)
    with pytest.raises(InputError, match="no node"):
        calculate("arm", {**data, "pivots": ["front", "back"]})
    with pytest.raises(InputError, match="no length"):
        calculate("arm", {**data, "nodes": {**nodes, "brace": nodes["mount"]}})


def test_von_mises_of_a_shaft_in_bending_and_torsion() -> None:
    """Shigley's combined stress of a solid shaft: 16/(π d³) √(4 M² + 3 T²) (from memory)."""
    d, m, t = 20.0, 8e4, 5e4
    assert von_mises(Section(od=d), 0.0, m, t, 0.0) == pytest.approx(16 / (pi * d**3) * (4 * m * m + 3 * t * t) ** 0.5)


# --- the boxed link ----------------------------------------------------------------------------------------------------------


def test_the_box_against_strips_and_bredt() -> None:
    box = Box(height=70, width=60, side=5, top=6, bottom=4)
    strips = 20_000
    y = (np.arange(strips) + 0.5) * box.height / strips
    width = np.where((y < box.bottom) | (y > box.height - box.top), box.width, 2 * box.side)
    area = width.sum() * box.height / strips
    centre = (width * y).sum() / width.sum()
    assert box.area == pytest.approx(area, rel=1e-4)
    assert box.centroid == pytest.approx(centre, rel=1e-4)
    assert box.second_moment == pytest.approx((width * (y - centre) ** 2).sum() * box.height / strips, rel=1e-4)
    found = boxed_link(box, 800, 12_000, 500, 20, 0.0, E, 4.0, 483.0)
    assert found.moment == pytest.approx(12_000 * 500 * 300 / 800)
    assert found.bending == pytest.approx(found.moment * max(centre, 70 - centre) / box.second_moment, rel=1e-3)
    # Bredt: the torque is twice the cell times the flow
    assert found.torsion * box.bottom * 2 * box.cell == pytest.approx(12_000 * 20)
    # shear over both sides comes to the force: Q/(I b) over the height, by the strips
    q = np.array([(width * (y - centre))[k:].sum() * box.height / strips for k in range(0, strips, 50)])
    tau = found.shear_force * q / (box.second_moment * width[::50])
    assert found.shear == pytest.approx(tau.max(), rel=1e-2)
    # seams: the flow that joins a flange, by equilibrium of the flange between two near sections
    flange = box.width * box.top * (box.height - box.top / 2 - centre)
    other = box.width * box.bottom * (centre - box.bottom / 2)
    flow = found.shear_force * max(flange, other) / box.second_moment / 2
    assert found.seam_flow == pytest.approx(flow + 12_000 * 20 / (2 * box.cell), rel=1e-3)


def test_a_pressed_plate_buckles_at_the_handbook_value() -> None:
    """σ = 4 π² E/(12 (1 − ν²)) (t/b)²: 723 MPa for steel of E 200 GPa, t/b 1/31.6 (3.615 E (t/b)²; Timoshenko and Gere)."""
    box = Box(height=80, width=110, side=5, top=100 / 31.6, bottom=6)
    found = boxed_link(box, 800, 100, 400, 0, 0.0, 200_000.0, 4.0, 483.0)
    assert found.top_buckling == pytest.approx(3.615 * 200_000 / 31.6**2, rel=1e-3)


def test_a_push_amplifies_and_past_the_column_is_refused() -> None:
    box = Box(height=50, width=40, side=3, top=3, bottom=3)
    elastic = pi**2 * E * box.second_moment / 900**2
    plain, pushed = (boxed_link(box, 900, 5000, 450, 0, -p, E, 4.0, 483.0) for p in (0.0, 0.25 * elastic))
    assert pushed.bending == pytest.approx(plain.bending / 0.75)
    with pytest.raises(InputError, match="buckling load"):
        boxed_link(box, 900, 5000, 450, 0, -1.1 * elastic, E, 4.0, 483.0)
    with pytest.raises(InputError, match="between the pins"):
        boxed_link(box, 900, 5000, 950, 0, 0, E, 4.0, 483.0)
    with pytest.raises(InputError):
        Box(height=10, width=40, side=3, top=5, bottom=5)


def test_the_fatigue_line_meets_class_and_limit() -> None:
    """EN 1993-1-9: the class at 2 million cycles, 0.737 of it at 5 million (from memory)."""
    assert screen(71.0, 71.0, 1.0).cycles == pytest.approx(2e6)
    assert screen(1.0, 100.0, 1.0).limit == pytest.approx(73.7, abs=0.05)
    just = screen(1.0, 100.0, 1.0).limit * (1 + 1e-12)
    assert screen(just, 100.0, 1.0).cycles == pytest.approx(5e6, rel=1e-6)
    assert screen(2 * 50.0, 50.0, 1.0).cycles == pytest.approx(2e6 / 8)


# --- size all ------------------------------------------------------------------------------------------------------------------


def tern() -> Worked:
    return work(load_design((ROOT / "data/demo/tern.json").read_bytes()))


def seen(link: Link, job: Worked) -> tuple[CaseSeen, ...]:
    return seen_between(link.between, link.side, link.cases, job)


def test_least_mass_of_the_job_is_that_of_each_link_and_nothing_lighter_passes() -> None:
    job, catalogue = tern(), shelf()
    found = size_all(job, catalogue)
    members = [one for one in found.parts if one.part.kind == "link"]
    # the bracket after the members that it holds, for what they have become
    assert [one.part.kind for one in found.parts] == ["link", "link", *["tab_pair"] * 5]
    for one, link in zip(members, links(job.design), strict=True):
        assert one.sized
        assert one.sized.winner
        mass = one.sized.winner.mass
        assert mass == pytest.approx(LINK.size(link, job, catalogue, "mass").winner.mass)  # type: ignore[union-attr]
        refit = LINK._refitter(link, job, catalogue)
        known = everyday_of(link, job)
        assert isinstance(known, Everyday)
        for candidate in itertools.takewhile(
            lambda c, m=mass: c.mass < m - 1e-3,
            candidates(
                link,
                seen(link, job),
                job.settings,
                catalogue,
                prudent=prudent_for(job.settings, "circuit", seen(link, job), duty(link, job), frozenset(COVERED)),
                everyday=known,
            ),
        ):  # type: ignore[misc]
            assert not judge(candidate, job.settings, refit).passed
    assert found.mass == pytest.approx(sum(one.sized.winner.mass for one in found.parts))  # type: ignore[union-attr]


def test_the_fewest_stocks_are_the_fewest_of_all_choices() -> None:
    job, catalogue = tern(), shelf()
    small = catalogue.model_copy(update={"tubes": catalogue.tubes[::4], "grades": catalogue.grades[:6]})
    own = {link.id: LINK.options(link, job, small) for link in links(job.design)}
    exhaustive = {}
    for link in links(job.design):
        every = LINK.options(link, job, small)
        assert every
        masses = {}
        for stock in list(every.least):
            while stock in every.least and not every.settle(stock):
                pass
            if stock in every.least:
                masses[stock] = every.passing(stock).mass
        exhaustive[link.id] = masses
    found = fewest_stocks(own)  # type: ignore[arg-type]
    best = min(
        (len(set(choice)), sum(exhaustive[link][stock] for link, stock in zip(exhaustive, choice, strict=True)))
        for choice in itertools.product(*(list(options) for options in exhaustive.values()))
    )
    assert (len({c.stock for c in found.values()}), sum(c.mass for c in found.values())) == pytest.approx(best)
    # the job's own answer is the same, with what each would weigh by itself said
    whole = size_all(job, small, "stocks")
    members = sum(one.sized.winner.mass for one in whole.parts if one.part.kind == "link")  # type: ignore[union-attr]
    assert (whole.stocks, members) == pytest.approx(best)


def test_least_cost_needs_every_price_and_then_is_the_cheapest() -> None:
    job, catalogue = tern(), shelf()
    link = links(job.design)[0]
    cases = seen(link, job)
    with pytest.raises(InputError, match="needs a price"):
        size(link, cases, job.settings, catalogue, "cost")
    priced = catalogue.model_copy(update={
        kind: tuple(row.model_copy(update={"price": 2.0 + 3.1 * (i % 7)}) for i, row in enumerate(catalogue.rows(kind)))
        for kind in ("grades", "joints", "inserts", "nuts")
    })  # fmt: skip
    found = size(link, cases, job.settings, priced, "cost")
    assert found.winner
    # what it costs, piece by piece: tube by its mass, two of each of the rest
    assembly, end = found.winner.candidate.assembly, found.winner.candidate.assembly.threaded[0]
    stack = stack_of(assembly, job.settings)
    kilos = assembly.section.area * stack.tube_cut * assembly.grade.density_kg_m3 * 1e-9
    pieces = sum(row.price or 0.0 for row in (end.joint, end.insert, end.nut))
    assert found.winner.candidate.cost == pytest.approx((assembly.grade.price or 0.0) * kilos + 2 * pieces)
    for candidate in candidates(link, cases, job.settings, priced, "cost"):
        if candidate.cost >= found.winner.candidate.cost - 0.01:  # type: ignore[operator]
            break
        assert not judge(candidate, job.settings).passed
    by_mass = size(link, cases, job.settings, priced)
    assert by_mass.winner.candidate.cost >= found.winner.candidate.cost  # type: ignore[union-attr, operator]


def test_it_can_be_stopped_and_what_is_done_stands() -> None:
    found = size_all(tern(), shelf(), progress=lambda done, _: done < 1)
    assert len(found.parts) == 1
    assert found.parts[0].sized
    assert found.asked == 7
