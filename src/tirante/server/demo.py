"""What ships with it: catalogue seeds and demo jobs, loaded once, never over a person's edits."""

from __future__ import annotations

import hashlib
import json
import uuid
from datetime import datetime
from pathlib import Path
from typing import TypeVar

from tirante.core.document.catalogue import KINDS
from tirante.core.document.upgrades import load_design
from tirante.storage import catalogue, entries, jobs, revisions
from tirante.storage.pool import Database

NAMESPACE = uuid.UUID("6f0d7a52-1f52-5f0e-9a51-0f1f6f1a7a11")


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
            job_id = str(uuid.uuid5(NAMESPACE, path.stem))
            draft = jobs.create_job(connection, job_id, load_design(text), now, demo=path.stem)
            revisions.seal(connection, draft, now, kind="named", name="as shipped")
            entries.SURVEY.add(connection, job_id, _made(folder / "survey" / path.name, entries.SURVEY), now)
            entries.BUILT.add(connection, job_id, _made(folder / "built" / path.name, entries.BUILT), now)
            catalogue.note_seed(connection, name, hashlib.sha256(text).hexdigest(), now)
            loaded.append(path.stem)
    return loaded


E = TypeVar("E", bound=entries.AnyEntry)


def _made(path: Path, table: entries.Entries[E]) -> list[entries.Kept[E]]:
    """Entries that ship with a demo job, each with when it was made."""
    if not path.is_file():
        return []
    return [
        entries.Kept(entry=table.read(json.dumps(one["entry"])), made_at=datetime.fromisoformat(one["made_at"]))
        for one in json.loads(path.read_text())["entries"]
    ]
