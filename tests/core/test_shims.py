"""Shims as degrees: a joint moved along its bolt, the made parts as long as they were, and what the end then reads, from its points alone."""

from __future__ import annotations

from math import atan2, degrees

import numpy as np
import pytest

from tests.jobs import work
from tirante.core.document.design import Design
from tirante.core.errors import InputError
from tirante.core.job.hole_table import SHIMS, _on_the_car, _other_pivot, shim_table


def part_id(design: Design, name: str) -> str:
    return next(part.id for part in design.parts if part.name == name)


def figure(row: object, key: str) -> float:
    value = next(one.value for one in row.figures if one.key == key)  # type: ignore[attr-defined]
    assert value is not None
    return float(value)


@pytest.mark.parametrize("name", ["Front lower arm, front pivot, tabs", "Front upper arm, rear pivot, tabs"])
def test_caster_by_shim_is_what_the_outer_joints_then_say(mounted: Design, name: str) -> None:
    """The end is moved as a shim moves it; caster read off the two outer joints in the side view, and every tube still as long."""
    job, own = work(mounted), part_id(mounted, name)
    table = shim_table(job, own)
    joint = job.held_by(own)[0]
    stand, pickup = _on_the_car(job, joint, "")
    bolt = stand.standing.bolt
    other = _other_pivot(job, joint, pickup, bolt)
    assert other is not None
    assert {pickup.point, other[0]} in ({"lower_front", "lower_rear"}, {"upper_front", "upper_rear"})
    assert table.amounts == SHIMS
    was = mounted.ends[0].end.points
    for amount, row in zip(table.amounts, table.rows, strict=True):
        assert not row.fault
        assert row.at == pytest.approx(tuple(stand.at.at + amount * bolt))
        moved = pickup.end.end if amount == 0 else pickup.moved(job, row.at, (other[0], amount * other[1]))
        now = moved.points
        assert now[other[0]] == pytest.approx(tuple(np.array(was[other[0]]) + amount * other[1]))
        low, up = (np.array(now[f"{which}_outer"]) for which in ("lower", "upper"))
        caster = degrees(atan2(low[0] - up[0], up[2] - low[2]))  # the kingpin leans back: its top is further back
        assert figure(row, "caster_deg") == pytest.approx(caster, abs=1e-6)
        for which in ("lower", "upper"):
            for pivot in ("front", "rear"):
                before, after = (
                    float(np.linalg.norm(np.subtract(p[f"{which}_{pivot}"], p[f"{which}_outer"]))) for p in (was, now)
                )
                assert after == pytest.approx(before, abs=0.01)
    slope = abs(figure(table.rows[-1], "caster_deg") - figure(table.rows[0], "caster_deg")) / 6.0
    if "upper" in name:
        # its rod ends' bolts lie square to the sides: along them a side only swings about the outer joint, which stays
        assert slope < 1e-3
    else:
        # both pivots go along the hinge, and the whole arm with them: a millimetre over the height between the joints, near enough
        tall = was["upper_outer"][2] - was["lower_outer"][2]
        assert slope == pytest.approx(degrees(1.0 / tall), rel=0.15)
        assert (figure(table.rows[-1], "caster_deg") > figure(table.rows[0], "caster_deg")) == (bolt[0] > 0)


def test_the_shims_that_are_there_are_told_and_which_way_is_which(mounted: Design) -> None:
    own = part_id(mounted, "Rear lower link, end A, tabs")
    table = shim_table(work(mounted), own)
    (joint,) = [one for one in mounted.joints if one.by == own]
    assert f"It has {joint.shim_mm:g} mm on either side" in table.told
    assert "toward the left" in table.told
    assert "other pivot" not in table.told
    # both links of the axle go out and in together: the roll centre moves, steer of the axle does not
    assert figure(table.rows[0], "roll_centre_mm") != figure(table.rows[-1], "roll_centre_mm")
    none = mounted.model_copy(update={"joints": tuple(o.model_copy(update={"shim_mm": 0.0}) if o.by == own else o for o in mounted.joints)})  # fmt: skip
    assert "It has none on either side" in shim_table(work(none), own).told


@pytest.mark.parametrize(
    ("name", "why"),
    [
        ("Rear lower link, end B, tabs", "only a pick-up on the car"),
        ("Front tie rod, tabs", "stands on no mount"),
    ],
)
def test_what_has_no_shims_to_move_says_why(mounted: Design, name: str, why: str) -> None:
    with pytest.raises(InputError, match=f"(?i){why}"):
        shim_table(work(mounted), part_id(mounted, name))
