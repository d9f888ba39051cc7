"""One pack of a job: PDF, DXF and SVG per tab, cut list CSV, the design as JSON, in one zip. Same input, same bytes."""

from __future__ import annotations

import csv
import io
import re
import zipfile

from tirante.core.document.design import Design, prune_catalogue
from tirante.core.document.upgrades import dump_design
from tirante.core.job.evaluate import evaluate
from tirante.core.job.loads import bare, with_loads
from tirante.core.parts.bracket.families.tab_view import tab_flat
from tirante.core.parts.link.built import build
from tirante.core.parts.link.view import link_sheet
from tirante.core.parts.numbers import numbers_of
from tirante.documents.cards import pack_pdf
from tirante.documents.dxf import to_dxf
from tirante.documents.pdf import Stamp
from tirante.documents.svg import to_svg


def file_name(text: str) -> str:
    """A name safe on every file system."""
    return re.sub(r"[^A-Za-z0-9]+", "-", text).strip("-").lower()[:60] or "part"


def cut_list_csv(design: Design) -> str:
    """The cut list, a row a piece or item; lengths in mm and inches."""
    found = evaluate(with_loads(design)).cut_list
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["kind", "what", "hand", "count", "length_mm", "length_in", "part", "side"])
    for piece in found.pieces:
        length = piece.length_mm
        writer.writerow(["saw", _safe(f"{piece.tube}, {piece.grade}"), "", piece.count, f"{length:.2f}",
                         f"{length / 25.4:.3f}", _safe(piece.part), piece.side])  # fmt: skip
    for item in found.items:
        writer.writerow([item.kind, _safe(item.what), item.hand, item.count, "", "", "", ""])
    return out.getvalue()


def _safe(text: str) -> str:
    """A cell that no spreadsheet takes for a formula."""
    return f"'{text}" if text[:1] in "=+-@\t\r" else text


def make_pack(design: Design, stamp: Stamp) -> bytes:
    """The zip of a job."""
    saved = bare(prune_catalogue(design))
    design = with_loads(saved)
    files: dict[str, str | bytes] = {
        f"{file_name(design.name)}.pdf": pack_pdf(design, stamp),
        "cut-list.csv": cut_list_csv(design),
        "design.json": dump_design(saved),
    }
    for number, link in enumerate(design.links, 1):
        built = build(link, design)
        if isinstance(built, list):
            continue
        name = f"{number:02d}-{file_name(link.name)}"
        files[f"{name}-link.svg"] = to_svg(
            link_sheet(built.assembly, built.stack, built.rules, 1, numbers_of(design.settings))
        )
        if link.tab and built.outline:
            flat = tab_flat(built.outline, link.tab)
            files[f"{name}-tab.dxf"] = to_dxf(flat)
            files[f"{name}-tab.svg"] = to_svg(flat)
    stream = io.BytesIO()
    with zipfile.ZipFile(stream, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in sorted(files.items()):
            entry = zipfile.ZipInfo(name, date_time=(1980, 1, 1, 0, 0, 0))
            entry.compress_type = zipfile.ZIP_DEFLATED
            archive.writestr(entry, content)
    return stream.getvalue()
