"""Topic of parts as they were made, against a design as it now is."""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated, Any, Literal

from pydantic import Field

from tirante.calc.registry import Working, step, topic
from tirante.core.document.design import Design, pruned
from tirante.core.document.fields import Document, Id, Length, Positive
from tirante.core.document.parts.common import CentreToCentre
from tirante.core.document.rack import RackRow
from tirante.core.document.upgrades import dump_design, load_design
from tirante.core.errors import InputError
from tirante.shipped import the_shelf
from tirante.shipped.templates import DATA

Stage = Literal["at hand", "sawn", "tacked", "welded", "fitted"]
DONE: dict[Stage, frozenset[str]] = {
    "at hand": frozenset({"have"}), "sawn": frozenset({"have", "saw"}), "tacked": frozenset({"saw", "tack"}), "welded": frozenset({"saw", "tack", "weld"}),
    "fitted": frozenset({"saw", "tack", "weld", "fit"}),
}  # fmt: skip


class MadePart(Document):
    """A part that was made."""

    part: Id
    stage: Stage = Field(default="welded", description="how far: what is tacked is sawn no more")
    measured_mm: Positive | None = Field(default=None, description="how long it was found to stand, centre to centre; null: as it was to be made")  # fmt: skip


class MadeInput(Document):
    """What was built from, the design as it is now, and what was made."""

    was: Design = Field(description="what was built from, as a design file has it")
    now: Design = Field(description="as it is now")
    parts: Annotated[tuple[MadePart, ...], Field(strict=False, max_length=2000)] | None = Field(default=None, description="null: every part of what was built from, welded")  # fmt: skip
    rack: Annotated[tuple[RackRow, ...], Field(strict=False, max_length=2000)] = Field(default=(), description="what stands there")  # fmt: skip


@lru_cache(maxsize=1)
def _example() -> dict[str, Any]:
    """A link that was made 420 mm long, was found to stand at 420.6, and is wanted at 422."""
    import json

    whole = load_design((DATA / "demo" / "tern.json").read_text())
    link = next(one for one in whole.parts if one.name == "Toe link")

    def alone(mm: float) -> dict[str, Any]:
        own = link.model_copy(update={"between": CentreToCentre(length=Length(mm=mm))})
        found: dict[str, Any] = json.loads(dump_design(pruned(Design(name="Toe link", parts=(own,), settings=whole.settings, catalogue=whole.catalogue))))  # fmt: skip
        return found

    return {"was": alone(420.0), "now": alone(422.0), "parts": [{"part": link.id, "measured_mm": 420.6}]}


@topic(
    "made",
    MadeInput,
    outputs={
        "parts": "worst first: part, name, verdict (fits, set, buy, cut, make, incomplete, gone), says, turns (longer +), of, left_mm, threads (end, showing_mm, engaged_mm, needed_mm), off (piece, off_mm), from (piece, length_mm, what, there_mm), not_found, figures (label, was_mm, now_mm), holds",
        "new": "parts that are asked now and were not there to be made",
    },
    example=_example(),
    sources=("geometry", "trade"),
)  # fmt: skip
def run_made(data: MadeInput) -> tuple[dict[str, Any], Working]:
    """What was made against a design as it now is: it fits, is turned, sawn shorter, made anew and from what."""
    from tirante.core.job.made import AsMade, made_now
    from tirante.core.job.memory import Memory
    from tirante.core.job.worked import Worked

    memory = Memory()
    was, now = Worked(data.was, the_shelf(), memory), Worked(data.now, the_shelf(), memory)
    known = {part.id for part in was.parts}
    asked = data.parts if data.parts is not None else tuple(MadePart(part=part.id) for part in was.parts)
    for i, one in enumerate(asked):
        if one.part not in known:
            raise InputError(f"parts: what was built from has no part {one.part}.", code="unknown_part", fields=(f"parts.{i}.part",), value=one.part)  # fmt: skip
    made = [AsMade(part_id=one.part, made_from=1, steps=DONE[one.stage], measured=one.measured_mm) for one in asked]
    found = made_now(made, {1: was}, now, data.rack)
    out = {
        "parts": [
            {
                "part": one.made.part_id, "name": one.name, "verdict": one.verdict, "says": one.says, "turns": one.turns, "of": one.of, "left_mm": one.left,
                "threads": [{"end": e.end, "showing_mm": e.showing, "engaged_mm": e.engaged, "needed_mm": e.needed} for e in one.ends],
                "off": [{"piece": piece, "off_mm": mm} for piece, mm in one.off],
                "from": [{"piece": s.piece, "length_mm": s.length, "what": s.what, "there_mm": s.there} for s in one.sources], "not_found": list(one.not_found),
                "figures": [{"label": f.label, "was_mm": f.before, "now_mm": f.now} for f in one.figures], "holds": one.holds,
            }
            for one in found
        ],
        "new": [part.name for part in now.parts if part.id not in known],
    }  # fmt: skip
    working = [
        step(f"turns of {one.name}", "(asked − as it stands) ÷ what a turn moves", "geometry", turns=one.turns, left_mm=one.left)
        for one in found if one.turns is not None
    ]  # fmt: skip
    return out, working
