"""For each rule of the checks a job, made from the demo, that trips it."""

from collections.abc import Callable
from pathlib import Path

from msgspec.structs import replace
from PIL import Image

from half_fold.core.apart.pair import LEFT
from half_fold.core.apart.sides import edit_side, sides_of
from half_fold.core.cover.properties import set_spine
from half_fold.core.grid.edits import set_grid
from half_fold.core.measure.length import length
from half_fold.core.measure.rect import Rect
from half_fold.core.paths.all import set_path
from half_fold.core.pictures.library.bring import bring_picture
from half_fold.core.plan.inserts import add_insert
from half_fold.core.plan.order import remove_pages
from half_fold.core.plan.sections import change_section, start_section
from half_fold.core.plan.settings import set_values
from half_fold.core.publication.kinds import NO_NUMBER
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import (
    Block,
    Fade,
    FadeStop,
    Font,
    Goods,
    Holds,
    HoldsBarcode,
    HoldsDisplay,
    HoldsNothing,
    HoldsPanel,
    HoldsPicture,
    HoldsStory,
    Ink,
    Paragraph,
    Publication,
    Run,
)
from half_fold.core.publication.records import Edge as PanelEdge
from half_fold.core.publication.surgery import block_named, with_page, with_story, with_thing_anywhere
from half_fold.core.spread.edits.claiming import display_words
from half_fold.core.spread.edits.scenes import scene_of
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.contents import with_contents
from half_fold.core.spread.where.frames import block_box
from half_fold.core.spread.where.reaching import put_in, reach, set_measure, set_stop
from half_fold.core.typesetting.sheet.sheet import add_role, set_role
from tests.blocks import block_over, in_field

Trip = Callable[[Publication, Path], Publication]
ARTICLE, OPENER, PEARS, APPLE = 7, 6, 14, 22


def _put(job: Publication, number: int, block: Block) -> Publication:
    page = job.pages[number - 1]
    return with_page(job, replace(page, things=(*page.blocks, block)))


def _words(text: str, left: Stop, right: Stop, bottom: Stop | None = None) -> Block:
    holds = HoldsDisplay(paragraphs=(Paragraph(role="headline", runs=(Run(text=text),)),))
    return Block(
        id="b900", place=Held(left=left, top=in_field(0, 8), right=right, bottom=bottom or in_field(1, 8)), holds=holds
    )


def page_count(job: Publication, _pictures: Path) -> Publication:
    return set_values(job, ["binding=saddle", "pages=46"])


def copy_thickness(job: Publication, _pictures: Path) -> Publication:
    return set_values(job, ["binding=saddle"])


def unplaced(job: Publication, _pictures: Path) -> Publication:
    return remove_pages(job, [ARTICLE - 1, ARTICLE])


def missing_picture(job: Publication, pictures: Path) -> Publication:
    (pictures / "bowl-of-apples.jpg").unlink()
    return set_values(job, ["issue=No. 15"])


def changed_picture(job: Publication, pictures: Path) -> Publication:
    path = pictures / "bowl-of-apples.jpg"
    path.write_bytes(path.read_bytes() + b"\0")
    return set_values(job, ["issue=No. 15"])


def low_resolution(job: Publication, _pictures: Path) -> Publication:
    page = job.pages[OPENER - 1]
    holds = replace(page.blocks[0].holds, picture="picture6")
    return with_page(job, replace(page, things=(replace(page.blocks[0], holds=holds),)))


def short_of_bleed(job: Publication, _pictures: Path) -> Publication:
    return set_stop(job, job.pages[OPENER - 1].blocks[0].id, "top", Stop(kind="trim"))


def near_trim(job: Publication, _pictures: Path) -> Publication:
    block = Block(
        id="b900",
        place=Held(
            left=Stop(kind="trim", off=length("-2mm")), top=in_field(0, 8), right=in_field(2, 6), bottom=in_field(3, 8)
        ),
        holds=HoldsPanel(ink="loden"),
    )
    return _put(job, 26, block)


def stroke_at_trim(job: Publication, _pictures: Path) -> Publication:
    block = Block(
        id="b900",
        place=Held(left=Stop(kind="bleed"), top=in_field(0, 8), right=in_field(2, 6), bottom=in_field(3, 8)),
        holds=HoldsPanel(ink="straw", edge=PanelEdge()),
    )
    return _put(job, 26, block)


def beyond_safe(job: Publication, _pictures: Path) -> Publication:
    return _put(job, 26, _words("Hedges", Stop(kind="trim", off=length("-3mm")), in_field(5, 6)))


def overset(job: Publication, _pictures: Path) -> Publication:
    block = job.pages[ARTICLE - 1].blocks[-3].id
    return reach(reach(job, block, "bottom", False), block, "bottom", False)


def stale_contents(job: Publication, _pictures: Path) -> Publication:
    job, story = with_contents(job, Setter().threads)
    lists = next(each for each in job.stories if each.id == story)
    wrong = (Run(text=lists.paragraphs[1].text.replace("\t", "9\t", 1)),)
    paragraphs = (lists.paragraphs[0], replace(lists.paragraphs[1], runs=wrong), *lists.paragraphs[2:])
    return _put(
        with_story(job, replace(lists, paragraphs=paragraphs)),
        26,
        block_over("b900", HoldsStory(story=story), (0, 5), (0, 7)),
    )


def _goods(job: Publication, *rows: str) -> Publication:
    goods = Goods(columns=("Key", "Price"), rows=(("A1", "12.50"), ("A2", "8.00")))
    for at, row in enumerate(rows):
        job = _put(
            job, 26, replace(block_over(f"b90{at}", display_words("body", "{price}"), (0, 2), (at, at)), row=row)
        )
    return replace(job, goods=goods)


def goods_gone(job: Publication, _pictures: Path) -> Publication:
    return _goods(job, "A1", "A2", "A3")


def goods_left_out(job: Publication, _pictures: Path) -> Publication:
    return _goods(job, "A1")


def too_wide(job: Publication, _pictures: Path) -> Publication:
    story = job.stories[2]
    long = Paragraph(role="body", runs=(Run(text="x" * 300),))
    return with_story(job, replace(story, paragraphs=(long, *story.paragraphs)))


def overset_words(job: Publication, _pictures: Path) -> Publication:
    return _put(
        job, 26, _words("Hedges are laid in winter and never in haste", in_field(0, 6), in_field(2, 6), in_field(0, 8))
    )


def off_all_paper(job: Publication, _pictures: Path) -> Publication:
    return put_in(_put(job, 26, _words("Hedges", in_field(0, 6), in_field(5, 6))), "b900", Rect(-2000, 0, -1900, 50))


def misspelled(job: Publication, _pictures: Path) -> Publication:
    return replace(_put(job, 26, _words("Hegdes in wynter", in_field(0, 6), in_field(5, 6))), spelled=True)


def cut_drawing(job: Publication, pictures: Path) -> Publication:
    file = pictures.parent / "leaf.svg"
    file.write_text('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 80 10"><rect width="80" height="10"/></svg>')
    job, picture = bring_picture(job, pictures, file)
    return _put(job, 26, block_over("b900", HoldsPicture(picture=picture.id), (0, 3), (0, 3)))


def across_fold(job: Publication, _pictures: Path) -> Publication:
    words = "Hedges are laid in the winter and never in haste by anybody"
    return _put(job, 26, _words(words, in_field(1, 6), in_field(3, 6, True)))


def missing_glyph(job: Publication, _pictures: Path) -> Publication:
    return _put(job, 26, _words("Hedges 生", in_field(0, 6), in_field(5, 6)))


def tinted(job: Publication, _pictures: Path) -> Publication:
    return replace(job, roles=tuple(replace(r, tint=50) if r.name == "caption" else r for r in job.roles))


def furniture(job: Publication, _pictures: Path) -> Publication:
    return set_grid(job, job.masters[0].name, "foot", "5mm")


def spine_text(job: Publication, _pictures: Path) -> Publication:
    return set_spine(job, "size", "14pt")


def _on_front(job: Publication, holds: Holds, rows: tuple[int, int] = (0, 11)) -> Publication:
    block = block_over("b900", holds, rows=rows, of=(6, 12))
    return replace(job, cover=replace(job.cover, front=(block,)))


def masthead(job: Publication, _pictures: Path) -> Publication:
    words = (Paragraph(role="masthead", runs=(Run(text="{title}"),)),)
    return _on_front(job, HoldsDisplay(paragraphs=words, even=True), (3, 6))


def no_number(job: Publication, _pictures: Path) -> Publication:
    return _on_front(job, HoldsBarcode(number=NO_NUMBER))


def barcode_room(job: Publication, _pictures: Path) -> Publication:
    return _on_front(job, HoldsBarcode(number="2901234567896", size=180), (10, 11))


def section_verso(job: Publication, _pictures: Path) -> Publication:
    started = start_section(job, 16, "Winter work")
    return change_section(started, started.sections[-1], "starts", "recto")


def odd_insert(job: Publication, _pictures: Path) -> Publication:
    return add_insert(job, 15, "card")


def thrifty_bleed(job: Publication, _pictures: Path) -> Publication:
    return set_values(job, ["printer=Wharf Street Litho", "bleed=2mm"])


def rich_ink(job: Publication, _pictures: Path) -> Publication:
    rich = Ink(name="rich", cyan=90, magenta=80, yellow=70, black=100)
    return replace(job, inks=(*job.inks, rich))


def words_on_the_code(job: Publication, _pictures: Path) -> Publication:
    stops = {"left": in_field(3, 6), "right": in_field(5, 6), "top": in_field(10, 12), "bottom": in_field(11, 12)}
    words = HoldsDisplay(paragraphs=(Paragraph(role="cover note", runs=(Run(text="A word"),)),))
    block = Block(id="b902", holds=words, place=Held(**stops))
    kept = set_values(job, ["printer=Pedlar Print on Demand", "bleed=3mm"])
    return replace(kept, cover=replace(kept.cover, back=(block,)))


def words_on_words(job: Publication, _pictures: Path) -> Publication:
    once = _put(job, 26, _words("Hedges", in_field(0, 6), in_field(5, 6)))
    return _put(once, 26, replace(_words("Ditches", in_field(0, 6), in_field(5, 6)), id="more words"))


def behind_a_picture(job: Publication, _pictures: Path) -> Publication:
    once = _put(job, 26, _words("Hedges", in_field(0, 6), in_field(5, 6)))
    over = replace(_words("", in_field(0, 6), in_field(5, 6)), id="lid", holds=HoldsPanel(ink="straw"))
    return _put(once, 26, over)


def white_on_white(job: Publication, _pictures: Path) -> Publication:
    words = _words("Hedges", in_field(0, 6), in_field(5, 6))
    white = Ink(name="white", cyan=0, magenta=0, yellow=0, black=0)
    run = Run(text="Hedges", ink="white")
    holds = HoldsDisplay(paragraphs=(Paragraph(role="headline", runs=(run,)),))
    inks = job.inks if any(each.name == "white" for each in job.inks) else (*job.inks, white)
    return _put(replace(job, inks=inks), 26, replace(words, holds=holds))


def missing_font(job: Publication, _pictures: Path) -> Publication:
    font = Font(family="Vale Display", style="Regular", file="gone.ttf", digest="0")
    return replace(job, fonts=(font,))


def nearly_in_line(job: Publication, _pictures: Path) -> Publication:
    job = _put(job, 26, block_over("b901", HoldsPanel(ink="straw"), (0, 1), (0, 1)))
    job = _put(job, 26, block_over("b902", HoldsPanel(ink="straw"), (0, 3), (3, 4)))
    return set_measure(job, "b902", "across", "14.6mm")


def nearly_even(job: Publication, _pictures: Path) -> Publication:
    for at in range(3):
        job = _put(job, 26, block_over(f"b90{at}", HoldsPanel(ink="straw"), (0, 1), (2 * at, 2 * at)))
    return put_in(job, "b901", block_box(job, 26, block_named(job, "b901")).moved(0, 1.5))


def left_to_fill_in(job: Publication, _pictures: Path) -> Publication:
    return _put(job, 26, _words("Number {isue}", in_field(0, 6), in_field(3, 6)))


def a_place_kept_free(job: Publication, _pictures: Path) -> Publication:
    passed = with_page(job, replace(job.pages[3], state="passed"))
    return _put(passed, 26, block_over("b901", HoldsNothing(), (0, 1), (0, 1)))


def bands(job: Publication, _pictures: Path) -> Publication:
    fade = Fade(name="dawn", stops=(FadeStop(ink="black", at=0, tint=10), FadeStop(ink="black", at=100, tint=20)))
    return _put(replace(job, fades=(*job.fades, fade)), 26, block_over("b901", HoldsPanel(ink="dawn"), (0, 5), (0, 7)))


def a_face_once(job: Publication, _pictures: Path) -> Publication:
    job, role = add_role(job, "Once", "headline")
    job = set_role(job, role, "family", "Frank Ruhl Libre")
    words = _words("Once", in_field(0, 6), in_field(3, 6))
    once = HoldsDisplay(paragraphs=(Paragraph(role=role, runs=(Run(text="Once"),)),))
    return _put(job, 26, replace(words, holds=once))


def against_its_side(job: Publication, _pictures: Path) -> Publication:
    lines = HoldsDisplay(paragraphs=(Paragraph(role="cover line", runs=(Run(text="Hedges"),)),), side="left")
    block = block_over("b901", lines, (4, 5), (6, 7), (6, 12))
    return replace(job, cover=replace(job.cover, front=(*job.cover.front, block)))


def folios(job: Publication, _pictures: Path) -> Publication:
    return with_page(job, replace(job.pages[1], furniture=""))


def floating(job: Publication, _pictures: Path) -> Publication:
    bands = ((0.0, 0.0), *(((0.2, 0.8),) * 20))
    bust = replace(next(p for p in job.pictures if p.file == "one-apple.png"), id="bust", outline=bands)
    job = replace(job, pictures=(*job.pictures, bust))
    return _put(job, 26, block_over("b901", HoldsPicture(picture=bust.id), (0, 3), (0, 3)))


def _clear(job: Publication, area: tuple[float, float, float, float], number: int = 26) -> Publication:
    """A picture over most of a left page, of which an area is kept clear."""
    known = next(picture for picture in job.pictures if picture.file.endswith(".jpg"))
    kept = replace(known, id="kept", width=3000, height=2000, keep_clear=(area,))
    job = replace(job, pictures=(*job.pictures, kept))
    return _put(job, number, block_over("b903", HoldsPicture(picture="kept"), (0, 5), (0, 7)))


def kept_clear_cut(job: Publication, _pictures: Path) -> Publication:
    return _clear(job, (0.0, 0.0, 1.0, 1.0))


def kept_clear_in_the_fold(job: Publication, _pictures: Path) -> Publication:
    job = _clear(job, (0.45, 0.3, 0.55, 0.6))
    return put_in(job, "b903", Rect(-500, 100, 500, 600))


def kept_clear_covered(job: Publication, _pictures: Path) -> Publication:
    return _put(_clear(job, (0.4, 0.0, 0.5, 0.6)), 26, _words("Orchards", in_field(1, 6), in_field(5, 6)))


def a_seam(job: Publication, pictures: Path) -> Publication:
    """Two pictures of other colours side by side as one scene, that do not melt."""
    for name, colour in (("dusk.png", (190, 160, 120)), ("dawn.png", (90, 120, 180))):
        Image.new("RGB", (400, 300), colour).save(pictures / name)
        job, _ = bring_picture(job, pictures, pictures / name)
    job, scene = scene_of(job, 26, [picture.id for picture in job.pictures[-2:]])
    job = set_path(job, f"group.{scene}.locked", "no")
    group = next(thing for page in job.pages for thing in page.things if thing.id == scene)
    hard = tuple(replace(block, holds=replace(block.holds, treatment=None)) for block in group.members)
    return with_thing_anywhere(job, replace(group, members=hard))


def no_caption(job: Publication, _pictures: Path) -> Publication:
    return set_role(job, "caption", "asked", "yes")


def no_credit(job: Publication, _pictures: Path) -> Publication:
    pictures = tuple(replace(picture, credit="Mara Holt", caption="A pear") for picture in job.pictures)
    return set_role(replace(job, pictures=pictures), "credit", "asked", "yes")


def held_to_the_limit(job: Publication, pictures: Path) -> Publication:
    """A dark picture on paper that takes very little."""
    dark = Image.new("RGB", (400, 300), (12, 10, 14))
    dark.save(pictures / "dark.png")
    job, known = bring_picture(job, pictures, pictures / "dark.png")
    job = set_values(job, ["printer=Wharf Street Litho"])
    assert job.printer is not None
    job = replace(job, printer=replace(job.printer, ink_limit=160))
    return _put(job, 26, block_over("b904", HoldsPicture(picture=known.id), (0, 1), (0, 0)))


def words_over_a_crease(job: Publication, _pictures: Path) -> Publication:
    job = add_insert(job, 16, "gatefold")
    side = sides_of(job)[-1]
    words = block_over("b905", display_words("headline", "Over the crease and far away, unfolded"), (0, 5), (0, 3))
    return edit_side(job, side, lambda own: with_page(own, replace(own.pages[LEFT - 1], things=(words,))))


# rule: (what trips it, whether it stops the press, whether a fix is computed)
TRIPS: dict[str, tuple[Trip, bool, bool]] = {
    "page count": (page_count, True, True),
    "copy thickness": (copy_thickness, False, False),
    "unplaced pages": (unplaced, False, False),
    "section on a verso": (section_verso, False, True),
    "insert": (odd_insert, False, False),
    "printer's sheet": (thrifty_bleed, True, True),
    "too much ink": (rich_ink, True, True),
    "kept clear, cut": (kept_clear_cut, False, False),
    "kept clear, in the fold": (kept_clear_in_the_fold, False, True),
    "kept clear, covered": (kept_clear_covered, False, True),
    "seam": (a_seam, False, False),
    "no caption": (no_caption, False, False),
    "no credit": (no_credit, False, True),
    "held to the ink limit": (held_to_the_limit, False, False),
    "words on a crease": (words_over_a_crease, False, False),
    "barcode place": (words_on_the_code, False, False),
    "missing picture": (missing_picture, True, False),
    "changed picture": (changed_picture, False, True),
    "low resolution": (low_resolution, True, False),
    "short of the bleed": (short_of_bleed, True, True),
    "near the trim": (near_trim, False, True),
    "stroke at the trim": (stroke_at_trim, False, True),
    "text beyond the safe zone": (beyond_safe, False, True),
    "overset": (overset, True, True),
    "contents": (stale_contents, False, True),
    "goods gone": (goods_gone, True, False),
    "goods left out": (goods_left_out, False, False),
    "too wide": (too_wide, True, False),
    "on no part": (off_all_paper, True, False),
    "spelling": (misspelled, False, False),
    "cropped drawing": (cut_drawing, False, True),
    "overset words": (overset_words, True, True),
    "text at the fold": (across_fold, True, True),
    "missing glyph": (missing_glyph, True, False),
    "tinted small text": (tinted, False, True),
    "furniture": (furniture, False, False),
    "words on words": (words_on_words, False, False),
    "hidden": (behind_a_picture, True, False),
    "words in their ground": (white_on_white, True, False),
    "missing font": (missing_font, True, False),
    "spine text": (spine_text, True, True),
    "masthead": (masthead, False, False),
    "barcode number": (no_number, True, False),
    "barcode": (barcode_room, False, True),
    "nearly in line": (nearly_in_line, False, True),
    "nearly even": (nearly_even, False, True),
    "left to fill in": (left_to_fill_in, True, False),
    "kept free": (a_place_kept_free, False, False),
    "bands": (bands, False, False),
    "face used once": (a_face_once, False, False),
    "folio lost": (folios, False, True),
    "floating cut": (floating, False, True),
    "set against its side": (against_its_side, False, True),
}
