"""Yonderstat: solar and battery backup for amateur radio stations, planned, judged and logged."""
