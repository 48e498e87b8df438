"""Who is told of an alarm, and when: quiet hours are of the site's own day."""

from datetime import UTC, datetime, timedelta, tzinfo

from yonderstat.records import LiveSite, Telling


def is_quiet(site: LiveSite, hour: int) -> bool:
    """Whether nobody is to be told at an hour of the site's day, but of what is grave."""
    first, last = site.quiet_from_h, site.quiet_to_h
    if first is None or last is None or first == last:
        return False
    return first <= hour < last if first < last else hour >= first or hour < last


def tellings_of(site: LiveSite, zone: tzinfo, now: datetime, is_grave: bool) -> tuple[Telling, ...]:
    """Who is told, and when: in quiet hours what is not grave waits until they are over.

    Parameters
    ----------
    site : LiveSite
        With its alarms and whom they go to.
    zone : tzinfo
        Whose clock the quiet hours follow.
    is_grave : bool
        Whether an alarm breaks the quiet.
    """
    due = here = now.astimezone(zone)
    if not is_grave and is_quiet(site, here.hour):
        due = here.replace(minute=0, second=0, microsecond=0)
        while is_quiet(site, due.hour):
            due += timedelta(hours=1)
    ways = (("webhook", site.webhook), ("mail", site.mail_to))
    return tuple(Telling(way, goes_to, due.astimezone(UTC)) for way, goes_to in ways if goes_to)
