"""A leaf that is kept for locating: where its link's pivot stands, and what an end on two of them carries.

Source: three-quarter rule of the SAE spring manual HS-788 (from memory), derived here from a leaf bent to one curvature, as one that tapers
to equal stress is.
"""

from __future__ import annotations

import numpy as np
import pytest
from scipy.integrate import quad

from tests.core.end_jobs import all_parts, job_of, members_of
from tests.core.test_statics import carried, solved, sprung
from tests.jobs import template_of, work
from tirante.core.document.template import Template
from tirante.core.job.evaluate import evaluate
from tirante.core.suspension.cycle import measured
from tirante.core.suspension.statics import Push


def test_the_clamped_end_of_a_leaf_goes_on_a_circle_of_three_quarters_of_its_length() -> None:
    """x = ∫cos(κs) ds, h = ∫sin(κs) ds of a leaf of 620 mm, clamped level: its eye seen from the clamp goes as a link of 3/4 does that pivots
    on the clamp's side a quarter of the length from it."""
    length = 620.0
    radius = 0.75 * length
    for rise in (-90.0, -40.0, 40.0, 90.0):
        low, high = -1e-2, 1e-2
        for _ in range(80):  # the curvature that gives that rise
            kappa = (low + high) / 2
            h = quad(lambda s, k=kappa: np.sin(k * s), 0, length)[0]  # type: ignore[misc]
            low, high = (kappa, high) if h < rise else (low, kappa)
        x = quad(lambda s, k=kappa: np.cos(k * s), 0, length)[0]  # type: ignore[misc]
        link = 0.25 * length + np.sqrt(radius**2 - rise**2)
        assert x == pytest.approx(link, abs=0.1)
        assert abs(x - link) < 0.02 * (length - x)  # of how far it draws in
        whole = np.sqrt(length**2 - rise**2)  # a link from eye to clamp would miss that by a quarter
        assert abs(x - whole) > 0.2 * (length - x)


def test_two_leaves_hold_an_axle_along_and_across_and_leave_it_to_rise_and_lean() -> None:
    """Equilibrium by hand: the leaves' pulls along share a brake with the top link by moments about the axle; across they share by halves."""
    end = sprung("leaves-top-link")
    brake, side = 3000.0, 2400.0
    pushes = [Push(at=f"contact_{s}", force=(-brake / 2, side / 2, 2000.0)) for s in ("left", "right")]
    found = carried(end, *pushes)
    assert found.residual < 1e-9
    leaves = [found.joints[f"leaf at its clamp, {s}"] for s in ("left", "right")]
    signs = [1.0 if joint.body == "axle" else -1.0 for joint in leaves]
    pulls = [sign * joint.force for sign, joint in zip(signs, leaves, strict=True)]
    acting = found.on["axle"]
    assert sum(act.force for act in acting) == pytest.approx(np.zeros(3), abs=1e-6)
    top = next(act.force for act in acting if act.what == "top link")
    springs = sum(act.force for act in acting if "spring" in act.what)
    assert sum(pull[0] for pull in pulls) + top[0] + springs[0] == pytest.approx(brake)
    # moments about the y axis through the leaves' hinges: brake at the ground, top link, springs and wheels' loads
    low = np.array(end.points["leaf_bend"])
    moment = sum(
        float(np.cross(act.at - low, act.force)[1] + act.moment[1]) for act in acting if "leaf" not in act.what
    )
    assert moment == pytest.approx(0.0, abs=1e-3 * brake * 300)
    across = [pull[1] for pull in pulls]
    assert across[0] == pytest.approx(across[1], rel=2e-2)
    # rises and leans freely
    columns = measured(solved(end, 20.0, 2.0)).columns
    assert abs(columns["lateral_shift_mm"][0]) < 2.0


def test_a_leaf_is_bought_and_said_so_wherever_parts_are_listed() -> None:
    design = job_of("leaves-top-link")
    assert {one.name: one.sort for one in members_of(design)} == {
        "top link": "link",
        "axle": "carrier",
        "leaf": "bought",
    }
    assert [part.stands_for for part in all_parts(design)] == ["top link"]
    told = {one.name: one.why for one in evaluate(work(design)).not_made if one.end_id == design.ends[0].id}
    assert told["leaf"] == "bought whole: not made and not judged here, its forces stand at Loads"
    kind = template_of(design.ends[0].end).model_dump()
    for bought, why in ((["spring"], "no body"), (["axle"], "carries a wheel")):
        with pytest.raises(ValueError, match=why):
            Template.model_validate({**kind, "bought": bought})
