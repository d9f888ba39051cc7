"""A whole design as it is shown: every part alike, the cut list, what is not made, and what is to be settled, worst first."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from typing import Any, Literal

from tirante import ENGINE_VERSION
from tirante.core.checks.shown import check_out, headline
from tirante.core.cutting.cut_list import CutList, cut_list
from tirante.core.document.design import SuspensionEnd
from tirante.core.errors import InputError
from tirante.core.job.chosen_joints import allowed, bends_of
from tirante.core.job.marks import marks_of
from tirante.core.job.places import places_of
from tirante.core.job.results import (
    CardEndOut,
    CardLineOut,
    CardOut,
    CutListOut,
    EndMotionOut,
    Evaluation,
    FarOffOut,
    FaultOut,
    FigureOut,
    HoldOut,
    ItemOut,
    JigOut,
    JigStationOut,
    KindOut,
    LeftOutOut,
    NotMadeOut,
    PartOut,
    PieceOut,
    PlateAtOut,
    ViewOut,
)
from tirante.core.job.studies import whole_box_of
from tirante.core.job.worked import Worked
from tirante.core.parts.part import Card, CardLine, Jig, Part
from tirante.core.parts.registry import KINDS, kind_of
from tirante.core.suspension.bent import told as rolled
from tirante.core.suspension.far_off import far_off
from tirante.core.suspension.moving import Moving


def kinds_out() -> list[KindOut]:
    """Every kind of part, with what a person may set of it."""
    return [
        KindOut(
            key=kind.key,
            word=kind.word,
            station=kind.station,
            searched=kind.searched,
            of_tubes=kind.of_tubes,
            searches=kind.searches,
            stands_between=kind.stands_between,
            has_room=kind.has_room,
            fields=list(kind.fields),
        )
        for kind in KINDS.values()
    ]


def evaluate(job: Worked) -> Evaluation:
    """Work out a design; what did not change comes from memory."""
    parts = job.parts
    out = [part_out(part, job) for part in parts]
    missing = not_made_out(job)
    ends = [end_out(job, end) for end in job.design.ends]
    holds, places, listed = (
        holds_of(job, out, ends),
        places_of(job),
        cut_list_out(cut_list(parts, job.settings, job.catalogue)),
    )
    return Evaluation(
        ends=ends,
        parts=out,
        cut_list=listed,
        not_made=missing,
        holds=holds,
        places=places,
        marks=marks_of(job.design, out, ends, holds, (listed, missing, places)),
        engine=ENGINE_VERSION,
    )


def end_out(job: Worked, end: SuspensionEnd) -> EndMotionOut:
    """How an end goes through its box, and what of it is watched.

    Args:
        job: worked out.
        end: of the design.
    """
    by_link = allowed(job, end.id)
    known = [one for ends in by_link.values() for one in ends.values()]
    limits: dict[str, dict[Literal["a", "b"], float | None]] = {
        link: {("a" if at == "a" else "b"): one.limit_deg for at, one in ends.items()} for link, ends in by_link.items()
    }
    bends = bends_of(job, end.id)
    common: dict[str, Any] = {
        "id": end.id,
        "name": end.name,
        "limits": limits,
        "bends": dict(bends),
        "shapes": dict(job.shapes(end.id)),
        "far_off": _far_off(job, end),
    }
    standing = job.watched(end.id)
    lacking = [one.told for one in known if one.limit_deg is None]
    for link, ends in by_link.items():
        for at, one in ends.items():
            if one.limit_deg is not None and getattr(standing.links.get(link), at, None) is None:
                lacking.append(
                    f"{one.told.partition(':')[0]}: not watched, its bolt’s direction is not given at Layout"
                )
    rolling = [rolled(name, link) for name, link in standing.links.items() if link.bend]
    common |= {"not_watched": lacking, "allowed": [one.told for one in known if one.limit_deg is not None] + rolling}
    try:
        found = whole_box_of(job, end.id)
    except InputError as error:
        return EndMotionOut(**common, state="incomplete", says=error.message)
    return EndMotionOut(**common, state=found.state, says=found.says)


def _far_off(job: Worked, end: SuspensionEnd) -> list[FarOffOut]:
    try:
        template = job.template(end.id)
    except InputError:
        return []
    return [FarOffOut(point=one.point, side=one.side, says=one.says) for one in far_off(template, end.end)]


def part_out(part: Part, job: Worked) -> PartOut:
    """A part, ready to show; from memory while nothing of its judgement has changed.

    Args:
        part: worked out.
        job: that it belongs to.
    """
    return job.memory.get("shown", part.judged, lambda: _part_out(part, job)) if part.judged else _part_out(part, job)


def _part_out(part: Part, job: Worked) -> PartOut:
    kind, saved = kind_of(part.saved), part.saved
    checks = [check_out(check) for check in part.checks]
    if part.faults:
        status, governing = "incomplete", None
        text = kind.unfinished(saved, job) or part.faults[0].message
    elif part.tool:
        status, text, governing = "attention" if part.lacks else "ok", part.tool, None
    else:
        head = headline(checks, part.not_carried)
        status, text, governing = head.status, head.text, head.governing
    return PartOut(
        id=part.id, kind=saved.kind, word=part.word, station=kind.station, name=part.name, side=part.side, count=saved.count,
        own_mirror=part.own_mirror, of_end=saved.of_end, complete=part.complete, status=status, headline=text, governing=governing,  # type: ignore[arg-type]
        faults=[FaultOut(field=fault.field, message=fault.message) for fault in part.faults],
        stock=part.made_of[0], material=part.made_of[1], mass_kg=part.mass, checks=checks, not_checked=list(part.not_checked),
        not_carried=[str(one) for one in part.not_carried], views=[ViewOut(name=v.name, title=v.title, cut=v.cut) for v in part.views],
        card=_card(part.card) if part.card else None, jig=_jig(part.jig) if part.jig else None, procedure=part.procedure, welding=list(part.welding), notes=list(part.notes),
        begins=kind.begins(saved), metal=part.metal, judged=part.judged, tool=bool(part.tool), own=kind.told(part),
    )  # fmt: skip


def _card(card: Card) -> CardOut:
    return CardOut(
        figures=[FigureOut(label=f.label, mm=f.mm, note=f.note) for f in card.figures],
        lines=_lines(card.lines),
        ends=[CardEndOut(mark=end.mark, lines=_lines(end.lines)) for end in card.ends],
    )


def _lines(lines: Sequence[CardLine]) -> list[CardLineOut]:
    return [CardLineOut(text=line.text, mm=line.mm, strong=line.strong) for line in lines]


def _jig(jig: Jig) -> JigOut:
    return JigOut(
        view=jig.view, set_length_mm=jig.set_length, check_length_mm=jig.check_length, tolerance_mm=jig.tolerance, steps=list(jig.steps),
        stations=[JigStationOut(name=s.name, ordinate_mm=s.ordinate, what=s.what) for s in jig.stations],
    )  # fmt: skip


def cut_list_out(found: CutList) -> CutListOut:
    """The cut list, ready to show."""
    return CutListOut(
        pieces=[PieceOut(**{name: getattr(piece, name) for name in PieceOut.model_fields}) for piece in found.pieces],
        items=[ItemOut(**asdict(item)) for item in found.items],
        left_out=[LeftOutOut(**asdict(one)) for one in found.left_out],
    )


def not_made_out(job: Worked) -> list[NotMadeOut]:
    """What moves and is no part, each with the reason."""
    return [_not_made(job, end, one) for end, one in job.not_made()]


WHY_NOT = {
    "carrier": "not made here",
    "bought": "bought whole: not made and not judged here, its forces stand at Loads",
}


def _not_made(job: Worked, end: SuspensionEnd, one: Moving) -> NotMadeOut:
    template = job.template(end.id)
    may = next((kind for kind in KINDS.values() if kind.may_be(template, one)), None)
    why = WHY_NOT.get(one.sort, "not made here yet")
    if may:
        why = f"no part of this job yet: make it a part, {may.word}"
    body, free = "", []
    if one.sort == "carrier" and one.name in template.bodies:
        plates = {saved.plate_of: saved for saved in job.design.parts if saved.of_end == end.id and saved.plate_of}
        body = one.name
        points = [p for kind in KINDS.values() for p in kind.stands_at(template, body) if (body, p) not in plates]
        free = [PlateAtOut(point=p, words=p.replace("_", " ")) for p in points]
        own = [saved.name for (of, _), saved in plates.items() if of == body]
        why += f", but for what is entered of it: {', '.join(own)}" if own else ""
    return NotMadeOut(
        end_id=end.id, end=end.name, name=one.words, why=why, can=may is not None, body=body, plates_at=free
    )


def holds_of(job: Worked, parts: list[PartOut], ends: list[EndMotionOut]) -> list[HoldOut]:
    """All that is to be settled of a job, worst first: parts that do not hold, are close or are not complete, cases not carried.

    Args:
        job: worked out.
        parts: of it, ready to show.
        ends: likewise.
    """
    found: list[HoldOut] = []
    for one in ends:
        if one.state in ("stop", "attention"):
            found.append(
                HoldOut(part=one.name, what=one.says, detail="in motion", state=one.state, rank=1e6 if one.state == "stop" else 0.85,
                        station="cycle", id=one.id, selection="")
            )  # fmt: skip
        found += [
            HoldOut(part=f"{one.name}, {ask.point.replace('_', ' ')}", what=ask.says, detail="say that it is meant, or put it right",
                    state="attention", rank=0.84, station="layout", id=one.id, selection=f"point:{ask.point}")
            for ask in one.far_off
        ]  # fmt: skip
    for part in parts:
        found += _of_part(part)
    for end in job.design.ends:
        try:
            cases = job.carried(end.id).cases
        except InputError as error:
            found.append(
                HoldOut(part=end.name, what=error.message, detail="none of this end’s cases is worked out", state="incomplete", rank=0.7,
                        station="layout", id=end.id, selection=f"field:{(error.fields or ('',))[0]}")
            )  # fmt: skip
            continue
        # one case for both ways round
        for name, (fault, refused) in {one.case.name: (one.fault, one.refused) for one in cases if one.fault}.items():
            detail = (
                "nothing of this end may be relied on in this case"
                if refused
                else "this case is not worked out; the others stand"
            )
            found.append(
                HoldOut(part=f"{end.name}, “{name}”", what=fault, detail=detail, state="stop" if refused else "incomplete",
                        rank=1e6 if refused else 0.6, station="loads", id=end.id, selection=f"case:{name}")
            )  # fmt: skip
    return sorted(found, key=lambda hold: -hold.rank)


def _of_part(part: PartOut) -> list[HoldOut]:
    def hold(what: str, detail: str, state: str, rank: float, selection: str) -> HoldOut:
        return HoldOut(
            part=part.name, what=what, detail=detail, state=state, rank=rank, station=part.station, id=part.id, selection=selection  # type: ignore[arg-type]
        )  # fmt: skip

    found = []
    for check in part.checks:
        if check.state in ("stop", "attention"):
            over = 1e6 if check.state == "stop" else 0.0
            found.append(
                hold(f"{check.name} {check.shown}", check.note or check.case or check.part, check.state,
                     over + min(check.utilisation or 1.0, 1e5), f"check:{check.key}")
            )  # fmt: skip
    if part.faults and part.headline != part.faults[0].message:  # its stock was never chosen: one line says it all
        found.append(hold(part.headline, "no stock chosen yet", "incomplete", 0.3, f"field:{part.faults[0].field}"))
    else:
        found += [
            hold(fault.message, "not complete", "incomplete", 0.5, f"field:{fault.field}") for fault in part.faults
        ]
    if not part.faults and part.status == "incomplete" and not part.not_carried:
        found.append(hold(part.headline, "no load entered", "incomplete", 0.4, "field:cases"))
    return found
