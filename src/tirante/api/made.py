"""What was made of a job against the job as it now stands, and which printed sheets are out of date."""

from __future__ import annotations

from flask import Blueprint
from pydantic import BaseModel, Field

from tirante.api.changes import FigureChangedOut, draft_of
from tirante.api.context import services, worked
from tirante.api.prints import PrintOut, printed
from tirante.api.routing import operation
from tirante.api.traveller import traveller
from tirante.core.job.changes import Verdict
from tirante.core.job.made import AsMade, MadeNow, made_now
from tirante.core.job.marks import Mark, mark_of_build
from tirante.storage import measured, rack, revisions, signatures, ticks

blueprint = Blueprint("made", __name__)
END_TO_END = "length:end A to end B"  # what a link is measured by


class ThreadLeftOut(BaseModel):
    """A threaded end once it is set."""

    end: str
    showing_mm: float
    engaged_mm: float
    needed_mm: float


class SourceOut(BaseModel):
    """What a piece that is made anew could be sawn from."""

    piece: str
    length_mm: float
    what: str
    there_mm: float


class SawOffOut(BaseModel):
    """A tube that is sawn shorter."""

    piece: str
    off_mm: float


class MadePartOut(BaseModel):
    """One hand of a part that was begun, and what is to be done with it as the job now stands."""

    part_id: str
    name: str
    word: str
    hand: str
    number: int | None = Field(description="of the revision that it was made from; null: a draft's card")
    is_now: str
    verdict: Verdict | None = Field(description="null: it cannot be told")
    says: str
    holds: bool = Field(description="whether it holds where it did; `says` tells what is over, or not judged any more")
    askew: bool = Field(description="whether it does not fit or hold as it is, or nobody can tell")
    figures: list[FigureChangedOut]
    turns: float | None
    left_mm: float
    ends: list[ThreadLeftOut]
    off: list[SawOffOut]
    sources: list[SourceOut]
    not_found: list[str]


class MadeOut(BaseModel):
    """Everything that was begun, worst first, and sheets that are out of date."""

    mark: Mark = Field(description="how the build stands, for its station")
    parts: list[MadePartOut]
    stale: list[PrintOut] = Field(description="printed sheets with parts that are other, or gone, now")


def as_made(marks: list[ticks.Tick], signed: list[signatures.Signature], read: list[measured.Measured]) -> list[AsMade]:
    """One hand of a part a row, of the metal that it was last worked at.

    Args:
        marks: the ticks that stand.
        signed: signatures.
        read: what was measured, in the order in which it came.
    """
    found = []
    for part_id, hand in dict.fromkeys((one.part_id, one.hand) for one in marks if one.done):
        own = [one for one in marks if (one.part_id, one.hand) == (part_id, hand) and one.done]
        metal = max(own, key=lambda one: one.made_at).metal
        of_it = [one for one in own if one.metal == metal]
        good = [one for one in signed if one.stands and (one.part_id, one.hand, one.metal) == (part_id, hand, metal)]
        kinds = {one.step.partition(":")[0] for one in of_it} | {one.step for one in good}
        numbers = [one.number for one in of_it if one.number is not None]
        # what it measured tacked is drawn shorter by its beads yet
        lengths = [one for one in read if one.made == "cold" and (one.part_id, one.hand, one.metal, one.what) == (part_id, hand, metal, END_TO_END)]  # fmt: skip
        stands = lengths[-1].figure if lengths else None
        found.append(AsMade(part_id=part_id, hand=hand, made_from=max(numbers, default=None), metal=metal, steps=frozenset(kinds), measured=stands))  # fmt: skip
    return found


@operation(blueprint, "GET", "/api/jobs/<job_id>/made", answer=MadeOut)
def made_parts(job_id: str) -> MadeOut:
    """What was begun of a job, by its ticks, against its draft: fits, is set anew, sawn, made anew and from what."""
    draft = draft_of(job_id)
    with services().database.transaction() as connection:
        made = as_made(
            ticks.standing(connection, job_id),
            signatures.of_job(connection, job_id),
            measured.of_job(connection, job_id),
        )
        numbers = {one.made_from for one in made if one.made_from is not None}
        designs = {number: row[1] for number in numbers if (row := revisions.get_revision(connection, job_id, number))}  # fmt: skip
        there = [row for row, _ in rack.rows(connection)] if made else []
    stale = [one for one in printed(job_id).prints if one.changed or one.gone]
    if not made:
        return MadeOut(mark="untouched", parts=[], stale=stale)
    now = worked(draft.design)
    with services().gate_of(now).enter():
        found = made_now(made, {number: worked(design) for number, design in designs.items()}, now, there)
    travels = traveller(job_id)
    mark = mark_of_build(
        len(found), sum(one.askew for one in found), sum(bool(row.unsigned) for row in travels.rows),
        sum(row.done < row.of for row in travels.rows) + len(travels.no_steps),
    )  # fmt: skip
    return MadeOut(mark=mark, parts=[_out(one) for one in found], stale=stale)


def _out(one: MadeNow) -> MadePartOut:
    return MadePartOut(
        part_id=one.made.part_id, name=one.name, word=one.word, hand=one.made.hand, number=one.made.made_from, is_now=one.is_now, verdict=one.verdict,
        says=one.says, holds=one.holds, askew=one.askew, figures=[FigureChangedOut(label=f.label, before_mm=f.before, now_mm=f.now) for f in one.figures], turns=one.turns, left_mm=one.left,
        ends=[ThreadLeftOut(end=e.end, showing_mm=e.showing, engaged_mm=e.engaged, needed_mm=e.needed) for e in one.ends],
        off=[SawOffOut(piece=piece, off_mm=mm) for piece, mm in one.off],
        sources=[SourceOut(piece=s.piece, length_mm=s.length, what=s.what, there_mm=s.there) for s in one.sources], not_found=list(one.not_found),
    )  # fmt: skip
