"""Sun-hours on every plane of a design, month by month, with their working."""

from dataclasses import dataclass

import numpy as np

from ..calendar import MONTH_NAMES, month_key
from ..climate import Here, equator_azimuth_deg
from ..design import Design, KnownShare, Mount
from ..keeping import kept_for_places
from ..working import Input, Key, Quantity, Workings, given, stated, table, used
from .conditions import Conditions
from .mounting import Mounting, mounting_of
from .site import BRIGHT_SHARE, DULL_SHARE, plane_sun
from .spread import DaySpread, day_spread

REFERENCE_PLANE = "reference"
MOUNT_WORDS: dict[Mount, str] = {
    "fixed": "fixed",
    "flat": "lying flat",
    "reaimed": "turned by hand",
    "rotator": "turns to follow the sun",
    "two_axis": "follows the sun on two axes",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class PlaneFigures:
    """Sun-hours on one plane, January to December. `dull` and `bright` bound the middle eight days
    in ten."""

    string_id: str
    name: str
    tilt_deg: float
    azimuth_deg: float
    mount: Mount
    hours: tuple[Key, ...]
    dull: tuple[Key, ...]
    bright: tuple[Key, ...]
    takeaway: str


@dataclass(frozen=True, slots=True)
class Plane:
    """A plane to work out, with where its figures come from."""

    id: str
    name: str
    mounting: Mounting
    inputs: tuple[Input, ...]


def reference_plane(latitude_deg: float) -> Plane:
    """What a design without panels is told of: a panel tilted like the latitude, facing the
    equator."""
    tilt, faces = float(round(abs(latitude_deg))), equator_azimuth_deg(latitude_deg)
    return Plane(
        REFERENCE_PLANE,
        "a panel tilted like the latitude, facing the equator",
        Mounting(tilt, faces),
        (
            Input(
                symbol="β", label="tilt", value=tilt, unit="°", origin="default", source="practice"
            ),
            Input(
                symbol="γ",
                label="faces",
                value=faces,
                unit="°",
                origin="default",
                source="practice",
            ),
        ),
    )


def planes_of(design: Design, latitude_deg: float) -> tuple[Plane, ...]:
    """The planes of a design: one a string, or the reference plane without any."""
    planes = []
    for index, string in enumerate(design.array.strings):
        mounting, at = mounting_of(string), f"/array/strings/{index}"
        inputs = []
        if mounting.mount != "two_axis":
            inputs.append(stated("β", "tilt", mounting.tilt_deg, "°", f"{at}/tilt_deg"))
        if mounting.mount == "fixed":
            inputs.append(stated("γ", "faces", mounting.azimuth_deg, "°", f"{at}/azimuth_deg"))
        if mounting.mount == "reaimed":
            inputs.append(
                stated("n", "turned, times a day", mounting.aims_per_day, "", f"{at}/aims_per_day")
            )
        planes.append(Plane(string.id, string.name, mounting, tuple(inputs)))
    return tuple(planes) or (reference_plane(latitude_deg),)


def _takeaway(means: np.ndarray, months: tuple[int, ...], plane: Plane) -> str:
    name = "this plane" if plane.id != REFERENCE_PLANE else plane.name
    how = "" if plane.mounting.mount == "fixed" else f", {MOUNT_WORDS[plane.mounting.mount]}"
    used_months = np.array(months) - 1
    worst, best = (
        used_months[np.argmin(means[used_months])],
        used_months[np.argmax(means[used_months])],
    )
    if means[best] <= 0:
        return f"No sun on {name} in the months in use."
    if worst == best:
        return f"In {MONTH_NAMES[worst]} you get {means[worst]:.1f} sun-hours a day on {name}{how}."
    return (
        f"In {MONTH_NAMES[worst]} you get {means[worst]:.1f} sun-hours a day on "
        f"{name}{how}. That is {means[worst] / means[best]:.0%} of the "
        f"{means[best]:.1f} in {MONTH_NAMES[best]}.".replace("%", " %")
    )


def _flat_input(month: int, hours: float, conditions: Conditions, spread: DaySpread) -> Input:
    if conditions.own_hours is not None:
        return Input(
            symbol="H",
            label="your average day on flat ground",
            value=hours,
            unit="h",
            origin="stated",
            pointer=f"/sun/own_hours/{month - 1}",
        )
    if spread.recorded[month - 1]:
        return Input(
            symbol="H",
            label="average day on flat ground, from the file",
            value=hours,
            unit="h",
            origin="measured",
            pointer="/sun/record",
        )
    return table("H", "average day on flat ground, before the allowance", hours, "h", "merra2")


def _month_inputs(month: int, conditions: Conditions, soiling: KnownShare) -> list[Input]:
    index = month - 1
    inputs = [
        stated("ρ", "ground reflection", conditions.albedo[index], "share", f"/sun/albedo/{index}"),
        given("d", "lost to dust", soiling, "share", "/sun/soiling"),
    ]
    if conditions.snow_days[index]:
        inputs.append(
            stated(
                "s", "days under snow", conditions.snow_days[index], "d", f"/sun/snow_days/{index}"
            )
        )
    for word, shares in (
        ("morning", conditions.shade_morning),
        ("afternoon", conditions.shade_afternoon),
    ):
        if shares[index]:
            at = f"/sun/shade_{word}/{index}"
            inputs.append(stated("t", f"{word} shade", shares[index], "share", at))
    if conditions.horizon:
        highest = max(elevation for _, elevation in conditions.horizon)
        inputs.append(stated("θ", "highest point of the horizon", highest, "°", "/sun/horizon"))
    return inputs


def _bound(
    plane: Plane,
    month: int,
    word: str,
    share: float,
    value: float,
    mean: Quantity,
    workings: Workings,
) -> Quantity:
    percent = round(share * 100)
    return workings.add(
        month_key(f"sun.{plane.id}.{word}", month),
        value,
        "h",
        label=f"A {word} day on {plane.name}, {MONTH_NAMES[month - 1]} (P{percent})",
        formula=f"P{percent} of the days",
        words=f"{percent} days of 100 give less",
        inputs=[used("H_β", mean)],
        source="tilted",
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class PlaneBasis:
    """What all planes of a site rest on, comparable so that their figures can be kept."""

    here: Here
    conditions: Conditions
    soiling: KnownShare
    months: tuple[int, ...]
    elevation: Quantity
    allowance: Quantity


@kept_for_places
def plane_figures(plane: Plane, basis: PlaneBasis) -> tuple[PlaneFigures, tuple[Quantity, ...]]:
    """The figures of one plane where the sun is known. Kept: editing a load must not work out the
    sun again."""
    workings = Workings()
    here, conditions = basis.here, basis.conditions
    on_plane, spread = plane_sun(here, conditions, plane.mounting), day_spread(here, conditions)
    if on_plane is None or spread is None:
        raise ValueError("asked for a plane where there is no resource")
    base = [
        stated("φ", "latitude", here.latitude_deg, "°", "/place/latitude_deg"),
        stated("λ", "longitude", here.longitude_deg, "°", "/place/longitude_deg"),
        used("z", basis.elevation),
        used("a", basis.allowance),
        *plane.inputs,
    ]
    hours: list[Key] = []
    dull: list[Key] = []
    bright: list[Key] = []
    for month in range(1, 13):
        flat = _flat_input(month, float(on_plane.flat_mean[month - 1]), conditions, spread)
        mean = workings.add(
            month_key(f"sun.{plane.id}.hours", month),
            float(on_plane.mean[month - 1]),
            "h",
            label=f"Sun-hours on {plane.name}, {MONTH_NAMES[month - 1]}",
            formula=(
                "H_β = a · mean over days of R(β, γ, φ, ρ, skyline) · min(H, 1.05 · clear) · "
                "(1 − d) · (1 − snow)"
            ),
            words="ten equally likely days of the month, hour by hour: direct and diffuse light on "
            "the tilted panel, less horizon, trees, dust and snow days, times the allowance; "
            "one sun-hour is 1 kWh/m²",
            inputs=[flat, *base, *_month_inputs(month, conditions, basis.soiling)],
            source="tilted",
        )
        hours.append(mean.key)
        low, high = float(on_plane.dull[month - 1]), float(on_plane.bright[month - 1])
        dull.append(
            _bound(
                plane, month, word="dull", share=DULL_SHARE, value=low, mean=mean, workings=workings
            ).key
        )
        bright.append(
            _bound(
                plane,
                month,
                word="bright",
                share=BRIGHT_SHARE,
                value=high,
                mean=mean,
                workings=workings,
            ).key
        )
    figures = PlaneFigures(
        string_id=plane.id,
        name=plane.name,
        tilt_deg=plane.mounting.tilt_deg,
        azimuth_deg=plane.mounting.azimuth_deg,
        mount=plane.mounting.mount,
        hours=tuple(hours),
        dull=tuple(dull),
        bright=tuple(bright),
        takeaway=_takeaway(on_plane.mean, basis.months, plane),
    )
    return figures, workings.all()
