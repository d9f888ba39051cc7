"""How many everyday cycles a link lasts: thread roots, weld toes and roots, plugs, bends, by the classes of EN 1993-1-9."""

from __future__ import annotations

from collections.abc import Iterator
from math import pi

from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Reproduction
from tirante.core.document.parts.link import Link
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import NotCarried
from tirante.core.loads.seen import range_of_link
from tirante.core.members import fatigue
from tirante.core.members.insert_weld import THROAT_OF_LEG
from tirante.core.parts.around import Around
from tirante.core.parts.link.assembly import Assembly, Everyday, ThreadedEnd

COVERED = ("steel", "stainless")  # families that a search takes unasked where it must know the life
BY_USE = {"road": 1e6, "circuit": 1e5, "off-road": 1e5}  # cycles; common practice, no source


def everyday_of(link: Link, around: Around) -> Everyday | NotCarried:
    """What a link goes through day by day, or why nothing says so.

    Args:
        link: as it is saved.
        around: the job.
    """
    wanted = around.settings.life_cycles or BY_USE[around.use]
    if link.between.kind != "end" or link.between.end_id not in around.ends:
        if link.everyday_n is None:
            return NotCarried(
                case="everyday cycles",
                why="no end of the job says what it goes through; type the range of its everyday force",
            )
        return Everyday(range=link.everyday_n, target=wanted)
    try:
        found = around.everyday(link.between.end_id).cases
    except InputError as error:
        return NotCarried(case="everyday cycles", why=error.message)
    lacking = next((one for one in found if one.fault), None)
    if lacking:
        return NotCarried(case="everyday cycles", why=f"{lacking.case.name}: {lacking.fault}")
    whole = range_of_link(link.side, link.between.link, found)
    if whole is None:
        return NotCarried(case="everyday cycles", why="no everyday case reaches it")
    return Everyday(range=max(whole, link.everyday_n or 0.0), target=wanted)


def not_judged(assembly: Assembly) -> NotCarried | None:
    """Why the life of a metal is not judged; None where it is."""
    family = assembly.grade.family
    classes = fatigue.BY_FAMILY.get(family)
    if classes is None:
        return NotCarried(case="everyday cycles", why=f"no class for {family} is in here: its life is not judged")
    if classes.bend is None and assembly.link.bent:
        return NotCarried(
            case="everyday cycles", why=f"no class for a bend in {family} is in here: its life is not judged"
        )
    if classes is not fatigue.STEEL and any(isinstance(end, ThreadedEnd) and end.tapped for end in assembly.ends):
        return NotCarried(
            case="everyday cycles", why=f"no class for a thread cut in {family} is in here: its life is not judged"
        )
    return None


def _details(assembly: Assembly) -> Iterator[tuple[str, str, float, float, bool]]:
    """Where, what, stress for each newton of range [1/mm²], class [MPa], whether it is shear."""
    section, leg, welding = assembly.section, assembly.leg, assembly.link.welding
    metal = fatigue.BY_FAMILY[assembly.grade.family]
    for index, end in enumerate(assembly.ends):
        where = f"end {'AB'[index]}"
        if isinstance(end, ThreadedEnd):
            yield (
                where,
                f"thread root, end {'AB'[index]}",
                1 / end.thread.stress_area,
                fatigue.thread_class(end.thread.major),
                False,
            )
            if end.tapped:
                wall = pi / 4 * (section.od**2 - end.thread.major**2)
                yield where, f"tube over its own thread, end {'AB'[index]}", 1 / wall, fatigue.THREAD_CLASS, False
                continue
        around = min(section.od, end.insert.shoulder_diameter_mm) if isinstance(end, ThreadedEnd) else section.od
        yield where, f"tube at its weld, end {'AB'[index]}", 1 / section.area, metal.toe, False
        if leg > 0:
            yield (
                where,
                f"root of the ring weld, end {'AB'[index]}",
                1 / (pi * around * THROAT_OF_LEG * leg),
                metal.throat,
                False,
            )
        elif plugs := end.plugs(welding) if isinstance(end, ThreadedEnd) else welding.plugs if welding.plug_mm else 0:
            area = plugs * pi / 4 * welding.plug_mm**2
            yield where, f"plug welds, end {'AB'[index]}", 1 / area, metal.shear, True
    bent = assembly.link.bent
    if bent:
        lever = bent.offset.mm * section.od / 2 / section.second_moment
        yield "tube", "tube at its bend", 1 / section.area + lever, metal.bend or 0.0, False
    if assembly.link.mid_welded:
        yield "tube", "tube at what is welded on it", 1 / section.area, metal.toe, False
    if assembly.link.splice:
        yield "splice", "tube at its splice", 1 / section.area, metal.toe, False
        throat = pi * section.od * THROAT_OF_LEG * assembly.splice_leg
        if throat > 0:
            yield "splice", "root of the splice’s weld", 1 / throat, metal.throat, False


def line_of(what: str, metal: fatigue.Classes) -> fatigue.Classes:
    """A rod end's thread is of steel, whatever the tube is of."""
    return fatigue.STEEL if what.startswith("thread root") else metal


def told_of(what: str, metal: fatigue.Classes) -> str:
    """Whose class it is, where it is not the standard's that the check names."""
    return " by IIW for aluminium, from memory" if line_of(what, metal) is fatigue.ALUMINIUM else ""


def life_checks(assembly: Assembly, settings: Settings) -> list[CheckResult]:
    """The life of the detail that gives first; none where nothing says what it goes through or its metal has no class here.

    Args:
        assembly: the link with its rows.
        settings: the spectrum.
    """
    day = assembly.everyday
    if day is None or not_judged(assembly) is not None:
        return []
    metal = fatigue.BY_FAMILY[assembly.grade.family]
    worst: tuple[float, str, str, float, float, bool] | None = None
    for where, what, each, grade, shear in _details(assembly):
        cycles = fatigue.life(day.range * each, grade, settings.everyday, shear=shear, metal=line_of(what, metal))
        if worst is None or cycles < worst[0]:
            worst = cycles, where, what, day.range * each, grade, shear
    if worst is None:
        return []
    cycles, where, what, stress, grade, shear = worst
    kind = asked("life", where, settings.factors)
    data = {
        "stress_range_mpa": stress, "class_mpa": grade, "shear": shear, "spectrum": [list(one) for one in settings.everyday], "range_n": day.range,
        **({"metal": "aluminium"} if line_of(what, metal) is fatigue.ALUMINIUM else {}),
    }  # fmt: skip
    return [CheckResult(
        key=kind.key, name=kind.name, part=where, demand=day.target, capacity=cycles, unit=kind.unit, utilisation=day.target / cycles,
        passed=cycles >= day.target, case="everyday cycles", factor=1.0, factor_name="none", formula=kind.formula, source=kind.source,
        note=f"{what}: {stress:.0f} MPa of everyday range, class {grade:.0f}{told_of(what, metal)}", reproduce=Reproduction(topic="life", input=data, output="cycles", figure="capacity"),
    )]  # fmt: skip
