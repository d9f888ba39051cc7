"""What the bench is told of a pair of tabs beside its sizes: where it goes, how its plates differ, its holes."""

from __future__ import annotations

from collections.abc import Sequence

from tirante.core.document.parts.bracket import SaddleBase, TabPair
from tirante.core.parts.bracket.families.hole_pattern import holes_of, least_pitch, slot_line, slot_run
from tirante.core.parts.bracket.families.tab_checks import beside_crown
from tirante.core.parts.joint import JointMade
from tirante.core.parts.part import CardLine, View
from tirante.core.parts.stands import Stand, set_out


def flat_told(tab: TabPair, name: str) -> str:
    """What is printed above a template of a plate that is not the other one; empty: what is printed for all.

    Args:
        tab: as it is saved.
        name: of the plate.
    """
    if not name:
        return ""
    side = " The right side’s is this one turned over." if tab.side == "pair" else ""
    return f"{name[0].upper()}{name[1:]}, {tab.plate.mm:g} mm {tab.grade_name}. The pair’s two plates differ: this side is the one that looks along the bolt.{side}"


def place_views(stands: Sequence[Stand | None]) -> tuple[View, ...]:
    """A view of each member that it stands on.

    Args:
        stands: of its joints.
    """
    many = len([one for one in stands if one]) > 1
    return tuple(
        View(name=f"place{f'-{i + 1}' if i else ''}", title=f"on {one.mount.name}" if many else "set out")
        for i, one in enumerate(stands) if one
    )  # fmt: skip


def where_lines(made: Sequence[JointMade], stands: Sequence[Stand | None], side: str) -> list[CardLine]:
    """Where it goes on the car, of every joint that it holds on a member.

    Args:
        made: its joints.
        stands: of each.
        side: of the bracket.
    """
    lines: list[CardLine] = []
    for one, stand in zip(made, stands, strict=True):
        if stand is None:
            continue
        if len(made) > 1:
            lines.append(CardLine(text=f"{one.held.name}:", strong=True))
        lines += set_out(stand, side)
    return lines


def hole_lines(tab: TabPair) -> list[CardLine]:
    """What is said of a plate with several holes.

    Args:
        tab: as it is saved.
    """
    places = holes_of(tab)
    if len(places) == 1:
        return []
    line = slot_line(tab)
    if line is not None:
        return [
            CardLine(text="a slot: the bolt goes in it, from end to end", mm=slot_run(line), strong=True),
            CardLine(text=f"set at place {tab.in_hole} of {len(places)}; a thick washer over the slot on both outer faces, torqued, held by friction"),
        ]  # fmt: skip
    lines = [
        CardLine(text=f"{len(places)} holes, numbered on the template; the joint is in hole {tab.in_hole}", strong=True)
    ]
    pitch = least_pitch(places)
    if pitch is not None:
        lines.append(CardLine(text="nearest two holes, middle to middle", mm=pitch))
    return lines


def unlike_lines(tab: TabPair, gap: float, names: Sequence[str]) -> list[CardLine]:
    """What is said of a pair whose plates are not simply two alike.

    Args:
        tab: as it is saved.
        gap: between them [mm].
        names: of its plates where they differ.
    """
    beside, base = beside_crown(tab, gap), tab.base
    if len(names) > 1:
        why = f"stand at {base.angle_deg:g}° to the tube, leaning" if isinstance(base, SaddleBase) else f"lean {abs(base.lean_deg):g}° from square to the flat"  # fmt: skip
        return [
            CardLine(text=f"the plates {why}: their feet differ. Cut one of each: {names[0]} and {names[1]}.", strong=True)
        ]  # fmt: skip
    if tab.corner is not None:
        return [
            CardLine(text="notched 90° for the corner; from its point to either leg’s end", mm=tab.corner.leg, strong=True),
            CardLine(text="hole over the point, its radius: it stays unwelded", mm=tab.corner.open),
            *([CardLine(text=f"the corner’s middle line is {abs(tab.corner.turned_deg):.1f}° off the tab’s axis: both plates the same way round", strong=True)] if abs(tab.corner.turned_deg) > 0.05 else []),
        ]  # fmt: skip
    if not isinstance(base, SaddleBase) or beside < 1e-6:
        return []
    return [
        CardLine(
            text=f"at {base.angle_deg:g}° to the tube: the feet differ. One plate of each pair is turned over; mark which side is inside.",
            strong=True,
        ),
        CardLine(text="middle of either plate beside the tube’s crown", mm=beside),
    ]
