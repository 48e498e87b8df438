"""Upkeep as a calendar other programs read (iCalendar, RFC 5545)."""

from datetime import datetime, timedelta

from icalendar import Calendar, Event

from yonderstat.core.log import Due


def write_calendar(site: str, site_id: str, due: tuple[Due, ...], made_at: datetime) -> bytes:
    """An all-day event a task, on the day it is due; the same task keeps its id, so that a calendar
    moves it.

    Parameters
    ----------
    site : str
        The name of the site.
    site_id : str
        By which its events are told from other sites'.
    due : tuple of Due
        What is due, and when.
    made_at : datetime
        When the file is made.
    """
    calendar = Calendar()
    calendar.add("prodid", "-//Yonderstat//Upkeep//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", f"Upkeep, {site}")
    for item in due:
        event = Event()
        event.add("uid", f"{item.task.id}.{site_id}@yonderstat.invalid")
        event.add("dtstamp", made_at)
        event.add("dtstart", item.due)
        event.add("dtend", item.due + timedelta(days=1))
        event.add("summary", f"{site}: {item.task.title}")
        event.add("description", item.task.why)
        calendar.add_component(event)
    return bytes(calendar.to_ical())
