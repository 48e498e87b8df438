"""A state as SunSpec registers, encoded from the published model definitions that ship with
pysunspec2.

The controller tells models 1, 160 (a tracker a string, with its clock) and 714 (a DC port to the
bank); the monitor models 1, 802 (battery) and 714 (a DC port to the loads). Source: SunSpec
Alliance model definitions, in the package.
"""

import struct
from typing import Any

from sunspec2.device import Model

from .living import State

BASE = 40_000
"""Of the three addresses a map may begin at, the usual one. Source: SunSpec Device Information
Model specification."""
MARK = b"SunS"
END = struct.pack(">HH", 0xFFFF, 0)
EPOCH_S = 946_684_800.0
"""Model 160 counts its seconds from the year 2000."""
TRACKING, OFF = 4, 1
STORAGE_PORT, LOAD_PORT = 1, 4


def _model(
    model_id: int, points: dict[str, Any], groups: dict[str, list[dict[str, Any]]] | None = None
) -> bytes:
    """A model's bytes from its values in units; scale factors are given with it and take effect
    first."""
    groups = groups or {}
    model = Model(
        model_id=model_id,
        data={**points, **{name: [{} for _ in rows] for name, rows in groups.items()}},
    )
    for name, value in points.items():
        model.points[name].set_value(value, computed=not name.endswith("_SF"))
    for name, rows in groups.items():
        for group, row in zip(model.groups[name], rows, strict=True):
            for point, value in row.items():
                group.points[point].set_value(value, computed=True)
    return bytes(model.get_mb())


def _registers(*models: bytes) -> list[int]:
    whole = MARK + b"".join(models) + END
    return list(struct.unpack(f">{len(whole) // 2}H", whole))


def _common(kind: str) -> bytes:
    names = {"Mn": "Stand-in", "Md": kind, "Vr": "1", "SN": "simulated", "Opt": "", "DA": 1}
    return _model(1, names)


def controller_registers(state: State) -> list[int]:
    """The charge controller's register map."""
    watts = state.panel_v * state.charge_a
    tracker = {
        "ID": 1,
        "IDStr": "Panels",
        "DCA": max(state.charge_a, 0.0),
        "DCV": max(state.panel_v, 0.0),
        "DCW": max(watts, 0.0),
        "DCWH": 0,
        "Tms": int(state.at_s - EPOCH_S),
        "Tmp": round(state.box_c),
        "DCSt": TRACKING if state.charge_a > 0.0 else OFF,
        "DCEvt": 0,
    }
    scales = {"DCA_SF": -2, "DCV_SF": -2, "DCW_SF": 0, "DCWH_SF": 0}
    return _registers(
        _common("Charge controller"),
        _model(160, {**scales, "Evt": 0, "N": 1, "TmsPer": 1}, {"module": [tracker]}),
        _port(STORAGE_PORT, "Bank", state.charge_a, state.volts, state.box_c),
    )


def monitor_registers(state: State, full_ah: float, heartbeat: int) -> list[int]:
    """The battery monitor's register map. Amps into the bank are positive.

    Parameters
    ----------
    state : State
        Volts, amps and charge of the station.
    full_ah : float
        What the bank holds full. [A·h]
    heartbeat : int
        Counts up at each look.
    """
    scales = {
        "AHRtg_SF": 0,
        "SoC_SF": -1,
        "DoD_SF": -1,
        "SoH_SF": 0,
        "V_SF": -2,
        "A_SF": -2,
        "W_SF": 0,
    }
    rest = {"WHRtg_SF": 0, "WChaDisChaMax_SF": 0, "DisChaRte_SF": 0, "CellV_SF": -3, "AMax_SF": 0}
    net_a = state.charge_a - state.load_a
    bank = {
        "AHRtg": round(full_ah),
        "SoC": 100.0 * state.charge_share,
        "DoD": 100.0 * (1.0 - state.charge_share),
        "V": state.volts,
        "A": net_a,
        "W": net_a * state.volts,
        "Hb": heartbeat % 65_536,
        "ChaSt": 4 if net_a > 0 else 3,
    }
    return _registers(
        _common("Battery monitor"),
        _model(802, {**scales, **rest, **bank}),
        _port(LOAD_PORT, "Loads", state.load_a, state.volts, None),
    )


def _port(kind: int, name: str, amps: float, volts: float, box_c: float | None) -> bytes:
    scales = {"DCA_SF": -2, "DCV_SF": -2, "DCW_SF": 0, "DCWH_SF": 0, "Tmp_SF": -1}
    port: dict[str, Any] = {
        "PrtTyp": kind,
        "ID": 1,
        "IDStr": name,
        "DCA": amps,
        "DCV": volts,
        "DCW": amps * volts,
    }
    if box_c is not None:
        port["Tmp"] = box_c
    whole = {"NPrt": 1, "DCA": amps, "DCW": amps * volts}
    return _model(714, {**scales, **whole}, {"Prt": [port]})
