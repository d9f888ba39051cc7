"""Everything that must hold: tests, and beside them lint, types and layers; stops at nothing, fails at the end if anything failed. Run by
`./tirante test`.

Arguments go to pytest; with any, only pytest runs.
"""

from __future__ import annotations

import os
import subprocess
import sys
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
BIN = Path(sys.executable).parent
WEB = ROOT / "web"

STEPS: list[tuple[str, list[str], Path]] = [
    ("ruff: lint", [str(BIN / "ruff"), "check", "-q", "src", "tests", "tools"], ROOT),
    ("ruff: format", [str(BIN / "ruff"), "format", "-q", "--check", "src", "tests", "tools"], ROOT),
    ("mypy: types", [str(BIN / "mypy"), "--no-error-summary"], ROOT),
    ("import-linter: layers", [str(BIN / "lint-imports")], ROOT),
    ("tsc: types", ["npx", "--no-install", "tsc", "--noEmit"], WEB),
    ("eslint: lint", ["npx", "--no-install", "eslint", "src", "test"], WEB),
    ("prettier: format", ["npx", "--no-install", "prettier", "--check", "--log-level=warn", "src", "test"], WEB),
]


def main(arguments: list[str]) -> int:
    """Run the tests, and the steps beside them."""
    failed = []
    environment = {**os.environ, "PATH": f"{BIN}:{os.environ['PATH']}", "PYTHONPATH": str(ROOT / "src")}
    environment["OPENBLAS_NUM_THREADS"] = "1"  # as the server runs: small matrices, and two workers on two cores

    def run(step: tuple[str, list[str], Path]) -> tuple[str, float, subprocess.CompletedProcess[str]]:
        name, command, folder = step
        start = time.monotonic()
        # last in the row: the tests wait a third of their time, for browsers and databases, and this fits in between
        done = subprocess.run(
            ["nice", "-n", "10", *command], cwd=folder, env=environment, capture_output=True, text=True
        )
        return name, time.monotonic() - start, done

    with ThreadPoolExecutor(1) as beside:
        steps = [beside.submit(run, step) for step in STEPS] if not arguments else []
        dealt = arguments or ["-n", "2", "--dist", "loadscope", "--no-loadscope-reorder", "-q"]
        code = subprocess.run([sys.executable, "-m", "pytest", *dealt], cwd=ROOT, env=environment).returncode
        for step in steps:
            name, took, done = step.result()
            good = done.returncode == 0
            print(f"{'ok    ' if good else 'FAILED'} {name} ({took:.1f} s)", flush=True)
            if not good:
                failed.append(name)
                print(done.stdout[-6000:], done.stderr[-3000:], flush=True)
    if failed:
        print(f"Failed beside the tests: {', '.join(failed)}", flush=True)
    return 1 if failed or code else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
