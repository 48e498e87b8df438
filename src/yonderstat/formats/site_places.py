"""Where the sites are, for maps: GeoJSON (RFC 7946) and GPX 1.1."""

import json
from dataclasses import dataclass
from xml.sax.saxutils import escape, quoteattr


@dataclass(frozen=True, slots=True)
class SitePoint:
    """A site on a map, and what its design as built comes to."""

    name: str
    latitude_deg: float
    longitude_deg: float
    elevation_m: float | None
    words: str


def write_geojson(points: list[SitePoint]) -> str:
    """A feature collection of points."""
    features = [
        {
            "type": "Feature",
            "geometry": {
                "type": "Point",
                "coordinates": [point.longitude_deg, point.latitude_deg]
                + ([] if point.elevation_m is None else [point.elevation_m]),
            },
            "properties": {"name": point.name, "verdict": point.words},
        }
        for point in points
    ]
    return json.dumps(
        {"type": "FeatureCollection", "features": features}, ensure_ascii=False, indent=1
    )


def _plain(text: str) -> str:
    """Without characters that XML cannot hold."""
    return "".join(char for char in text if char >= " " or char in "\t\n")


def write_gpx(points: list[SitePoint]) -> str:
    """Waypoints."""
    told = [
        (
            f"<wpt lat={quoteattr(f'{point.latitude_deg:.6f}')} "
            f"lon={quoteattr(f'{point.longitude_deg:.6f}')}>"
        )
        + ("" if point.elevation_m is None else f"<ele>{point.elevation_m:.0f}</ele>")
        + f"<name>{escape(_plain(point.name))}</name><desc>{escape(_plain(point.words))}</desc></wpt>"
        for point in points
    ]
    return (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        '<gpx version="1.1" creator="Yonderstat" xmlns="http://www.topografix.com/GPX/1/1">\n'
        + "\n".join(told)
        + "\n</gpx>\n"
    )
