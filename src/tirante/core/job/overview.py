"""All links of a job to one scale, each with its saw length: what is to be made, at a glance."""

from __future__ import annotations

from collections.abc import Sequence

from tirante.core.document.parts.link import Link
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers, Sheet
from tirante.core.members.link_stack import LinkStack
from tirante.core.parts.link.assembly import Assembly, ThreadedEnd
from tirante.core.parts.link.view import draw_link

WIDTH, HEIGHT = 217.0, 160.0


ROW_LOW, ROW_HIGH = 19.0, 36.0


LEFT = 50.0  # lettering in front of the links


def overview_sheet(
    rows: Sequence[tuple[Link, tuple[Assembly, LinkStack] | None]], numbers: Numbers, *, first: int = 0
) -> Drawing:
    """Links from number `first` on, as many as stand on one sheet, to one scale; incomplete ones as their centre line.

    Every item of a link names it by `link:` and its id.
    """
    shown = rows[first : first + rows_a_sheet(len(rows))]
    step = min(ROW_HIGH, (HEIGHT - 8) / max(1, len(shown)))
    longest = max((link.between.mm for link, _ in shown), default=1.0)
    tallest = max((_tall(built) for _, built in shown), default=1.0)
    scale = min((WIDTH - LEFT - 8) / (longest + tallest), (step - 10) / tallest, 0.5)
    sheet = Sheet(name="overview", title="Links of the job", width=WIDTH, height=HEIGHT, scale=scale, numbers=numbers)
    for i, (link, built) in enumerate(shown):
        ref = f"link:{link.id}"
        y = HEIGHT - 6 - step * (i + 0.5)
        # a band to pick anywhere on the row
        sheet.box((2, y - step / 2 + 0.6), (WIDTH - 2, y + step / 2 - 0.6), "sheet", None, ref=ref)
        sheet.text((6, y + 2.6), _short(link.name, 22), 3.7, bold=True, ref=ref)
        makes = {"pair": "pair, make 2", "left": "left", "right": "right", "centre": "centre"}[link.side]
        sheet.text((6, y - 1.6), makes, 2.8, tone="muted", ref=ref)
        left = LEFT + (WIDTH - LEFT - 6 - scale * link.between.mm) / 2
        if built is None:
            right = left + scale * link.between.mm
            sheet.line((left, y), (right, y), "centre", "muted", ref)
            for x in (left, right):
                sheet.circle((x, y), 1.2, "thin", "sheet", "muted", ref)
            sheet.text(((left + right) / 2, y + 2), "not sized yet", 2.9, "middle", "amber", ref=ref)
            sheet.text(((left + right) / 2, y - 4.4), numbers.main(link.between.mm), 3.2, "middle", mono=True, ref=ref)
            continue
        assembly, stack = built
        draw_link(sheet, left, y, scale, assembly, stack, ref=ref)
        low = y - scale * _tall(built) / 2 - 3.6
        sheet.text((6, y - 5.8), f"saw {numbers.main(stack.tube_cut)}", 3.3, tone="blue", mono=True, bold=True, ref=ref)
        sheet.text((left + scale * link.between.mm / 2, low), _parts(assembly), 2.6, "middle", "muted", ref=ref)
    return sheet.done()


def rows_a_sheet(count: int) -> int:
    """Links that stand on one sheet."""
    return min(count, int((HEIGHT - 8) / ROW_LOW)) if count else 0


def _tall(built: tuple[Assembly, LinkStack] | None) -> float:
    if built is None:
        return 20.0
    assembly = built[0]
    return max(
        [assembly.tube.od_mm, *(end.joint.head_diameter_mm for end in assembly.ends if isinstance(end, ThreadedEnd))]
    )


def _parts(assembly: Assembly) -> str:
    joint = next((f", {end.joint.designation}" for end in assembly.threaded), "")
    bent = "; bent, drawn straight" if assembly.link.bent else ""
    return f"{assembly.tube.label}, {assembly.grade.label.split(',')[0]}{joint}{bent}"


def _short(text: str, most: int) -> str:
    return text if len(text) <= most else f"{text[: most - 1]}…"
