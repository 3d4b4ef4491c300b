"""Makes the second demo: thirty made-up photographs of a harvest, and the photo book drafted from them.

``python tools/make_harvest.py [--scale 1.0] [--book]``. Some are near duplicates, too warm, too cold, crooked or too
small, as photographs of two days are.
"""

import argparse
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np
from msgspec.structs import replace
from PIL import Image, ImageEnhance, ImageFilter

from half_fold.core.arrange.draft import Wishes, draft_book, match_draft, planned
from half_fold.core.pictures.library.bring import record_of, with_picture
from half_fold.core.pictures.library.choosing import value_pictures
from half_fold.core.pictures.library.told import told_of_all
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import (
    Block,
    HoldsDisplay,
    HoldsPicture,
    Publication,
)
from half_fold.core.publication.surgery import with_page
from half_fold.core.store.codec import encode
from laid import field, on_cover, words
from make_pictures import GREEN_LEAF, _photograph
from picture_landscape import Canvas, orchard, ridge
from picture_still_life import Scene, Thing, apple, bowl, green_pear, leaf, pear, plain, red_apple, render_rows
from picture_things import basket, jar, preserve, willow

OUT = Path(__file__).parents[1] / "src/half_fold/data/harvest"
LONG, SHORT = 2850, 1900  # a page of the book at 250 ppi
DAYS = ("2026:10:03", "2026:10:04")
SECOND_DAY = "long-acre-17.jpg"  # the first picture of it
CREDITS = ("Ottoline Marsh", "Bram Quillon")
Ramp = list[tuple[float, tuple[float, float, float]]]

# Light of the day: the sky from its head to the ground, the sun's glow, the colours of hills and grass.
LIGHTS: dict[str, tuple[Ramp, tuple[float, float, float], tuple[float, float, float]]] = {
    "dawn": ([(0, (0.5, 0.58, 0.7)), (0.35, (0.86, 0.78, 0.74)), (0.5, (0.98, 0.84, 0.7)), (1, (0.7, 0.64, 0.56))],
             (1.0, 0.76, 0.5), (0.5, 0.52, 0.42)),
    "morning": ([(0, (0.42, 0.6, 0.8)), (0.4, (0.74, 0.83, 0.9)), (0.52, (0.92, 0.92, 0.86)), (1, (0.6, 0.62, 0.46))],
                (1.0, 0.95, 0.78), (0.45, 0.55, 0.25)),
    "noon": ([(0, (0.3, 0.52, 0.78)), (0.42, (0.66, 0.8, 0.92)), (0.54, (0.88, 0.92, 0.93)), (1, (0.62, 0.64, 0.44))],
             (1.0, 0.98, 0.9), (0.5, 0.58, 0.24)),
    "evening": ([(0, (0.25, 0.33, 0.5)), (0.35, (0.72, 0.6, 0.56)), (0.52, (0.98, 0.76, 0.48)), (1, (0.5, 0.42, 0.28))],
                (1.0, 0.66, 0.34), (0.4, 0.38, 0.2)),
}  # fmt: skip


def rows(light: str, seed: int, wide: int, high: int) -> Image.Image:
    """Rows of trees under hills, in that light."""
    sky, sun, grass = LIGHTS[light]
    c = Canvas(wide, high, sky, seed)
    rng = np.random.default_rng(seed)
    horizon = float(rng.uniform(0.36, 0.64))
    c.glow(float(rng.uniform(0.2, 0.8)), horizon - 0.12, 0.2, sun, 0.34)
    c.cloud(0.02, horizon - 0.15, sky[1][1], 0.5, seed + 30)
    far = np.array(sky[1][1]) * 0.75
    c.hill(ridge(wide, horizon - 0.1, 0.06, seed + 3), tuple(far), sky[2][1], 3)
    c.hill(ridge(wide, horizon - 0.04, 0.05, seed + 9), tuple(far * 0.75), sky[2][1], 5)
    c.hill(np.full(wide, horizon), grass, tuple(np.array(grass) * 0.55), 9, 0.4)
    orchard(
        c, horizon, float(rng.uniform(0.14, 0.86)), tuple(np.array(grass) * 0.28), sky[1][1],
        rows=int(rng.integers(3, 8)),
        leaves=1.0, clear=3.6, apples=(0.62, 0.13, 0.06), shadow=tuple(np.array(grass) * 0.42),
    )  # fmt: skip
    if light == "dawn":
        c.mist(horizon + 0.08, 0.1, sky[2][1], 0.4, seed + 15)
    return c.picture(0.011)


def heap(seed: int) -> Scene:
    """A basket of what was picked."""
    rng = np.random.default_rng(seed)
    spots = [(-0.95, 1.5, 0.5), (0.2, 1.55, 0.95), (1.0, 1.5, 0.25), (-0.25, 1.6, -0.45), (0.35, 2.15, 0.25),
             (-0.75, 2.05, -0.1)]  # fmt: skip
    fruit = [
        Thing(apple, red_apple(seed + 3 * i, float(rng.uniform(0, 0.8))), 0.55, spot,
              (float(rng.uniform(-0.5, 0.5)), float(rng.uniform(-0.3, 0.9))), 0.68)
        for i, spot in enumerate(spots)
    ]  # fmt: skip
    fallen = Thing(leaf, GREEN_LEAF, 0.25, (float(rng.uniform(1.2, 2)), 0.1, 2.2), (0.08, 0.1), 0.5)
    hold = Thing(basket, willow, 0.12, (0, 1.24, 0), size=1.5)
    return Scene([hold, *fruit, fallen], _from(rng, 4.0, 9.4), (0.0, 1.7, 0.2), 1.3, wall=(0.07, 0.064, 0.055))


def bench(seed: int) -> Scene:
    """Fruit sorted on a bench."""
    rng = np.random.default_rng(seed)
    things = []
    for i, x in enumerate(np.linspace(-3, 3, 4 + seed % 2)):
        lean = float(rng.uniform(-0.3, 0.3)), float(rng.uniform(-0.2, 0.4))
        if rng.random() < 0.4:
            things.append(Thing(pear, green_pear(seed + i), 0.42, (float(x), 1.0, float(rng.uniform(-0.6, 0.4))), lean))
        else:
            skin = red_apple(seed * 2 + i, float(rng.uniform(0, 0.7)))
            things.append(Thing(apple, skin, 0.6, (float(x), 0.72, float(rng.uniform(-0.6, 0.8))), lean, 0.8))
    return Scene(things, _from(rng, 2.4, 8.4), (0.0, 0.95, 0), 1.6, wall=(0.085, 0.085, 0.078))


def table(seed: int) -> Scene:
    """What is eaten at noon: jars, and a bowl."""
    kinds = [
        preserve((0.62, 0.3, 0.03), (0.5, 0.17, 0.015), (0.2, 0.05, 0.04), seed),
        preserve((0.42, 0.1, 0.02), (0.3, 0.05, 0.01), (0.2, 0.05, 0.04), seed + 5),
    ]
    jars = [Thing(jar, kind, 0.95, (x, 1.0, -0.5), (0, 0)) for kind, x in zip(kinds, (-2.3, -0.7), strict=True)]
    dish = Thing(bowl, plain((0.19, 0.215, 0.235), 0.35), 0.55, (1.7, 1.15, 0), size=1.15)
    fruit = [
        Thing(apple, red_apple(seed + 7 * i, 0.3), 0.6, (1.7 + x, 1.45, z), (0.2, 0.1 * i), 0.6)
        for i, (x, z) in enumerate([(-0.45, 0.2), (0.5, 0.1), (0.0, -0.5)])
    ]
    seen_from = _from(np.random.default_rng(seed), 2.6, 9.0)
    return Scene([*jars, dish, *fruit], seen_from, (0.0, 1.05, 0), 1.5, wall=(0.075, 0.07, 0.06))


def _from(rng: np.random.Generator, height: float, distance: float) -> tuple[float, float, float]:
    """Where a still life is seen from: no two from the same place."""
    return (
        float(rng.uniform(-4.5, 4.5)),
        height * float(rng.uniform(0.7, 1.35)),
        distance * float(rng.uniform(0.75, 1.1)),
    )


def _render(made: tuple[str, int, int, int]) -> Image.Image:
    kind, seed, wide, high = made
    if kind in LIGHTS:
        return rows(kind, seed, wide, high)
    scene = {"heap": heap, "bench": bench, "table": table}[kind](seed)
    linear = render_rows(scene, wide * 5 // 4, high * 5 // 4, range(high * 5 // 4))
    return _photograph(linear, seed).resize((wide, high), Image.Resampling.LANCZOS)


# name: (kind, seed, upright, time, caption)
TAKEN: dict[str, tuple[str, int, bool, str, str]] = {
    "long-acre-01.jpg": ("dawn", 101, False, "06:41:10", "Long Acre before anybody was up"),
    "long-acre-02.jpg": ("dawn", 114, False, "06:58:32", "The bank, with the first light on it"),
    "long-acre-03.jpg": ("dawn", 127, True, "07:10:05", "The end row"),
    "long-acre-06.jpg": ("morning", 131, False, "08:20:44", "Forty rows, counted"),
    "long-acre-07.jpg": ("morning", 146, False, "08:34:00", "The gang at the far end"),
    "long-acre-08.jpg": ("heap", 11, True, "09:02:18", "The first basket"),
    "long-acre-11.jpg": ("heap", 23, False, "09:40:51", "Windfalls, kept apart"),
    "long-acre-12.jpg": ("morning", 152, True, "10:05:27", "The long ladder in the third tree"),
    "long-acre-13.jpg": ("bench", 31, False, "10:48:09", "Sorted by hand on the bench"),
    "long-acre-16.jpg": ("bench", 44, False, "11:02:40", "Keepers to the left"),
    "long-acre-17.jpg": ("noon", 163, False, "12:01:15", "Noon"),
    "long-acre-18.jpg": ("table", 52, False, "12:30:00", "Soup, bread, and last year's jars"),
    "long-acre-21.jpg": ("table", 67, True, "12:44:36", "The other end of the table"),
    "long-acre-22.jpg": ("noon", 171, False, "13:30:20", "After dinner nobody hurries"),
    "long-acre-23.jpg": ("heap", 78, False, "14:45:48", "The fortieth basket"),
    "long-acre-24.jpg": ("bench", 85, True, "15:20:02", "Three kinds that nobody could name"),
    "long-acre-27.jpg": ("evening", 184, False, "17:40:30", "The last row"),
    "long-acre-28.jpg": ("evening", 193, False, "18:02:11", "Lane to Upper Sallow"),
    "long-acre-30.jpg": ("evening", 202, True, "18:15:59", "The gate, closed"),
}
Change = Callable[[Image.Image], Image.Image]


def _closer(image: Image.Image) -> Image.Image:
    wide, high = image.size
    return image.crop((wide // 40, high // 50, wide * 38 // 40, high * 47 // 50)).resize(image.size)


def _soft(image: Image.Image) -> Image.Image:
    return _closer(image).filter(ImageFilter.GaussianBlur(1.8))


def _lighter(image: Image.Image) -> Image.Image:
    return ImageEnhance.Brightness(image.crop((18, 6, *image.size)).resize(image.size)).enhance(1.12)


def _cast(red: float, blue: float) -> Change:
    def change(image: Image.Image) -> Image.Image:
        pixels = np.asarray(image, np.float32) * (red, 1.0, blue)
        return Image.fromarray(pixels.clip(0, 255).astype(np.uint8))

    return change


def _crooked(degrees: float) -> Change:
    def change(image: Image.Image) -> Image.Image:
        wide, high = image.size
        turned = image.rotate(degrees, Image.Resampling.BICUBIC)
        return turned.crop((wide // 12, high // 12, wide * 11 // 12, high * 11 // 12)).resize(image.size)

    return change


def _small(image: Image.Image) -> Image.Image:
    return image.resize((image.width * 3 // 10, image.height * 3 // 10), Image.Resampling.LANCZOS)


# name: (made from, how, time)
MADE: dict[str, tuple[str, Change, str]] = {
    "long-acre-04.jpg": ("long-acre-02.jpg", _closer, "06:58:36"),
    "long-acre-05.jpg": ("long-acre-02.jpg", _soft, "06:58:39"),
    "long-acre-09.jpg": ("long-acre-08.jpg", _lighter, "09:02:24"),
    "long-acre-10.jpg": ("long-acre-08.jpg", _soft, "09:02:29"),
    "long-acre-14.jpg": ("long-acre-13.jpg", _closer, "10:48:15"),
    "long-acre-15.jpg": ("long-acre-16.jpg", _cast(1.18, 0.78), "11:03:10"),
    "long-acre-19.jpg": ("long-acre-18.jpg", _cast(1.22, 0.74), "12:30:31"),
    "long-acre-20.jpg": ("long-acre-17.jpg", _cast(0.84, 1.16), "12:35:00"),
    "long-acre-25.jpg": ("long-acre-22.jpg", _crooked(3.4), "15:50:00"),
    "long-acre-26.jpg": ("long-acre-27.jpg", _crooked(-2.6), "17:32:00"),
    "long-acre-29.jpg": ("long-acre-28.jpg", _small, "18:03:40"),
}


def _save(image: Image.Image, name: str, time: str, caption: str, by: str) -> None:
    exif = Image.Exif()
    exif[0x010E], exif[0x013B] = caption, by  # what it shows, and who took it
    when = f"{DAYS[name >= SECOND_DAY]} {time}"
    exif[0x0132] = when
    exif.get_ifd(0x8769)[0x9003] = when
    OUT.joinpath("pictures").mkdir(parents=True, exist_ok=True)
    image.convert("RGB").save(OUT / "pictures" / name, quality=82, exif=exif, dpi=(300, 300))


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("--scale", type=float, default=1.0)
    parser.add_argument("--book", action="store_true", help="only the book, of the pictures there are")
    asked_for = parser.parse_args()
    if asked_for.book:
        build()
        return
    scale = asked_for.scale
    long, short = round(LONG * scale), round(SHORT * scale)
    asked = {
        name: (kind, seed, *((short, long) if upright else (long, short)))
        for name, (kind, seed, upright, _, _) in TAKEN.items()
    }
    with ProcessPoolExecutor(2) as pool:
        made = dict(zip(asked, pool.map(_render, asked.values()), strict=True))
    for at, (name, image) in enumerate(made.items()):
        _save(image, name, TAKEN[name][3], TAKEN[name][4], CREDITS[at % 2])
    for name, (source, change, time) in MADE.items():
        _save(change(made[source]), name, time, TAKEN[source][4], CREDITS[list(made).index(source) % 2])
    build()


WORTH = {
    "long-acre-07.jpg": "opens",
    "long-acre-23.jpg": "opens",
    "long-acre-21.jpg": "fills",
    "long-acre-16.jpg": "fills",
}
TITLE = "Harvest at Long Acre"


def build() -> None:
    """The photo book: brought in, drafted by the program, two spreads of it tuned by hand, and its cover."""
    publication = set_values(start("photo-book", TITLE), ["season=Autumn", "binding=boards"])
    for path in sorted((OUT / "pictures").glob("*.jpg")):
        publication, picture = with_picture(publication, record_of(path))
        publication = value_pictures(publication, picture.id, WORTH.get(path.name, ""))
    told = told_of_all(OUT / "pictures", publication.pictures)
    wishes = Wishes(pages=26, pace=35, match=50)
    plan = planned(publication, told, wishes)
    print(plan.words)
    publication = match_draft(draft_book(publication, told, plan, wishes), plan, OUT / "pictures", wishes.match)
    publication = with_cover(by_hand(publication))
    (OUT / "harvest-at-long-acre.halffold").write_bytes(encode(publication))
    print(len(publication.pictures), "pictures", sum(p.stat().st_size for p in OUT.rglob("*.*")) / 1e6, "MB")


def by_hand(publication: Publication) -> Publication:
    """What a designer does to a draft: the pictures that open its two days go out to the bleed."""
    for number, page in enumerate(publication.pages, 1):
        beside = publication.pages[number - 2].blocks if number > 1 else ()
        opens = any(
            isinstance(each.holds, HoldsDisplay) and "October" in each.holds.paragraphs[0].text for each in beside
        )
        if opens and len(page.blocks) == 1:
            bleed = Stop(kind="bleed")
            place = Held(left=Stop(kind="fold"), top=bleed, right=bleed, bottom=bleed)
            publication = with_page(
                publication, replace(page, things=(replace(page.blocks[0], place=place),), furniture="off")
            )
    return publication


def with_cover(publication: Publication) -> Publication:
    """The last evening on the front under the title, and on the back where it was."""
    evening = next(picture for picture in publication.pictures if picture.file == "long-acre-28.jpg")
    bleed = Stop(kind="bleed")
    over = Block(
        id="cover1",
        place=Held(left=Stop(kind="fold"), top=field(4, 12), right=bleed, bottom=bleed),
        holds=HoldsPicture(picture=evening.id, focus_y=0.6),
        name="Evening",
    )
    title = Block(
        id="cover2",
        place=Held(left=field(0, 6), top=field(1, 12), right=field(5, 6), bottom=field(3, 12)),
        holds=words(("masthead", "Harvest"), ("masthead", "at Long Acre"), even=True, ink="paper"),
        name="Title",
    )
    cover = replace(
        publication.cover,
        ink="loden",
        back=_back(publication),
        front=(over, title),
        spine=TITLE,
        spine_ink="paper",
    )
    return replace(publication, cover=cover)


def _back(publication: Publication) -> tuple[Block, ...]:
    """Two of its pictures, and what the two days were."""
    names = {picture.file: picture.id for picture in publication.pictures}
    two_days = words(
        ("subhead", "Two days in October,"), ("subhead", "forty rows, one kettle."), ink="paper", size="24pt"
    )
    about = "Everyone who had eaten an apple from Long Acre came and picked one. Thirty photographs, in the order in "
    about += "which it happened."
    return (
        on_cover("c20", 0, 3, 2, 8, HoldsPicture(picture=names["long-acre-09.jpg"], focus_y=0.6)),
        on_cover("c21", 3, 3, 5, 8, HoldsPicture(picture=names["long-acre-06.jpg"])),
        on_cover("c22", 0, 0, 5, 2, two_days),
        on_cover("c23", 0, 9, 5, 10, words(("standfirst", about), ink="paper")),
        on_cover(
            "c24", 0, 11, 5, 11, words(("cover note", "The Ellerby Press, at the bridge"), ink="paper", stands="foot")
        ),
    )


if __name__ == "__main__":
    main()
