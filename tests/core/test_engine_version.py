"""The engine's version is raised whenever a figure may change: a revision kept with it says by which figures were worked out."""

from __future__ import annotations

import json
from typing import Any

import pytest

from tests.conftest import ROOT
from tests.jobs import work
from tirante import ENGINE_VERSION
from tirante.core.document.upgrades import load_design
from tirante.core.job.evaluate import evaluate

KEPT = (
    ROOT / "tests/core/engine-figures.json"
)  # made anew, with a new version, by: python -m tests.core.test_engine_version


def figures(name: str) -> dict[str, Any]:
    """Checks and saw lengths of a demo job."""
    found = evaluate(work(load_design((ROOT / f"data/demo/{name}.json").read_bytes())))
    told = {
        f"{part.name}: {check.key}": [check.demand, check.capacity] for part in found.parts for check in part.checks
    }
    return told | {f"saw {piece.part}": [piece.length_mm, float(piece.count)] for piece in found.cut_list.pieces}


@pytest.mark.parametrize("name", ["marram", "tern", "quay", "plover", "dunlin"])
def test_no_figure_changes_while_the_engine_s_version_stays(name: str) -> None:
    kept = json.loads(KEPT.read_text())
    assert kept["engine"] == ENGINE_VERSION, "the version was raised: make tests/core/engine-figures.json anew"
    now = figures(name)
    assert set(now) == set(kept[name]), "checks or pieces came or went: raise ENGINE_VERSION"
    changed = [key for key, was in kept[name].items() if now[key] != pytest.approx(was, rel=1e-6, abs=1e-9)]
    assert not changed, "figures changed: raise ENGINE_VERSION, and say so under Results"


if __name__ == "__main__":
    made = {"engine": ENGINE_VERSION} | {name: figures(name) for name in ("marram", "tern", "quay", "plover", "dunlin")}
    KEPT.write_text(json.dumps(made, ensure_ascii=False, indent=1) + "\n")
