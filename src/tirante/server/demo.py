"""What ships with it: catalogue seeds and demo jobs, loaded once, never over a person's edits."""

from __future__ import annotations

import hashlib
import uuid
from datetime import datetime
from pathlib import Path

from pydantic import BaseModel, ConfigDict

from tirante.core.document.catalogue import KINDS
from tirante.core.document.survey import Entry
from tirante.core.document.upgrades import load_design
from tirante.storage import catalogue, jobs, revisions, surveys
from tirante.storage.pool import Database

_NAMESPACE = uuid.UUID("6f0d7a52-1f52-5f0e-9a51-0f1f6f1a7a11")


def load_seeds(database: Database, folder: Path, now: datetime) -> None:
    """Load the catalogue's files that were not loaded yet."""
    with database.transaction() as connection:
        for kind in KINDS:
            catalogue.seed_once(connection, kind, (folder / f"{kind}.csv").read_text(), now)


def load_demo(database: Database, folder: Path, now: datetime) -> list[str]:
    """Load each demo job once; one that was loaded before is left as people have made it. The names loaded."""
    loaded = []
    for path in sorted(folder.glob("*.json"), reverse=True):
        name = f"demo/{path.stem}"
        with database.transaction() as connection:
            if catalogue.seed_digest(connection, name) is not None:
                continue
            text = path.read_bytes()
            job_id = str(uuid.uuid5(_NAMESPACE, path.stem))
            draft = jobs.create_job(connection, job_id, load_design(text), now, demo=path.stem)
            revisions.seal(connection, draft, now, kind="named", name="as shipped")
            surveys.add(connection, job_id, _readings(folder / "survey" / path.name), now)
            catalogue.note_seed(connection, name, hashlib.sha256(text).hexdigest(), now)
            loaded.append(path.stem)
    return loaded


class _Made(BaseModel):
    model_config = ConfigDict(extra="forbid")
    made_at: datetime
    entry: Entry


class _Survey(BaseModel):
    """Readings that ship with a demo job."""

    model_config = ConfigDict(extra="forbid")
    entries: list[_Made]


def _readings(path: Path) -> list[surveys.Kept]:
    if not path.is_file():
        return []
    return [
        surveys.Kept(entry=one.entry, made_at=one.made_at)
        for one in _Survey.model_validate_json(path.read_bytes()).entries
    ]
