"""What a string puts into the bank, with simple derates until each hour is computed from the I–V curve."""

from ..data import rows_by
from ..design import ControllerKind


def derate(name: str) -> float:
    """One of the simple derates of the trade, by name."""
    return float(rows_by("derates", "derate")[name]["factor"])


def charge_volts(blocks: int) -> float:
    """Mean volts of the bank while it is charged [V], from the number of 12 V blocks."""
    return blocks * derate("charge_v_12v")


def class_working_volts(cells: int) -> float:
    """Volts at maximum power usual for a panel of this cell count [V]."""
    return float(rows_by("module_classes", "cells")[str(cells)]["working_v"])


def string_daily_ah(
    kind: ControllerKind,
    module_w: float,
    working_v: float,
    series: int,
    parallel: int,
    sun_hours: float,
    charge_v: float,
) -> float:
    """Amp-hours a day a string puts into the bank. [A·h]

    Parameters
    ----------
    kind : {'pwm', 'mppt', 'none'}
        A PWM controller, or none at all, passes the panel's own current; an MPPT one passes its power.
    module_w, working_v : float
        Label watts of one module and its volts at maximum power. [W], [V]
    sun_hours : float
        Sun-hours on the plane. [h]
    charge_v : float
        Mean volts of the bank while charging. [V]

    Notes
    -----
    Below the bank's charging volts a string gives nothing, whatever the controller here.
    """
    if working_v * series < charge_v:
        return 0.0
    if kind == "mppt":
        array_wh = module_w * series * parallel * sun_hours
        return array_wh * derate("wire") * derate("panel_heat") * derate("mppt_conversion") / charge_v
    return module_w / working_v * parallel * sun_hours * derate("wire")
