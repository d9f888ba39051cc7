"""Where each method and value comes from, and how surely.

Status: `derived` (worked out in docs/methods.md and tested against an independent solution), `read` (the text was at
hand), `from memory` (recalled; confirm against the text before relying on the clause number), `common practice`
(a fact of the trade, no source).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Status = Literal["derived", "read", "from memory", "common practice"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Source:
    """One source with its status."""

    key: str
    title: str
    status: Status


_ALL = (
    Source(
        key="ghilani",
        title="Ghilani, Adjustment Computations: parametric least squares, error ellipses",
        status="from memory",
    ),
    Source(
        key="baarda",
        title="Baarda, A testing procedure for use in geodetic networks, 1968: redundancy, w",
        status="from memory",
    ),
    Source(
        key="pope",
        title="Pope, The statistics of residuals and the detection of outliers, 1976: tau",
        status="from memory",
    ),
    Source(
        key="wilks",
        title="Wilks, The large-sample distribution of the likelihood ratio, 1938: χ² of one degree, 3.84 at 5 %",
        status="from memory",
    ),
    Source(
        key="sidak",
        title="Šidák, Rectangular confidence regions, 1967: the level of each of many tests",
        status="from memory",
    ),
    Source(
        key="geometry", title="Plane geometry of the section or stack: derivation in docs/methods.md", status="derived"
    ),
    Source(
        key="virtual-work",
        title="Virtual work on the mechanism's Jacobian: derivation in docs/methods.md, Forces in the mechanism",
        status="derived",
    ),
    Source(
        key="energy",
        title="Energy of a fall against springs: derivation in docs/methods.md, Bump stop",
        status="derived",
    ),
    Source(
        key="statics-of-the-car",
        title="Equilibrium of the whole car: derivation in docs/methods.md, Wheel loads",
        status="derived",
    ),
    Source(
        key="direct-stiffness",
        title="Direct stiffness method for frames in space: derivation in docs/methods.md, Arms as frames",
        status="derived",
    ),
    Source(
        key="bredt",
        title="Bredt: torsion of a thin closed section (in Timoshenko, Strength of Materials)",
        status="from memory",
    ),
    Source(
        key="timoshenko-shells",
        title="Timoshenko and Woinowsky-Krieger, Theory of Plates and Shells, ch. 15: a cylinder loaded symmetrically about its axis",
        status="from memory",
    ),
    Source(
        key="roloff-clamped",
        title="Roloff/Matek, Maschinenelemente, clamped hubs: split, with line contact",
        status="from memory",
    ),
    Source(
        key="gilmore-gomory",
        title="Gilmore and Gomory, A linear programming approach to the cutting-stock problem, Operations Research 9 (1961) and 11 (1963)",
        status="from memory",
    ),
    Source(
        key="timoshenko-plates",
        title="Timoshenko and Gere, Theory of Elastic Stability, ch. 9: buckling of plates",
        status="from memory",
    ),
    Source(
        key="en-1993-1-9",
        title="EN 1993-1-9: detail classes and constant-amplitude limits; IIW recommendations alike",
        status="from memory",
    ),
    Source(key="search", title="Search over the catalogue in order: docs/methods.md, Sizing", status="derived"),
    Source(
        key="shigley-columns",
        title="Shigley, Mechanical Engineering Design, ch. 4: Euler and Johnson columns",
        status="from memory",
    ),
    Source(key="aisc-e3", title="ANSI/AISC 360-16, E3: flexural buckling", status="from memory"),
    Source(
        key="aisc-b4",
        title="ANSI/AISC 360-16, Table B4.1a case 9 and B4.1b case 20: round HSS wall slenderness",
        status="from memory",
    ),
    Source(
        key="melcon-hoblit",
        title="Melcon and Hoblit, lugs under oblique load (Product Engineering, 1953)",
        status="from memory",
    ),
    Source(key="aisc-d2", title="ANSI/AISC 360-16, D2: tensile yielding and rupture", status="from memory"),
    Source(key="aisc-d5", title="ANSI/AISC 360-16, D5: pin-connected members", status="from memory"),
    Source(
        key="aisc-j2", title="ANSI/AISC 360-16, J2.3, J2.4 and Table J2.5: plug and fillet welds", status="from memory"
    ),
    Source(
        key="aisc-k",
        title="ANSI/AISC 360-16, chapter K: plates on round and rectangular hollow sections; yield lines of a patch in docs/methods.md",
        status="from memory",
    ),
    Source(
        key="aisc-f11", title="ANSI/AISC 360-16, F11: rectangular bars in flexure, M_p = F_y Z", status="from memory"
    ),
    Source(key="aisc-j7", title="ANSI/AISC 360-16, J7: bearing of pins in holes", status="from memory"),
    Source(
        key="timoshenko-stepped",
        title="Timoshenko and Gere, Theory of Elastic Stability, ch. 2: columns of varying section; Johnson's parabola on the critical load",
        status="derived",
    ),
    Source(
        key="timoshenko-beam-column",
        title="Timoshenko and Gere, Theory of Elastic Stability, ch. 1: beam-columns",
        status="derived",
    ),
    Source(
        key="asme-b1.1",
        title="ASME B1.1: unified inch threads, basic sizes and tensile stress area",
        status="from memory",
    ),
    Source(
        key="iso-898-1",
        title="ISO 898-1 and ISO 68-1/724: metric threads, stress area, property classes",
        status="from memory",
    ),
    Source(
        key="fed-std-h28",
        title="FED-STD-H28 (also Machinery's Handbook): thread shear areas and length of engagement",
        status="from memory",
    ),
    Source(
        key="shigley-shaft",
        title="Shigley, Mechanical Engineering Design, ch. 3: axial and bending stress",
        status="from memory",
    ),
    Source(
        key="shigley-bolts",
        title="Shigley, Mechanical Engineering Design, ch. 8: groups of bolts; ch. 3 and 16: kern of a face, torque of a clamped one",
        status="from memory",
    ),
    Source(
        key="shigley-curved",
        title="Shigley, Mechanical Engineering Design, ch. 3: curved beams in bending",
        status="from memory",
    ),
    Source(
        key="shigley-life",
        title="Shigley, Mechanical Engineering Design, ch. 6: stress-life method for rotating and twisted bars",
        status="from memory",
    ),
    Source(
        key="roark-torsion",
        title="Roark, Formulas for Stress and Strain; Timoshenko, Strength of Materials: bars twisted and bent",
        status="from memory",
    ),
    Source(
        key="en-1993-1-8",
        title="EN 1993-1-8, Tables 3.1, 3.4 and 3.10: bolt classes, bolts in shear, pins",
        status="from memory",
    ),
    Source(
        key="en-1993-1-8-slip",
        title="EN 1993-1-8, 3.9.1: slip-resistant connections in long slots; friction class D of EN 1090-2, surfaces as they are",
        status="from memory",
    ),
    Source(
        key="roark-strip",
        title="Roark’s Formulas, Table 8.1: a beam fixed at both ends, a force at its middle",
        status="from memory",
    ),
    Source(key="sae-j429", title="SAE J429: strengths of grade 5 and grade 8 bolts", status="from memory"),
    Source(
        key="blodgett",
        title="Blodgett, Design of Welded Structures, sect. 7.4: weld group treated as a line",
        status="from memory",
    ),
    Source(
        key="rod-end-practice",
        title="Rod end strength from its own sections; axial capacity 0.2 of the race: common practice, no source",
        status="common practice",
    ),
    Source(key="maker", title="Maker's static rating as entered by the user", status="read"),
    Source(
        key="iso-8855",
        title="ISO 8855 and SAE J670: axes and wheel angles",
        status="from memory",
    ),
    Source(
        key="wheel-path",
        title="Roll centres, instant centres, anti percentages and motion ratio: from the velocities of the wheel's body",
        status="derived",
    ),
    Source(
        key="mechanism",
        title="Rigid bodies and joints: Newton on the analytic Jacobian, least strain energy when redundant",
        status="derived",
    ),
    Source(
        key="notch",
        title="A line of the tube's wall and a round surface: derivation in docs/methods.md, Notches",
        status="derived",
    ),
    Source(key="din-6935", title="DIN 6935: neutral fibre of cold bends", status="from memory"),
    Source(
        key="springback",
        title="Elastic recovery of a bent rectangular section (textbooks of metal forming)",
        status="from memory",
    ),
    Source(key="aws-d1.1", title="AWS D1.1: fit-up of fillet welds", status="from memory"),
    Source(key="trade", title="Common practice, no source", status="common practice"),
)
SOURCES: dict[str, Source] = {source.key: source for source in _ALL}


def cite(key: str) -> str:
    """The source's title with its status, for showing beside a figure."""
    source = SOURCES[key]
    return source.title if source.status == "common practice" else f"{source.title} ({source.status})"
