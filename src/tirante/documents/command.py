"""`./tirante pack DESIGN.json OUT.zip`, `cut FILE.dxf THICKNESS`, `saw ORDER.csv`: the pack of a design file, a file on the simulated cutting table, an order on the simulated saw."""

from __future__ import annotations

import json
from argparse import ArgumentParser
from collections.abc import Callable
from dataclasses import asdict
from datetime import date
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from tirante.core.document.upgrades import load_design
from tirante.core.errors import InputError, require_range
from tirante.core.job.memory import Memory
from tirante.core.job.worked import Worked
from tirante.core.problems import problem
from tirante.documents.cutting_table import Refused, drive
from tirante.documents.pack import make_pack
from tirante.documents.pdf import Stamp
from tirante.documents.saw import REACH, VICE, saw
from tirante.documents.saw import Refused as SawRefused
from tirante.shipped import the_shelf


def run_pack(arguments: list[str]) -> int:
    """Write the pack; returns the exit code."""
    parser = ArgumentParser(prog="tirante pack")
    parser.add_argument("design", type=Path)
    parser.add_argument("out", type=Path)
    parser.add_argument("--date", default=date.today().isoformat())  # noqa: DTZ011 - the shop's own calendar day
    options = parser.parse_args(arguments)
    try:
        design = load_design(options.design.read_bytes())
    except ValidationError as error:
        print(json.dumps(problem(error), ensure_ascii=False))  # noqa: T201
        return 2
    except OSError as error:
        print(json.dumps({"code": "unreadable", "message": str(error.strerror), "issues": []}))  # noqa: T201
        return 2
    stamp = Stamp(
        job=design.name,
        revision="from file",
        date=options.date,
        units=design.settings.units,
        paper=design.settings.paper,
        reviewer=None,
        issued=False,
    )
    options.out.write_bytes(make_pack(Worked(design, the_shelf(), Memory()), stamp))
    return 0


def run_cut(arguments: list[str]) -> int:
    """Give a DXF to the simulated cutting table; returns the exit code."""
    parser = ArgumentParser(prog="tirante cut")
    parser.add_argument("file", type=Path)
    parser.add_argument("thickness", type=float, help="of the sheet, mm")
    parser.add_argument("--kerf", type=float, default=1.2, help="mm")
    options = parser.parse_args(arguments)

    def work() -> object:
        require_range("thickness", options.thickness, 0.1, 100.0)
        require_range("kerf", options.kerf, 0.01, 10.0)
        return drive(options.file.read_bytes(), options.thickness, options.kerf)

    return _machine(work)


def run_saw(arguments: list[str]) -> int:
    """Give a cut order to the simulated saw; returns the exit code."""
    parser = ArgumentParser(prog="tirante saw")
    parser.add_argument("file", type=Path)
    parser.add_argument("--kerf", type=float, default=2.0, help="mm")
    parser.add_argument("--vice", type=float, default=VICE, help="mm that the vice must hold")
    parser.add_argument("--reach", type=float, default=REACH, help="mm that the stop reaches")
    options = parser.parse_args(arguments)

    def work() -> object:
        require_range("kerf", options.kerf, 0.0, 20.0)
        require_range("vice", options.vice, 0.0, 1000.0)
        require_range("reach", options.reach, 1.0, 100_000.0)
        return saw(options.file.read_bytes(), options.kerf, vice=options.vice, reach=options.reach)

    return _machine(work)


def _machine(work: Callable[[], Any]) -> int:
    """What a simulated machine did, or all that it refuses, as JSON; returns the exit code."""
    try:
        found = work()
    except (Refused, SawRefused) as error:
        issues = [{"path": "file", "code": error.code, "params": {}, "message": fault} for fault in error.faults]
        print(json.dumps({"code": error.code, "message": error.message, "issues": issues}, ensure_ascii=False))  # noqa: T201
        return 2
    except InputError as error:
        print(json.dumps(problem(error), ensure_ascii=False))  # noqa: T201
        return 2
    except OSError as error:
        print(json.dumps({"code": "unreadable", "message": str(error.strerror), "issues": []}))  # noqa: T201
        return 2
    print(json.dumps(asdict(found), ensure_ascii=False))  # noqa: T201
    return 0
