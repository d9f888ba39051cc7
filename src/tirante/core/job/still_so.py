"""Whether a printed sheet of a part may still be worked to: what it was printed of, what is issued since, what the job as it stands says of the part."""

from __future__ import annotations

from dataclasses import dataclass

from tirante.core.job.changes import PartChanged, changes
from tirante.core.job.worked import Worked


@dataclass(frozen=True, slots=True, kw_only=True)
class Printed:
    """A sheet as it was printed."""

    part_id: str
    number: int  # of the revision
    issued: bool
    metal: str  # fingerprint that its code holds; empty: it holds none


@dataclass(frozen=True, slots=True, kw_only=True)
class StillSo:
    """What is to be said of it."""

    current: bool  # it may be worked to
    lines: tuple[str, ...]  # gravest first
    differs: PartChanged | None  # from what is to be built from, else from the draft


def still_so(sheet: Printed, before: Worked, newer: tuple[int, Worked] | None, draft: Worked) -> StillSo | None:
    """What a sheet's code asks; None where its revision has no such part.

    Args:
        sheet: as it was printed.
        before: its revision.
        newer: number and state of the latest revision that is issued, where it is a later one.
        draft: the job as it stands.
    """
    part = before.part(sheet.part_id)
    if part is None:
        return None
    grave: list[str] = []
    said: list[str] = []
    if not sheet.issued:
        grave.append(f"This sheet is of a draft, rev {sheet.number}: nothing is to be cut from it.")
    to_build = _differs(before, newer[1], sheet.part_id) if newer else None
    if newer and to_build is not None:
        other = ", and this part is another in it" if to_build.verdict != "fits" else ""
        grave.append(f"Out of date: rev {newer[0]} is issued since{other}.{_holding(to_build)}")
    elif newer:
        said.append(f"rev {newer[0]} is issued since; this part is the same in it.")
    if sheet.metal and part.metal != sheet.metal:
        grave.append(f"The sheet was printed with other figures than rev {sheet.number} gives now: print it again before it is worked to.")  # fmt: skip
    of_draft = _differs(before, draft, sheet.part_id) if to_build is None else None
    if of_draft is not None:
        told = f"The job was changed since, and this part with it; that is not issued yet.{_holding(of_draft)}"
        (said if of_draft.holds else grave).append(told)
    lines = (*grave, *said) or ("The part is as it was printed, and is judged as it was.",)
    return StillSo(current=not grave, lines=lines, differs=to_build or of_draft)


def _holding(found: PartChanged) -> str:
    """What of a part that differs must not be missed; the rest stands beside it, with its figures."""
    return "" if found.holds else f" {found.says}"


def _differs(before: Worked, after: Worked, part_id: str) -> PartChanged | None:
    return next((one for one in changes(before, after) if one.part_id == part_id), None)
