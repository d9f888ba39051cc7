"""What the welder must know of a welded arm; common practice, no source."""

from __future__ import annotations

from collections.abc import Sequence

from tirante.core.document.catalogue import Grade


def welding_of(
    grade: Grade, *, inserts: bool, check: str = "both pivot-to-joint lengths", closed: Sequence[str] = ()
) -> list[str]:
    """The order of the work, and what heat spoils.

    Args:
        grade: of the tubes.
        inserts: whether threaded inserts are welded in.
        check: what is measured before it is welded.
        closed: its tubes that are shut at both ends.
    """
    notes = [
        f"Notch and fit all tubes dry, tack in the jig, check {check}, then weld in balance.",
        "Earth on the tube. No current and no heat through a ball joint, bearing or bush that will be used.",
        "Bores of sleeves and cups close as they are welded: ream or bore them after.",
        "Strip plating before welding. No chlorinated cleaner near an arc.",
    ]
    if grade.procedure:
        notes.insert(0, f"{grade.label}: {grade.procedure}.")
    if closed:
        notes.append(
            f"Shut at both ends: {', '.join(closed)}. Drill a vent of 3 mm at the low end of each before it is welded, clear of every bead, and weld it shut last, cold."
        )
    if inserts:
        notes.append("Weld with a stud screwed into each insert and leave it in until cold; chase both after.")
    return notes
