"""Makes data/book/the-pruning-year.halffold: the demo paperback with flaps, on pictures of the other demos."""

from pathlib import Path

from msgspec.structs import replace

from half_fold.core.measure.length import length
from half_fold.core.pictures.library.bring import bring_picture
from half_fold.core.plan.order import set_runs
from half_fold.core.plan.sections import start_section
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.publication.places import Stop
from half_fold.core.publication.records import (
    Cover,
    HoldsBarcode,
    HoldsPanel,
    HoldsPicture,
    HoldsRule,
    HoldsStory,
    Paragraph,
    Publication,
    SpinePiece,
    Wrap,
)
from half_fold.core.spread.edits.placing import add_story
from half_fold.core.store.codec import encode
from half_fold.core.typesetting.texts.text_in import read_text_file
from laid import BARE, BLEED, FOLD, Layout, on_cover, role, words

DATA = Path(__file__).parents[1] / "src/half_fold/data"
BOOK, NAME = DATA / "book", "the-pruning-year"
NUMBER = "2901234567902"  # of the range that shops give out for themselves, since the demo was issued none
NOTES = "notes"
OWN_ROLES = (
    role("jobs", "Jobs", "EB Garamond", "Regular", "13pt", "18pt", align="left", tab=length("8mm")),
    role("signature", "Signature", "EB Garamond", "Italic", "10pt", "14pt", align="left"),
    role("month", "Month", "Young Serif", "Regular", "15pt", "21pt", align="left", tab=length("12mm")),
    role("blurb", "Blurb", "EB Garamond", "Regular", "12pt", "14pt", align="left", ink="paper"),
    role("flap text", "Flap text", "EB Garamond", "Regular", "10.5pt", "14pt", align="left"),
)
# Each month's picture: whole pages, but for those that lie above a line of the text.
PICTURES = (
    ("lane-at-dusk.jpg", ""),
    ("long-acre-03.jpg", ""),
    ("knife-and-scions.jpg", "“A graft is two wounds that agree.”"),
    ("hills-at-first-light.jpg", "“Green in the middle is a pear. Brown is a year to read in.”"),
    ("rows-in-mist.jpg", ""),
    ("one-apple.png", "“One to a spur for the cookers, two for the rest.”"),
    ("the-pear.jpg", ""),
    ("bowl-of-apples.jpg", ""),
    ("long-acre-12.jpg", ""),
    ("long-acre-08.jpg", ""),
    ("long-acre-30.jpg", ""),
    ("pears-on-the-sill.jpg", ""),
)
FOCUS = {"pears-on-the-sill.jpg": (0.42, 0.55), "rows-in-mist.jpg": (0.47, 0.6)}
FIRST = 10  # the page of the first month, on the left of its spread
MARK = "press-mark.svg"
OTHERS = ("one-apple.png", "the-pear-cut-out.png", "basket-of-windfalls.jpg", "jars-on-the-shelf.jpg", MARK)


def months() -> list[list[Paragraph]]:
    """The paragraphs of each month, its name first."""
    found: list[list[Paragraph]] = []
    for paragraph in read_text_file(BOOK / "texts" / "months.md", language="en_GB").paragraphs:
        if paragraph.role in ("headline", "subhead") and "*" not in paragraph.text and len(paragraph.text) < 12:
            found.append([])
        found[-1].append(paragraph)
    return found


def picture_page(layout: Layout, number: int, picture: str, focus: tuple[float, float], line: str) -> None:
    """A picture all over the page, or one above a line."""
    layout.on_master(number)
    if not line:
        layout.put(number, BLEED, BLEED, FOLD, BLEED, HoldsPicture(picture=picture, focus_x=focus[0], focus_y=focus[1]))
        return
    layout.put(number, BLEED, BLEED, FOLD, BLEED, HoldsPanel(ink="straw", tint=45))
    is_cut_out = next(each.has_alpha for each in layout.publication.pictures if each.id == picture)
    if is_cut_out:
        layout.put(number, 0, 0, 3, 2, HoldsPicture(picture=picture, scale="fit"))
    else:
        layout.put(number, BLEED, BLEED, FOLD, 2, HoldsPicture(picture=picture, focus_x=focus[0], focus_y=focus[1]))
    layout.put(number, 0, 3, 3, 4, words(("pull quote", line), stands="middle"))


def month(layout: Layout, number: int, told: list[Paragraph], picture: str, which: int) -> None:
    """Four pages: a picture, what is to be known, what is to be done, and what was done."""
    name, saying, *rest = told
    file, line = PICTURES[which]
    picture_page(layout, number, picture, FOCUS.get(file, (0.5, 0.5)), line)
    layout.put(number + 1, 0, 0, 3, 0, words(("headline", name.text), size="34pt", stands="foot", ink="loden"))
    layout.put(number + 1, 0, 1, 3, 1, words(("standfirst", saying.text)))
    body = tuple(each for each in rest if each.role == "body")
    layout.publication, story = add_story(layout.publication, name.text, body)
    layout.put(number + 1, 0, 2, 3, 4, HoldsStory(story=story, columns=1, turn=0))
    jobs = [each.text for each in rest if each.role != "body"]
    layout.put(number + 2, 0, 0, 3, 0, words(("crosshead", "In hand"), stands="foot", ink="russet"))
    entries = [("jobs", f"{n}\t{job}") for n, job in enumerate(jobs, 1)]
    layout.put(number + 2, 0, 1, 3, 3, words(*entries))
    layout.on_master(number + 3, NOTES)
    layout.rows = 12
    layout.put(number + 3, 0, 0, 3, 1, words(("crosshead", "What was done"), stands="middle", ink="russet"))
    for row in range(2, 12):
        layout.put(number + 3, 0, row, 3, row, HoldsRule(weight=length("0.3pt"), ink="dusk", tint=60, stands="last"))
    layout.rows = 5


def front_matter(layout: Layout, ids: dict[str, str], names: list[str]) -> None:
    """Half-title, frontispiece, title, imprint, contents, foreword."""
    for number in (1, 2, 3, 4, 6, 8, 9):
        layout.on_master(number)
    layout.put(1, 0, 1, 3, 2, words(("subhead", "The Pruning Year")))
    cut = HoldsPicture(picture=ids["the-pear-cut-out.png"], scale="fit")
    layout.put(2, 1, 1, 3, 3, cut)
    layout.put(3, 0, 0, 3, 1, words(("headline", "The Pruning"), ("headline", "Year"), even=True, ink="loden"))
    about = "What to do with an orchard, month by month, and in the margins what came of it"
    layout.put(3, 0, 2, 3, 2, words(("standfirst", about)))
    layout.put(3, 0, 3, 3, 3, words(("subhead", "Wilfred Tarn")))
    layout.put(3, 0, 4, 3, 4, words(("crosshead", "The Ellerby Press, at the bridge"), stands="foot", ink="russet"))
    layout.put(
        4,
        0,
        3,
        3,
        4,
        words(
            ("credit", "Set in EB Garamond and Young Serif, and sewn to lie open under a mug."),
            ("credit", "Put in order by Hesper Lowe from the door of the long barn."),
            ("credit", "Printed and bound by the Ellerby Press, at the bridge, on paper of some substance."),
            ("credit", "What is written in it after that belongs to whoever wrote it."),
            stands="foot",
        ),
    )
    layout.put(5, 0, 0, 3, 0, words(("headline", "The months"), size="30pt", stands="foot", ink="loden"))
    lines = [("month", f"{FIRST + 4 * n + 1}\t{name}") for n, name in enumerate(names)]
    layout.put(5, 0, 1, 3, 4, words(*lines))
    layout.put(
        6,
        BLEED,
        BLEED,
        FOLD,
        BLEED,
        HoldsPicture(picture=ids["basket-of-windfalls.jpg"], focus_x=0.5, focus_y=0.5),
    )
    layout.put(7, 0, 0, 3, 0, words(("headline", "On the barn door"), size="30pt", stands="foot", ink="loden"))
    story = layout.story("foreword", "On the barn door")
    layout.put(7, 0, 1, 3, 4, HoldsStory(story=story, columns=1, turn=0))
    layout.put(8, 0, 1, 3, 3, words(("pull quote", "“Walk round one tree twice, once each way.”"), stands="middle"))
    layout.put(9, 0, 1, 3, 2, words(("headline", "Month by month"), size="34pt", ink="loden"))


def end_matter(layout: Layout, ids: dict[str, str], first: int) -> None:
    """What is worth having, who wrote it, and what else the press has."""
    tools = (
        ("jobs", "One\tsaw that folds, and whose teeth you have counted"),
        ("jobs", "One\tknife, not lent"),
        ("jobs", "One\tladder of three legs, a rung longer than you need"),
        ("jobs", "Two\tgloves, both of them"),
        ("jobs", "Any\tnumber of labels"),
        ("jobs", "No\tlopper. If it needs a lopper it needs a saw"),
    )
    wide = tuple((each, text) for each, text in tools)
    layout.put(first, 0, 0, 3, 0, words(("headline", "All you need"), size="30pt", stands="foot", ink="loden"))
    layout.put(first, 0, 1, 3, 3, words(*wide))
    layout.on_master(first + 1)
    layout.put(first + 1, FOLD, BLEED, BLEED, BLEED, HoldsPicture(picture=ids["jars-on-the-shelf.jpg"], focus_x=0.4))
    layout.put(first + 2, 0, 0, 3, 0, words(("headline", "The author"), size="30pt", stands="foot", ink="loden"))
    story = layout.story("author", "The author")
    layout.put(first + 2, 0, 1, 3, 2, HoldsStory(story=story, columns=1, turn=0))
    layout.put(first + 3, 0, 0, 3, 0, words(("crosshead", "Also from the bridge"), stands="foot", ink="russet"))
    layout.put(
        first + 3,
        0,
        1,
        3,
        3,
        words(
            ("standfirst", "Graftwood, a quarterly of the growers' co-operative"),
            ("standfirst", "The Bare-Root List, every autumn"),
            ("standfirst", "Harvest at Long Acre, in photographs"),
        ),
    )
    layout.on_master(first + 4, NOTES)
    layout.rows = 12
    layout.put(first + 4, 0, 0, 3, 1, words(("crosshead", "Whose book this is"), stands="middle", ink="russet"))
    for row in range(2, 12):
        layout.put(first + 4, 0, row, 3, row, HoldsRule(weight=length("0.3pt"), ink="dusk", tint=60, stands="last"))
    layout.rows = 5
    for number in range(first + 5, len(layout.publication.pages) + 1):
        layout.on_master(number)


def in_role(name: str, role: str) -> tuple[Paragraph, ...]:
    """The paragraphs of a text, all in one role."""
    told = read_text_file(BOOK / "texts" / f"{name}.md", language="en_GB").paragraphs
    return tuple(replace(each, role=role) for each in told)


def cover(layout: Layout, ids: dict[str, str]) -> Cover:
    """Dusk on the front, the story of the barn door on the back, the author on the flap."""
    far = Stop(kind="fold", facing=True)
    blurb = in_role("blurb", "blurb")
    layout.publication, said = add_story(layout.publication, "On the back", blurb)
    author = in_role("author", "flap text")
    layout.publication, life = add_story(layout.publication, "On the flap", author)
    front = (
        on_cover("c1", far, BLEED, BLEED, BLEED, HoldsPicture(picture=ids["lane-at-dusk.jpg"], focus_x=0.5)),
        on_cover(
            "c2",
            0,
            0,
            5,
            3,
            words(("masthead", "The"), ("masthead", "Pruning"), ("masthead", "Year"), even=True, ink="straw"),
        ),
        on_cover(
            "c3", 0, 9, 5, 9, words(("cover line", "Twelve months, one saw"), size="15pt", ink="straw", stands="foot")
        ),
        on_cover("c4", 0, 10, 5, 11, words(("strong line", "Wilfred Tarn"), even=True, ink="paper", stands="foot")),
    )
    round_it = Wrap(shape="outline", side="both", offset=length("4mm"))
    pear = HoldsPicture(picture=ids["the-pear-cut-out.png"], scale="fit")
    back = (
        on_cover("c5", 0, 0, 5, 1, words(("subhead", "A barn door, read aloud"), ink="straw", stands="middle")),
        on_cover("c6", 0, 2, 5, 7, HoldsStory(story=said, columns=1, turn=0)),
        replace(on_cover("c7", 3, 5, 5, 8, pear), wrap=round_it),
        on_cover(
            "c8",
            0,
            9,
            2,
            11,
            HoldsBarcode(number=NUMBER, size=80, paragraphs=words(("cover note", "Nine and six")).paragraphs),
        ),
        on_cover("c9", 3, 10, 5, 11, words(("cover note", "{publisher}"), ink="paper", stands="foot", side="right")),
    )
    flap = (
        on_cover("c10", 0, 0, 5, 2, words(("pull quote", "“A tree in January is a confession.”"), ink="black")),
        on_cover("c11", 0, 3, 5, 6, HoldsPicture(picture=ids["bowl-of-apples.jpg"], focus_y=0.5)),
        on_cover("c12", 0, 10, 5, 11, words(("cover note", "Nine and six"), stands="foot")),
    )
    back_flap = (
        on_cover("c13", 0, 0, 5, 1, words(("crosshead", "The author"), ink="russet", stands="foot")),
        on_cover("c14", 0, 2, 5, 7, HoldsStory(story=life, columns=1, turn=0)),
    )
    return Cover(
        ink="loden",
        flap_ink="straw",
        front=front,
        back=back,
        front_flap=flap,
        back_flap=back_flap,
        spine_ink="straw",
        pieces=(
            SpinePiece(words="{author}", size=80, ink="paper"),
            SpinePiece(words="{title}", stands="middle"),
            SpinePiece(picture=ids[MARK], stands="end", ink="straw"),
        ),
    )


def build() -> Publication:
    """The whole book."""
    publication = set_values(
        start("book", "The Pruning Year"),
        ["pages=64", "paper.text=Marrow Volume 130", "paper.cover=Lantern Silk 250", "flap=85mm", "author=Wilfred Tarn",
         "publisher=The Ellerby Press", "price=Nine and six", "press-date=2027-02-01", "quantity=1500"],
    )  # fmt: skip
    text = publication.masters[0]
    bare = replace(text, name=BARE, furniture=())
    notes = replace(text, name=NOTES, grid=replace(text.grid, rows=12, row_gap=0))
    publication = replace(
        publication, roles=(*publication.roles, *OWN_ROLES), masters=(*publication.masters, bare, notes)
    )
    ids: dict[str, str] = {}
    for name in dict.fromkeys([file for file, _ in PICTURES] + list(OTHERS)):
        publication, ids[name] = brought(publication, BOOK, name)
    layout, told = Layout(publication, 4, 5, BOOK / "texts"), months()
    front_matter(layout, ids, [each[0].text for each in told])
    for n, each in enumerate(told):
        month(layout, FIRST + 4 * n, each, ids[PICTURES[n][0]], n)
    end_matter(layout, ids, FIRST + 4 * len(told))
    made = cover(layout, ids)
    return planned(replace(layout.publication, cover=made), [each[0].text for each in told])


def brought(publication: Publication, home: Path, name: str) -> tuple[Publication, str]:
    """The publication with a picture of any demo's; no second copy of it is kept."""
    source = next(
        file for folder in (home, DATA / "demo", DATA / "harvest") if (file := folder / "pictures" / name).exists()
    )
    publication, picture = bring_picture(publication, source.parent, source)
    for twin in source.parent.glob(f"{source.stem}-2.*"):
        twin.unlink()
    pictures = tuple(replace(p, file=name) if p.id == picture.id else p for p in publication.pictures)
    return replace(publication, pictures=pictures), picture.id


def planned(publication: Publication, names: list[str]) -> Publication:
    """What runs on each page, and its sections."""
    front = ("Half-title", "Frontispiece", "Title", "Imprint", "The months", "Opening picture", "On the barn door")
    for number, runs in enumerate(front, 1):
        publication = set_runs(publication, number - 1, runs)
    for n, name in enumerate(names):
        for page in range(4):
            publication = set_runs(publication, FIRST + 4 * n + page - 1, name)
    for number, name in ((1, "Front matter"), (FIRST, "The months"), (FIRST + 4 * len(names), "Back matter")):
        publication = start_section(publication, number, name)
    return publication


def main() -> None:
    publication = build()
    (BOOK / f"{NAME}.halffold").write_bytes(encode(publication))


if __name__ == "__main__":
    main()
