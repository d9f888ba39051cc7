"""The front end's own tests, of what needs no page: lengths as they are written, fields by their paths, a session's saves and steps back."""

import os
import re
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]


def test_the_front_end_s_own_tests_pass() -> None:
    path = f"{Path(sys.executable).parent}:{os.environ['PATH']}"
    done = subprocess.run(
        ["node", "test/run.mjs"], cwd=ROOT / "web", env={**os.environ, "PATH": path}, capture_output=True, text=True, timeout=120
    )  # fmt: skip
    counts = dict(re.findall(r"^\S+ (tests|pass|fail|skipped|cancelled) (\d+)$", done.stdout, re.MULTILINE))
    assert done.returncode == 0, done.stdout + done.stderr
    assert int(counts["pass"]) == int(counts["tests"]) >= 29, done.stdout
