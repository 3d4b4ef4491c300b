"""The job folder: round trips, atomic saves, locks, damaged files, autosave, a kill during typing."""

import json
import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import msgspec
import pytest
from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import KINDS, start
from half_fold.core.publication.history import History
from half_fold.core.publication.records import HoldsPicture, Publication
from half_fold.core.store.atomic import whole_file, write_whole
from half_fold.core.store.autosave import Autosave
from half_fold.core.store.codec import decode, encode
from half_fold.core.store.job import create_job, open_job, read
from half_fold.core.store.upgrade import COVER_ROLES


def test_every_kind_round_trips() -> None:
    for kind in KINDS:
        job = set_values(start(kind, "Ümlaut & “quotes”"), ["trim=8 1/2in x 11in", "bleed=1/8in"])
        assert decode(encode(job), "x") == job
        assert json.loads(encode(job))["publication"]["brief"]["bleed"] == "1/8in"


def test_the_demo_round_trips(demo: Path) -> None:
    file = demo / "graftwood.halffold"
    assert encode(read(file)) == file.read_bytes()


def _spoiled(content: bytes) -> dict[str, bytes]:
    whole = json.loads(content)
    newer = {**whole, "format": 99}
    extra = json.loads(content)
    extra["publication"]["brief"]["colour"] = "red"
    dangling = json.loads(content)
    dangling["publication"]["pages"][0]["master"] = "none such"
    tiny = json.loads(content)
    tiny["publication"]["brief"]["width"] = "1mm"
    nonsense = json.loads(content)
    nonsense["publication"]["brief"]["width"] = "twelve"
    fields = json.loads(content)
    fields["publication"]["masters"][0]["grid"]["columns"] = 0
    spoiled = {"half": content[: len(content) // 2], "bytes": bytes(range(256)), "empty": b"", "list": b"[1, 2]"}
    for name, value in (
        ("newer", newer),
        ("extra", extra),
        ("dangling", dangling),
        ("tiny", tiny),
        ("nonsense", nonsense),
        ("fields", fields),
    ):
        spoiled[name] = json.dumps(value).encode()
    return spoiled


@pytest.mark.parametrize(
    "how", ["half", "bytes", "empty", "list", "newer", "extra", "dangling", "tiny", "nonsense", "fields"]
)
def test_a_spoiled_file_gets_a_sentence_and_is_left_alone(job: Path, how: str) -> None:
    file = job / "leaf.halffold"
    spoiled = _spoiled(file.read_bytes())[how]
    file.write_bytes(spoiled)
    with pytest.raises(Problem) as caught:
        open_job(job)
    assert str(caught.value).endswith(".") and file.read_bytes() == spoiled
    file.write_bytes(encode(start("magazine", "Leaf")))
    open_job(job).close()


def test_a_second_window_is_refused_and_a_reader_is_not(job: Path) -> None:
    first = open_job(job)
    with pytest.raises(Problem, match="another window"):
        open_job(job)
    reader = open_job(job, to_write=False)
    with pytest.raises(Problem):
        reader.save(reader.publication)
    first.close()
    open_job(job).close()


def test_a_failed_write_leaves_the_earlier_file(tmp_path: Path) -> None:
    path = tmp_path / "a.txt"
    write_whole(path, b"before")
    with pytest.raises(ZeroDivisionError), whole_file(path) as temporary:
        temporary.write_bytes(b"half")
        raise ZeroDivisionError
    assert path.read_bytes() == b"before" and [p.name for p in tmp_path.iterdir()] == ["a.txt"]
    with pytest.raises(Problem):
        write_whole(tmp_path / "no" / "folder.txt", b"x")


def test_a_job_folder_is_made_whole_or_not_at_all(tmp_path: Path, magazine: Publication) -> None:
    def fail(_folder: Path) -> None:
        raise Problem("No.")

    with pytest.raises(Problem):
        create_job(tmp_path / "deep" / "down" / "job", magazine, fail)
    assert not list(tmp_path.iterdir())
    (tmp_path / "full").mkdir()
    (tmp_path / "full" / "thing").touch()
    for folder in (tmp_path / "full", tmp_path / "full" / "thing" / "job", tmp_path / "full" / "thing"):
        with pytest.raises(Problem):
            create_job(folder, magazine)
    (tmp_path / "empty").mkdir()
    assert create_job(tmp_path / "empty", magazine).exists()


def test_versions_and_the_press_record(job: Path) -> None:
    opened = open_job(job)
    opened.keep_version(opened.publication, "sent to printer/..")
    opened.keep_version(opened.publication)
    assert len(opened.versions()) == 2 and all(path.parent.name == "versions" for path in opened.versions())
    opened.record_pressed({"file": "a.pdf"})
    with (job / "press" / "record.jsonl").open("ab") as file:
        file.write(b'{"cut sho')
    assert [entry["file"] for entry in opened.pressed()] == ["a.pdf"]


def test_autosave_follows_continuous_editing_within_a_second(job: Path) -> None:
    opened = open_job(job)
    saver = Autosave(opened, lambda _: None)
    lag, step, written = 0.0, 0, 0
    end = time.monotonic() + 2.5
    while time.monotonic() < end:
        step += 1
        saver.offer(replace(opened.publication, title=f"{step} {time.monotonic()}"))
        time.sleep(0.02)
        title = read(opened.file).title
        if title != "Leaf":
            written += 1
            lag = max(lag, time.monotonic() - float(title.split()[1]))
    saver.close()
    opened.close()
    assert written > 5 and lag < 1.0
    assert read(opened.file).title.startswith(f"{step} ")


def test_a_kill_during_continuous_typing_loses_at_most_a_second(demo: Path) -> None:
    """The real window types without pause and is killed; what was typed a second before is on disk, and whole."""
    script = f"""
import sys, time
from pathlib import Path
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication
application = QApplication([])
from half_fold.desk.application import Desk
window = Desk().open(Path({str(demo)!r}))
window.open_station(4)
text = window.station.drawer.stories.text
window.station.open_drawer("stories")
count = 0
while True:
    count += 1
    QTest.keyClicks(text, f"w{{count}} ")
    QTest.qWait(5)
    print(count, time.monotonic(), flush=True)
"""
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    typing = subprocess.Popen(
        [sys.executable, "-c", script], stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True, env=environment
    )
    assert typing.stdout is not None
    typed: list[tuple[int, float]] = []
    for line in typing.stdout:
        count, at = line.split()
        typed.append((int(count), float(at)))
        if at and typed[-1][1] - typed[0][1] > 3:
            break
    typing.send_signal(signal.SIGKILL)
    killed = time.monotonic()
    typing.wait()
    opened = open_job(demo)
    words = " ".join(p.text for story in opened.publication.stories for p in story.paragraphs).split()
    saved = {int(word[1:]) for word in words if word[0] == "w" and word[1:].isdigit()}
    due = {count for count, at in typed if at < killed - 1.0}
    assert len(due) > 5 and due <= saved  # a machine under load types slowly
    opened.close()


def test_undo_and_redo_have_no_limit(magazine: Publication) -> None:
    history = History(magazine)
    for n in range(2000):
        history.edit(replace(magazine, title=str(n)), f"title {n}")
    assert history.undoes == "title 1999"
    for _ in range(2500):
        history.undo()
    assert history.now is magazine and history.undoes == ""
    for _ in range(3):
        history.redo()
    assert history.now.title == "2"
    history.edit(replace(magazine, title="other"), "other")
    assert history.redoes == ""


def test_typing_is_one_step_until_it_pauses(magazine: Publication) -> None:
    history = History(magazine)
    for n in range(3):
        history.edit(replace(magazine, title=str(n)), "typing", "type s1")
    history.pause()
    history.edit(replace(magazine, title="later"), "typing", "type s1")
    assert history.undo().title == "2" and history.undo() is magazine


def test_a_save_that_failed_is_tried_again_without_another_edit(job: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    def full(_path: Path, _content: bytes) -> None:
        raise Problem("The disk is full; free some room.")

    opened = open_job(job)
    said: list[str] = []
    with monkeypatch.context() as broken:
        broken.setattr("half_fold.core.store.job.write_whole", full)
        saver = Autosave(opened, said.append)
        saver.offer(replace(opened.publication, title="Only once offered"))
        assert not saver.flush(0.5) and said and said[0].startswith("The disk is full")
    saver.close()
    opened.close()
    assert read(opened.file).title == "Only once offered" and said[-1] == ""


def test_closing_while_nothing_can_be_saved_ends_and_says_so(job: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    def full(_path: Path, _content: bytes) -> None:
        raise Problem("The disk is full; free some room.")

    opened = open_job(job)
    before = opened.file.read_bytes()
    said: list[str] = []
    monkeypatch.setattr("half_fold.core.store.job.write_whole", full)
    saver = Autosave(opened, said.append)
    saver.offer(replace(opened.publication, title="Lost to a full disk"))
    begun = time.monotonic()
    saver.close()
    opened.close()
    assert time.monotonic() - begun < 5 and "disk is full" in said[-1] and opened.file.read_bytes() == before


def test_a_job_of_format_1_is_brought_up_and_keeps_its_cover(demo: Path) -> None:
    content = json.loads(encode(read(demo / "graftwood.halffold")))
    content["format"] = 1
    body = content["publication"]
    body["roles"] = [role for role in body["roles"] if role["name"] not in COVER_ROLES]
    body["cover"] = {"ink": "dusk", "tint": 60, "picture": "picture5", "over": "wrap", "focus_x": 0.25}
    for name in ("masthead", "tab"):
        body.pop(name, None)
    job = decode(json.dumps(content).encode(), "old")
    block = job.cover.back[0]
    assert (job.cover.ink, job.cover.tint) == ("dusk", 60)
    assert isinstance(block.holds, HoldsPicture)
    assert (block.holds.picture, block.holds.focus_x, block.place.right.facing) == ("picture5", 0.25, True)
    assert {role.name for role in job.roles} >= set(COVER_ROLES)
    body["cover"] = "paper"
    with pytest.raises(Problem, match="does not belong in a job"):
        decode(json.dumps(content).encode(), "old")


def test_a_file_of_format_three_keeps_its_folio_feet_and_headings(tmp_path: Path) -> None:
    body = msgspec.json.decode(encode(start("magazine", "Old")))["publication"]
    for master in body["masters"]:
        del master["furniture"], master["based_on"], master["takes_grid"]
        master |= {"folio": True, "foot_left": "{title}", "foot_right": ""}
    for role in body["roles"]:
        for field in ("keep_next", "based_on", "own"):
            del role[field]
    for page in body["pages"]:
        page["blocks"] = page.pop("things")
    body["cover"] = {}
    read = decode(msgspec.json.encode({"format": 3, "publication": body}), "old")
    assert [(p.words, p.pages) for p in read.masters[0].furniture] == [("{folio}", "both"), ("{title}", "left")]
    assert {r.name for r in read.roles if r.keep_next} == {"headline", "subhead", "standfirst", "byline", "crosshead"}
