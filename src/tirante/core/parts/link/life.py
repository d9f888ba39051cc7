"""How many everyday cycles a link lasts: thread roots, weld toes and roots, plugs, bends, by the classes of EN 1993-1-9."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import pi

from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Reproduction
from tirante.core.document.parts.link import Link
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import NotCarried
from tirante.core.loads.seen import swings_of_link
from tirante.core.members import fatigue
from tirante.core.members.fatigue import Round, worst_swings
from tirante.core.members.insert_weld import THROAT_OF_LEG
from tirante.core.members.tube import Section
from tirante.core.parts.around import Around
from tirante.core.parts.everyday import BY_USE, told
from tirante.core.parts.link.assembly import Assembly, Everyday, PlainEnd, ThreadedEnd, typed_range
from tirante.core.parts.link.sleeve import stands_od, weld_share

COVERED = ("steel", "stainless")  # families that a search takes unasked where it must know the life


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
        return Everyday(swings=typed_range(link.everyday_n), target=wanted)
    try:
        found = around.everyday(link.between.end_id).cases
    except InputError as error:
        return NotCarried(case="everyday cycles", why=error.message)
    lacking = next((one for one in found if one.fault), None)
    if lacking:
        return NotCarried(case="everyday cycles", why=f"{lacking.case.name}: {lacking.fault}")
    swings = swings_of_link(link.side, link.between.link, found)
    if not swings:
        return NotCarried(case="everyday cycles", why="no everyday case reaches it")
    if link.everyday_n and link.everyday_n > swings[0][0]:
        swings = worst_swings([*swings, *typed_range(link.everyday_n)])
    return Everyday(swings=swings, target=wanted)


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


@dataclass(frozen=True, slots=True, kw_only=True)
class Detail:
    """One place that a link may crack at."""

    where: str
    what: str
    round: Round
    friction: float  # moment of the ball's friction there, of each newton on the joint [mm]
    grade: float  # class [MPa]
    shear: bool = False


def _details(assembly: Assembly, friction: float) -> Iterator[Detail]:
    """Every place that its force and the friction of its balls ask something of; what an end's ball bends, the whole tube may feel."""
    section, leg, welding = assembly.section, assembly.leg, assembly.link.welding
    metal = fatigue.BY_FAMILY[assembly.grade.family]
    arms = [
        fatigue.friction_arm(friction, end.joint.ball_diameter_mm) if isinstance(end, ThreadedEnd) else 0.0
        for end in assembly.ends
    ]
    most, wall = max(arms), fatigue.of_tube(section)
    for index, (end, arm) in enumerate(zip(assembly.ends, arms, strict=True)):
        where, letter = f"end {'AB'[index]}", "AB"[index]
        if isinstance(end, ThreadedEnd):
            grade = fatigue.thread_class(end.thread.major)
            yield Detail(
                where=where,
                what=f"thread root, end {letter}",
                round=fatigue.of_thread(end.thread),
                friction=arm,
                grade=grade,
            )
            if end.tapped:
                left = fatigue.of_tube(Section(od=section.od, wall=(section.od - end.thread.major) / 2))
                yield Detail(
                    where=where,
                    what=f"tube over its own thread, end {letter}",
                    round=left,
                    friction=most,
                    grade=fatigue.THREAD_CLASS,
                )
                continue
        plug = end.plug if isinstance(end, PlainEnd) else None
        around = min(section.od, end.insert.shoulder_diameter_mm) if isinstance(end, ThreadedEnd) else section.od
        if isinstance(end, PlainEnd) and end.sleeve:
            stands = stands_od(end.sleeve, assembly.tube)
            around = stands * weld_share(end.sleeve, stands)
            if end.sleeve.reducer:  # beside its tube's own: its collar's weld there, and its neck at the sleeve
                yield Detail(where=where, what=f"root of its collar’s ring weld, end {letter}", round=fatigue.of_ring(section.od, THROAT_OF_LEG * leg), friction=most, grade=metal.throat)  # fmt: skip
                yield Detail(where=where, what=f"reducer’s neck at its weld, end {letter}", round=fatigue.of_tube(Section(od=stands, wall=None)), friction=most, grade=metal.toe)  # fmt: skip
        if plug is not None:
            around = section.od - 2 * assembly.tube.wall_mm
        yield Detail(where=where, what=f"tube at its weld, end {letter}", round=wall, friction=most, grade=metal.toe)
        if leg > 0:
            ring = fatigue.of_ring(around, THROAT_OF_LEG * (plug.leg_mm if plug else leg))
            yield Detail(
                where=where, what=f"root of the ring weld, end {letter}", round=ring, friction=most, grade=metal.throat
            )
        elif plugs := end.plugs(welding) if isinstance(end, ThreadedEnd) else welding.plugs if welding.plug_mm else 0:
            # what bends it, the insert's fit in its bore carries
            pull = 1 / (plugs * pi / 4 * welding.plug_mm**2)
            yield Detail(
                where=where,
                what=f"plug welds, end {letter}",
                round=Round(pull=pull, bend=0.0),
                friction=0.0,
                grade=metal.shear,
                shear=True,
            )
    bent = assembly.link.bent
    if bent:
        at_bend = Round(pull=wall.pull + bent.offset.mm * wall.bend, bend=wall.bend)
        yield Detail(where="tube", what="tube at its bend", round=at_bend, friction=most, grade=metal.bend or 0.0)
    if assembly.link.mid_welded:
        yield Detail(where="tube", what="tube at what is welded on it", round=wall, friction=most, grade=metal.toe)
    if assembly.link.splice:
        yield Detail(where="splice", what="tube at its splice", round=wall, friction=most, grade=metal.toe)
        if assembly.splice_leg > 0:
            ring = fatigue.of_ring(section.od, THROAT_OF_LEG * assembly.splice_leg)
            yield Detail(
                where="splice", what="root of the splice’s weld", round=ring, friction=most, grade=metal.throat
            )


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
    worst: tuple[float, Detail, float, float] | None = None  # cycles, where, range of stress, of that the friction's
    for one in _details(assembly, settings.joint_friction):
        turned, stress = max(
            ((one.round.bend * one.friction * under, one.round.stress(far, one.friction * under)) for far, under in day.swings),
            key=lambda found: found[1],
        )  # fmt: skip
        line = line_of(one.what, metal)
        cycles = fatigue.life(stress, one.grade, settings.everyday, shear=one.shear, metal=line)
        if worst is None or cycles < worst[0]:
            worst = cycles, one, stress, turned
    if worst is None:
        return []
    cycles, one, stress, turned = worst
    where, what, grade, shear = one.where, one.what, one.grade, one.shear
    of_friction = f", {turned:.0f} of them of the ball’s friction" if turned >= 0.5 else ""
    kind = asked("life", where, settings.factors)
    data = {
        "stress_range_mpa": stress, "class_mpa": grade, "shear": shear, "spectrum": [list(one) for one in settings.everyday], "range_n": day.range,
        **({"metal": "aluminium"} if line_of(what, metal) is fatigue.ALUMINIUM else {}),
    }  # fmt: skip
    return [CheckResult(
        key=kind.key, name=kind.name, part=where, demand=day.target, capacity=cycles, unit=kind.unit, utilisation=day.target / cycles,
        passed=cycles >= day.target, case="everyday cycles", factor=1.0, factor_name="none", formula=kind.formula, source=kind.source,
        note=f"{what}: {stress:.0f} MPa of everyday range{of_friction}, class {grade:.0f}{told_of(what, metal)}{told(settings)}", reproduce=Reproduction(topic="life", input=data, output="cycles", figure="capacity"),
    )]  # fmt: skip
