"""`./tirante pack DESIGN.json OUT.zip` and `cut FILE.dxf THICKNESS`: the pack of a design file, and a plate’s file on the simulated cutting table."""

from __future__ import annotations

import json
from argparse import ArgumentParser
from dataclasses import asdict
from datetime import date
from pathlib import Path

from pydantic import ValidationError

from tirante.core.document.upgrades import load_design
from tirante.core.errors import InputError, require_range
from tirante.core.job.memory import Memory
from tirante.core.job.worked import Worked
from tirante.core.problems import problem
from tirante.documents.cutting_table import Refused, drive
from tirante.documents.pack import make_pack
from tirante.documents.pdf import Stamp
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
    try:
        require_range("thickness", options.thickness, 0.1, 100.0)
        require_range("kerf", options.kerf, 0.01, 10.0)
        found = drive(options.file.read_bytes(), options.thickness, options.kerf)
    except Refused as error:
        issues = [{"path": "file", "code": error.code, "params": {}, "message": fault} for fault in error.faults]
        print(json.dumps({"code": error.code, "message": error.message, "issues": issues}, ensure_ascii=False))  # noqa: T201
        return 2
    except InputError as error:
        print(json.dumps(problem(error), ensure_ascii=False))  # noqa: T201
        return 2
    except OSError as error:
        print(json.dumps({"code": "unreadable", "message": str(error.strerror), "issues": []}))  # noqa: T201
        return 2
    print(json.dumps(asdict(found)))  # noqa: T201
    return 0
