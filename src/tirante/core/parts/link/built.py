"""A complete link: assembly, stack, checks, outline and jig; or what stands in the way."""

from __future__ import annotations

from pydantic import ConfigDict

from tirante.core.checks.result import CheckResult
from tirante.core.checks.shown import Out
from tirante.core.document.design import Design, loose
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.link import Link
from tirante.core.errors import InputError, NotApplicable
from tirante.core.members.link_stack import LinkStack
from tirante.core.parts.bracket.families.tab_outline import TabOutline, tab_outline
from tirante.core.parts.link.assembly import (
    Assembly,
    EngagementRules,
    Misfit,
    ThreadedEnd,
    assemble,
    engagement_rules,
    stack_of,
    worst_axial,
)
from tirante.core.parts.link.checks import link_checks
from tirante.core.parts.link.jig import LinkJig, link_jig


class Built(Out):
    """A complete link with its core objects, for drawings and documents."""

    model_config = ConfigDict(frozen=True, arbitrary_types_allowed=True)
    assembly: Assembly
    stack: LinkStack
    rules: tuple[EngagementRules | None, EngagementRules | None]
    checks: list[CheckResult]
    outline: TabOutline | None
    jig: LinkJig


def outline_of(tab: TabPair) -> TabOutline:
    """The tab's contour.

    Raises:
        InputError, NotApplicable: with fields of the link ("tab.base_width").
    """
    saddle = tab.base if tab.base.kind == "saddle" else None
    try:
        return tab_outline(
            tab.head_radius.mm, tab.edge.mm, tab.base_width.mm, tab.height.mm, tab.hole.mm, tab.plate.mm,
            saddle.tube_od.mm if saddle else None, saddle.angle_deg if saddle else 90.0,
        )  # fmt: skip
    except (InputError, NotApplicable) as error:
        error.fields = tuple(f"tab.{field}" for field in error.fields)
        raise


def build(link: Link, design: Design) -> Built | list[Misfit]:
    """Assembly, stack, checks, outline and jig of one link; or what stands in the way."""
    if link.boxed:
        return [Misfit(field="boxed", message="A boxed link is of plates: it has no tube, no thread and no rail jig.")]
    if loose(link, design):
        lost = "It was a link of a suspension end that is not there any more. Give it its pivots or its length."
        return [Misfit(field="between", message=lost)]
    assembly = assemble(link, design.catalogue)
    if isinstance(assembly, list):
        return assembly
    settings = design.settings
    try:
        stack = stack_of(assembly, settings)
        outline = outline_of(link.tab) if link.tab else None
        checks = link_checks(assembly, stack, settings)
    except (InputError, NotApplicable) as error:
        fields = [f if "." in f or f in _LINK_FIELDS else f"tab.{_TAB_FIELDS.get(f, f)}" for f in error.fields]
        return [Misfit(field=field, message=error.message) for field in fields or [""]]
    axial = worst_axial(link.cases)
    rules = tuple(
        engagement_rules(end, axial, settings) if isinstance(end, ThreadedEnd) else None for end in assembly.ends
    )
    return Built(
        assembly=assembly, stack=stack, rules=rules, checks=checks, outline=outline,  # type: ignore[arg-type]
        jig=link_jig(assembly, stack, settings),
    )  # fmt: skip


_LINK_FIELDS = set(Link.model_fields)


_TAB_FIELDS = {"hole_mm": "hole", "pin_mm": "bolt", "edge_mm": "edge", "thickness_mm": "plate", "holes": "hole"}
