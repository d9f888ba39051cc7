"""`./tirante bench`: ratios measured in one run on this machine; never a test."""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

from tirante.core.document.adopt import adopted, patched
from tirante.core.document.catalogue import KINDS, Catalogue, read_csv
from tirante.core.document.parts.link import Link
from tirante.core.document.upgrades import load_design
from tirante.core.job.evaluate import evaluate, part_out
from tirante.core.job.memory import Memory
from tirante.core.job.worked import Worked
from tirante.core.parts.link.kind import LINK
from tirante.core.parts.link.sizing import candidates, judge
from tirante.core.parts.registry import kind_of
from tirante.shipped import the_shelf

ROOT = Path(__file__).resolve().parents[2]


def _best(work: Callable[[], object], repeat: int = 3) -> float:
    times = []
    for _ in range(repeat):
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return min(times)


def _end(name: str) -> tuple[Any, Any]:
    from tirante.core.document.end import End

    end = End.model_validate_json((ROOT / f"data/ends/{name}.json").read_bytes())
    return the_shelf().templates[end.template], end


def one_by_one(name: str, rows: Any) -> tuple[float, list[Any]]:
    """One scipy least_squares call a position, as it comes, started from the one before: seconds each, and where the bodies' origins are.

    Args:
        name: of a shipped end.
        rows: values of its drivers (drivers, positions) [mm, rad].
    """
    import numpy as np
    from scipy.optimize import least_squares

    from tirante.core.mechanism.system import Poses, System, rotate
    from tirante.core.suspension.assemble import assemble_end

    template, end = _end(name)
    assembled = assemble_end(template, end)
    system = System(assembled.mechanism)
    n = len(assembled.mechanism.bodies)

    def residual(x: Any, drives: Any) -> Any:
        shaped = x.reshape(n, 6)
        turns = rotate(shaped[:, 3:, None], np.broadcast_to(np.eye(3)[:, :, None], (n, 3, 3, 1)))
        at = shaped[:, :3] - system.origins  # absolute coordinates
        return system.evaluate(Poses(r=at[:, :, None], R=turns), drives[:, None])[:, 0]

    x = np.concatenate([np.concatenate([origin, np.zeros(3)]) for origin in system.origins])
    start = time.perf_counter()
    found = []
    for drives in rows.T:
        x = least_squares(residual, x, args=(drives,)).x
        found.append(x.reshape(n, 6)[:, :3])
    return float((time.perf_counter() - start) / rows.shape[1]), found


def cycle_rows() -> list[tuple[str, float]]:
    """The suspension solver against a general optimiser a position, and against the bare linear solves."""
    import numpy as np

    from tirante.core.suspension.cycle import cycle, positions

    rng, found = np.random.default_rng(0), []
    for name, unknowns in (("double-wishbone", 18), ("four-links-watts-axle", 12)):
        template, end = _end(name)
        steer = np.linspace(-15, 15, 5) if name == "double-wishbone" else [0.0] * 5
        rows = positions(np.linspace(-60, 60, 41), np.linspace(-2, 2, 5), steer)
        ours = _best(lambda t=template, e=end, r=rows: cycle(t, e, r))  # type: ignore[misc]
        # a left corner alone at each position; a beam whole
        drives = rows[[0, 2]] if name == "double-wishbone" else np.vstack([rows[0], -np.radians(rows[1]), rows[2]])
        slow = one_by_one(name, drives[:, :: rows.shape[1] // 40])[0] * rows.shape[1]
        found.append(
            (f"{name}: {rows.shape[1]} positions solved and measured, against one least_squares each", slow / ours)
        )
        lanes = 2 * rows.shape[1] if template.axle == "independent" else rows.shape[1]
        a, b = rng.normal(size=(lanes, unknowns, unknowns)), rng.normal(size=(lanes, unknowns, 1))
        bare = _best(lambda a=a, b=b: [np.linalg.solve(a, b) for _ in range(5)])  # type: ignore[misc]
        found.append((f"{name}: the same, against five bare numpy solves of its size", bare / ours))
        many = positions(np.linspace(-60, 60, 401), np.linspace(-2, 2, 50), [0.0] * 5)
        start = time.perf_counter()
        cycle(template, end, many)
        each = (time.perf_counter() - start) / many.shape[1]
        found.append(
            (f"{name}: {many.shape[1]} positions, against one least_squares each", slow / rows.shape[1] / each)
        )
    return found


def _marram(memory: Memory | None = None) -> Worked:
    return Worked(load_design((ROOT / "data/demo/marram.json").read_bytes()), the_shelf(), memory or Memory())


def _carry(job: Worked) -> None:
    """All load cases of both ends."""
    for end in job.design.ends:
        job.carried(end.id)


def load_rows() -> list[tuple[str, float]]:
    """All cases of both ends anew, against from memory."""
    known = _marram()
    _carry(known)
    anew = _best(lambda: _carry(_marram()))
    return [("all load cases of a car from memory, against carried anew", anew / _best(lambda: _carry(known)))]


def _car_times(shelf: Catalogue) -> tuple[float, float, float]:
    """Seconds for all load cases of the demo car, for sizing all of it, and sets of parts a second."""
    from tirante.core.job.size_all import size_all

    job = _marram()
    _carry(job)
    considered = 0

    def all_of_it() -> None:
        nonlocal considered
        considered = size_all(job, shelf).considered

    sized = _best(all_of_it)
    return _best(lambda: _carry(_marram())), sized, considered / sized


def _members_seconds() -> tuple[int, float]:
    """Moving members of the demo cars, and the seconds to make and judge them all, what the ends carry being known."""
    import uuid

    from tirante.core.job.make_parts import parts_of_end

    jobs = []
    for name in ("plover", "dunlin", "marram"):
        memory = Memory()
        job = Worked(load_design((ROOT / f"data/demo/{name}.json").read_bytes()), the_shelf(), memory)
        for end in job.design.ends:
            job.carried(end.id), job.everyday(end.id)
        jobs.append((job, memory))

    def judged() -> int:
        count = 0
        for job, memory in jobs:
            bare = Worked(job.design.model_copy(update={"parts": (), "joints": ()}), the_shelf(), memory)
            for end in bare.design.ends:
                count += len(parts_of_end(bare, end.id, [str(uuid.uuid4()) for _ in range(40)]))
            members = [part for part in job.design.parts if part.of_end]
            for part in members:
                kind_of(part).work_out(part, job)
        return count

    return judged(), _best(judged)


def _room_seconds() -> tuple[int, float]:
    """How many brackets of the demo car are looked round, and seconds for one."""
    from tirante.core.errors import InputError
    from tirante.core.job.room.look import look_round

    job = _marram()
    evaluate(job)
    took = []
    for part in job.design.parts:
        start = time.perf_counter()
        try:
            look_round(job, part.id)
        except InputError:
            continue
        took.append(time.perf_counter() - start)
    return len(took), sum(took) / max(1, len(took))


def _shop_times() -> str:
    """How long sticks, a nest and a pack take, in words."""
    from tirante.calc import calculate
    from tirante.core.cutting.sticks import Saw, cut_sticks
    from tirante.documents.pack import make_pack
    from tirante.documents.pdf import Stamp

    lengths = [(310.0 + 13.7 * i, 1 + i % 3) for i in range(30)]
    pieces = sum(count for _, count in lengths)
    start = time.perf_counter()
    sticks = cut_sticks(6000.0, lengths, Saw(kerf=2.0, trim_start=10.0, trim_end=10.0))
    sawn = time.perf_counter() - start
    shapes = [
        {"points_mm": [[0, 0], [60 + 7 * i, 0], [60 + 7 * i, 20 + 3 * i], [20 + 3 * i, 40 + 6 * i], [0, 40 + 6 * i]], "quantity": 4} for i in range(10)
    ]  # fmt: skip
    start = time.perf_counter()
    nested = calculate("nest", {"sheet_mm": [2000, 1000], "pieces": shapes}, working=False)
    laid = time.perf_counter() - start
    job = _marram()
    evaluate(job)
    stamp = Stamp(job="Marram", revision="rev 1", date="2026-01-01", units="mm", reviewer=None, issued=True)
    start = time.perf_counter()
    make_pack(job, stamp)
    packed = time.perf_counter() - start
    return (
        f"{pieces} pieces on sticks: {sawn:.2f} s, {'proved' if sticks.proven else 'not proved'}; 40 plates on a sheet: {laid:.1f} s, "
        f"{100 * nested['utilisation']:.0f} % of what is used is plate; the pack of a full car: {packed:.1f} s"
    )


def _as_built() -> tuple[tuple[str, float], str]:
    """Slopes of all errors of an end by one step each against solving each; how long a net and a reconciliation take, in words."""
    import numpy as np

    from tirante.calc import calculate
    from tirante.calc.registry import TOPICS
    from tirante.core.suspension.cycle import solved_cycle
    from tirante.core.suspension.one_error import errors_of, nudged, with_errors

    template, end = _end("four-links-watts-axle")
    side = solved_cycle(template, end, np.array([[-50.0, 0.0, 50.0], [0.0] * 3, [0.0] * 3])).left
    errors = errors_of(side.assembled).errors
    once = _best(lambda: nudged(side, errors, 0.05))
    each = _best(lambda: [with_errors(side, {error: 0.05}) for error in errors])
    rng = np.random.default_rng(1)
    places = {f"p{i}": rng.uniform(0, 2000, 3) for i in range(25)}
    names = list(places)
    pairs = [tuple(rng.choice(names, 2, replace=False)) for _ in range(75)]
    data = {
        "datum": {name: places[name].tolist() for name in names[:4]}, "approximate": {name: places[name].tolist() for name in names[4:]},
        "distances": [[a, b, float(np.linalg.norm(places[a] - places[b]) + rng.normal()), 1.0] for a, b in pairs],
        "offsets": [[name, "xyz"[axis], float(places[name][axis] + rng.normal() * 1.5), 1.5] for name in names for axis in range(3)],
    }  # fmt: skip
    net = _best(lambda: calculate("survey", data, working=False))
    which = _best(lambda: calculate("reconcile", TOPICS["reconcile"].example, working=False))
    return (
        (f"slopes by {len(errors)} errors of a beam by one step each, against solving each", each / once),
        f"150 readings on 25 points adjusted and all looked at: {net:.2f} s; which dimension, nine readings: {which:.2f} s",
    )


def run_bench() -> int:
    """Print the table."""
    from tirante.core.parts.around import seen_between

    shelf = Catalogue(
        **{kind: tuple(read_csv(kind, (ROOT / f"data/catalogue/{kind}.csv").read_text())) for kind in KINDS}  # type: ignore[arg-type]
    )
    memory = Memory()
    job = _marram(memory)
    link = job.design.of_kind(Link)[0]
    evaluate(job)
    links = job.design.of_kind(Link)
    fresh = _best(lambda: [part_out(LINK.work_out(one, job), job) for one in links])
    whole = _best(lambda: evaluate(_marram(memory)))

    def one_edit() -> None:
        edited = adopted(job.design, [link.model_copy(update={"note": f"{time.perf_counter()}"})], shelf)
        evaluate(Worked(patched(job.design, edited), the_shelf(), memory))

    def anew() -> None:
        evaluate(_marram())

    cases = seen_between(link.between, link.side, link.cases, job)
    pool = candidates(link, cases, job.settings, shelf)
    search = _best(lambda: LINK.size(link, job, shelf, "mass"))
    sample = pool[:: max(1, len(pool) // 60)]
    each = _best(lambda: [judge(one, job.settings) for one in sample], 1) / len(sample) * len(pool)
    all_anew = _best(anew)
    rows = [
        ("a design from memory, against worked out anew", all_anew / whole),
        ("one link edited, against the whole design", all_anew / _best(one_edit)),
        (f"sizing by mass with the tube screen, against judging all {len(pool)}", each / search),
    ]
    rows += cycle_rows()
    rows += load_rows()
    built, said = _as_built()
    rows.append(built)
    print("How many times as fast (this machine, this run):")
    for name, ratio in rows:
        print(f"  {ratio:8.1f} ×  {name}")
    loads, sized, per_second = _car_times(shelf)
    print(
        f"  all load cases of a full car, both ends: {loads:.3f} s; size all of it: {sized:.2f} s, {per_second:,.0f} sets of parts a second"
    )
    count, seconds = _members_seconds()
    print(
        f"  every moving member of three cars, {count} of them, made and those of the jobs judged: {seconds:.2f} s, {seconds / 3:.2f} s a car"
    )
    print(f"  {_shop_times()}")
    print(f"  {said}")
    looked, least = _room_seconds()
    print(f"  the room round {looked} brackets over the whole box of their ends: {least:.2f} s each")
    print(f"  sizing one link: {search:.2f} s; one link worked out: {fresh / max(1, len(links)) * 1000:.1f} ms")
    print(
        f"  a whole design of {len(job.design.parts)} parts worked out anew: {all_anew:.2f} s; shown from memory: {whole * 1000:.1f} ms"
    )
    return 0
