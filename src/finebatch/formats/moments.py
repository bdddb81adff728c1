"""Moments by the clock of this machine, each with the offset that holds then: on the nights when
clocks change it is another one before than after."""

from datetime import UTC, datetime, timedelta

from finebatch.core.measures.figures import clock


def local(ms: float) -> datetime:
    """A moment in UTC ms."""
    return datetime.fromtimestamp(ms / 1000, UTC).astimezone()


def later(base: datetime, minutes: int) -> datetime:
    """So many minutes after a moment. Where its offset is that of this machine, so is the other's;
    one of another place keeps its own."""
    moment = base + timedelta(minutes=minutes)
    return moment.astimezone() if _is_local(base) else moment


def days_on(ms: float, days: int) -> int:
    """The same time by the clock of this machine so many days on, in UTC ms."""
    wall = local(ms).replace(tzinfo=None) + timedelta(days=days)
    return round(wall.astimezone().timestamp() * 1000)


def next_time(hour: int, minute: int) -> datetime:
    """The next time that the clock of this machine shows that."""
    now = datetime.now().astimezone()
    wall = datetime.combine(now.date(), datetime.min.time()).replace(hour=hour, minute=minute)
    found = wall.astimezone()
    return found if found > now else (wall + timedelta(days=1)).astimezone()


def time_said(moment: datetime) -> str:
    """The time of day, with its offset where the clock shows that time twice."""
    said = clock(moment.hour, moment.minute)
    return f"{said} ({_offset(moment)})" if _is_local(moment) and _comes_twice(moment) else said


def day_and_time(moment: datetime) -> str:
    """The weekday and the time of day."""
    return f"{moment:%a} {time_said(moment)}"


def _is_local(moment: datetime) -> bool:
    return moment.utcoffset() == moment.astimezone().utcoffset()


def _comes_twice(moment: datetime) -> bool:
    wall = moment.replace(tzinfo=None)
    first, second = (wall.replace(fold=fold).astimezone().utcoffset() for fold in (0, 1))
    return first != second


def _offset(moment: datetime) -> str:
    minutes = round((moment.utcoffset() or timedelta(0)).total_seconds() / 60)
    hours, rest = divmod(abs(minutes), 60)
    return f"UTC{'−' if minutes < 0 else '+'}{hours}" + (f":{rest:02}" if rest else "")
