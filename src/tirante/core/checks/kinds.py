"""The one table of kinds of checks: what is checked, by which formula and source, under which factor, how it gives, what it is
about on the drawing, and what cures it. Link, arm, bracket and whatever comes take theirs from here; no list of keys stands elsewhere.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from tirante.core.document.settings import DesignFactors

Gives = Literal["bends", "lets go"]


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckKind:
    """A kind of check.

    `gives`: whether what fails bends first or lets go without warning; None for limits of shape and use that nothing fails by at
    once. `shows`: what it is about on a drawing, `{end}` standing for the letter of the end that it was made at.
    """

    key: str
    name: str
    unit: str
    factor: str  # field of the design factors; "none": 1
    formula: str
    source: str
    gives: Gives | None
    cure: str
    shows: tuple[str, ...] = ()
    warns: bool = True  # whether it is pointed out when it is close: not where the limit itself is aimed at


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """A kind of check asked of something: `part` of a part, with the factor in force."""

    kind: CheckKind
    key: str  # the kind's; with what it was asked of where one part has several ("frame_weld:brace")
    name: str
    part: str
    unit: str
    factor: float
    factor_name: str
    formula: str
    source: str


_RING = "ring 0.6 FEXX · 0.707 leg · π D, and plugs"
_TUBE, _SHANKS = ("field:tube",), ("end:a", "end:b", "dim:showing")
_THICKER, _LONGER = "a thicker or larger tube, or a stronger grade", "more thread engaged, or a larger thread"


def _rows(*rows: CheckKind) -> dict[str, CheckKind]:
    return {row.key: row for row in rows}


CHECKS: dict[str, CheckKind] = _rows(
    # a tube as a column, bent, at its welds
    CheckKind(key="column", name="Column, Euler–Johnson", unit="N", factor="column", source="shigley-columns", gives="bends", shows=_TUBE,
              formula="π²EI/L² above the transition slenderness, A Sy (1 − Sy s²/4π²E) below",
              cure="a larger outside diameter, or a shorter link"),
    CheckKind(key="column_aisc", name="Column, AISC E3", unit="N", factor="column", source="aisc-e3", gives="bends", shows=_TUBE,
              formula="0.658^(Fy/Fe) Fy A, or 0.877 Fe A when Fy/Fe > 2.25", cure="a larger outside diameter, or a shorter link"),
    CheckKind(key="stepped", name="Bare shanks, stepped column", unit="N", factor="column", source="timoshenko-stepped", gives="bends",
              formula="Py (1 − Py/4Pe), Pe of the exact stepped line; Pe when Py > 2 Pe", shows=(*_TUBE, *_SHANKS),
              cure="less thread showing, or a larger thread"),
    CheckKind(key="bowed", name="Bowed, bent or struck", unit="MPa", factor="yielding", source="timoshenko-beam-column",
              formula="P/A + M D/2I with M on the bent shape, pushed or pulled; P ≥ Pe is refused", gives="bends", shows=_TUBE, cure=_THICKER),
    CheckKind(key="net", name="Tube beside its welds", unit="N", factor="yielding", source="aisc-d2", gives="bends", shows=_TUBE,
              formula="A · as-welded yield", cure="a thicker wall, or a larger tube"),
    CheckKind(key="net_rupture", name="Tube torn at its plug welds", unit="N", factor="rupture", source="aisc-d2", gives="lets go", shows=_TUBE,
              formula="net A · ultimate (A − Σ n d t)", cure="fewer or smaller plugs in one section, or a thicker wall"),
    CheckKind(key="wall", name="Wall in compression", unit="", factor="none", source="aisc-b4", gives=None, shows=_TUBE,
              formula="D/t ≤ 0.11 E/Fy", cure="a thicker wall"),
    CheckKind(key="wall_bending", name="Wall in bending", unit="", factor="none", source="aisc-b4", gives=None, shows=_TUBE,
              formula="D/t ≤ 0.07 E/Fy", cure="a thicker wall"),
    # a threaded end
    CheckKind(key="engagement", name="Thread engagement", unit="mm", factor="none", source="geometry", gives=None, warns=False,
              formula="least engagement ≤ e = A − j − showing", shows=("end:{end}", "dim:engagement"), cure="less thread showing, or a deeper insert"),
    CheckKind(key="thread_tension", name="Shank breaking at the thread", unit="N", factor="joint", source="fed-std-h28", gives="lets go",
              formula="At · σu of the shank", shows=("end:{end}", "dim:showing"), cure="a larger thread or a stronger shank"),
    CheckKind(key="strip_insert", name="Thread strip, insert", unit="N", factor="strip", source="fed-std-h28", gives="lets go",
              formula="0.5 σu · An(e)", shows=("end:{end}", "dim:engagement"), cure=_LONGER),
    CheckKind(key="strip_shank", name="Thread strip, shank", unit="N", factor="strip", source="fed-std-h28", gives="lets go",
              formula="0.5 σu · As(e)", shows=("end:{end}", "dim:engagement"), cure=_LONGER),
    CheckKind(key="shank_bending", name="Shank bending at the nut", unit="MPa", factor="yielding", source="shigley-shaft", gives="bends",
              formula="N/(π d3²/4) + 32 V·lever/(π d3³), V = side + half the strike", shows=("end:{end}", "dim:showing"),
              cure="less thread showing, or a larger thread"),
    CheckKind(key="joint", name="Joint rating", unit="N", factor="joint", source="rod-end-practice", gives="lets go",
              formula="pull + across · rating/(0.2 race), against the maker's static rating, else the least of shank, eye and race", shows=("end:{end}", "field:end_{end}.joint"), cure="a larger joint"),
    CheckKind(key="joint_side", name="Joint pushed along its bolt", unit="N", factor="joint", source="rod-end-practice", gives="lets go",
              formula="0.2 · race capacity", shows=("end:{end}", "field:end_{end}.joint"), cure="a larger joint, or a link that is not pushed sideways"),
    CheckKind(key="insert_weld", name="Insert weld", unit="N", factor="weld", source="aisc-j2", gives="lets go", formula=_RING,
              shows=("end:{end}",), cure="more plugs or a larger leg"),
    CheckKind(key="life", name="Everyday life", unit="cycles", factor="none", source="en-1993-1-9", gives=None, warns=False,
              formula="Miner’s sum of the everyday ranges, slopes 3 and 5 (shear 5), against the cycles wanted", shows=("end:{end}",),
              cure="a larger thread, a thicker tube, or a larger fillet"),
    # what is machined, tapped or spliced
    CheckKind(key="machined_bearing", name="bearing of its pin", unit="N", factor="tab_rupture", source="aisc-j7", gives="bends",
              formula="1.8 Fy d t n", shows=("end:{end}",), cure="a thicker end or a larger pin"),
    CheckKind(key="machined_tension", name="net tension", unit="N", factor="tab_rupture", source="aisc-d5", gives="lets go",
              formula="Fu 2 t b_e n", shows=("end:{end}",), cure="more width beside the hole"),
    CheckKind(key="machined_tearout", name="tear-out", unit="N", factor="tab_rupture", source="aisc-d5", gives="lets go",
              formula="0.6 Fu 2 t (a + d/2) n", shows=("end:{end}",), cure="more metal beyond the hole"),
    CheckKind(key="machined_yield", name="yield across it", unit="N", factor="tab_yield", source="aisc-d2", gives="bends",
              formula="Fy w t n", shows=("end:{end}",), cure="a wider or thicker end"),
    CheckKind(key="machined_pin", name="Clevis’s pin, bending", unit="MPa", factor="bolt", source="en-1993-1-8", gives="bends",
              formula="F/2 (ear/2 + gap/4) · 32/(π d³) against the pin’s yield", shows=("end:{end}",), cure="a larger pin or a narrower gap"),
    CheckKind(key="machined_pin_shear", name="pin in shear", unit="N", factor="bolt", source="shigley-shaft", gives="lets go",
              formula="2 · 0.577 Sy · π d²/4", shows=("end:{end}",), cure="a larger or stronger pin"),
    CheckKind(key="reducer_neck", name="Reducer’s neck", unit="MPa", factor="yielding", source="shigley-shaft", gives="bends",
              formula="F/A + 32 S l/(π d³) against the as-welded yield, l from the joint’s middle to the tube, factored", cure="a larger or a shorter neck"),
    CheckKind(key="flat_end_bent", name="Flat end bent across", unit="MPa", factor="yielding", source="shigley-shaft", gives="bends",
              formula="P/A + V L/W · 1/(1 − P/Pe), V the side force and half the strike, L to where it is held, Pe of 2 L", cure="a thicker plate, or a shorter way from the pin to the tube"),
    CheckKind(key="slotted_tube", name="Tube torn across its slots", unit="N", factor="rupture", source="aisc-d2", gives="lets go",
              formula="U (A − slots) Fu, U 1 − D/(π l) below 1.3 D of lap", cure="plates further into the tube, a thicker wall, or a larger tube"),
    CheckKind(key="slot_weld", name="Fillets of the plates in the tube", unit="N", factor="weld", source="aisc-j2", gives="lets go",
              formula="the least of 4 n l 0.707 leg 0.6 FEXX, 4 n l t_wall 0.6 Fu and 2 n l t 0.6 Fu", cure="plates further into the tube, or a larger leg"),
    CheckKind(key="spigot_weld", name="spigot, weld in the tube", unit="N", factor="weld", source="aisc-j2", gives="lets go", formula=_RING,
              shows=("end:{end}",), cure="more plugs or a larger leg"),
    CheckKind(key="tapped_wall", name="Tube outside its own thread", unit="N", factor="yielding", source="aisc-d2", gives="bends",
              formula="π/4 (D² − d²) · yield, d the thread’s major diameter", shows=("end:{end}", *_TUBE), cure="a thicker tube or a smaller thread"),
    CheckKind(key="splice_net", name="Sleeve beside its welds", unit="N", factor="yielding", source="aisc-d2", gives="bends",
              formula="A · as-welded yield", cure="a thicker sleeve"),
    CheckKind(key="splice_rupture", name="Sleeve torn at its plug welds", unit="N", factor="rupture", source="aisc-d2", gives="lets go",
              formula="net A · ultimate as welded (A − Σ n d t)", cure="a thicker sleeve, or fewer plugs in one section"),
    CheckKind(key="splice_weld", name="Splice, welds of either side", unit="N", factor="weld", source="aisc-j2", gives="lets go", formula=_RING,
              cure="more plugs or a larger leg"),
    CheckKind(key="splice_bending", name="Sleeve, bent under push or strike", unit="MPa", factor="yielding", source="timoshenko-beam-column",
              gives="bends", formula="P/A + M c/I of the sleeve, M the link’s largest, against the as-welded yield",
              cure="a thicker sleeve, or the splice nearer to an end"),
    # a bolt and the tabs that it goes through
    CheckKind(key="pin_shear", name="Clevis pin, shear", unit="N", factor="bolt", source="en-1993-1-8", gives="lets go",
              formula="2 · 0.6 Rm · area (0.5 for 10.9, 12.9 and grade 8 on the thread)", shows=("check:pin_shear", "check:pin_bending"),
              cure="a larger or stronger bolt"),
    CheckKind(key="pin_bending", name="Clevis pin, bending", unit="MPa", factor="bolt", source="en-1993-1-8", gives="bends",
              formula="F/2 (plate/2 + gap + ball/4) · 32/(π d³) against yield", shows=("check:pin_shear", "check:pin_bending"),
              cure="a larger or stronger bolt, or shorter spacers"),
    CheckKind(key="tab_bearing", name="Tab bearing", unit="N", factor="tab_rupture", source="aisc-j7", gives="bends", formula="1.8 Fy d t n",
              shows=("field:tab",), cure="a thicker plate"),
    CheckKind(key="tab_tension", name="Tab net tension", unit="N", factor="tab_rupture", source="aisc-d5", gives="lets go", formula="Fu 2 t b_e n",
              shows=("field:tab",), cure="a thicker plate, or a larger head"),
    CheckKind(key="tab_tearout", name="Tab tear-out", unit="N", factor="tab_rupture", source="aisc-d5", gives="lets go",
              formula="0.6 Fu 2 t (a + d/2) n", shows=("field:tab",), cure="more metal beyond the hole, or a thicker plate"),
    CheckKind(key="tab_slanted", name="Tab pulled at a slant", unit="N", factor="tab_rupture", source="melcon-hoblit", gives="lets go",
              formula="((cos α/P_along)^1.6 + (sin α/P_across)^1.6)^(−1/1.6), α the worst that may be", shows=("field:tab",),
              cure="a larger head, more metal beyond the hole, or the tab turned into the pull"),
    CheckKind(key="tab_yield", name="Tab yield across the hole", unit="N", factor="tab_yield", source="aisc-d2", gives="bends",
              formula="Fy w t n", shows=("field:tab",), cure="a thicker plate, or a larger head"),
    CheckKind(key="tab_detailing", name="Tab proportions", unit="", factor="none", source="aisc-d5", gives=None, warns=False,
              formula="a ≥ 1.33 b_e; hole ≤ pin + 1 mm; width ≥ 2 b_e + pin", shows=("field:tab",), cure="a larger edge distance"),
    CheckKind(key="foot_bolts", name="Bolts of its feet", unit="", factor="bolt", source="en-1993-1-8", gives="lets go", shows=("field:bolt_mm",),
              formula="F_v/(0.6 Rm A) + F_t/(1.4 · 0.9 Rm · 0.78 A); F_t (N/4 + S h/2p + V h/4b) (m + e)/e, the toe prying in full",
              cure="larger bolts, further apart, nearer to the ears, or a longer toe"),
    CheckKind(key="foot_bent", name="Foot bent through its bolts", unit="MPa", factor="tab_yield", source="aisc-f11", gives="bends", shows=("field:plate",),
              formula="4 · 2 F m/((w − 2 d) t²), F the worst bolt’s pull without prying", cure="a thicker plate, bolts nearer to the ears, or a wider foot"),
    CheckKind(key="foot_bearing", name="Bolts pressing in its feet", unit="", factor="tab_yield", source="aisc-j7", gives="bends", shows=("field:bolt_mm",),
              formula="F_v/(1.8 Fy d t)", cure="larger bolts, or a thicker plate"),
    CheckKind(key="sleeve_crushed", name="Crush sleeve under its clamp", unit="MPa", factor="none", source="geometry", gives="bends", shows=("field:through_mm",),
              formula="F_p/(π/4 (D² − d²)), F_p of the torque told", cure="a larger sleeve, or less torque"),
    CheckKind(key="slot_slip", name="Slot, slip along it", unit="N", factor="joint", source="en-1993-1-8-slip", gives="lets go",
              formula="0.63 · n μ F_p / 1.25, n = 2, μ = 0.2; F_p of the torque told", shows=("field:tab", "dim:hole"),
              cure="a larger bolt, a slot across the pull, or a washer welded over it once it is set"),
    CheckKind(key="slot_beside", name="Metal beside the slot, bent", unit="MPa", factor="tab_yield", source="roark-strip", gives="bends",
              formula="F/n (l + w)/8 / (t h²/6): a strip fixed at both ends, the bolt half way", shows=("field:tab", "dim:hole"),
              cure="a shorter slot, a larger head, or a thicker plate"),
    CheckKind(key="tab_foot", name="Tab bending at its foot", unit="MPa", factor="tab_yield", source="shigley-shaft", gives="bends",
              formula="N/A + 6 M/(t w²) + 6 V h/(w t²), at the worst angle that the pull may have", shows=("field:tab",), cure="a wider foot, a thicker plate or a lower hole"),
    CheckKind(key="tab_weld", name="Tab weld", unit="MPa", factor="weld", source="blodgett", gives="lets go",
              formula="line force of the group / 0.707 leg, against 0.6 FEXX", shows=("field:tab",), cure="a larger leg or a wider foot"),
    CheckKind(key="tab_lightened", name="Tab beside its lightening hole", unit="MPa", factor="tab_yield", source="shigley-shaft", gives="bends",
              formula="N/(t (w − d)) + 6 (V h + N e) w/(t (w³ − d³)) + 6 V/2 · 0.225 d/(t b²) + 6 S h/((w − d) t²)", shows=("field:lighten/diameter_mm",),
              cure="a smaller lightening hole, or none"),
    CheckKind(key="tab_holed", name="Tab across its further holes", unit="MPa", factor="tab_yield", source="shigley-shaft", gives="bends",
              formula="N/A + (V h + N e) c/I of what is left + 6 Vᵢ · 0.225 d/(t wᵢ²) + 6 S h/(Σw t²)", shows=("field:extra",),
              cure="a smaller hole, one nearer the axis, or a wider foot"),
    CheckKind(key="lapped_root", name="Plate where it leaves its weld", unit="MPa", factor="tab_yield", source="shigley-shaft", gives="bends",
              formula="√((N/bt + 6 V L/tb² + 6 (N e + S L)/bt²)² + 3 (V e (3 + 1.8 t/b)/bt² + 1.5 (V + S)/bt)²)", shows=("field:plate",),
              cure="a thicker or wider plate, less of a joggle, or plates to either side"),
    CheckKind(key="lapped_holed", name="Plate across its further holes", unit="MPa", factor="tab_yield", source="shigley-shaft", gives="bends",
              formula="√((N/A + (V h + N a) c/I + 6 Vᵢ · 0.225 d/(t wᵢ²) + 6 (N e + S h)/(Σw t²))² + 3 (V e (3 + 1.8 t/w)/(Σw t²) + 1.5 (V + S)/(Σw t))²)",
              shows=("field:extra",), cure="a smaller hole, one nearer the axis, or a wider plate"),
    CheckKind(key="sleeve_bent", name="Sleeve bent at its near wall", unit="MPa", factor="tab_yield", source="shigley-shaft", gives="bends",
              formula="32 F (a + t/2) D/(π (D⁴ − d⁴)), its bolt not counted on", shows=("field:sleeve_od_mm",), cure="a larger sleeve, or the joint nearer to the box"),
    CheckKind(key="sleeve_mouth", name="Bolt pressing in its bore", unit="MPa", factor="tab_rupture", source="aisc-j7", gives="bends",
              formula="F (6 h + 4 s)/(b s²) against 1.8 Fy, s = 2 b at most", shows=("field:bore_mm",), cure="a larger bolt, or the joint nearer to the sleeve"),
    CheckKind(key="sleeve_ring", name="Fillet round the sleeve", unit="MPa", factor="weld", source="geometry", gives="lets go",
              formula="√((F + F (a + t/2)/(h − t))² + (P/2)²)/(π D · 0.707 leg), against 0.6 FEXX", shows=("check:sleeve_ring",), cure="a larger leg or sleeve, or the joint nearer to the box"),
    CheckKind(key="sleeve_wall", name="Wall pressed by the sleeve", unit="N", factor="tab_rupture", source="aisc-j7", gives="bends",
              formula="F + F (a + t/2)/(h − t) against 1.8 Fy D t", shows=("field:wall_mm",), cure="a larger sleeve, or a thicker wall"),
    CheckKind(key="sleeve_pushed", name="Walls pushed through by the sleeve", unit="N", factor="tab_yield", source="aisc-k", gives="bends",
              formula="P against 2 · π/4 · Fy t²/(1 − β) (2 β + 4 √(1 − β)), β = D/B", shows=("field:wall_mm",), cure="a larger sleeve, or a thicker wall"),
    CheckKind(key="clamp_grip", name="Grip on the tube", unit="N", factor="joint", source="roloff-clamped", gives="lets go", shows=("field:torque_nm",),
              formula="(F + 1.25 √((T/r)² + S²)/μ′)/4, or F/2, a bolt; μ′ μ/√(1 + μ²), μ 0.2; F, S with half the pull and S h/p, T half of it times h; factored",
              cure="more torque, larger or stronger clamp bolts, or the joint nearer to the tube"),
    CheckKind(key="clamp_bolts", name="Clamp bolts pulled", unit="", factor="bolt", source="en-1993-1-8", gives="lets go", shows=("check:clamp_bolts",),
              formula="P/(0.9 Rm · 0.78 A), P F/2 + T/2a of one clamp, nothing clamped, factored", cure="larger or stronger clamp bolts"),
    CheckKind(key="clamp_half", name="Half bent over the tube", unit="MPa", factor="tab_yield", source="shigley-shaft", gives="bends", shows=("field:cap_mm",),
              formula="6 N (a − x)/(t h²) at the worst place beside the crown, N the clamp of a bolt, or what pulls it, factored, where that is more",
              cure="a deeper half, a thicker plate, less torque, or clamp bolts nearer to the tube"),
    CheckKind(key="clamp_tube", name="Tube squeezed by the clamp", unit="MPa", factor="none", source="timoshenko-shells", gives="bends", shows=("field:wall_mm",),
              formula="von Mises of p r/w (1 − e^(−βb) cos βb) round it and 6/w² · p/2β² e^(−βb) sin βb along it, p 2N/(D t), b t/2, β⁴ 3 (1 − ν²)/(R² w²)",
              cure="less torque, thicker plates, or a thicker tube"),
    CheckKind(key="saddle_weld", name="Fillets along the tube", unit="MPa", factor="weld", source="blodgett", gives="lets go",
              formula="Σ σ₁(T) R of every pull R, T the group’s line force of a unit pull / throat, against 0.6 FEXX", shows=("plate:side",), cure="a longer box, a larger leg, or a lower cap"),
    CheckKind(key="saddle_side", name="Sides bent between tube and cap", unit="MPa", factor="tab_yield", source="geometry", gives="bends",
              formula="Σ 6 R h/4 /(b t²) + (R/2 + R z/a)/(b t), b 2 h at most its length", shows=("plate:side",), cure="a thicker wall of the box, or a lower cap"),
    CheckKind(key="mount_wall", name="Wall of the mount, bent through", unit="N", factor="tab_yield", source="aisc-k", gives="bends",
              formula="N + M/M_n · N_n: round 5.5 Fy t² (1 + l/4D) along or 5.5 Fy t²/(1 − 0.81 b/D) across; box Fy t²/(1 − β) (2 l/B + 4 √(1 − β)), its sides 2 Fy t (5 t + l)",
              shows=("field:mount",), cure="a spread plate under the feet of tabs, a wider foot or a longer pad, or another mount"),
    CheckKind(key="mount_shear", name="Wall of the mount, sheared through", unit="N/mm", factor="tab_rupture", source="aisc-k", gives="lets go",
              formula="N/2w + 3 M/w² + V h/(s w), against 2 · 0.6 Fu t", shows=("field:mount",), cure="a spread plate under the feet of tabs, a wider foot or a longer pad, or another mount"),
    # a link of four plates
    CheckKind(key="box_stress", name="Box pulled, pressed, bent and twisted", unit="MPa", factor="yielding", source="shigley-shaft", gives="bends",
              formula="√((P/A + M c/I · 1/(1 − P/Pe) + S L c/I + P e₀ c/I · 1/(1 − P/Pe))² + 3 τ²), τ Bredt; or shear at the neutral axis",
              cure="a taller box or thicker plates"),
    CheckKind(key="box_plates", name="Plates buckling", unit="", factor="column", source="timoshenko-plates", gives="bends",
              formula="σ/σ_cr of top and bottom; σ/σ_cr + (σ_b/σ_b,cr)² of the sides; k π² E/(12 (1 − ν²)) (t/b)², k 4 pressed, 23.9 bent",
              cure="thicker plates"),
    CheckKind(key="box_wall", name="Plates too slender to be pressed", unit="", factor="none", source="aisc-b4", gives=None,
              formula="b/t ≤ 1.40 √(E/Fy)", cure="thicker plates"),
    CheckKind(key="box_seams", name="Seam welds", unit="MPa", factor="weld", source="aisc-j2", gives="lets go",
              formula="V Q/(2 I) + T/(2 A_m) over 0.707 leg, against 0.6 FEXX", cure="a larger leg"),
    CheckKind(key="box_column", name="Box as a column", unit="N", factor="column", source="shigley-columns", gives="bends",
              formula="the lower of Euler–Johnson and AISC E3, the weaker way", cure="a larger box"),
    # a welded frame
    CheckKind(key="frame_weld", name="at its weld", unit="MPa", factor="yielding", source="direct-stiffness", gives="bends",
              formula="√((N/A + M c/I)² + 3 (T c/2I)²), or 2 V/A at the neutral fibre, factored, against the as-welded yield", cure=_THICKER),
    CheckKind(key="frame_column", name="as a column that bends", unit="", factor="yielding", source="shigley-columns", gives="bends",
              formula="P · column factor / lower of Euler–Johnson and AISC E3 + M c/I · yield factor / yield", cure=_THICKER),
    # a drive shaft, bought whole
    CheckKind(key="shaft_column", name="Shaft as a column", unit="N", factor="column", source="aisc-e3", gives="bends",
              formula="the lower of Euler–Johnson and AISC E3, pinned", cure="a larger shaft"),
    CheckKind(key="shaft_angle", name="Its joints’ angle", unit="°", factor="none", source="maker", gives=None,
              formula="largest angle between shaft and flange where the cases apply, against the maker’s limit", cure="joints that turn further, or flanges that face each other more"),
    CheckKind(key="shaft_plunge", name="Its plunge", unit="mm", factor="none", source="maker", gives=None,
              formula="change of its length where the cases apply, against the room that its joints have", cure="joints with more plunge, or a shaft of another length"),
    # an anti-roll bar
    CheckKind(key="bar_bearing", name="Bar at its bearing, bent and twisted", unit="MPa", factor="yielding", source="shigley-shaft", gives="bends",
              formula="√((M c/I)² + 3 (T c/2I)²), factored, against the bar’s yield", cure="a thicker bar, a stronger steel, or the bearing nearer to the arm"),
    CheckKind(key="bar_corner", name="Bar in its corner", unit="MPa", factor="yielding", source="shigley-curved", gives="bends",
              formula="√((K M c/I)² + 3 (T c/2I)²), K of the bend’s inner fibre, factored, against the bar’s yield", cure="a thicker bar, or a larger bend"),
    CheckKind(key="bar_arm", name="Arm of the bar, bent", unit="MPa", factor="yielding", source="shigley-shaft", gives="bends",
              formula="6 M/(t h²), factored, against the yield", cure="a higher or thicker arm"),
    CheckKind(key="bar_weld", name="Arm’s weld round the bar", unit="MPa", factor="weld", source="blodgett", gives="lets go",
              formula="line force of two rings, T/(π D²) and 2 M/(π D²), / 0.707 leg, against 0.6 FEXX", cure="a larger leg, or a thicker bar"),
    CheckKind(key="bearing_bolts", name="Bearings of the bar, their bolts", unit="N", factor="bolt", source="en-1993-1-8", gives="lets go",
              formula="bearing’s force, factored, against 2/max(1/F_t, √(1/F_v² + 1/(1.4 F_t)²)), F_v 0.6 Rm A, F_t 0.9 Rm A_s", cure="larger or stronger bolts, or the bearings nearer to the arms"),
    CheckKind(key="bar_life", name="Everyday life of the bar", unit="cycles", factor="none", source="shigley-life", gives=None, warns=False,
              formula="stress-life: amplitudes and means by von Mises, Goodman, Miner’s sum of the everyday ranges, against the cycles wanted",
              cure="a thicker bar, a stronger or smoother steel, or a larger bend"),
    # a link cut from plate
    CheckKind(key="flat_bent", name="Plate pulled, pressed and bent", unit="MPa", factor="yielding", source="shigley-shaft", gives="bends",
              formula="P/A + (F L/4 + S L)/W · 1/(1 − P/Pe), the weaker way, each plate by itself", cure="a thicker plate"),
    CheckKind(key="flat_column", name="Plate as a column", unit="N", factor="column", source="aisc-e3", gives="bends",
              formula="the lower of Euler–Johnson and AISC E3, the weaker way, each plate by itself", cure="a thicker plate, or a shorter link"),
    # a rocker of plates
    CheckKind(key="plate_bent", name="bent", unit="MPa", factor="yielding", source="shigley-shaft", gives="bends",
              formula="N/A + 6 M/(n t w²) in the plate’s plane + 6 M/(w t²) out of it, √(σ² + 3 τ²), the worst section between eye and boss", cure="a thicker plate, or a wider one at eye and root"),
    CheckKind(key="plate_net", name="through its boss", unit="MPa", factor="yielding", source="shigley-shaft", gives="bends",
              formula="N/(n (w − D) t) + 6 w M/(n t (w³ − D³)) through the pivot, the boss left out", cure="more plate there, or a thicker one"),
    CheckKind(key="plate_column", name="pressed", unit="N", factor="column", source="aisc-e3", gives="bends",
              formula="the lower of Euler–Johnson and AISC E3, 2.1 × its length, each plate by itself", cure="thicker plates"),
    CheckKind(key="eye_bearing", name="bearing of its bolt", unit="N", factor="tab_rupture", source="aisc-j7", gives="bends",
              formula="1.8 Fy d t n", cure="a thicker plate or a larger bolt"),
    CheckKind(key="eye_torn", name="torn out", unit="N", factor="tab_rupture", source="melcon-hoblit", gives="lets go",
              formula="((cos α/P_along)^1.6 + (sin α/P_across)^1.6)^(−1/1.6), α of the pull to the arm", cure="more plate round the eye, or a thicker one"),
    CheckKind(key="eye_pin", name="bolt in shear", unit="N", factor="bolt", source="en-1993-1-8", gives="lets go",
              formula="planes · 0.6 Rm · area", cure="a larger or stronger bolt"),
    CheckKind(key="eye_pin_bent", name="bolt bent", unit="MPa", factor="bolt", source="en-1993-1-8", gives="bends",
              formula="F/2 (plate/2 + gap + ball/4), or F (plate/2 + ball/2) beside one plate, · 32/(π d³) against yield", cure="a larger or stronger bolt"),
    CheckKind(key="boss_weld", name="Boss, its weld", unit="MPa", factor="weld", source="blodgett", gives="lets go",
              formula="line force of the rings / 0.707 leg, against 0.6 FEXX", cure="a larger leg or a larger boss"),
    CheckKind(key="root_bolts", name="Bolts at its root", unit="", factor="bolt", source="en-1993-1-8", gives="lets go",
              formula="F_v/(0.6 Rm A) + F_t/(1.4 · 0.9 Rm A_s), of the bolt nearer to the eye, factored", cure="larger or stronger bolts, or the two further apart"),
    CheckKind(key="root_weld", name="Weld at its root", unit="MPa", factor="weld", source="blodgett", gives="lets go",
              formula="line force of the two fillets / 0.707 leg, against 0.6 FEXX", cure="a wider root, a larger leg or a thicker plate"),
    CheckKind(key="flange_bolts", name="bolts of its hub flange", unit="", factor="bolt", source="en-1993-1-8", gives="lets go",
              formula="F_v/(0.6 Rm A) + F_t/(1.4 · 0.9 Rm A_s), F_v V/n + T/(n r), F_t N/n + 2 M/(n r), factored", cure="larger or stronger bolts, more of them, or a larger circle"),
    CheckKind(key="flange_plate", name="plate of its hub flange, bent", unit="N", factor="tab_yield", source="en-1993-1-8", gives="bends",
              formula="pull of the worst bolt, factored, against l_eff t²/4 · yield / m, l_eff min(2 π m, 4 m + 1.25 e, π D/n)", cure="a thicker flange, or something wider welded to it"),
    CheckKind(key="flange_weld", name="weld of its hub flange", unit="MPa", factor="weld", source="blodgett", gives="lets go",
              formula="√((N/πd + 4 M/πd²)² + (V/πd + 2 T/πd²)²) / 0.707 leg, against 0.6 FEXX", cure="a larger leg, or something wider welded to it"),
    CheckKind(key="pad_plate", name="Pad bent between its webs", unit="MPa", factor="tab_yield", source="shigley-shaft", gives="bends",
              formula="6 (F (g − r)/4 or the overhang’s, + F e/2)/(b t²), b = 2 r + g at most its length, less its further holes, factored; of a coil F |g/4 − r/π| or F θ/π (r sin θ/θ − g/2), cos θ = g/2r", cure="a thicker pad, or its webs under the footprint"),
    CheckKind(key="pad_web", name="Webs of the pad at their feet", unit="MPa", factor="tab_yield", source="shigley-shaft", gives="bends",
              formula="N/(L t) + 6 M/(t L²) + 6 T h/4/(L t²), N = F/2 + (F e + T h)/g, couples with M and T h, factored; a clamp with F as it is; with a hole, of what is left beside it, and 6 V/2 · 0.225 d/(t b²)", cure="thicker or longer webs, or the webs further apart"),
    CheckKind(key="pad_column", name="Webs of the pad pressed", unit="N", factor="column", source="aisc-e3", gives="bends",
              formula="F/2 + (F e + T h)/g, factored, and half a clamp as it is, against the lower of Euler–Johnson and AISC E3", cure="thicker webs"),
    CheckKind(key="pad_weld", name="Weld at the pad’s feet", unit="MPa", factor="weld", source="blodgett", gives="lets go",
              formula="line force of the two outer fillets / 0.707 leg, against 0.6 FEXX", cure="a larger leg, or a longer pad"),
    CheckKind(key="perch_legs", name="U-bolts pulled", unit="", factor="bolt", source="shigley-bolts", gives="lets go", shows=("field:u_bolt_mm",),
              formula="T/(0.9 Rm A_s), T = F/4 + M_axle/(4 y) + M_leaf/(4 x) of the worst leg, nothing clamped, factored", cure="larger or stronger U-bolts"),
    CheckKind(key="perch_clamp", name="Seat kept shut", unit="N", factor="bolt", source="shigley-bolts", gives="lets go", shows=("field:u_bolt_mm",),
              formula="F + 6 M_axle/b + 6 M_leaf/l + M_z/(µ r), µ 0.2, factored, against the clamp of all four legs", cure="larger or stronger U-bolts, or a wider seat"),
    CheckKind(key="perch_tie", name="Tie bolt sheared at the seat", unit="", factor="bolt", source="en-1993-1-8", gives="lets go", shows=("field:tie_mm",),
              formula="√(F_x² + F_y²)/(0.6 Rm A), factored; no friction counted on", cure="a larger or stronger tie bolt"),
    CheckKind(key="perch_head", name="Tie bolt’s head pressing in the seat", unit="", factor="tab_yield", source="aisc-j7", gives="bends", shows=("field:plate_mm",),
              formula="√(F_x² + F_y²)/(1.8 Fy d t), factored", cure="a thicker seat"),
    CheckKind(key="perch_top", name="Plate over the leaf bent", unit="MPa", factor="tab_yield", source="shigley-shaft", gives="bends", shows=("field:top_mm",),
              formula="6 · 2 F c/(b t²), F the clamp of a leg, or what pulls it, factored, where that is more", cure="a thicker plate over the leaf"),
    CheckKind(key="pad_bolted", name="Pad bent beside its bolts", unit="MPa", factor="tab_yield", source="shigley-shaft", gives="bends", shows=("field:plate_mm",),
              formula="6 M/((b − d) t²), M of the worse bolt’s F/2 + V h/p on the plate across its webs, or past one; b by 45° from its washer, less further holes", cure="a thicker pad, or its webs nearer to the bolts"),
    CheckKind(key="pad_bolts", name="Bolts of the bearing", unit="", factor="bolt", source="en-1993-1-8", gives="lets go",
              formula="V/2 F_v + T/1.4 F_t, and T/F_t alone; T = F/2 + V h/p of the worse, factored", cure="larger or stronger bolts, or a bearing whose bolts stand further apart"),
    CheckKind(key="pad_hole", name="Bolts pressing in the pad", unit="", factor="tab_yield", source="aisc-j7", gives="bends", shows=("field:plate_mm",),
              formula="V/2, factored, against 1.8 Fy d t", cure="a thicker pad"),
    CheckKind(key="gusset", name="Gusset between the tubes", unit="MPa", factor="yielding", source="direct-stiffness", gives="bends",
              formula="F/(reach/2 · t), factored, against the as-welded yield", cure="a thicker gusset"),
    CheckKind(key="stud", name="Ball joint’s stud, bent at its seat", unit="MPa", factor="joint", source="shigley-shaft", gives="bends",
              formula="32 V·lever/(π d³) + N/(π d²/4), factored, against the stud’s yield", cure="a larger stud, or a shorter lever"),
    CheckKind(key="pull_out", name="Ball pulled out of its socket", unit="N", factor="joint", source="maker", gives="lets go",
              formula="pull along the stud, factored, against what the maker says the socket holds", cure="a larger ball joint, or its stud the other way round"),
    CheckKind(key="outer_joint", name="Outer joint, its rating", unit="N", factor="joint", source="maker", gives="lets go",
              formula="the force at the joint, factored, against the maker’s static rating", cure="a larger joint"),
    CheckKind(key="pivot_joint", name="At the pivots, their rating", unit="N", factor="joint", source="maker", gives="lets go",
              formula="the larger of both pivots’ forces, factored, against the maker’s static rating", cure="larger joints at the pivots"),
)  # fmt: skip


LIVES = ("life", "bar_life")  # those that say how long a part lasts


def tells_life(key: str) -> bool:
    """Whether a check says how long a part lasts.

    Args:
        key: as a result carries it.
    """
    return key.split(":")[0] in LIVES


def kind_of(key: str) -> CheckKind:
    """The kind of a check by its key, whatever it was asked of.

    Args:
        key: as a result carries it: "column", or "frame_weld:brace".
    """
    return CHECKS[key.split(":")[0]]


def asked(
    key: str, part: str, factors: DesignFactors, *, of: str = "", name: str = "", source: str = ""
) -> Asked:  # fmt: skip
    """A kind of check, asked of something.

    Args:
        key: of the table.
        part: what of the part it is about, in words ("tube", "end A").
        factors: the design's.
        of: which of several it is made of; it stands behind the key.
        name: in place of the table's.
        source: in place of the table's.
    """
    kind = CHECKS[key]
    factor = 1.0 if kind.factor == "none" else float(getattr(factors, kind.factor))
    return Asked(
        kind=kind, key=f"{key}:{of}" if of else key, name=name or kind.name, part=part, unit=kind.unit, factor=factor,
        factor_name=kind.factor, formula=kind.formula, source=source or kind.source,
    )  # fmt: skip
