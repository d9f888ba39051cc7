"""The steps of a part: every piece of its list is made in one of them, with the figure that the list has, in the order of the work."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace

import pytest

from tests.core.test_loads import demo
from tests.core.test_on_sheets import TRICKY
from tests.jobs import work
from tirante.core.flat.contour import Hole
from tirante.core.job.bench_steps import steps_told
from tirante.core.parts.part import Part, PlatePiece, ShortenPiece, TubePiece, TurnedPiece
from tirante.core.parts.steps import KINDS, OnCar, steps_of, welded_on

JOBS = ("marram", "tern", "quay", "plover", "dunlin")


def parts(*names: str) -> list[Part]:
    return [part for name in names for part in work(demo(name)).parts if part.complete]


@pytest.mark.parametrize("name", JOBS)
def test_every_tube_is_sawn_every_notch_cut_and_every_plate_and_turned_piece_made_with_its_own_figure(
    name: str,
) -> None:
    for part in parts(name):
        steps = steps_of(part)
        kinds = Counter(step.kind for step in steps)
        tubes = [piece for piece in part.pieces if isinstance(piece, TubePiece | ShortenPiece)]
        assert sorted(step.figures[0].mm for step in steps if step.kind == "saw") == sorted(
            piece.length for piece in tubes
        )
        notches = [
            notch for piece in tubes if isinstance(piece, TubePiece) for notch in piece.notches if notch is not None
        ]
        assert sorted(step.figures[0].mm for step in steps if step.kind == "notch" and step.figures) == sorted(
            n.depth for n in notches
        )
        for i, piece in enumerate(part.pieces):
            for which, notch in zip("AB", getattr(piece, "notches", ()), strict=False):
                if notch is not None:
                    own = next(step for step in steps if step.key == f"notch:{i}:{which}")
                    assert own.figures[0].mm == notch.depth
                    assert own.title.endswith(notch.where)
        assert kinds["cut"] == sum(isinstance(piece, PlatePiece) for piece in part.pieces)
        assert kinds["turn"] == sum(isinstance(piece, TurnedPiece) for piece in part.pieces)
        assert len({step.key for step in steps}) == len(steps)
        order = list(KINDS)
        assert [order.index(step.kind) for step in steps] == sorted(order.index(step.kind) for step in steps)
        welded = (bool(part.welding) or welded_on(part)) and not part.tool
        assert {kinds[one] for one in ("tack", "check", "weld", "cool", "inspect", "measure", "prime", "paint")} == (
            {1} if welded else {0}
        )


def test_what_is_welded_is_set_longer_in_its_rail_by_its_shrink_and_is_checked_cold() -> None:
    link = next(part for part in parts("marram") if part.jig is not None)
    assert link.jig is not None
    link = replace(link, jig=replace(link.jig, set_length=link.jig.check_length + 1.2))
    assert link.jig is not None
    steps = {step.kind: step for step in steps_of(link)}
    assert steps["tack"].figures[0].mm == link.jig.set_length
    assert steps["check"].figures[0].mm == link.jig.check_length
    assert steps["measure"].figures[0].mm == link.jig.check_length
    assert steps["weld"].lines == link.welding
    assert "in My jig" in {step.kind: step for step in steps_of(link, OnCar(jigs=("My jig",)))}["tack"].lines
    assert "signed figure" in {step.kind: step for step in steps_of(link, OnCar(jigs=("My jig",)))}["check"].lines[0]


def test_a_hole_smaller_than_its_plate_is_thick_is_drilled_and_a_bend_is_bent_its_own_way() -> None:
    part = next(part for part in parts("tern") if any(isinstance(piece, PlatePiece) for piece in part.pieces))
    outline = replace(TRICKY, holes=(Hole(20.0, 15.0, 12.0), Hole(40.0, 15.0, 4.0), Hole(50.0, 15.0, 4.0)))
    plate = PlatePiece(name="ear", material="S275", thickness=5.0, length=1.0, width=1.0, outline=outline, count=2)
    steps = {step.kind: step for step in steps_of(replace(part, pieces=(plate,)))}
    assert (steps["drill"].figures[0].mm, steps["drill"].lines[0][:9]) == (4.0, "2 in each")
    assert steps["bend"].lines == ("+90.0° at 3 mm inside, up from its face as drawn",)
    assert steps["cut"].lines[0] == "2 × S275"
    thin = replace(part, pieces=(replace(plate, thickness=3.0),))
    assert "drill" not in {step.kind for step in steps_of(thin)}


def test_a_part_that_is_not_complete_has_no_steps() -> None:
    whole = demo("marram")
    one = next(part for part in whole.parts if part.kind == "tab_pair")
    bad = whole.model_copy(update={"parts": tuple(p.model_copy(update={"hole": p.hole.model_copy(update={"mm": 90.0})}) if p is one else p for p in whole.parts)})  # type: ignore[attr-defined]  # fmt: skip
    job = work(bad)
    told = steps_told(job)
    assert told[one.id] == []
    assert {part.id for part in job.parts} == set(told)
