"""Makes data/demo/graftwood.halffold: the demo magazine, laid with the program's own edits."""

from pathlib import Path

from msgspec.structs import replace

from half_fold.core.measure.length import length
from half_fold.core.pictures.bring import bring_picture
from half_fold.core.plan.order import set_runs
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import (
    Block,
    Cover,
    Holds,
    HoldsDisplay,
    HoldsPanel,
    HoldsPicture,
    HoldsStory,
    Paragraph,
    Publication,
    Run,
    Stop,
)
from half_fold.core.publication.surgery import block_ids, fresh_id
from half_fold.core.spread.compose import Setter
from half_fold.core.spread.placing import add_story
from half_fold.core.store.codec import encode
from half_fold.core.typesetting.text_in import read_text_file

DEMO = Path(__file__).parents[1] / "src/half_fold/data/demo"
PICTURES = (
    "rows-in-mist.jpg",
    "pears-on-the-sill.jpg",
    "bowl-of-apples.jpg",
    "one-apple.png",
    "lane-at-dusk.jpg",
    "snow-on-the-wall.jpg",
)
PLANNED = {
    1: "Opening picture",
    2: "Advert",
    3: "Contents",
    4: "Contents",
    5: "From the long barn",
    8: "The orchard book",
    9: "The orchard book",
    10: "Letters",
    11: "Letters",
    12: "The grafting knife",
    13: "The grafting knife",
    16: "Advert",
    17: "Bees in the cold",
    18: "Bees in the cold",
    19: "Bees in the cold",
    20: "Rootstocks compared",
    21: "Rootstocks compared",
    24: "Picture story: snow",
    25: "Picture story: snow",
    26: "Picture story: snow",
    27: "Picture story: snow",
    28: "Cider, week by week",
    29: "Cider, week by week",
    30: "Cider, week by week",
    31: "Advert",
    32: "Bare-root list",
    33: "Bare-root list",
    34: "Bare-root list",
    35: "Bare-root list",
    36: "A wall of pears",
    37: "A wall of pears",
    38: "Kitchen",
    39: "Kitchen",
    40: "Kitchen",
    41: "Kitchen",
    42: "Books",
    43: "Books",
    44: "Dates for the Vale",
    45: "Dates for the Vale",
    46: "Short notes",
    47: "Advert",
    48: "Last leaf",
}


def field(index: int, count: int, facing: bool = False) -> Stop:
    return Stop(kind="field", index=index, count=count, facing=facing)


BLEED, FOLD = Stop(kind="bleed"), Stop(kind="fold")


class Layout:
    """Puts blocks on pages of the 6 by 8 grid."""

    def __init__(self, publication: Publication) -> None:
        self.publication = publication

    def put(
        self,
        number: int,
        left: Stop | int,
        top: Stop | int,
        right: Stop | int,
        bottom: Stop | int,
        holds: Holds,
        inset: str = "",
    ) -> None:
        columns, rows = 6, 8
        stops = [
            s if isinstance(s, Stop) else field(s, n)
            for s, n in zip((left, top, right, bottom), (columns, rows) * 2, strict=True)
        ]
        block = Block(
            id=fresh_id("b", block_ids(self.publication)),
            left=stops[0],
            top=stops[1],
            right=stops[2],
            bottom=stops[3],
            holds=holds,
            inset=length(inset) if inset else None,
        )
        page = self.publication.pages[number - 1]
        pages = list(self.publication.pages)
        pages[number - 1] = replace(page, blocks=(*page.blocks, block))
        self.publication = replace(self.publication, pages=tuple(pages))

    def story(self, name: str) -> str:
        reading = read_text_file(DEMO / "texts" / f"{name}.md")
        self.publication, story = add_story(self.publication, reading.title, tuple(reading.paragraphs[1:]))
        return story


def words(*lines: tuple[str, str], stands: str = "head", size: str = "") -> HoldsDisplay:
    paragraphs = tuple(Paragraph(role=role, runs=(Run(text=text),)) for role, text in lines)
    return HoldsDisplay(paragraphs=paragraphs, stands=stands, size=length(size) if size else None)  # type: ignore[arg-type]


def winter(layout: Layout, mist: str) -> None:
    """Opener: a picture to the bleed on the left, the article on the right."""
    story = layout.story("winter-of-long-ladders")
    layout.put(6, BLEED, BLEED, FOLD, BLEED, HoldsPicture(picture=mist, focus_x=0.47, focus_y=0.6))
    layout.put(7, 0, 0, 5, 1, words(("headline", "The winter of long ladders"), size="46pt"))
    layout.put(
        7,
        0,
        2,
        3,
        2,
        words(
            ("standfirst", "Forty rows, one saw, and a promise to prune the whole of Long Acre before the sap rises.")
        ),
    )
    layout.put(7, 4, 2, 5, 2, words(("byline", "Words by Ottoline Marsh"), stands="head"))
    layout.put(7, 0, 3, 3, 7, HoldsStory(story=story, columns=2, turn=0))
    layout.put(7, 4, 3, 5, 5, HoldsStory(story=story, columns=1, turn=1))
    layout.put(
        7, 4, 6, 5, 7, words(("pull quote", "“The tree has a shape in its head as well.”"), stands="foot", size="19pt")
    )


def pears(layout: Layout, picture: str) -> None:
    """A picture over both pages above, text in columns below."""
    story = layout.story("the-keeping-pears")
    across = Stop(kind="bleed", facing=True)
    layout.put(14, BLEED, BLEED, across, 4, HoldsPicture(picture=picture, focus_x=0.5, focus_y=0.56))
    layout.put(14, 0, 5, 3, 6, words(("headline", "The keeping pears"), size="40pt"))
    layout.put(
        14,
        0,
        7,
        3,
        7,
        words(
            ("standfirst", "Hard as a mallet in October, and worth the whole of the winter to wait for."), stands="foot"
        ),
    )
    layout.put(14, 4, 5, 5, 7, HoldsStory(story=story, columns=1, turn=0))
    layout.put(15, 0, 5, 3, 7, HoldsStory(story=story, columns=2, turn=1))
    layout.put(
        15,
        4,
        5,
        5,
        7,
        words(
            (
                "caption",
                "Three pears and a cuckoo in the nest: two of Winter Margaret, one of Black Nancy, and an apple that "
                "was asked to leave after the photograph.",
            ),
            stands="foot",
        ),
    )


def bowl(layout: Layout, picture: str, apple: str) -> None:
    """Text and a cut-out on a tinted left page, a portrait to the bleed on the right."""
    story = layout.story("the-bowl-by-the-door")
    layout.put(22, BLEED, BLEED, FOLD, BLEED, HoldsPanel(ink="straw", tint=55))
    layout.put(22, 3, 0, 5, 2, HoldsPicture(picture=apple, scale="fit"))
    layout.put(22, 0, 1, 2, 2, words(("headline", "The bowl by the door"), stands="foot", size="34pt"))
    layout.put(22, 0, 3, 3, 3, words(("standfirst", "Whoever goes out takes one. Whoever comes in does not.")))
    layout.put(22, 0, 4, 3, 7, HoldsStory(story=story, columns=2, turn=0))
    layout.put(
        22,
        4,
        6,
        5,
        7,
        words(("caption", "Four of the day's apples, and one that has already been chosen."), stands="foot"),
    )
    layout.put(23, FOLD, BLEED, BLEED, BLEED, HoldsPicture(picture=picture, focus_x=0.45, focus_y=0.52))


def build() -> Publication:
    """The whole demo publication."""
    publication = set_values(
        start("magazine", "Graftwood"), ["issue=No. 14", "season=Winter", "pages=48", "paper.text=Marrow Volume 130"]
    )
    ids = {}
    for name in PICTURES:
        publication, picture = bring_picture(publication, DEMO / "pictures", DEMO / "pictures" / name)
        ids[name] = picture.id
        publication = replace(
            publication,
            pictures=tuple(replace(p, file=name) if p.id == picture.id else p for p in publication.pictures),
        )
        for twin in (DEMO / "pictures").glob(f"{Path(name).stem}-2.*"):
            twin.unlink()
    for number, runs in PLANNED.items():
        publication = set_runs(publication, number - 1, runs)
    layout = Layout(publication)
    winter(layout, ids["rows-in-mist.jpg"])
    pears(layout, ids["pears-on-the-sill.jpg"])
    bowl(layout, ids["bowl-of-apples.jpg"], ids["one-apple.png"])
    cover = Cover(ink="dusk", picture=ids["lane-at-dusk.jpg"], focus_x=0.5, focus_y=0.5)
    return replace(layout.publication, cover=cover)


def main() -> None:
    publication = build()
    setter = Setter()
    for story in publication.stories:
        flow = setter.threads.flow(publication, story.id)
        print(story.title, "over", flow.over_lines, "room", flow.room)
    (DEMO / "graftwood.halffold").write_bytes(encode(publication))


if __name__ == "__main__":
    main()
