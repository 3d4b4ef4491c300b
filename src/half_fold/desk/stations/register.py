"""The stations in the order of the work, each in one place: its key, its name, what makes it, and how it stands.

A station, and what it needs, is loaded when it is first opened.
"""

from collections.abc import Callable

from msgspec import Struct

from half_fold.desk.front import Front
from half_fold.desk.session import Session
from half_fold.desk.stations import standing
from half_fold.desk.stations.numbers import BRIEF, CHECKS, COVER, GRID, ORDER, PRESS, SPREADS
from half_fold.desk.stations.standing import Standing
from half_fold.desk.stations.station import Station


class Registered(Struct, frozen=True):
    """A station: its name, what else it is asked for by, what makes it, and what says how it stands."""

    name: str
    also: tuple[str, ...]
    make: Callable[[Front], Station]
    stands: Callable[[Session], Standing]


def make_versions(window: Front) -> Station:
    """The earlier versions, which are no station of the work: looked at, and left again."""
    from half_fold.desk.stations.versions import VersionsStation

    station = VersionsStation(window.session)
    station.left.connect(window.leave_versions)
    return station


def _brief(window: Front) -> Station:
    from half_fold.desk.stations.brief import BriefStation

    station = BriefStation(window.session)
    station.unfolds.connect(window.show_row)
    return station


def _order(window: Front) -> Station:
    from half_fold.desk.stations.order import OrderStation

    return OrderStation(window.session, window.thumbnails)


def _grid(window: Front) -> Station:
    from half_fold.desk.stations.grid import GridStation

    return GridStation(window.session)


def _spreads(window: Front) -> Station:
    from half_fold.desk.stations.spreads import SpreadsStation

    return SpreadsStation(window.session)


def _cover(window: Front) -> Station:
    from half_fold.desk.stations.cover import CoverStation

    return CoverStation(window.session)


def _checks(window: Front) -> Station:
    from half_fold.desk.stations.checks import ChecksStation

    station = ChecksStation(window.session)
    station.asked_for_cover.connect(window.show_on_cover)
    return station


def _press(window: Front) -> Station:
    from half_fold.desk.stations.press import PressStation

    return PressStation(window.session)


STATIONS: dict[int, Registered] = {
    BRIEF: Registered("Brief", ("trim", "paper", "binding", "printer"), _brief, standing.brief_stands),
    ORDER: Registered(
        "Order", ("running order", "sections", "sheets", "inserts", "dates"), _order, standing.order_stands
    ),
    GRID: Registered(
        "Grid", ("masters", "columns", "type sheet", "roles", "inks", "furniture"), _grid, standing.grid_stands
    ),
    SPREADS: Registered("Spreads", ("pages", "layout"), _spreads, standing.spreads_stand),
    COVER: Registered("Cover", ("spine", "masthead", "barcode"), _cover, standing.cover_stands),
    CHECKS: Registered("Checks", ("findings", "mistakes", "preflight"), _checks, standing.checks_stand),
    PRESS: Registered("Press", ("pdf", "print", "export"), _press, standing.press_stands),
}
