"""What a column of a meter's record is, by its heading, in the six languages such devices are sold
with.

English, German, French, Spanish, Italian and Dutch [C: words as such devices and spreadsheets use
them].
"""

import re

MOMENT, DATE, CLOCK, NET = "time", "date", "clock", "net_a"
"""The whole moment; the day and the time of day where they stand in columns of their own; current
into the bank."""

AMPS = r"(current|curr|amps?|a|strom|courant|corriente|corrente|stroom|ampere|i)"
FORMS: tuple[tuple[str, str], ...] = (
    # What is counted over time, or is power, is none of our channels.
    ("", r"(\b(k?wh?|m?ah|va|watts?|power|energy|leistung|energie|puissance|potencia|potenza|vermogen)\b)"),
    ("charge_share", r"(\bso[ch]\b|state of charge|charge ?%|charge_share|ladezustand|ladestand|état de charge"
                     r"|etat de charge|estado de carga|stato di carica|laadtoestand)"),
    ("box_c", r"(\bbox\b|\btemp|°c|°f)"),
    ("load_a", rf"(\bloads?\b|\bout(put)?\b|\bdraw\b|discharg|consum|verbrauch|entlade|\blast\b|laststrom|décharge"
               rf"|consomm|descarga|scarica|carico|assorb|belasting|verbruik|ontlaad).*\b{AMPS}\b|load_a"
               rf"|^(entladestrom|laststrom|verbraucherstrom|verbruiksstroom|ontlaadstroom)\b"),
    ("charge_a", rf"(charg|solar|\bpv\b|\barray\b|\bpanel|\bin(put)?\b|\bladen\b|solaire|carga|carica|laad)"
                 rf".*\b{AMPS}\b|charge_a|^(ladestrom|laadstroom|solarstrom)\b"
                 rf"|courant (de )?(charge|solaire)|corriente (de )?(carga|solar)|corrente (di )?(carica|solare)"),
    (NET, rf"^(net|netto|battery|batt\w*|bank|shunt|accu|batterie\w*|batería|batteria)? ?{AMPS}( m?a)?$"
          r"|^(batteriestrom|accustroom)\b|net_a"),
    ("volts", r"(\bvolts?\b|voltage|\bm?v\b|spannung|tension|tensión|voltaje|tensione|spanning|\bubat)"),
    (MOMENT, r"^(date ?time|time ?stamp|date (and|&|/)? ?time|when|utc|epoch|unix( time)?|zeitstempel"
             r"|datum (und|/|&)? ?(uhr)?zeit|horodatage|date (et )?heure|fecha (y )?hora|data (e )?ora|datum (en )?tijd"
             r"|tijdstip|moment)\b"),
    (DATE, r"^(date|day|datum|tag|jour|fecha|día|dia|data|giorno|dag)\b"),
    (CLOCK, r"^(time|clock|zeit|uhrzeit|heure|hora|ora|tijd|tid)\b"),
)  # fmt: skip
"""The first that fits is it; of each thing a file has one."""


def plain_heading(cell: str) -> str:
    """A heading in small letters, its signs as blanks, but for those that are a unit."""
    text = re.sub(r"[\s_\-.,;:()\[\]{}|]+", " ", cell.casefold()).strip()
    return text


def guessed(heading: list[str]) -> list[str | None]:
    """What each column is, by its heading; each thing once. A date or a time alone is the whole
    moment."""
    found: list[str | None] = []
    for cell in heading:
        plain = plain_heading(cell)
        match = next(
            (name for name, form in FORMS if name not in found and re.search(form, plain)), None
        )
        found.append(match or None)
    if MOMENT in found:
        return [None if name in {DATE, CLOCK} else name for name in found]
    if DATE in found and CLOCK in found:
        return found
    return [MOMENT if name in {DATE, CLOCK} else name for name in found]
