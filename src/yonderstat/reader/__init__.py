"""The reader of sites that report themselves: open protocols in, a record and alarms out. It only
ever reads."""

from .delivery import FROM_VARIABLE, SMTP_VARIABLE, deliver_due
from .judging import Judging
from .mqtt import parse_message, read_mqtt
from .polling import SPOOL_VARIABLE, Reader, run_reader, spool_file
from .rounds import Asking, Round
from .spool import Spool
from .sunspec import SunSpecReader
from .telemetry import parse_telemetry, read_telemetry
from .told import DeviceError, Told, checked, merged

__all__ = [
    "FROM_VARIABLE",
    "SMTP_VARIABLE",
    "SPOOL_VARIABLE",
    "Asking",
    "DeviceError",
    "Judging",
    "Reader",
    "Round",
    "Spool",
    "SunSpecReader",
    "Told",
    "checked",
    "deliver_due",
    "merged",
    "parse_message",
    "parse_telemetry",
    "read_mqtt",
    "read_telemetry",
    "run_reader",
    "spool_file",
]
