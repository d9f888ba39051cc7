"""`./tirante bench`: ratios measured in one run on this machine; never a test."""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path

from tirante.core.design.catalogue import KINDS, Catalogue, read_csv
from tirante.core.design.choose import adopt
from tirante.core.design.evaluate import evaluate, evaluate_link
from tirante.core.design.model import load_design
from tirante.core.design.sizing import candidates, judge, size

ROOT = Path(__file__).resolve().parents[2]


def _best(work: Callable[[], object], repeat: int = 3) -> float:
    times = []
    for _ in range(repeat):
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return min(times)


def run_bench() -> int:
    """Print the table."""
    catalogue = Catalogue(
        **{kind: tuple(read_csv(kind, (ROOT / f"data/catalogue/{kind}.csv").read_text())) for kind in KINDS}  # type: ignore[arg-type]
    )
    design = load_design((ROOT / "data/demo/marram.json").read_bytes())
    link = design.links[0]
    evaluate(design)
    fresh = _best(lambda: [evaluate_link(one, design) for one in design.links])
    remembered = _best(lambda: evaluate(design))
    edited = adopt(design, link.model_copy(update={"name": "edited"}), catalogue)

    def one_edit() -> None:
        evaluate(edited.model_copy(update={"name": f"{time.perf_counter()}"}))

    pool = candidates(link, design.settings, catalogue)
    search = _best(lambda: size(link, design.settings, catalogue))
    sample = pool[:: max(1, len(pool) // 60)]
    each = _best(lambda: [judge(one, design.settings, catalogue) for one in sample], 1) / len(sample) * len(pool)
    rows = [
        ("a design from memory, against worked out anew", fresh / remembered),
        ("one link edited, against the whole design", fresh / _best(one_edit)),
        (f"sizing by mass with the tube screen, against judging all {len(pool)}", each / search),
    ]
    print("How many times as fast (this machine, this run):")
    for name, ratio in rows:
        print(f"  {ratio:8.1f} ×  {name}")
    print(f"  sizing one link: {search:.2f} s; one link worked out: {fresh / max(1, len(design.links)) * 1000:.1f} ms")
    return 0
