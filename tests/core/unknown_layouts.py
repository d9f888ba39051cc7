"""Suspensions that no file of the project describes, as data: points, bodies, joints and roles alone.

Invented for the tests; the layouts themselves are of the trade's common stock.
"""

from __future__ import annotations

from typing import Any

from tirante.core.document.end import Damper, End

Where = tuple[float, float, float]


def hinge(name: str, body: str, on: str, a: str, b: str, **more: Any) -> dict[str, Any]:
    return {"kind": "hinge", "name": name, "body": body, "on": on, "points": (a, b), **more}


def ball(name: str, a: str, b: str, point: str, **more: Any) -> dict[str, Any]:
    return {"kind": "ball", "name": name, "bodies": (a, b), "point": point, **more}


def link(name: str, a: tuple[str, str], b: tuple[str, str], **more: Any) -> dict[str, Any]:
    one, two = ({"body": body, "point": point} for body, point in (a, b))
    return {"kind": "link", "name": name, "a": one, "b": two, **more}


def made(
    axle: str, joints: list[dict[str, Any]], roles: dict[str, Any], at: dict[str, Where], sprung: str, carriers: tuple[str, ...], front: bool = False, **more: Any
) -> End:  # fmt: skip
    """An end whose damper stands on a body; points in the middle of the car stand once."""
    bodies = tuple(dict.fromkeys(
        body for j in joints for body in (
            (j["a"]["body"], j["b"]["body"]) if j["kind"] == "link" else j["bodies"] if j["kind"] in ("ball", "bush") else (j["body"], j["on"])
        ) if body not in ("ground", "rack")
    ))  # fmt: skip
    once = {p for j in joints if j.get("pair") is False for p in _points(j)}
    kind = {
        "name": "unknown", "title": "Of no file", "axle": axle, "bodies": bodies, "joints": tuple(joints), "carriers": carriers,
        "points": tuple({"name": p, "what": p.replace("_", " "), "pair": p not in once} for p in at if not p.startswith("damper")),
        "roles": {"wheel_centre": "wheel_centre", **roles},
    }  # fmt: skip
    damper = {
        "a": {"body": "ground", "point": "damper_top"},
        "b": {"body": sprung, "point": "damper_low"},
        "rate_n_per_mm": 60.0,
    }
    return End.model_validate(
        {
            "template": "unknown", "kind": kind, "end": "front" if front else "rear", "points": at, "damper": damper,
            "wheel": {"loaded_radius_mm": at["wheel_centre"][2]}, **more,
        }
    )  # fmt: skip


def _points(joint: dict[str, Any]) -> tuple[str, ...]:
    if joint["kind"] == "link":
        return joint["a"]["point"], joint["b"]["point"]
    return joint["points"] if joint["kind"] == "hinge" else (joint["point"],)


def semi_trailing() -> End:
    return made(
        "independent", [hinge("blade pivots", "blade", "ground", "in_p", "out_p")], {"wheel_body": "blade"},
        {"in_p": (330.0, 170.0, 250.0), "out_p": (210.0, 560.0, 262.0), "wheel_centre": (0.0, 720.0, 310.0), "damper_top": (-30.0, 520.0, 690.0),
         "damper_low": (-60.0, 560.0, 235.0)}, "blade", (),
    )  # fmt: skip


def de_dion() -> End:
    return made(
        "beam",
        [hinge("a frame pivots", "a_frame", "ground", "af_front", "af_rear", pair=False), ball("a frame ball", "a_frame", "tube", "af_ball", pair=False),
         link("side link", ("ground", "sl_front"), ("tube", "sl_rear"))], {"wheel_body": "tube"},
        {"af_front": (360.0, 260.0, 420.0), "af_rear": (360.0, -260.0, 420.0), "af_ball": (-60.0, 0.0, 400.0), "sl_front": (700.0, 480.0, 260.0),
         "sl_rear": (20.0, 560.0, 250.0), "wheel_centre": (0.0, 720.0, 320.0), "damper_top": (-40.0, 480.0, 720.0), "damper_low": (-60.0, 540.0, 300.0)},
        "tube", ("tube",),
    )  # fmt: skip


def h_arm() -> End:
    return made(
        "independent",
        [hinge("h inner", "h_arm", "ground", "h_in_f", "h_in_r"), hinge("h outer", "hub", "h_arm", "h_out_f", "h_out_r"),
         link("camber link", ("ground", "cam_in"), ("hub", "cam_out"))], {"wheel_body": "hub"},
        {"h_in_f": (150.0, 220.0, 200.0), "h_in_r": (-150.0, 220.0, 200.0), "h_out_f": (120.0, 660.0, 190.0), "h_out_r": (-120.0, 660.0, 190.0),
         "cam_in": (0.0, 300.0, 440.0), "cam_out": (0.0, 640.0, 470.0), "wheel_centre": (0.0, 720.0, 308.0), "damper_top": (-150.0, 430.0, 640.0),
         "damper_low": (-140.0, 560.0, 210.0)}, "h_arm", ("hub",),
    )  # fmt: skip


def leading_arm() -> End:
    return made(
        "independent",
        [hinge("arm pivots", "lead_arm", "ground", "la_in", "la_out"), hinge("kingpin", "stub", "lead_arm", "kp_low", "kp_up"),
         link("steer link", ("rack", "st_in"), ("stub", "st_out"))], {"wheel_body": "stub", "steer_axis": ("kp_low", "kp_up")},
        {"la_in": (-420.0, 260.0, 300.0), "la_out": (-420.0, 480.0, 300.0), "kp_low": (10.0, 640.0, 220.0), "kp_up": (-15.0, 620.0, 400.0),
         "st_in": (-110.0, 300.0, 330.0), "st_out": (-120.0, 650.0, 330.0), "wheel_centre": (0.0, 715.0, 305.0), "damper_top": (-120.0, 470.0, 690.0),
         "damper_low": (-90.0, 500.0, 300.0)}, "lead_arm", ("stub",), front=True,
    )  # fmt: skip


def torque_arm() -> End:
    return made(
        "beam",
        [link("lower trailing link", ("ground", "lt_f"), ("housing", "lt_r")), link("nose link", ("ground", "nose_up"), ("housing", "nose_low"), pair=False),
         link("track bar", ("ground", "tb_c"), ("housing", "tb_a"), pair=False)], {"wheel_body": "housing"},
        {"lt_f": (560.0, 430.0, 280.0), "lt_r": (20.0, 470.0, 230.0), "nose_up": (900.0, 60.0, 470.0), "nose_low": (900.0, 60.0, 330.0),
         "tb_c": (-120.0, 450.0, 360.0), "tb_a": (-120.0, -440.0, 350.0), "wheel_centre": (0.0, 730.0, 330.0), "damper_top": (-60.0, 440.0, 760.0),
         "damper_low": (-80.0, 470.0, 300.0)}, "housing", ("housing",),
    )  # fmt: skip


def rocking_arm() -> End:
    return made(
        "independent",
        [hinge("rocking pivots", "rocking_arm", "ground", "ra_f", "ra_r"), hinge("lower pivots", "lower_w", "ground", "lw_f", "lw_r"),
         ball("up ball", "rocking_arm", "stub", "up_ball"), ball("low ball", "lower_w", "stub", "low_ball"), link("tie", ("rack", "tie_in"), ("stub", "tie_out"))],
        {"wheel_body": "stub", "steer_axis": ("low_ball", "up_ball")},
        {"ra_f": (60.0, 330.0, 480.0), "ra_r": (-60.0, 330.0, 480.0), "up_ball": (-10.0, 640.0, 490.0), "lw_f": (180.0, 240.0, 200.0), "lw_r": (-180.0, 240.0, 200.0),
         "low_ball": (5.0, 690.0, 185.0), "tie_in": (120.0, 280.0, 250.0), "tie_out": (110.0, 665.0, 260.0), "wheel_centre": (0.0, 715.0, 305.0),
         "damper_top": (0.0, 170.0, 120.0), "damper_low": (0.0, 200.0, 470.0)}, "rocking_arm", ("stub",), front=True,
    )  # fmt: skip


def integral_link() -> End:
    return made(
        "independent",
        [hinge("low pivots", "low_arm", "ground", "la_f", "la_r"), ball("low ball", "low_arm", "carrier", "lb"),
         link("integral link", ("low_arm", "il_low"), ("carrier", "il_up")), link("camber link", ("ground", "ca_in"), ("carrier", "ca_out")),
         link("toe link", ("ground", "to_in"), ("carrier", "to_out"))], {"wheel_body": "carrier"},
        {"la_f": (180.0, 220.0, 200.0), "la_r": (-170.0, 240.0, 205.0), "lb": (-60.0, 660.0, 190.0), "il_low": (110.0, 600.0, 210.0), "il_up": (105.0, 610.0, 380.0),
         "ca_in": (-20.0, 320.0, 450.0), "ca_out": (-10.0, 640.0, 480.0), "to_in": (-230.0, 300.0, 260.0), "to_out": (-220.0, 660.0, 255.0),
         "wheel_centre": (0.0, 720.0, 310.0), "damper_top": (20.0, 480.0, 650.0), "damper_low": (10.0, 560.0, 225.0)}, "low_arm", ("carrier",),
    )  # fmt: skip


def beam_on_a_arms() -> End:
    bush = {
        "kind": "bush",
        "name": "a arm bush",
        "bodies": ("a_arm", "dead_axle"),
        "point": "aa_ball",
        "direction": (0.0, 1.0, 0.0),
    }
    return made(
        "beam", [hinge("a arm pivots", "a_arm", "ground", "aa_in", "aa_out"), bush, link("upper rod", ("ground", "ur_c"), ("dead_axle", "ur_a"), pair=False)],
        {"wheel_body": "dead_axle"},
        {"aa_in": (500.0, 260.0, 300.0), "aa_out": (500.0, 480.0, 300.0), "aa_ball": (0.0, 420.0, 280.0), "ur_c": (450.0, 0.0, 520.0), "ur_a": (0.0, 0.0, 480.0),
         "wheel_centre": (0.0, 720.0, 320.0), "damper_top": (-40.0, 480.0, 720.0), "damper_low": (-60.0, 540.0, 300.0)}, "dead_axle", ("dead_axle",),
        bushes={"a arm bush": {"radial_n_per_mm": 6000.0, "axial_n_per_mm": 800.0}},
    )  # fmt: skip


def spring_on_a_link() -> End:
    bush = {
        "kind": "universal", "name": "sl bush", "body": "sl", "on": "ground", "point": "s_in", "end": "s_out", "direction": (1.0, 0.0, 0.0),
    }  # fmt: skip
    end = made(
        "independent",
        [bush, ball("sl ball", "sl", "kn", "s_out"), hinge("ua pivots", "ua", "ground", "u_f", "u_r"), ball("ua ball", "ua", "kn", "u_o"),
         link("drag strut", ("ground", "ds_f"), ("kn", "ds_r")), link("tie", ("rack", "t_i"), ("kn", "t_o"))], {"wheel_body": "kn", "steer_axis": ("s_out", "u_o")},
        {"s_in": (0.0, 240.0, 200.0), "s_out": (0.0, 690.0, 185.0), "u_f": (110.0, 320.0, 480.0), "u_r": (-110.0, 320.0, 480.0), "u_o": (-10.0, 640.0, 500.0),
         "ds_f": (520.0, 450.0, 230.0), "ds_r": (50.0, 670.0, 200.0), "t_i": (120.0, 280.0, 250.0), "t_o": (110.0, 665.0, 260.0), "wheel_centre": (0.0, 715.0, 305.0),
         "damper_top": (-40.0, 400.0, 760.0), "damper_low": (-30.0, 560.0, 505.0)}, "ua", ("kn",), front=True,
    )  # fmt: skip
    assert end.damper
    coil = Damper.model_validate(
        {
            "a": {"body": "ground", "point": "coil_t"},
            "b": {"body": "sl", "point": "coil_l"},
            "rate_n_per_mm": 80.0,
            "od_mm": 110.0,
        }
    )
    return end.model_copy(
        update={
            "points": {**end.points, "coil_t": (0.0, 430.0, 520.0), "coil_l": (0.0, 500.0, 215.0)}, "other_dampers": {"coil": coil},
            "damper": end.damper.model_copy(update={"rate_n_per_mm": None}),
        }
    )  # fmt: skip


UNKNOWN = {
    make.__name__: make
    for make in (
        semi_trailing, de_dion, h_arm, leading_arm, torque_arm, rocking_arm, integral_link, beam_on_a_arms, spring_on_a_link
    )
}  # fmt: skip
