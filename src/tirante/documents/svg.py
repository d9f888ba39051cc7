"""Drawing to SVG, at 1 mm = 1 mm. Same drawing, same bytes."""

from __future__ import annotations

from xml.sax.saxutils import escape, quoteattr

from tirante.core.drawing.model import Arc, Area, Drawing, Line, Text

INK = {"ink": "#20262B", "muted": "#5F666B", "blue": "#1D4F91", "amber": "#A86400", "red": "#A3261B"}
FILLS = {
    "none": "none", "steel": "#ECE8DC", "pale": "#F1EDE3", "thread": "#D9E0EC", "solid": "#20262B", "sheet": "#FDFCF9",
    "blue": "#1D4F91",
}  # fmt: skip
WIDTHS = {
    "visible": 0.35, "thin": 0.18, "hidden": 0.18, "centre": 0.15, "dimension": 0.15, "hatch": 0.1, "cut": 0.2,
    "mark": 0.15, "bend": 0.2,
}  # fmt: skip
DASHES = {"hidden": "1.6 0.8", "bend": "3 1.2", "centre": "4 0.8 0.6 0.8"}


def _stroke(style: str | None, tone: str) -> str:
    if style is None:
        return 'stroke="none"'
    dash = f' stroke-dasharray="{DASHES[style]}"' if style in DASHES else ""
    return f'stroke="{INK[tone]}" stroke-width="{WIDTHS[style]}"{dash}'


def _n(value: float) -> str:
    return f"{value:.4f}".rstrip("0").rstrip(".") or "0"


def to_svg(drawing: Drawing) -> str:
    """The drawing as an SVG document whose millimetres print true."""
    h = drawing.height
    out = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{_n(drawing.width)}mm" height="{_n(h)}mm" '
        f'viewBox="0 0 {_n(drawing.width)} {_n(h)}" font-family="Atkinson Hyperlegible Next, sans-serif" fill="none">',
        f"<title>{escape(drawing.title)}</title>",
    ]
    for item in drawing.items:
        ref = f" data-ref={quoteattr(item.ref)}" if item.ref else ""
        if isinstance(item, Line):
            out.append(
                f'<line x1="{_n(item.x1)}" y1="{_n(h - item.y1)}" x2="{_n(item.x2)}" y2="{_n(h - item.y2)}" '
                f"{_stroke(item.style, item.tone)}{ref}/>"
            )
        elif isinstance(item, Arc):
            out.append(_arc(item, h, ref))
        elif isinstance(item, Area):
            points = " ".join(f"{_n(x)},{_n(h - y)}" for x, y in item.points)
            fill = INK[item.tone] if item.fill == "solid" else FILLS[item.fill]
            out.append(f'<polygon points="{points}" fill="{fill}" {_stroke(item.style, item.tone)}{ref}/>')
        elif isinstance(item, Text):
            family = ' font-family="Atkinson Hyperlegible Mono, monospace"' if item.mono else ""
            weight = ' font-weight="700"' if item.bold else ""
            turn = f' transform="rotate({_n(-item.angle_deg)} {_n(item.x)} {_n(h - item.y)})"' if item.angle_deg else ""
            out.append(
                f'<text x="{_n(item.x)}" y="{_n(h - item.y)}" font-size="{_n(item.size)}" '
                f'text-anchor="{item.anchor}" fill="{INK[item.tone]}"{family}{weight}{turn}{ref}>{escape(item.text)}</text>'
            )
    out.append("</svg>")
    return "\n".join(out) + "\n"


def _arc(item: Arc, h: float, ref: str) -> str:
    stroke = _stroke(item.style, item.tone)
    if item.full:
        return f'<circle cx="{_n(item.cx)}" cy="{_n(h - item.cy)}" r="{_n(item.r)}" fill="{FILLS[item.fill]}" {stroke}{ref}/>'
    (x1, y1), (x2, y2) = item.point(item.start_deg), item.point(item.end_deg)
    large = 1 if (item.end_deg - item.start_deg) % 360 > 180 else 0
    return (
        f'<path d="M {_n(x1)} {_n(h - y1)} A {_n(item.r)} {_n(item.r)} 0 {large} 0 {_n(x2)} {_n(h - y2)}" '
        f"{stroke}{ref}/>"
    )
