"""One pack of a job: PDF, DXF and SVG of every flat piece, SVG of every part, cut list CSV, the design as JSON, in one zip.

Same input, same bytes. The job is worked out once for all of it.
"""

from __future__ import annotations

import csv
import hashlib
import io
import json
import re
import zipfile
from collections.abc import Callable, Mapping

from tirante import ENGINE_VERSION
from tirante.core.cells import safe_cell
from tirante.core.cutting.cut_list import cut_list
from tirante.core.cutting.sheets_view import sheet_cut
from tirante.core.document.cutting import KeptNest
from tirante.core.document.design import pruned
from tirante.core.document.upgrades import dump_design
from tirante.core.job.evaluate import not_made_out
from tirante.core.job.worked import Worked
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.numbers import numbers_of
from tirante.core.parts.part import Part, View
from tirante.core.parts.registry import kind_of
from tirante.core.units import INCH
from tirante.documents.dxf import to_dxf
from tirante.documents.pdf import Stamp
from tirante.documents.saw import cut_order
from tirante.documents.sheets import WHOLE, Chosen, pack_pdf
from tirante.documents.svg import to_svg


def file_name(text: str) -> str:
    """A name safe on every file system."""
    return re.sub(r"[^A-Za-z0-9]+", "-", text).strip("-").lower()[:60] or "part"


def drawing_name(number: int, part: Part, view: View) -> str:
    """Of the file of a view in the pack, without its ending; `number` is the part's, from 1."""
    return f"{number:02d}-{file_name(part.name)}-{view.name}"


def cut_list_csv(job: Worked, chosen: Chosen = WHOLE) -> str:
    """The cut list, a row a piece or item, lengths in mm and inches; what is left out stands at its end, by name.

    Args:
        job: worked out.
        chosen: which parts of it.
    """
    found = cut_list([part for part in job.parts if chosen.has(part.id)], job.settings, job.catalogue)
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(
        [
            "kind",
            "what",
            "hand",
            "count",
            "length_mm",
            "length_in",
            "part",
            "side",
            "ends",
            "turned",
            "kg",
            "heat",
            "remark",
        ]
    )
    for piece in found.pieces:
        length, remark = piece.length_mm, piece.told
        if piece.off_mm is not None:
            remark += f"; {piece.off_mm:.2f} mm ({piece.off_mm / INCH:.3f} in) come off"
        writer.writerow(["saw", safe_cell(f"{piece.tube}, {piece.grade}"), "", piece.count, f"{length:.2f}",
                         f"{length / INCH:.3f}", safe_cell(piece.part), piece.side, safe_cell(piece.at_ends), safe_cell(piece.turned), _kg(piece.mass_kg and piece.mass_kg * piece.count),
                         safe_cell(chosen.heats(piece)), remark])  # fmt: skip
    for item in found.items:
        writer.writerow([item.kind, safe_cell(item.what), item.hand, item.count or "as needed", *[""] * 6, _kg(item.mass_kg), "", ""])  # fmt: skip
    for one in found.left_out:
        writer.writerow(["left out", *[""] * 5, safe_cell(one.name), *[""] * 5, safe_cell(one.why)])
    for missing in not_made_out(job) if chosen.parts is None else ():
        writer.writerow(["not made", safe_cell(missing.name), *[""] * 4, safe_cell(missing.end), *[""] * 5, safe_cell(missing.why)])  # fmt: skip
    return out.getvalue()


def _kg(mass: float | None) -> str:
    """Of all of a row; empty: not known."""
    return "" if mass is None else f"{mass:.3f}"


def manifest(job: Worked, stamp: Stamp, chosen: Chosen, files: Mapping[str, str | bytes]) -> str:
    """What the pack is of and what is in it: revision, parts with the fingerprints of their metal, every file with its size and its SHA-256.

    Args:
        job: worked out.
        stamp: that its sheets carry.
        chosen: what of it is in the pack.
        files: by name, without this one.
    """
    raw = {name: content.encode() if isinstance(content, str) else content for name, content in files.items()}
    told = {
        "job": stamp.job, "revision": stamp.revision, "date": stamp.date, "issued": stamp.issued, "reviewer": stamp.reviewer, "reviewed_on": stamp.reviewed_on, "limits": stamp.limits, "log": stamp.log, "engine": ENGINE_VERSION,
        "whole": chosen.parts is None,
        "parts": [{"id": part.id, "name": part.name, "side": part.side, "metal": part.metal, "complete": part.complete} for part in job.parts if chosen.has(part.id)],
        "layouts": [{"title": one.title, "laid_out_from": one.revision} for one in chosen.layouts],
        "files": [{"name": name, "bytes": len(body), "sha256": hashlib.sha256(body).hexdigest()} for name, body in sorted(raw.items())],
    }  # fmt: skip
    return json.dumps(told, ensure_ascii=False, indent=1) + "\n"


class Stopped(Exception):  # noqa: N818
    """Whoever asked for it wants it no more."""


def make_pack(
    job: Worked, stamp: Stamp, step: Callable[[int, int], bool] | None = None, chosen: Chosen = WHOLE
) -> bytes:
    """The zip of a job, or of what is chosen of it.

    Args:
        job: worked out.
        stamp: that its sheets carry.
        step: told how many parts of how many are done, the sheets counting as one; it answers whether to go on.
        chosen: which parts, and the layouts that go with them.

    Raises:
        Stopped: it answered no.
    """
    numbers = numbers_of(job.settings)

    def tell(done: int) -> None:
        if step is not None and not step(done, len(job.parts) + 1):
            raise Stopped

    tell(0)
    files: dict[str, str | bytes] = {
        f"{file_name(job.design.name)}.pdf": pack_pdf(job, stamp, chosen),
        "cut-list.csv": cut_list_csv(job, chosen),
        "design.json": dump_design(pruned(job.design)),
    }
    for number, part in enumerate(job.parts, 1):
        tell(number)
        if not part.complete or not chosen.has(part.id):
            continue
        for view in part.views:
            name = drawing_name(number, part, view)
            drawing = kind_of(part.saved).draw(part, ViewAsked(name=view.name), numbers)
            files[f"{name}.svg"] = to_svg(drawing)
            if view.cut:
                files[f"{name}.dxf"] = to_dxf(drawing)
    for n, layout in enumerate(chosen.layouts, 1):
        if isinstance(layout, KeptNest):
            for sheet in range(len(layout.sheets)):
                files[f"layout-{n:02d}-{file_name(layout.title)}-sheet-{sheet + 1}.dxf"] = to_dxf(
                    sheet_cut(layout, sheet)
                )
        else:
            files[f"layout-{n:02d}-{file_name(layout.title)}-cut-order.csv"] = cut_order(layout)
    files["manifest.json"] = manifest(job, stamp, chosen, files)
    stream = io.BytesIO()
    with zipfile.ZipFile(stream, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in sorted(files.items()):
            entry = zipfile.ZipInfo(name, date_time=(1980, 1, 1, 0, 0, 0))
            entry.compress_type = zipfile.ZIP_DEFLATED
            archive.writestr(entry, content)
    return stream.getvalue()
