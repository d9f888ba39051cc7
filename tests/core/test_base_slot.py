"""A slot in the base of a folded bracket: the least that clears what swings there, and what is cut."""

from __future__ import annotations

import tempfile
from dataclasses import replace
from math import pi
from pathlib import Path

import ezdxf
import numpy as np
import pytest
from shapely.geometry import Polygon

from tests.core.test_room import own_at
from tests.jobs import draw, part_of, with_joint, work
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.folded_u import BaseSlot, FoldedU
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.flat.contour import Contour, require_closed
from tirante.core.job.room.around import moving_things
from tirante.core.job.room.own import Own, own_mount, swinging
from tirante.core.job.room.room import WANTED, Line, runs_told, swings
from tirante.core.parts.bracket.families.base_slot import ROUND, opening_of, require_slot
from tirante.core.parts.bracket.families.folded_u import _open, flat_of
from tirante.core.parts.bracket.families.place_view import contour_points
from tirante.core.parts.stands import facing
from tirante.documents.dxf import to_dxf


@pytest.mark.parametrize("aside", [0.0, 14.0])
def test_the_least_slot_in_a_base_is_told_and_clears_what_swings_over_it(aside: float, mounted: Design) -> None:
    """Ears far apart on a thick base: cut as it says it clears; a millimetre narrower or shorter it does not. Between ears that stand near it does not fit, and that is told."""
    folded = next(part for part in mounted.parts if isinstance(part, FoldedU))
    job = work(mounted)
    own, seen, joint = own_at(job, folded.id)
    runs = runs_told(job, own, (joint, "it"), (seen, moving_things(job, seen)), [])
    assert own.footing
    made = replace(own.made, joint=own.made.joint.model_copy(update={"shim_mm": 60.0}))
    # the base’s middle stands beside the joint, so that the slot is off its middle
    standing = replace(own.stand.standing, foot=own.stand.standing.foot - aside * own.stand.standing.x)
    wide = replace(own, made=made, stand=replace(own.stand, standing=standing))
    swung, mount = swinging(own, runs, seen.lanes, hinge=own.stand.at.hinged), own_mount(seen, own)

    def on_base(thick: float, slot: tuple[float, float, float] | None = None, of: Own = wide) -> Line | None:
        """By the slot's width, its length, and its middle."""
        one = None if slot is None else BaseSlot(wide_mm=slot[0], long_mm=slot[1], at_mm=slot[2])
        footing = replace(own.footing, thick=thick, radius=4.0, width=150.0, slot=_open(one))  # type: ignore[type-var]
        return next((line for line in swings(replace(of, footing=footing), seen, swung, mount, []) if line.to == "its base"), None)  # fmt: skip

    def clear(line: Line | None) -> bool:
        return line is None or (line.gap_mm or 0.0) >= WANTED

    high = float(own.place[1])
    thick = next(float(t) for t in np.arange(4.0, high, 1.0) if not clear(on_base(float(t))))
    told = on_base(thick + 2.0)
    assert told is not None
    size = told.cure.split("with a slot in its base, ")[1]
    across, along = float(size.split(" mm along the bolt")[0]), float(size.split("and ")[1].split(" mm along the bends")[0])  # fmt: skip
    at = float(size.split("its middle ")[1].split(" mm")[0]) if "its middle" in size else 0.0
    way = facing(own.stand.standing.x)
    at = at if f"toward {way}" in size else -at
    assert abs(at) == pytest.approx(aside, abs=6.0)
    assert clear(on_base(thick + 2.0, (across, along, at)))
    assert not clear(on_base(thick + 2.0, (across - 2.0, along, at)))
    assert not clear(on_base(thick + 2.0, (across, along - 2.0, at)))
    near = on_base(thick + 2.0, of=own)
    assert near is not None
    assert "would have to be" in near.cure
    assert "more than bends and edges leave" in near.cure


def test_a_slot_in_a_base_is_cut_from_its_flat_with_round_corners() -> None:
    """Area and place by hand; the rule's limit is told and is taken when it is typed."""
    slot = BaseSlot(wide_mm=20.0, long_mm=40.0, at_mm=6.0)
    ring = [edge.start for edge in opening_of(slot)]
    assert Polygon(contour_points(Contour(edges=opening_of(slot)), 0.2)).area == pytest.approx(800.0 - (4.0 - pi) * ROUND**2, rel=1e-4)  # fmt: skip
    assert min(y for _, y in ring) >= -14.0
    assert max(y for _, y in ring) <= 26.0
    require_closed(Contour(edges=opening_of(slot)), "slot")
    # gap 60, R 5, t 5: half the flat is 25, 2 t + R = 15 left: 20 wide; 80 along: 40 − 10 − 6, 48 long
    require_slot(slot.model_copy(update={"long_mm": 48.0}), 60.0, (80.0, 5.0, 5.0))
    for change, field, told in (
        ({"wide_mm": 20.1}, "slot.wide_mm", "20.0 mm or less"),
        ({"long_mm": 48.1}, "slot.long_mm", "48.0 mm or less"),
    ):
        with pytest.raises(InputError, match=told) as error:
            require_slot(slot.model_copy(update=change), 60.0, (80.0, 5.0, 5.0))
        assert error.value.fields == (field,)


def test_a_folded_bracket_with_a_slot_says_so_on_its_card_and_is_cut_so(mounted: Design) -> None:
    folded = next(part for part in mounted.parts if isinstance(part, FoldedU))
    held = next(one for one in mounted.joints if one.by == folded.id)
    wide = with_joint(mounted, held, shim_mm=30.0, mount=None)
    slotted = folded.model_copy(update={"slot": BaseSlot(wide_mm=12.0, long_mm=30.0)})
    plain, cut = part_of(folded, wide), part_of(slotted, wide)
    assert (plain.faults, cut.faults) == ((), ())
    assert cut.card is not None
    assert "its base beside its slot" in cut.not_checked
    assert "its base beside its slot" not in plain.not_checked
    assert [line.mm for line in cut.card.lines if "slot" in line.text] == [12.0, 30.0]
    assert plain.own.flat.contour.area - cut.own.flat.contour.area == pytest.approx(360.0 - (4.0 - pi) * ROUND**2)
    path = Path(tempfile.mkdtemp()) / "flat.dxf"
    path.write_text(to_dxf(draw(slotted, wide, "folded-flat", Numbers())))
    arcs = [one for one in ezdxf.readfile(path).modelspace() if one.dxf.layer == "CUT" and one.dxftype() == "ARC" and abs(one.dxf.radius - ROUND) < 1e-6]  # fmt: skip
    assert len(arcs) == 4


def test_a_base_with_a_slot_is_all_of_it_but_the_slot(mounted: Design) -> None:
    """In the room: what lies on the member is the base less the largest square-cornered opening in the slot."""
    folded = next(part for part in mounted.parts if isinstance(part, FoldedU))
    own, _, _ = own_at(work(mounted), folded.id)
    slot = BaseSlot(wide_mm=20.0, long_mm=30.0, at_mm=5.0)
    whole, cut = (replace(own.footing, width=90.0, radius=0.0, slot=one) for one in (None, _open(slot)))
    areas = [sum(Polygon(flat.outline).area for flat in one.laid(60.0, own.stand)) for one in (whole, cut)]
    inside = 4.0 * (1.0 - 0.5**0.5)
    assert areas[0] == pytest.approx(90.0 * 60.0)
    assert areas[0] - areas[1] == pytest.approx((20.0 - 2 * inside) * (30.0 - 2 * inside))
    # the opening’s corner touches the round of the slot’s: as far from its centre as that is round
    assert np.hypot(4.0 - inside, 4.0 - inside) == pytest.approx(ROUND)


def test_a_skewed_base_has_no_slot_and_says_so(mounted: Design) -> None:
    folded = next(part for part in mounted.parts if isinstance(part, FoldedU))
    with pytest.raises(InputError, match="skewed base takes no slot") as error:
        flat_of(folded.model_copy(update={"slot": BaseSlot(), "skew_deg": 8.0, "base_width": Length(mm=90.0)}), 80.0)
    assert error.value.fields == ("slot",)
