"""Labels of a part, as the simulated label printer prints them: part, revision, hand, code. A strip 62 mm wide, of which many printers take one."""

from __future__ import annotations

from dataclasses import dataclass

from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Sheet
from tirante.core.parts.part import Part
from tirante.documents.code import code_drawing, sheet_address
from tirante.documents.pdf import Stamp

WIDE, HIGH = 62.0, 32.0  # [mm]; taken, as strips of that width are sold
CODE = 27.0  # [mm] across
LETTERS = 26  # of a name that go on one line, at the size that is read at arm's length


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
    sheet.text((x, y), stamp.job, 2.9)
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
        code = code_drawing(sheet_address(stamp.link, part.id, part.metal), CODE)
        at = (WIDE - CODE - 1.0 if left else 1.0, (HIGH - CODE) / 2)
        for item in code.items:
            points = tuple((px + at[0], py + at[1]) for px, py in item.points)  # type: ignore[union-attr]
            sheet.area(points, item.fill, None)  # type: ignore[union-attr]
    return sheet.done()


def _lines(name: str) -> list[str]:
    """A name on two lines at most, broken at a space; what goes on neither is cut, with a mark."""
    found: list[str] = [""]
    for word in name.split():
        if len(found[-1]) + len(word) + 1 > LETTERS // 2 + 3 and found[-1]:
            found.append(word)
        else:
            found[-1] = f"{found[-1]} {word}".strip()
    if len(found) > 2:
        found = [found[0], f"{found[1]} …"]
    return [one if len(one) <= LETTERS else f"{one[: LETTERS - 1]}…" for one in found]
