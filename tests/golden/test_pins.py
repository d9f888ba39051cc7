"""Pins: what the core answers for the demo jobs, a job of everything that a shop makes, and every example end, kept as it stood.

They show that nothing changed, never that it is right: for that see the handbook's examples, closed forms and independent solutions
beside. What they hold is the wiring: which case, which end, which factor, which row goes where. A change that is meant is kept anew by
`python -m tests.golden.test_pins`, read line by line in the difference, and told under Results.
"""

from __future__ import annotations

import json
import sys
from collections.abc import Callable, Iterator
from dataclasses import fields, is_dataclass
from functools import cache
from typing import Any

import numpy as np
import pytest
from pydantic import BaseModel

from tests.conftest import ROOT
from tests.jobs import template_of, work
from tirante.core.document.adopt import adopted, patched
from tirante.core.document.catalogue import KINDS, Catalogue, read_csv
from tirante.core.document.design import Design
from tirante.core.document.end import End
from tirante.core.document.joints import EndOfLink, HeldJoint
from tirante.core.document.parts.arm import Arm, Gusset
from tirante.core.document.parts.boxed_link import BoxedLink
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.link import Link
from tirante.core.document.upgrades import load_design
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import TiranteError
from tirante.core.job.alignment import adjusters_of, sheet_of, thread_budget, turned_to
from tirante.core.job.evaluate import evaluate
from tirante.core.job.make_parts import parts_of_end
from tirante.core.job.screens import corners
from tirante.core.job.size_all import size_all
from tirante.core.job.worked import Worked
from tirante.core.loads.shown import as_calc_input, pickups_csv, worst_of_parts
from tirante.core.parts.arm.kind import ARM
from tirante.core.parts.registry import kind_of
from tirante.core.suspension.bind_map import bind_map, state_of
from tirante.core.suspension.cycle import cycle, positions
from tirante.core.suspension.shown.lengths import lengths
from tirante.core.suspension.shown.measures_shown import at_ride
from tirante.core.suspension.still_moves import still_moves
from tirante.core.suspension.study import study
from tirante.core.suspension.turns import Wanted
from tirante.core.suspension.watches import watches
from tirante.core.suspension.whole_box import box_of, whole_box
from tirante.shipped import the_shelf

KEPT = ROOT / "tests/golden"
NAMES = sorted(path.stem for path in (ROOT / "data/ends").glob("*.json"))
JOBS = ("marram", "quay", "tern", "shop")
SKIPPED = {
    "command",
    "formula",
    "source",
    "source_status",
    "saved",
    "judged",
    "metal",
    "drawing",
    "data",
    "own",
    "solved",
    "scene",
}


@cache
def shelf() -> Catalogue:
    rows = {kind: tuple(read_csv(kind, (ROOT / f"data/catalogue/{kind}.csv").read_text())) for kind in KINDS}
    return Catalogue(**rows)  # type: ignore[arg-type]


def plain(of: Any) -> Any:
    """Anything as JSON: a long row of figures by some of them."""
    if isinstance(of, BaseModel):
        return {name: plain(getattr(of, name)) for name in type(of).model_fields if name not in SKIPPED}
    if is_dataclass(of) and not isinstance(of, type):
        return {one.name: plain(getattr(of, one.name)) for one in fields(of) if one.name not in SKIPPED}
    if isinstance(of, np.ndarray):
        flat = of.ravel()
        return {
            "shape": list(of.shape),
            "some": [plain(float(flat[i])) for i in range(0, len(flat), max(1, len(flat) // 6))],
        }
    if isinstance(of, dict):
        return {str(key): plain(value) for key, value in of.items() if key not in SKIPPED}
    if isinstance(of, list | tuple | set | frozenset):
        return [plain(one) for one in of]
    if isinstance(of, float | np.floating):
        number = float(of)
        return None if not np.isfinite(number) else float(f"{number:.9g}")
    return of if isinstance(of, int | str | bool) or of is None else str(of)


def flat(of: Any, path: str = "") -> Iterator[tuple[str, Any]]:
    if isinstance(of, dict | list):
        pairs = of.items() if isinstance(of, dict) else enumerate(of)
        yield f"{path}#", len(of)
        for key, value in pairs:
            yield from flat(value, f"{path}/{key}")
    else:
        yield path, of


def said(work: Callable[[], Any]) -> Any:
    """What comes of it, or how it is refused."""
    try:
        return work()
    except TiranteError as error:
        return {"refused": error.code, "fields": list(error.fields or ()), "message": error.message}


# --- ends --------------------------------------------------------------------------------------------------------------


def of_end(name: str) -> dict[str, Any]:
    """An example end: measures in travel, roll and steer, what limits it, lengths, motions, joints."""
    end = End.model_validate_json((ROOT / f"data/ends/{name}.json").read_text())
    template = template_of(end)
    steer = [0.0, 12.0] if template.steered else [0.0]
    found = cycle(template, end, positions([-55.0, 0.0, 48.0], [0.0, 1.7], steer))
    moved = study(template, end, 70.0, 80.0, 0.0, 0.0)
    parts = [part.name for part in still_moves(template, end, ()).parts]
    box = box_of(template, end, bump=50.0, droop=50.0, roll=2.0, steer=15.0 if template.steered else 0.0)
    return {
        "status": list(found.status), "columns": {key: [plain(float(v)) for v in np.ravel(column)] for key, column in found.columns.items()},
        "events": moved.events, "bump": moved.bump, "droop": moved.droop, "from": moved.lowest, "to": moved.highest,
        "at ride": [[m.key, value, m.usual("road")] for m, value in at_ride(moved)],
        "watches": [[w.what, w.short, w.family, w.excess, w.share] if hasattr(w, "share") else plain(w) for w in watches(moved.found, end)],
        "lengths": lengths(template, end),
        "joints": [[j.name, j.hinged, j.worst, j.limit, j.share, state_of(j), j.travel, j.roll, j.steer]
                   for j in bind_map(box).joints],
        "whole box": whole_box(box),
        "still moves": {
            str(count): [[s.degrees, [m.what for m in s.motions], [m.ride for m in s.motions],
                          [[t.name, t.leaves, t.along] for t in s.takes_away],
                          [plain(m.frames.poses.r) for m in s.motions]]
                         for s in [still_moves(template, end, tuple(parts[:count]))]]
            for count in (0, 1, len(parts) // 2, len(parts) - 1, len(parts))
        },
    }  # fmt: skip


# --- jobs --------------------------------------------------------------------------------------------------------------


def shop() -> Design:
    """Marram with one of everything that is made: tapped, machined, spliced, bent, bought, boxed, arms on rod ends, a bracket of two."""
    design = load_design((ROOT / "tests/marram-on-flats.json").read_bytes())
    job, one = work(design), design.of_kind(Link)[0]
    begins = kind_of(one).begins(one)

    def like(number: int, name: str, **change: Any) -> Link:
        free = {
            "between": one.between.untied()
            if hasattr(one.between, "untied")
            else {"kind": "length", "length": {"mm": one.between.mm}}
        }
        cases = [{"name": "pull", "axial_n": 9000.0}, {"name": "push and strike", "axial_n": -7000.0, "strike_n": 900.0},
                 {"name": "side", "axial_n": 2500.0, "side_n": 350.0}]  # fmt: skip
        data = (
            one.model_dump(mode="json")
            | {"id": f"0190a0a0-0000-7000-8000-0000000000{number:02d}", "name": name, "cases": cases}
            | free
        )
        return Link.model_validate(data | change, strict=False)

    thick = next(row.key for row in shelf().tubes if row.od_mm > 25.0 and 10.0 < row.od_mm - 2 * row.wall_mm < 17.2)
    rod = one.end_a.model_dump(mode="json")
    fixed = begins["fixed"]
    links = [
        like(10, "Tapped", tube=thick, end_a={**rod, "insert": None, "tapped_mm": 45.0}, end_b={**rod, "insert": None, "tapped_mm": 45.0, "hand": "LH"}),
        like(11, "Machined eye", end_b={**fixed, "machined": begins["machined"]}),
        like(12, "Machined clevis", end_b={**fixed, "centre_to_face": {"mm": 30.0, "typed": None}, "machined": {**begins["machined"], "form": "clevis", "thickness_mm": 9.0, "gap_mm": 21.0}}),
        like(13, "Bush sleeve", end_b=fixed, mid_welded=True),
        like(14, "Spliced", splice=begins["splice"]),
        like(15, "Bent", bent={"offset": {"mm": 35.0}, "from_ends": {"mm": 150.0}}),
        like(16, "Bought", bought={"tube_length": {"mm": 1000.0}, "keep": "b"}),
        like(17, "Buried, bowed", school="buried", bow_mm=3.0, side="left"),
        like(18, "Five threads showing", school="exposure", showing={"mm": 6.0}, welding={**one.welding.model_dump(), "plugs": 6}),
    ]  # fmt: skip
    arms = []
    for arm in design.of_kind(Arm):
        ends = {"pivots": "rod ends", "pivot_end": {**rod, "joint": None, "insert": None, "nut": None}, "brace_at": 0.6}
        bare = Arm.model_validate(arm.model_dump(mode="json") | ends, strict=False)
        found = ARM.size(
            bare.model_copy(update={"gusset": Gusset(reach_mm=100.0, thickness_mm=5.0)}), job, shelf(), "mass"
        ).winner
        assert found
        arms.append(found.parts[0])
    tab = next(part for part in design.parts if part.kind == "tab_pair")
    held = HeldJoint.model_validate(
        design.held_by(tab.id)[0].model_dump(mode="json")
        | {"id": "0190a0a0-0000-7000-8000-000000000099", "held": EndOfLink(part=links[0].id, end="b").model_dump(mode="json"), "by": tab.id},
        strict=False,
    )  # fmt: skip
    free = {"kind": "length", "length": {"mm": one.between.mm}}
    cases = [
        {"name": "stop", "axial_n": -6000.0, "strike_n": 12000.0},
        {"name": "pull", "axial_n": 15000.0},
    ]
    box = {"name": "Boxed", "side": "pair", "between": free, "cases": cases, "id": "0190a0a0-0000-7000-8000-000000000040", "height": {"mm": 75.0},
           "width": {"mm": 60.0}, "side_mm": 5.0, "top_mm": 6.0, "bottom_mm": 5.0, "pad_at": {"mm": 300.0}, "pad_offset_mm": 8.0}  # fmt: skip
    tied = {
        "name": "Boxed, tied",
        "between": one.between.model_dump(mode="json"),
        "cases": [],
        "id": "0190a0a0-0000-7000-8000-000000000041",
    }
    boxes = [BoxedLink.model_validate(box, strict=False), BoxedLink.model_validate(box | tied, strict=False)]
    saddle = TabPair.model_validate(
        tab.model_dump(mode="json")
        | {"id": "0190a0a0-0000-7000-8000-000000000042", "name": "On a tube", "load_angle_deg": 35.0, "weld_leg_mm": 3.0,
           "base": {"kind": "saddle", "tube_od": {"mm": 48.3}, "wall_mm": 3.2}, "head_radius": {"mm": 18.0}, "edge": {"mm": 21.0}, "base_width": {"mm": 41.0}},
        strict=False,
    )  # fmt: skip
    on_tube = held.model_copy(
        update={
            "id": "0190a0a0-0000-7000-8000-000000000098",
            "by": saddle.id,
            "held": EndOfLink(part=links[4].id, end="a"),
        }
    )
    every = {part.id: part for part in (*design.parts, *links, *boxes, saddle)}
    whole = design.model_copy(update={"parts": tuple(every.values()), "joints": (*design.joints, held, on_tube)})
    # the rows that the sized arms and the thick tube hold come with them
    return patched(whole, adopted(whole, [links[0], *arms], shelf()))


@cache
def design_of(name: str) -> Design:
    return shop() if name == "shop" else load_design((ROOT / f"data/demo/{name}.json").read_bytes())


def _loads(job: Worked, end_id: str) -> Any:
    found = job.carried(end_id)
    pulls, joints = worst_of_parts(found)
    return {
        "links": pulls, "joints": joints, "bump": [found.bump_mm, found.bump_by], "droop": [found.droop_mm, found.droop_by],
        "cases": [
            [one.name, one.where, one.position, one.carrier, one.notes, one.fault, one.strikes, one.pushes,
             one.forces and [one.forces.axial, one.forces.springs, one.forces.stops, one.forces.bars, one.forces.holds, one.forces.bind,
                             {name: [j.force, j.moment] for name, j in one.forces.joints.items()}]]
            for one in found.cases
        ],
        "again": [list(as_calc_input(job.ends[end_id], one) or {}) for one in found.cases[:4]],
    }  # fmt: skip


def _turns(job: Worked, end_id: str) -> Any:
    adjusters, fixed = adjusters_of(job, end_id)
    sheet = sheet_of(job, end_id, [one.adjuster for one in adjusters])
    done, room = job.at_ride(end_id), {one.adjuster.link: one.room for one in adjusters}
    wanted = [Wanted(measure="toe_deg", change=0.4, within=0.05)]
    ranges = {"toe_deg": 0.5, "pinion_change_deg": 1.0}
    return {
        "adjusters": [[one.name, one.adjuster, one.shorter, one.longer, one.room] for one in adjusters], "fixed": fixed, "sheet": sheet,
        "turned": said(lambda: turned_to(done, sheet, wanted, room)), "budget": said(lambda: thread_budget(done, sheet, adjusters, ranges, job.settings)),
    }  # fmt: skip


def _made(job: Worked, end_id: str) -> Any:
    bare = job.design.model_copy(update={"parts": (), "joints": ()})
    ids = [f"0190a0a0-0000-7000-8000-0000000001{n:02d}" for n in range(20)]
    return [part.model_dump(mode="json") for part in parts_of_end(work(bare), end_id, ids)]


def of_job(name: str) -> dict[str, Any]:
    """All that a job's stages say of it."""
    job = work(design_of(name))
    found: dict[str, Any] = {"evaluation": evaluate(job), "corners": corners(job)}
    found["own"] = {part.name: kind_of(part.saved).told(part) for part in job.parts}
    found["pieces"] = {part.name: [part.pieces, part.beside] for part in job.parts}
    found["offers"] = {
        part.name: {field: [len(keys), keys[:3]] for field, keys in kind_of(part).offers(part, job, shelf()).items()} for part in job.design.parts
    }  # fmt: skip
    found["turning"] = {
        part.name: kind_of(part.saved).adjuster(part, 2.5, Numbers()) for part in job.parts if part.complete and part.saved.kind == "link"
    }  # fmt: skip
    for end in job.design.ends:
        found[f"loads {end.name}"] = said(lambda end=end: _loads(job, end.id))
        found[f"turns {end.name}"] = said(lambda end=end: _turns(job, end.id))
        found[f"made {end.name}"] = said(lambda end=end: _made(job, end.id))
    if name != "shop":
        for use, loads in sorted(the_shelf().load_sets.items()):
            other = work(job.design.model_copy(update={"loads": loads}))
            found[f"set {use}"] = {
                end.name: said(lambda end=end, other=other: worst_of_parts(other.carried(end.id)))
                for end in job.design.ends
            }
    found["pick-ups"] = pickups_csv({end.name: job.carried(end.id) for end in job.design.ends}).splitlines()[:60]
    if name != "shop":
        # the fewest stocks of Quay's four links take half a minute to find: they are pinned in the other two jobs
        for aim in ("mass",) if name == "quay" else ("mass", "stocks"):
            sized = size_all(job, shelf(), aim)
            found[f"sized for {aim}"] = [
                [one.name, one.found, one.advice] if hasattr(one, "found") else plain(one) for one in sized.parts
            ]
    return found


# --- the pins ----------------------------------------------------------------------------------------------------------


def differences(now: Any, kept: Any) -> list[str]:
    one, two = dict(flat(plain(now))), dict(flat(kept))
    found = [f"{path}: not there before" for path in one.keys() - two.keys()] + [
        f"{path}: gone" for path in two.keys() - one.keys()
    ]
    for path in one.keys() & two.keys():
        a, b = one[path], two[path]
        numbers = isinstance(a, int | float) and isinstance(b, int | float) and not isinstance(a, bool)
        if (a != b) if not numbers else a != pytest.approx(b, rel=2e-6, abs=2e-6):
            found.append(f"{path}: {a!r}, was {b!r}")
    return sorted(found)


@pytest.mark.parametrize("name", NAMES)
def test_every_example_end_answers_as_it_did(name: str) -> None:
    kept = json.loads((KEPT / "ends.json").read_text())[name]
    assert differences(of_end(name), kept) == []


@pytest.mark.parametrize("name", JOBS)
def test_every_stage_of_a_job_answers_as_it_did(name: str) -> None:
    kept = json.loads((KEPT / f"{name}.json").read_text())
    assert differences(of_job(name), kept) == []


def main() -> None:
    """Keep them anew."""
    wanted = sys.argv[1:] or ["ends", *JOBS]
    for name in wanted:
        made = {end: plain(of_end(end)) for end in NAMES} if name == "ends" else plain(of_job(name))
        (KEPT / f"{name}.json").write_text(
            json.dumps(made, ensure_ascii=False, separators=(",", ":")).replace('},"', '},\n"') + "\n"
        )


if __name__ == "__main__":
    main()
