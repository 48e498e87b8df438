"""The charts of the report: black on white, each with a name that is read aloud."""

from collections.abc import Iterable, Sequence
from html import escape

from yonderstat.core import Report
from yonderstat.core.design import Design
from yonderstat.core.rehearse.report import YearBand

MONTHS = "JFMAMJJASOND"
MONTH_DAYS = (31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)
WIDTH, LEFT, SCALE, TEXT = 720, 150, 42, 'font-family="DejaVu Sans" font-size="11"'
MOST_ROWS, MOST_LETTERS = 16, 24
"""Of a chart with a row for each load; what is less than these is in the table."""
VOLT_STEPS = (0.5, 1.0, 2.0, 5.0, 10.0)
MOST_TICKS = 9


def _svg(height: int, label: str, inside: Iterable[str]) -> str:
    return (
        f'<svg viewBox="0 0 {WIDTH} {height}" role="img" aria-label="{escape(label)}" {TEXT}>'
        f"<title>{escape(label)}</title>{''.join(inside)}</svg>"
    )


def _text(x: float, y: float, words: str, anchor: str = "start") -> str:
    return f'<text x="{x:.1f}" y="{y:.1f}" text-anchor="{anchor}">{escape(words)}</text>'


def _bar(x: float, y: float, width: float, height: float, fill: str) -> str:
    return (
        f'<rect x="{x:.1f}" y="{y:.1f}" width="{max(width, 0.0):.1f}" height="{height:.1f}" '
        f'fill="{fill}" stroke="#000" stroke-width=".5"/>'
    )


def _short(name: str) -> str:
    return name if len(name) <= MOST_LETTERS else f"{name[: MOST_LETTERS - 1]}…"


def month_strip(report: Report) -> str:
    """The verdict by month: the fuller a cell, the better the month."""
    cell, high = WIDTH / 12, 34.0
    parts = []
    for number, month in enumerate(report.verdict.months):
        share = report.number(month.share) if month.share else None
        x = number * cell
        parts.append(_bar(x + 1, 0, cell - 2, high, "#fff"))
        if share is not None:
            full = high * min(share, 1.0)
            parts.append(_bar(x + 1, high - full, cell - 2, full, "#bbb"))
        told = "–" if share is None else f"{min(int(1000 * share) / 10, 100):g} %"
        parts += [
            _text(x + cell / 2, high + 13, MONTHS[number], "middle"),
            _text(x + cell / 2, high + 27, told, "middle"),
        ]
    return _svg(64, f"By month: {report.verdict.share_of}", parts)


def year_of_charge(band: YearBand) -> str:
    """The lowest charge of each day through a year; a bar under a day that loses power."""
    days = [min(hours) for hours in band.percent]
    step, high, top = (WIDTH - SCALE) / len(days), 110.0, 8.0

    def at(day: float) -> float:
        return SCALE + day * step

    line = " ".join(
        f"{at(day):.1f},{top + high * (1 - value / 100):.1f}" for day, value in enumerate(days)
    )
    parts = [
        f'<polygon points="{SCALE},{top + high} {line} {at(len(days) - 1):.1f},{top + high}" '
        'fill="#ddd" stroke="#000" stroke-width=".7"/>'
    ]
    parts += [
        _text(SCALE - 4, top + high * (1 - value / 100) + 4, f"{value} %", "end")
        for value in (0, 50, 100)
    ]
    parts += [
        _bar(at(day), top + high + 2, step, 7, "#000") for day, low in enumerate(days) if low <= 0
    ]
    day = 0
    for month, length in zip(MONTHS, MONTH_DAYS, strict=True):
        parts.append(_text(at(day + length / 2), top + high + 22, month, "middle"))
        day += length
    return _svg(146, f"Charge through the {band.name} year, the lowest of each day", parts)


def load_bars(design: Design, report: Report) -> str:
    """What each load takes in a day, the most first."""
    names = {load.id: load.name for load in design.draw.loads}
    loads = sorted(
        ((report.number(item.daily_ah) or 0.0, names[item.id]) for item in report.draw.loads),
        reverse=True,
    )[:MOST_ROWS]
    most = max((taken for taken, _ in loads), default=0.0)
    if most <= 0:
        return ""
    parts = []
    for row, (taken, name) in enumerate(loads):
        y = 20.0 * row
        parts += [
            _text(LEFT - 6, y + 14, _short(name), "end"),
            _bar(LEFT, y + 3, (WIDTH - LEFT - 70) * taken / most, 14, "#bbb"),
            _text(LEFT + (WIDTH - LEFT - 70) * taken / most + 5, y + 14, f"{taken:.1f} Ah"),
        ]
    return _svg(20 * len(loads) + 4, "Amp-hours a day by load", parts)


def _ticks(low: float, high: float) -> Sequence[float]:
    step = next((step for step in VOLT_STEPS if (high - low) / step < MOST_TICKS), VOLT_STEPS[-1])
    first = int(-(-low // step))
    return [number * step for number in range(first, int(high // step) + 1)]


def volts_of_loads(report: Report) -> str:
    """The volts each load gets with the battery full, half and lowest, against what it needs."""
    found = []
    for load in report.bus.loads:
        keys = load.keyed_v or load.receive_v
        known = [value for key in keys if (value := report.number(key)) is not None]
        if load.low_v is not None and known:
            found.append((load.name, load.low_v, known))
    found = found[:MOST_ROWS]
    if not found:
        return ""
    least = min(min(low, *volts) for _, low, volts in found) - 0.3
    most = max(max(low, *volts) for _, low, volts in found) + 0.3

    def at(volts: float) -> float:
        return LEFT + (WIDTH - LEFT - 12) * (volts - least) / (most - least)

    parts = []
    for row, (name, low, volts) in enumerate(found):
        y = 24.0 * row + 14
        parts += [
            _text(LEFT - 6, y + 4, _short(name), "end"),
            f'<line x1="{at(min(volts)):.1f}" x2="{at(max(volts)):.1f}" y1="{y}" y2="{y}" '
            'stroke="#000"/>',
            f'<path d="M{at(low):.1f} {y - 9}V{y + 9}" stroke="#000" stroke-width="2.4"/>',
        ]
        parts += [
            f'<circle cx="{at(value):.1f}" cy="{y}" r="4" fill="{fill}" stroke="#000"/>'
            for value, fill in zip(volts, ("#000", "#999", "#fff"), strict=False)
        ]
    foot = 24 * len(found) + 16
    parts += [_text(at(tick), foot + 4, f"{tick:g} V", "middle") for tick in _ticks(least, most)]
    return _svg(foot + 10, "Volts at each load", parts)
