"""A link with its catalogue rows in hand: what is chosen, whether it goes together, its stack and its mass."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from math import pi

from tirante.core.document.catalogue import (
    Catalogue,
    Grade,
    Insert,
    Joint,
    Nut,
    Tube,
    comes_in_hand,
    grade_comes_as,
    insert_fits_tube,
    same_thread,
)
from tirante.core.document.parts.common import RodEndEnd, Welding
from tirante.core.document.parts.link import FixedEnd, FlatEnd, Link, Machined, Plug, Sleeve
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import CaseSeen, worst_axial
from tirante.core.members import link_stack
from tirante.core.members.bend_line import BendLine
from tirante.core.members.fatigue import Swing
from tirante.core.members.insert_weld import filler_ultimate, legs_for
from tirante.core.members.splice import sleeve_section
from tirante.core.members.thread import Fit, Thread, engagement_for_load, parse_thread, thread_strip
from tirante.core.members.tube import Section
from tirante.core.parts.link.flat import flat_fits, let_in, plate_of
from tirante.core.parts.link.plug import plug_fits, plug_metal
from tirante.core.parts.link.sleeve import CLEAR, meets_at, reducer_metal, ring_long, sleeve_fits, stands_od, tube_face
from tirante.core.parts.link.solid import floor_lacks, solid_metal
from tirante.core.parts.part import Misfit
from tirante.core.quantities import or_more
from tirante.core.units import STEEL_DENSITY


@dataclass(frozen=True, slots=True, kw_only=True)
class ThreadedEnd:
    """A rod end with its insert and nut."""

    joint: Joint
    insert: Insert  # or what stands for it where the tube itself is tapped
    nut: Nut
    hand: str
    tapped: bool = False  # the thread is cut into the tube

    @property
    def thread(self) -> Thread:
        """The shank's thread."""
        return parse_thread(self.joint.designation)

    @property
    def insert_wall(self) -> float:
        """Of the insert, outside its thread [mm]."""
        return (self.insert.fit_diameter_mm - self.thread.major) / 2

    def plugs(self, welding: Welding) -> int:
        """Plug welds that this end can have: none where they would burn through to the thread, none into a tapped tube."""
        return 0 if self.tapped or self.insert_wall < WALL_UNDER_PLUG else welding.plugs if welding.plug_mm > 0 else 0


@dataclass(frozen=True, slots=True, kw_only=True)
class PlainEnd:
    """An end that does not adjust."""

    what: str
    centre_to_face: float
    family: str = "steel"
    machined: Machined | None = None
    flat: FlatEnd | None = None
    sleeve: Sleeve | None = None
    plug: Plug | None = None

    @property
    def squashed(self) -> bool:
        """Whether it is the tube itself, and nothing is welded."""
        return self.flat is not None and self.flat.squashed

    @property
    def notched(self) -> bool:
        """Whether the tube itself is notched to a sleeve."""
        return self.sleeve is not None and self.sleeve.reducer is None

    @property
    def runs_past(self) -> bool:
        """Whether the tube itself takes the pin, and is made ready before the link is put together."""
        return self.squashed or self.plug is not None


def plain_end(link: Link, which: int, tube: Tube | None) -> PlainEnd:
    """A fixed end as a link has it: a squashed or plugged one is the tube, which runs on past the hole; to a sleeve the tube goes as far as its notch's longest point.

    Args:
        link: as it is saved.
        which: of its ends, a fixed one.
        tube: of the link; None: not chosen.
    """
    end = (link.end_a, link.end_b)[which]
    assert isinstance(end, FixedEnd)
    past = end.plug or (end.flat if end.flat and end.flat.squashed else None)
    face = -past.edge_mm if past else end.centre_to_face.mm
    if end.sleeve and tube is not None:
        face = tube_face(end.sleeve, tube, meets_at(link, which))
    return PlainEnd(
        what=end.what,
        centre_to_face=face,
        family=end.family,
        machined=end.machined,
        flat=end.flat,
        sleeve=end.sleeve,
        plug=end.plug,
    )


LinkEndParts = ThreadedEnd | PlainEnd


WALL_OUTSIDE_THREAD = 1.0  # mm of tube outside its own thread at least, to be tapped at all; what it carries is a check
WALL_UNDER_PLUG = 2.5  # mm of insert under a plug weld; a thinner one is burnt through; common practice, no source
RADIUS_OF_TUBE = 3.0  # outside diameters: a usual former; common practice, no source
STRAIGHT_OF_TUBE = 2.0  # outside diameters that a bender holds; common practice, no source


def _welds(end: LinkEndParts) -> bool:
    """Whether an end is welded on."""
    return not (end.tapped if isinstance(end, ThreadedEnd) else end.squashed)


@dataclass(frozen=True, slots=True, kw_only=True)
class Everyday:
    """What a link goes through day by day."""

    swings: tuple[Swing, ...]  # of its force, by `fatigue.swings`; the farthest first
    target: float  # cycles wanted

    @property
    def range(self) -> float:
        """Most less least of its force [N]."""
        return self.swings[0][0]


def typed_range(force: float) -> tuple[Swing, ...]:
    """What a range that is typed says of the forces: their sizes together are no less than it [N]."""
    return ((force, force),)


@dataclass(frozen=True, slots=True, kw_only=True)
class Assembly:
    """A complete link."""

    link: Link
    tube: Tube
    grade: Grade
    ends: tuple[LinkEndParts, LinkEndParts]
    cases: tuple[CaseSeen, ...]  # what it sees
    everyday: Everyday | None = None  # what it goes through day by day; None: not known

    @property
    def section(self) -> Section:
        """The tube's section."""
        return Section(od=self.tube.od_mm, wall=self.tube.wall_mm)

    @property
    def bend(self) -> BendLine | None:
        """The line of its tube, where it is bent."""
        bent = self.link.bent
        if bent is None:
            return None
        radius = RADIUS_OF_TUBE * self.tube.od_mm if bent.radius_mm is None else bent.radius_mm
        from_ends = bent.from_ends.mm if bent.from_ends else None
        return BendLine(span=self.link.between.mm, offset=bent.offset.mm, from_ends=from_ends, radius=radius)

    @property
    def path(self) -> float:
        """Pivot to pivot along the tube [mm]."""
        return self.bend.path if self.bend else self.link.between.mm

    @property
    def threaded(self) -> list[ThreadedEnd]:
        """The ends that adjust."""
        return [end for end in self.ends if isinstance(end, ThreadedEnd)]

    @property
    def leg(self) -> float:
        """Leg of the fillets at its ends [mm]: as given, or what the wall asks."""
        given = self.link.welding.leg_mm
        return legs_for(self.tube.wall_mm).usual if given is None else given

    @property
    def splice_leg(self) -> float:
        """Leg of the splice's rings [mm]: as given, or what the thinner of tube and sleeve asks."""
        splice = self.link.splice
        assert splice
        return legs_for(min(self.tube.wall_mm, splice.wall_mm)).usual if splice.leg_mm is None else splice.leg_mm

    def filler(self, settings: Settings) -> float:
        """Ultimate of the filler that joins its metal [MPa]."""
        return filler_ultimate(
            self.grade.family, settings.electrode_uts_mpa, self.grade.uts_at_weld, settings.aluminium_filler
        )

    @property
    def welded(self) -> bool:
        """Whether anything is welded to the tube."""
        link = self.link
        return any(_welds(end) for end in self.ends) or link.mid_welded or link.splice is not None

    @property
    def handed(self) -> bool:
        """Whether the right one is no left one: nothing turns at either end, and their bolts are neither in line nor square to each other."""
        return not self.threaded and self.link.clocking_deg % 90 != 0

    @property
    def shrinking(self) -> int:
        """Welds across the tube that draw it shorter: one an end that is welded on here, one in a splice."""
        ends = sum(
            1 for end in self.ends if _welds(end) and not (isinstance(end, PlainEnd) and (end.flat or end.plug))
        )  # fillets along it draw it little; a plugged end is bored after welding
        kept = 1 if self.link.bought and ends else 0  # of a bought link one end is welded already
        return ends - kept + (1 if self.link.splice else 0)


def assemble(
    link: Link, catalogue: Catalogue, cases: tuple[CaseSeen, ...], everyday: Everyday | None = None
) -> Assembly | list[Misfit]:
    """Put the chosen rows together, or say all that is missing or does not fit.

    Args:
        link: as it is saved.
        catalogue: the rows that its design holds.
        cases: what it sees.
        everyday: what it goes through day by day; None: not known.
    """
    faults: list[Misfit] = []
    tube = catalogue.find("tubes", link.tube) if link.tube else None
    grade = catalogue.find("grades", link.grade) if link.grade else None
    if not isinstance(tube, Tube):
        faults.append(Misfit(field="tube", message="No tube is chosen yet. Press Size it, or choose one."))
    if not isinstance(grade, Grade):
        faults.append(Misfit(field="grade", message="No grade is chosen yet. Press Size it, or choose one."))
    ends: list[LinkEndParts] = []
    for which, name in enumerate(("end_a", "end_b")):
        end = getattr(link, name)
        if isinstance(end, FixedEnd):
            plain = plain_end(link, which, tube if isinstance(tube, Tube) else None)
            ends.append(plain)
            if isinstance(grade, Grade) and end.family != grade.family and not plain.squashed:
                faults.append(
                    Misfit(field=f"{name}.family", message=f"The {end.what} is {end.family}, the tube {grade.family}: they do not weld together. "
                           f"Take one of {grade.family}, or another tube.")
                )  # fmt: skip
            if end.machined:
                faults += _machined_fits(end.machined, end.centre_to_face.mm, name)
            if end.flat and isinstance(tube, Tube):
                faults += flat_fits(end.flat, tube, name)
            if isinstance(tube, Tube):
                faults += sleeve_fits(link, end, tube, name)
                faults += plug_fits(end.plug, tube, name) if end.plug else []
            continue
        parts, missing = _threaded(end, name, catalogue, tube, grade)
        faults += missing
        if parts:
            ends.append(parts)
            if isinstance(tube, Tube) and isinstance(grade, Grade):
                faults += _end_fits(parts, name, tube, grade)
    if isinstance(tube, Tube) and isinstance(grade, Grade) and not grade_comes_as(grade, tube):
        faults.append(
            Misfit(field="grade", message=f"{grade.label} is not drawn as {tube.label}. Choose another grade.")
        )
    if isinstance(tube, Tube):
        faults += _leg_fits(link.welding.leg_mm, tube.wall_mm, "welding.leg_mm")
    if link.splice and isinstance(tube, Tube):
        faults += _leg_fits(link.splice.leg_mm, min(tube.wall_mm, link.splice.wall_mm), "splice.leg_mm")
        try:
            section = Section(od=tube.od_mm, wall=tube.wall_mm)
            sleeve_section(section, link.splice.wall_mm, inside=link.splice.sleeve == "inside")
        except InputError as error:
            faults.append(Misfit(field="splice.wall_mm", message=error.message))
    if faults or not isinstance(tube, Tube) or not isinstance(grade, Grade) or len(ends) != 2:
        return faults
    return Assembly(
        link=link, tube=tube, grade=grade, ends=(ends[0], ends[1]), cases=cases, everyday=everyday,
    )  # fmt: skip


def _leg_fits(leg: float | None, wall: float, field: str) -> list[Misfit]:
    """A leg that a wall does not take, or that is less than the wall asks for; 0: no fillet there."""
    legs = legs_for(wall)
    if leg is None or leg == 0 or legs.least - 1e-9 <= leg <= legs.most + 1e-9:
        return []
    if leg > legs.most:
        return [
            Misfit(field=field, message=f"A {leg:g} mm fillet burns through a {wall:.2f} mm wall: at most the wall.")
        ]
    return [
        Misfit(
            field=field,
            message=f"A {leg:g} mm fillet is too small for a {wall:.2f} mm wall: at least {legs.least:g} mm (AISC Table J2.4).",
        )
    ]


def _threaded(
    end: RodEndEnd, name: str, catalogue: Catalogue, tube: object, grade: object
) -> tuple[ThreadedEnd | None, list[Misfit]]:
    if end.tapped_mm is not None:
        return _tapped(end, name, catalogue, tube, grade)
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


def _tapped(
    end: RodEndEnd, name: str, catalogue: Catalogue, tube: object, grade: object
) -> tuple[ThreadedEnd | None, list[Misfit]]:
    """A joint in the tube's own thread; the tube stands for the insert."""
    joint = catalogue.find("joints", end.joint) if end.joint else None
    nut = catalogue.find("nuts", end.nut) if end.nut else None
    faults = [
        Misfit(field=f"{name}.{kind}", message=f"No {kind} is chosen yet. Choose one, or press Size it.")
        for kind, row in (("joint", joint), ("nut", nut)) if row is None
    ]  # fmt: skip
    if not (isinstance(joint, Joint) and isinstance(nut, Nut) and isinstance(tube, Tube) and isinstance(grade, Grade)):
        return None, faults
    return ThreadedEnd(
        joint=joint, insert=tapped_insert(joint, tube, grade, end.tapped_mm or 0.0), nut=nut, hand=end.hand, tapped=True
    ), faults


def tapped_insert(joint: Joint, tube: Tube, grade: Grade, depth: float) -> Insert:
    """The tube's own thread, as what the joint is screwed into.

    Args:
        joint: that is screwed in.
        tube: that is tapped.
        grade: its metal.
        depth: of full thread [mm].
    """
    return Insert(
        key="tapped", label=f"{joint.designation} tapped in the tube, {depth:g} mm deep", source="the tube’s own metal",
        designation=joint.designation, hands="RH LH", family=grade.family, fit_diameter_mm=tube.od_mm, shoulder_diameter_mm=tube.od_mm,
        shoulder_mm=0.0, thread_depth_mm=depth, uts_mpa=grade.uts_mpa, yield_mpa=grade.yield_mpa,
    )  # fmt: skip


def _machined_fits(end: Machined, face: float, name: str) -> list[Misfit]:
    faults = []
    short = floor_lacks(end, face)
    if short > 1e-6:
        faults.append(
            Misfit(field=f"{name}.centre_to_face", message=f"An eye as wide as the clevis does not turn in so short a fork, or nothing is left behind it: make it {or_more(face + short)} mm or more from the hole’s centre to the tube’s end.")
        )  # fmt: skip
    if end.pin_mm > end.hole_mm:
        faults.append(
            Misfit(field=f"{name}.machined.hole_mm", message="The hole is smaller than its pin: bore it larger.")
        )
    if end.hole_mm >= end.width_mm:
        faults.append(
            Misfit(field=f"{name}.machined.width_mm", message="The hole is as wide as the end: give it more width.")
        )
    if end.edge_mm <= end.hole_mm / 2:
        faults.append(
            Misfit(field=f"{name}.machined.edge_mm", message="The hole breaks out of the end: give it more edge.")
        )
    return faults


def tappable(tube: Tube, thread: Thread) -> bool:
    """Whether a thread can be cut into a tube: its bore leaves metal for it, and there is a wall outside it."""
    return tube.bore_mm <= thread.minor_internal + 1e-6 and tube.od_mm > thread.major + 2 * WALL_OUTSIDE_THREAD


def _end_fits(parts: ThreadedEnd, name: str, tube: Tube, grade: Grade) -> list[Misfit]:
    faults: list[Misfit] = []
    joint, insert, nut = parts.joint, parts.insert, parts.nut
    if parts.tapped:
        drill = parts.thread.minor_internal
        if tube.bore_mm > drill + 1e-6:
            faults.append(
                Misfit(
                    field=f"{name}.tapped_mm",
                    message=f"The bore is {tube.bore_mm:.2f} mm, wider than the tap's drill, {drill:.2f} mm: no thread is cut. Choose a thicker tube.",
                )
            )
        if tube.od_mm <= parts.thread.major + 2 * WALL_OUTSIDE_THREAD:
            faults.append(
                Misfit(
                    field=f"{name}.tapped_mm",
                    message=f"The thread is {parts.thread.major:g} mm, the tube {tube.od_mm:g} mm: no wall is left outside it.",
                )
            )
        if not same_thread(joint.designation, nut.designation):
            faults.append(
                Misfit(field=f"{name}.nut", message=f"The nut is {nut.designation}, the joint {joint.designation}.")
            )
        for part, bought in (("joint", joint), ("nut", nut)):
            if not comes_in_hand(bought.hands, parts.hand):
                faults.append(Misfit(field=f"{name}.{part}", message=f"{bought.label} is not made {parts.hand}."))
        return faults
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


@dataclass(frozen=True, slots=True, kw_only=True)
class EngagementRules:
    """The four rules of least engagement, beside each other [mm]; kept to is the larger of the first two, and of the last where the shop says so."""

    one_diameter: float  # common practice
    for_load: float  # what the factored load needs against strip
    shank_breaks_first: float  # FED-STD-H28
    two_thirds_of_thread: float  # kit instructions
    two_thirds: bool = False  # whether that is a rule of this shop

    @property
    def default(self) -> float:
        """What the application keeps to."""
        return max(self.one_diameter, self.for_load, self.two_thirds_of_thread if self.two_thirds else 0.0)


def engagement_rules(end: ThreadedEnd, axial: float, settings: Settings) -> EngagementRules:
    """Least engagement of an end under the given axial force (unfactored) [mm].

    Args:
        end: with its rows.
        axial: worst force on it, unfactored [N].
        settings: factors, schools and allowances of the shop.
    """
    return _rules(end.joint, end.insert, axial, settings.factors.strip, settings.thread_fit, settings.two_thirds_rule)


@lru_cache(maxsize=8192)
def _rules(joint: Joint, insert: Insert, axial: float, factor: float, fit: Fit, two_thirds: bool) -> EngagementRules:
    thread = parse_thread(joint.designation)
    around = insert.fit_diameter_mm  # what is tapped may give way outward
    strip = thread_strip(thread, joint.body_uts_mpa, insert.uts_mpa, thread.major, fit, around)
    return EngagementRules(
        one_diameter=thread.major,
        for_load=engagement_for_load(thread, joint.body_uts_mpa, insert.uts_mpa, factor * axial, fit, around),
        shank_breaks_first=strip.min_engagement,
        two_thirds_of_thread=joint.thread_length_mm * 2 / 3,
        two_thirds=two_thirds,
    )


def stack_end(end: LinkEndParts, axial: float, settings: Settings) -> link_stack.End:
    """The end as the link stack sees it.

    Args:
        end: with its rows, threaded or plain.
        axial: worst force on it, unfactored [N].
        settings: factors, schools and allowances of the shop.
    """
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
        open_back=end.insert.open_back == "open",
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


def _room_to_bend(assembly: Assembly, line: BendLine, stack: link_stack.LinkStack, settings: Settings) -> None:
    """Straight tube enough at either end for what is let into it, its weld and the bender, and between two bends for the bender.

    Raises:
        InputError: there is not, with the least that works.
    """
    od = assembly.tube.od_mm
    held = STRAIGHT_OF_TUBE * od if settings.bender_straight_mm is None else settings.bender_straight_mm
    for end, own in zip(assembly.ends, stack.ends, strict=True):
        inside = end.insert.thread_depth_mm - end.insert.shoulder_mm if isinstance(end, ThreadedEnd) else 0.0
        needed = max(inside + od, held)  # a diameter past what is let in, for its weld's heat
        straight = line.leg - line.tangent - own.face_from_centre
        if straight >= needed - 1e-6:
            continue
        told = f"{max(straight, 0.0):.1f} mm of straight tube before the bend, and {needed:.1f} mm are needed for what is let into it, its weld and the bender"
        if line.from_ends is None:
            raise InputError(
                f"There are {told}. Bend it less, on a smaller radius, or lengthen the link.", code="out_of_range", fields=("bent.offset",), value=line.offset
            )  # fmt: skip
        least = line.least_from_ends(needed + own.face_from_centre)
        raise InputError(
            f"There are {told}. Bend it {or_more(least)} mm or more from the pivots.", code="out_of_range",
            fields=("bent.from_ends",), value=line.from_ends, limits=(least, line.span / 2),
        )  # fmt: skip
    if line.from_ends is not None and line.between < held - 1e-6:
        raise InputError(
            f"There are {max(line.between, 0.0):.1f} mm of straight tube between the bends, and the bender holds {held:.1f} mm. Bend it nearer to the "
            "pivots, or once at mid-span.", code="out_of_range", fields=("bent.from_ends",), value=line.from_ends,
        )  # fmt: skip


def stack_of(assembly: Assembly, settings: Settings) -> link_stack.LinkStack:
    """The link's stack as built.

    Raises:
        InputError: no tube is left, or the thread is too short; `fields` are the link's.
    """
    axial = worst_axial(assembly.cases)
    school, showing = school_of(assembly.link, settings)
    ends = [stack_end(end, axial, settings) for end in assembly.ends]
    try:
        stack = link_stack.link_stack(assembly.path, ends, school, showing)
    except InputError as error:
        names = {"ends.0": "end_a.joint", "ends.1": "end_b.joint", "centre_to_centre_mm": "between"}
        error.fields = tuple(names.get(field.rsplit(".", 1)[0], names.get(field, field)) for field in error.fields)
        raise
    extra = assembly.path - assembly.link.between.mm
    if extra:  # sawn along the tube; adjusted and jigged pivot to pivot
        stack = replace(
            stack,
            centre_to_centre=assembly.link.between.mm,
            shortest=stack.shortest - extra,
            longest=stack.longest - extra,
        )
    if assembly.bend:
        _room_to_bend(assembly, assembly.bend, stack, settings)
    if assembly.link.splice:
        first = assembly.link.splice.at.mm - stack.ends[0].face_from_centre
        half = assembly.link.splice.length.mm / 2
        if not half < first < stack.tube_cut - half:
            near = stack.ends[0].face_from_centre + half
            raise InputError(
                f"The sleeve reaches past the tube’s end. Splice it between {near:.1f} and {near + stack.tube_cut - 2 * half:.1f} mm from "
                "pivot A, or take a shorter sleeve.",
                code="out_of_range", fields=("splice.at",), value=assembly.link.splice.at.mm,
            )  # fmt: skip
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
    # the welds draw it shorter by so much: it is sawn, and the jig set, longer by as much
    return replace(stack, tube_cut=stack.tube_cut + settings.weld_shrink_mm * assembly.shrinking)


@dataclass(frozen=True, slots=True, kw_only=True)
class Mass:
    """Mass of one link [kg]."""

    tube: float
    joints: float
    inserts: float
    nuts: float
    ends: float = 0.0  # sleeves, what is machined, plates let in

    @property
    def total(self) -> float:
        """All of it [kg]."""
        return self.tube + self.joints + self.inserts + self.nuts + self.ends


def mass_of(assembly: Assembly, stack: link_stack.LinkStack) -> Mass:
    """Mass of the link without bolts and tabs; of what is bought for a fixed end no size is known.

    Nuts are steel hexagons of 1.5 D across flats (common practice); an insert is of the tube's metal, or would not weld to
    it.
    """
    inserts = nuts = 0.0
    density = assembly.grade.density_kg_m3 * 1e-9
    for end in assembly.threaded:
        major = end.thread.major
        if end.tapped:
            nuts += (0.866 * (1.5 * major) ** 2 - pi / 4 * major**2) * end.nut.height_mm * STEEL_DENSITY
            continue
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
        ends=sum(
            _metal_of(end, assembly.tube, assembly.link.welding) for end in assembly.ends if isinstance(end, PlainEnd)
        )
        * density,
    )


def _metal_of(end: PlainEnd, tube: Tube, welding: Welding) -> float:
    """Of a sleeve, a plug, what is machined, or of plates let in, less what their slots take of the tube; of the tube's own family, or they would not weld to it [mm³]."""
    if end.sleeve:
        one = end.sleeve
        thin = one.wall_mm - CLEAR  # of a ring, bored clear
        rings = 2 * pi * (one.outside_mm - thin) * thin * ring_long(one, stands_od(one, tube))
        return pi * (one.outside_mm - one.wall_mm) * one.wall_mm * one.long_mm + rings + reducer_metal(one, tube)
    if end.plug:
        return plug_metal(end.plug, tube)
    if end.machined:
        return solid_metal(end.machined, end.centre_to_face, tube, welding)
    if end.flat is None or end.flat.squashed:
        return 0.0
    made = let_in(end.flat, tube)
    plate = plate_of(end.flat, end.centre_to_face).area * end.flat.thickness_mm
    return end.flat.plates * plate - made.cut * tube.wall_mm * end.flat.lap_mm
