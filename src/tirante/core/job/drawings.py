"""The drawings of a design: which view shows what."""

from __future__ import annotations

from math import floor
from typing import Literal

from tirante.core.checks.shown import Out
from tirante.core.document.design import Design
from tirante.core.document.parts.boxed_link import Boxed
from tirante.core.document.parts.link import Link
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers
from tirante.core.job.overview import overview_sheet
from tirante.core.members.link_stack import LinkStack
from tirante.core.parts.boxed_link.view import BoxDrawn, box_sheet
from tirante.core.parts.bracket.families.tab_view import tab_flat, tab_sheet
from tirante.core.parts.link.assembly import Assembly, Misfit
from tirante.core.parts.link.built import build
from tirante.core.parts.link.jig_view import jig_sheet
from tirante.core.parts.link.view import link_sheet


class Adjuster(Out):
    """What turning the adjuster does, in words, and the steps it goes in."""

    step_turns: float
    text: str
    past: bool


def adjuster(link: Link, design: Design, turns: float, numbers: Numbers) -> Adjuster | None:
    """The link turned out (+) or in (−) by so many turns of itself (a pair) or of one end; None: it does not adjust."""
    built = build(link, design)
    if isinstance(built, list) or built.stack.step is None:
        return None
    stack, step = built.stack, built.stack.step
    past = stack.runs_out(turns)
    turned = f"{'+' if turns > 0 else '−'}{abs(turns):g} turns" if turns else "as built"
    if past:
        says = {
            "out": "past the end: too little thread is left in the insert",
            "in": "past the end: it bottoms or the nut is on the eye",
        }[past]
    else:
        left = [floor(limit * 100 + 1e-9) / 100 for limit in (stack.turns_in, stack.turns_out)]
        says = (
            f"{numbers.written(stack.centre_to_centre + turns * step)} pivot to pivot · "
            f"runs out after {left[0]:g} in, {left[1]:g} out"
        )
    return Adjuster(
        step_turns=0.25 if stack.per_turn is not None else 0.5, text=f"{turned} · {says}", past=past is not None
    )


def _box(link: Link, boxed: Boxed) -> BoxDrawn:
    return BoxDrawn(
        title=link.name, length=link.between.mm, height=boxed.height.mm, width=boxed.width.mm, side=boxed.side_mm, top=boxed.top_mm,
        bottom=boxed.bottom_mm, pad_at=boxed.pad_at.mm, pad_offset=boxed.pad_offset_mm, leg=boxed.leg_mm, plate=boxed.plate_name,
    )  # fmt: skip


def draw_overview(design: Design, numbers: Numbers, first: int = 0) -> Drawing:
    """All links to one scale, from number `first` on as many as stand on one sheet."""
    rows: list[tuple[Link, tuple[Assembly, LinkStack] | None]] = []
    for link in design.links:
        built = build(link, design)
        rows.append((link, None if isinstance(built, list) else (built.assembly, built.stack)))
    return overview_sheet(rows, numbers, first=first)


def draw(link: Link, design: Design, view: Literal["link", "tab", "jig", "tab-flat"], numbers: Numbers, *, end: int = 1,
         turns: float = 0.0) -> Drawing | list[Misfit]:  # fmt: skip
    """A drawing of a link; or what stands in its way."""
    if link.boxed and view == "link":
        return box_sheet(_box(link, link.boxed), numbers)
    built = build(link, design)
    if isinstance(built, list):
        return built
    if view == "link":
        return link_sheet(built.assembly, built.stack, built.rules, end, numbers, turns)
    if view == "jig":
        return jig_sheet(built.assembly, built.stack, built.jig, numbers)
    if link.tab is None or built.outline is None or not built.assembly.tabbed:
        return [Misfit(field="tab", message="This link has no tab pair yet. Add one to see it.")]
    if view == "tab":
        return tab_sheet(built.assembly, link.tab, built.outline, numbers)
    return tab_flat(built.outline, link.tab)
