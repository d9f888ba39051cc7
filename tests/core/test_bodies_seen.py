"""What acts on every moving body of every shipped end, in the body's own axes: in balance, and where the points of the end are."""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.test_statics import BEAMS, ENDS, HIT, carried, solved, sprung
from tirante.core.document.end import AdditionIn
from tirante.core.mechanism.model import GROUND
from tirante.core.suspension.statics import Push

OTHER = Push(at="contact_right", force=(900.0, -1700.0, 2600.0))
FORCE, MOMENT = 1e-6, 1e-3  # N, N·mm, of some 10 kN and 1 kN·m


@pytest.mark.parametrize("name", ENDS)
@pytest.mark.parametrize("at", [(0.0, 0.0, 0.0), (25.0, 1.0, 0.0)])
def test_every_moving_body_is_in_balance_in_its_own_axes(name: str, at: tuple[float, float, float]) -> None:
    end = sprung(name)
    if name == "centre-pivot-beam" and at[0]:
        at = (0.0, 2.0, 0.0)
    if end.additions.get("anti-roll-bar"):
        stiff = end.additions["anti-roll-bar"].model_copy(update={"rate_nm_per_deg": 80.0})
        assert isinstance(stiff, AdditionIn)
        end = end.model_copy(update={"additions": {**end.additions, "anti-roll-bar": stiff}})
    found = carried(end, HIT, OTHER, at=at)
    assert set(found.on) <= set(found.poses)
    for body, acting in found.on.items():
        own = [found.poses[body].own(act) for act in acting]
        for seen in (acting, own):
            force = np.sum([act.force for act in seen], axis=0)
            turn = np.sum([np.cross(act.at, act.force) + act.moment for act in seen], axis=0)
            if name in BEAMS and body == "axle":
                turn = np.zeros(3)  # its lean is held, not carried
            assert np.abs(force).max() < FORCE, (body, force)
            assert np.abs(turn).max() < MOMENT, (body, turn)
        # sizes stay what they are
        assert [float(np.linalg.norm(act.force)) for act in own] == pytest.approx(
            [float(np.linalg.norm(act.force)) for act in acting]
        )
    bars = [act for acting in found.on.values() for act in acting if "anti-roll bar" in act.what]
    if "anti-roll-bar" in name and at[1]:
        assert bars
        assert all(float(np.linalg.norm(act.moment)) > 1000.0 for act in bars)


@pytest.mark.parametrize("name", ENDS)
def test_what_acts_on_a_body_acts_where_the_end_s_points_are(name: str) -> None:
    """Leaning and risen, the links of every body stand in its own axes on the points that were measured; the right one on the left's."""
    end = sprung(name)
    at = (0.0, 2.0, 0.0) if name == "centre-pivot-beam" else (25.0, 1.0, 0.0)
    found = carried(end, HIT, OTHER, at=at)
    done = solved(end, *at)
    looked = 0
    for side, suffix in ((done.left, ""), (done.right, ", right")):
        if side is None:
            continue
        for link in side.assembled.links:
            for mark in (link.a, link.b):
                if mark.body == GROUND:
                    continue
                body = f"{mark.body}{suffix}"
                act = next(one for one in found.on[body] if one.what == f"{link.name}{suffix}")
                own = found.poses[body].own(act)
                mirror = np.array([1.0, -1.0 if mark.body.endswith("_right") else 1.0, 1.0])
                assert own.at == pytest.approx(np.array(mark.at) * mirror, abs=1e-6)
                looked += 1
    assert looked or not [j for j in done.left.assembled.template.joints if j.kind == "link"]
