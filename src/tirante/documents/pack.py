"""One pack of a job: PDF, DXF and SVG of every flat piece, SVG of every part, cut list CSV, the design as JSON, in one zip.

Same input, same bytes. The job is worked out once for all of it.
"""

from __future__ import annotations

import csv
import io
import re
import zipfile
from collections.abc import Callable

from tirante.core.cells import safe_cell
from tirante.core.cutting.cut_list import cut_list
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
from tirante.documents.sheets import pack_pdf
from tirante.documents.svg import to_svg


def file_name(text: str) -> str:
    """A name safe on every file system."""
    return re.sub(r"[^A-Za-z0-9]+", "-", text).strip("-").lower()[:60] or "part"


def drawing_name(number: int, part: Part, view: View) -> str:
    """Of the file of a view in the pack, without its ending; `number` is the part's, from 1."""
    return f"{number:02d}-{file_name(part.name)}-{view.name}"


def cut_list_csv(job: Worked) -> str:
    """The cut list, a row a piece or item, lengths in mm and inches; what is left out stands at its end, by name."""
    found = cut_list(job.parts)
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["kind", "what", "hand", "count", "length_mm", "length_in", "part", "side", "remark"])
    for piece in found.pieces:
        length, remark = piece.length_mm, piece.told
        if piece.off_mm is not None:
            remark += f"; {piece.off_mm:.2f} mm ({piece.off_mm / INCH:.3f} in) come off"
        writer.writerow(["saw", safe_cell(f"{piece.tube}, {piece.grade}"), "", piece.count, f"{length:.2f}",
                         f"{length / INCH:.3f}", safe_cell(piece.part), piece.side, remark])  # fmt: skip
    for item in found.items:
        writer.writerow([item.kind, safe_cell(item.what), item.hand, item.count, "", "", "", "", ""])
    for one in found.left_out:
        writer.writerow(["left out", "", "", "", "", "", safe_cell(one.name), "", safe_cell(one.why)])
    for missing in not_made_out(job):
        writer.writerow(
            ["not made", safe_cell(missing.name), "", "", "", "", safe_cell(missing.end), "", safe_cell(missing.why)]
        )
    return out.getvalue()


class Stopped(Exception):  # noqa: N818
    """Whoever asked for it wants it no more."""


def make_pack(job: Worked, stamp: Stamp, step: Callable[[int, int], bool] | None = None) -> bytes:
    """The zip of a job.

    Args:
        job: worked out.
        stamp: that its sheets carry.
        step: told how many parts of how many are done, the sheets counting as one; it answers whether to go on.

    Raises:
        Stopped: it answered no.
    """
    numbers = numbers_of(job.settings)

    def tell(done: int) -> None:
        if step is not None and not step(done, len(job.parts) + 1):
            raise Stopped

    tell(0)
    files: dict[str, str | bytes] = {
        f"{file_name(job.design.name)}.pdf": pack_pdf(job, stamp),
        "cut-list.csv": cut_list_csv(job),
        "design.json": dump_design(pruned(job.design)),
    }
    for number, part in enumerate(job.parts, 1):
        tell(number)
        if not part.complete:
            continue
        for view in part.views:
            name = drawing_name(number, part, view)
            drawing = kind_of(part.saved).draw(part, ViewAsked(name=view.name), numbers)
            files[f"{name}.svg"] = to_svg(drawing)
            if view.cut:
                files[f"{name}.dxf"] = to_dxf(drawing)
    stream = io.BytesIO()
    with zipfile.ZipFile(stream, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in sorted(files.items()):
            entry = zipfile.ZipInfo(name, date_time=(1980, 1, 1, 0, 0, 0))
            entry.compress_type = zipfile.ZIP_DEFLATED
            archive.writestr(entry, content)
    return stream.getvalue()
