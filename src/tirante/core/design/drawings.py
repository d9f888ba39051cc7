"""The drawings of a design: which view shows what."""

from __future__ import annotations

from typing import Literal

from tirante.core.design.assembly import Assembly, Misfit
from tirante.core.design.evaluate import build
from tirante.core.design.model import Design, Link
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers
from tirante.core.drawing.views.jig_view import jig_sheet
from tirante.core.drawing.views.link_view import link_sheet
from tirante.core.drawing.views.overview import overview_sheet
from tirante.core.drawing.views.tab_view import tab_flat, tab_sheet
from tirante.core.members.link_stack import LinkStack


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
