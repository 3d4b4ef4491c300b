"""Makes the demo's pictures: ``python tools/make_pictures.py [OUT] [--scale 0.2] [NAME ...]``.

All of them are made up: still lifes by ray marching, landscapes painted back to front.
"""

import argparse
from concurrent.futures import ProcessPoolExecutor
from functools import partial
from pathlib import Path

import numpy as np
from PIL import Image, ImageFilter

from picture_landscape import Canvas, develop, orchard, ridge
from picture_still_life import (
    Scene,
    Thing,
    apple,
    bowl,
    green_pear,
    leaf,
    pear,
    plain,
    red_apple,
    render_rows,
)
from picture_things import bark, basket, jar, knife, knife_skin, preserve, twig, willow

OUT = Path(__file__).parents[1] / "src/half_fold/data/demo/pictures"
GREEN_LEAF = plain((0.11, 0.19, 0.045), 0.5)


def pears_on_the_sill() -> Scene:
    pears = [
        Thing(pear, green_pear(2), 0.42, (-2.15, 1.02, 0.1), (0.06, 0)),
        Thing(pear, green_pear(5), 0.42, (-0.25, 1.0, -0.25), (-0.1, 0.05), 0.98),
        Thing(pear, green_pear(9), 0.42, (1.6, 1.04, 0.15), (0.12, -0.04), 1.02),
    ]
    apples = [Thing(apple, red_apple(4, 0.2), 0.6, (3.25, 0.84, -0.5), (0.2, 0.1), 0.86)]
    fallen = [Thing(leaf, GREEN_LEAF, 0.25, (0.75, 0.1, 1.1), (0.08, 0.1), 0.5)]
    return Scene(pears + apples + fallen, (0.5, 2.0, 8.6), (0.5, 1.12, 0), 1.62, wall=(0.085, 0.088, 0.082))


def bowl_of_apples() -> Scene:
    spots = [(-0.82, 1.0, 0.3), (0.66, 0.98, 0.42), (-0.05, 0.95, -0.75), (-0.06, 1.62, 0.05)]
    apples = [
        Thing(apple, red_apple(i * 3 + 1, 0.35 + 0.12 * i), 0.6, (x, y + 0.42, z), (0.25 - 0.2 * i, 0.12 * i), 0.72)
        for i, (x, y, z) in enumerate(spots)
    ]
    side = [Thing(apple, red_apple(17, 0.1), 0.6, (2.3, 0.66, 1.3), (-0.35, 0.3), 0.72)]
    dish = Thing(bowl, plain((0.19, 0.215, 0.235), 0.35), 0.55, (0, 1.4, 0), size=1.4)
    return Scene([dish, *apples, *side], (0.35, 3.9, 8.4), (0.22, 1.3, 0.1), 1.22, wall=(0.05, 0.056, 0.06))


def one_apple() -> Scene:
    fruit = Thing(apple, red_apple(21, 0.42), 0.65, (0, 0, 0), (0.1, 0.16))
    blade = Thing(leaf, GREEN_LEAF, 0.3, (0.62, 1.0, 0.12), (0.25, -0.3), 0.5)
    return Scene([fruit, blade], (0.2, 1.05, 5.4), (0.12, 0.14, 0), 1.95, cut_out=True)


def jars_on_the_shelf() -> Scene:
    kinds = [
        preserve((0.62, 0.3, 0.03), (0.5, 0.17, 0.015), (0.2, 0.05, 0.04), 3),
        preserve((0.3, 0.02, 0.03), (0.16, 0.008, 0.014), (0.1, 0.14, 0.12), 8),
        preserve((0.56, 0.45, 0.09), (0.42, 0.27, 0.03), (0.09, 0.12, 0.2), 13),
        preserve((0.42, 0.1, 0.02), (0.3, 0.05, 0.01), (0.2, 0.05, 0.04), 21),
    ]
    spots = [(-2.45, 0.1), (-0.7, -0.35), (1.0, 0.15), (2.65, -0.25)]
    jars = [Thing(jar, skin, 0.95, (x, 1.0, z), (0, 0)) for skin, (x, z) in zip(kinds, spots, strict=True)]
    fruit = Thing(pear, green_pear(7), 0.42, (4.1, 0.62, 0.9), (1.35, 0.2), 0.72)
    return Scene([*jars, fruit], (0.6, 1.75, 9.6), (0.62, 1.05, 0), 1.62, wall=(0.075, 0.07, 0.062))


def basket_of_windfalls() -> Scene:
    hold = Thing(basket, willow, 0.12, (0, 1.24, 0), size=1.5)
    spots = [
        (-0.95, 1.5, 0.5),
        (0.2, 1.55, 0.95),
        (1.0, 1.5, 0.25),
        (-0.25, 1.6, -0.45),
        (0.35, 2.15, 0.25),
        (-0.75, 2.05, -0.1),
    ]
    heap = [
        Thing(apple, red_apple(5 * i + 2, 0.15 + 0.14 * i), 0.55, spot, (0.5 - 0.31 * i, 0.2 * i - 0.3), 0.68)
        for i, spot in enumerate(spots)
    ]
    loose = [
        Thing(apple, red_apple(31, 0.5), 0.6, (-2.35, 0.62, 1.6), (0.5, 0.4), 0.66),
        Thing(leaf, GREEN_LEAF, 0.25, (1.5, 0.1, 2.2), (0.08, 0.1), 0.5),
    ]
    return Scene([hold, *heap, *loose], (0.6, 4.3, 9.6), (0.0, 1.85, 0.2), 1.32, wall=(0.06, 0.064, 0.058))


def knife_and_scions() -> Scene:
    tool = Thing(knife, knife_skin, 0.9, (0.1, 0.19, 0.75), (0.0, 0.0), 1.15)
    cuts = [
        Thing(twig, bark, 0.2, (x, 0.1 + 0.1 * (i % 2), z), (0.02 * i, 0), 1.2)
        for i, (x, z) in enumerate([(-0.5, -0.55), (0.3, -0.2), (-0.1, -0.95)])
    ]
    fruit = Thing(apple, red_apple(12, 0.3), 0.6, (2.7, 0.62, -1.2), (0.25, 0.1), 0.66)
    return Scene([tool, *cuts, fruit], (0.5, 3.6, 4.8), (0.45, 0.18, -0.05), 1.35, wall=(0.06, 0.06, 0.055))


def nine_kinds() -> Scene:
    """Nine fruits on a board seen from above, as they are laid out to be named."""
    fruit = []
    for index in range(9):
        x, z = 2.05 * (index % 3 - 1), 2.05 * (index // 3 - 1)
        lean = (0.5 - 0.27 * (index % 4), 0.3 * (index % 3) - 0.35)
        if index in (2, 3, 7):
            fruit.append(
                Thing(pear, green_pear(index + 2), 0.42, (x, 0.66, z + 0.1), (1.1 - 0.5 * (index % 2), 0.9), 0.8)
            )
        else:
            skin = red_apple(6 * index + 5, -0.25 + 0.19 * index)
            fruit.append(Thing(apple, skin, 0.6, (x, 0.7, z), lean, 0.72 + 0.02 * (index % 3)))
    return Scene(fruit, (0.0, 12.0, 1.2), (0.0, 0.3, 0.05), 1.85, wall=(0.06, 0.06, 0.055))


def the_pear(cut_out: bool) -> Scene:
    """The cover's pear; cut out it is the same pear seen by the same eye, to stand before the masthead."""
    fruit = Thing(pear, green_pear(3), 0.5, (0, 1.02, 0), (-0.05, 0.03))
    blade = Thing(leaf, GREEN_LEAF, 0.35, (0.45, 2.27, 0.08), (0.5, 0.35), 0.46)
    return Scene([fruit, blade], (0.1, 1.95, 8.0), (0.06, 1.2, 0), 2.44, wall=(0.03, 0.062, 0.048), cut_out=cut_out)


def hills_at_first_light(width: int, height: int) -> Image.Image:
    c = Canvas(
        width,
        height,
        [(0, (0.42, 0.52, 0.66)), (0.3, (0.78, 0.74, 0.74)), (0.46, (0.98, 0.82, 0.66)), (1, (0.7, 0.62, 0.55))],
        6,
    )
    c.glow(0.28, 0.42, 0.22, (1.0, 0.72, 0.44), 0.36)
    c.cloud(0.02, 0.34, (0.92, 0.8, 0.74), 0.55, 12)
    tones = [
        (0.62, 0.6, 0.68),
        (0.5, 0.52, 0.6),
        (0.39, 0.44, 0.5),
        (0.28, 0.35, 0.37),
        (0.18, 0.25, 0.24),
        (0.1, 0.15, 0.13),
    ]
    for index, tone in enumerate(tones):
        base = 0.4 + 0.1 * index + 0.008 * index**2
        c.hill(
            ridge(width, base, 0.055 + 0.006 * index, 40 + 7 * index),
            tone,
            (0.93, 0.78, 0.66) if index < 4 else (0.3, 0.33, 0.28),
            50 + index,
            0.2,
        )
        if index < 5:
            c.mist(base + 0.09, 0.035, (0.96, 0.83, 0.72), 0.55 - 0.07 * index, 70 + index)
    return c.picture(0.01)


def rows_in_mist(width: int, height: int) -> Image.Image:
    c = Canvas(
        width,
        height,
        [(0, (0.60, 0.67, 0.70)), (0.3, (0.83, 0.81, 0.74)), (0.5, (0.96, 0.88, 0.74)), (1, (0.80, 0.77, 0.66))],
        4,
    )
    c.glow(0.63, 0.36, 0.2, (1.0, 0.82, 0.52), 0.34)
    c.cloud(0.02, 0.3, (0.95, 0.91, 0.84), 0.5, 31)
    c.hill(ridge(width, 0.37, 0.06, 12), (0.60, 0.65, 0.63), (0.86, 0.82, 0.73), 3)
    c.hill(ridge(width, 0.43, 0.05, 20), (0.47, 0.54, 0.48), (0.86, 0.81, 0.70), 5)
    c.mist(0.5, 0.06, (0.93, 0.87, 0.75), 0.8, 8)
    c.hill(np.full(width, 0.5), (0.66, 0.67, 0.52), (0.33, 0.36, 0.19), 9, 0.42)
    orchard(
        c,
        0.5,
        0.6,
        (0.11, 0.14, 0.075),
        (0.84, 0.80, 0.69),
        rows=6,
        leaves=1.0,
        clear=3.6,
        apples=(0.62, 0.13, 0.06),
        shadow=(0.20, 0.22, 0.11),
    )
    c.mist(0.6, 0.1, (0.93, 0.86, 0.72), 0.42, 15)
    return c.picture(0.011)


def lane_at_dusk(width: int, height: int) -> Image.Image:
    c = Canvas(
        width,
        height,
        [
            (0, (0.15, 0.21, 0.33)),
            (0.26, (0.37, 0.39, 0.47)),
            (0.42, (0.80, 0.55, 0.42)),
            (0.55, (0.97, 0.72, 0.43)),
            (1, (0.3, 0.22, 0.18)),
        ],
        9,
    )
    c.glow(0.4, 0.53, 0.24, (1.0, 0.6, 0.28), 0.42)
    c.cloud(0.05, 0.47, (0.62, 0.40, 0.38), 0.62, 41)
    c.hill(ridge(width, 0.51, 0.05, 7), (0.40, 0.33, 0.36), (0.72, 0.50, 0.38), 3)
    c.hill(ridge(width, 0.56, 0.04, 31), (0.23, 0.21, 0.23), (0.5, 0.35, 0.28), 5)
    c.hill(np.full(width, 0.62), (0.18, 0.16, 0.13), (0.075, 0.075, 0.06), 9, 0.5)
    _lane(c, 0.62, 0.46)
    orchard(c, 0.62, 0.46, (0.035, 0.032, 0.035), (0.46, 0.33, 0.28), rows=3, leaves=0.0, clear=6.5)
    return c.picture(0.016, 0.22)


def _lane(c: Canvas, horizon: float, vanish: float) -> None:
    v, u = np.mgrid[0 : c.height, 0 : c.width].astype(np.float32)
    v, u = v / c.height, u / c.width
    near = np.clip((v - horizon) / (1 - horizon), 0, 1)
    off = np.abs(u - vanish - 0.06 * np.sin(near * 2.4) * near)
    rut = np.exp(-(((off - 0.115 * near) / (0.028 * near + 0.001)) ** 2)) * (near > 0.004)
    c.lay(rut * 0.75, np.array((0.62, 0.46, 0.36), np.float32))
    c.lay(
        np.clip(1 - off / (0.19 * near + 1e-4), 0, 1) * 0.4 * (near > 0.004), np.array((0.34, 0.27, 0.22), np.float32)
    )


def snow_on_the_wall(width: int, height: int) -> Image.Image:
    c = Canvas(
        width,
        height,
        [(0, (0.63, 0.70, 0.78)), (0.4, (0.84, 0.87, 0.90)), (0.55, (0.93, 0.92, 0.90)), (1, (0.86, 0.89, 0.94))],
        5,
    )
    c.hill(ridge(width, 0.44, 0.05, 3), (0.66, 0.71, 0.77), (0.88, 0.90, 0.92), 3)
    c.hill(ridge(width, 0.5, 0.045, 17), (0.54, 0.59, 0.64), (0.90, 0.91, 0.93), 5)
    c.mist(0.55, 0.06, (0.93, 0.93, 0.94), 0.7, 5)
    c.hill(np.full(width, 0.555), (0.92, 0.93, 0.95), (0.78, 0.82, 0.89), 9, 0.1)
    orchard(
        c, 0.555, 0.5, (0.13, 0.12, 0.13), (0.86, 0.88, 0.91), rows=4, leaves=0.0, clear=4.2, shadow=(0.55, 0.62, 0.75)
    )
    for _ in range(1400):
        x, y = c.rng.random(2)
        r = max(1, int(c.height * c.rng.uniform(0.0006, 0.0022)))
        c.stamp(
            Image.new("L", (r, r), 255),
            int(x * width),
            int(y * height),
            (0.98, 0.98, 1),
            float(c.rng.uniform(0.3, 0.9)),
        )
    return c.picture(0.01, 0.12)


STILL_LIFES = {
    "pears-on-the-sill.jpg": (pears_on_the_sill, 4500, 3000),
    "bowl-of-apples.jpg": (bowl_of_apples, 2400, 2900),
    "one-apple.png": (one_apple, 1300, 1470),
    "jars-on-the-shelf.jpg": (jars_on_the_shelf, 3300, 2200),
    "basket-of-windfalls.jpg": (basket_of_windfalls, 2400, 3000),
    "knife-and-scions.jpg": (knife_and_scions, 3000, 2000),
    "nine-kinds.jpg": (nine_kinds, 2500, 2500),
    "the-pear.jpg": (partial(the_pear, False), 2740, 3440),
    "the-pear-cut-out.png": (partial(the_pear, True), 2740, 3440),
}
LANDSCAPES = {
    "rows-in-mist.jpg": (rows_in_mist, 4200, 2800),
    "lane-at-dusk.jpg": (lane_at_dusk, 2600, 3400),
    "snow-on-the-wall.jpg": (snow_on_the_wall, 1100, 1100),
    "hills-at-first-light.jpg": (hills_at_first_light, 4200, 2200),
}


def _photograph(linear: np.ndarray, seed: int) -> Image.Image:
    """Linear light to a picture: a gentle shoulder, display gamma, grain, alpha kept."""
    rgb, alpha = linear[..., :3], linear[..., 3]
    toned = np.clip(rgb * (1 + rgb / 4) / (1 + rgb), 0, 1) ** (1 / 2.2)
    picture = develop(toned, np.random.default_rng(seed), 0.009)
    if alpha.min() < 1:
        picture.putalpha(Image.fromarray((alpha * 255).astype(np.uint8)))
    return picture


def _band(name: str, width: int, height: int, first: int, last: int) -> np.ndarray:
    return render_rows(STILL_LIFES[name][0](), width, height, range(first, last))


def still_life(name: str, scale: float, pool: ProcessPoolExecutor) -> Image.Image:
    """Rendered a third larger than wanted and reduced, so that edges are smooth."""
    width, height = (int(n * scale) for n in STILL_LIFES[name][1:])
    wide, high = width * 4 // 3, height * 4 // 3
    tall = max(8, 160_000 // wide)
    starts = range(0, high, tall)
    bands = pool.map(_band, *zip(*((name, wide, high, y, min(y + tall, high)) for y in starts), strict=True))
    linear = np.concatenate(list(bands))
    picture = _photograph(linear, len(name))
    return picture.resize((width, height), Image.LANCZOS)


def save(picture: Image.Image, path: Path) -> None:
    path.parent.mkdir(parents=True, exist_ok=True)
    if path.suffix == ".png":
        picture.save(path, optimize=True)
    else:
        picture.filter(ImageFilter.UnsharpMask(1.2, 40, 2)).save(path, quality=88, dpi=(300, 300), subsampling=0)
    print(path.name, picture.size, f"{path.stat().st_size / 1e6:.2f} MB")


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("--out", type=Path, default=OUT)
    parser.add_argument("--scale", type=float, default=1.0)
    parser.add_argument("names", nargs="*")
    asked = parser.parse_args()
    with ProcessPoolExecutor(2) as pool:
        for name in STILL_LIFES:
            if not asked.names or name in asked.names:
                save(still_life(name, asked.scale, pool), asked.out / name)
    for name, (paint, width, height) in LANDSCAPES.items():
        if not asked.names or name in asked.names:
            save(paint(int(width * asked.scale), int(height * asked.scale)), asked.out / name)


if __name__ == "__main__":
    main()
