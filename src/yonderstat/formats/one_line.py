"""The one-line diagram of a design as SVG: general symbols in the manner of IEC 60617, ratings,
lengths, fuse numbers.

It is laid out from the tree of runs, never drawn by hand: sources left of the post, what they feed
right of it, a row a run. It takes the colour of the page it stands on.
"""

from dataclasses import dataclass, field
from html import escape

from yonderstat.core import Report
from yonderstat.core.bus import RunFigures
from yonderstat.core.controllers import controller_type
from yonderstat.core.design import MAIN_RUN, POST, Design, PanelString
from yonderstat.core.reader_units import METRIC, ReaderUnits

SIZE, SMALL = 12.5, 11.0
CHAR = 0.58
"""Width of a letter over its size; a little more than the widest usual face."""
LEFT_ROW, RIGHT_ROW, TOP = 72.0, 34.0, 50.0
POST_X, BUS_X = 340.0, 530.0
JOIN_X = 98.0
"""Where strings that share a controller come together."""
STEP_X, NAME_W, WIRE_W = 150.0, 176.0, 112.0
SHORT = {"switch", "selector", "breaker", "relay"}


@dataclass(frozen=True, slots=True)
class Label:
    """A text and the box it takes; `x` is its left end, `y` its base line."""

    x: float
    y: float
    width: float
    height: float
    text: str

    def meets(self, other: "Label") -> bool:
        """Whether the boxes of two texts lie over each other."""
        apart_x = self.x + self.width <= other.x or other.x + other.width <= self.x
        apart_y = self.y <= other.y - other.height or other.y <= self.y - self.height
        return not (apart_x or apart_y)


@dataclass(slots=True)
class Drawing:
    """A diagram: its picture, its texts with their boxes, and how large it is."""

    width: float
    height: float
    parts: list[str] = field(default_factory=list)
    labels: list[Label] = field(default_factory=list)

    def line(self, *points: tuple[float, float], thick: float = 1.2) -> None:
        """A line through points."""
        way = " ".join(f"{x:g},{y:g}" for x, y in points)
        self.parts.append(f'<polyline points="{way}" stroke-width="{thick:g}"/>')

    def box(self, x: float, y: float, width: float, height: float) -> None:
        """A rectangle by its middle."""
        self.parts.append(
            f'<rect x="{x - width / 2:g}" y="{y - height / 2:g}" width="{width:g}" '
            f'height="{height:g}"/>'
        )

    def ring(self, x: float, y: float, radius: float) -> None:
        """A circle by its middle."""
        self.parts.append(f'<circle cx="{x:g}" cy="{y:g}" r="{radius:g}"/>')

    def text(
        self, x: float, y: float, text: str, room: float, size: float = SMALL, anchor: str = "start"
    ) -> None:
        """A text in so much room; what is too long is cut, and told whole to whoever points at
        it."""
        most = max(1, int(room / (size * CHAR)))
        shown = text if len(text) <= most else text[: most - 1].rstrip() + "…"
        width = len(shown) * size * CHAR
        left = x if anchor == "start" else x - width if anchor == "end" else x - width / 2
        self.labels.append(Label(left, y, width, size, shown))
        self.parts.append(
            f'<text x="{x:g}" y="{y:g}" font-size="{size:g}" text-anchor="{anchor}" '
            'fill="currentColor" stroke="none">'
            f"{escape(shown)}<title>{escape(text)}</title></text>"
        )

    @property
    def svg(self) -> str:
        """The whole picture."""
        inside = "".join(self.parts)
        return (
            f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {self.width:g} {self.height:g}" '
            f'width="{self.width:g}" height="{self.height:g}" role="img" aria-label="One-line '
            'diagram" '
            'font-family="inherit" fill="none" stroke="currentColor" stroke-linejoin="round">'
            f"{inside}</svg>"
        )


@dataclass(frozen=True)
class _Scene:
    design: Design
    report: Report
    units: ReaderUnits
    drawing: Drawing

    def wire(self, run: RunFigures) -> str:
        """Conductor and length of a run."""
        return f"{self.units.wire(run.mm2)} · {self.units.length(run.length_m)}"

    def fuse(self, run: RunFigures) -> str:
        """Number and rating of a run's fuse."""
        if run.fuse_kind == "none":
            return "no fuse"
        return f"F{run.number} {self.report.working[run.fuse_a].number:g} A"


def _fuse(scene: _Scene, run: RunFigures, x: float, y: float) -> None:
    """A fuse on a line, or the gap in care where there is none."""
    if run.fuse_kind != "none":
        scene.drawing.box(x, y, 20, 8)
    scene.drawing.text(x, y - 7, scene.fuse(run), 64, SMALL, "middle")


def _part(drawing: Drawing, kind: str, x: float, y: float) -> None:
    """A switch, a meter's shunt, a diode or another thing in the way, 26 wide."""
    if kind in SHORT:
        drawing.line((x - 13, y), (x - 8, y))
        drawing.line((x - 8, y), (x + 7, y - 8))
        drawing.line((x + 8, y), (x + 13, y))
    elif kind == "shunt":
        drawing.ring(x, y, 8)
        drawing.text(x, y + 3.5, "A", 12, SMALL, "middle")
        drawing.line((x - 13, y), (x - 8, y))
        drawing.line((x + 8, y), (x + 13, y))
    elif kind in {"diode", "ideal_diode"}:
        drawing.parts.append(
            f'<path fill="currentColor" d="M{x - 5:g} {y - 6:g} L{x + 5:g} {y:g} '
            f'L{x - 5:g} {y + 6:g} Z"/>'
        )
        drawing.line((x - 13, y), (x + 13, y))
        drawing.line((x + 5, y - 6), (x + 5, y + 6))
    else:
        drawing.box(x, y, 18, 14)
        drawing.line((x - 13, y), (x - 9, y))
        drawing.line((x + 9, y), (x + 13, y))
        if kind == "changeover":
            drawing.line((x - 7, y + 5), (x + 7, y - 5))


def _panel(drawing: Drawing, x: float, y: float) -> None:
    drawing.box(x, y, 34, 22)
    drawing.line((x - 17, y - 11), (x, y), (x - 17, y + 11))


def _battery(drawing: Drawing, x: float, y: float) -> None:
    """Standing under a line that comes from above."""
    for number, (wide, thick) in enumerate(((22, 1.2), (10, 3.0), (22, 1.2), (10, 3.0))):
        drawing.line((x - wide / 2, y + 6 * number), (x + wide / 2, y + 6 * number), thick=thick)
    drawing.line((x, y + 18), (x, y + 28))
    for number, wide in enumerate((16, 10, 4)):
        drawing.line((x - wide / 2, y + 28 + 4 * number), (x + wide / 2, y + 28 + 4 * number))


def _converter(drawing: Drawing, x: float, y: float, marks: tuple[str, str]) -> None:
    drawing.box(x, y, 26, 22)
    drawing.line((x - 13, y + 11), (x + 13, y - 11))
    drawing.text(x - 6, y - 1, marks[0], 10, SMALL, "middle")
    drawing.text(x + 6, y + 9, marks[1], 10, SMALL, "middle")


def _joined(design: Design, string: PanelString) -> list[PanelString]:
    """The strings that share a string's controller."""
    return [item for item in design.array.strings if item.joins == string.id]


def _panels(scene: _Scene, string: PanelString, y: float, end_x: float) -> None:
    """A string's panels, how many, and the lead that goes on from them."""
    drawing = scene.drawing
    _panel(drawing, 32, y)
    drawing.line((49, y), (end_x, y))
    count = string.series * string.parallel
    told = (
        f"{count} × {string.module.watts.value:g} W"
        if count > 1
        else f"{string.module.watts.value:g} W"
    )
    drawing.text(15, y + 24, told, 78)
    if string.cable_m and string.cable_mm2:
        units = scene.units
        far = units.length(string.cable_m.value)
        drawing.text(15, y + 37, f"{units.wire(string.cable_mm2)} · {far}", 100)
    drawing.text(15, y - 17, string.name, 230, SIZE)


def _source_name(design: Design, run: RunFigures) -> str:
    """A source, and the controller it feeds where it is on panel terminals."""
    charger = next((item for item in design.array.chargers if f"source-{item.id}" == run.id), None)
    through = next(
        (item.name for item in design.array.strings if charger and item.id == charger.through), ""
    )
    return f"{run.name}, on the panel terminals of {through}" if through else run.name


def _left_row(scene: _Scene, run: RunFigures, y: float) -> None:
    """A source, or a bank beside the main one, from the left to the post."""
    drawing, design = scene.drawing, scene.design
    start = 130.0
    if run.feeds == "charge":
        string = next(item for item in design.array.strings if f"charge-{item.id}" == run.id)
        _panels(scene, string, y, 107)
        for number, joined in enumerate(_joined(design, string), start=1):
            below = y + LEFT_ROW * number
            _panels(scene, joined, below, JOIN_X)
            drawing.line((JOIN_X, below), (JOIN_X, y))
        if not controller_type(string.controller).regulates:
            drawing.line((107, y), (133, y))
        else:
            _converter(drawing, 120, y, ("=", "="))
            limit = string.regulator.max_charge_a
            rated = f" {limit.value:g} A" if limit else ""
            drawing.text(107, y + 24, f"{string.controller.upper()}{rated}", 92)
        start = 133.0
    elif run.feeds == "layer":
        drawing.line((40, y), (40, y - 4))
        drawing.ring(40, y, 3)
        drawing.text(15, y - 17, run.name, 230, SIZE)
        drawing.line((43, y), (start, y))
    else:
        drawing.ring(120, y, 12)
        mark = "G" if run.feeds == "engine" else "~"
        drawing.text(120, y + 4, mark, 12, SIZE, "middle")
        drawing.text(15, y - 17, _source_name(design, run), 230, SIZE)
        start = 132.0
    x = start + 14
    for kind in run.parts[:3]:
        drawing.line((start, y), (x, y))
        _part(drawing, kind, x + 13, y)
        start, x = x + 26, x + 32
    drawing.line((start, y), (POST_X, y))
    drawing.text(POST_X - 6, y + 17, scene.wire(run), 122, SMALL, "end")
    _fuse(scene, run, POST_X - 38, y)


def _right_row(scene: _Scene, run: RunFigures, bar_x: float, y: float, name_x: float) -> None:
    """A run from a bar to what it feeds."""
    drawing = scene.drawing
    _fuse(scene, run, bar_x + 34, y)
    drawing.line((bar_x, y), (name_x - 30, y))
    drawing.text(bar_x + 70, y - 4, scene.wire(run), WIRE_W)
    x = bar_x + 70 + WIRE_W - 8
    for kind in run.parts[:2]:
        if x + 28 < name_x - 30 and run.feeds != "block":
            _part(drawing, kind, x, y)
            x += 28
    if run.feeds == "rail":
        rail = next(item for item in scene.design.draw.rails if f"rail-{item.id}" == run.id)
        _converter(drawing, name_x - 17, y, ("=", "~" if rail.kind == "inverter" else "="))
        told = f"{run.name}: {_on(scene.design, rail.id)}"
    elif run.feeds == "source":
        drawing.ring(name_x - 18, y, 11)
        drawing.text(name_x - 18, y + 4, "~", 12, SIZE, "middle")
        told = run.name
    else:
        drawing.box(name_x - 18, y, 24, 14)
        load = next((item for item in scene.design.draw.loads if f"load-{item.id}" == run.id), None)
        if load is not None and load.transmit_a is not None:
            # An antenna marks what transmits.
            drawing.line((name_x - 18, y - 7), (name_x - 18, y - 13))
            drawing.line((name_x - 23, y - 13), (name_x - 18, y - 8), (name_x - 13, y - 13))
        told = (
            f"{load.quantity} × {run.name}" if load is not None and load.quantity > 1 else run.name
        )
    drawing.text(name_x + 4, y + 4, told, NAME_W, SIZE)


def _on(design: Design, rail_id: str) -> str:
    names = [load.name for load in design.draw.loads if load.rail == rail_id]
    return ", ".join(names) if names else "no loads yet"


def _under(runs: tuple[RunFigures, ...], start: str, depth: int) -> list[tuple[RunFigures, int]]:
    """The runs that begin at one, each followed by those that begin at it."""
    found = []
    for run in runs:
        if run.fed_from == start and run.id != MAIN_RUN:
            found.append((run, depth))
            found += _under(runs, run.id, depth + 1)
    return found


def _bars(scene: _Scene, rows: list[tuple[RunFigures, int]], name_x: float) -> None:
    """The rows right of the post, with the bar each set of them hangs on."""
    drawing = scene.drawing
    places = {run.id: TOP + RIGHT_ROW * number for number, (run, _) in enumerate(rows)}
    spans: dict[str, list[float]] = {}
    for run, depth in rows:
        y, bar_x = places[run.id], BUS_X + STEP_X * depth
        spans.setdefault(run.fed_from, []).append(y)
        if run.feeds == "block":
            drawing.text(bar_x + 70, y - 4, f"{scene.wire(run)}, {run.name}", name_x - bar_x - 70)
            _fuse(scene, run, bar_x + 34, y)
            drawing.line((bar_x, y), (bar_x + STEP_X, y))
            spans.setdefault(run.id, []).append(y)
        else:
            _right_row(scene, run, bar_x, y, name_x)
    depths = {run.id: depth for run, depth in rows}
    for start, ys in spans.items():
        x = BUS_X + STEP_X * (depths[start] + 1 if start in depths else 0)
        drawing.line((x, min(ys) - 8), (x, max(ys) + 8), thick=3.0)


def _shares(design: Design, run: RunFigures) -> int:
    """How many strings share the controller of a charge run."""
    string = next((item for item in design.array.strings if f"charge-{item.id}" == run.id), None)
    return len(_joined(design, string)) if string else 0


def one_line(design: Design, report: Report, units: ReaderUnits = METRIC) -> Drawing:
    """The diagram of a design.

    Parameters
    ----------
    units : ReaderUnits
        In which lengths and conductors are said.
    """
    runs = report.bus.runs
    left = [run for run in runs if run.fed_from == POST and run.id != MAIN_RUN]
    # What hangs on a controller's load terminals is drawn with what hangs on the bus.
    right = _under(runs, MAIN_RUN, 0) + [pair for run in left for pair in _under(runs, run.id, 0)]
    deepest = max((depth for _, depth in right), default=0)
    name_x = BUS_X + STEP_X * deepest + 70 + WIRE_W + 62
    tall = [1 + _shares(design, run) for run in left]
    rows_y = TOP + max(LEFT_ROW * sum(tall), RIGHT_ROW * len(right), 60.0)
    drawing = Drawing(name_x + NAME_W + 8, rows_y + 84)
    scene = _Scene(design, report, units, drawing)
    main = next(run for run in runs if run.id == MAIN_RUN)
    main_y = rows_y - 8
    y = TOP
    for run, rows in zip(left, tall, strict=True):
        _left_row(scene, run, y)
        y += LEFT_ROW * rows
    drawing.line((POST_X, TOP - 8), (POST_X, main_y + 14), thick=3.0)
    _battery(drawing, POST_X, main_y + 14)
    bank = design.store.bank
    if bank is not None:
        cells = (
            f"{bank.series} in series, {bank.parallel} in parallel"
            if bank.series * bank.parallel > 1
            else "one unit"
        )
        told = (
            f"{report.working[report.draw.bus_v].number:g} V, "
            f"{bank.unit_ah.value * bank.parallel:g} Ah, {cells}"
        )
        drawing.text(POST_X + 20, main_y + 34, f"Main battery: {told}", 360, SIZE)
    else:
        drawing.text(POST_X + 20, main_y + 34, "No battery yet", 200, SIZE)
    _main(scene, main, main_y)
    if right:
        _bars(scene, right, name_x)
        first = TOP + RIGHT_ROW * 0
        drawing.line(
            (BUS_X, min(first, main_y)),
            (BUS_X, max(main_y, TOP + RIGHT_ROW * (len(right) - 1))),
            thick=3.0,
        )
    return drawing


def _main(scene: _Scene, main: RunFigures, y: float) -> None:
    """From the post to the bus, with all that lies in its way."""
    drawing = scene.drawing
    _fuse(scene, main, POST_X + 36, y)
    drawing.line((POST_X, y), (POST_X + 62, y))
    x = POST_X + 62.0
    for kind in main.parts[:5]:
        _part(drawing, kind, x + 13, y)
        x += 28
        drawing.line((x - 2, y), (x, y))
    drawing.line((x, y), (BUS_X, y))
    drawing.text(POST_X + 62, y + 20, scene.wire(main), 150)
