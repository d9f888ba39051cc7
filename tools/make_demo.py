"""Make the demo jobs: links typed here, sized by the core from the shipped catalogue. Numbers are invented and sound.

Run from the project's folder after the catalogue or the sizing changes: python tools/make_demo.py
"""

from __future__ import annotations

import sys
import uuid
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT / "src"))

from tirante.core.design.catalogue import KINDS, Catalogue, read_csv  # noqa: E402
from tirante.core.design.choose import adopt  # noqa: E402
from tirante.core.design.fields import Coordinate, Length  # noqa: E402
from tirante.core.design.model import (  # noqa: E402
    BoughtLink,
    CentreToCentre,
    Design,
    FixedEnd,
    Link,
    LoadCase,
    Pivots,
    RodEndEnd,
    SaddleBase,
    Settings,
    SuspensionEnd,
    dump_design,
)
from tirante.core.design.sizing import propose_tab, size  # noqa: E402
from tirante.core.suspension.end import End  # noqa: E402

SPACE = uuid.UUID("2b1c9f54-7a34-5f0b-8b1d-6c2c5d0d9a01")


def mm(value: float) -> Length:
    return Length(mm=value)


def pivots(a: tuple[float, float, float], b: tuple[float, float, float]) -> Pivots:
    return Pivots(a=tuple(Coordinate(mm=v) for v in a), b=tuple(Coordinate(mm=v) for v in b))  # type: ignore[arg-type]


def case(name: str, axial: float = 0.0, strike: float = 0.0, side: float = 0.0) -> LoadCase:
    return LoadCase(name=name, axial_n=axial, strike_n=strike, side_n=side)


def of_series(row: object, series: str) -> bool:
    """Whether a row is of the inch or the metric shelf: by its series, or by its thread."""
    if hasattr(row, "series"):
        return row.series in (series, "both")
    if hasattr(row, "designation"):
        return row.designation.startswith("M") == (series == "metric")
    return True


def make(job: str, note: str, links: list[Link], catalogue: Catalogue, series: str, units: str = "mm") -> Design:
    shelf = Catalogue(
        **{kind: tuple(r for r in catalogue.rows(kind) if of_series(r, series)) for kind in KINDS}  # type: ignore[arg-type]
    )
    design = Design(name=job, note=note, settings=Settings(units=units))  # type: ignore[arg-type]
    for link in links:
        link = link.model_copy(update={"id": str(uuid.uuid5(SPACE, f"{job}/{link.name}"))})
        found = size(link, design.settings, shelf)
        if found.winner is None:
            print(f"{job}: {link.name}: {found.advice}")
            chosen = found.nearest.candidate.link if found.nearest else link
        else:
            chosen = found.winner.candidate.link
            print(
                f"{job}: {link.name}: {found.winner.candidate.assembly.tube.label}, {found.winner.candidate.assembly.grade.label}, {found.winner.worst.name} {found.winner.utilisation:.2f}"
            )
        design = adopt(design, chosen, catalogue)
    return design


def with_ends(design: Design, *ends: tuple[str, str, float]) -> Design:
    """The shipped example ends, moved to where the axle stands in this car."""
    made = []
    for name, template, shift in ends:
        end = End.model_validate_json((ROOT / f"data/ends/{template}.json").read_bytes())
        points = {n: (round(x + shift, 3), y, z) for n, (x, y, z) in end.points.items()}
        end = end.model_copy(update={"points": points})
        made.append(SuspensionEnd(id=str(uuid.uuid5(SPACE, f"{design.name}/{name}")), name=name, end=end))
    return design.model_copy(update={"ends": tuple(made)})


def blank(name: str, **more: object) -> Link:
    fields = {"id": str(uuid.UUID(int=0, version=4)), "name": name, **more}
    return Link(**fields)  # type: ignore[arg-type]


def main() -> None:
    catalogue = Catalogue(
        **{kind: tuple(read_csv(kind, (ROOT / f"data/catalogue/{kind}.csv").read_text())) for kind in KINDS}  # type: ignore[arg-type]
    )
    inch = Catalogue(
        **{k: tuple(r for r in catalogue.rows(k) if getattr(r, "series", "inch") != "metric") for k in KINDS}
    )  # type: ignore[arg-type]
    joint, bolt = inch.joints[0], inch.bolts[0]
    tab = propose_tab(joint, bolt, 4.0)
    on_axle = tab.model_copy(update={"base": SaddleBase(tube_od=mm(76.2), wall_mm=6.35), "ends": "b"})
    marram = make(
        "Marram",
        "Beach-rescue buggy for a lifeboat station. Front: double wishbones. Rear: beam axle on three links and a Panhard rod.",
        [
            blank(
                "Rear lower link", side="pair", between=pivots((-1180.0, 412.0, 402.0), (-2010.0, 470.0, 281.0)),
                cases=(case("brake 1 g", -9800.0), case("bump 3 g at the stop", 12600.0, side=350.0), case("rock strike at mid-span", -4200.0, strike=6000.0)),
                tab=tab,
            ),
            blank(
                "Rear upper link", side="centre", between=pivots((-1420.0, 0.0, 560.0), (-2005.0, 0.0, 498.0)),
                cases=(case("brake 1 g", 13900.0), case("drive, first gear", -11200.0)), tab=on_axle,
            ),
            blank(
                "Panhard rod", side="centre", between=pivots((-2120.0, 455.0, 398.0), (-2120.0, -430.0, 372.0)),
                cases=(case("corner 1 g", -7400.0), case("kerb 1 g", 9100.0)), tab=tab,
            ),
            blank(
                "Front tie rod", side="pair", between=pivots((118.0, 318.0, 322.0), (104.0, 652.0, 309.0)),
                cases=(case("pothole 2 g", -5200.0), case("steering at rest", 4100.0)),
            ),
        ],
        inch, "inch",
    )  # fmt: skip
    tern = make(
        "Tern",
        "Hill-climb car with a five-member rear upright. Metric rod ends and tube.",
        [
            blank(
                "Toe link", side="pair", between=pivots((-2540.0, 236.0, 214.0), (-2561.0, 688.0, 221.0)),
                cases=(case("corner 1.6 g", -5100.0), case("brake in corner", 3900.0)),
            ),
            blank(
                "Trailing link", side="pair", between=pivots((-1862.0, 512.0, 301.0), (-2448.0, 664.0, 256.0)),
                cases=(case("brake 1.2 g", -9600.0), case("pothole 2 g", 11800.0)), tab=propose_tab(catalogue.joints[-5], next(b for b in catalogue.bolts if abs(b.diameter_mm - 12) < 0.1), 4.0),
            ),
        ],
        catalogue, "metric",
    )  # fmt: skip
    quay = make(
        "Quay",
        "Harbour flatbed on parallel links with a Watts linkage and air springs.",
        [
            blank(
                "Parallel lower link", side="pair", between=CentreToCentre(length=Length(mm=685.8, typed="27 in")),
                cases=(case("brake 1 g, laden", -16200.0), case("kerb 1 g", 14100.0)),
                end_a=FixedEnd(what="rubber bush sleeve", centre_to_face=mm(28.6)), end_b=RodEndEnd(hand="RH"), tab=tab.model_copy(update={"ends": "b"}),
            ),
            blank(
                "Watts link, bought", side="pair", between=CentreToCentre(length=Length(mm=431.8, typed="17 in")),
                cases=(case("corner 0.8 g, laden", -8800.0), case("kerb 1 g", 10900.0)),
                bought=BoughtLink(tube_length=Length(mm=457.2, typed="18 in"), keep="a"),
            ),
        ],
        inch, "inch", units="in",
    )  # fmt: skip
    marram = with_ends(marram, ("Front", "double-wishbone", 0.0), ("Rear", "three-links-panhard", -2010.0))
    tern = with_ends(tern, ("Rear", "five-link", -2510.0))
    quay = with_ends(quay, ("Rear", "four-links-watts-axle", -2480.0))
    for design in (marram, tern, quay):
        (ROOT / "data" / "demo" / f"{design.name.lower()}.json").write_text(dump_design(design))


if __name__ == "__main__":
    main()
