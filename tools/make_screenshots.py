"""Makes docs/screenshots from the demo: ``python tools/make_screenshots.py``, offscreen, at 1280 x 800."""

import os
import sys
import tempfile
from pathlib import Path

from msgspec.structs import replace

from half_fold.core.paths.all import set_paths
from half_fold.core.spread.where.reaching import reach, set_stop
from half_fold.desk.stations.grid.ink_sheet import Chosen

os.environ["QT_QPA_PLATFORM"] = "offscreen"

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from half_fold.core.plan.own_kinds import keep_kind
from half_fold.core.publication.places import Stop
from half_fold.core.publication.records import (
    Furniture,
)
from half_fold.core.store.demo import HARVEST, make_demo
from half_fold.core.store.job import open_job
from half_fold.desk.application import Desk
from half_fold.desk.paint.proof import write_small
from half_fold.desk.theme.apply import dress, new_application
from half_fold.desk.welcome import Welcome
from half_fold.desk.window import Window

OUT = Path(__file__).parents[1] / "docs/screenshots"
VIEWS = (
    ("brief", 1, 7),
    ("order", 2, 14),
    ("grid", 3, 7),
    ("spreads", 4, 14),
    ("cover", 5, 14),
    ("checks", 6, 14),
    ("press", 7, 14),
)


def _settle(window: Window) -> None:
    for _ in range(3):
        QTest.qWait(400)
        window.session.proxies.wait()
    while window.thumbnails.busy:
        QTest.qWait(50)


def _spoil(window: Window) -> None:
    """Two slips for the checks to find."""
    pages = window.session.publication.pages
    window.session.edit(lambda p: set_stop(p, pages[13].blocks[0].id, "top", Stop(kind="trim")), "slip")
    window.session.edit(lambda p: reach(p, pages[14].blocks[0].id, "bottom", False), "slip")
    done: list[bool] = []
    window.session.checked.connect(lambda: done.append(True))
    window.session.check_now()
    while not done:
        QTest.qWait(50)


def _read(window: Window) -> None:
    """The cover read, with a block whose ink does not stand off, and what would make it readable."""
    window.session.edit(lambda p: set_paths(p, ["block.c5.ink=black"]), "in black")
    window.open_station(5)
    station = window.station
    reader = station.bench.reader  # type: ignore[attr-defined]
    reader.show()
    station.session.view.select("c5")  # type: ignore[attr-defined]
    while reader.read is None:
        QTest.qWait(50)
    reader.seek("c5")
    while reader.seeking:
        QTest.qWait(50)
    window.session.noted.emit("")
    _settle(window)
    window.grab().save(str(OUT / "reading.png"))
    reader.show()
    window.session.undo()
    station.session.view.select(None)  # type: ignore[attr-defined]
    _try(window)


def _try(window: Window) -> None:
    """The bound copy of the cover, lying."""
    trials = window.station.trials  # type: ignore[attr-defined]
    trials.show_trial("lying")
    while trials.shown is None:
        QTest.qWait(50)
    _settle(window)
    window.grab().save(str(OUT / "trial.png"))
    trials.show_trial("")


def _grid_views(window: Window) -> None:
    """The masters with a head that is typed in, and the type sheet at the role that opens a story."""
    window.session.view.go_to(7)
    window.open_station(3)
    station = window.station
    station.show_view(1)  # type: ignore[attr-defined]
    station.furniture.add(Furniture(id="", words="{story}", at="head", lines=2.0))  # type: ignore[attr-defined]
    _settle(window)
    window.grab().save(str(OUT / "masters.png"))
    window.session.undo()
    station.show_view(2)  # type: ignore[attr-defined]
    station.sheet.choose("opening")  # type: ignore[attr-defined]
    _settle(window)
    window.working.ensureWidgetVisible(window.working.row("Drop cap, size"))
    _settle(window)
    window.grab().save(str(OUT / "type-sheet.png"))
    _ink_views(window)


def _ink_views(window: Window) -> None:
    """The ink list with a palette of the hero picture, and words that stand on a shape of their own."""
    station = window.station
    station.show_view(3)  # type: ignore[attr-defined]
    hero = next(picture for picture in window.session.publication.pictures if picture.file == "the-pear.jpg")
    station.ink_rows._found(hero.id)  # type: ignore[attr-defined]
    while station.ink_rows.palettes.busy:  # type: ignore[attr-defined]
        QTest.qWait(50)
    station.inks.choose(Chosen("ink", "pear skin"))  # type: ignore[attr-defined]
    _settle(window)
    station.inks.parentWidget().parentWidget().verticalScrollBar().setValue(9999)  # type: ignore[attr-defined]
    window.session.noted.emit("")
    _settle(window)
    window.grab().save(str(OUT / "inks.png"))
    station.ink_rows.palettes.forget()  # type: ignore[attr-defined]
    call_out = ["shape=burst", "points=18", "depth=12", "edge.weight=3pt", "edge.ink=straw", "edge.dashes=dotted"]
    panel = window.session.publication.pages[46].blocks[0].id
    window.session.edit(lambda p: set_paths(p, [f"block.{panel}.{each}" for each in call_out]), "a burst")
    window.session.view.go_to(47)
    window.open_station(4)
    window.session.view.select(panel)
    window.station.open_drawer("pictures")  # type: ignore[attr-defined]
    window.session.noted.emit("")
    _settle(window)
    window.grab().save(str(OUT / "shapes.png"))
    window.session.undo()


def _treated(window: Window) -> None:
    """The picture across pages 14 and 15 treated by a curve and in a part, on the easel, with what is kept clear."""
    window.session.view.go_to(14)
    window.open_station(4)
    session, block = window.session, window.session.publication.pages[13].blocks[0].id
    session.view.select(block)
    typed = [
        f"block.{block}.treatment.curve=24 17, 71 79",
        f"block.{block}.treatment.areas=oval 15 45 by 14 40 soft 60: exposure=0.6; warmth=20",
        "picture.pears-on-the-sill.jpg.keep_clear=68 30 96 75",
        "picture.pears-on-the-sill.jpg.points=stalk 82 28",
    ]
    session.edit(lambda p: set_paths(p, typed), "treated")
    window.station.bench.easel.take_up()  # type: ignore[attr-defined]
    _settle(window)
    window.working.unfold("Light and colour")
    window.working.ensureWidgetVisible(window.working.curves[0], 0, 240)
    _settle(window)
    window.grab().save(str(OUT / "treatment.png"))
    window.working.fold("Light and colour")
    window.station.bench.easel.put_down()  # type: ignore[attr-defined]
    session.undo()
    session.view.select(None)


def _hand_views(window: Window) -> None:
    """Ask over a spread, with what lies there as slips."""
    window.session.view.go_to(14)
    window.open_station(4)
    station, session = window.station, window.session
    station.open_drawer("slips")  # type: ignore[attr-defined]
    blocks = session.publication.pages[14].blocks
    session.view.choose([block.id for block in blocks[:2]])
    session.noted.emit("")
    session.view.select(blocks[0].id)
    window.ask_for()
    assert window.wanted is not None
    QTest.keyClicks(window.wanted.ask.line, "see-thro")
    _settle(window)
    window.grab().save(str(OUT / "ask.png"))
    QTest.keyClick(window.wanted.ask.line, Qt.Key.Key_Escape)
    session.view.select(None)


def _way_in(demo: Path) -> None:
    """The kinds to start from, one of them the user's own."""
    job = open_job(demo, to_write=False)
    write_small(job, keep_kind(job.publication, job.folder, "Vale quarterly").picture)
    way_in = Welcome()
    way_in.title.setText("Hedge laying")
    way_in.folder.setText("/home/ellerby/jobs")
    way_in.show()
    QTest.qWait(200)
    way_in.grab().save(str(OUT / "way-in.png"))
    way_in.close()


def _photo_book(folder: Path) -> None:
    """The photo book as it was drafted, and six of its pictures arranged on a spread."""
    window = Desk().open(make_demo(folder, HARVEST))
    window.resize(1280, 800)
    window.open_station(2)
    _settle(window)
    window.grab().save(str(OUT / "draft.png"))
    window.session.view.go_to(22)
    window.open_station(4)
    station = window.station
    bare = tuple(
        replace(page, things=()) if n in (21, 22) else page for n, page in enumerate(window.session.publication.pages)
    )
    window.session.edit(lambda p: replace(p, pages=bare), "emptied")
    names = {picture.file: picture.id for picture in window.session.publication.pictures}
    for number in (7, 8, 11, 13, 21, 23):
        station.drawer.pictures.add_or_drop(names[f"long-acre-{number:02d}.jpg"])  # type: ignore[attr-defined]
    station.arrange()  # type: ignore[attr-defined]
    while not station.bench.arranger.found:  # type: ignore[attr-defined]
        QTest.qWait(50)
    QTest.keyClick(station.bench, Qt.Key.Key_Right)  # type: ignore[attr-defined]
    window.session.noted.emit("")
    _settle(window)
    window.grab().save(str(OUT / "arrange.png"))
    window.close()


def _fit(window: Window) -> None:
    """What would make the story on the desk fill its blocks."""
    station = window.station
    station.fit.seek(window.session.view.story)  # type: ignore[attr-defined]
    while station.fitter.busy:  # type: ignore[attr-defined]
        QTest.qWait(50)


def main() -> None:
    application = new_application(sys.argv[0])
    dress(application)
    with tempfile.TemporaryDirectory() as folder:
        os.environ["XDG_STATE_HOME"] = os.environ["XDG_DATA_HOME"] = f"{folder}/own"
        demo = make_demo(Path(folder))
        _way_in(demo)
        window = Desk().open(demo)
        window.resize(1280, 800)
        _settle(window)
        for name, station, page in VIEWS:
            window.session.view.go_to(page)
            window.open_station(station)
            if name == "brief":
                window.working.row("Spine").unfold(True)
            if name == "checks":
                _spoil(window)
            if name == "spreads":
                window.session.view.select(window.session.publication.pages[13].blocks[0].id)
            _settle(window)
            window.grab().save(str(OUT / f"{name}.png"))
            if name == "checks":
                window.session.undo()
                window.session.undo()
        window.session.view.select(None)
        window.session.view.go_to(7)
        window.open_station(4)
        window.session.view.select(window.session.publication.pages[6].blocks[-3].id)
        window.station.open_drawer("stories")  # type: ignore[attr-defined]
        _settle(window)
        _fit(window)
        _settle(window)
        window.grab().save(str(OUT / "stories.png"))
        _hand_views(window)
        _treated(window)
        _grid_views(window)
        _read(window)
        window.close()
        _photo_book(Path(folder))


if __name__ == "__main__":
    main()
