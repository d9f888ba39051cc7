"""A design worked out, stage by stage, each asked for by name: standing ends → load sets carried → parts → joints → lists and views.

The one place that knows what depends on what. Nothing is kept here but in the memory that is handed in, by the fingerprint of all
that a result depends on, so that page, command line and pack cannot disagree, and only what changed is worked out again.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterable, Mapping, Sequence
from contextlib import suppress
from dataclasses import replace
from functools import cached_property
from typing import TYPE_CHECKING, TypeVar

import numpy as np

from tirante import ENGINE_VERSION
from tirante.core.document.catalogue import Catalogue, Eye, Grade
from tirante.core.document.design import Design, SuspensionEnd, tied
from tirante.core.document.end import Damper, End, Strap
from tirante.core.document.joints import Held, HeldJoint, PivotOfArm, PointOfBody
from tirante.core.document.load_cases import CarCase, LoadSet
from tirante.core.document.mounts import Mount
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.lapped_plate import LappedPlate
from tirante.core.document.parts.rail_sleeve import RailSleeve
from tirante.core.document.parts.saved import SavedPart
from tirante.core.document.settings import Settings
from tirante.core.document.template import GROUND, RACK, Template
from tirante.core.errors import InputError, NotApplicable
from tirante.core.job.at_joints import at_joint
from tirante.core.job.chosen_joints import (
    Bends,
    Limits,
    Shapes,
    bends_of,
    limits_of,
    shapes_of,
    with_bends,
    with_limits,
    with_shapes,
)
from tirante.core.job.memory import Memory
from tirante.core.loads.case_seen import told_once
from tirante.core.parts.bearing import Bearing, BearingSeen
from tirante.core.parts.bracket.families.hole_pattern import holes_of
from tirante.core.parts.everyday import for_use
from tirante.core.parts.eyes import held_eye
from tirante.core.parts.feet import Foot, Spot, member_of
from tirante.core.parts.joint import HeldEnd
from tirante.core.parts.kind import Refit
from tirante.core.parts.part import Part, fingerprint, with_card, with_places
from tirante.core.parts.registry import KINDS, kind_of
from tirante.core.parts.stands import At, Stand, grown, lie_on, signed, stand_in_hole, stand_on, stands_upright
from tirante.core.parts.unmade import Unmade, held_unmade, unmade_joints
from tirante.core.suspension.moving import Moving, moving
from tirante.core.suspension.shelf import Shelf

if TYPE_CHECKING:
    from tirante.core.jigs.features import Features
    from tirante.core.loads.body_roll import EndRoll
    from tirante.core.loads.end_loads import EndLoads
    from tirante.core.loads.travel import Swept
    from tirante.core.suspension.cycle import Solved

EVERYDAY = LoadSet(
    name="everyday",
    cases=(
        CarCase(name="corner", kind="car", lateral=1.0), CarCase(name="brake", kind="car", longitudinal=-1.0, torque="brake"),
        CarCase(name="drive", kind="car", longitudinal=0.5, torque="drive"), CarCase(name="stand", kind="car", vertical=1.0),
    ),
)  # fmt: skip


def _on_tube(at: At, mount: Mount, foot: Foot) -> At:
    """A joint on a tube of an arm: where no person has said how its bolt lies and no plates stand square to the way that what swings on it
    tilts least on, the bolt along the tube."""
    if at.given:
        return at
    with suppress(NotApplicable):
        if at.bolt is not None and stands_upright(stand_on(mount, at)):
            return at
    return replace(at, bolt=signed(np.array(foot.along)), bolt_told="along the tube that it stands on")


T = TypeVar("T")


class Worked:
    """A design with what is worked out of it, when it is asked for."""

    def __init__(self, design: Design, shelf: Shelf, memory: Memory) -> None:
        """
        Args:
            design: of the job; its parts are tied to its ends here.
            shelf: what ships.
            memory: shared by all who work jobs out.
        """
        self.design = tied(design)
        self.shelf, self.memory = shelf, memory
        # of a client that asks of an end alone, without the parts that say it
        self.given_limits: Limits | None = None
        self.given_bends: Bends | None = None
        self.given_shapes: Shapes | None = None
        self._parts: dict[str, Part] = {}
        self._ats: dict[object, At | None] = {}
        self._keys: dict[tuple[str, bool], str] = {}  # of loads, by end and whether everyday: asked for again and again

    # --- what a part asks (core/parts/around.py) --------------------------------------------------------------------

    @cached_property
    def settings(self) -> Settings:
        """Of the design, with the everyday spectrum that counts for the car's use."""
        return for_use(self.design.settings, self.use)

    @property
    def use(self) -> str:
        """What the car is for."""
        return self.design.car.use

    @property
    def catalogue(self) -> Catalogue:
        """The rows that the design holds."""
        return self.design.catalogue

    @cached_property
    def ends(self) -> Mapping[str, End]:
        """The suspension ends by id, as they stand in the car."""
        return {one.id: self.design.standing(one) for one in self.design.ends}

    def shape(self, end_id: str) -> End:
        """An end as it stands in the car, without the car's own lengths and shares: all that its positions depend on."""
        return self.ends[end_id].model_copy(update={"vehicle": None})

    def watched(self, end_id: str) -> End:
        """An end as it stands in the car, its joints allowing what is chosen for them, its links bent as their parts are."""
        limits = self.given_limits if self.given_limits is not None else limits_of(self, end_id)
        bends = self.given_bends if self.given_bends is not None else bends_of(self, end_id)
        return with_bends(with_limits(with_shapes(self.ends[end_id], self.shapes(end_id)), limits), bends)

    def shapes(self, end_id: str) -> Shapes:
        """What the members of an end look like as they are made."""
        return self.given_shapes if self.given_shapes is not None else shapes_of(self, end_id)

    def end_name(self, end_id: str) -> str:
        """What an end is called."""
        end = self.design.end(end_id)
        return end.name if end else ""

    def template(self, end_id: str) -> Template:
        """An end's template with its additions.

        Raises:
            InputError: they do not go together.
        """
        return self.shelf.template_of(self.ends[end_id])

    def has_loads(self) -> bool:
        """Whether the job has load cases."""
        return bool(self.design.loads.cases)

    def carried(self, end_id: str) -> EndLoads:
        """Every case of the job's load set, carried by an end.

        Raises:
            InputError: the end cannot be put together.
        """
        return self._carried(end_id, self.design.loads)

    def everyday(self, end_id: str) -> EndLoads:
        """The everyday cases, carried by an end at ride height.

        Raises:
            InputError: the end cannot be put together.
        """
        return self._carried(end_id, EVERYDAY)

    def _carried(self, end_id: str, loads: LoadSet) -> EndLoads:
        end = self._end(end_id)

        def work() -> EndLoads | InputError:
            from tirante.core.loads.end_loads import end_loads

            standing, box = self.ends[end_id], end.box
            lock = box.steer_deg if standing.steering else box.steer_mm
            try:
                swept = self._swept(end_id)
                return end_loads(swept, standing, self.design.car, loads.cases, rolls=self.rolls, lock=lock)
            except InputError as error:
                return error

        found = self.memory.get("loads", self._loads_key(end_id, loads), work)
        if isinstance(found, InputError):
            raise found
        return found

    def once(self, what: str, end_id: str, key: Hashable, work: Callable[[], T]) -> T:
        """What follows from an end and the loads that it carries alone: worked out once for all who ask with the same key.

        Args:
            what: it is.
            end_id: of the end.
            key: what else it depends on.
            work: gives it.
        """
        loads = tuple(self._loads_key(end_id, one) for one in (self.design.loads, EVERYDAY))
        return self.memory.get(what, (loads, key), work)

    def _swept(self, end_id: str) -> Swept:
        from tirante.core.loads.travel import Swept

        template, shape, box = self.template(end_id), self.shape(end_id), self._end(end_id).box
        return self.memory.get(
            "swept", self._place_key(end_id), lambda: Swept(template, shape, box.bump_mm, box.droop_mm)
        )

    def swept(self, end_id: str) -> Swept | None:
        """An end moved from droop to bump; None where it cannot be put together."""
        try:
            return self._swept(end_id)
        except InputError:
            return None

    def _end(self, end_id: str) -> SuspensionEnd:
        end = self.design.end(end_id)
        if end is None:
            raise InputError("That suspension end is not there any more.", code="missing", fields=("end_id",))
        return end

    @cached_property
    def rolls(self) -> Mapping[str, EndRoll]:
        """Both ends of the car as its body leans on them, as far as the job has them and they can be put together."""
        from tirante.core.loads.body_roll import end_roll

        found: dict[str, EndRoll] = {}
        for one in self.design.ends:
            standing = self.shape(one.id)

            def work(standing: End = standing) -> EndRoll | InputError:
                try:
                    return end_roll(self.shelf.template_of(standing), standing)
                except InputError as error:
                    return error

            of = self.memory.get("roll", self._shape_key(one.id), work)
            if not isinstance(of, InputError):
                found.setdefault(standing.end, of)
        return found

    def _shape_key(self, end_id: str) -> str:
        return fingerprint([ENGINE_VERSION, self.shape(end_id).model_dump_json()])

    def knows_loads(self) -> bool:
        """Whether what every end carries is in memory: what is left of the parts then is quick."""
        if any(self.memory.known("roll", self._shape_key(end.id)) is None for end in self.design.ends):
            return False
        keys = (self._loads_key(end.id, loads) for end in self.design.ends for loads in (self.design.loads, EVERYDAY))
        return all(self.memory.known("loads", key) is not None for key in keys)

    @cached_property
    def _of_the_car(self) -> str:
        return f"{self.design.car.model_dump_json()}|{sorted(self.rolls.items())}"

    def _loads_key(self, end_id: str, loads: LoadSet) -> str:
        which = end_id, loads is EVERYDAY
        if which not in self._keys:
            end, own = self._end(end_id), self.ends[end_id].model_dump_json()
            self._keys[which] = fingerprint(
                [ENGINE_VERSION, own, end.box.model_dump_json(), self._of_the_car, loads.model_dump_json()]
            )
        return self._keys[which]

    def _place_key(self, end_id: str) -> str:
        """Of an end's geometry alone, and how far it is moved."""
        return fingerprint(
            [ENGINE_VERSION, self.shape(end_id).model_dump_json(), self._end(end_id).box.model_dump_json()]
        )

    def at_ride(self, end_id: str) -> Solved:
        """An end as it stands in its car, solved at ride height.

        Raises:
            InputError: the end cannot be put together.
        """
        standing = self.ends[self._end(end_id).id]

        def work() -> Solved | InputError:
            from tirante.core.suspension.cycle import solved_cycle

            try:
                return solved_cycle(self.shelf.template_of(standing), standing, np.zeros((3, 1)))
            except InputError as error:
                return error

        found = self.memory.get("ride", fingerprint([ENGINE_VERSION, standing.model_dump_json()]), work)
        if isinstance(found, InputError):
            raise found
        return found

    # --- parts and joints -------------------------------------------------------------------------------------------

    def features(self, saved: SavedPart) -> Features | str:
        """What a jig takes hold of on a part of the job; or why none is laid out for it.

        Args:
            saved: the part.
        """
        return kind_of(saved).features(saved, self)

    @property
    def spanning(self) -> list[SavedPart]:
        """The parts of the job that stand between two points, in its order."""
        return [one for one in self.design.parts if kind_of(one).stands_between]

    def saved(self, part_id: str) -> SavedPart | None:
        """A part as it is saved."""
        return self.design.part(part_id)

    def part(self, part_id: str) -> Part | None:
        """A part, worked out; None when there is none."""
        saved = self.design.part(part_id)
        return None if saved is None else self._worked(saved)

    @property
    def parts(self) -> list[Part]:
        """All parts of the job, in its order."""
        return [self._worked(saved) for saved in self.design.parts]

    def _worked(self, saved: SavedPart) -> Part:
        if saved.id not in self._parts:
            key = self.judged_by(saved)

            def work() -> Part:

                part = with_card(kind_of(saved).work_out(saved, self))
                return replace(with_places(part, self._held_places(saved)), judged=key, not_carried=told_once(part.not_carried))  # fmt: skip

            self._parts[saved.id] = self.memory.get("part", key, work)
        return self._parts[saved.id]

    def judged_by(self, saved: SavedPart) -> str:
        """The fingerprint of all that a part's judgement depends on: itself, settings, rows, loads, what its kind adds, the engine."""
        rows = [row.hash for table, key, _ in saved.used_rows() if (row := self.catalogue.find(table, key))]  # type: ignore[arg-type]
        end = saved.of_end
        of_end = ""
        if end is not None:
            of_end = self._loads_key(end, self.design.loads) if end in self.ends else "gone"
        lost = saved.lost(self.ends) or ""
        return fingerprint(
            [
                ENGINE_VERSION,
                saved.model_dump_json(),
                self.settings.model_dump_json(),
                self.use,
                rows,
                of_end,
                lost,
                self._held_places(saved),
                kind_of(saved).depends(saved, self),
            ]
        )

    def _held_places(self, saved: SavedPart) -> list[tuple[str, str | None]]:
        """Of every place where a part may be held its name, and that of what holds it: a bracket, or a part by its own plates."""
        kind, joints = kind_of(saved), self.design.joints_of(saved.id)
        found: list[tuple[str, str | None]] = []
        for at in kind.ends(saved):
            held = kind.held_at(saved, at)
            by = next((joint.by for joint in joints if joint.held == held), None)
            holder = self.design.part(by) if by else self._by_own_plates(saved, at)
            found.append((kind.end_name(at), holder.name if holder else None))
        return found

    def _by_own_plates(self, saved: SavedPart, at: str) -> SavedPart | None:
        """The part whose own plates hold an end of another: a rocker's eye."""
        try:
            spot = kind_of(saved).spot(saved, at, self)
        except InputError:
            return None
        return self._own_plates.get(spot) if spot else None

    def held_by(self, part_id: str) -> tuple[HeldJoint, ...]:
        """The joints that a bracket holds."""
        return self.design.held_by(part_id)

    def joints_of(self, part_id: str) -> tuple[HeldJoint, ...]:
        """The joints at which a part is held."""
        return self.design.joints_of(part_id)

    def held_end(self, joint: HeldJoint) -> HeldEnd | None:
        """What a joint holds; None while that is not known."""
        if isinstance(joint.held, PointOfBody):
            bracket = self.design.part(joint.by) if joint.by else None
            side = bracket.side if bracket else "pair"
            unmade = self.unmade_at(joint.held)
            return held_unmade(unmade, joint, side, self) if unmade else held_eye(joint.held, side, self)
        saved = self.design.part(joint.held.part)
        if saved is None:
            return None
        at = joint.held.pivot if isinstance(joint.held, PivotOfArm) else joint.held.end
        return kind_of(saved).held_end(saved, at, self)

    def refitted(
        self, bracket_id: str, joints: Sequence[HeldJoint], held: Sequence[HeldEnd], shelf: Catalogue
    ) -> Refit:
        """A bracket with what would stand in some of its joints: made anew where it holds nothing else, else as it is.

        Args:
            bracket_id: the bracket.
            joints: of it, in which something else would stand.
            held: what, in each.
            shelf: to choose bolts from.
        """
        self.memory.pause()  # a search asks this once for each that it tries
        saved = self.design.part(bracket_id)
        if saved is None:
            return Refit(parts=(), joints=(), checks=())
        kind = kind_of(saved)
        others = {one.id for one in self.held_by(bracket_id)} - {one.id for one in joints}
        stands = [found for joint in joints if isinstance(found := self.stand_of(joint), Stand)]
        return (kind.judged_with if others else kind.refit)(saved, joints, held, self.settings, shelf, stands)

    @cached_property
    def _brackets(self) -> Mapping[Spot, SavedPart]:
        """The bracket at each place of an end that has one."""
        found: dict[Spot, SavedPart] = {}
        for joint in self.design.joints:
            bracket = self.design.part(joint.by) if joint.by else None
            spot = self.spot_of(joint)
            if bracket is not None and spot is not None:
                found[spot] = bracket
        return found

    @cached_property
    def _own_plates(self) -> Mapping[Spot, SavedPart]:
        """The part whose own plates hold what stands at a place of an end."""
        found: dict[Spot, SavedPart] = {}
        for saved in self.design.parts:
            if saved.of_end is None:
                continue
            if saved.plate_of:
                found[Spot(saved.of_end, *saved.plate_of)] = saved
            if saved.stands_for:
                found |= {Spot(saved.of_end, saved.stands_for, point): saved for point in kind_of(saved).holds(saved)}
        return found

    def holds_itself(self, joint: HeldJoint) -> SavedPart | None:
        """The part that holds what stands at a joint by its own plates: a rocker's eye, an arm's own tabs; None where none does.

        Args:
            joint: of the job, or one that is asked about.
        """
        held = joint.held
        if isinstance(held, PointOfBody):
            return self._own_plates.get(Spot(held.end_id, held.body, held.point))
        spot = self.spot_of(joint)
        return self._own_plates.get(spot) if spot else None

    def spot_of(self, joint: HeldJoint) -> Spot | None:
        """The place of an end at which a joint is; None where that is on the chassis, or of no end.

        Args:
            joint: of the job.
        """
        held = joint.held
        if isinstance(held, PointOfBody):
            return Spot(held.end_id, held.body, held.point) if held.body != GROUND else None
        saved = self.design.part(held.part)
        if saved is None:
            return None
        kind = kind_of(saved)
        try:
            spot = next(
                (kind.spot(saved, at, self) for at in kind.ends(saved) if kind.held_at(saved, at) == held), None
            )
        except InputError:
            return None
        chassis = (GROUND,) if spot is None or self.steers(spot.end_id) else (GROUND, RACK)
        return spot if spot is not None and spot.body not in chassis else None

    def steers(self, end_id: str) -> bool:
        """Whether an end's steering moves: of one whose does not, what its template has on the rack is on the chassis.

        Args:
            end_id: of the end.
        """
        end = self.design.end(end_id)
        return end is not None and (end.end.steering is not None or end.box.steer_mm > 0)

    def at_of(self, joint: HeldJoint) -> At | None:
        """Where a joint is in the car, its bolt and what pulls at it; None where that is not known.

        Args:
            joint: of the job.
        """
        key = joint.held, joint.bolt_axis
        if key not in self._ats:
            self._ats[key] = at_joint(self, joint)
        return self._ats[key]

    def mount_of(self, joint: HeldJoint) -> Mount | None:
        """The member of the car that a joint's bracket is given to stand on; None where it is given none.

        Args:
            joint: of the job.
        """
        return self.design.mount(joint.mount)

    @property
    def mounts(self) -> tuple[Mount, ...]:
        """The members of the car."""
        return self.design.mounts

    def standing_on(self, mount_id: str) -> tuple[HeldJoint, ...]:
        """The joints whose brackets are given a member of the car.

        Args:
            mount_id: of it.
        """
        return tuple(joint for joint in self.design.joints if joint.mount == mount_id)

    def stand_of(self, joint: HeldJoint) -> Stand | NotApplicable | None:
        """How the bracket of a joint stands on the member of the car that it is given; why it does not; None where it is given none.

        Args:
            joint: of the job.
        """
        mount, at = self.member_at(joint), self.at_of(joint)
        if mount is None:
            return None
        if self.design.mount(joint.mount) is None:
            found = self.foot_of(joint)
            if at is not None and found is not None:  # as the part has it: a right one's own place is brought over
                at = _on_tube(replace(at, at=np.array(found[1].at)), mount, found[1])
        if at is None or at.bolt is None:
            lacking = "Where this joint is in the car" if at is None else "The way of its bolt"
            return NotApplicable(f"{lacking} is not known. Tie its part to a suspension end, or give its pivots{'' if at is None else ' and the bolt’s direction'}.", code="missing", fields=("mount",))  # fmt: skip
        bracket = self.design.part(joint.by) if joint.by else None
        if isinstance(bracket, LappedPlate | RailSleeve):
            try:
                return lie_on(mount, at)
            except NotApplicable as error:
                return error
        if isinstance(bracket, TabPair) and bracket.spread is not None:
            mount = grown(mount, bracket.spread.thickness.mm)
        try:
            if isinstance(bracket, TabPair) and bracket.holes is not None:
                return stand_in_hole(mount, at, holes_of(bracket)[bracket.in_hole - 1])
            return stand_on(mount, at)
        except NotApplicable as error:
            return error
        except InputError as error:  # a hole that is not there
            return NotApplicable(error.message, code=error.code, fields=error.fields)

    def member_at(self, joint: HeldJoint) -> Mount | None:
        """The member of the car, or the tube of a part, that the bracket of a joint stands on; None where it is given none.

        Args:
            joint: of the job.
        """
        mount = self.design.mount(joint.mount)
        if mount is not None:
            return mount
        found = self.foot_of(joint)
        return member_of(*found, self._metal_of(found[0])) if found else None

    def _metal_of(self, saved: SavedPart) -> tuple[float, float] | None:
        """Yield and ultimate strength of a part's tubes beside a weld."""
        grade = self.catalogue.find("grades", getattr(saved, "grade", None) or "")
        return (grade.welded_yield_mpa, grade.uts_at_weld) if isinstance(grade, Grade) else None

    def bracket_at(self, spot: Spot) -> SavedPart | None:
        """The part that holds what stands at a place of an end.

        Args:
            spot: the place.
        """
        return self._brackets.get(spot)

    def eye_at(self, spot: Spot) -> Eye | None:
        """What is held at a place of an end: a link's end, an eye of a damper or a strap; None where the job does not have it yet.

        Args:
            spot: the place.
        """
        end = self.ends.get(spot.end_id)
        eyed: list[Damper | Strap] = [*end.dampers.values(), *([end.strap] if end.strap else [])] if end else []
        for one in eyed:
            for place, eye in zip(one.places, one.eyes, strict=True):
                if eye is not None and (place.body, place.point) == (spot.body, spot.point):
                    return eye
        for saved in self.design.parts:
            if saved.of_end != spot.end_id:
                continue
            for at in kind_of(saved).ends(saved):
                held = kind_of(saved).held_at(saved, at)
                joint = HeldJoint(id=saved.id, held=held)
                if self.spot_of(joint) == spot:
                    found = self.held_row(saved, at)
                    if found is not None:
                        return found
        return None

    def held_row(self, saved: SavedPart, at: str) -> Eye | None:
        """The row of a part's end, where it has one.

        Args:
            saved: the part.
            at: which of its ends.
        """
        return kind_of(saved).eye_row(saved, at, self.catalogue)

    def foot_of(self, joint: HeldJoint) -> tuple[SavedPart, Foot] | None:
        """The part of the job that what a joint holds stands on, and where.

        Args:
            joint: of the job.
        """
        spot = self.spot_of(joint)
        if spot is None:
            return None
        for saved in self.design.parts:
            if (saved.of_end, saved.stands_for) != (spot.end_id, spot.body):
                continue
            foot = next((one for one in kind_of(saved).feet(saved, self) if one.point == spot.point), None)
            if foot is not None:
                return saved, foot
        return None

    def bearing_at(self, held: Held) -> Bearing | None:
        """The bearing that stands at a place.

        Args:
            held: as a joint names it.
        """
        if not isinstance(held, PointOfBody):
            return None
        every = (one for saved in self.design.parts if saved.of_end == held.end_id for one in kind_of(saved).bearings(saved, self))  # fmt: skip
        return next((one for one in every if one.held == held), None)

    def at_bearing(self, bearing: Bearing) -> BearingSeen:
        """What a bearing sees.

        Args:
            bearing: of a part of the job.

        Raises:
            InputError: nothing says so.
        """
        saved = self.design.part(bearing.part_id)
        assert saved
        return kind_of(saved).at_bearings(saved, self)

    # --- what is no part --------------------------------------------------------------------------------------------

    @cached_property
    def _unmade(self) -> Mapping[PointOfBody, Unmade]:
        found: dict[PointOfBody, Unmade] = {}
        for end in self.design.ends:
            try:
                template, standing = self.template(end.id), self.ends[end.id]
                every = moving(template, standing)
            except InputError:
                continue
            makes = {one.name for one in every if any(kind.may_be(template, one) for kind in KINDS.values())}
            own = [part for part in self.design.parts if part.of_end == end.id]
            known = {spot.point for part in own if part.stands_for in template.bodies for spot in self._spots(part)}
            known |= {one.held.point for part in own for one in kind_of(part).bearings(part, self)}
            parts = {part.stands_for for part in own if part.stands_for}
            found |= {one.held: one for one in unmade_joints(end.id, template, standing, parts, makes, known)}
        return found

    def _spots(self, saved: SavedPart) -> list[Spot]:
        """Where a part is held; none while its end cannot be put together."""
        kind = kind_of(saved)
        try:
            return [spot for at in kind.ends(saved) if (spot := kind.spot(saved, at, self)) is not None]
        except InputError:
            return []

    def unmade(self) -> Iterable[Unmade]:
        """The joints of bodies that no part is made for, of all ends."""
        return self._unmade.values()

    def unmade_at(self, held: PointOfBody) -> Unmade | None:
        """The joint of what no part is made for that is at a place; None where there is none.

        Args:
            held: as a joint names it.
        """
        return self._unmade.get(held)

    def not_made(self) -> list[tuple[SuspensionEnd, Moving]]:
        """What moves at the job's ends and is no part of it, by end."""
        known = {(part.of_end, part.stands_for) for part in self.design.parts}
        found = []
        for end in self.design.ends:
            try:
                every = moving(self.template(end.id), self.ends[end.id])
            except InputError:
                continue
            found += [
                (end, one)
                for one in every
                if (end.id, one.name) not in known and (one.sort != "rack" or self.steers(end.id))
            ]
        return found
