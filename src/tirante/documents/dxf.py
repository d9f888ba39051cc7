"""Drawing to DXF (R2010, millimetres), exact lines, arcs and circles on layers CUT, BEND, MARK and TEXT.

Same drawing, same bytes: dates and ids that the library would stamp are fixed.
"""

from __future__ import annotations

import io

from tirante.core.drawing.model import Arc, Area, Drawing, Line, Text

LAYERS = {"CUT": 7, "BEND": 5, "MARK": 3, "TEXT": 8}


def _layer(style: str | None) -> str:
    return {"cut": "CUT", "bend": "BEND"}.get(style or "", "MARK")


def to_dxf(drawing: Drawing) -> str:
    """The drawing as DXF text; CUT holds only what is to be cut."""
    import ezdxf
    from ezdxf import units

    ezdxf.options.write_fixed_meta_data_for_testing = True
    document = ezdxf.new("R2010")
    document.units = units.MM
    for name, colour in LAYERS.items():
        document.layers.add(name, color=colour)
    space = document.modelspace()
    for item in drawing.items:
        if isinstance(item, Line):
            space.add_line((item.x1, item.y1), (item.x2, item.y2), dxfattribs={"layer": _layer(item.style)})
        elif isinstance(item, Arc):
            attributes = {"layer": _layer(item.style)}
            if item.full:
                space.add_circle((item.cx, item.cy), item.r, dxfattribs=attributes)
            else:
                space.add_arc((item.cx, item.cy), item.r, item.start_deg, item.end_deg, dxfattribs=attributes)
        elif isinstance(item, Area):
            points = [(x, y) for x, y in item.points]
            space.add_lwpolyline(points, close=True, dxfattribs={"layer": "MARK"})
        elif isinstance(item, Text):
            space.add_text(item.text, height=item.size * 0.7, dxfattribs={"layer": "TEXT"}).set_placement(
                (item.x, item.y)
            )
    stream = io.StringIO()
    document.write(stream)
    return stream.getvalue()
