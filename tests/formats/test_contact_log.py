"""Contact logs: files the library writes, awkward ones by hand, and what they propose."""

import time

import adif_io
import pytest

from tests.samples import quay_street
from yonderstat.core.draw import Activity, logged_tempo, usual_overs
from yonderstat.formats import ContactLogError, digest_log, mode_of


def record(**fields: str) -> str:
    usual = {
        "CALL": "QY3KOW",
        "QSO_DATE": "20250614",
        "TIME_ON": "183012",
        "BAND": "40m",
        "MODE": "SSB",
    }
    return (
        "".join(f"<{key}:{len(value)}>{value}" for key, value in {**usual, **fields}.items())
        + "<EOR>\n"
    )


def test_what_the_library_writes_reads_back() -> None:
    """Round trip through adif-io's own writer."""
    fields = {
        "CALL": "QY3RIM",
        "QSO_DATE": "20250614",
        "TIME_ON": "1830",
        "BAND": "2M",
        "MODE": "FM",
    }
    header = adif_io.headers_to_adif(adif_io.headers_from_dict({"PROGRAMID": "test"}))
    text = str(header) + str(adif_io.qso_to_adif(adif_io.qso_from_dict(fields))) * 3
    digest = digest_log(text, "adi")
    assert digest.activity == [Activity("2025-06-14", 18, "2m", "fm", 3)]
    assert digest.malformed_count == 0


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("<CALL:60>QY3ABL<EOR>", "cut short"),
        ("<CALL:6>QY3ABL<EOR>", "has no QSO_DATE"),
        (record(QSO_DATE="20259999"), "don't exist"),
        (record(TIME_ON="2575"), "don't exist"),
        (record(MODE=""), "has no MODE"),
        (record(BAND=""), "no BAND and no FREQ"),
        (record(BAND="", FREQ="many"), "is not a number"),
        (record(BAND="", FREQ="100.0"), "isn't in an amateur band"),
        ("<CALL:6>QY3ABL<CALL:6>QY3ABL" + record(), "cannot be read"),
    ],
)
def test_malformed_records_are_listed_and_not_fatal(text: str, why: str) -> None:
    digest = digest_log("header <EOH>\n" + record() + text + record(), "adi")
    assert digest.contacts == 2
    assert digest.malformed_count == 1
    assert digest.malformed[0].record == 2
    assert why in digest.malformed[0].why


def test_awkward_but_right() -> None:
    """Lower case, no header, lengths with types, comments between fields, frequency in place of
    band."""
    text = (
        "<call:6>QY3ABL some words "
        "<qso_date:8:D>20250101<time_on:4:T>0005<freq:6>14.074<mode:3>FT8<eor>"
        "<CALL:6>QY3ABL<QSO_DATE:8>20250101<TIME_ON:6>235959<FREQ:5>145.5<MODE:2>FM<EOR>  \n"
    )
    digest = digest_log(text, "adi")
    assert digest.activity == [
        Activity("2025-01-01", 0, "20m", "data", 1),
        Activity("2025-01-01", 23, "2m", "fm", 1),
    ]


def test_adx() -> None:
    fields = "<QSO_DATE>20250614</QSO_DATE><TIME_ON>1830</TIME_ON><BAND>20M</BAND><MODE>CW</MODE>"
    text = f"<ADX><HEADER/><RECORDS><RECORD>{fields}</RECORD><RECORD><CALL>QY3ABL</CALL></RECORD></RECORDS></ADX>"
    digest = digest_log(text, "adx")
    assert digest.activity == [Activity("2025-06-14", 18, "20m", "cw", 1)]
    assert digest.malformed_count == 1


@pytest.mark.parametrize(
    ("text", "form"),
    [
        ("", "adi"),
        ("   \n", "adi"),
        ("<ADX>", "adx"),
        ("<ADX></ADX>", "adx"),
        ('<!DOCTYPE a [<!ENTITY b "c">]><ADX><RECORD>&b;</RECORD></ADX>', "adx"),
        ('<!DOCTYPE a SYSTEM "file:///etc/passwd"><ADX/>', "adx"),
    ],
)
def test_what_is_no_log_is_refused(text: str, form: str) -> None:
    with pytest.raises(ContactLogError):
        digest_log(text, form)  # type: ignore[arg-type]


def test_many_bad_records_are_counted_but_not_all_listed() -> None:
    digest = digest_log("<CALL:1>Q<EOR>" * 500 + record(), "adi")
    assert digest.malformed_count == 500
    assert len(digest.malformed) == 50


def test_a_hundred_thousand_contacts_are_a_matter_of_seconds() -> None:
    """Not a benchmark: a ceiling far above what it takes, so that only a change of order fails."""
    text = record() * 100_000
    began = time.process_time()
    assert digest_log(text, "adi").contacts == 100_000
    assert time.process_time() - began < 60


@pytest.mark.parametrize(
    ("name", "mode"),
    [("USB", "ssb"), ("am", "ssb"), ("CW", "cw"), ("FM", "fm"), ("DMR", "fm"), ("FT8", "data")],
)
def test_modes(name: str, mode: str) -> None:
    assert mode_of(name) == mode


def test_a_tempo_by_hand() -> None:
    """Two days; HF in three hours, 12 SSB contacts of 4 × 25 s: 1200 s over 3 h is 11.1 %, 1.5 h a
    day."""
    activity = [
        Activity("2025-06-14", 18, "40m", "ssb", 6),
        Activity("2025-06-14", 19, "40m", "ssb", 4),
        Activity("2025-06-15", 19, "40m", "ssb", 2),
    ]
    logged = logged_tempo(quay_street(), activity, usual_overs())
    assert (logged.days, logged.contacts, logged.unplaced) == (2, 12, 0)
    hf = logged.loads[0]
    assert hf.load_id == "hf-set"
    assert hf.hours_per_day == pytest.approx(1.5)
    assert hf.transmit_share == pytest.approx(1200 / (3 * 3600))
    assert hf.by_hour[19] == pytest.approx(3.0)
    assert [(item.band, item.mode, item.contacts) for item in logged.by_band] == [
        ("40m", "ssb", 12)
    ]
    assert logged.tempo.overrides[0].load == "hf-set"


def test_contacts_no_set_covers_are_counted_apart() -> None:
    design = quay_street()
    no_vhf = design.model_copy(
        update={
            "draw": design.draw.model_copy(
                update={"loads": [x for x in design.draw.loads if x.id == "hf-set"]}
            )
        }
    )
    logged = logged_tempo(no_vhf, [Activity("2025-06-14", 18, "2m", "fm", 5)], usual_overs())
    assert logged.unplaced == 5
    assert logged.loads == ()
