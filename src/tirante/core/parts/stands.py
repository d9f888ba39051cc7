"""Where a joint is in the car, how its bolt points, and how a bracket stands there on a member of the car.

Places are as the end's points were taken, on the left (or where a point stands by itself).
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from math import acos, degrees, radians

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.standing import Standing, lying_on_box, lying_on_flat, on_box, on_flat, on_round
from tirante.core.document.fields import Length
from tirante.core.document.mounts import BoxMember, FlatMember, Mount, RoundMember
from tirante.core.document.parts.bracket import CornerBase, FlatBase, SaddleBase, TabPair
from tirante.core.errors import NotApplicable
from tirante.core.geometry.distance import segment_block, segments
from tirante.core.parts.part import CardLine, Misfit

Array = NDArray[np.float64]
CUT_TRUE = 0.5  # mm: a foot that is off by more does not fit
UPRIGHT_DEG = 20.0  # that plates may lean from square to a tube's skin: beyond it their welds have one sharp side; common practice, no source
ACROSS_DEG = 60.0  # that they stand to the tube at least: nearer to along it they stand at its sides; likewise
NEARLY_DEG = 3.0  # what a plain direction of the car may cost in tilt; common practice, no source
TRUE_DEG = 0.5  # the same of an angle; over a foot of 60 mm that is a quarter of a millimetre at either end
UPRIGHT = 0.9  # of a tube that is so steep: its top is what looks ahead
PLAIN = 0.99999  # of a direction along one axis of the car
MIRROR = np.array([1.0, -1.0, 1.0])
OFF_CENTRE = 1.0  # [mm] from the car's middle within which a place has no twin
SAME = 0.5  # [mm] of distance from a member's middle line within which a place and its mirror image are alike


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class At:
    """A joint of the job in the car."""

    end_id: str | None
    body: str  # that the bracket is on: ground, or a body of that end
    at: Array  # (3)
    bolt: Array | None  # (3), length 1, its largest part positive; None: not known
    bolt_told: str  # where that is known from
    pull: Array | None  # the way from the joint to the other end of what is held, at ride height (3)
    given: bool = False  # whether the bolt’s way was said by a person
    hinged: bool = False  # whether what is held turns about the bolt alone, and does not tilt

    @property
    def on(self) -> str:
        """What its bracket is on, in words."""
        return "the chassis" if self.body == "ground" else f"the {self.body.replace('_', ' ')}"

    def moves_with(self, mount: Mount) -> bool:
        """Whether a member of the car moves with what its bracket is on.

        Args:
            mount: the member.
        """
        return (mount.end_id, mount.body) == (self.end_id if self.body != "ground" else None, self.body)

    @property
    def key(self) -> str:
        """All that a bracket's foot depends on of it."""
        return f"{self.body} {self.at.round(6).tolist()} {None if self.bolt is None else self.bolt.round(9).tolist()} {None if self.pull is None else self.pull.round(6).tolist()}"


@dataclass(frozen=True, slots=True, kw_only=True)
class Stand:
    """A bracket's foot on a member of the car."""

    mount: Mount
    standing: Standing
    mirrored: bool  # whether it stands on the member's mirror image
    at: At  # of several holes the first one's place
    of: str = "the bolt"  # what stands at that place

    @property
    def where(self) -> str:
        """On the member, in words."""
        one = self.standing
        face = f" on its {one.where}" if one.face else ""
        along = f", its foot’s middle {one.along:.1f} mm from its first end" if one.along is not None else ""
        return f"{self.mount.name}{face}{along}"


def signed(direction: Array) -> Array:
    """A line's direction with its largest part positive, length 1.

    Args:
        direction: either way (3).
    """
    unit = direction / np.linalg.norm(direction)
    return np.asarray(unit if unit[int(np.argmax(np.abs(unit).round(9)))] > 0 else -unit)


def swing_axis(directions: Array) -> tuple[Array, str]:
    """The bolt that a swinging thing tilts least on: square to the plane that it swings in, or a plain direction of the car that is nearly as good.

    Args:
        directions: where it points, from droop to bump, as its bracket sees it (3, positions).

    Returns:
        Direction (3), and how it was found.
    """
    unit = directions / np.linalg.norm(directions, axis=0)
    flat = np.linalg.svd(unit @ unit.T)[0][:, 2]

    def tilt(bolt: Array) -> float:
        return float(np.degrees(np.arcsin(np.clip(np.abs(bolt @ unit), 0, 1))).max())

    middle = unit.mean(axis=1) / np.linalg.norm(unit.mean(axis=1))
    # along the car, across it, upright; then the same made square to what it holds; a direction of no name last
    squared = [axis - float(axis @ middle) * middle for axis in np.eye(3) if abs(float(axis @ middle)) < 0.5]
    tried = [axis / np.linalg.norm(axis) for axis in (*np.eye(3), *squared)]
    chosen = next((axis for axis in tried if tilt(axis) <= tilt(flat) + NEARLY_DEG), flat)
    return signed(chosen), f"the bolt that it tilts least on from droop to bump, {tilt(chosen):.0f}° at most"


# --- on a member of the car --------------------------------------------------------------------------------------------------


def stand_on(mount: Mount, at: At) -> Stand:
    """A joint's bracket on a member of the car: on the member or on its mirror image, whichever is nearer.

    Args:
        mount: the member.
        at: the joint, its bolt known.

    Raises:
        NotApplicable: no plates square to the bolt stand there, with the reason.
    """
    return _nearest_of(mount, at, _standing)


def _nearest_of(mount: Mount, at: At, how: Callable[[Mount, At, bool], Standing]) -> Stand:
    assert at.bolt is not None
    if not at.moves_with(mount):
        raise NotApplicable(f"{mount.name} does not move with {at.on}, which this joint is on.", code="other_body", fields=("mount",))  # fmt: skip
    found: list[Stand] = []
    why: NotApplicable | None = None
    for mirrored in (False, True) if mount.both_sides else (False,):
        try:
            found.append(Stand(mount=mount, standing=how(mount, at, mirrored), mirrored=mirrored, at=at))
        except NotApplicable as error:
            why = why or error
    if not found:
        assert why
        raise why
    return min(found, key=_off_it)


def _off_it(one: Stand) -> tuple[float, float]:
    """How far past its member, then how far from it, a bracket stands."""
    lies = one.standing.lies
    if lies is not None:
        along, length = one.standing.along, one.standing.length
        past = 0.0 if along is None or length is None else max(0.0, -along, along - length)
        return past, one.standing.height + lies.high
    return max(0.0, one.standing.overhang(0.0, 0.0)), one.standing.height


def lie_on(mount: Mount, at: At) -> Stand:
    """The same of a plate that lies on a face, its bolt square to that.

    Args:
        mount: the member.
        at: the joint, its bolt known.

    Raises:
        NotApplicable: no such plate lies there, with the reason.
    """
    return _nearest_of(mount, at, _lying)


def stands_upright(stand: Stand) -> bool:
    """Whether plates stand on a tube well enough that fillets go along their feet: not far from square to its skin, nor along it, nor past its ends.

    Args:
        stand: where.
    """
    one = stand.standing
    there = one.along is None or one.length is None or 0.0 <= one.along <= one.length
    return there and abs(one.lean_deg) <= UPRIGHT_DEG and one.angle_deg >= ACROSS_DEG


def grown(mount: Mount, thick: float) -> Mount:
    """A member with a plate of some thickness laid on it, wherever a bracket may stand.

    Args:
        mount: the member.
        thick: of the plate [mm]; 0: as it is.
    """
    shape = mount.shape
    if thick <= 0:
        return mount
    if isinstance(shape, RoundMember):
        own = shape.model_copy(update={"od_mm": shape.od_mm + 2 * thick})
    elif isinstance(shape, BoxMember):
        own = shape.model_copy(
            update={"width_mm": shape.width_mm + 2 * thick, "height_mm": shape.height_mm + 2 * thick}
        )  # type: ignore[assignment]
    else:
        size = float(np.linalg.norm(shape.normal))
        through = tuple(float(p + thick * n / size) for p, n in zip(shape.through, shape.normal, strict=True))
        own = shape.model_copy(update={"through": through})  # type: ignore[assignment]
    return mount.model_copy(update={"shape": own})


def stand_in_hole(mount: Mount, at: At, place: tuple[float, float]) -> Stand:
    """The same of a plate with several holes, by its first hole: the joint is in another.

    Args:
        mount: the member.
        at: the joint, its bolt known.
        place: of the joint's hole from the first, along the foot and away from it [mm].

    Raises:
        NotApplicable: as `stand_on`; or no place of the first hole was found.
    """
    first = at
    for _ in range(HOLE_STEPS):
        stand = stand_on(mount, first)
        there = at.at - place[0] * stand.standing.x - place[1] * stand.standing.y
        if float(np.linalg.norm(there - first.at)) < HOLE_FOUND:
            return replace(stand, of="hole 1")
        first = replace(at, at=there)
    raise NotApplicable(f"No place on {mount.name} was found from which the joint’s hole comes to stand at the joint. Put it in the first hole.", code="passes", fields=("in_hole",))  # fmt: skip


HOLE_STEPS, HOLE_FOUND = 60, 1e-9  # of the search for the first hole's place [mm]


def _standing(mount: Mount, at: At, mirrored: bool) -> Standing:
    way = MIRROR if mirrored else np.ones(3)
    shape, bolt = mount.shape, at.bolt
    assert bolt is not None
    if isinstance(shape, RoundMember):
        return on_round(at.at, bolt, way * np.array(shape.a), way * np.array(shape.b), shape.od_mm, mount.name)
    if isinstance(shape, BoxMember):
        size = shape.width_mm, shape.height_mm
        return on_box(at.at, bolt, way * np.array(shape.a), way * np.array(shape.b), way * np.array(shape.up), size, mount.name)  # fmt: skip
    return on_flat(at.at, bolt, way * np.array(shape.through), way * np.array(shape.normal), mount.name)


def _lying(mount: Mount, at: At, mirrored: bool) -> Standing:
    way = MIRROR if mirrored else np.ones(3)
    shape, bolt = mount.shape, at.bolt
    assert bolt is not None
    if isinstance(shape, RoundMember):
        raise NotApplicable(f"{mount.name} is round: no plate lies on it, and no sleeve is let through it. Give it a box or a flat, or let plates stand there.", code="round", fields=("mount",))  # fmt: skip
    if isinstance(shape, BoxMember):
        size = shape.width_mm, shape.height_mm
        return lying_on_box(at.at, bolt, way * np.array(shape.a), way * np.array(shape.b), way * np.array(shape.up), size, mount.name)  # fmt: skip
    return lying_on_flat(at.at, bolt, way * np.array(shape.through), way * np.array(shape.normal), mount.name)


def fitted_on(pair: TabPair, stand: Stand) -> TabPair:
    """A pair of tabs cut for the member that it stands on, reaching to its joint, its pull's angle as the end has it.

    Args:
        pair: as it is saved.
        stand: where.
    """
    one, wall = stand.standing, stand.mount.shape.wall_mm
    # a drawn outline is as tall as it was drawn
    change: dict[str, object] = {} if pair.drawn else {"height": Length(mm=round(one.height, 2)), "height_fixed": True}
    if one.turned_deg is not None:
        change["base"] = CornerBase(turned_deg=round(one.turned_deg, 2) + 0.0, wall_mm=wall)
    elif one.tube_od is None:
        edge, rounded = face_edge(stand)
        change["base"] = FlatBase(wall_mm=wall, lean_deg=round(one.lean_deg, 2), edge_mm=edge, round_mm=rounded)
    else:
        change["base"] = SaddleBase(
            tube_od=Length(mm=round(one.tube_od, 4)), angle_deg=round(one.angle_deg, 2), lean_deg=round(one.lean_deg, 2) + 0.0, wall_mm=wall
        )  # fmt: skip
        widest = _widest_foot(one)
        if pair.base_width.mm > widest:
            change["base_width"] = Length(mm=max(2 * pair.head_radius.mm, widest))
    angle = pull_angle(stand)
    if angle is not None:
        change["load_angle_deg"] = round(angle, 1)
    return pair.model_copy(update=change)


def face_edge(stand: Stand) -> tuple[float | None, float]:
    """From a pair's middle along its bolt to the nearer edge of the face that it stands on, and the outside radius of the corner there [mm].

    None and 0 where that is further than fillets look, or not known.

    Args:
        stand: where.
    """
    one, shape = stand.standing, stand.mount.shape
    found: list[tuple[float, float]] = []
    if one.across is not None:
        way, middle, half = one.across
        share = abs(float(way @ one.bolt))
        corner = CORNER_OF_WALL * shape.wall_mm if isinstance(shape, BoxMember) and shape.wall_mm else 0.0
        if share > ALONG:
            found.append(((half - abs(float(one.foot @ way) - middle)) / share, corner))
    if one.run is not None and one.along is not None and one.length is not None:
        share = abs(float(one.run @ one.bolt))
        if share > ALONG:  # a sawn end has no rounded edge
            found.append((min(one.along, one.length - one.along) / share, 0.0))
    near = min(found, default=(np.inf, 0.0))
    return (round(max(near[0], 0.0), 2), round(near[1], 2)) if near[0] < EDGE_NEAR else (None, 0.0)


ALONG = 0.3  # of a bolt's way toward an edge: one that runs nearer to along it is beside the feet's ends, not their outer faces
EDGE_NEAR = 150.0  # mm
CORNER_OF_WALL = 2.0  # outside radius of a cold-formed box's corner; EN 10219-2, from memory


def _widest_foot(one: Standing) -> float:
    """Half a millimetre and more under what wraps round its tube; along a tube nothing does [mm]."""
    assert one.tube_od is not None
    share = np.sin(radians(one.angle_deg))
    return float(int(0.9 * one.tube_od / share)) if share > 1e-3 else np.inf


def pull_angle(stand: Stand) -> float | None:
    """Between a tab's axis and the line of pull, in the plates' plane at ride height [°]; None where that is not known or along the bolt.

    Args:
        stand: where it stands.
    """
    pull = stand.at.pull
    if pull is None:
        return None
    flat = pull - float(pull @ stand.standing.bolt) * stand.standing.bolt
    size = float(np.linalg.norm(flat))
    if size < 1e-6 * float(np.linalg.norm(pull)):
        return None
    return degrees(acos(min(1.0, abs(float(flat @ stand.standing.y)) / size)))


def runs_through(stand: Stand) -> str:
    """Why what is held cannot leave the joint: its middle line goes through the member; empty where it passes it, or its way is not known.

    Args:
        stand: where.
    """
    pull, shape = stand.at.pull, stand.mount.shape
    if pull is None or stand.of != "the bolt":
        return ""
    size = float(np.linalg.norm(pull))
    way = MIRROR if stand.mirrored else np.ones(3)
    start, stop = stand.at.at, stand.at.at + pull * min(1.0, LOOKED_ALONG / max(size, 1e-9))
    p, q = start[:, None], stop[:, None]
    if isinstance(shape, RoundMember):
        a, b = (way * np.array(end) for end in (shape.a, shape.b))
        near = float(segments(p, q, a[:, None], b[:, None])[0]) - shape.od_mm / 2
    elif isinstance(shape, BoxMember):
        a, b = (way * np.array(end) for end in (shape.a, shape.b))
        run = (b - a) / np.linalg.norm(b - a)
        top = way * np.array(shape.up) - float(way * np.array(shape.up) @ run) * run
        top = top / np.linalg.norm(top)
        axes = np.stack([np.cross(top, run), top, run])[:, :, None]
        half = np.array([shape.width_mm, shape.height_mm, float(np.linalg.norm(b - a))]) / 2
        near = float(segment_block(p, q, ((a + b) / 2)[:, None], axes, half)[0])
    else:
        # its edges are not entered: as much of it as is looked at round a foot
        normal = way * np.array(shape.normal)
        before, behind = (float((end - stand.standing.foot) @ normal) for end in (start, stop))
        share = before / (before - behind) if behind < 0 < before else None
        met = None if share is None else start + share * (stop - start) - stand.standing.foot
        near = 1.0 if met is None or float(np.linalg.norm(met)) > ROUND_FOOT else 0.0
    if near > 0:
        return ""
    return f"What it holds goes from its joint straight through {stand.mount.name}. Put the joint on its other side, or give it another mount."


LOOKED_ALONG = 250.0  # mm of what is held
ROUND_FOOT = 60.0  # mm of a flat about a foot


def stands_true(pair: TabPair, stand: Stand, gap: float | None, shift: float | None = None) -> tuple[Misfit, ...]:
    """Whether a pair is cut for the member that it stands on, reaches to its joint, and has the member under all of its feet.

    Args:
        pair: as it is saved.
        stand: where.
        gap: between its plates [mm]; None: not known yet.
        shift: of ears that are one with their base: of the one on the bolt's way along its bend from its hole [mm], of the other as much the other way; None: two plates, welded along their outer faces.
    """
    base, one, name = pair.base, stand.standing, stand.mount.name
    out: list[Misfit] = []
    asks, what = (
        (CornerBase, "on a corner of it") if one.turned_deg is not None
        else (FlatBase, "a flat") if one.tube_od is None else (SaddleBase, "a round tube")
    )  # fmt: skip
    if not isinstance(base, asks):
        return (Misfit(field="base/kind", message=f"It stands on {name}, {what}. Fit it to what it stands on."),)
    if isinstance(base, CornerBase) and one.turned_deg is not None and abs(base.turned_deg - one.turned_deg) > TRUE_DEG:
        out.append(Misfit(field="base/turned_deg", message=f"The corner’s middle line: it is cut for {base.turned_deg:.1f}° from its axis, and its joint asks {one.turned_deg:.1f}°. Fit it to what it stands on."))  # fmt: skip
    if isinstance(base, SaddleBase) and one.tube_od is not None:
        if abs(base.tube_od.mm - one.tube_od) > CUT_TRUE:
            out.append(Misfit(field="base/tube_od", message=f"Its foot is cut for {base.tube_od.mm:.1f} mm, and {name} is {one.tube_od:.1f} mm. Fit it to what it stands on."))  # fmt: skip
        words = {"angle_deg": "Plate to tube axis", "lean_deg": "Lean from square to its skin"}
        for field, has, asked in (
            ("angle_deg", base.angle_deg, one.angle_deg),
            ("lean_deg", base.lean_deg, one.lean_deg),
        ):
            if abs(has - asked) > TRUE_DEG:
                out.append(Misfit(field=f"base/{field}", message=f"{words[field]}: it is cut for {has:.1f}°, and its joint asks {asked:.1f}°. Fit it to what it stands on."))  # fmt: skip
        if abs(base.offset_mm) > CUT_TRUE:
            out.append(Misfit(field="base/offset_mm", message=f"It is cut for a bolt {base.offset_mm:.1f} mm beside its foot’s middle, and it points straight at {name}. Fit it to what it stands on."))  # fmt: skip
    elif isinstance(base, FlatBase) and abs(base.lean_deg - one.lean_deg) > TRUE_DEG:
        out.append(Misfit(field="base/lean_deg", message=f"It is cut to lean {base.lean_deg:.1f}°, and its bolt asks {one.lean_deg:.1f}°. Fit it to what it stands on."))  # fmt: skip
    if pair.drawn is not None and abs(pair.height.mm - one.height) > CUT_TRUE:
        out.append(Misfit(field="drawn", message=f"Its outline is drawn with the hole {pair.height.mm:.1f} mm over its foot, and the joint stands {one.height:.1f} mm over {name}. Draw it so tall, or move the mount."))  # fmt: skip
    elif abs(pair.height.mm - one.height) > CUT_TRUE:
        out.append(Misfit(field="height", message=f"Its bolt stands {pair.height.mm:.1f} mm over {name}, and the joint {one.height:.1f} mm. Fit it to what it stands on."))  # fmt: skip
    through = runs_through(stand)
    if through:
        out.append(Misfit(field="mount", message=through))
    if out or gap is None:
        return tuple(out)
    if isinstance(base, FlatBase) and pair.spread is None and shift is None:
        edge, rounded = face_edge(stand)
        near = min((had for had in (edge, base.edge_mm) if had is not None), default=np.inf) - gap / 2 - pair.plate.mm
        off = (
            abs((edge if edge is not None else EDGE_NEAR) - (base.edge_mm if base.edge_mm is not None else EDGE_NEAR))
            > CUT_TRUE
        )
        if near < pair.weld_leg_mm and (off or abs(rounded - base.round_mm) > CUT_TRUE):
            room = (
                "not near" if edge is None else f"{max(edge - gap / 2 - pair.plate.mm, 0.0):.1f} mm of face beside it"
            )
            out.append(Misfit(field="base/edge_mm", message=f"Its outer fillets are counted by another edge of {name} than it has there ({room}). Fit it to what it stands on."))  # fmt: skip
    past = one.overhang(pair.half_foot, gap / 2 + pair.plate.mm, shift or 0.0)
    if past > CUT_TRUE:
        out.append(Misfit(field="base_width", message=f"Its feet reach {past:.1f} mm past {name}{f' ({one.where})' if one.face else ''}: there is nothing to weld to. Make the foot narrower, or give it another mount."))  # fmt: skip
    return tuple(out)


def right_side_lacks(stand: Stand, half: float, outer: float, shift: float = 0.0) -> str:
    """Why what stands on the left does not stand on the right as its mirror image; empty where it does.

    Args:
        stand: of the left one.
        half: of a foot's width [mm].
        outer: from the pair's middle to a plate's outer face [mm].
        shift: as of `stands_true`, of the left one.
    """
    at, one, name = stand.at, stand.standing, stand.mount.name
    assert at.bolt is not None
    if abs(float(at.at[1])) < CUT_TRUE:
        return ""
    try:
        other = stand_on(stand.mount, replace(at, at=at.at * MIRROR, bolt=signed(at.bolt * MIRROR)))
    except NotApplicable as error:
        return f"On the right {name} does not hold it: {error.message}"
    two = other.standing
    if two.overhang(half, outer, -shift) > max(
        CUT_TRUE, one.overhang(half, outer, shift) + CUT_TRUE
    ):  # as far past it as the left one is told of that
        return f"On the right {name} does not reach it. Say that the mount stands on both sides, or give the right one a bracket of its own."
    same = (
        abs(one.height - two.height) < CUT_TRUE
        and abs(one.angle_deg - two.angle_deg) < TRUE_DEG
        and abs(abs(one.lean_deg) - abs(two.lean_deg)) < TRUE_DEG
        and abs(abs(one.turned_deg or 0.0) - abs(two.turned_deg or 0.0)) < TRUE_DEG
        and (one.turned_deg is None) == (two.turned_deg is None)
    )
    return (
        ""
        if same
        else f"On the right {name} stands otherwise under it than on the left: a mirrored pair does not fit both. Give the right one a bracket of its own."
    )


# --- told --------------------------------------------------------------------------------------------------------------------


def round_line(stand: Stand, name: str = "") -> CardLine:
    """Where it goes round its tube, from the top.

    Args:
        stand: on a round tube.
        name: the tube in words; empty: by its name.
    """
    of = name or stand.mount.name
    one = stand.standing
    assert one.round_deg is not None
    assert one.tube_od
    turn = abs(one.round_deg)
    if turn < 0.05:
        return CardLine(text=f"on the top of {of}")
    if turn > 179.95:
        return CardLine(text=f"on the bottom of {of}")
    return CardLine(text=f"round {of} from its top, {turn:.1f}° toward {_toward(stand)}; along its skin", mm=radians(turn) * one.tube_od / 2)  # fmt: skip


def bolt_lines(stand: Stand) -> list[CardLine]:
    """Where the bolt's middle is, from floor, centre line and datum.

    Args:
        stand: where.
    """
    x, y, z = (float(v) for v in stand.at.at)
    return [
        CardLine(text=f"middle of {stand.of} over the floor datum (z)", mm=z),
        CardLine(text=f"middle of {stand.of} {'left' if y >= 0 else 'right'} of the centre line (y)", mm=abs(y)),
        CardLine(text=f"middle of {stand.of} {'ahead of' if x >= 0 else 'behind'} the datum (x)", mm=abs(x)),
    ]


def spans_both(mount: Mount, place: Array) -> bool:
    """Whether a member carries a bracket's twin too: an axle tube from side to side, a tunnel in the middle.

    Args:
        mount: round or a box; of a flat no twin is known.
        place: of the left one [mm].
    """
    if isinstance(mount.shape, FlatMember) or abs(float(place[1])) <= OFF_CENTRE:
        return False
    a, b = np.array(mount.shape.a, float), np.array(mount.shape.b, float)
    along = (b - a) / np.linalg.norm(b - a)
    left, right = (float(np.linalg.norm(np.cross(way * place - a, along))) for way in (np.ones(3), MIRROR))
    return abs(left - right) <= SAME


def set_out(stand: Stand, side: str) -> list[CardLine]:
    """Where it goes, from what can be touched: along its member and round it, and the bolt from floor, centre line and datum.

    Args:
        stand: where.
        side: of the bracket.
    """
    one, name = stand.standing, stand.mount.name
    lines = []
    if one.along is not None:
        lines.append(CardLine(text=f"foot’s middle from {name}’s first end, along it", mm=one.along, strong=True))
    if one.face:
        lines.append(CardLine(text=f"on the {one.where} of {name}"))
    if one.round_deg is not None:
        lines.append(round_line(stand))
    return [*lines, *bolt_lines(stand), *twin_lines(stand, side)]


def twin_lines(stand: Stand, side: str) -> list[CardLine]:
    """That its mirror image stands on the other side of the car, where it does: on that side’s own member, or on the same one.

    Args:
        stand: of the left one.
        side: of the bracket.
    """
    own = stand.mount.both_sides and abs(float(stand.at.at[1])) > OFF_CENTRE
    if side == "pair" and (own or spans_both(stand.mount, stand.at.at)):
        return [CardLine(text="on the other side of the car its mirror image")]
    return []


def _toward(stand: Stand) -> str:
    """The way round a tube from its top, in words."""
    one = stand.standing
    shape = stand.mount.shape
    assert one.run is not None
    assert one.along is not None
    assert isinstance(shape, RoundMember)
    out = one.foot - (MIRROR if stand.mirrored else np.ones(3)) * np.array(shape.a) - one.along * one.run
    out[2 if abs(one.run[2]) < UPRIGHT else 0] = 0.0
    return facing(out) if float(np.linalg.norm(out)) > 1e-6 else "nowhere"


def bolt_told(at: At) -> str:
    """A joint's bolt in words: its direction, and where that is known from.

    Args:
        at: the joint.
    """
    if at.bolt is None:
        return ""
    names = ("along the car", "across the car", "upright")
    plain = next((name for name, part in zip(names, at.bolt, strict=True) if abs(part) > PLAIN), None)
    way = plain or f"along ({', '.join(f'{round(float(v), 2) + 0.0:.2f}'.replace('-', '−') for v in at.bolt)})"
    return f"{way}: {at.bolt_told}"


def facing(out: Sequence[float] | Array) -> str:
    """The way that something looks, in words.

    Args:
        out: direction (3) in car axes.
    """
    ways = ((0, "the front", "the rear"), (1, "the left", "the right"), (2, "up", "down"))
    axis, ahead, back = max(ways, key=lambda one: abs(float(out[one[0]])))
    return ahead if out[axis] > 0 else back


def plate_names(stand: Stand | None) -> tuple[str, str]:
    """What the two plates of a pair that are not alike are called: by where they stand along the bolt.

    Args:
        stand: where; None: it stands on no member that is known.
    """
    if stand is None:
        return "plate 1", "plate 2"
    words = {"the front": "front plate", "the rear": "rear plate", "the left": "left plate", "the right": "right plate", "up": "upper plate", "down": "lower plate"}  # fmt: skip
    return words[facing(stand.standing.bolt)], words[facing(-stand.standing.bolt)]


def leans_out(stand: Stand) -> float:
    """How far the pull leans out of the plates' plane at ride height [°]: what no case of its bolt's tilt has is told.

    Args:
        stand: where.
    """
    pull = stand.at.pull
    if pull is None:
        return 0.0
    return 90.0 - degrees(acos(min(1.0, abs(float(pull @ stand.standing.bolt)) / float(np.linalg.norm(pull)))))
