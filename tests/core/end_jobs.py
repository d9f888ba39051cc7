"""A job round one of the shipped example ends: Marram's car and load set, the example in the place of its front or rear end."""

from __future__ import annotations

import uuid
from typing import Any

from tests.core.test_loads import demo
from tests.core.test_statics import sprung
from tests.jobs import template_of, work
from tirante.core.document.design import Design
from tirante.core.document.end import End
from tirante.core.document.parts.saved import SavedPart
from tirante.core.job.make_parts import parts_of_end
from tirante.core.suspension.moving import Moving, moving

SPACE = uuid.UUID("7d2a9b60-93a1-5d2e-9a77-54c0b0d1e001")


def stood(name: str) -> End:
    """The example on springs of a usual rate."""
    end = sprung(name)
    if end.damper and end.damper.rate_n_per_mm is None:
        end = end.model_copy(update={"damper": end.damper.model_copy(update={"rate_n_per_mm": 60.0})})
    return end


def job_of(name: str, *parts: SavedPart, **more: Any) -> Design:
    design = demo("marram")
    end = stood(name)
    kept = [one for one in design.ends if one.end.end != end.end]
    own = design.ends[0].model_copy(update={"id": str(uuid.uuid5(SPACE, name)), "name": name, "end": end})
    return design.model_copy(
        update={"ends": (own, *kept), "parts": parts, "joints": (), "rack": (), **more}
        if hasattr(design, "rack")
        else {"ends": (own, *kept), "parts": parts, "joints": (), **more}
    )


def all_parts(design: Design) -> list[SavedPart]:
    """Every moving member of its first end made a part."""
    ids = [str(uuid.uuid5(SPACE, f"{design.ends[0].name} {i}")) for i in range(40)]
    return parts_of_end(work(design), design.ends[0].id, ids)


def members_of(design: Design) -> tuple[Moving, ...]:
    end = design.ends[0].end
    return moving(template_of(end), end)
