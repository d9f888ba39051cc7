"""A complete link: assembly, stack, checks and jig; or what stands in the way."""

from __future__ import annotations

from dataclasses import dataclass

from tirante.core.checks.result import CheckResult
from tirante.core.document.parts.link import Link
from tirante.core.errors import InputError, NotApplicable
from tirante.core.loads.case_seen import CaseSeen, worst_axial
from tirante.core.members.link_stack import LinkStack
from tirante.core.parts.around import Around
from tirante.core.parts.link.assembly import (
    Assembly,
    EngagementRules,
    Everyday,
    ThreadedEnd,
    assemble,
    engagement_rules,
    stack_of,
)
from tirante.core.parts.link.checks import link_checks
from tirante.core.parts.link.jig import LinkJig, link_jig
from tirante.core.parts.link.life import everyday_of
from tirante.core.parts.part import Misfit


@dataclass(frozen=True, slots=True, kw_only=True)
class Built:
    """A complete link with its core objects, for drawings and documents."""

    assembly: Assembly
    stack: LinkStack
    rules: tuple[EngagementRules | None, EngagementRules | None]
    checks: tuple[CheckResult, ...]
    jig: LinkJig
    paper: float = 0.0  # thickness of what its wrap is printed on [mm]


def build(link: Link, around: Around, cases: tuple[CaseSeen, ...]) -> Built | list[Misfit]:
    """Assembly, stack, checks and jig of one link; or what stands in the way.

    Args:
        link: as it is saved.
        around: the job.
        cases: what it sees.
    """
    lost = link.lost(around.ends)
    if lost:
        return [Misfit(field="between", message=lost)]
    everyday = everyday_of(link, around)
    assembly = assemble(link, around.catalogue, cases, everyday if isinstance(everyday, Everyday) else None)
    if isinstance(assembly, list):
        return assembly
    settings = around.settings
    try:
        stack = stack_of(assembly, settings)
        checks = link_checks(assembly, stack, settings)
    except (InputError, NotApplicable) as error:
        return [Misfit(field=field, message=error.message) for field in error.fields or [""]]
    axial = worst_axial(cases)
    one, two = (
        engagement_rules(end, axial, settings) if isinstance(end, ThreadedEnd) else None for end in assembly.ends
    )
    return Built(
        assembly=assembly,
        stack=stack,
        rules=(one, two),
        checks=tuple(checks),
        jig=link_jig(assembly, stack, settings),
        paper=settings.wrap_paper_mm,
    )
