"""All members of a job to one scale, each with what is sawn for it: what is to be made, at a glance."""

from __future__ import annotations

from collections.abc import Sequence

from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers, Sheet
from tirante.core.parts.part import Part, TubePiece, labels
from tirante.core.parts.registry import kind_of

WIDTH, HEIGHT = 217.0, 160.0
ROW_LOW, ROW_HIGH = 19.0, 36.0
LEFT = 50.0  # lettering in front of the drawings
TALL = 20.0  # mm, of what is not drawn


def overview_sheet(parts: Sequence[Part], numbers: Numbers, *, first: int = 0) -> Drawing:
    """Parts from number `first` on, as many as stand on one sheet, to one scale; incomplete ones as their centre line.

    Every item of a part names it by `part:` and its id.

    Args:
        parts: the members of the job.
        numbers: how lengths are written.
        first: number of the first that is shown.
    """
    shown = parts[first : first + rows_a_sheet(len(parts))]
    step = min(ROW_HIGH, (HEIGHT - 8) / max(1, len(shown)))
    longest = max((span for part in shown if (span := _span(part))), default=1.0)
    tallest = max((_tall(part) for part in shown), default=1.0)
    scale = min((WIDTH - LEFT - 8) / (longest + tallest), (step - 10) / tallest, 0.5)
    sheet = Sheet(name="overview", title="Members of the job", width=WIDTH, height=HEIGHT, scale=scale, numbers=numbers)
    for i, part in enumerate(shown):
        _row(sheet, part, HEIGHT - 6 - step * (i + 0.5), step, scale)
    return sheet.done()


def _row(sheet: Sheet, part: Part, y: float, step: float, scale: float) -> None:
    ref, n = f"part:{part.id}", sheet.numbers
    # a band to pick anywhere on the row
    sheet.box((2, y - step / 2 + 0.6), (WIDTH - 2, y + step / 2 - 0.6), "sheet", None, ref=ref)
    sheet.text((6, y + 2.6), _short(part.name, 22), 3.7, bold=True, ref=ref)
    makes = {"pair": "pair, make 2", "left": "left", "right": "right", "centre": "centre"}[part.side]
    sheet.text((6, y - 1.6), makes, 2.8, tone="muted", ref=ref)
    span, kind = _span(part), kind_of(part.saved)
    wide = scale * (span or 0.0)
    left = LEFT + (WIDTH - LEFT - 6 - wide) / 2
    if not part.complete or span is None:
        if span:
            sheet.line((left, y), (left + wide, y), "centre", "muted", ref)
            for x in (left, left + wide):
                sheet.circle((x, y), 1.2, "thin", "sheet", "muted", ref)
            sheet.text((left + wide / 2, y - 4.4), n.main(span), 3.2, "middle", mono=True, ref=ref)
        if not part.complete:
            sheet.text(
                (left + wide / 2, y + 2),
                "not sized yet" if span else part.faults[0].message,
                2.9,
                "middle",
                "amber",
                ref=ref,
            )
    elif part.complete:
        kind.strip(part, sheet, (left, y), scale, ref)
    sawn = [piece for piece in part.pieces if isinstance(piece, TubePiece)]
    if part.complete and sawn:
        lengths = ", ".join(n.main(piece.length) for piece in sawn)
        sheet.text((6, y - 5.8), f"saw {lengths}", 3.3, tone="blue", mono=True, bold=True, ref=ref)
    if part.complete:
        low = y - scale * _tall(part) / 2 - 3.6
        told = kind.strip_told(part) or ", ".join(labels(part))
        sheet.text(
            (left + wide / 2 if span else LEFT, low if span else y - 1.6),
            told,
            2.6,
            "middle" if span else "start",
            "muted",
            ref=ref,
        )


def rows_a_sheet(count: int) -> int:
    """Parts that stand on one sheet."""
    return min(count, int((HEIGHT - 8) / ROW_LOW)) if count else 0


def _span(part: Part) -> float | None:
    return kind_of(part.saved).span(part)


def _tall(part: Part) -> float:
    return kind_of(part.saved).tall(part) if part.complete else TALL


def _short(text: str, most: int) -> str:
    return text if len(text) <= most else f"{text[: most - 1]}…"
