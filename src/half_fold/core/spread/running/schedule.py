"""The schedule, backwards from the press date in working days, with the user's own lead times and holidays."""

import csv
import io
from collections.abc import Iterator
from datetime import date, timedelta
from pathlib import Path

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.fields import field_of
from half_fold.core.publication.property import Property, named
from half_fold.core.publication.records import Publication, Schedule
from half_fold.core.spread.running.states import page_state
from half_fold.core.store.atomic import write_whole
from half_fold.core.store.files import require_output

# Each step: its name, the lead time it is worked from, and the step it comes before.
STEPS = (
    ("Files to the printer", "files", "On press"),
    ("Pages passed", "passed", "Files to the printer"),
    ("Cover passed", "cover", "Files to the printer"),
    ("Proofs back", "proofs", "Pages passed"),
    ("Copy in", "copy", "Proofs back"),
)


class ScheduleStep(Struct, frozen=True):
    """A step, the day it must be done, and how: so many working days before another."""

    name: str
    day: date
    how: str
    late: bool = False


def working_back(day: date, count: int, holidays: frozenset[date]) -> date:
    """The working day ``count`` of them before ``day``; weekends and holidays are not worked."""
    while count:
        day -= timedelta(days=1)
        if day.weekday() < 5 and day not in holidays:
            count -= 1
    return day


def press_day(publication: Publication) -> date | None:
    """The day it goes on press; None where that is not said."""
    return date.fromisoformat(publication.brief.press_date) if publication.brief.press_date else None


def schedule(publication: Publication, today: date) -> list[ScheduleStep]:
    """Every step in the order of days; none where there is no press date. What should be done by now is late."""
    press = press_day(publication)
    if press is None:
        return []
    holidays = frozenset(date.fromisoformat(day) for day in publication.schedule.holidays)
    days = {"On press": press}
    found = [ScheduleStep("On press", press, "as the brief says", press < today)]
    for name, field, before in STEPS:
        count = getattr(publication.schedule, field)
        days[name] = working_back(days[before], count, holidays)
        how = f"{count} working days before “{before.lower()}”"
        late = days[name] < today and not _done(publication, name)
        found.append(ScheduleStep(name, days[name], how, late))
    return sorted(found, key=lambda step: step.day)


def _done(publication: Publication, name: str) -> bool:
    """Whether every page says, or shows, that this step lies behind it."""
    reached = {
        "Copy in": ("copy in", "laid", "proofed", "passed"),
        "Proofs back": ("proofed", "passed"),
        "Pages passed": ("passed",),
    }
    if name not in reached:
        return False
    return all(page_state(publication, index) in reached[name] for index in range(len(publication.pages)))


def _holidays(_: Publication, __: Schedule, text: str) -> tuple[str, ...]:
    return tuple(map(_day, text.replace(",", " ").split()))


def _day(word: str) -> str:
    try:
        return date.fromisoformat(word).isoformat()
    except ValueError as error:
        raise Problem(f"“{word}” is no date; give holidays as year, month and day such as 2026-12-25.") from error


def _lead(name: str, field: str, before: str) -> Property[Schedule]:
    return field_of(Schedule, field, name, "count", unit="days", note=f"before “{before.lower()}”")


SCHEDULE: tuple[Property[Schedule], ...] = (
    *(_lead(*step) for step in STEPS),
    replace(
        field_of(
            Schedule, "holidays", "Holidays", "text", none="none", parse=_holidays, note="dates parted by commas"
        ),
        write=lambda plan, days: replace(plan, holidays=days or ()),
    ),
)  # fmt: skip


def set_lead(publication: Publication, field: str, text: str) -> Publication:
    """A lead time in working days, or the holidays as dates parted by spaces or commas. Problem where it cannot be."""
    return replace(publication, schedule=named(SCHEDULE, field).set(publication, publication.schedule, text))


def as_csv(publication: Publication, today: date) -> str:
    """One line a step."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(("day", "step", "how", "late"))
    for step in schedule(publication, today):
        writer.writerow((step.day.isoformat(), step.name, step.how, "late" if step.late else ""))
    return out.getvalue()


def as_icalendar(publication: Publication, today: date) -> str:
    """All-day events by RFC 5545; lines end as it asks, text is escaped, long lines are folded."""
    lines = ["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//Half Fold//Schedule//EN"]
    stamp = f"{today:%Y%m%d}T000000Z"
    for step in schedule(publication, today):
        name = "-".join(step.name.lower().split())
        title = " ".join(filter(None, (publication.title, publication.issue)))
        uid = "".join(c for c in title.lower() if c.isalnum()) or "job"
        lines += [
            "BEGIN:VEVENT",
            f"UID:{name}-{uid}@half-fold",
            f"DTSTAMP:{stamp}",
            f"DTSTART;VALUE=DATE:{step.day:%Y%m%d}",
            f"DTEND;VALUE=DATE:{step.day + timedelta(days=1):%Y%m%d}",
            f"SUMMARY:{_escaped(f'{title}: {step.name}')}",
            f"DESCRIPTION:{_escaped(step.how)}",
            "END:VEVENT",
        ]
    return "".join(f"{part}\r\n" for line in (*lines, "END:VCALENDAR") for part in _folded(line))


def write_schedule(publication: Publication, out: Path, today: date) -> None:
    """As CSV or iCalendar, by the file's name. Problem for another, or where there is no press date."""
    made = {".csv": as_csv, ".ics": as_icalendar}.get(out.suffix.lower())
    if made is None:
        raise Problem(f"“{out.name}” is no schedule; name a file that ends in .csv or .ics.")
    if press_day(publication) is None:
        raise Problem("There is no press date to work back from; set press-date first.")
    require_output(out, (made(publication, today).split("\n", 1)[0].strip().encode(),))
    write_whole(out, made(publication, today).encode())


def _escaped(text: str) -> str:
    return text.replace("\\", "\\\\").replace(";", "\\;").replace(",", "\\,").replace("\n", "\\n")


def _folded(line: str) -> Iterator[str]:
    """At most 75 bytes a line; what goes on begins with a space."""
    raw, first = line.encode(), True
    while raw:
        size = 75 if first else 74
        part = raw[:size]
        while len(part) < len(raw) and (raw[len(part)] & 0xC0) == 0x80:
            part = part[:-1]
        yield ("" if first else " ") + part.decode()
        raw, first = raw[len(part) :], False
