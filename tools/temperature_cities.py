"""Write core/data/temperature_cities.csv: monthly air of the packaged cities with the ground's height and zone."""

import csv
from pathlib import Path

import world_temperature_data

from yonderstat.core.sun import relief_m
from yonderstat.core.weather import climate_zone

TABLE = Path(__file__).resolve().parents[1] / "src" / "yonderstat" / "core" / "data" / "temperature_cities.csv"


def main() -> None:
    """Write the table."""
    with TABLE.open("w", newline="", encoding="utf-8") as out:
        writer = csv.writer(out, lineterminator="\n")
        months = world_temperature_data.MONTHS
        writer.writerow(["latitude_deg", "longitude_deg", "elevation_m", "zone", *(f"{month}_c" for month in months)])
        for city in world_temperature_data.cities():
            height_m, zone = relief_m(city["lat"], city["lon"]), climate_zone(city["lat"], city["lon"])
            means = [city["monthly"][month] for month in months]
            writer.writerow([city["lat"], city["lon"], round(height_m), zone, *means])


if __name__ == "__main__":
    main()
