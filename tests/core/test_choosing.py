"""Pictures told by their files and by measure; shown, ordered, searched and valued."""

import subprocess
from itertools import combinations
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image, ImageFilter

from half_fold.cli import main
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import set_path
from half_fold.core.pictures.library.choosing import ORDERS, SHOWS, chosen, value_pictures
from half_fold.core.pictures.library.told import Told, told_facts
from half_fold.core.plan.starters import start
from half_fold.core.press.contact import contact_job
from half_fold.core.publication.records import HoldsPicture, Picture
from half_fold.core.publication.validity import require_valid
from half_fold.core.spread.where.frames import block_box, page_frame_of
from half_fold.core.store.codec import decode, encode
from half_fold.core.store.job import create_job

MARK = bytes.fromhex("50686f746f73686f7020332e3000")  # what such a segment begins with


def _iptc(fields: dict[tuple[int, int], list[bytes]]) -> bytes:
    """An application segment as press agencies write it: resource 0x0404 of records 2."""
    data = b"".join(
        b"\x1c" + bytes([record, number]) + len(value).to_bytes(2, "big") + value
        for (record, number), values in fields.items()
        for value in values
    )
    block = b"8BIM\x04\x04\x00\x00" + len(data).to_bytes(4, "big") + data + b"\x00" * (len(data) % 2)
    content = MARK + block
    return b"\xff\xed" + (len(content) + 2).to_bytes(2, "big") + content


def photograph(path: Path, **fields: object) -> Path:
    rng = np.random.default_rng(1)
    image = Image.fromarray(rng.integers(0, 255, (600, 900, 3), np.uint8)).filter(ImageFilter.GaussianBlur(2))
    exif = image.getexif()
    exif[0x010E], exif[0x013B] = "By the camera", "Mara Holt"
    exif.get_ifd(0x8769)[0x9003] = "2026:11:20 07:15:09"
    image.save(path, quality=90, exif=exif)
    if fields:
        octets = path.read_bytes()
        path.write_bytes(octets[:2] + _iptc(fields["iptc"]) + octets[2:])  # type: ignore[arg-type]
    return path


def test_what_a_camera_and_a_press_agency_say_is_read(tmp_path: Path) -> None:
    plain = told_facts(photograph(tmp_path / "a.jpg"), "digest-a")
    assert (plain.taken, plain.caption, plain.creator) == ("2026-11-20 07:15:09", "By the camera", "Mara Holt")
    said = {
        (2, 120): ["Frost on the second gate, Köhler’s field".encode()],
        (2, 25): [b"frost", b"gate"],
        (2, 110): [b"Ellerby Vale Press"],
        (2, 90): [b"Long Acre"],
    }
    both = told_facts(photograph(tmp_path / "b.jpg", iptc=said), "digest-b")
    assert both.caption == "Frost on the second gate, Köhler’s field" and both.keywords == "frost, gate"
    assert (both.credit, both.place, both.creator) == ("Ellerby Vale Press", "Long Acre", "Mara Holt")
    assert "köhler" in both.words


def test_detail_and_light_are_measured_and_kept(tmp_path: Path) -> None:
    sharp = photograph(tmp_path / "a.jpg")
    Image.open(sharp).filter(ImageFilter.GaussianBlur(4)).save(tmp_path / "soft.png")
    Image.new("RGB", (300, 200), (119, 119, 119)).save(tmp_path / "grey.png")
    found = [told_facts(tmp_path / name, f"digest-{name}") for name in ("a.jpg", "soft.png", "grey.png")]
    assert found[0].sharp > 5 * found[1].sharp > 0 and found[2].sharp == 0
    assert found[2].light == pytest.approx(50, abs=1) and len(found[2].parts) == 108
    sharp.unlink()
    assert told_facts(sharp, "digest-a.jpg") == found[0], "found once, and kept"


@pytest.mark.parametrize("content", [b"", b"no picture", b"\xff\xd8\xff\xed\x00\x10" + MARK])
def test_a_file_that_tells_nothing_is_no_fault(content: bytes, tmp_path: Path) -> None:
    (tmp_path / "x.jpg").write_bytes(content)
    assert told_facts(tmp_path / "x.jpg", f"digest-{len(content)}") == Told()


# Order and choice -----------------------------------------------------------------------------------

PICTURES = (
    Picture(id="p1", file="Gate.jpg", width=900, height=600, digest="a"),
    Picture(id="p2", file="apple.jpg", width=600, height=900, digest="b", worth="opens"),
    Picture(id="p3", file="mist.jpg", width=600, height=600, digest="c", worth="left out"),
)
TOLD = {
    "a": Told(taken="2026-11-02 08:00:00", caption="Frost on the gate", sharp=9.0, light=70.0, parts=(0.0,) * 108),
    "b": Told(taken="2026-11-01 08:00:00", keywords="apple, red", sharp=30.0, light=40.0, parts=(90.0,) * 108),
    "c": Told(sharp=2.0, light=55.0, parts=(10.0,) * 108),
}


@pytest.mark.parametrize(
    ("how", "ids"),
    [
        ({}, "123"),
        ({"order": "time"}, "213"),
        ({"order": "name"}, "213"),
        ({"order": "light"}, "231"),
        ({"order": "sharpness"}, "213"),
        ({"order": "likeness"}, "132"),
        ({"show": "unused"}, "2"),
        ({"show": "upright"}, "2"),
        ({"show": "wide"}, "1"),
        ({"show": "opens"}, "2"),
        ({"show": "left out"}, "3"),
        ({"search": "FROST gate"}, "1"),
        ({"search": "red"}, "2"),
        ({"search": "apple gate"}, ""),
        ({"show": "too small", "too_small": lambda picture: picture.width < 700}, "23"),
    ],
)
def test_what_is_asked_for_in_its_order(how: dict[str, object], ids: str) -> None:
    found = chosen(PICTURES, TOLD, {"p1"}, **how)  # type: ignore[arg-type]  # its own words
    assert "".join(picture.id[1:] for picture in found) == ids


@given(st.sampled_from(ORDERS), st.sampled_from(SHOWS), st.lists(st.sampled_from("abcd"), max_size=9))
def test_an_order_loses_none_and_doubles_none(order: str, show: str, digests: list[str]) -> None:
    many = [replace(PICTURES[0], id=f"p{at}", digest=digest) for at, digest in enumerate(digests)]
    shown = chosen(many, TOLD, (), "arrival", show)  # type: ignore[arg-type]
    ordered = chosen(many, TOLD, (), order, show)  # type: ignore[arg-type]
    assert sorted(p.id for p in ordered) == sorted(p.id for p in shown)


def test_worth_is_said_kept_and_a_path() -> None:
    job = replace(start("magazine", "Desk"), pictures=PICTURES)
    made = value_pictures(job, "p1", "carries")
    assert [p.worth for p in made.pictures] == ["carries", "opens", "left out"]
    assert value_pictures(made, "p1", "carries") is made
    assert decode(encode(made), "desk.halffold") == made
    assert set_path(job, "picture.Gate.jpg.worth", "fills").pictures[0].worth == "fills"
    with pytest.raises(Problem, match="not known"):
        value_pictures(job, "p1", "splendid")


# Contact sheets -------------------------------------------------------------------------------------


@pytest.mark.parametrize(("count", "sheets"), [(1, 1), (20, 1), (21, 2), (45, 3)])
def test_contact_sheets_hold_every_picture_once_and_nothing_overlaps(count: int, sheets: int) -> None:
    many = tuple(replace(PICTURES[0], id=f"p{at}", file=f"{at}.jpg", digest=f"{at}") for at in range(count))
    job = contact_job(replace(start("magazine", "Vale"), pictures=many), many)
    assert len(job.pages) == sheets
    require_valid(job, "contact")
    shown = [
        block.holds.picture for page in job.pages for block in page.blocks if isinstance(block.holds, HoldsPicture)
    ]
    assert shown == [picture.id for picture in many]
    for number, page in enumerate(job.pages, 1):
        boxes = [block_box(job, number, block) for block in page.blocks]
        trim = page_frame_of(job, number).trim
        assert all(box.clipped(trim) == box for box in boxes)
        assert not any(one.meets(other) for one, other in combinations(boxes, 2))


def test_contact_sheets_from_the_command_line_leave_out_what_is_left_out(
    demo: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["set", str(demo), "picture.the-pear.jpg.worth=left out"]) == 0
    assert main(["contact", str(demo), str(tmp_path / "contact.pdf")]) == 0
    assert "13 pictures" in capsys.readouterr().out
    words = subprocess.run(
        ["pdftotext", str(tmp_path / "contact.pdf"), "-"], capture_output=True, text=True, check=True
    )
    assert "one-apple.png" in words.stdout and "the-pear.jpg" not in words.stdout
    empty = create_job(tmp_path / "empty", start("magazine", "Empty"))
    assert main(["contact", str(empty), str(tmp_path / "none.pdf")]) == 2
