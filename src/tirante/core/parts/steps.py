"""How a part is made, step by step: one table of steps for cards, jigs and the build log. Made from what a part is made of; of no kind is it asked.

Not covered: steps of the car (cycling, torque, paint); they belong to the build log.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from tirante.core.parts.part import (
    BoughtPiece,
    Figure,
    NotchedEnd,
    Part,
    PlatePiece,
    ShortenPiece,
    TubePiece,
    TurnedPiece,
)

KINDS = {
    "have": "at hand", "saw": "saw", "notch": "notch", "cut": "cut", "drill": "drill", "bend": "bend", "turn": "turn", "tack": "tack", "check": "check",
    "weld": "weld", "inspect": "inspect",
}  # in the order of the work  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """Something to be done and ticked; `key` is its own within its part, and the same for the same work."""

    key: str
    kind: str  # of `KINDS`
    title: str
    figures: tuple[Figure, ...] = ()
    lines: tuple[str, ...] = ()


def steps_of(part: Part, jigs: Sequence[str] = ()) -> tuple[Step, ...]:
    """The steps of a complete part, in the order of the work; none of one that is not complete.

    Args:
        part: worked out.
        jigs: names of the jigs of the job that hold it.
    """
    if not part.complete:
        return ()
    found = [*_have(part)]
    for i, piece in enumerate(part.pieces):
        if isinstance(piece, TubePiece | ShortenPiece):
            found += _tube(piece, i)
        elif isinstance(piece, PlatePiece):
            found += _plate(piece, i)
        elif isinstance(piece, TurnedPiece):
            lines = (f"{piece.count} of it",) if piece.count > 1 else ()
            found.append(Step(key=f"turn:{i}", kind="turn", title=piece.what, lines=lines))
    found += _joined(part, jigs)
    order = list(KINDS)
    return tuple(sorted(found, key=lambda step: order.index(step.kind)))


def _have(part: Part) -> Iterator[Step]:
    bought = [piece for piece in (*part.pieces, *part.beside) if isinstance(piece, BoughtPiece)]
    if bought:
        lines = tuple(f"{one.count} × {one.what}{f', {one.hand}' if one.hand else ''}" for one in bought)
        yield Step(key="have", kind="have", title="Have at hand", lines=lines)


def _tube(piece: TubePiece | ShortenPiece, i: int) -> Iterator[Step]:
    many = (f"{piece.count} of it",) if piece.count > 1 else ()
    if isinstance(piece, ShortenPiece):
        figures = (Figure(label="To be left", mm=piece.length), Figure(label="Comes off", mm=piece.off))
        yield Step(key=f"saw:{i}", kind="saw", title="Saw it shorter", figures=figures, lines=(piece.told, *many))
        return
    name = piece.name or "it"
    to = "before notching" if piece.before_notching else "to its longest points" if "notched" in piece.ends else ""
    saw = (Figure(label=f"Saw {name}", mm=piece.length, note=to),)
    others = tuple(one for one in dict.fromkeys(piece.ends) if one not in ("square", "notched"))
    yield Step(
        key=f"saw:{i}",
        kind="saw",
        title=f"Saw {name}",
        figures=saw,
        lines=(f"{piece.tube}, {piece.grade}", *many, *others),
    )
    for which, notch in zip("AB", piece.notches, strict=True):
        if notch is not None:
            yield _notch(notch, name, which, i)
    unknown = [
        which
        for which, end, notch in zip("AB", piece.ends, piece.notches, strict=True)
        if end == "notched" and notch is None
    ]
    if unknown:
        told = (
            "It is not worked out: fit it in place, from the length before notching."
            if piece.before_notching
            else "By the drawing."
        )
        yield Step(key=f"notch:{i}", kind="notch", title=f"Notch {name}, end {' and '.join(unknown)}", lines=(told,))


def _notch(notch: NotchedEnd, name: str, which: str, i: int) -> Step:
    lines = (
        f"onto {', then '.join(notch.onto)}, at {notch.angle_deg:.1f}°{f', passing by {notch.offset:.1f} mm' if abs(notch.offset) > 0.05 else ''}",
        f"its longest point {notch.long_deg:.0f}° round from the marked line",
        notch.by_saw or "by its wrap, which is among the sheets at 1:1",
    )
    figures = (Figure(label="Deep, from its longest point", mm=notch.depth),)
    return Step(
        key=f"notch:{i}:{which}", kind="notch", title=f"Notch {name}, {notch.where}", figures=figures, lines=lines
    )


def _plate(piece: PlatePiece, i: int) -> Iterator[Step]:
    name = piece.name or "plate"
    lines = [f"{piece.count} × {piece.material}"]
    if piece.outline is None:
        lines.append(f"{piece.length:.1f} × {piece.width:.1f} mm, marked out by hand")
    if piece.told:
        lines.append(piece.told)
    yield Step(
        key=f"cut:{i}",
        kind="cut",
        title=f"Cut {name}",
        figures=(Figure(label="Thick", mm=piece.thickness),),
        lines=tuple(lines),
    )
    if piece.outline is None:
        return
    small: dict[float, int] = {}
    for hole in piece.outline.holes:
        if hole.diameter < piece.thickness - 1e-9:
            small[hole.diameter] = small.get(hole.diameter, 0) + 1
    for mm, count in sorted(small.items()):
        told = f"{count} in each, smaller than the plate is thick: no table cuts them"
        yield Step(
            key=f"drill:{i}:{mm:.2f}",
            kind="drill",
            title=f"Drill {name}",
            figures=(Figure(label="Drill", mm=mm),),
            lines=(told,),
        )
    if piece.outline.bends:
        bends = tuple(
            f"{bend.angle_deg:+.1f}° at {bend.radius:g} mm inside, {'up' if bend.angle_deg > 0 else 'down'} from its face as drawn".replace(
                "-", "−"
            )
            for bend in piece.outline.bends
        )
        yield Step(key=f"bend:{i}", kind="bend", title=f"Bend {name}", lines=bends)


def _joined(part: Part, jigs: Sequence[str]) -> Iterator[Step]:
    """Tack, check, weld, inspect: of what is welded of several pieces, or says how it is welded."""
    if part.tool or not part.welding:
        return
    held = tuple(f"in {name}" for name in jigs)
    set_to: tuple[Figure, ...] = ()
    cold: tuple[Figure, ...] = ()
    if part.jig is not None:
        set_to = (Figure(label="Set between its ends", mm=part.jig.set_length),)
        cold = (Figure(label="Between its ends, cold", mm=part.jig.check_length, note=f"± {part.jig.tolerance:g} mm"),)
        held = held or ("on its rail, by the ordinates of its sheet",)
    yield Step(
        key="tack",
        kind="tack",
        title="Tack it",
        figures=set_to,
        lines=held or ("clamped as its drawing has it; no jig of it is laid out",),
    )
    check = ("by the check list of its jig, with the signed figure",) if jigs else ("by its drawing, every length",)
    yield Step(key="check", kind="check", title="Check it before it is welded", figures=cold, lines=check)
    yield Step(key="weld", kind="weld", title="Weld it, in balance", lines=part.welding)
    yield Step(
        key="inspect",
        kind="inspect",
        title="Let it cool clamped, look at every bead, measure again",
        figures=cold,
        lines=check,
    )
