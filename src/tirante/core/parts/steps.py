"""How a part is made and goes onto the car, step by step: one table of steps for cards, jigs and the traveller.

Made from what a part is made of and what it is for; of no kind is it asked. The order, what is looked at twice and what is done again after the
first outing: common practice, no source; the wait before a crack test where steel hardens: AWS D1.1, 48 h after welding (from memory, there
for quenched and tempered plate).

Not covered: bleeding, alignment, corner weights; they are done to the whole car.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from tirante.core.parts.part import (
    BoughtPiece,
    Figure,
    NotchedEnd,
    Part,
    PlatePiece,
    ShortenPiece,
    TubePiece,
    Turned,
    TurnedPiece,
)
from tirante.core.suspension.duty import SAID, Duty

KINDS = {
    "have": "at hand", "saw": "saw", "notch": "notch", "cut": "cut", "drill": "drill", "bend": "bend", "turn": "turn", "tack": "tack", "check": "check",
    "cycle": "cycle on the car", "back": "back in the jig", "second": "second look", "preheat": "preheat", "weld": "weld", "cool": "cool", "inspect": "inspect",
    "wait": "wait", "crack": "crack test", "ream": "ream", "measure": "measure", "passed": "second look", "prime": "prime", "paint": "paint", "fit": "fit",
    "torque": "torque", "witness": "witness mark", "seen": "second look", "outing": "after the first outing",
}  # in the order of the work  # fmt: skip
BOLTS = ("bolt", "U-bolt")
HOLDS = ("second", "passed", "seen")  # what somebody else signs for before the next step opens


@dataclass(frozen=True, slots=True, kw_only=True)
class OnCar:
    """What a part is for: whether a wheel or the steering hangs on it, and what it holds or is held by."""

    duty: Duty = ""
    member: bool = False  # whether it moves with its end, so that it is cycled and goes back in its jig
    holds: tuple[str, ...] = ()  # names of what it holds, of a bracket
    jigs: tuple[str, ...] = ()  # names of the jigs of the job that hold it while it is welded

    @property
    def why(self) -> str:
        """Why somebody else looks at it; of a bracket, what it holds is what steers or locates."""
        told = SAID.get(self.duty, "")
        return told.replace("it ", "what it holds ", 1) if self.holds and not self.member else told


NOWHERE = OnCar()


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """Something to be done and ticked; `key` is its own within its part, and the same for the same work."""

    key: str
    kind: str  # of `KINDS`
    title: str
    figures: tuple[Figure, ...] = ()
    lines: tuple[str, ...] = ()
    asks: tuple[str, ...] = ()  # what is to be written down with it, of `ASKED`

    @property
    def hold(self) -> bool:
        """Whether it is signed by somebody else, and what comes after it waits for that."""
        return self.kind in HOLDS


ASKED = {"heat": "Heat or batch of the stock", "filler": "Filler, and its batch", "welder": "Welder"}


def steps_of(part: Part, of: OnCar = NOWHERE) -> tuple[Step, ...]:
    """The steps of a complete part, in the order of the work; none of one that is not complete.

    Args:
        part: worked out.
        of: what it is for.
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
    found += _joined(part, of)
    found += _onto_the_car(part, of)
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
        asks=("heat",),
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
        asks=("heat",),
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


def _joined(part: Part, of: OnCar) -> Iterator[Step]:
    """From the tack to the second look: of what is welded of several pieces, says how it is welded, or is welded to what it stands on."""
    if part.tool or not (part.welding or welded_on(part)):
        return
    asks = ("welder", "filler")
    set_to: tuple[Figure, ...] = ()
    cold: tuple[Figure, ...] = ()
    held = tuple(f"in {name}" for name in of.jigs)
    if part.jig is not None:
        set_to = (Figure(label="Set between its ends", mm=part.jig.set_length),)
        cold = (Figure(label="Between its ends, cold", mm=part.jig.check_length, note=f"± {part.jig.tolerance:g} mm"),)
        held = held or ("on its rail, by the ordinates of its sheet",)
    if not held:
        held = (
            ("where it stands on the car, with dummies of what it holds in it",)
            if of.holds
            else ("clamped as its drawing has it; no jig of it is laid out",)
        )
    check = ("by the check list of its jig, with the signed figure",) if of.jigs else ("by its drawing, every length",)
    yield Step(key="tack", kind="tack", title="Tack it", figures=set_to, lines=held, asks=asks)
    yield Step(key="check", kind="check", title="Check it before it is welded", figures=cold, lines=check)
    if of.member or of.holds:
        lines = (
            "on stands, springs off, air springs empty: bump, droop and both locks; nothing binds or touches",
            "mark what must change",
        )
        yield Step(key="cycle", kind="cycle", title="Cycle it on the car, tacked", lines=lines)
    if of.member and (of.jigs or part.jig is not None):
        yield Step(key="back", kind="back", title="Back in the jig", figures=set_to, lines=held)
    if of.duty:
        yield _second("second", "Somebody else looks at how it is tacked", of.why, check)
    hardens = tuple(one for one in part.welding or (part.procedure,) if "preheat" in one.lower() and "no preheat" not in one.lower())  # fmt: skip
    if hardens:
        yield Step(key="preheat", kind="preheat", title="Preheat, as its procedure asks", lines=hardens)
    yield Step(key="weld", kind="weld", title="Weld it, in balance", lines=part.welding, asks=asks)
    yield Step(
        key="cool", kind="cool", title="Let it cool clamped", lines=("in still air, out of draughts, never quenched",)
    )
    beads = (
        "every bead over its whole length: cracks, craters, undercut, what has not melted in; its size by the drawing",
    )
    yield Step(key="inspect", kind="inspect", title="Look at every bead", lines=beads)
    if of.duty:
        if hardens:
            late = ("two days: in steel that hardens, cracks of hydrogen come late",)
            yield Step(key="wait", kind="wait", title="Wait before it is crack-tested", lines=late)
        dye = ("with dye or magnetic powder, before any paint", f"because {of.why}")
        yield Step(key="crack", kind="crack", title="Crack-test its welds", lines=dye)
    for i, piece in enumerate(part.pieces):
        if isinstance(piece, TurnedPiece) and piece.turned is not None and piece.turned.after:
            yield _reamed(piece, piece.turned, i)
    yield Step(key="measure", kind="measure", title="Measure it again, cold", figures=cold, lines=check)
    if of.duty:
        yield _second("passed", "Somebody else looks at beads, crack test and measures", of.why, ())
    bare = "threads, bores, seats of joints and faces that are clamped stay bare"
    yield Step(
        key="prime",
        kind="prime",
        title="Prime what is closed next",
        lines=("what nobody reaches once it is fitted", bare),
    )
    yield Step(key="paint", kind="paint", title="Paint it", lines=(bare, "no paint under a jam nut"))


def _second(key: str, title: str, why: str, lines: tuple[str, ...]) -> Step:
    return Step(key=key, kind=key, title=title, lines=(*lines, f"because {why}"))


def _reamed(piece: TurnedPiece, turned: Turned, i: int) -> Step:
    many = (f"{piece.count} of it",) if piece.count > 1 else ()
    figures = (Figure(label="Bore", mm=turned.bore, note=turned.fit), Figure(label="It was left at", mm=turned.rough))
    return Step(key=f"ream:{i}", kind="ream", title=f"Finish the bore of {piece.name or piece.what}", figures=figures, lines=many)  # fmt: skip


WELDED_ON = frozenset({"tab_weld", "lapped_root", "sleeve_ring", "saddle_weld", "root_weld", "pad_weld"})  # checks of what is welded to the car itself  # fmt: skip


def welded_on(part: Part) -> bool:
    """Whether a part is welded to what it stands on: whether a check looks at that weld.

    Args:
        part: worked out.
    """
    return any(check.key.split(":")[0] in WELDED_ON for check in part.checks)


def bolts_of(part: Part) -> tuple[BoughtPiece, ...]:
    """The bolts that a part comes with, its own and those of what it holds; U-bolts are some.

    Args:
        part: worked out.
    """
    return tuple(one for one in (*part.pieces, *part.beside) if isinstance(one, BoughtPiece) and one.sort in BOLTS)


def _onto_the_car(part: Part, of: OnCar) -> Iterator[Step]:
    """Fit, torque, mark, and again after the first outing: of what belongs to the car and is no tool."""
    if part.tool or not (of.member or of.holds):
        return
    bought = [piece for piece in (*part.pieces, *part.beside) if isinstance(piece, BoughtPiece)]
    bolts = tuple(f"{one.count} × {one.what}" for one in bolts_of(part))
    nuts = tuple(
        f"{one.count} × {one.what}{f', {one.hand}' if one.hand else ''}" for one in bought if one.sort == "nut"
    )
    holds = tuple(f"for {name}" for name in of.holds)
    # one that is welded to the car, or whose bolts are not here, says so
    how = () if bolts or part.welding or welded_on(part) or of.member else ("how it is fastened to the car is not told here: by its drawing",)  # fmt: skip
    yield Step(key="fit", kind="fit", title="Fit it to the car", lines=(*holds, *how))
    told = (*bolts, *nuts) or ("what holds it is listed with its brackets",)
    yield Step(key="torque", kind="torque", title="Torque it", lines=(*told, "with the car at ride height where bushes are clamped"))  # fmt: skip
    yield Step(key="witness", kind="witness", title="Mark every nut", lines=("a line over nut and part, so that a turn is seen",))  # fmt: skip
    if of.duty:
        yield _second("seen", "Somebody else looks at torque and marks", of.why, ())
        if part.welding or welded_on(part):
            yield Step(key="outing:crack", kind="outing", title="After the first outing: crack-test it again", lines=(f"because {of.why}",))  # fmt: skip
    yield Step(key="outing:torque", kind="outing", title="After the first outing: torque it again", lines=(*told, "jam nuts too; the marks still in line"))  # fmt: skip
