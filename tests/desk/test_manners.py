"""The window's manners: what is folded away, what is brought in while work goes on, keys while writing."""

from itertools import combinations
from pathlib import Path

import pytest
from PIL import Image
from PyQt6.QtCore import QMimeData, QPoint, QPointF, QRect, Qt, QUrl
from PyQt6.QtGui import QDropEvent, QWheelEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QApplication, QFileDialog, QPushButton, QWidget

from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import HoldsPicture, Publication
from half_fold.core.publication.surgery import page_of_block, picture_of
from half_fold.core.publication.used import used_pictures
from half_fold.core.spread.edits import edits
from half_fold.core.spread.setting.hits import block_at
from half_fold.desk.application import Desk
from half_fold.desk.memory import last_folder, note_folder
from half_fold.desk.stations.spreads.drawer.drawer import LEAVES
from half_fold.desk.stations.spreads.station import SpreadsStation
from half_fold.desk.window import Window
from tests.desk.conftest import LEFT, ready, wait_for

CONTROL = Qt.KeyboardModifier.ControlModifier


def _spreads(window: Window) -> SpreadsStation:
    window.open_station(4)
    assert isinstance(window.station, SpreadsStation)
    return window.station


def test_the_concertina_folds_away_and_stays_so(desk: Desk, demo: Path) -> None:
    window = desk.open(demo)
    ready(window)
    tall, room = window.concertina.height(), window.bench.height()
    QTest.keyClick(window, Qt.Key.Key_F9)
    QTest.qWait(20)
    assert window.concertina.height() < tall / 3 and window.bench.height() > room + tall / 2
    left = window.concertina._left_of(3)
    QTest.mouseClick(window.concertina, LEFT, pos=window.concertina.rect().center().__class__(int(left) + 30, 10))
    assert window.session.view.spread.label == "6–7"
    window.close()
    again = desk.open(demo)
    ready(again)
    assert not again.concertina.unfolded
    QTest.keyClick(again, Qt.Key.Key_F9)
    QTest.qWait(20)
    assert again.concertina.height() == tall


def test_brackets_stand_under_the_pages_that_share_a_sheet(window: Window) -> None:
    """Of a 48-page perfect-bound job: three runs of one colour with gaps after pages 16 and 32."""
    concertina = window.concertina
    image = concertina.grab().toImage()
    ratio = concertina.devicePixelRatioF()
    y = round((concertina.height() - 6) * ratio)
    assert y < image.height()
    from half_fold.desk.concertina import BRACKET_DROP, BRACKET_TOP

    line = round((BRACKET_TOP + BRACKET_DROP) * ratio)
    ground = image.pixelColor(2, line).lightness()

    def drawn(x: float) -> bool:
        """A line there: within a pixel up or down."""
        return any(image.pixelColor(round(x * ratio), line + d).lightness() < ground - 30 for d in (-1, 0, 1))

    assert drawn(concertina._edge_of(2, False) + 4) and drawn(concertina._edge_of(4, False) + 4)
    window.session.view.go_to(16)
    QTest.qWait(20)
    image = concertina.grab().toImage()
    assert drawn(concertina._edge_of(16, True) - 5) and not drawn(concertina._edge_of(16, True))


def test_a_text_comes_in_while_another_is_typed(window: Window, story_file: Path) -> None:
    """What is typed while a text is being placed is kept, and the text is placed all the same."""
    station = _spreads(window)
    window.session.view.go_to(7)
    station.open_drawer("stories")
    text = station.drawer.stories.text
    window.session.bring_text(story_file)
    QTest.keyClicks(text, "Meanwhile ")
    wait_for(lambda: any(s.title == "The office of fjords" for s in window.session.publication.stories))
    story = next(s for s in window.session.publication.stories if s.title.startswith("The winter"))
    assert story.paragraphs[0].text.startswith("Meanwhile The ladders")
    QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
    assert all(s.title != "The office of fjords" for s in window.session.publication.stories)
    story = next(s for s in window.session.publication.stories if s.title.startswith("The winter"))
    assert story.paragraphs[0].text.startswith("Meanwhile The ladders")


@pytest.mark.parametrize(("key", "leaf"), [(Qt.Key.Key_I, "pictures"), (Qt.Key.Key_T, "stories")])
def test_bringing_in_opens_the_drawer_it_belongs_to(
    window: Window, monkeypatch: pytest.MonkeyPatch, key: Qt.Key, leaf: str
) -> None:
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_, **__: ("", ""))
    monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *_, **__: ([], ""))
    station = _spreads(window)
    station.open_drawer("stories" if leaf == "pictures" else "pictures")
    QTest.keyClick(window, key, CONTROL)
    assert station.drawer.leaf == leaf


def test_bringing_in_shows_how_far_it_is_and_can_be_stopped(window: Window, tmp_path: Path) -> None:
    station = _spreads(window)
    paths = []
    for number in range(40):
        paths.append(tmp_path / f"row{number}.png")
        Image.effect_noise((500 + number, 400), 60).convert("RGB").save(paths[-1])
    have = len(window.session.publication.pictures)
    progress = station.drawer.progress
    assert not progress.isVisible()
    window.session.bring_pictures(paths)
    assert progress.isVisible() and progress.bar.maximum() == 40
    wait_for(lambda: progress.bar.value() >= 2)
    QTest.mouseClick(progress.stop, LEFT)
    assert not progress.isVisible()
    QTest.qWait(300)
    came = len(window.session.publication.pictures) - have
    assert 2 <= came < 40
    window.session.bring_pictures(paths[-1:])
    wait_for(lambda: len(window.session.publication.pictures) == have + came + 1)


def test_dialogs_start_where_such_things_were_last_fetched(
    window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    (tmp_path / "shots").mkdir()
    picture = tmp_path / "shots" / "row.png"
    Image.new("RGB", (60, 40)).save(picture)
    started: list[str] = []

    def ask(_parent: object, _title: str, start: str, _kinds: str) -> tuple[list[str], str]:
        started.append(start)
        return [str(picture)], ""

    monkeypatch.setattr(QFileDialog, "getOpenFileNames", ask)
    station = _spreads(window)
    button = next(b for b in station.drawer.findChildren(QPushButton) if b.text() == "Bring in pictures")
    for _ in range(2):
        QTest.mouseClick(button, LEFT)
    assert started == [str(Path.home()), str(tmp_path / "shots")]
    note_folder("pictures", tmp_path / "gone")
    assert last_folder("pictures") == str(Path.home())


def _written(window: Window) -> Publication:
    station = _spreads(window)
    station.drawer.stories.new_story()
    return window.session.publication


def test_tabs_and_styles_are_typed_in_a_text(window: Window) -> None:
    """Ctrl+Tab gives a tab, Ctrl+I italic and not a dialog, and an entry is followed by an entry."""
    _written(window)
    text = _spreads(window).drawer.stories.text
    text.setFocus()
    text.set_role("entry")
    QTest.keyClicks(text, "4 May")
    QTest.keyClick(text, Qt.Key.Key_Tab, CONTROL)
    QTest.keyClick(text, Qt.Key.Key_I, CONTROL)
    QTest.keyClicks(text, "Grafting")
    QTest.keyClick(text, Qt.Key.Key_Return)
    QTest.keyClicks(text, "5 May")
    first, second = window.session.publication.stories[-1].paragraphs
    assert first.text == "4 May\tGrafting" and [run.italic for run in first.runs] == [False, True]
    assert (second.role, second.text) == ("entry", "5 May")
    assert window.current == 4


def test_a_block_is_copied_to_the_clipboard(window: Window) -> None:
    clipboard = QApplication.clipboard()
    assert clipboard is not None
    station = _spreads(window)
    window.session.view.go_to(7)
    station.bench.setFocus()
    QTest.keyClick(station.bench, Qt.Key.Key_C, CONTROL)
    assert "Choose something" in window.foot.sentence
    window.session.view.select(window.session.publication.pages[5].blocks[0].id)
    QTest.keyClick(station.bench, Qt.Key.Key_C, CONTROL)
    mime = clipboard.mimeData()
    assert mime is not None and clipboard.image().width() == 2400
    assert [Path(url.toLocalFile()).name for url in mime.urls()] == ["rows-in-mist.jpg"]
    window.session.view.select(window.session.publication.pages[6].blocks[0].id)
    QTest.keyClick(station.bench, Qt.Key.Key_C, CONTROL)
    assert clipboard.text() == "The winter\n\nof long ladders"


def _drop(window: Window, path: Path, at: QPoint) -> None:
    mime = QMimeData()
    mime.setUrls([QUrl.fromLocalFile(str(path))])
    here = window.mapFromGlobal(at).toPointF()
    copy, none = Qt.DropAction.CopyAction, Qt.KeyboardModifier.NoModifier
    window.dropEvent(QDropEvent(here, copy, mime, LEFT, none))


def _picture(tmp_path: Path, name: str = "hedge.png") -> Path:
    Image.effect_noise((300, 200), 60).convert("RGB").save(tmp_path / name)
    return tmp_path / name


def _field(window: Window, number: int) -> tuple[float, float, QPoint]:
    """A place in the second column and sixth row of the spread of page 8, in points and on the screen."""
    window.open_station(number)
    window.session.view.go_to(8)
    QTest.qWait(30)
    bench = window.station.bench  # type: ignore[attr-defined]
    frame = bench.frames()[0][1]
    left, top = frame.columns[1][0] + 4, frame.rows[5][0] + 4
    return left, top, bench.mapToGlobal(bench.to_widget(Rect(left, top, left, top)).topLeft().toPoint())


@pytest.mark.parametrize("number", [1, 2, 5, 7])
def test_what_is_dropped_or_pasted_stays_where_the_user_is(window: Window, tmp_path: Path, number: int) -> None:
    window.open_station(number)
    QTest.qWait(30)
    pictures, stories = len(window.session.publication.pictures), len(window.session.publication.stories)
    _drop(window, _picture(tmp_path), window.mapToGlobal(QPoint(1100, 700)))
    wait_for(lambda: len(window.session.publication.pictures) == pictures + 1)
    clipboard = QApplication.clipboard()
    assert clipboard is not None
    clipboard.setText("Some words\n\nand more of them")
    window.station.take_focus()
    window.paste()
    assert len(window.session.publication.stories) == stories + 1
    assert window.current == number


@pytest.mark.parametrize("number", [4, 5])
def test_a_picture_goes_where_it_was_dropped(window: Window, tmp_path: Path, number: int) -> None:
    """Into the block under the pointer; onto free fields as a block of its own."""
    left, top, at = _field(window, number)
    session = window.station.session  # type: ignore[attr-defined]
    before = {block.id for page in session.publication.pages for block in page.blocks}
    under = block_at(session.publication, session.view.spread, left, top)
    _drop(window, _picture(tmp_path), at)
    wait_for(lambda: session.view.block is not None)
    _, _, block = page_of_block(session.publication, session.view.block)
    assert isinstance(block.holds, HoldsPicture)
    assert picture_of(session.publication, block.holds.picture).file == "hedge.png"
    assert block.id == under if under is not None else block.id not in before
    _drop(window, _picture(tmp_path, "again.png"), at)
    wait_for(lambda: window.session.publication.pictures[-1].file == "again.png")
    _, _, again = page_of_block(session.publication, block.id)
    assert isinstance(again.holds, HoldsPicture) and again.holds.picture == window.session.publication.pictures[-1].id


@pytest.mark.parametrize("number", [4, 5])
def test_what_is_dropped_on_a_page_is_one_edit_with_its_place(window: Window, tmp_path: Path, number: int) -> None:
    *_, at = _field(window, number)
    before = window.session.publication
    folder = tmp_path / "photographs"
    folder.mkdir()
    for name in ("one.png", "two.png", "three.png"):
        _picture(folder, name)
    _drop(window, folder, at)
    wait_for(lambda: len(window.session.publication.pictures) == len(before.pictures) + 3)
    wait_for(lambda: not window.session.bringing.busy)
    assert len(used_pictures(window.session.publication) - used_pictures(before)) == 1
    assert window.session.history.undoes.startswith("brought in")
    window.session.undo()
    assert window.session.publication is before
    window.session.redo()
    assert len(used_pictures(window.session.publication) - used_pictures(before)) == 1


def test_a_batch_of_pictures_is_one_edit_in_its_order(window: Window, tmp_path: Path) -> None:
    have = len(window.session.publication.pictures)
    paths = [_picture(tmp_path, f"p{number}.png") for number in range(12)]
    window.session.bring_pictures(paths)
    wait_for(lambda: len(window.session.publication.pictures) == have + 12)
    assert [picture.file for picture in window.session.publication.pictures[have:]] == [path.name for path in paths]
    assert window.session.history.undoes == "brought in 12 pictures"
    window.session.undo()
    assert len(window.session.publication.pictures) == have


def test_a_claim_stays_lit_with_its_size_until_the_chooser_is_closed(window: Window) -> None:
    station = _spreads(window)
    window.session.view.go_to(8)
    QTest.qWait(30)
    bench = station.bench
    frame = bench.frames()[0][1]
    first, last = (frame.columns[0][0], frame.rows[0][0]), (frame.columns[2][1], frame.rows[1][1])
    start, end = (bench.to_widget(Rect(x, y, x, y)).topLeft().toPoint() for x, y in (first, last))
    QTest.mousePress(bench, LEFT, pos=start + QPoint(3, 3))
    QTest.mouseMove(bench, end - QPoint(3, 3))
    QTest.mouseRelease(bench, LEFT, pos=end - QPoint(3, 3))
    assert station.chooser is not None and station.chooser.isVisible() and bench.claim is not None
    claimed = edits.claimed(window.session.publication, window.session.view.spread.numbers, *bench.claim)
    assert claimed is not None
    wide, high = (last[0] - first[0]) / 72 * 25.4, (last[1] - first[1]) / 72 * 25.4
    assert claimed.words("mm") == f"3 × 2 fields, {wide:.1f} × {high:.1f} mm"
    middle = bench.to_widget(Rect(frame.columns[1][0] + 5, frame.rows[1][0] + 5, 0, 0)).topLeft().toPoint()
    lit = bench.grab().toImage().pixelColor(middle)
    QTest.keyClick(station.chooser, Qt.Key.Key_Escape)
    assert bench.claim is None
    assert bench.grab().toImage().pixelColor(middle).lightness() > lit.lightness()


def test_the_picture_drawer_is_scrolled_by_the_wheel_and_names_what_it_shows(window: Window, tmp_path: Path) -> None:
    station = _spreads(window)
    drawer = station.drawer.pictures
    port = drawer.viewport()
    bar = drawer.horizontalScrollBar()
    assert port is not None and bar is not None and bar.maximum() > 0
    asked: list[str] = []
    whole = window.session.proxies.image
    window.session.proxies.image = lambda picture, width: asked.append(picture) or whole(picture, width)  # type: ignore[method-assign]
    turn = QWheelEvent(
        QPointF(60, 40),
        QPointF(port.mapToGlobal(QPoint(60, 40))),
        QPoint(),
        QPoint(0, -480),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(port, turn)
    assert bar.value() > 0
    drawer.grab()
    every = [picture.id for picture in window.session.publication.pictures]
    assert asked and set(asked) < set(every), "only what is seen is asked for"
    QTest.keyClick(drawer, Qt.Key.Key_End)
    assert drawer.chosen == every[-1] and bar.value() == bar.maximum()
    drawer.parentWidget().setFixedHeight(600)  # type: ignore[union-attr]
    QTest.qWait(30)
    places = drawer.places()
    assert bar.maximum() == 0 and max(p.right() for p in places) <= port.width() and places[-1].top() > places[0].top()


def test_enter_starts_the_job_from_any_line_of_the_way_in(desk: Desk, tmp_path: Path) -> None:
    desk.show_welcome()
    assert desk.welcome is not None
    desk.welcome.title.setText("Hedge Book")
    desk.welcome.folder.setText(str(tmp_path))
    desk.welcome.kinds.setFocus()
    QTest.keyClick(desk.welcome.kinds, Qt.Key.Key_Return)
    wait_for(lambda: bool(desk.windows))
    assert desk.windows[-1].session.publication.title == "Hedge Book"


@pytest.mark.parametrize("number", range(1, 8))
def test_whatever_takes_keys_tells_its_name(window: Window, number: int) -> None:
    """Walked by Tab from the bench on until the focus comes round, as a reader of the screen would meet it."""
    window.open_station(number)
    window.station.take_focus()
    QTest.qWait(30)
    met: list[QWidget] = []
    for _ in range(200):
        here = window.focusWidget()
        if here is None or here in met:
            break
        met.append(here)
        before = here
        QTest.keyClick(here, Qt.Key.Key_Tab)
        if window.focusWidget() is before:  # a bench that goes from block to block first
            for _ in range(40):
                QTest.keyClick(before, Qt.Key.Key_Tab)
                if window.focusWidget() is not before:
                    break
    assert len(met) > 5, [type(each).__name__ for each in met]
    for each in met:
        words = each.text() if isinstance(each, QAbstractButton) else ""
        assert each.accessibleName() or words, (type(each).__name__, each.objectName(), each.toolTip())


def test_a_folder_that_is_dropped_brings_its_pictures_in_as_one_edit(window: Window, tmp_path: Path) -> None:
    folder = tmp_path / "photographs"
    (folder / "below").mkdir(parents=True)
    for at, name in enumerate(("one.png", "two.png", "below/three.png")):
        Image.new("RGB", (60, 40), (40 * at, 90, 120)).save(folder / name)
    (folder / "broken.jpg").write_bytes(b"no picture")
    before = window.session.publication
    _drop(window, folder, window.mapToGlobal(QPoint(60, 600)))  # on the docket, and not on a block
    wait_for(lambda: len(window.session.publication.pictures) == len(before.pictures) + 3)
    window.session.undo()
    assert window.session.publication is before
    (tmp_path / "empty").mkdir()
    _drop(window, tmp_path / "empty", window.mapToGlobal(QPoint(600, 300)))
    assert "no pictures in “empty”" in window.foot.sentence


@pytest.mark.parametrize("wide", [0, 1180, 1280])  # the least there may be, and some between
@pytest.mark.parametrize("station", [4, 5])
def test_the_tools_of_the_drawer_never_lie_on_one_another(window: Window, station: int, wide: int) -> None:
    window.open_station(station)
    window.resize(max(wide, window.minimumWidth()), 700)
    drawer = window.station.drawer  # type: ignore[attr-defined]
    for leaf in LEAVES:
        drawer.open(leaf)
        QTest.qWait(20)
        tools = drawer._tools.currentWidget()
        shown = [each for each in tools.findChildren(QWidget) if each.isVisible() and each.parent() is tools]
        every = [drawer.tabs[name] for name in LEAVES] + shown
        boxes = [(each, QRect(each.mapTo(drawer, QPoint(0, 0)), each.size())) for each in every]
        for (one, a), (other, b) in combinations(boxes, 2):
            assert not a.intersects(b), (leaf, one, other, a, b)
        for each, box in boxes:
            assert drawer.rect().contains(box), (leaf, each)
            if isinstance(each, QPushButton):
                assert each.width() >= each.fontMetrics().horizontalAdvance(each.text()), (leaf, each.text())
