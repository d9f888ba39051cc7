"""How many everyday cycles a welded frame lasts: its tubes at their weld toes and roots, bent and twisted from case to case."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from itertools import combinations, pairwise
from math import pi

import numpy as np
from numpy.typing import NDArray

from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Reproduction
from tirante.core.document.settings import Settings
from tirante.core.loads.case_seen import NotCarried
from tirante.core.loads.end_loads import EndLoads
from tirante.core.members import fatigue
from tirante.core.members.frame import BoxSection
from tirante.core.members.insert_weld import THROAT_OF_LEG
from tirante.core.members.tube import Section
from tirante.core.parts.everyday import told
from tirante.core.parts.link.life import line_of, told_of
from tirante.core.parts.welded.cases import C, FrameCase, stem_of

Array = NDArray[np.float64]
CASE = "everyday cycles"
BOX_TOE = (
    36.0  # MPa at 2 million cycles: a rectangular hollow section welded all round; EN 1993-1-9 Table 8.6, from memory
)
NO_BOXES: Mapping[str, BoxSection] = {}
Detail = tuple[str, float, float, bool]  # what, range of stress [MPa], class [MPa], whether it is shear
Turned = Callable[[C, C], Mapping[str, float]]


def not_known(family: str) -> NotCarried | None:
    """Why the life of a welded frame of a metal is not judged; None where it is."""
    if family in fatigue.BY_FAMILY:
        return None
    return NotCarried(case=CASE, why=f"no class for {family} is in here: its life is not judged")


def lacks(days: EndLoads | None) -> NotCarried | None:
    """Why everyday cases say nothing of what a part goes through; None where they do."""
    if days is None:
        return NotCarried(case=CASE, why="nothing says what it goes through")
    lacking = next((one for one in days.cases if one.fault or one.forces is None), None)
    return NotCarried(case=CASE, why=f"{lacking.case.name}: {lacking.fault or 'not worked out'}") if lacking else None


def details(
    section: Section,
    leg: float,
    metal: fatigue.Classes,
    frames: Sequence[C],
    turned: Turned[C] | None = None,
    boxes: Mapping[str, BoxSection] = NO_BOXES,
) -> Iterator[tuple[str, Detail]]:
    """By whole tube: the ranges between any two cases that follow one another, at the worse end of the worst stretch.

    Args:
        section: of the tubes.
        leg: of their welds [mm].
        metal: its classes.
        frames: the everyday cases of one side of the car.
        turned: by whole tube, what else bends it between two cases, as of the friction of a ball [N·mm].
        boxes: by whole tube, of those that are boxes of steel plate instead.
    """
    c, second, area, ring = section.od / 2, section.second_moment, section.area, pi * section.od
    throat = THROAT_OF_LEG * leg
    for one, two in combinations(frames, 2):
        more = turned(one, two) if turned else {}
        for stem, axial, moments, twisted in _ranges(one, two):
            if stem in boxes:
                yield from ((stem, detail) for detail in _of_box(boxes[stem], leg, axial, moments, twisted))
                continue
            bent = max(float(np.linalg.norm(moment)) for moment in moments) + more.get(stem, 0.0)
            yield stem, ("weld’s toe", axial / area + bent * c / second, metal.toe, False)
            line = axial / ring + bent / (pi * c**2)
            yield stem, ("weld’s root", line / throat, metal.throat, False)
            yield stem, ("weld, twisted", twisted / (2 * pi * c**2) / throat, metal.shear, True)


def _of_box(box: BoxSection, leg: float, axial: float, moments: Sequence[Array], twisted: float) -> Iterator[Detail]:
    """A box welded all round at its end: its wall at the toe, the throat as a line round it (Blodgett), and that line twisted."""
    h, w = box.height, box.width
    throat = THROAT_OF_LEG * min(leg, box.wall)
    for moment in moments:
        up, side = (abs(float(v)) for v in moment)
        toe = axial / box.area + up * h / 2 / box.upright + side * w / 2 / box.sideways
        yield "box’s weld, toe", toe, BOX_TOE, False
        line = axial / (2 * (h + w)) + up / (w * h + h * h / 3) + side / (w * h + w * w / 3)
        yield "box’s weld, root", line / throat, fatigue.THROAT_CLASS, False
    yield "box’s weld, twisted", twisted / (2 * h * w) / throat, fatigue.SHEAR_CLASS, True


def _ranges(one: FrameCase, two: FrameCase) -> Iterator[tuple[str, float, tuple[Array, Array], float]]:
    """By whole tube, between two cases: axial force [N], moments about its own two axes at either end of a stretch and torque [N·mm]
    from one to the other.

    What acts along a tube divides it into stretches, others in one case than in another (a stop that is met in one of them). Between
    the places of both nothing acts: force and torque are one, the moment goes straight.
    """
    tubes = [_along(frame) for frame in (one, two)]
    for stem in tubes[0]:
        own = [tube[stem] for tube in tubes]
        places = sorted({round(at, 9) for stretches in own for start, end, _ in stretches for at in (start, end)})
        for low, high in pairwise(places):
            if high - low < 1e-6:
                continue
            within = [next(s for s in stretches if s[0] <= (low + high) / 2 <= s[1]) for stretches in own]
            i, j = within[0][2], within[1][2]
            near, far = (_moment(one, within[0], at) - _moment(two, within[1], at) for at in (low, high))
            yield (
                stem,
                abs(float(one.axial[0, i] - two.axial[0, j])),
                (near, far),
                abs(float(one.twisted[0, i] - two.twisted[0, j])),
            )


def _along(frame: FrameCase) -> dict[str, list[tuple[float, float, int]]]:
    """Of every whole tube its stretches: share of its length at which each begins and ends, and which it is."""
    found: dict[str, list[tuple[float, float, int]]] = {}
    for i, (name, (a, b)) in enumerate(zip(frame.names, frame.ends, strict=True)):
        stem = stem_of(name)
        start = found[stem][-1][1] if stem in found else 0.0
        length = float(np.linalg.norm(frame.nodes[b] - frame.nodes[a])) / frame.lengths[stem]
        found.setdefault(stem, []).append((start, start + length, i))
    return found


def _moment(frame: FrameCase, stretch: tuple[float, float, int], at: float) -> Array:
    """In a tube at a place of a stretch, about its own two axes: what its near end is given, straight to what its far end gives back."""
    start, end, i = stretch
    share = (at - start) / (end - start)
    near, far = frame.bent[0, i, 0], -frame.bent[0, i, 1]
    found: Array = near + (far - near) * share
    return found


class Weakest:
    """Of each piece of a frame the detail that gives first, as they are looked at."""

    def __init__(self, metal: fatigue.Classes, settings: Settings, target: float) -> None:
        self.metal, self.settings, self.target = metal, settings, target
        self.worst: dict[str, tuple[float, Detail]] = {}

    def look(self, part: str, detail: Detail) -> None:
        """One more detail of a piece.

        Args:
            part: the piece.
            detail: of it.
        """
        what, stress, grade, shear = detail
        line = line_of(what, self.metal)
        cycles = fatigue.life(float(stress), grade, self.settings.everyday, shear=shear, metal=line)
        if part not in self.worst or (cycles, -stress) < (self.worst[part][0], -self.worst[part][1][1]):
            self.worst[part] = cycles, (what, float(stress), grade, shear)

    def results(self) -> list[CheckResult]:
        """The life of each piece."""
        out = []
        for part, (cycles, (what, stress, grade, shear)) in self.worst.items():
            kind, target = asked("life", part, self.settings.factors, of=part), self.target
            data = {
                "stress_range_mpa": stress, "class_mpa": grade, "shear": shear, "spectrum": [list(one) for one in self.settings.everyday], "range_n": 0.0,
                **({"metal": "aluminium"} if line_of(what, self.metal) is fatigue.ALUMINIUM else {}),
            }  # fmt: skip
            out.append(CheckResult(
                key=kind.key, name=f"{part.capitalize()}, {kind.name[0].lower()}{kind.name[1:]}", part=part, demand=target, capacity=cycles, unit=kind.unit,
                utilisation=target / cycles, passed=cycles >= target, case=CASE, factor=1.0, factor_name="none", formula=kind.formula, source=kind.source,
                note=f"{what}: {stress:.0f} MPa of everyday range, class {grade:.0f}{told_of(what, self.metal)}{told(self.settings)}", reproduce=Reproduction(topic="life", input=data, output="cycles", figure="capacity"),
            ))  # fmt: skip
        return out
