"""The wall under a pad's two webs, where the member of the car, or the arm's tube, its wall and its metal are known."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.mount_wall import Spread, Wall, bent_through, feet_of_pair, sheared_through
from tirante.core.brackets.strike_pad import PadOnWebs, tilt, tips
from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Reproduction
from tirante.core.document.mounts import BoxMember, Mount
from tirante.core.document.settings import Settings
from tirante.core.parts.bracket.families.pad import PadCase, PadShape, times
from tirante.core.parts.bracket.families.wall_checks import wall_input, wall_of_member
from tirante.core.parts.stands import MIRROR
from tirante.core.parts.worst import worst_case

Array = NDArray[np.float64]
NOT_KNOWN = "the wall of what it stands on"
ON_TOP = 0.7  # cosine between the way a pad stands out and a box's height, from which on it is on the upper or the lower face


def wall_under(mount: Mount | None, out: Array) -> Wall | str:
    """The wall under a pad; or why it is not judged.

    Args:
        mount: that it stands on; None: nothing that is entered.
        out: the way from it to the pad (3), length 1.
    """
    if mount is None:
        return NOT_KNOWN
    shape, face = mount.shape, 0.0
    if isinstance(shape, BoxMember):
        up = np.array(shape.up) / np.linalg.norm(shape.up)
        on_top = max(abs(float(out @ way)) for way in (up, up * MIRROR)) > ON_TOP
        face = shape.width_mm if on_top else shape.height_mm
    return wall_of_member(mount, face)


def on_wall(pad: PadOnWebs, one: PadCase, factor: float) -> tuple[float, float, float]:
    """What a case does to the wall: straight off it or into it [N], over along the webs, and over across them [N·mm].

    Args:
        pad: plate and webs.
        one: the case.
        factor: on its forces.
    """
    blow = times(one.blow, factor)
    return abs(blow.push), tilt(pad, blow), tips(pad, blow)


def pad_wall_checks(
    shape: PadShape, wall: Wall, spread: Spread | None, cases: Sequence[PadCase], settings: Settings
) -> list[CheckResult]:
    """The wall bent through and sheared through; its webs stand along the member.

    Args:
        shape: of the pad.
        wall: under it.
        spread: plate between; None: there is none.
        cases: at least one.
        settings: factors.
    """
    pad = shape.pad
    feet = feet_of_pair(pad.length, pad.apart - pad.web, pad.web, 0.0)
    bend, shear = asked("mount_wall", "mount", settings.factors), asked("mount_shear", "mount", settings.factors)
    data = wall_input(wall, feet, 0.0, spread)

    def again(pull: float, tilt: float, rock: float, output: str) -> Reproduction:
        return Reproduction(topic="mount-wall", input={**data, "pull_n": pull, "tilt_nmm": tilt, "rock_nmm": rock}, output=output, figure="demand")  # fmt: skip

    def bent(one: PadCase) -> tuple[float, Reproduction, float]:
        does = on_wall(pad, one, bend.factor)
        used = bent_through(wall, feet, spread, *does)
        return used.use * used.strength.pull, again(*does, "equivalent_n"), used.strength.pull

    def sheared(one: PadCase) -> tuple[float, Reproduction, float]:
        does = on_wall(pad, one, shear.factor)
        line, least, _ = sheared_through(wall, feet, spread, *does)
        return line, again(*does, "line_n_per_mm"), least

    return [worst_case(bend, cases, bent), worst_case(shear, cases, sheared)]
