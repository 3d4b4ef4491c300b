"""Makes data/demo/graftwood.halffold: the demo magazine, laid with the program's own edits."""

from pathlib import Path

from msgspec.structs import replace

from half_fold.core.measure.length import length
from half_fold.core.measure.rect import Rect
from half_fold.core.paths.all import set_paths
from half_fold.core.pictures.library.bring import bring_picture
from half_fold.core.pictures.library.cut_command import cut_by_words
from half_fold.core.plan.order import set_runs
from half_fold.core.plan.sections import start_section
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.publication.places import Stop
from half_fold.core.publication.records import (
    Contour,
    Cover,
    Edge,
    Fade,
    FadeStop,
    Form,
    Ground,
    HoldsBarcode,
    HoldsPanel,
    HoldsPicture,
    HoldsStory,
    Ink,
    Look,
    Output,
    Publication,
    Role,
    Wrap,
)
from half_fold.core.publication.surgery import with_page
from half_fold.core.spread.edits.claiming import display_words
from half_fold.core.spread.edits.edits import claim
from half_fold.core.spread.edits.placing import add_story
from half_fold.core.spread.edits.scenes import scene_of
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.over_pictures import set_over
from half_fold.core.spread.where.reaching import put_in
from half_fold.core.store.codec import encode
from half_fold.core.typesetting.texts.text_in import read_text_file
from laid import BARE, BLEED, FOLD, Layout, field, on_cover, role, words

DEMO = Path(__file__).parents[1] / "src/half_fold/data/demo"
PICTURES = (
    "rows-in-mist.jpg",
    "pears-on-the-sill.jpg",
    "bowl-of-apples.jpg",
    "one-apple.png",
    "lane-at-dusk.jpg",
    "snow-on-the-wall.jpg",
    "hills-at-first-light.jpg",
    "jars-on-the-shelf.jpg",
    "basket-of-windfalls.jpg",
    "knife-and-scions.jpg",
    "nine-kinds.jpg",
    "the-pear.jpg",
    "the-pear-cut-out.png",
)
NUMBER = "2901234567896"  # of the range that shops give out for themselves, since the demo was issued none
PLANNED = {
    1: "Opening picture",
    2: "Contents",
    3: "Contents",
    4: "Advert",
    5: "From the long barn",
    8: "The orchard book",
    9: "The orchard book",
    10: "Letters",
    11: "Letters",
    16: "Advert",
    17: "Bees in the cold",
    18: "Bees in the cold",
    19: "Bees in the cold",
    20: "Rootstocks compared",
    21: "Rootstocks compared",
    24: "Under snow",
    25: "Under snow",
    26: "Advert",
    27: "Mending a wall",
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
    40: "Books",
    41: "Books",
    42: "The growers' list",
    43: "The growers' list",
    44: "Dates for the Vale",
    45: "Advert",
    46: "Short notes",
    47: "Advert",
    48: "Last leaf",
}


OWN_ROLES = (
    role("contents", "Contents", "Young Serif", "Regular", "18pt", "21pt", align="left", tab=length("15mm"), before=1),
    role("contents note", "Contents note", "EB Garamond", "Italic", "12.5pt", "15pt", align="left", tab=length("15mm")),
    role("signature", "Signature", "EB Garamond", "Italic", "10pt", "13pt", align="left"),
    Role(
        name="opening",
        label="Opening",
        based_on="body",
        own=("indent", "drop_lines", "opening_words", "opening"),
        drop_lines=3,
        opening_words=4,
    ),
)


PEAR_SKIN = Ink(name="pear skin", cyan=30, magenta=19, yellow=70, black=11)  # of the hero picture's palette
SHADE = Fade(
    name="shade",
    stops=(FadeStop(ink="black", at=0, opacity=0), FadeStop(ink="black", at=100, opacity=70)),
    angle=90,
)
RIMMED = Look(name="rimmed", contours=(Contour(weight=length("1.6pt"), ink="loden"),))


def light(layout: Layout) -> None:
    """A shade at the foot of a photograph that carries words, a framed page, a headline with an outline."""
    made = layout.publication
    layout.publication = replace(made, inks=(*made.inks, PEAR_SKIN), fades=(SHADE,), looks=(RIMMED,))
    first, stack = (made.pages[number - 1].blocks[1].id for number in (1, 45))
    layout.put(1, FOLD, 6, BLEED, BLEED, HoldsPanel(ink=SHADE.name), behind=first)
    layout.publication = set_paths(
        layout.publication,
        ["page.11.frame=8mm", f"block.{stack}.look={RIMMED.name}"],
    )
    frame = layout.publication.pages[10].blocks[-1].id
    layout.publication = set_paths(layout.publication, [f"block.{frame}.edge.ink=russet"])


def winter(layout: Layout, mist: str) -> None:
    """Opener: a picture to the bleed on the left, the article on the right."""
    story = layout.story("winter-of-long-ladders", opens=True)
    layout.put(6, BLEED, BLEED, FOLD, BLEED, HoldsPicture(picture=mist, focus_x=0.47, focus_y=0.6))
    layout.put(7, 0, 0, 5, 1, words(("headline", "The winter"), ("headline", "of long ladders"), size="56pt"))
    layout.put(
        7,
        0,
        2,
        3,
        2,
        words(
            ("standfirst", "Forty rows, one saw, and a promise to prune the whole of Long Acre before the sap rises."),
            stands="foot",
        ),
    )
    layout.put(7, 4, 2, 5, 2, words(("byline", "Words by Ottoline Marsh"), stands="foot"))
    layout.put(7, 0, 3, 3, 7, HoldsStory(story=story, columns=2, turn=0))
    layout.put(7, 4, 3, 5, 5, HoldsStory(story=story, columns=1, turn=1))
    layout.put(
        7, 4, 6, 5, 7, words(("pull quote", "“The tree has a shape in its head as well.”"), stands="foot", size="24pt")
    )


def pears(layout: Layout, picture: str) -> None:
    """A picture over both pages above, text in columns below."""
    story = layout.story("the-keeping-pears", opens=True)
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
    story = layout.story("the-bowl-by-the-door", opens=True)
    layout.put(22, BLEED, BLEED, FOLD, BLEED, HoldsPanel(ink="straw", tint=55))
    layout.put(22, 3, 0, 5, 2, HoldsPicture(picture=apple, scale="fit"))
    layout.put(22, 0, 1, 2, 2, words(("headline", "The bowl by the door"), stands="foot", size="34pt"))
    layout.put(
        22, 0, 3, 3, 3, words(("standfirst", "Whoever goes out takes one. Whoever comes in does not."), stands="foot")
    )
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


def opening(layout: Layout, basket: str) -> None:
    """One picture on the first page, and a line under it."""
    layout.put(1, FOLD, BLEED, BLEED, BLEED, HoldsPicture(picture=basket, focus_x=0.5, focus_y=0.55))
    layout.put(1, 0, 7, 3, 7, words(("caption", "Windfalls, the last of October."), stands="foot", ink="paper"))


ARTICLES = (
    (
        "6",
        "The winter of long ladders",
        "Forty rows, one saw, and the whole of Long Acre to prune before the sap rises",
    ),
    ("12", "The grafting knife", "Eleven in a drawer, and how a tree is carried from one century into the next"),
    ("14", "The keeping pears", "Hard as a mallet in October, and worth the wait"),
    ("22", "The bowl by the door", "Whoever goes out takes one. Whoever comes in does not"),
    ("24", "Under snow", "The Vale in the six weeks when nothing happens"),
)
REGULAR = (
    ("5", "From the long barn"),
    ("10", "Letters"),
    ("38", "Kitchen: quince and ginger"),
    ("44", "Dates for the Vale"),
    ("46", "Short notes"),
)


def contents(layout: Layout, kinds: str) -> None:
    """Nine kinds on the left, what is in the number on the right."""
    lines = [
        line
        for page, title, about in ARTICLES
        for line in (("contents", f"{page}\t{title}"), ("contents note", f"\t{about}"))
    ]
    layout.put(2, BLEED, BLEED, FOLD, BLEED, HoldsPicture(picture=kinds))
    layout.put(3, 0, 0, 5, 1, words(("headline", "In this number"), size="46pt"))
    layout.put(3, 0, 2, 5, 5, words(*lines))
    regular = [("entry", f"{page}\t{title}") for page, title in REGULAR]
    layout.put(3, 0, 6, 2, 7, words(("crosshead", "In every number"), *regular, stands="foot"))
    caption = (
        "Left: nine of the kinds grown in the Vale this year. From the upper left: Sallow Pippin, Tolliver's Late, "
        "Winter Margaret; Black Nancy, Barn Door, the Widow's Red; Candlemas, Lane End Pear, and one that nobody has "
        "yet been able to agree about."
    )
    layout.put(3, 3, 6, 5, 6, words(("caption", caption)))
    layout.put(
        3,
        3,
        7,
        5,
        7,
        words(
            ("credit", "Edited at the long table by Hesper Lowe"),
            ("credit", "Printed by the Ellerby Press, at the bridge"),
            ("credit", "Four numbers a year, by post or by hand"),
            stands="foot",
        ),
    )


def ladders(layout: Layout, apple: str) -> None:
    """A whole-page advert of a made-up firm."""
    layout.on_master(4)
    layout.put(4, BLEED, BLEED, FOLD, BLEED, HoldsPanel(ink="loden"))
    layout.put(4, 0, 0, 5, 1, words(("headline", "A shade longer than you need."), size="52pt", ink="straw"))
    layout.put(4, 0, 2, 5, 5, HoldsPicture(picture=apple, scale="fit"))
    pitch = "Three-legged orchard ladders in ash and oak, made to the tree you have and the reach you wish you had."
    layout.put(4, 0, 6, 3, 6, words(("standfirst", pitch), ink="paper", stands="foot"))
    layout.put(
        4,
        0,
        7,
        5,
        7,
        words(
            ("subhead", "Stott & Daughters"),
            ("byline", "Ladder makers, Nether Wick. Mended while you wait, if you wait."),
            stands="foot",
            ink="straw",
        ),
    )


def editor(layout: Layout, snow: str) -> None:
    """The editor's letter, with a small picture."""
    story = layout.story("from-the-long-barn")
    layout.put(5, 0, 0, 5, 0, words(("headline", "From the long barn"), size="40pt"))
    layout.put(5, 0, 5, 3, 7, HoldsStory(story=story, columns=2, turn=0))
    layout.put(5, 0, 1, 3, 4, HoldsPicture(picture=snow, focus_x=0.3))
    caption = "The north wall on the ninth of January, between one fall and the next."
    layout.put(5, 4, 4, 5, 4, words(("caption", caption), stands="foot"))


def letters(layout: Layout) -> None:
    """Letters in three columns, and one of them large."""
    story = layout.story("letters")
    layout.put(10, 0, 0, 5, 1, words(("headline", "Letters"), size="46pt"))
    heard = "Letters are read aloud on Thursdays. Those that are heard to the end are printed."
    layout.put(10, 0, 3, 3, 4, words(("standfirst", heard), stands="foot"))
    layout.put(10, 0, 5, 5, 7, HoldsStory(story=story, columns=3, turn=0))
    layout.put(11, FOLD, BLEED, BLEED, BLEED, HoldsPanel(ink="straw", tint=60))
    quote = "“They are saying something, all of them, quite quietly, and they have not got to the end of it.”"
    layout.put(11, 0, 3, 5, 6, words(("pull quote", quote), size="44pt", stands="foot"))
    layout.put(11, 0, 7, 3, 7, words(("byline", "Ephraim Stott, aged nine, on the bees of Upper Sallow")))


def knives(layout: Layout, knife: str) -> None:
    """A picture that runs over the fold, and text in three columns."""
    story = layout.story("the-grafting-knife", opens=True)
    over = field(3, 6, facing=True)
    layout.put(12, BLEED, BLEED, over, 3, HoldsPicture(picture=knife, focus_x=0.5, focus_y=0.41))
    layout.put(12, 0, 4, 5, 4, words(("headline", "The grafting knife"), size="46pt"))
    standfirst = "Eleven of them in a drawer, and each belongs to somebody."
    layout.put(12, 0, 5, 1, 6, words(("standfirst", standfirst)))
    layout.put(12, 0, 7, 1, 7, words(("byline", "Words by Wilfred Tarn"), stands="foot"))
    layout.put(12, 2, 5, 5, 7, HoldsStory(story=story, columns=2, turn=0))
    caption = "The smallest of the eleven, with three scions of Black Nancy cut in January."
    layout.put(13, 4, 3, 5, 3, words(("caption", caption), stands="foot"))
    layout.put(13, 0, 4, 3, 7, HoldsStory(story=story, columns=2, turn=1))
    quote = "“It never has been young, and we have never once let it be old.”"
    layout.put(13, 4, 5, 5, 7, words(("pull quote", quote), size="24pt", stands="foot"))


def snow_story(layout: Layout, lane: str, hills: str, snow: str) -> None:
    """A picture page: three pictures and few words."""
    layout.put(24, BLEED, BLEED, FOLD, BLEED, HoldsPicture(picture=lane))
    layout.put(25, FOLD, BLEED, BLEED, 3, HoldsPicture(picture=hills, focus_x=0.4, focus_y=0.6))
    layout.put(25, 0, 4, 2, 7, HoldsPicture(picture=snow))
    layout.put(25, 3, 4, 5, 5, words(("headline", "Under snow"), size="34pt"))
    layout.put(
        25,
        3,
        6,
        5,
        7,
        words(
            (
                "caption",
                "Left: the lane to Upper Sallow, a quarter past four. Above: first light from the bank, the ninth of "
                "January. Here: the wall at Long Acre, before anybody had walked on it.",
            ),
            stands="foot",
        ),
    )


def kitchen(layout: Layout, jars: str) -> None:
    """A recipe: its picture, its list on a tint, its method."""
    reading = read_text_file(DEMO / "texts" / "quince-and-ginger.md").paragraphs
    entries = tuple(p for p in reading if p.role == "entry")
    layout.publication, needs = add_story(layout.publication, "Quince and ginger: what it takes", entries)
    method = tuple(p for p in reading[2:] if p.role != "entry")
    layout.publication, story = add_story(layout.publication, "Quince and ginger", method)
    layout.put(38, BLEED, BLEED, FOLD, 4, HoldsPicture(picture=jars, focus_x=0.45, focus_y=0.55))
    layout.put(38, 0, 5, 5, 5, words(("headline", "Quince and ginger, put by"), size="40pt"))
    layout.put(38, 0, 6, 3, 7, words(("standfirst", reading[1].text)))
    layout.put(39, FOLD, BLEED, BLEED, 2, HoldsPanel(ink="straw", tint=60))
    layout.put(39, 0, 0, 1, 0, words(("subhead", "For six jars"), stands="foot"))
    layout.put(39, 0, 1, 3, 2, HoldsStory(story=needs, columns=1, turn=0))
    layout.put(39, 0, 3, 3, 4, HoldsStory(story=story, columns=2, turn=0))
    layout.put(
        39,
        0,
        6,
        5,
        7,
        words(
            ("pull quote", "Write the year on them. You will think that you will remember."), size="34pt", stands="foot"
        ),
    )
    note = (
        "Quinces vary as people do. If yours are small and downy, allow half as much again and an afternoon to spare."
    )
    layout.put(39, 4, 3, 5, 4, words(("caption", note)))


def dates(layout: Layout) -> None:
    """A diary set with tabs, and an advert that is all type."""
    story = layout.story("dates-for-the-vale", "Dates for the Vale")
    layout.put(44, 0, 0, 5, 1, words(("headline", "Dates for the Vale"), size="46pt"))
    when = "Nothing happens in winter. This is when, and where."
    layout.put(44, 0, 2, 3, 3, words(("standfirst", when), stands="foot"))
    layout.put(44, 0, 4, 5, 7, HoldsStory(story=story, columns=2, turn=0))
    layout.on_master(45)
    layout.put(45, FOLD, BLEED, BLEED, BLEED, HoldsPanel(ink="russet"))
    layout.put(
        45,
        0,
        0,
        5,
        5,
        words(
            ("masthead", "Cider"),
            ("masthead", "has been"),
            ("masthead", "waiting"),
            ("masthead", "up all night."),
            even=True,
            ink="straw",
        ),
    )
    layout.put(
        45,
        0,
        6,
        5,
        7,
        words(
            ("subhead", "The Press House, at the bridge"),
            ("byline", "Draught and bottled. Bring a jug. Open when the lamp is lit."),
            stands="foot",
            ink="straw",
        ),
    )


def notes(layout: Layout, apple: str) -> None:
    """Short notes in three columns."""
    story = layout.story("short-notes", "Short notes")
    layout.put(46, 0, 0, 3, 1, words(("headline", "Short notes"), size="46pt"))
    round_it = Wrap(shape="outline", side="both", offset=length("4mm"))
    layout.put(46, 1, 2, 4, 5, HoldsPicture(picture=apple, scale="fit"), wrap=round_it)
    layout.put(46, 0, 4, 5, 7, HoldsStory(story=story, columns=3, turn=0, balanced=True))
    plea = "Notes for the next number by Candlemas, please, and on one side of the paper."
    layout.put(46, 0, 1, 1, 2, words(("standfirst", plea), stands="foot"))
    layout.on_master(47)
    layout.put(47, FOLD, BLEED, BLEED, BLEED, HoldsPanel(ink="loden"))
    shelf = (("masthead", "Raffia."), ("masthead", "Wool, tape."), ("masthead", "No opinions."))
    layout.put(47, 0, 1, 5, 4, words(*shelf, even=True, ink="straw"))
    layout.put(
        47,
        0,
        6,
        5,
        7,
        words(
            ("subhead", "Merriwether's"),
            ("byline", "Everything for the garden that does not need feeding. Tarn End, by the pump."),
            stands="foot",
            ink="straw",
        ),
    )


CALL_OUT = replace(
    words(("cover line", "With the"), ("strong line", "bare-root"), ("cover line", "list"), size="14pt", ink="black"),
    side="centre",
    stands="middle",
    ground=Ground(
        ink=PEAR_SKIN.name,
        form=Form(kind="circle"),
        edge=Edge(weight=length("2pt"), ink="straw", dashes="dotted", side="outside"),
        hugs=True,
    ),
)


def cover(pear: str, cut_out: str, apple: str) -> Cover:
    """The pear before the masthead, two stacks, the code; on the back what comes next."""
    far = Stop(kind="fold", facing=True)
    code = HoldsBarcode(
        number=NUMBER,
        addon="14",
        size=80,
        paragraphs=words(("cover note", "{issue}, {season}"), ("cover note", "Four and six")).paragraphs,
    )
    front = (
        on_cover("c1", far, BLEED, BLEED, BLEED, HoldsPicture(picture=pear)),
        on_cover("c2", 0, 0, 5, 1, words(("masthead", "{title}"), even=True, ink="straw")),
        on_cover("c3", far, BLEED, BLEED, BLEED, HoldsPicture(picture=cut_out)),
        on_cover(
            "c4",
            0,
            2,
            1,
            4,
            words(
                ("strong line", "Eleven"),
                ("strong line", "old knives"),
                ("cover line", "and one immortal tree"),
                even=True,
                ink="paper",
            ),
        ),
        on_cover(
            "c5",
            4,
            8,
            5,
            11,
            words(
                ("cover line", "Hard as a"),
                ("strong line", "mallet"),
                ("cover line", "the keeping pears"),
                even=True,
                side="right",
                stands="foot",
                ink="paper",
            ),
        ),
        on_cover("c6", 0, 9, 2, 11, code),
        replace(on_cover("c11", 5, 3, 5, 4, CALL_OUT), inset=length("3mm")),
    )
    back = (
        on_cover(
            "c7",
            0,
            1,
            4,
            3,
            words(
                ("masthead", "Next:"), ("masthead", "forty-one"), ("masthead", "lost apples"), even=True, ink="straw"
            ),
        ),
        on_cover(
            "c8",
            0,
            5,
            2,
            6,
            words(
                ("standfirst", "All of them in one lane, and one of them the right way up. In the spring number."),
                ink="paper",
            ),
        ),
        on_cover("c9", 3, 6, 5, 9, HoldsPicture(picture=apple, scale="fit")),
        on_cover(
            "c10",
            0,
            11,
            3,
            11,
            words(("byline", "A quarterly of the Ellerby Vale growers' co-operative"), stands="foot", ink="straw"),
        ),
    )
    return Cover(ink="loden", front=front, back=back, spine_ink="straw")


def long_acre(publication: Publication, ids: dict[str, str]) -> Publication:
    """Two pictures as one ground over a spread, words on it, and a basket cut out to stand in front of them."""
    scene = [ids["rows-in-mist.jpg"], ids["lane-at-dusk.jpg"]]
    publication, _ = scene_of(publication, SCENE, scene)
    pictures = DEMO / "pictures"
    publication, basket = cut_by_words(publication, pictures, "basket-of-windfalls.jpg", "8 10 94 92", [], [], False)
    publication, words = claim(
        publication, (0, 0), (1, 1), (SCENE, SCENE + 1), display_words("headline", "The whole of Long Acre")
    )
    publication = put_in(publication, words, Rect(45, 60, 585, 330))
    publication = set_paths(publication, [f"block.{words}.size=72pt", f"block.{words}.ink=straw"])
    publication, fruit = claim(
        publication, (0, 0), (1, 1), (SCENE, SCENE + 1), HoldsPicture(picture=basket, scale="fit")
    )
    publication = put_in(publication, fruit, Rect(235, 330, 605, 775))
    return publication


SECTIONS = {1: "The Vale", 12: "Work", 24: "Winter", 32: "The list", 38: "Table"}
COPY_IN = (5, 10, 11, 12, 13, 14, 15, 24, 25)


def _planned(publication: Publication) -> Publication:
    """When it goes to press, how many are printed, its sections, what is sold, and what has come in."""
    publication = set_values(publication, ["press-date=2027-01-15", "quantity=4000"])
    for number, name in SECTIONS.items():
        publication = start_section(publication, number, name)
    for number, page in enumerate(publication.pages, 1):
        if page.runs == "Advert":
            publication = with_page(publication, replace(page, advert="page"))
        elif number in COPY_IN:
            publication = with_page(publication, replace(page, state="copy in"))
    return publication


def build() -> Publication:
    """The whole demo publication."""
    publication = set_values(
        start("magazine", "Graftwood"), ["issue=No. 14", "season=Winter", "pages=48", "paper.text=Marrow Volume 130"]
    )
    bare = replace(publication.masters[0], name=BARE, furniture=())
    publication = replace(publication, roles=(*publication.roles, *OWN_ROLES), masters=(*publication.masters, bare))
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
    publication = _planned(publication)
    layout = Layout(publication, 6, 8, DEMO / "texts")
    winter(layout, ids["rows-in-mist.jpg"])
    pears(layout, ids["pears-on-the-sill.jpg"])
    bowl(layout, ids["bowl-of-apples.jpg"], ids["one-apple.png"])
    opening(layout, ids["basket-of-windfalls.jpg"])
    contents(layout, ids["nine-kinds.jpg"])
    ladders(layout, ids["one-apple.png"])
    editor(layout, ids["snow-on-the-wall.jpg"])
    letters(layout)
    knives(layout, ids["knife-and-scions.jpg"])
    snow_story(layout, ids["lane-at-dusk.jpg"], ids["hills-at-first-light.jpg"], ids["snow-on-the-wall.jpg"])
    kitchen(layout, ids["jars-on-the-shelf.jpg"])
    dates(layout)
    notes(layout, ids["one-apple.png"])
    light(layout)
    laid = long_acre(layout.publication, ids)
    for number in FULL:
        laid = set_over(laid, number, "off")
    laid = replace(laid, outputs=OUTPUTS)
    return replace(laid, cover=cover(ids["the-pear.jpg"], ids["the-pear-cut-out.png"], ids["one-apple.png"]))


SCENE = 42
OUTPUTS = (
    Output(name="Pages for the printer", marks=True),
    Output(name="Cover for the printer", part="cover", marks=True),
    Output(name="Reading copy", form="spreads", to_read=True),
)
FULL = (1, 2, 6, 23, 24, 42, 43)  # pages that a picture covers, where a folio would only disturb


def main() -> None:
    publication = build()
    setter = Setter()
    for story in publication.stories:
        flow = setter.threads.flow(publication, story.id)
        print(story.title, "over", flow.over_lines, "room", flow.room)
    (DEMO / "graftwood.halffold").write_bytes(encode(publication))


if __name__ == "__main__":
    main()
