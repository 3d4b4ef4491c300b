"""Several covers of one job; inks of panels; spines in pieces and in a row."""

from itertools import pairwise
from pathlib import Path

import pytest
from msgspec.structs import replace

from half_fold.core.cover.flat import cover_flat, cover_marks
from half_fold.core.cover.properties import MOST_PIECES, add_piece, remove_piece
from half_fold.core.cover.spine_pieces import SPINE
from half_fold.core.cover.spine_text import spine_text
from half_fold.core.cover.versions import (
    MOST,
    add_version,
    choose_version,
    remove_version,
    version_names,
    versions,
)
from half_fold.core.drawing.marks import Glyphs, PictureMark, Shape, leaves
from half_fold.core.inks.tones import ink
from half_fold.core.measure.entry import MM
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import found, set_paths
from half_fold.core.publication.records import Publication, SpinePiece
from half_fold.core.publication.used import used_pictures
from half_fold.core.spread.edits.claiming import display_words
from half_fold.core.spread.edits.edits import claim
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.evened import ink_of
from half_fold.core.store.codec import decode, encode
from half_fold.core.store.job import open_job


@pytest.fixture
def job(demo_source: Path) -> Publication:
    return open_job(demo_source).publication


# Versions ---------------------------------------------------------------------------------------------------------


def test_a_version_is_a_copy_and_choosing_goes_to_and_fro(job: Publication) -> None:
    two = add_version(job, "in straw")
    assert version_names(two) == ["in straw", "cover 1"]
    changed = set_paths(two, ["cover.ink=straw"])
    back = choose_version(changed, "cover 1")
    assert back.cover.front == job.cover.front and back.cover.ink == job.cover.ink
    assert choose_version(back, "in straw").cover == changed.cover
    assert choose_version(back, "cover 1") is back
    gone = remove_version(back, "in straw")
    assert gone.covers == () and gone.cover == back.cover
    assert decode(encode(changed), "x") == changed


def test_what_cannot_be_is_said(job: Publication) -> None:
    two = add_version(job, "other")
    for edit, why in (
        (lambda: add_version(two, " other "), "already"),
        (lambda: add_version(two, " "), "needs a name"),
        (lambda: choose_version(two, "third"), "other, cover 1"),
        (lambda: remove_version(two, "other"), "in use"),
    ):
        with pytest.raises(Problem, match=why):
            edit()
    many = job
    for n in range(MOST - 1):
        many = add_version(many, f"v{n}")
    with pytest.raises(Problem, match="can be compared"):
        add_version(many, "one more")


def test_ids_that_pages_took_meanwhile_are_given_anew(job: Publication) -> None:
    one = replace(job, cover=replace(job.cover, front=()), covers=(replace(job.cover, name="old"),))
    taken = replace(job.cover.front[1], id="c2")
    page = replace(one.pages[20], things=(*one.pages[20].things, taken))
    one = replace(one, pages=(*one.pages[:20], page, *one.pages[21:]))
    back = choose_version(one, "old")
    ids = [thing.id for thing in back.cover.front]
    assert "c2" not in ids and len(ids) == len(set(ids)) == len(job.cover.front)
    assert decode(encode(back), "x") == back  # valid: nothing is called twice


def test_what_another_version_names_cannot_be_removed(job: Publication) -> None:
    from half_fold.core.publication.validity import require_whole

    two = add_version(job, "bare")
    two = replace(two, cover=replace(two.cover, front=()))
    without = replace(two, pictures=tuple(p for p in two.pictures if p.id != "picture13"))
    with pytest.raises(Problem, match="the cover “cover 1” would name"):
        require_whole(without)


def test_all_are_judged_by_the_same_figures(demo_source: Path, job: Publication) -> None:
    two = add_version(job, "black on dark")
    two = set_paths(two, ["block.c5.ink=black", "cover.version=black on dark"])
    opened = open_job(demo_source)
    every = list(versions(two, opened.pictures, Setter()))
    assert [each.name for each in every] == ["black on dark", "cover 1"] and [e.in_use for e in every] == [True, False]
    told = [dict(each.figures) for each in every]
    assert list(told[0]) == list(told[1])
    assert int(told[0]["Not to be read"]) > 0 == int(told[1]["Not to be read"])
    assert every[0].front.shape == every[1].front.shape


# Panels -----------------------------------------------------------------------------------------------------------


def _grounds(job: Publication) -> list[Shape]:
    return [m for m in cover_marks(job).marks if isinstance(m, Shape) and m.origin.kind == "cover"]


def test_panels_have_inks_of_their_own_to_the_bleed_and_not_over_a_fold(job: Publication) -> None:
    made = set_paths(job, ["cover.back_ink=straw", "cover.spine_ground=black", "cover.front_ink=dusk"])
    flat = cover_flat(job)
    whole, back, spine, front = _grounds(made)
    assert whole.rect == flat.trim.grown(flat.bleed)
    assert flat.back is not None and flat.spine is not None
    assert (back.rect.left, back.rect.right) == (flat.back.left - flat.bleed, flat.back.right)
    assert (spine.rect.left, spine.rect.right) == (flat.spine.left, flat.spine.right)
    assert (front.rect.left, front.rect.right) == (flat.front.left, flat.front.right + flat.bleed)
    assert {m.rect.top for m in (back, spine, front)} == {-flat.bleed}
    assert spine.fill == ink(made, "black")
    assert len(_grounds(set_paths(made, ["cover.back_ink=none", "cover.spine_ground=", "cover.front_ink=none"]))) == 1


def test_panels_follow_the_spine_when_it_changes(job: Publication) -> None:
    made = set_paths(job, ["cover.spine_ground=black"])
    thick = set_paths(made, ["brief.spine=14mm"])
    assert _grounds(thick)[1].rect.width == pytest.approx(14 * MM)
    assert set_paths(thick, ["brief.spine=none"]).cover == made.cover
    assert _grounds(set_paths(thick, ["brief.spine=none"]))[1].rect == _grounds(made)[1].rect


# Spines -----------------------------------------------------------------------------------------------------------


def _in_pieces(job: Publication, *pieces: SpinePiece, spine: str = "14mm") -> Publication:
    job = set_paths(job, [f"brief.spine={spine}", "brief.author=Ottoline Marsh"])
    return replace(job, cover=replace(job.cover, pieces=pieces))


def _places(job: Publication) -> list[tuple[str, float, float, float, float]]:
    """What each run says, and what its ink reaches."""
    runs = [m for m in leaves(spine_text(Setter().composer, job).marks) if isinstance(m, Glyphs)]
    boxes = [ink_of([run]) for run in runs]
    return [("".join(r.texts), b.left, b.top, b.right, b.bottom) for r, b in zip(runs, boxes, strict=True)]


def test_pieces_stand_at_start_middle_and_end_each_in_the_middle_of_the_spine(job: Publication) -> None:
    made = _in_pieces(job, SpinePiece(words="{author}"), SpinePiece(words="{title}", stands="middle"),
                      SpinePiece(words="Ellerby", stands="end"))  # fmt: skip
    found_ = {words: box for words, *box in _places(made)}
    flat = cover_flat(made)
    assert flat.spine is not None
    margin = made.cover.grid.head.pt
    assert found_["Ottoline Marsh"][1] == pytest.approx(margin, abs=0.01)
    assert found_["Ellerby"][3] == pytest.approx(flat.spine.height - margin, abs=0.01)
    middle = found_["Graftwood"]
    assert (middle[1] + middle[3]) / 2 == pytest.approx(flat.spine.height / 2, abs=0.01)
    for left, _, right, _ in found_.values():
        assert (left + right) / 2 == pytest.approx(flat.spine.width / 2, abs=0.01)
    text = spine_text(Setter().composer, made)
    assert max(right - left for left, _, right, _ in found_.values()) == pytest.approx(text.clear, abs=0.01)


def test_read_upwards_the_order_is_turned(job: Publication) -> None:
    made = _in_pieces(job, SpinePiece(words="First"), SpinePiece(words="Last", stands="end"))
    down = {words: box[1] for words, *box in _places(made)}
    up = {words: box[1] for words, *box in _places(set_paths(made, ["spine.reads=up"]))}
    assert down["First"] < down["Last"] and up["First"] > up["Last"]


def test_long_pieces_are_made_smaller_until_none_lies_on_another(job: Publication) -> None:
    long = "A very long name of a very long series of long books"
    made = _in_pieces(job, SpinePiece(words=long), SpinePiece(words=long, stands="middle"),
                      SpinePiece(words=long, stands="end"))  # fmt: skip
    spans = sorted((top, bottom) for _, _, top, _, bottom in _places(made))
    text = spine_text(Setter().composer, made)
    assert text.wide < text.clear - 1 and all(a[1] < b[0] for a, b in pairwise(spans))
    assert text.long <= text.room + 0.01


def test_a_mark_stands_upright_between_the_folds(job: Publication) -> None:
    made = _in_pieces(job, SpinePiece(words="Title"), SpinePiece(picture="picture4", stands="end"))
    marks = [m for m in spine_text(Setter().composer, made).marks if isinstance(m, PictureMark)]
    flat, clear = cover_flat(made), spine_text(Setter().composer, made).clear
    assert len(marks) == 1 and flat.spine is not None and marks[0].origin == SPINE
    assert marks[0].seen.width <= clear + 0.01 and marks[0].seen.centre[0] == pytest.approx(flat.spine.width / 2)
    assert marks[0].seen.bottom <= flat.spine.height - made.cover.grid.head.pt + 0.01
    assert "picture4" in used_pictures(made)


def test_pieces_are_added_from_the_line_that_was_there_and_go_again(job: Publication) -> None:
    made = add_piece(set_paths(job, ["brief.spine=12mm"]), "Ellerby")
    assert [piece.words for piece in made.cover.pieces] == [job.cover.spine, "Ellerby"]
    made = set_paths(made, ["spine.piece.2.ink=straw", "spine.piece.2.stands=at its end", "spine.piece.2.size=80"])
    assert made.cover.pieces[1] == SpinePiece(words="Ellerby", ink="straw", stands="end", size=80.0)
    assert found(made, "spine.piece.2.size")[0].value == "80"
    assert remove_piece(remove_piece(made, 2), 1).cover.pieces == ()
    for _ in range(MOST_PIECES - 2):
        made = add_piece(made)
    with pytest.raises(Problem, match="no more"):
        add_piece(made)
    with pytest.raises(Problem, match="no piece 40"):
        remove_piece(made, 40)


def test_spine_from_4_to_14_and_back_leaves_the_cover_as_it_was(job: Publication) -> None:
    made = _in_pieces(job, SpinePiece(words="{title}"), SpinePiece(words="{author}", stands="end"), spine="4mm")
    there = set_paths(set_paths(made, ["brief.spine=14mm"]), ["brief.spine=4mm"])
    assert there.cover == made.cover and _places(there) == _places(made)


def test_a_row_of_spines_shows_one_picture_over_all(job: Publication) -> None:
    made = set_paths(job, ["brief.spine=10mm", "spine.row_picture=picture1"])
    made = set_paths(made, ["spine.row_of=4"])
    pieces = []
    for at in range(1, 5):
        one = set_paths(made, [f"spine.row_at={at}"])
        mark = next(m for m in cover_marks(one).marks if isinstance(m, PictureMark) and m.origin.kind == "cover")
        pieces.append((mark.clip.left - mark.placed.left, mark.clip.width, mark.placed.width))
    assert {round(width, 6) for _, width, _ in pieces} == {round(10 * MM, 6)}
    steps = [b[0] - a[0] for a, b in pairwise(pieces)]
    assert steps == pytest.approx([10 * MM] * 3)
    with pytest.raises(Problem, match="no number 5"):
        set_paths(made, ["spine.row_at=5"])


def test_words_pick_up_author_and_price(job: Publication) -> None:
    made = set_paths(job, ["brief.price=6d", "brief.author=Bram Quillon"])
    side, block = claim(made, (10, 10), (100, 60), (10, 11), display_words("headline", "{author}, {price}"))
    marks = [m for m in Setter().spread(side, next(s for s in _spreads(side) if 10 in s.numbers)).marks
             if isinstance(m, Glyphs) and m.origin.block == block]  # fmt: skip
    assert "".join("".join(m.texts) for m in marks).replace(" ", "") == "BramQuillon,6d"


def _spreads(job: Publication):  # type: ignore[no-untyped-def]
    from half_fold.core.plan.spreads import spreads_of

    return spreads_of(job)
