"""Makes data/list/the-bare-root-list.halffold: the demo catalogue, from a table of what is sold."""

import csv

from msgspec.structs import replace

from half_fold.core.measure.length import length
from half_fold.core.paths.all import set_paths
from half_fold.core.plan.order import set_runs
from half_fold.core.plan.sections import start_section
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.publication.places import Stop
from half_fold.core.publication.records import (
    Cover,
    Edge,
    Form,
    Ground,
    HoldsBarcode,
    HoldsCode,
    HoldsPanel,
    HoldsPicture,
    HoldsRule,
    HoldsStory,
    Paragraph,
    Publication,
    Run,
)
from half_fold.core.spread.edits.placing import add_story
from half_fold.core.store.codec import encode
from laid import BARE, BLEED, FOLD, Layout, on_cover, role, words
from make_book import DATA, brought

LIST, NAME = DATA / "list", "the-bare-root-list"
NUMBER = "2901234567919"  # of the range that shops give out for themselves, since the demo was issued none
OWN_ROLES = (
    role("sort", "Sort", "Young Serif", "Regular", "11.5pt", "15pt", align="left", tab=length("150mm"), before=1),
    role("sort note", "Sort note", "EB Garamond", "Regular", "10pt", "12pt", align="left"),
    role("form", "Form", "IBM Plex Sans", "Regular", "8.5pt", "12pt", align="left"),
)
# The first page of each part, its key in the table, heading, what is said of it, and its picture.
PARTS = (
    (4, "keeping", "Apples to keep", "Picked hard, laid down, and eaten when there is nothing else.", "nine-kinds.jpg"),
    (6, "kitchen", "Apples for kitchen and press", "Sharp, bitter and sweet, and one for a narrow place.",
     "bowl-of-apples.jpg"),
    (8, "wall", "Pears for the wall", "South or west, five leaves and then one.", "the-pear.jpg"),
    (10, "keep", "Pears to keep", "They ripen from the heart, in the dark, in company.", "pears-on-the-sill.jpg"),
    (14, "hedge", "Quinces and hedging", "For the edge of things.", "jars-on-the-shelf.jpg"),
    (16, "shed", "From the shed", "What the trees cannot do for themselves.", "knife-and-scions.jpg"),
)  # fmt: skip
FOCUS = {"pears-on-the-sill.jpg": 0.45, "jars-on-the-shelf.jpg": 0.3, "knife-and-scions.jpg": 0.35}
OTHERS = ("basket-of-windfalls.jpg", "one-apple.png", "long-acre-12.jpg", "long-acre-08.jpg", "the-pear-cut-out.png")


def sorts() -> dict[str, list[tuple[str, str, str]]]:
    """What is sold in each part: name, what is said of it, price."""
    found: dict[str, list[tuple[str, str, str]]] = {}
    with (LIST / "texts" / "sorts.tsv").open(encoding="utf-8", newline="") as table:
        for part, name, said, price in csv.reader(table, delimiter="\t"):
            found.setdefault(part, []).append((name, said, price))
    return found


def listed(layout: Layout, ids: dict[str, str], sold: dict[str, list[tuple[str, str, str]]]) -> None:
    """Each part on a spread: its picture on the left, what is sold on the right."""
    for number, key, heading, said, file in PARTS:
        layout.on_master(number)
        layout.put(number, BLEED, BLEED, FOLD, BLEED, HoldsPicture(picture=ids[file], focus_x=FOCUS.get(file, 0.5)))
        layout.put(number + 1, 0, 0, 3, 0, words(("headline", heading), size="26pt", stands="foot", ink="loden"))
        layout.put(number + 1, 0, 1, 3, 1, words(("standfirst", said)))
        paragraphs = [
            Paragraph(role=role_, runs=(Run(text=text),))
            for name, note, price in sold[key]
            for role_, text in (("sort", f"{name}\t{price}"), ("sort note", note))
        ]
        layout.publication, story = add_story(layout.publication, heading, tuple(paragraphs))
        layout.put(number + 1, 0, 2, 3, 5, HoldsStory(story=story, columns=1, turn=0))


def told(layout: Layout, number: int, name: str, heading: str, said: str) -> None:
    """A page of running text."""
    layout.put(number, 0, 0, 3, 0, words(("headline", heading), size="26pt", stands="foot", ink="loden"))
    layout.put(number, 0, 1, 3, 1, words(("standfirst", said)))
    story = layout.story(name, heading)
    layout.put(number, 0, 2, 3, 5, HoldsStory(story=story, columns=2, turn=0, balanced=True))


def other_pages(layout: Layout, ids: dict[str, str]) -> None:
    """What is no part of the list: how to read it, stocks, planting, terms, and the form."""
    for number in (1, 2, 18, 22, 24):
        layout.on_master(number)
    layout.put(1, FOLD, BLEED, BLEED, BLEED, HoldsPicture(picture=ids["long-acre-08.jpg"], focus_y=0.55))
    layout.put(2, BLEED, BLEED, FOLD, BLEED, HoldsPanel(ink="straw", tint=50))
    layout.put(2, 0, 1, 3, 4, words(("pull quote", "“It does not keep. Have the hole dug.”"), size="44pt"))
    told(layout, 3, "how-to-read", "How to read this list", "Thirty-one things, most of which will outlive you.")
    told(
        layout, 12, "stocks", "What it stands on", "Half of a tree is under the ground, and decides how tall it grows."
    )
    layout.put(13, FOLD, BLEED, BLEED, BLEED, HoldsPanel(ink="loden"))
    layout.put(13, 0, 1, 3, 4, HoldsPicture(picture=ids["one-apple.png"], scale="fit"))
    layout.put(13, 0, 5, 3, 5, words(("standfirst", "The same sort on each of them."), ink="paper", stands="foot"))
    layout.put(18, BLEED, BLEED, FOLD, BLEED, HoldsPicture(picture=ids["long-acre-12.jpg"], focus_y=0.6))
    told(layout, 19, "planting", "Planting", "A square hole, a round tree, and somebody to hold it straight.")
    told(layout, 20, "terms", "Terms", "Short, since we know where you live.")
    order_form(layout, 21)
    layout.put(22, BLEED, BLEED, FOLD, BLEED, HoldsPicture(picture=ids["basket-of-windfalls.jpg"]))
    layout.put(23, 0, 0, 3, 0, words(("headline", "Thursdays"), size="26pt", stands="foot", ink="loden"))
    when = (
        ("sort", "Lifting begins\tat leaf fall"),
        ("sort note", "About the ninth of November; the trees decide."),
        ("sort", "The long barn is open\tThursdays, ten to four"),
        ("sort note", "Mind the goose."),
        ("sort", "The carrier goes out\tTuesdays"),
        ("sort note", "Up to five trees are one bundle."),
        ("sort", "Last of the bare roots\tthe end of March"),
        ("sort note", "After that they are awake, and stay where they are."),
    )
    layout.put(23, 0, 1, 3, 4, words(*when))
    layout.put(24, BLEED, BLEED, FOLD, BLEED, HoldsPanel(ink="russet"))
    layout.put(
        24,
        0,
        1,
        3,
        4,
        words(("masthead", "Plant"), ("masthead", "pears"), ("masthead", "anyway."), even=True, ink="straw"),
    )


def order_form(layout: Layout, number: int) -> None:
    """Lines to be written on."""
    layout.put(number, 0, 0, 3, 0, words(("headline", "Order"), size="26pt", stands="foot", ink="loden"))
    layout.rows = 12
    layout.on_master(number, "form")
    for row in range(2, 12):
        layout.put(number, 0, row, 3, row, HoldsRule(weight=length("0.3pt"), ink="black", stands="last"))
    heads = ("Sort", "Stock", "How many", "Price")
    for column, head in enumerate(heads):
        layout.put(number, column, 2, column, 2, words(("form", head)))
    layout.put(number, 0, 9, 1, 9, words(("form", "Name, and where it is to be planted")))
    layout.rows = 6


CALL_OUT = replace(
    words(("cover line", "bare roots"), ("strong line", "31"), ("cover line", "sorts"), size="15pt", ink="paper"),
    side="centre",
    stands="middle",
    ground=Ground(
        ink="russet",
        form=Form(kind="circle"),
        edge=Edge(weight=length("2pt"), ink="paper", dashes="dotted", side="inside"),
        hugs=True,
    ),
)


A_LIST = words(("cover line", "A list of trees, {issue}"), size="15pt", ink="russet", stands="foot")


def cover(ids: dict[str, str]) -> Cover:
    """Nine kinds over the foot of the front, the name above them; on the back how to order."""
    far = Stop(kind="fold", facing=True)
    front = (
        on_cover("c1", far, 3, BLEED, BLEED, HoldsPicture(picture=ids["nine-kinds.jpg"], focus_y=0.5)),
        on_cover("c2", 0, 0, 5, 2, words(("masthead", "Bare Root"), even=True, ink="loden")),
        on_cover(
            "c3",
            0,
            2,
            5,
            2,
            words(("cover line", "A list of trees, {issue}"), size="15pt", ink="russet", stands="foot"),
        ),
        replace(on_cover("c4", 4, 2, 5, 4, CALL_OUT), inset=length("1mm")),
    )
    back = (
        on_cover("c5", 0, 0, 5, 3, words(("masthead", "Have the"), ("masthead", "hole dug."), even=True, ink="straw")),
        on_cover("c6", 0, 5, 3, 7, words(("standfirst", "Orders by the last of November, to the long barn, Upper "
                                          "Sallow, Ellerby Vale; or by the carrier, who knows the way."), ink="paper")),
        on_cover("c7", 4, 5, 5, 7, HoldsPicture(picture=ids["the-pear-cut-out.png"], scale="fit")),
        on_cover("c8", 0, 9, 2, 11, HoldsBarcode(number=NUMBER, size=80,
                                               paragraphs=words(("cover note", "Free to members")).paragraphs)),
        on_cover("c9", 4, 9, 5, 11, HoldsCode(says="THE BARE-ROOT LIST, NO. 27. ORDERS: LONG BARN, UPPER SALLOW")),
    )  # fmt: skip
    return Cover(ink="straw", back_ink="loden", front=front, back=back)


def build() -> Publication:
    """The whole catalogue."""
    publication = set_values(
        start("catalogue", "The Bare-Root List"),
        ["issue=No. 27", "season=Autumn", "press-date=2027-08-20", "quantity=6000",
         "publisher=Ellerby Vale growers' co-operative", "price=Free to members"],
    )  # fmt: skip
    text = publication.masters[0]
    masters = (
        replace(text, name=BARE, furniture=()),
        replace(text, name="form", grid=replace(text.grid, rows=12, row_gap=0)),
    )
    publication = replace(publication, roles=(*publication.roles, *OWN_ROLES), masters=(*publication.masters, *masters))
    ids: dict[str, str] = {}
    for name in dict.fromkeys([part[-1] for part in PARTS] + list(OTHERS)):
        publication, ids[name] = brought(publication, LIST, name)
    layout = Layout(publication, 4, 6, LIST / "texts")
    listed(layout, ids, sorts())
    other_pages(layout, ids)
    return planned(replace(layout.publication, cover=cover(ids)))


def planned(publication: Publication) -> Publication:
    """What runs on each page, and its sections."""
    runs = {1: "Opening picture", 2: "How to read this list", 3: "How to read this list", 12: "What it stands on",
            13: "What it stands on", 18: "Planting", 19: "Planting", 20: "Terms", 21: "Order", 22: "Thursdays",
            23: "Thursdays", 24: "Last leaf"}  # fmt: skip
    for number, _, heading, _, _ in PARTS:
        runs |= {number: heading, number + 1: heading}
    for number, name in runs.items():
        publication = set_runs(publication, number - 1, name)
    for number, name in ((1, "The list"), (4, "Trees"), (14, "Hedge and shed"), (18, "Planting and ordering")):
        publication = start_section(publication, number, name)
    return set_paths(publication, ["page.13.furniture=off"])


def main() -> None:
    (LIST / f"{NAME}.halffold").write_bytes(encode(build()))


if __name__ == "__main__":
    main()
