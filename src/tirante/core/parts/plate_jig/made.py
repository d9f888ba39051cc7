"""A jig worked out: laid out for each hand that it is made for, what it is made of, what the part is checked by."""

from __future__ import annotations

from dataclasses import dataclass
from math import degrees

from tirante.core.document.parts.plate_jig import PlateJig as Saved
from tirante.core.flat.contour import Contour, Hole, Straight, straight_sides
from tirante.core.jigs.handed import SignedFigure
from tirante.core.jigs.plane import LEANS
from tirante.core.jigs.plate import DEEP, PlateJig, spacer_along
from tirante.core.jigs.posts import Joint, Post
from tirante.core.parts.part import BoughtPiece, Piece, PlatePiece, TurnedPiece, box_piece

LEAST_SPACER = 0.2  # [mm] of a shorter one none is turned
SPACER_WALL = 6.0  # [mm] round the bolt
PAST = 30.0  # [mm] of a dummy bolt beyond its posts, to draw it by
SIT = 0.1  # [mm] that a turned dummy is smaller than the bore it fills


@dataclass(frozen=True, slots=True, kw_only=True)
class Hand:
    """One hand's jig."""

    word: str  # LEFT, RIGHT, or empty where there is one for both
    jig: PlateJig
    signed: SignedFigure | None


@dataclass(frozen=True, slots=True, kw_only=True)
class JigMade:
    """A jig with its core objects."""

    holds: str  # name of the part
    hands: tuple[Hand, ...]
    own_mirror: bool  # whether left and right are one part
    tolerance: float  # [mm] of its lengths
    shrink: float  # [mm] of a bead
    handed: bool  # whether the part has two hands at all
    notes: tuple[str, ...] = ()  # what of the part no post holds, and what is taken for granted


def outline(saved: Saved, jig: PlateJig) -> Contour:
    """The plate from its datum hole: its edge, the datum, pilot holes of every post, their feet and the part's middle lines etched.

    Args:
        saved: the jig.
        jig: laid out.
    """
    (left, low), (right, high) = jig.low, jig.high
    corners = [(left, low), (right, low), (right, high), (left, high)]
    holes = [Hole(0.0, 0.0, saved.datum_hole_mm)]
    for post in jig.posts:
        bore = post.bore if post.sort == "pin" and not leans(post) else saved.pilot_mm
        for x, y in post.holes():
            if (
                x * x + y * y > (saved.datum_hole_mm + bore) ** 2 / 4
            ):  # a pin over the datum is screwed down through its hole
                holes.append(Hole(x, y, bore))
    marks = [side for post in jig.posts for side in straight_sides(post.corners())]
    marks += [Straight(bar.a[0], bar.a[1], bar.b[0], bar.b[1]) for bar in jig.bars]
    return Contour(edges=straight_sides(corners), holes=tuple(holes), marks=tuple(marks))


def pieces_of(saved: Saved, made: JigMade) -> tuple[Piece, ...]:
    """What a jig is made of, for each hand of it.

    Args:
        saved: the jig.
        made: worked out.
    """
    found: list[Piece] = []
    for hand in made.hands:
        word = f"{hand.word.lower()} " if hand.word else ""
        found += _base(saved, hand.jig, word)
        found += [_post(saved, post, word) for post in hand.jig.posts]
        for joint in hand.jig.joints:
            found += _at_joint(saved, joint, word)
        screws = sum(len(post.holes()) for post in hand.jig.posts if post.sort != "pin" or leans(post))
        found.append(
            BoughtPiece(
                sort="jig",
                what=f"screws for ⌀{saved.pilot_mm:g} mm pilot holes, through the base into the posts’ feet",
                count=screws,
            )
        )
    return tuple(found)


def _base(saved: Saved, jig: PlateJig, word: str) -> list[Piece]:
    if saved.base == "plate and posts":
        contour = outline(saved, jig)
        left, low, right, high = contour.bounds
        return [PlatePiece(name=f"{word}base", material=saved.plate_name, thickness=saved.plate_mm, length=right - left, width=high - low, outline=contour, told="flat, datum hole reamed")]  # fmt: skip
    stock = saved.rail_mm, saved.rail_wall_mm
    return [
        box_piece(f"{word}rail", *stock, jig.high[0] - jig.low[0]),
        *(box_piece(f"{word}cross rail {i}", *stock, high - low) for i, (_, low, high) in enumerate(cross_rails(saved, jig), start=1)),
    ]  # fmt: skip


def cross_rails(saved: Saved, jig: PlateJig) -> list[tuple[float, float, float]]:
    """Where rails go out from the main one: how far along it, and from where to where across; one carries all posts within its width.

    Args:
        saved: the jig.
        jig: laid out.
    """
    half = saved.rail_mm / 2
    far = sorted((post.u, post.v, post.reach) for post in jig.posts if abs(post.v) + post.reach > half)
    found: list[list[float]] = []
    for u, v, reach in far:
        low, high = min(-half, v - reach), max(half, v + reach)
        if found and u - found[-1][0] < half:
            found[-1][1], found[-1][2] = min(found[-1][1], low), max(found[-1][2], high)
        else:
            found.append([u, low, high])
    return [(u, low, high) for u, low, high in found]


LEANS_DEG = degrees(LEANS)


def leans(post: Post) -> bool:
    """Whether a post's hole or top is made at an angle.

    Args:
        post: of a jig.
    """
    return post.lean_deg > LEANS_DEG


def _post(saved: Saved, post: Post, word: str) -> TurnedPiece:
    lean = f", at {post.lean_deg:.1f}°" if post.lean_deg > 0.05 else ""
    if post.sort == "pin":
        bored = (
            f"bored ⌀{post.bore:g} mm {DEEP:g} mm deep in its top, that cut and bored leaning {post.lean_deg:.1f}°"
            if leans(post)
            else f"bored ⌀{post.bore:g} mm through"
        )
        what = f"round ⌀{post.wide:.0f} mm, {post.top:.1f} mm long, {bored}"
    elif post.sort == "cheek":
        stock = (
            f"angle iron, leg {saved.post_wide_mm:g} mm"
            if saved.base != "plate and posts"
            else f"flat bar {post.wide:g} × {post.thick:g} mm"
        )
        what = f"{stock}, {post.top:.1f} mm long, hole ⌀{post.bore:g} mm {post.work:.1f} mm from its foot{lean}"
    elif post.sort == "rest":
        what = f"flat bar {post.wide:.0f} × {post.thick:g} mm, {post.top:.1f} mm long, a vee of 90° whose bottom is {post.work:.1f} mm from its foot"
    else:
        what = f"square bar {post.wide:.0f} mm, {post.top:.1f} mm long"
    return TurnedPiece(name=f"{word}{post.name}", what=f"{word}{post.name}: {what}", sort="jig")


def _at_joint(saved: Saved, joint: Joint, word: str) -> list[Piece]:
    """The dummy, the spacers and the bolt of a joint."""
    held = joint.held
    found: list[Piece] = []
    if held.seat:
        found.append(TurnedPiece(name=f"{word}dummy at {held.name}", what=f"{word}dummy at {held.name}: turned ⌀{held.seat - SIT:.2f} × {held.wide:.1f} mm, bored ⌀{held.bore:g} mm", sort="jig"))  # fmt: skip
    along = spacer_along(joint)
    if along > LEAST_SPACER:
        cut = f", one end cut at {joint.lean_deg:.1f}°" if joint.lean_deg > 0.05 else ""
        found.append(TurnedPiece(
            name=f"{word}spacer at {held.name}", what=f"{word}spacer at {held.name}: ⌀{held.bore + 2 * SPACER_WALL:g} × {along:.1f} mm, bored ⌀{held.bore:g} mm{cut}",
            count=1 if joint.pinned else 2, sort="jig",
        ))  # fmt: skip
    long = bolt_length(saved, joint)
    found.append(
        BoughtPiece(
            sort="jig",
            what=f"dummy bolt ⌀{held.bore:g} mm, {long:.0f} mm or longer under its head, at {word}{held.name}",
        )
    )
    return found


def bolt_length(saved: Saved, joint: Joint) -> float:
    """How long a dummy bolt must at least be [mm].

    Args:
        saved: the jig.
        joint: on it.
    """
    if joint.pinned:
        top = joint.at[2] - joint.held.wide / 2 - joint.spacer
        under = (
            DEEP
            if joint.lean_deg > LEANS_DEG
            else top + (saved.plate_mm if saved.base == "plate and posts" else saved.rail_mm)
        )
        return joint.held.wide + joint.spacer + under + PAST / 2
    return joint.held.wide + 2 * spacer_along(joint) + 2 * saved.post_thick_mm + PAST


def turn_deg(post: Post) -> float:
    """Which way a post's thin side looks, from u, 0 up to 180 [°]; of a leaning pin, up to 360.

    Args:
        post: of a jig.
    """
    turned = degrees(post.turn) % (360.0 if post.sort == "pin" else 180.0)
    return 0.0 if turned > (360.0 if post.sort == "pin" else 180.0) - 0.005 else turned


def told_signed(figure: SignedFigure, main: str) -> str:
    """The signed figure as a sentence.

    Args:
        figure: of one hand.
        main: its size, as lengths are written.
    """
    way = "above" if figure.height > 0 else "below"
    a, b, c = figure.plane
    return f"Look so that {a}, {b} and {c} go round counter-clockwise: {figure.fourth}{',' if ',' in figure.fourth else ''} lies {main} {way} their plane. On the wrong hand it lies as far on the other side."
