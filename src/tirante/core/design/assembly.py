"""A link with its catalogue rows in hand: what is chosen, whether it goes together, its stack and its mass."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from math import pi

from tirante.core.design.catalogue import (
    Bolt,
    Catalogue,
    Grade,
    Insert,
    Joint,
    Nut,
    Spacer,
    Tube,
    bolt_fits,
    comes_in_hand,
    grade_comes_as,
    insert_fits_tube,
    pin_hole,
    same_thread,
    spacer_fits,
)
from tirante.core.design.model import FixedEnd, Link, LoadCase, RodEndEnd, Settings, TabPair
from tirante.core.errors import InputError
from tirante.core.members import link_stack
from tirante.core.members.thread import Thread, engagement_for_load, parse_thread, thread_strip
from tirante.core.members.tube import Section

STEEL_DENSITY = 7850e-9  # kg/mm^3, nuts; common value


@dataclass(frozen=True, slots=True, kw_only=True)
class ThreadedEnd:
    """A rod end with its insert and nut."""

    joint: Joint
    insert: Insert
    nut: Nut
    hand: str

    @property
    def thread(self) -> Thread:
        """The shank's thread."""
        return parse_thread(self.joint.designation)


@dataclass(frozen=True, slots=True, kw_only=True)
class PlainEnd:
    """An end that does not adjust."""

    what: str
    centre_to_face: float


LinkEndParts = ThreadedEnd | PlainEnd


@dataclass(frozen=True, slots=True, kw_only=True)
class Assembly:
    """A complete link."""

    link: Link
    tube: Tube
    grade: Grade
    ends: tuple[LinkEndParts, LinkEndParts]
    bolt: Bolt | None
    spacer: Spacer | None

    @property
    def section(self) -> Section:
        """The tube's section."""
        return Section(od=self.tube.od_mm, wall=self.tube.wall_mm)

    @property
    def threaded(self) -> list[ThreadedEnd]:
        """The ends that adjust."""
        return [end for end in self.ends if isinstance(end, ThreadedEnd)]

    @property
    def tabbed(self) -> list[ThreadedEnd]:
        """The joints that the tab pair holds, A first; of both ends they are of one bore and ball width."""
        return tabbed(self.ends, self.link.tab) if self.link.tab else []


@dataclass(frozen=True, slots=True, kw_only=True)
class Misfit:
    """Something that is not chosen or does not go together, at a field of the link."""

    field: str
    message: str


def tabbed(ends: Sequence[LinkEndParts], tab: TabPair) -> list[ThreadedEnd]:
    """The joints of a link's ends that its tab pair holds."""
    wanted = {"a": ends[:1], "b": ends[1:], "both": ends}[tab.ends]
    return [end for end in wanted if isinstance(end, ThreadedEnd)]


def assemble(link: Link, catalogue: Catalogue) -> Assembly | list[Misfit]:
    """Put the chosen rows together, or say all that is missing or does not fit."""
    faults: list[Misfit] = []
    tube = catalogue.find("tubes", link.tube) if link.tube else None
    grade = catalogue.find("grades", link.grade) if link.grade else None
    if not isinstance(tube, Tube):
        faults.append(Misfit(field="tube", message="No tube is chosen yet. Press Size it, or choose one."))
    if not isinstance(grade, Grade):
        faults.append(Misfit(field="grade", message="No grade is chosen yet. Press Size it, or choose one."))
    ends: list[LinkEndParts] = []
    for name in ("end_a", "end_b"):
        end = getattr(link, name)
        if isinstance(end, FixedEnd):
            ends.append(PlainEnd(what=end.what, centre_to_face=end.centre_to_face.mm))
            continue
        parts, missing = _threaded(end, name, catalogue)
        faults += missing
        if parts:
            ends.append(parts)
            if isinstance(tube, Tube) and isinstance(grade, Grade):
                faults += _end_fits(parts, name, tube, grade)
    if isinstance(tube, Tube) and isinstance(grade, Grade) and not grade_comes_as(grade, tube):
        faults.append(
            Misfit(field="grade", message=f"{grade.label} is not drawn as {tube.label}. Choose another grade.")
        )
    bolt = catalogue.find("bolts", link.tab.bolt) if link.tab and link.tab.bolt else None
    spacer = catalogue.find("spacers", link.tab.spacer) if link.tab and link.tab.spacer else None
    if link.tab and len(ends) == 2:
        held = [end.joint for end in tabbed(ends, link.tab)]
        if not held:
            faults.append(Misfit(field="tab.ends", message="There is no joint at that end for the tab pair to hold."))
        elif len({(joint.bore_mm, joint.ball_width_mm) for joint in held}) > 1:
            faults.append(
                Misfit(
                    field="tab.ends",
                    message="The two ends have different balls, so one tab pair cannot hold both. Put the tab pair on one end.",
                )
            )
        else:
            faults += _pin_fits(
                held[0], bolt if isinstance(bolt, Bolt) else None,
                spacer if isinstance(spacer, Spacer) else None, link.tab.hole.mm,
            )  # fmt: skip
    if faults or not isinstance(tube, Tube) or not isinstance(grade, Grade) or len(ends) != 2:
        return faults
    return Assembly(
        link=link, tube=tube, grade=grade, ends=(ends[0], ends[1]),
        bolt=bolt if isinstance(bolt, Bolt) else None, spacer=spacer if isinstance(spacer, Spacer) else None,
    )  # fmt: skip


def _threaded(end: RodEndEnd, name: str, catalogue: Catalogue) -> tuple[ThreadedEnd | None, list[Misfit]]:
    faults = []
    joint = catalogue.find("joints", end.joint) if end.joint else None
    insert = catalogue.find("inserts", end.insert) if end.insert else None
    nut = catalogue.find("nuts", end.nut) if end.nut else None
    for kind, row in (("joint", joint), ("insert", insert), ("nut", nut)):
        if row is None:
            faults.append(
                Misfit(field=f"{name}.{kind}", message=f"No {kind} is chosen yet. Press Size it, or choose one.")
            )
    if isinstance(joint, Joint) and isinstance(insert, Insert) and isinstance(nut, Nut):
        return ThreadedEnd(joint=joint, insert=insert, nut=nut, hand=end.hand), faults
    return None, faults


def _end_fits(parts: ThreadedEnd, name: str, tube: Tube, grade: Grade) -> list[Misfit]:
    faults = []
    joint, insert, nut = parts.joint, parts.insert, parts.nut
    if not same_thread(joint.designation, insert.designation):
        faults.append(
            Misfit(
                field=f"{name}.insert", message=f"The insert is {insert.designation}, the joint {joint.designation}."
            )
        )
    if not same_thread(joint.designation, nut.designation):
        faults.append(
            Misfit(field=f"{name}.nut", message=f"The nut is {nut.designation}, the joint {joint.designation}.")
        )
    for kind, row in (("joint", joint), ("insert", insert), ("nut", nut)):
        if not comes_in_hand(row.hands, parts.hand):
            faults.append(Misfit(field=f"{name}.{kind}", message=f"{row.label} is not made {parts.hand}."))
    if not insert_fits_tube(insert, tube, grade):
        if insert.family != grade.family:
            why = f"the insert is {insert.family}, the tube {grade.family}: they do not weld together"
        else:
            why = f"the insert is {insert.fit_diameter_mm:g} mm, the bore {tube.bore_mm:.2f} mm"
        faults.append(Misfit(field=f"{name}.insert", message=f"The insert does not fit the tube: {why}."))
    return faults


def _pin_fits(joint: Joint, bolt: Bolt | None, spacer: Spacer | None, hole: float) -> list[Misfit]:
    faults = []
    if spacer and not spacer_fits(spacer, joint):
        faults.append(
            Misfit(
                field="tab.spacer",
                message=f"The spacer is for a {spacer.ball_bore_mm:g} mm bore, the ball has {joint.bore_mm:g} mm.",
            )
        )
    if bolt is None:
        faults.append(Misfit(field="tab.bolt", message="No bolt is chosen yet. Press Size it, or choose one."))
    elif not bolt_fits(bolt.diameter_mm, pin_hole(joint, spacer)):
        faults.append(
            Misfit(
                field="tab.bolt",
                message=f"The bolt is {bolt.diameter_mm:g} mm, the hole through the joint {pin_hole(joint, spacer):g} mm.",
            )
        )
    if bolt and hole < bolt.diameter_mm:
        faults.append(
            Misfit(
                field="tab.hole", message=f"The hole is {hole:g} mm, the bolt {bolt.diameter_mm:g} mm: drill it larger."
            )
        )
    return faults


def worst_axial(cases: tuple[LoadCase, ...]) -> float:
    """Largest axial force of either sign [N]."""
    return max((abs(case.axial_n) for case in cases), default=0.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class EngagementRules:
    """The four rules of least engagement, beside each other [mm]; the default is the larger of the first two."""

    one_diameter: float  # common practice
    for_load: float  # what the factored load needs against strip
    shank_breaks_first: float  # FED-STD-H28
    two_thirds_of_thread: float  # kit instructions

    @property
    def default(self) -> float:
        """What the application keeps to."""
        return max(self.one_diameter, self.for_load)


def engagement_rules(end: ThreadedEnd, axial: float, settings: Settings) -> EngagementRules:
    """Least engagement of an end under the given axial force (unfactored) [mm]."""
    return _rules(end.joint, end.insert, axial, settings.factors.strip)


@lru_cache(maxsize=8192)
def _rules(joint: Joint, insert: Insert, axial: float, factor: float) -> EngagementRules:
    thread = parse_thread(joint.designation)
    strip = thread_strip(thread, joint.body_uts_mpa, insert.uts_mpa, thread.major)
    return EngagementRules(
        one_diameter=thread.major,
        for_load=engagement_for_load(thread, joint.body_uts_mpa, insert.uts_mpa, factor * axial),
        shank_breaks_first=strip.min_engagement,
        two_thirds_of_thread=joint.thread_length_mm * 2 / 3,
    )


def stack_end(end: LinkEndParts, axial: float, settings: Settings) -> link_stack.End:
    """The end as the link stack sees it."""
    if isinstance(end, PlainEnd):
        return link_stack.FixedEnd(centre_to_face=end.centre_to_face)
    return link_stack.AdjustableEnd(
        pitch=end.thread.pitch,
        thread_length=end.joint.thread_length_mm,
        eye_to_shank_end=end.joint.eye_to_shank_end_mm,
        jam_nut=end.nut.height_mm,
        shoulder=end.insert.shoulder_mm,
        min_engagement=engagement_rules(end, axial, settings).default,
        insert_depth=end.insert.thread_depth_mm,
        hand="LH" if end.hand == "LH" else "RH",
    )


def school_of(link: Link, settings: Settings) -> tuple[link_stack.School, float | None]:
    """The school in force and its showing [mm]."""
    school = link.school or settings.school
    showing = link.showing if link.school else link.showing or settings.showing
    if school == "exposure" and showing is None:
        raise InputError(
            "Fixed exposure needs the length of thread to show. Type it beside the school.",
            code="missing",
            fields=("showing",),
        )
    return school, showing.mm if showing else None


def stack_of(assembly: Assembly, settings: Settings) -> link_stack.LinkStack:
    """The link's stack as built.

    Raises:
        InputError: no tube is left, or the thread is too short; `fields` are the link's.
    """
    axial = worst_axial(assembly.link.cases)
    school, showing = school_of(assembly.link, settings)
    ends = [stack_end(end, axial, settings) for end in assembly.ends]
    try:
        stack = link_stack.link_stack(assembly.link.path_mm, ends, school, showing)
    except InputError as error:
        names = {"ends.0": "end_a.joint", "ends.1": "end_b.joint", "centre_to_centre_mm": "between"}
        error.fields = tuple(names.get(field.rsplit(".", 1)[0], names.get(field, field)) for field in error.fields)
        raise
    extra = assembly.link.path_mm - assembly.link.between.mm
    if extra:  # sawn along the tube; adjusted and jigged pivot to pivot
        stack = replace(
            stack,
            centre_to_centre=assembly.link.between.mm,
            shortest=stack.shortest - extra,
            longest=stack.longest - extra,
        )
    inside = sum(end.insert.thread_depth_mm - end.insert.shoulder_mm for end in assembly.threaded)
    if stack.tube_cut < inside:
        raise InputError(
            f"The tube would be {stack.tube_cut:.1f} mm and its inserts reach {inside:.1f} mm into it: they meet. Use a "
            "smaller thread or a solid link.",
            code="too_short",
            fields=("between",),
            value=stack.tube_cut,
            limits=(inside, None),
        )
    return stack


@dataclass(frozen=True, slots=True, kw_only=True)
class Mass:
    """Mass of one link [kg]."""

    tube: float
    joints: float
    inserts: float
    nuts: float

    @property
    def total(self) -> float:
        """All of it [kg]."""
        return self.tube + self.joints + self.inserts + self.nuts


def mass_of(assembly: Assembly, stack: link_stack.LinkStack) -> Mass:
    """Mass of the link without bolts and tabs.

    Nuts are steel hexagons of 1.5 D across flats (common practice); an insert is of the tube's metal, or would not weld to
    it.
    """
    inserts = nuts = 0.0
    density = assembly.grade.density_kg_m3 * 1e-9
    for end in assembly.threaded:
        major = end.thread.major
        ring = end.insert.fit_diameter_mm**2 - major**2
        collar = end.insert.shoulder_diameter_mm**2 - major**2
        depth = max(0.0, end.insert.thread_depth_mm - end.insert.shoulder_mm)
        inserts += pi / 4 * (ring * depth + collar * end.insert.shoulder_mm) * density
        nuts += (0.866 * (1.5 * major) ** 2 - pi / 4 * major**2) * end.nut.height_mm * STEEL_DENSITY
    return Mass(
        tube=assembly.section.area * stack.tube_cut * density,
        joints=sum(end.joint.mass_kg for end in assembly.threaded),
        inserts=inserts,
        nuts=nuts,
    )
