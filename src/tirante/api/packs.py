"""What is printed and cut: the pack of a draft or revision."""

from __future__ import annotations

import io
import re
import zipfile

from flask import Blueprint, Response, request

from tirante import ENGINE_VERSION
from tirante.api.context import now, services, worked
from tirante.api.jobs import find_revision, stamp_of
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.core.document.design import Design
from tirante.documents.pack import cut_list_csv, file_name, make_pack
from tirante.documents.pdf import Stamp
from tirante.documents.sheets import pack_pdf
from tirante.storage import drafts, issued, revisions

blueprint = Blueprint("packs", __name__)


def _asked(job_id: str) -> tuple[Design, Stamp, bytes | None]:
    """The design and stamp asked for: a revision by number, or the draft, which is sealed first; an issued one with its pack as issued."""
    asked = request.args.get("revision")
    time = now()
    kept: issued.Issued | None = None
    if asked is not None:
        # never a draft in the place of the revision that was meant
        if not re.fullmatch(r"[0-9]{1,9}", asked):
            raise Refused(422, "not_a_revision", "A revision is a number, as the history shows it.", "revision")
        row, design, _ = find_revision(job_id, int(asked))
        with services().database.transaction() as connection:
            kept = issued.get(connection, job_id, row.number)
    else:
        with services().database.transaction() as connection:
            draft = drafts.get_draft(connection, job_id, lock=True)
            number = revisions.seal(connection, draft, time)
            found = revisions.get_revision(connection, job_id, number)
            kept = issued.get(connection, job_id, number)
        assert found is not None
        row, design = found
    # issued before anything was kept: what is printed now may differ from what was built from, and says so
    anew = row.kind == "issued" and kept is None
    stamp = stamp_of(row, design, f", worked out anew, engine {ENGINE_VERSION}" if anew else "")
    return design, stamp, kept.pack if kept else None


def _from_pack(pack: bytes, ending: str) -> bytes:
    with zipfile.ZipFile(io.BytesIO(pack)) as archive:
        return archive.read(next(name for name in archive.namelist() if name.endswith(ending)))


def _attached(body: bytes | str, media: str, name: str) -> Response:
    response = Response(body, mimetype=media)
    response.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


@operation(blueprint, "GET", "/api/jobs/<job_id>/pack.zip", media="application/zip", query={"revision": "integer"})
def get_pack(job_id: str) -> Response:
    """Everything: PDF, DXF, SVG, CSV and the design."""
    design, stamp, body = _asked(job_id)
    if body is None:
        with services().gate.enter():
            body = make_pack(worked(design), stamp)
    return _attached(body, "application/zip", f"{file_name(design.name)}-{file_name(stamp.revision)}.zip")


@operation(blueprint, "GET", "/api/jobs/<job_id>/pack.pdf", media="application/pdf", query={"revision": "integer"})
def get_pdf(job_id: str) -> Response:
    """The sheets."""
    design, stamp, pack = _asked(job_id)
    if pack is not None:
        body = _from_pack(pack, ".pdf")
    else:
        with services().gate.enter():
            body = pack_pdf(worked(design), stamp)
    return _attached(body, "application/pdf", f"{file_name(design.name)}-{file_name(stamp.revision)}.pdf")


@operation(blueprint, "GET", "/api/jobs/<job_id>/cut-list.csv", media="text/csv", query={"revision": "integer"})
def get_cut_list(job_id: str) -> Response:
    """The cut list."""
    design, stamp, pack = _asked(job_id)
    return _attached(
        _from_pack(pack, "cut-list.csv") if pack is not None else cut_list_csv(worked(design)),
        "text/csv",
        f"{file_name(design.name)}-{file_name(stamp.revision)}-cut-list.csv",
    )
