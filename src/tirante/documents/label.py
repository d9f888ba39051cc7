"""Labels of a part, as the simulated label printer prints them: part, revision, hand, code. A strip 62 mm wide, of which many printers take one."""

from __future__ import annotations

import textwrap
from dataclasses import dataclass

from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Sheet
from tirante.core.parts.part import Part
from tirante.documents.code import draw_code, sheet_address
from tirante.documents.pdf import Stamp

WIDE, HIGH = 62.0, 32.0  # [mm]; taken, as strips of that width are sold
CODE = 27.0  # [mm] across


@dataclass(frozen=True, slots=True, kw_only=True)
class Label:
    """A label: of a part, of a hand of it."""

    part_id: str
    name: str
    hand: str  # LEFT, RIGHT, or empty where both are one
    drawing: Drawing


def labels_of(part: Part, stamp: Stamp) -> list[Label]:
    """One for every one of a part that is made: a pair has two.

    Args:
        part: worked out.
        stamp: of the revision.
    """
    if part.side == "pair":
        hands = ["LEFT", "RIGHT"] if not part.own_mirror else ["", ""]
    else:
        hands = [{"left": "LEFT", "right": "RIGHT"}.get(part.side, "")]
    return [Label(part_id=part.id, name=part.name, hand=hand, drawing=_label(part, stamp, hand)) for hand in hands]


def _label(part: Part, stamp: Stamp, hand: str) -> Drawing:
    """The hand stands at its own side, in its own outline: LEFT in a box at the left, RIGHT in a round-ended one at the right."""
    sheet = Sheet(name="label", title=f"{part.name} {hand}".strip(), width=WIDE, height=HIGH)
    sheet.box((0.4, 0.4), (WIDE - 0.4, HIGH - 0.4), "none", "thin")
    left = hand != "RIGHT"  # where the words stand
    x = 3.0 if left else CODE + 2.5
    lines = _lines(part.name)
    y = HIGH - 6.5
    for line in lines:
        sheet.text((x, y), line, 3.2, bold=True)
        y -= 4.2
    sheet.text((x, y), _cut(stamp.job, 2.9), 2.9)
    state = stamp.revision if stamp.issued else f"DRAFT, {stamp.revision}"
    sheet.text((x, y - 4.0), state, 3.0, bold=True, tone="ink" if stamp.issued else "red")
    if hand:
        low, high, wide = 2.6, 8.2, 20.0
        a = x if left else WIDE - 3.0 - wide
        if left:
            sheet.box((a, low), (a + wide, high), "none", "visible")
        else:
            r = (high - low) / 2
            sheet.line((a + r, low), (a + wide - r, low))
            sheet.line((a + r, high), (a + wide - r, high))
            sheet.arc((a + r, low + r), r, 90.0, 270.0)
            sheet.arc((a + wide - r, low + r), r, -90.0, 90.0)
        sheet.text((a + wide / 2, low + 1.5), hand, 4.2, "middle", bold=True)
    if stamp.link:
        at = (WIDE - CODE - 1.0 if left else 1.0, (HIGH - CODE) / 2)
        draw_code(sheet, sheet_address(stamp.link, part.id, part.metal), at, CODE)
    return sheet.done()


def _lines(name: str) -> list[str]:
    """A name on two lines at most, broken at a space; what goes on neither is cut, with a mark."""
    found = textwrap.wrap(name, _letters(3.2), max_lines=2, placeholder=" …")
    return found or [""]


def _letters(size: float) -> int:
    """How many letters go beside the code, bold ones of the usual breadth.

    Args:
        size: of them [mm].
    """
    return int((WIDE - CODE - 4.5) / (0.58 * size))


def _cut(text: str, size: float) -> str:
    most = _letters(size)
    return text if len(text) <= most else f"{text[: most - 1].rstrip()}…"
