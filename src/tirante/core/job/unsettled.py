"""What is not settled of a job, line by line: what a person answers for who issues it nevertheless."""

from __future__ import annotations

from tirante.core.job.results import Evaluation, PartOut


def unsettled(found: Evaluation) -> list[str]:
    """Ends that are past a limit in their box, checks that fail, cases that were not carried or that refuse a part, parts that are not complete or that nothing loads.

    Args:
        found: the job, worked out.

    Returns:
        A sentence each, in the order of the parts; empty when every part holds in every case.
    """
    lines = [f"{end.name}: {end.says}" for end in found.ends if end.state in ("stop", "incomplete")]
    for part in found.parts:
        lines += [f"{part.name}: {told}" for told in _of(part)]
    return lines


def _of(part: PartOut) -> list[str]:
    if part.faults:
        return [f"not complete. {part.headline}"]
    told = [
        f"{check.name} is over, {check.shown} of 1.00" + (f", in “{check.case}”." if check.case else ".")
        for check in part.checks
        if check.state == "stop"
    ]
    told += [f"not judged in {one}" for one in part.not_carried]
    if not part.tool and not any(check.case and check.utilisation is not None for check in part.checks):
        told.append("no load is entered, so nothing says whether it holds.")
    return told
