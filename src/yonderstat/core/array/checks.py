"""A string at its coldest and hottest, against its controller and the wire."""

from dataclasses import dataclass

from ..data import rows
from .labels import STANDARD_C, ModuleLabel

FULL_SUN_RISE_K = 31.0
ENOUGH_LEFT, NOTHING_LEFT = 0.85, 0.02
"""With this share of its current left in the heat a string still finishes the charge; under that
nothing flows."""
CONTINUOUS = 1.25
"""[P] NEC 690.8."""
WORKING_V_PER_K = -0.0043
"""Working volts against the cell's temperature where the label is silent. [C]"""


@dataclass(frozen=True, slots=True)
class ColdVolts:
    """Open-circuit volts of a string in the cold, by both rules [V]; the higher decides."""

    by_coefficient: float
    by_table: float | None
    """None below the table's end."""

    @property
    def deciding(self) -> float:
        """The higher of the two."""
        return max(self.by_coefficient, self.by_table or 0.0)

    @property
    def rule(self) -> str:
        """Which of them decided, in words."""
        return (
            "the table in the electrical code"
            if (self.by_table or 0.0) > self.by_coefficient
            else "the temperature figure on the label"
        )


def nec_factor(temperature_c: float) -> float | None:
    """Voltage correction of the code's table; between rows the colder, above it 1, below it None.

    References
    ----------
    NEC Table 690.7(A).
    """
    if temperature_c > float(rows("nec_cold_volts")[0]["to_c"]):
        return 1.0
    for row in rows("nec_cold_volts"):
        if temperature_c >= float(row["from_c"]):
            return float(row["factor"])
    return None


def cold_open_v(
    label: ModuleLabel, series: int, measured_v_oc: float | None, cold_c: float
) -> ColdVolts:
    """Open-circuit volts of a string on the coldest morning.

    Parameters
    ----------
    series : int
        Panels one after another.
    measured_v_oc : float or None
        Open volts of one panel by a meter, at 25 °C. [V]
    cold_c : float
        The coldest morning. [°C]
    """
    one = max(label.v_oc, measured_v_oc or 0.0) * series
    factor = nec_factor(cold_c)
    return ColdVolts(
        one * (1.0 + label.v_oc_per_k * (cold_c - STANDARD_C)),
        None if factor is None else one * factor,
    )


def hot_working_v(label: ModuleLabel, series: int, air_c: float, rise_k: float) -> float:
    """Working volts of a string on the hottest afternoon in full sun [V].

    Parameters
    ----------
    series : int
        Panels one after another.
    air_c : float
        The hottest afternoon. [°C]
    rise_k : float
        How far cells are above the air in full sun. [K]
    """
    return label.v_mp * series * (1.0 + WORKING_V_PER_K * (air_c + rise_k - STANDARD_C))


def source_circuit_a(label: ModuleLabel, parallel: int) -> float:
    """Current the source circuit is counted with [A]: 1.25 · I_sc · strings."""
    return CONTINUOUS * label.i_sc * parallel


def conductor_a(label: ModuleLabel, parallel: int) -> float:
    """What conductor and device must stand [A]: 1.25 times that."""
    return CONTINUOUS * source_circuit_a(label, parallel)
