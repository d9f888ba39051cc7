"""Brackets for every joint of a job that nothing holds: on what is there, as light as holds; or why none is proposed.

Each is worked out in the job before it is told: what is proposed with a fault or past its limit is said to be so.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from math import acos, ceil, degrees

import numpy as np

from tirante.core.checks.shown import check_out, headline
from tirante.core.document.adopt import Patch, adopted, patched
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.joints import HeldJoint
from tirante.core.document.mounts import FlatMember, Mount
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.lapped_plate import LappedPlate
from tirante.core.document.parts.saved import SavedPart
from tirante.core.document.parts.single_tab import SingleTab
from tirante.core.document.parts.strap_tab import StrapTab
from tirante.core.errors import InputError, NotApplicable
from tirante.core.job.pads import pad_at
from tirante.core.job.places import places_of
from tirante.core.job.results import PlaceOut
from tirante.core.job.room.own import own_of
from tirante.core.job.room.shims import shim_that_clears, tilts_past
from tirante.core.job.worked import Worked
from tirante.core.parts.bracket.families.lapped import LAPPED_PLATE, lapped_for
from tirante.core.parts.bracket.families.rail_sleeve import RAIL_SLEEVE, sleeve_for
from tirante.core.parts.bracket.families.single_tab import SINGLE_TAB, single_for
from tirante.core.parts.bracket.families.strap import STRAP_TAB, goes_over, packed_out, strap_for
from tirante.core.parts.bracket.families.tab_pair import TAB_PAIR, TabMade, proposed
from tirante.core.parts.bracket.families.tab_sizing import bolt_of, outlines_of, spacer_of
from tirante.core.parts.feet import Foot, too_near
from tirante.core.parts.joint import HeldEnd, JointMade
from tirante.core.parts.kind import Refit
from tirante.core.parts.part import Part
from tirante.core.parts.registry import PADS
from tirante.core.parts.stands import (
    MIRROR,
    At,
    Stand,
    fitted_on,
    grown,
    leans_out,
    lie_on,
    plate_names,
    right_side_lacks,
    runs_through,
    signed,
    stand_on,
)
from tirante.core.quantities import or_more

SHIMMED = 1.0  # plate’s thicknesses: what a smaller joggle would set off a shim beside the ball takes up
REACH_MOST = (
    250.0  # mm: what stands further off its member’s middle asks for another member; common practice, no source
)
REACH_PAST = 0.5  # mm that a joint may stand past the end of a member, or past its face
_NO_ID = "00000000-0000-4000-8000-000000000000"  # until the client's is taken


@dataclass(frozen=True, slots=True, kw_only=True)
class Proposal:
    """What is proposed for a place."""

    place: PlaceOut
    part: SavedPart | None
    told: str  # what it stands on, and whether it holds; or why there is none


@dataclass(frozen=True, slots=True, kw_only=True)
class Proposals:
    """Brackets for a job."""

    patch: Patch
    every: tuple[Proposal, ...]


def propose(job: Worked, shelf: Catalogue, ids: Sequence[str], only: Sequence[str] = ()) -> Proposals:
    """A bracket for every place that nothing holds yet.

    Args:
        job: worked out.
        shelf: the shop's catalogue, for bolts.
        ids: made by the client, two for each place: of the bracket and of its joint.
        only: ids of parts or ends whose places are meant; none: all.

    Raises:
        InputError: there are more places than ids.
    """
    left = iter(ids)
    parts: list[SavedPart] = []
    joints: list[HeldJoint] = []
    found: list[Proposal] = []
    for place in places_of(job):
        if place.by is not None or (only and place.id not in only):
            continue
        if place.elsewhere:
            found.append(Proposal(place=place, part=None, told=f"held by {place.elsewhere}"))
            continue
        made, told = _for_place(job, place, shelf)
        if made is None:
            found.append(Proposal(place=place, part=None, told=told))
            continue
        part, joint = made
        known = next((one for one in job.design.joints if one.held == place.held), None)
        part_id, joint_id = next(left, None), next(left, None)
        if part_id is None or joint_id is None:
            raise InputError("There are more places than ids were given: two for each.", code="too_few", fields=("ids",))  # fmt: skip
        part = part.model_copy(update={"id": part_id})
        joints.append(joint.model_copy(update={"id": known.id if known else joint_id, "by": part_id}))
        parts.append(part)
        found.append(Proposal(place=place, part=part, told=told))
    after = Worked(patched(job.design, adopted(job.design, parts, shelf, joints)), job.shelf, job.memory)
    every = tuple(_judged(one, after) for one in found)
    kept = {one.part.id for one in every if one.part}  # what cannot be made so is told and not put in
    patch = adopted(job.design, [p for p in parts if p.id in kept], shelf, [j for j in joints if j.by in kept])
    return Proposals(patch=patch, every=every)


def _judged(one: Proposal, after: Worked) -> Proposal:
    """A proposal with what the job makes of it."""
    made = after.part(one.part.id) if one.part else None
    if made is None:
        return one
    if made.faults:
        return Proposal(place=one.place, part=None, told=f"{one.told}: {made.faults[0].message}")
    # the sentence that stands at its head on its own page
    verdict = headline([check_out(check) for check in made.checks], made.not_carried).text
    more = []
    shim = next((joint.shim_mm for joint in after.held_by(made.id)), 0.0)
    if shim and isinstance(one.part, TabPair):
        more.append(f"{shim:g} mm beside the ball on each side, so that what it holds clears the plates")
    lacks, tilt = _strikes(after, made)
    if lacks:
        more.append(
            f"what it holds strikes its plates as it tilts: {lacks:g} mm beside the ball on each side would clear it, see Room"
        )
    if tilt:
        more.append(f"its joint tilts {tilt:.0f}°, further than it may, see Room")
    spread = getattr(one.part, "spread", None)
    if spread is not None:
        more.append(f"on a spread plate of {spread.thickness.mm:g} mm, which its wall asks for")
    told = "; ".join((one.told, *more))
    return Proposal(place=one.place, part=one.part, told=f"{told}. {verdict}")


def _strikes(after: Worked, made: Part) -> tuple[float, float]:
    """What would have to stand beside the ball of a proposed pair on each side, where less does [mm], and how far its joint tilts, where that is
    more than it may [°]; 0 where it clears, or stands on nothing that is known."""
    if not isinstance(made.own, TabMade) or not isinstance(made.saved, TabPair):
        return 0.0, 0.0
    for joint, one, stand in zip(after.held_by(made.id), made.own.joints, made.own.stands, strict=True):
        if stand is not None:
            own = own_of(made.saved, made.own.outlines, one, stand, stand.at.at, footing=None, names=plate_names(stand))
            shim, tilt = shim_that_clears(after, joint, own), tilts_past(after, joint, own)
            if shim > joint.shim_mm or tilt:
                return shim if shim > joint.shim_mm else 0.0, tilt
    return 0.0, 0.0


def _for_place(job: Worked, place: PlaceOut, shelf: Catalogue) -> tuple[tuple[SavedPart, HeldJoint] | None, str]:
    # what is said of the joint already (its bolt's way, a spacer) counts
    known = next((one for one in job.design.joints if one.held == place.held), None)
    joint = known or HeldJoint(id=_NO_ID, held=place.held)
    if place.family in PADS:
        return _pad(job, place, joint, shelf)
    at = job.at_of(joint)
    if place.missing:
        return None, place.missing
    held = job.held_end(joint)
    assert held
    if held.fork is not None:
        return _in_clevis(job, place, (joint, held, at), shelf)
    stands = job.foot_of(joint)
    if stands is not None:
        found = _on_arm(job, place, (joint, held, at), stands, shelf)
        if (
            found[0] is None and at is not None and at.bolt is not None
        ):  # a plate across its tubes, where one is entered
            beside = _on_member(job, place, (joint, held, at), shelf)
            return beside if beside[0] is not None else found
        return found
    if at is None:
        return None, "where it is in the car is not known: tie its part to a suspension end"
    if at.bolt is None:
        return None, "the way of its bolt is not known: give it at the joint"
    return _on_member(job, place, (joint, held, at), shelf)


def _pad(
    job: Worked, place: PlaceOut, joint: HeldJoint, shelf: Catalogue
) -> tuple[tuple[SavedPart, HeldJoint] | None, str]:
    """A pad on two webs: on the arm that it is for, or on the nearest member that it holds on."""
    if place.missing:
        return None, place.missing
    at, kind = job.at_of(joint), PADS[place.family]
    mounts: list[Mount | None] = [None]
    if job.foot_of(joint) is None:
        if at is None:
            return None, "where it is in the car is not known"
        there = [one for one in job.design.mounts if at.moves_with(one)]
        mounts = [*sorted(there, key=lambda one: _off(one, at))]
        if not mounts:
            return None, f"no mount on {at.on} that it could stand on is entered"
        if (off := _off(mounts[0], at)) > REACH_MOST:  # type: ignore[arg-type]
            return None, f"no mount on {at.on} suits: {mounts[0].name}, the nearest, stands {off:.0f} mm away"  # type: ignore[union-attr]
        mounts = [one for one in mounts if one is not None and _off(one, at) <= REACH_MOST]
    nearest: tuple[tuple[SavedPart, HeldJoint] | None, str] | None = None
    for mount in mounts:
        own = joint.model_copy(update={"mount": mount.id if mount else None, "by": _NO_ID})
        pad, job_with = pad_at(job, place, own, _NO_ID, shelf)
        told = f"a pad on two webs on {mount.name}" if mount else "a pad on two webs"
        try:
            sized = kind.size(pad, job_with, shelf, "mass")
        except InputError as error:
            if not mount:
                return (pad, own), told  # it stands where it stands, and says itself what it lacks
            nearest = nearest or (None, f"{told}: {error.message}")
            continue
        found = sized.winner or sized.nearest
        if sized.winner:
            return (sized.winner.parts[0], own), told
        if found and (nearest is None or nearest[0] is None):
            nearest = (found.parts[0], own), told
    assert nearest
    return nearest


def _on_arm(
    job: Worked, place: PlaceOut, of: tuple[HeldJoint, HeldEnd, At | None], stands: tuple[SavedPart, Foot], shelf: Catalogue
) -> tuple[tuple[SavedPart, HeldJoint] | None, str]:  # fmt: skip
    """A pair on the tube of an arm: its bolt as a person has it, else as near to the way that what it holds tilts least on as holds and clears."""
    joint, held, at = of
    on, why = f"on {stands[0].name}", ""
    best: tuple[tuple[bool, float], SavedPart, HeldJoint, str] | None = None
    for own, told in _turned(joint, at, stands[1]):
        stand = job.stand_of(own)
        if isinstance(stand, NotApplicable):
            why = why or stand.message
            continue
        if (
            own is joint
            and at is not None
            and at.bolt is not None
            and stand is not None
            and stand.at.bolt is not at.bolt
        ):
            continue  # along the tube: what is nearer to the best way is tried before it
        try:
            pair, own = proposed(_NO_ID, f"{f'{place.of}, {place.name}'[:73]}, tabs", place.side, held, own, shelf)
        except InputError as error:
            return None, error.message
        near = too_near(pair, stands[1])
        if near:
            return None, f"{on}: {near[0].message}"
        limit = JointMade(joint=own, held=held, bolt=None, spacer=spacer_of(own.spacer, shelf)).tilt_limit_deg
        if stand is not None and limit is not None and not stand.at.hinged and (lean := leans_out(stand)) > limit:
            why = (
                why
                or f"with its bolt{told or ' as it is'} what it holds leans {lean:.0f}° out of its plates, and its joint may tilt {limit:g}°"
            )
            continue
        plain = fitted_on(pair, stand) if stand is not None else pair
        sized = TAB_PAIR.refit(plain, (own,), (held,), job.settings, shelf, (stand,) if stand is not None else ())
        clears = True
        if stand is not None and not sized.fault:
            sized, clears = _with_room(job, (plain, sized), held, stand, shelf)
        if sized.fault:
            why = why or sized.fault
            continue
        found = (not (sized.passed and clears), sized.utilisation), sized.parts[0], sized.joints[0], f"{on}{told}"
        if not found[0][0]:
            return (found[1], found[2]), found[3]
        if best is None or found[0] < best[0]:
            best = found
    return ((best[1], best[2]), best[3]) if best else (None, f"{on}: {why}")


def _turned(joint: HeldJoint, at: At | None, foot: Foot) -> Iterator[tuple[HeldJoint, str]]:
    """A joint with its bolt from the way that is best to along the tube; as it is alone where a person has said how it lies, or nothing is known."""
    yield joint, ""
    if at is None or at.given or at.bolt is None:
        return
    along = np.array(foot.along)
    along = along if float(along @ at.bolt) >= 0 else -along
    for share in TURNED:
        way = signed((1.0 - share) * at.bolt + share * along)
        off = degrees(acos(min(1.0, abs(float(way @ at.bolt)))))
        x, y, z = (round(float(v), 4) for v in way)
        yield (
            joint.model_copy(update={"bolt_axis": (x, y, z)}),
            f", its bolt turned {off:.0f}° from the way that tilts it least, toward the tube’s own",
        )


TURNED = (0.3, 0.45, 0.6, 0.75, 1.0)  # of the way to the tube's own direction


def _on_member(
    job: Worked, place: PlaceOut, of: tuple[HeldJoint, HeldEnd, At], shelf: Catalogue
) -> tuple[tuple[SavedPart, HeldJoint] | None, str]:
    """A pair on the member that suits it best: of those that hold what stands in it the nearest."""
    joint, held, at = of
    on = at.on
    near, why = _standing_near(job, place, at)
    if not near:
        lying = _lying(job, place, of, shelf)
        if lying is not None:
            return lying[1:]
        told = (
            f"no mount on {on} that it could stand on is entered"
            if not why
            else f"no mount on {on} suits: {min(why)[1]}"
        )
        return None, told
    best: tuple[float, SavedPart, HeldJoint, str] | None = None
    for stand in sorted(near, key=lambda one: one.standing.height):
        own = joint.model_copy(update={"mount": stand.mount.id})
        try:
            pair, own = proposed(_NO_ID, f"{f'{place.of}, {place.name}'[:73]}, tabs", place.side, held, own, shelf)
        except InputError as error:
            return None, error.message
        fitted = fitted_on(pair, stand)
        sized = TAB_PAIR.refit(fitted, (own,), (held,), job.settings, shelf, (stand,))
        if not sized.fault:
            sized, _ = _with_room(job, (fitted, sized), held, stand, shelf)
        if sized.fault:
            why.append((_off(stand.mount, at), f"{stand.mount.name}: {sized.fault}"))
        elif sized.passed:
            return (sized.parts[0], sized.joints[0]), f"on {stand.where}"
        elif best is None or sized.utilisation < best[0]:
            best = sized.utilisation, sized.parts[0], sized.joints[0], f"on {stand.where}"
    over = _strapped(job, place, of, near, shelf)
    if over is not None:
        return over
    lying = _lying(job, place, of, shelf)
    if lying is not None and (lying[0] or best is None):
        return lying[1:]
    if best is None:
        return None, min(why)[1]
    return (best[1], best[2]), best[3]


def _in_clevis(
    job: Worked, place: PlaceOut, of: tuple[HeldJoint, HeldEnd, At | None], shelf: Catalogue
) -> tuple[tuple[SavedPart, HeldJoint] | None, str]:
    """A single tab between a clevis's ears: on the tube of an arm that it is at, or on the member that suits it best."""
    joint, held, at = of
    why: list[tuple[float, str]] = []
    near: list[tuple[HeldJoint, Stand]] = []
    if job.foot_of(joint) is not None:
        found = job.stand_of(joint)
        if not isinstance(found, Stand):
            return None, found.message if found is not None else "how its bolt lies is not known: give it at the joint"
        near.append((joint, found))
    elif at is None or at.bolt is None:
        return None, "where it is in the car is not known: tie its part to a suspension end" if at is None else "the way of its bolt is not known: give it at the joint"  # fmt: skip
    if at is not None and not near:
        found_near, why = _standing_near(job, place, at)
        near = [(joint.model_copy(update={"mount": stand.mount.id}), stand) for stand in found_near]
    best: tuple[float, SavedPart, HeldJoint, str] | None = None
    for own, stand in sorted(near, key=lambda one: one[1].standing.height):
        try:
            pair, own = proposed(_NO_ID, f"{f'{place.of}, {place.name}'[:70]}, tabs", place.side, held, own, shelf)
        except InputError as error:
            return None, error.message
        sized = SINGLE_TAB.refit(single_for(pair, stand), (own,), (held,), job.settings, shelf, (stand,))
        told = f"a single tab between the clevis’s ears, on {stand.where}"
        if sized.fault:
            why.append((_off(stand.mount, stand.at), f"{stand.mount.name}: {sized.fault}"))
        elif sized.passed:
            return (sized.parts[0], sized.joints[0]), told
        elif best is None or sized.utilisation < best[0]:
            best = sized.utilisation, sized.parts[0], sized.joints[0], told
    deeper = _with_a_deeper_fork(near, (held, place), job, shelf)
    if best is not None:
        return (best[1], best[2]), f"{best[3]}{deeper}"
    return None, f"no mount suits: {min(why)[1].rstrip('.')}{deeper}" if why else f"no mount on {at.on if at else 'its body'} that it could stand on is entered"  # fmt: skip


def _with_a_deeper_fork(
    near: Sequence[tuple[HeldJoint, Stand]], of: tuple[HeldEnd, PlaceOut], job: Worked, shelf: Catalogue
) -> str:
    """The least depth of a clevis's fork with which a single tab holds, tried; empty where none does however deep it is."""
    held, place = of
    fork = held.fork
    assert fork
    for own, stand in sorted(near, key=lambda one: one[1].standing.height):
        pair, own = proposed(_NO_ID, f"{f'{place.of}, {place.name}'[:70]}, tabs", place.side, held, own, shelf)

        def tried(depth: float, pair: TabPair = pair, own: HeldJoint = own, stand: Stand = stand) -> SingleTab | None:
            deep = replace(held, fork=replace(fork, floor=depth))
            sized = SINGLE_TAB.refit(single_for(pair, stand), (own,), (deep,), job.settings, shelf, (stand,))
            one = sized.parts[0]
            return one if sized.passed and isinstance(one, SingleTab) else None

        low, high = fork.floor, fork.floor + DEEP
        best = tried(high)
        while best is not None and high - low > FINE:
            middle = ceil((low + high) / 2 * 10) / 10
            found = tried(middle)
            low, high, best = (middle, high, best) if found is None else (low, middle, found)
        if best is not None:
            return f"; with its fork {or_more(high)} mm deep or more from its hole a plate of {best.plate.mm:g} mm on a foot of {best.base_width.mm:.1f} mm holds there (tried)"
    return ""


FINE = 0.5  # mm, to which that is found
DEEP = 150.0  # mm: further than any single tab is wide


def _standing_near(job: Worked, place: PlaceOut, at: At) -> tuple[list[Stand], list[tuple[float, str]]]:
    """Where plates on their edge may stand at a joint on members of the car; and of the others how far off each is, and why not."""
    near: list[Stand] = []
    why: list[tuple[float, str]] = []
    for mount in job.design.mounts:
        off = _off(mount, at)
        try:
            stand = stand_on(mount, at)
        except NotApplicable as error:
            if error.code != "other_body":
                why.append((off, error.message))
            continue
        lacks = _cannot_stand(stand, place)
        if lacks:
            why.append((off, lacks))
        elif off <= REACH_MOST:
            near.append(stand)
        else:
            why.append((off, f"{mount.name}, the nearest, stands {off:.0f} mm away"))
    return near, why


def _cannot_stand(stand: Stand, place: PlaceOut) -> str:
    """Why plates on their edge do not stand on a member at a joint, whatever their size; empty where they may."""
    past = stand.standing.overhang(0.0, 0.0)
    if past > REACH_PAST:
        return f"{stand.mount.name} ends {past:.0f} mm short of it"
    return runs_through(stand) or (right_side_lacks(stand, 0.0, 0.0) if place.side == "pair" else "")


def _strapped(
    job: Worked, place: PlaceOut, of: tuple[HeldJoint, HeldEnd, At], near: Sequence[Stand], shelf: Catalogue
) -> tuple[tuple[SavedPart, HeldJoint], str] | None:
    """A strap over the nearest tube that the bolt is square to, packed out to its width, where no pair of plates holds; None where none does."""
    joint, held, _ = of
    for stand in sorted(near, key=lambda one: one.standing.height):
        if goes_over(stand) is not None:
            continue
        own = joint.model_copy(update={"mount": stand.mount.id})
        pair, own = proposed(_NO_ID, f"{f'{place.of}, {place.name}'[:73]}, tabs", place.side, held, own, shelf)
        strap = strap_for(pair, stand)
        shim = packed_out(
            strap.tube_od.mm, JointMade(joint=own, held=held, bolt=None, spacer=spacer_of(own.spacer, shelf))
        )
        if not 0.0 <= shim <= MOST_SHIM:
            continue
        own = own.model_copy(update={"shim_mm": shim})
        sized = STRAP_TAB.refit(strap, (own,), (held,), job.settings, shelf, (stand,))
        if sized.passed and _swings_free(job, sized, held, stand, shelf):
            told = f"a strap over {stand.mount.name}, packed out beside the ball by {shim:g} mm on each side, no pair of plates stands there and holds"
            return (sized.parts[0], sized.joints[0]), told
    return None


def _swings_free(job: Worked, sized: Refit, held: HeldEnd, stand: Stand, shelf: Catalogue) -> bool:
    """Whether what a strap would hold clears its ears as it tilts: they stand as far apart as the tube is wide, and no further."""
    strap, joint = sized.parts[0], sized.joints[0]
    assert isinstance(strap, StrapTab)
    made = JointMade(joint=joint, held=held, bolt=bolt_of(joint.bolt, shelf), spacer=spacer_of(joint.spacer, shelf))
    own = own_of(
        STRAP_TAB.as_pair(strap), STRAP_TAB.ears(strap, made.gap), made, stand, stand.at.at, footing=STRAP_TAB.footing(strap), names=plate_names(stand),
    )  # fmt: skip
    return shim_that_clears(job, joint, own) <= joint.shim_mm and not tilts_past(job, joint, own)


def _lying(
    job: Worked, place: PlaceOut, of: tuple[HeldJoint, HeldEnd, At], shelf: Catalogue
) -> tuple[bool, tuple[SavedPart, HeldJoint] | None, str] | None:
    """A plate that lies on the face that the bolt is square to, where no pair of plates stands and holds, or a sleeve through the box where that does not:
    whether it holds, it, and where; None where none lies."""
    joint, held, at = of
    best: tuple[float, SavedPart, HeldJoint, str] | None = None
    for mount in sorted(job.design.mounts, key=lambda one: _off(one, at)):
        try:
            stand = lie_on(mount, at)
            if _off(mount, at) > REACH_MOST or runs_through(stand) or (place.side == "pair" and not mount.both_sides):
                continue
            pair, own = proposed(_NO_ID, f"{f'{place.of}, {place.name}'[:73]}, tabs", place.side, held, joint.model_copy(update={"mount": mount.id}), shelf)  # fmt: skip
        except (InputError, NotApplicable):
            continue
        sized = LAPPED_PLATE.refit(lapped_for(pair, stand, None), (own,), (held,), job.settings, shelf, (stand,))
        if not sized.fault:
            sized = _straight(sized, (lapped_for(pair, stand, None), own, held, stand), job, shelf) or sized
        lies = stand.standing.lies
        if (sized.fault or not sized.passed) and lies is not None and lies.through is not None and not lies.past:
            sleeve = RAIL_SLEEVE.refit(sleeve_for(pair, stand, None), (own,), (held,), job.settings, shelf, (stand,))
            if sleeve.passed:
                told = (
                    f"a sleeve through {mount.name}, its bolt right through it; no plates stand or lie there and hold"
                )
                return True, (sleeve.parts[0], sleeve.joints[0]), told
        if sized.fault:
            continue
        told = f"a plate that lies on {mount.name}{f' on its {stand.standing.where}' if stand.standing.face else ''}, no pair of plates stands there and holds"
        if sized.passed:
            return True, (sized.parts[0], sized.joints[0]), told
        if best is None or sized.utilisation < best[0]:
            best = sized.utilisation, sized.parts[0], sized.joints[0], told
    return None if best is None else (False, (best[1], best[2]), best[3])


def _straight(sized: Refit, of: tuple[LappedPlate, HeldJoint, HeldEnd, Stand], job: Worked, shelf: Catalogue) -> Refit | None:  # fmt: skip
    """The same straight, with a shim beside the ball in the place of a joggle that is none to speak of; None where it does not hold so."""
    plain, joint, held, stand = of
    plate = sized.parts[0]
    assert isinstance(plate, LappedPlate)
    if not 0.0 < plate.offset_mm <= SHIMMED * plate.plate.mm:
        return None
    own = joint.model_copy(update={"shim_mm": round(joint.shim_mm + plate.offset_mm, 2)})
    found = LAPPED_PLATE.refit(plain, (own,), (held,), job.settings, shelf, (stand,))
    straight = found.parts[0]
    return found if found.passed and isinstance(straight, LappedPlate) and straight.offset_mm == 0.0 else None


def _with_room(
    job: Worked, of: tuple[TabPair, Refit], held: HeldEnd, stand: Stand, shelf: Catalogue
) -> tuple[Refit, bool]:
    """The same with what must stand beside the ball so that what is held clears the plates as it tilts; and whether it then does."""
    plain, sized = of
    for _ in range(ROUNDS):
        pair, joint = sized.parts[0], sized.joints[0]
        assert isinstance(pair, TabPair)
        bolt = bolt_of(joint.bolt, shelf)
        if bolt is None:
            return sized, False
        made = JointMade(joint=joint, held=held, bolt=bolt, spacer=spacer_of(joint.spacer, shelf))
        on = stand if pair.spread is None else stand_on(grown(stand.mount, pair.spread.thickness.mm), stand.at)
        own = own_of(pair, outlines_of(pair, made.gap), made, on, stand.at.at, footing=None, names=plate_names(on))
        shim = shim_that_clears(job, joint, own)
        if shim <= joint.shim_mm or shim > MOST_SHIM:
            return sized, shim <= joint.shim_mm and not tilts_past(job, joint, own)
        wider = TAB_PAIR.refit(plain, (joint.model_copy(update={"shim_mm": shim}),), (held,), job.settings, shelf, (stand,))  # fmt: skip
        if wider.fault:
            return sized, False
        sized = wider
    return sized, True


ROUNDS = 3  # wider apart they may have to be thicker or wider, and then again further apart
MOST_SHIM = 20.0  # mm beside a ball: what needs more is left to be told by the room round it


def _off(mount: Mount, at: At) -> float:
    """How far a joint is from a member's middle line or face [mm], on whichever side it stands nearer."""
    shape = mount.shape
    found = []
    for way in (np.ones(3), MIRROR) if mount.both_sides else (np.ones(3),):
        if isinstance(shape, FlatMember):
            normal = np.array(shape.normal) * way / np.linalg.norm(shape.normal)
            found.append(abs(float((at.at - way * np.array(shape.through)) @ normal)))
            continue
        a, b = way * np.array(shape.a), way * np.array(shape.b)
        share = float(np.clip((at.at - a) @ (b - a) / ((b - a) @ (b - a)), 0.0, 1.0))
        found.append(float(np.linalg.norm(at.at - a - share * (b - a))))
    return min(found)
