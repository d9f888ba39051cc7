"""The measures of an end along its travel as CSV: a column a measure, a row a position, blank where it is not reached."""

from __future__ import annotations

import csv
import io
from math import isfinite
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from tirante.core.suspension.cycle import Cycle


def cycle_csv(found: Cycle) -> str:
    """Write a `Cycle`; numbers to six decimals."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    right = [name for name in found.right if name in found.columns]
    writer.writerow(
        ["travel_mm", "roll_deg", found.steer_name, "status", *found.columns, *(f"right_{name}" for name in right)]
    )
    for i, status in enumerate(found.status):
        values = [found.columns[name][i] for name in found.columns] + [found.right[name][i] for name in right]
        place = [f"{column[i]:.6f}" for column in (found.travel_mm, found.roll_deg, found.steer)]
        writer.writerow([*place, status, *(f"{v:.6f}" if isfinite(v) else "" for v in values)])
    return out.getvalue()
