"""A design with the forces that its load cases put into its links: worked out once, remembered, the same for every client."""

from __future__ import annotations

from collections import OrderedDict
from threading import Lock
from typing import TYPE_CHECKING

from tirante import ENGINE_VERSION
from tirante.core.document.design import Design, SuspensionEnd, tied
from tirante.core.document.load_cases import CarCase, LoadSet
from tirante.core.document.parts.common import OfEnd
from tirante.core.errors import InputError
from tirante.shipped.templates import template_of

if TYPE_CHECKING:
    from tirante.core.loads.end_loads import EndLoads
    from tirante.core.suspension.cycle import Solved
from tirante.core.loads.seen import sides_of, worked_cases

KEPT = 48


class _Memory:
    """Loads of ends by all they depend on; the last of an end helps the next."""

    def __init__(self) -> None:
        self._lock, self._working = Lock(), Lock()
        self._kept: OrderedDict[str, EndLoads | InputError] = OrderedDict()
        self._last: dict[str, Solved] = {}

    def get(self, design: Design, end: SuspensionEnd) -> EndLoads | InputError:
        from tirante.core.loads.end_loads import end_loads

        standing = design.standing(end)
        tracks = tracks_of(design)
        key = "|".join(
            [ENGINE_VERSION, standing.model_dump_json(), end.box.model_dump_json(), design.car.model_dump_json(),
             design.loads.model_dump_json(), str(tracks)]
        )  # fmt: skip
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
                return self._kept[key]
        with self._working:
            try:
                found: EndLoads | InputError = end_loads(
                    template_of(standing), standing, design.car, design.loads.cases, bump=end.box.bump_mm,
                    droop=end.box.droop_mm, tracks=tracks, like=self._last.get(end.id),
                )  # fmt: skip
            except InputError as error:
                found = error
        with self._lock:
            self._kept[key] = found
            if not isinstance(found, InputError) and found.solved is not None:
                self._last[end.id] = found.solved
            while len(self._kept) > KEPT:
                self._kept.popitem(last=False)
            while len(self._last) > KEPT:
                self._last.pop(next(iter(self._last)))
        return found


_memory = _Memory()


def tracks_of(design: Design) -> dict[str, float]:
    """Track of each end between its wheel centres [mm]."""
    found: dict[str, float] = {}
    for one in design.ends:
        left = one.end.points.get("wheel_centre")
        if left is not None:
            right = one.end.right_points.get("wheel_centre", (0.0, -left[1], 0.0))
            found[one.end.end] = left[1] - right[1] + 2 * one.end.wheel.moved_out_mm
    return found


def loads_of(design: Design, end: SuspensionEnd) -> EndLoads | InputError:
    """All cases of a design's load set carried by one of its ends; or why the end cannot be put together."""
    return _memory.get(design, end)


def bare(design: Design) -> Design:
    """The design without the cases that were worked out."""
    links = tuple(
        link.model_copy(update={"cases": tuple(case for case in link.cases if not case.worked)})
        if any(case.worked for case in link.cases) else link
        for link in design.links
    )  # fmt: skip
    return design if links == design.links else design.model_copy(update={"links": links})


def with_loads(design: Design) -> Design:
    """The design, every link that is tied to an end given the envelope of what the load cases put into it."""
    design = bare(tied(design))
    ends = {one.id: one for one in design.ends}
    if not design.loads.cases:
        return design
    links = []
    for link in design.links:
        if isinstance(link.between, OfEnd) and link.between.end_id in ends:
            found = loads_of(design, ends[link.between.end_id])
            if not isinstance(found, InputError):
                link = link.model_copy(update={"cases": (*link.cases, *worked_cases(link, found.cases))})
        links.append(link)
    return design.model_copy(update={"links": tuple(links)})


EVERYDAY = LoadSet(
    name="everyday",
    cases=(
        CarCase(name="corner", kind="car", lateral=1.0), CarCase(name="brake", kind="car", longitudinal=-1.0, torque="brake"),
        CarCase(name="drive", kind="car", longitudinal=0.5, torque="drive"), CarCase(name="stand", kind="car", vertical=1.0),
    ),
)  # fmt: skip


def everyday_ranges(design: Design) -> dict[str, float]:
    """Of every link tied to an end: most less least axial force over everyday cycles at ride height [N]."""
    plain = bare(design).model_copy(update={"loads": EVERYDAY})
    out: dict[str, float] = {}
    for end in design.ends:
        found = loads_of(plain, end)
        if isinstance(found, InputError):
            continue
        carried = [one.forces for one in found.cases if one.forces and not one.fault]
        for link in design.links:
            if not isinstance(link.between, OfEnd) or link.between.end_id != end.id or not carried:
                continue
            for name in sides_of(link, link.between.link, list(carried[0].axial)):
                values = [one.axial[name] for one in carried if name in one.axial]
                out[link.id] = max(out.get(link.id, 0.0), max(values) - min(values))
    return out
