"""Reading a contact log (ADIF 3.1, .adi and .adx): what was worked when, and which records could
not be read."""

import re
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from typing import Literal
from xml.etree.ElementTree import ParseError

import adif_io
import defusedxml.ElementTree
from defusedxml import DefusedXmlException

from yonderstat.core.data import rows
from yonderstat.core.design import Mode
from yonderstat.core.draw import Activity

LogForm = Literal["adi", "adx"]
MOST_LISTED = 50
SPEECH, VOICE_FM = (
    {"SSB", "USB", "LSB", "AM"},
    {"FM", "DIGITALVOICE", "C4FM", "DSTAR", "DMR", "FUSION", "M17", "FREEDV"},
)
END_OF_HEADER, END_OF_RECORD = re.compile(r"<eoh>", re.I), re.compile(r"<eor>", re.I)


class ContactLogError(ValueError):
    """The text is not a contact log."""


@dataclass(frozen=True, slots=True)
class Malformed:
    """A record that could not be read: its number in this part of the log, from 1, and why."""

    record: int
    why: str


@dataclass(frozen=True, slots=True)
class LogDigest:
    """What a part of a log says. Only the first malformed records are listed; `malformed_count`
    counts all."""

    contacts: int
    activity: list[Activity]
    malformed: list[Malformed]
    malformed_count: int


def mode_of(name: str) -> Mode:
    """Our mode for an ADIF mode: speech, CW, FM and digital voice, or data."""
    upper = name.upper()
    if upper in SPEECH:
        return "ssb"
    if upper == "CW":
        return "cw"
    return "fm" if upper in VOICE_FM else "data"


def _band_of(fields: dict[str, str]) -> str:
    """The band named, or the one the frequency lies in.

    Raises
    ------
    ValueError
        If the frequency is not a number, or lies in no amateur band.
    """
    band = fields.get("BAND", "").strip().lower()
    if band:
        return band[:12]
    named = fields.get("FREQ", "")
    try:
        mhz = float(named)
    except ValueError:
        raise ValueError(f"its frequency {named[:20]} is not a number") from None
    for row in rows("bands"):
        if float(row["lower_mhz"]) <= mhz <= float(row["upper_mhz"]):
            return row["band"]
    raise ValueError(f"its frequency {mhz:g} MHz isn't in an amateur band")


def _read(fields: dict[str, str]) -> tuple[str, int, str, Mode]:
    """Day, hour, band and mode of a record.

    Raises
    ------
    ValueError
        Saying what is missing or wrong.
    """
    for needed in ("QSO_DATE", "TIME_ON", "MODE"):
        if not fields.get(needed):
            raise ValueError(f"has no {needed} field")
    if not fields.get("BAND") and not fields.get("FREQ"):
        raise ValueError("has no BAND and no FREQ field")
    stamp = fields["QSO_DATE"] + fields["TIME_ON"][:4]
    try:
        when = datetime.strptime(stamp, "%Y%m%d%H%M")
    except ValueError:
        raise ValueError(f"its date and time, {stamp[:20]}, don't exist") from None
    return when.strftime("%Y-%m-%d"), when.hour, _band_of(fields), mode_of(fields["MODE"])


def _adi_records(text: str) -> Iterator[dict[str, str] | str]:
    """The fields of each record, or what is wrong with it."""
    header = END_OF_HEADER.search(text)
    parts = END_OF_RECORD.split(text[header.end() :] if header else text)
    if parts and not parts[-1].strip():
        parts.pop()
    for part in parts:
        try:
            contacts, _ = adif_io.read_from_string(f"<EOH>{part}<EOR>")
        except (adif_io.AdifError, ValueError, IndexError) as error:
            yield f"cannot be read: {error}"
            continue
        # A length that runs past the record leaves the library nothing to return.
        yield (
            {key.upper(): str(value) for key, value in contacts[0].items()}
            if contacts
            else "is cut short"
        )


def _adx_records(text: str) -> Iterator[dict[str, str] | str]:
    try:
        root = defusedxml.ElementTree.fromstring(text.encode("utf-8"), forbid_dtd=True)
    except (ParseError, DefusedXmlException, LookupError, ValueError) as error:
        raise ContactLogError(f"can't be read as an ADX file: {error}") from None
    for record in root.iter("RECORD"):
        yield {field.tag.upper(): (field.text or "").strip() for field in record}


def digest_log(text: str, form: LogForm) -> LogDigest:
    """Digest a log, or a part of one cut between records. Malformed records are counted and listed,
    never fatal.

    Raises
    ------
    ContactLogError
        If there is not one record in it.
    """
    counts: Counter[tuple[str, int, str, Mode]] = Counter()
    malformed: list[Malformed] = []
    bad = number = 0
    for number, fields in enumerate(
        _adi_records(text) if form == "adi" else _adx_records(text), start=1
    ):
        try:
            if isinstance(fields, str):
                raise ValueError(fields)
            counts[_read(fields)] += 1
        except ValueError as error:
            bad += 1
            if len(malformed) < MOST_LISTED:
                malformed.append(Malformed(number, str(error)[:200]))
    if number == 0:
        raise ContactLogError("has no contacts in it; in an ADIF log each contact ends with <EOR>")
    activity = [Activity(*key, contacts) for key, contacts in sorted(counts.items())]
    return LogDigest(number - bad, activity, malformed, bad)
