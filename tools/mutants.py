"""How many small faults put into the core the tests would find: a sample of them, each put in alone, by a mutation library.

`python tools/mutants.py [--sample 300] [--seed 1] [--only PATTERN] [--processes 1]`, in the environment that `./tirante test` has made.
Run by hand, never by the suite: a sample takes an hour or more. Of the tests those of the core, the handbook, the command line, the
documents and the pins are asked, and of a fault only those that reach its function, in a process that has run nothing before: one that
remembers what was worked out without the fault would answer from that. Prints the share found, and what lived.

Not counted: drawings (what they look like is judged by eye), and text alone: a fault that only changes words is passed over.
"""

from __future__ import annotations

import argparse
import json
import os
import random
import re
import shutil
import subprocess
import sys
import tomllib
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
DRAWINGS = ("drawing/*", "*view.py", "job/overview.py", "suspension/shown/drawn.py", "suspension/shown/scene.py")
TESTS = ["tests/core", "tests/handbook", "tests/calc", "tests/documents", "tests/golden"]
KILLED = {1, 3}  # exit codes of the library: a test failed, or something broke
TOO_LONG = {36, 24, 152, 255, -24}
NO_TEST = 33

CONFIGURATION = """
[tool.mutmut]
source_paths = ["src"]
only_mutate = ["src/tirante/core/*"]
do_not_mutate = [{drawings}]
also_copy = ["data", "docs", "tools", "README.md", "CHANGELOG.md"]
pytest_add_cli_args = ["-x", "-q", "-p", "no:cacheprovider", "-p", "no:xdist"]
pytest_add_cli_args_test_selection = [{tests}]
track_dependencies = false
process_isolation = "forkserver"
forkserver_warmup = "collect"
use_git_change_detection = false
"""


def prepare(folder: Path) -> None:
    """A copy of the tree as git knows it, with the library's configuration."""
    listed = subprocess.run(["git", "ls-files", "-z"], cwd=ROOT, capture_output=True, check=True).stdout.decode()
    for name in listed.split("\0"):
        if name and not name.startswith("web/"):
            (folder / name).parent.mkdir(parents=True, exist_ok=True)
            shutil.copy2(ROOT / name, folder / name)
    drawings = ", ".join(f'"src/tirante/core/{one}"' for one in DRAWINGS)
    with (folder / "pyproject.toml").open("a") as file:
        file.write(CONFIGURATION.format(drawings=drawings, tests=", ".join(f'"{one}"' for one in TESTS)))
    tomllib.loads((folder / "pyproject.toml").read_text())


def run(folder: Path, *arguments: str) -> str:
    """The library, in its folder."""
    done = subprocess.run(
        [sys.executable, "-m", "mutmut", *arguments], cwd=folder, env={**os.environ, "PYTHONPATH": ""}, text=True, capture_output=True
    )  # fmt: skip
    return done.stdout[-4000:] + done.stderr[-4000:]


def faults(folder: Path) -> dict[str, int | None]:
    """Every fault by name, and what came of it where it has been tried."""
    found: dict[str, int | None] = {}
    for file in sorted((folder / "mutants/src").rglob("*.meta")):
        found |= json.loads(file.read_text())["exit_code_by_key"]
    return found


def shown(folder: Path, name: str) -> str:
    """The fault as a difference of two lines or more."""
    lines = run(folder, "show", name).splitlines()
    return "\n".join(line for line in lines if re.match(r"[-+](?![-+])", line))


def words_alone(change: str) -> bool:
    """Whether a fault changes text and nothing else."""
    sides = [[re.sub(r"f?\"[^\"]*\"|f?'[^']*'|None", "·", line[1:].strip()) for line in change.splitlines() if line[0] == sign]
             for sign in "-+"]  # fmt: skip
    return '"' in change and sides[0] == sides[1]


def main() -> int:
    """Put a sample of faults in, one at a time."""
    asked = argparse.ArgumentParser(description=__doc__.splitlines()[0] if __doc__ else "")
    asked.add_argument("--sample", type=int, default=300)
    asked.add_argument("--seed", type=int, default=1)
    asked.add_argument("--only", default="", help="part of a fault's name: a module or a function")
    asked.add_argument("--processes", type=int, default=1)
    asked.add_argument("--folder", type=Path, default=ROOT / ".tirante/mutants")
    given = asked.parse_args()
    tree = subprocess.run(["git", "rev-parse", "HEAD"], cwd=ROOT, capture_output=True, text=True, check=True).stdout
    of = given.folder / "of-commit"
    if of.exists() and of.read_text() != tree:
        print(f"{given.folder} holds an earlier state of the tree: remove it first.")
        return 1
    if not (given.folder / "mutants").exists():
        given.folder.mkdir(parents=True, exist_ok=True)
        prepare(given.folder)
        of.write_text(tree)
        print(run(given.folder, "run", "--max-children", str(given.processes), "tirante.core.cells*")[-600:])
    every = sorted(name for name in faults(given.folder) if given.only in name)
    chosen = random.Random(given.seed).sample(every, len(every))
    sample: list[str] = []
    texts: dict[str, str] = {}
    for name in chosen:
        if len(sample) == given.sample:
            break
        texts[name] = shown(given.folder, name)
        if texts[name] and not words_alone(texts[name]):
            sample.append(name)
    print(f"{len(every)} faults could be put in; {len(sample)} are", flush=True)
    for first in range(0, len(sample), 25):
        run(given.folder, "run", "--max-children", str(given.processes), *sample[first : first + 25])
        came = faults(given.folder)
        done = sample[: first + 25]
        killed = [name for name in done if came[name] in KILLED | TOO_LONG]
        print(f"{len(killed)} of {len(done)} found", flush=True)
    came = faults(given.folder)
    lived = [name for name in sample if came[name] not in KILLED | TOO_LONG]
    print(
        f"\n{len(sample) - len(lived)} of {len(sample)} found: {100 * (1 - len(lived) / max(1, len(sample))):.0f} %. What lived:"
    )
    for name in lived:
        print(f"\n{name}{' (no test reaches it)' if came[name] == NO_TEST else ''}\n{texts[name]}")
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
